// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/fields/struct_editor.h"

#include <QScrollArea>

namespace app {
using store::Json;

StructEditor::StructEditor(Context& context, QWidget* parent) : QWidget(parent) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    m_way = new QLabel(this);
    m_way->setObjectName(QStringLiteral("way"));
    m_way->setTextFormat(Qt::RichText);
    m_way->setWordWrap(true);
    m_way->setTextInteractionFlags(Qt::LinksAccessibleByMouse | Qt::LinksAccessibleByKeyboard);
    connect(m_way, &QLabel::linkActivated, this, [this](const QString& depth) {
        go({m_path.begin(), m_path.begin() + depth.toInt()});
    });
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_form = new StructForm(context, scroll);
    scroll->setWidget(m_form);
    column->addWidget(m_way);
    column->addWidget(scroll, 1);
    connect(m_form, &StructForm::edited, this, [this] {
        if (Json* place = at(m_path.size()))
            *place = m_form->value();
        Q_EMIT edited();
    });
    connect(m_form, &StructForm::refused, this, &StructEditor::refused);
    // The page is made anew: not while one of its own buttons is still pressed.
    connect(m_form, &StructForm::opened, this, [this](const std::string& key, int index) {
        auto path = m_path;
        path.push_back({key, index});
        QMetaObject::invokeMethod(
            this, [this, path] { go(path); }, Qt::QueuedConnection);
    });
}

void StructEditor::start(const std::string& name, const QString& title, Json value, std::set<std::string> without) {
    m_name = name;
    m_title = title;
    m_root = std::move(value);
    m_without = std::move(without);
    go({});
}

void StructEditor::set(Json value) {
    m_root = std::move(value);
    go(m_path);
    Q_EMIT edited();
}

Json* StructEditor::at(std::size_t depth) {
    Json* place = &m_root;
    for (std::size_t i = 0; i < depth; ++i) {
        const Step& step = m_path[i];
        if (!place->is_object() || !place->contains(step.key))
            return nullptr;
        place = &(*place)[step.key];
        if (step.index < 0)
            continue;
        if (!place->is_array() || static_cast<int>(place->size()) <= step.index)
            return nullptr;
        place = &(*place)[static_cast<std::size_t>(step.index)];
    }
    return place;
}

std::string StructEditor::structAt(std::size_t depth) const {
    std::string name = m_name;
    for (std::size_t i = 0; i < depth; ++i) {
        const core::StructOutline* outline = StructForm::outlineOf(name);
        name.clear();
        for (const core::FieldOutline& f : outline ? outline->fields : std::vector<core::FieldOutline>{})
            if (m_path[i].key == f.about.key)
                name = f.structName;
    }
    return name;
}

void StructEditor::go(const std::vector<Step>& path) {
    m_path = path;
    while (!m_path.empty() && !at(m_path.size()))
        m_path.pop_back();
    showPage();
    Q_EMIT went();
}

void StructEditor::showPage() {
    QStringList way;
    for (std::size_t depth = 0; depth <= m_path.size(); ++depth) {
        const Step* step = depth ? &m_path[depth - 1] : nullptr;
        const QString title = !step ? m_title
                              : step->index < 0
                                  ? qs(step->key)
                                  : StructForm::titleOf(*at(depth), static_cast<std::size_t>(step->index));
        way << (depth == m_path.size() ? QStringLiteral("<b>%1</b>").arg(title.toHtmlEscaped())
                                       : QStringLiteral("<a href=\"%1\">%2</a>").arg(depth).arg(title.toHtmlEscaped()));
    }
    m_way->setText(way.join(QStringLiteral(" \u203a ")));
    m_form->show(structAt(m_path.size()), *at(m_path.size()), m_path.empty() ? m_without : std::set<std::string>{});
}

} // namespace app

#include "moc_struct_editor.cpp"
