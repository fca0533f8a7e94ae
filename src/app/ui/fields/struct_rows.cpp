// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/fields/struct_rows.h"

#include "app/ui/fields/number_box.h"
#include "app/ui/fields/sources.h"
#include "app/ui/fields/struct_form.h"
#include "core/explain/fit_words.h"

#include <QComboBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QPushButton>

#include <cmath>

// Rows of more than one widget: sizes with their source, offsets, structs.
namespace app {
using core::Holds;
using store::Json;

namespace rows {
QString said(const char* words) { return *words ? QCoreApplication::translate("fields", words) : QString(); }

QString helpOf(const core::FieldOutline& f) {
    QStringList lines;
    if (f.holds == Holds::Number || f.holds == Holds::Whole || f.holds == Holds::Size)
        lines << QObject::tr("%1 to %2 %3")
                     .arg(digits(f.about.low, f.about.low == std::floor(f.about.low) ? 0 : 2), digits(f.about.high, 0),
                          qs(f.about.unit.text))
                     .trimmed();
    if (*f.about.help)
        lines << said(f.about.help);
    if (f.about.zeroIsUnstated)
        lines << QObject::tr("0: not stated");
    if (*f.about.standard)
        lines << QObject::tr("Standard: %1").arg(QString::fromUtf8(f.about.standard));
    lines << QObject::tr("In files: %1").arg(QString::fromUtf8(f.about.key));
    return lines.join(QLatin1Char('\n'));
}

double numberOf(const Json& j) {
    return j.is_number() ? j.get<double>() : j.is_object() && j.contains("mm") ? j["mm"].get<double>() : 0;
}
} // namespace rows

using rows::helpOf;
using rows::numberOf;
using rows::said;

QWidget* StructForm::size(const core::FieldOutline& field, const QString& name, const Get& get, const Put& put,
                          QWidget* before) {
    auto* row = new QWidget(this);
    auto* lines = new QGridLayout(row);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(4);
    const Json now = get();
    const std::string source =
        now.is_object() && now.contains("source") ? now["source"].get<std::string>() : field.source;
    auto* box = number(field, name, false, numberOf(now), [get, put](double v) {
        Json j = get();
        if (j.is_object())
            j["mm"] = v;
        else
            j = v;
        put(j);
    });
    auto* from = new QComboBox(row);
    from->setObjectName(name + QStringLiteral("-source"));
    from->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    from->setMinimumContentsLength(4);
    from->setMinimumWidth(64);
    from->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    for (const core::Source s : sizeSources) {
        const QString words = m_context.view().words(core::explain::textOf(s)); // "caliper, ±0.1 mm"
        from->addItem(words.section(QLatin1Char(','), 0, 0), qs(core::sourceWord(s)));
        from->setItemData(from->count() - 1, words, Qt::ToolTipRole);
        if (core::sourceWord(s) == source)
            from->setCurrentIndex(from->count() - 1);
    }
    from->setToolTip(tr("What it was measured with, or from"));
    core::FieldOutline tolerance = field;
    tolerance.about.low = 0;
    tolerance.about.high = 100;
    auto* band = number(tolerance, name + QStringLiteral("-tol"), false, -1, {});
    band->disconnect(this);
    band->setRange(-0.01, m_context.show().value(core::Quantity::Length, 100));
    band->setSpecialValueText(tr("± usual"));
    band->setPrefix(QStringLiteral("\u00b1"));
    band->setValue(now.is_object() && now.contains("tol_mm")
                       ? m_context.show().value(core::Quantity::Length, now["tol_mm"].get<double>())
                       : band->minimum());
    band->setToolTip(tr("Own tolerance; at the lower end that of its source holds"));
    const auto state = [this, get, put, from, band] {
        const Json j = get();
        Json said{{"mm", numberOf(j)}, {"source", from->currentData().toString().toStdString()}};
        if (band->value() > band->minimum())
            said["tol_mm"] = m_context.show().stored(core::Quantity::Length, band->value());
        put(said);
    };
    connect(from, &QComboBox::activated, this, state);
    connect(band, &QDoubleSpinBox::valueChanged, this, state);
    using Line = std::vector<QWidget*>;
    const std::vector<Line> all = !before    ? std::vector<Line>{{box, from, band}}
                                  : m_narrow ? std::vector<Line>{{before, box}, {from, band}}
                                             : std::vector<Line>{{before, box, from, band}};
    for (int y = 0; const Line& line : all) {
        for (int x = 0; QWidget * widget : line)
            lines->addWidget(widget, y, x++);
        ++y;
    }
    for (int x = before && !m_narrow ? 1 : 0; x < lines->columnCount(); ++x)
        lines->setColumnStretch(x, 1);
    if (m_narrow)
        for (const Line& line : all)
            for (QWidget* widget : line) { // as wide as the column leaves
                widget->setMinimumWidth(line.size() == 2 ? 76 : 50);
                widget->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
            }
    return row;
}

void StructForm::addSizes(const core::FieldOutline& field) {
    const std::string key = field.about.key;
    const QString name = QString::fromUtf8(field.about.key);
    if (field.items.empty())
        return put(field, size(
                              field, name, [this, field] { return held(field); },
                              [this, key](Json j) { set(key, std::move(j)); }));
    const std::array<QString, 3> axes{tr("x"), tr("y"), tr("z")};
    for (int i = 0; i < field.items.front(); ++i) {
        const auto at = static_cast<std::size_t>(i);
        const auto get = [this, key, at] {
            return m_value.contains(key) && m_value[key].is_array() && m_value[key].size() > at ? m_value[key][at]
                                                                                                : Json(0.0);
        };
        const int count = field.items.front();
        QWidget* row = size(field, name + QString::number(i), get, [this, key, at, count](Json j) {
            Json all = m_value.contains(key) && m_value[key].is_array() ? m_value[key] : Json::array();
            while (static_cast<int>(all.size()) < count)
                all.push_back(0.0);
            all[at] = std::move(j);
            set(key, all);
        });
        row->setToolTip(helpOf(field));
        m_form->addRow(QStringLiteral("%1, %2").arg(said(field.about.label), axes.at(at)), row);
    }
}

/// From which side of the owner, and how far.
void StructForm::addOffset(const core::FieldOutline& field) {
    const std::string key = field.about.key;
    const Json now = m_value.contains(key) ? m_value[key] : Json{{"low", 0.0}};
    auto* ref = new QComboBox(this);
    ref->setObjectName(QString::fromUtf8(field.about.key) + QStringLiteral("-ref"));
    for (const char* word : {"low", "high", "centre", "above", "below"})
        ref->addItem(QString::fromLatin1(word));
    ref->setCurrentText(now.is_object() && !now.empty() ? qs(now.begin().key()) : QStringLiteral("low"));
    ref->setToolTip(tr("low, high: its low or high face from that face of the owner; centre: its middle from the low "
                       "face; above, below: outwards"));
    const auto get = [this, key] {
        const Json j = m_value.contains(key) ? m_value[key] : Json{{"low", 0.0}};
        return j.is_object() && !j.empty() ? Json(j.begin().value()) : Json(0.0);
    };
    const auto set = [this, key, ref](Json j) {
        Json said = Json::object();
        said[ref->currentText().toStdString()] = std::move(j);
        this->set(key, said);
    };
    connect(ref, &QComboBox::activated, this, [get, set] { set(get()); });
    QWidget* row = size(field, QString::fromUtf8(field.about.key), get, set, ref);
    row->setToolTip(helpOf(field));
    m_form->addRow(QStringLiteral("%1, %2").arg(said(field.about.label), QString::fromUtf8(field.about.key)), row);
}

/// A list with what can be done to its items; Enter or a double click opens one.
void StructForm::addStructs(const core::FieldOutline& field) {
    const std::string key = field.about.key;
    auto* box = new QWidget(this);
    auto* column = new QVBoxLayout(box);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(2);
    auto* list = new QListWidget(box);
    list->setObjectName(QString::fromUtf8(field.about.key));
    list->setAccessibleName(said(field.about.label));
    const Json items = m_value.contains(key) ? m_value[key] : Json::array();
    for (std::size_t i = 0; i < items.size(); ++i)
        list->addItem(titleOf(items[i], i));
    list->setFixedHeight(std::clamp(static_cast<int>(items.size()) * 24 + 6, 30, 126));
    column->addWidget(list);
    auto* buttons = new QGridLayout;
    buttons->setSpacing(4);
    const int inRow = m_narrow ? 2 : 4;
    const auto button = [&](const QString& text, const char* name, const std::function<void(int)>& act) {
        auto* b = new QPushButton(text, box);
        b->setObjectName(QString::fromUtf8(field.about.key) + QLatin1Char('-') + QString::fromLatin1(name));
        b->setAutoDefault(false);
        connect(b, &QPushButton::clicked, this, [list, act] { act(list->currentRow()); });
        buttons->addWidget(b, buttons->count() / inRow, buttons->count() % inRow);
    };
    const auto change = [this, key](const std::function<void(Json&)>& with) {
        Json all = m_value.contains(key) && m_value[key].is_array() ? m_value[key] : Json::array();
        with(all);
        set(key, all);
    };
    button(tr("Add"), "add", [this, key, structName = field.structName, change](int) {
        change([&](Json& all) { all.push_back(fresh(structName, all)); });
        Q_EMIT opened(key, static_cast<int>(m_value[key].size()) - 1);
    });
    button(tr("Open"), "open", [this, key](int row) {
        if (row >= 0)
            Q_EMIT opened(key, row);
    });
    button(tr("Copy"), "copy", [this, key, structName = field.structName, change](int row) {
        if (row < 0)
            return;
        change([&](Json& all) {
            Json copy = all[static_cast<std::size_t>(row)];
            if (copy.is_object() && copy.contains("id"))
                copy["id"] = fresh(structName, all)["id"];
            all.push_back(copy);
        });
        Q_EMIT opened(key, static_cast<int>(m_value[key].size()) - 1);
    });
    button(tr("Delete"), "delete", [change, list](int row) {
        if (row < 0)
            return;
        change([&](Json& all) { all.erase(all.begin() + row); });
        delete list->takeItem(row);
    });
    buttons->setColumnStretch(inRow, 1);
    column->addLayout(buttons);
    connect(list, &QListWidget::itemActivated, this, [this, key, list] { Q_EMIT opened(key, list->currentRow()); });
    box->setToolTip(helpOf(field));
    m_form->addRow(said(field.about.label), box);
}

/// One struct that may be there or not.
void StructForm::addStruct(const core::FieldOutline& field) {
    const std::string key = field.about.key;
    auto* row = new QWidget(this);
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 0, 0, 0);
    const bool there = m_value.contains(key) && m_value[key].is_object();
    auto* open = new QPushButton(there ? tr("Open") : tr("State it"), row);
    open->setObjectName(QString::fromUtf8(field.about.key) + QStringLiteral("-open"));
    open->setAutoDefault(false);
    connect(open, &QPushButton::clicked, this, [this, key, structName = field.structName] {
        if (!m_value.contains(key) || !m_value[key].is_object())
            set(key, fresh(structName, Json::array()));
        Q_EMIT opened(key, -1);
    });
    line->addWidget(open);
    line->addStretch(1);
    row->setToolTip(helpOf(field));
    const QString label =
        *field.about.label ? said(field.about.label) : tr("More of a %1").arg(QString::fromUtf8(field.about.key));
    open->setAccessibleName(label);
    m_form->addRow(label, row);
}

} // namespace app
