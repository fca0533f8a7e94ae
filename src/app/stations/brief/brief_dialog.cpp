// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/brief/brief_dialog.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QPushButton>
#include <QTableWidget>

namespace app {
using core::Quantity;
using core::TargetKind;

BriefDialog::BriefDialog(Context& context, QWidget* parent)
    : FormDialog(context, tr("Brief"), parent), m_rows(*this, [this](core::Names) { return loads(); }) {
    const core::Brief& brief = context.document.project().brief;
    m_rows.add(brief);
    m_table = new QTableWidget(0, 4, this);
    m_table->setObjectName(QStringLiteral("targets"));
    m_table->setHorizontalHeaderLabels({tr("Target"), tr("Kind"), tr("Of"), tr("Limit")});
    m_table->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    m_table->verticalHeader()->hide();
    m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
    for (const core::Target& t : brief.targets)
        addRow(t);
    m_layout->insertWidget(1, m_table, 1);
    auto* row = new QHBoxLayout;
    auto* more = new QPushButton(tr("Add a target"), this);
    auto* less = new QPushButton(tr("Remove the selected"), this);
    more->setObjectName(QStringLiteral("addTarget"));
    row->addWidget(more);
    row->addWidget(less);
    row->addStretch();
    m_layout->insertLayout(2, row);
    connect(more, &QPushButton::clicked, this,
            [this] { addRow({.name = tr("New target").toStdString(), .kind = TargetKind::Noise, .limit = 35}); });
    connect(less, &QPushButton::clicked, this, [this] { m_table->removeRow(m_table->currentRow()); });
    resize(640, 520);
}

std::vector<FieldRows::Offer> BriefDialog::loads() const {
    std::vector<FieldRows::Offer> all;
    for (const core::Load& load : m_context.document.project().loads)
        all.push_back({qs(load.id), qs(load.name)});
    return all;
}

void BriefDialog::addRow(const core::Target& target) {
    const int row = m_table->rowCount();
    m_table->insertRow(row);
    auto* name = new QTableWidgetItem(qs(target.name));
    name->setData(Qt::UserRole, qs(target.id));
    m_table->setItem(row, 0, name);
    auto* kind = new QComboBox(m_table);
    auto* subject = new QComboBox(m_table);
    auto* limit = new NumberBox(m_table);
    connect(limit, &NumberBox::refused, this, [this](const QString& why) { say(why); });
    for (const auto& choice : core::ChoicesOf<TargetKind>::all)
        kind->addItem(FieldRows::said(choice.text()), static_cast<int>(choice.value));
    subject->addItem(QStringLiteral("–"), QString());
    if (const auto* e = m_context.view().evaluation())
        for (const core::Placed& p : e->build.placed)
            subject->addItem(qs(p.name), qs(p.mount));
    if (!target.subject.empty() && subject->findData(qs(target.subject)) < 0)
        subject->addItem(qs(target.subject), qs(target.subject)); // not in this revision, kept all the same
    subject->setCurrentIndex(std::max(0, subject->findData(qs(target.subject))));
    const auto suit = [this, kind, limit] {
        const auto k = static_cast<TargetKind>(kind->currentData().toInt());
        const Quantity q = core::quantityOf(k);
        limit->setDecimals(std::max(1, m_context.show().decimals(q)));
        limit->setRange(-1000, 1e6);
        limit->setPrefix(core::isFloor(k) ? tr("at least ") : tr("at most "));
        limit->setSuffix(QStringLiteral("\u00a0") + qs(m_context.show().unit(q)));
    };
    kind->setCurrentIndex(kind->findData(static_cast<int>(target.kind)));
    suit();
    limit->setValue(m_context.show().value(core::quantityOf(target.kind), target.limit));
    connect(kind, &QComboBox::currentIndexChanged, this, suit);
    m_table->setCellWidget(row, 1, kind);
    m_table->setCellWidget(row, 2, subject);
    m_table->setCellWidget(row, 3, limit);
}

core::Result<std::vector<core::Target>> BriefDialog::targets() const {
    std::vector<core::Target> out;
    for (int row = 0; row < m_table->rowCount(); ++row) {
        const auto* kind = static_cast<QComboBox*>(m_table->cellWidget(row, 1));
        const auto* subject = static_cast<QComboBox*>(m_table->cellWidget(row, 2));
        const auto* limit = static_cast<QDoubleSpinBox*>(m_table->cellWidget(row, 3));
        core::Target t{.id = m_table->item(row, 0)->data(Qt::UserRole).toString().toStdString(),
                       .name = m_table->item(row, 0)->text().trimmed().toStdString(),
                       .kind = static_cast<TargetKind>(kind->currentData().toInt()),
                       .subject = subject->currentData().toString().toStdString()};
        t.limit = m_context.show().stored(core::quantityOf(t.kind), limit->value());
        const bool needsPart = t.kind == TargetKind::Temperature || t.kind == TargetKind::Clock;
        if (t.name.empty())
            return core::problem("Target " + std::to_string(row + 1), "has no name", "a name");
        if (needsPart && t.subject.empty())
            return core::problem(t.name, "says no part",
                                 "choose the part whose " + std::string(core::targetWord(t.kind)) + " is meant");
        for (int n = 1;
             t.id.empty() || std::any_of(out.begin(), out.end(), [&](const core::Target& o) { return o.id == t.id; });
             ++n)
            t.id = std::string(core::targetWord(t.kind)) + "-" + std::to_string(n);
        out.push_back(std::move(t));
    }
    return out;
}

core::Result<void> BriefDialog::apply() {
    auto wanted = targets();
    if (!wanted)
        return tl::make_unexpected(wanted.error());
    return m_context.document.edit(tr("Brief"), [&](core::Project& p) {
        m_rows.take(p.brief);
        p.brief.targets = *wanted;
    });
}

} // namespace app

#include "moc_brief_dialog.cpp"
