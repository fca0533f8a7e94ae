// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/dialogs/brief_dialog.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QPushButton>
#include <QTableWidget>

namespace app {
using core::Quantity;
using core::TargetKind;

namespace {
constexpr std::array kinds{TargetKind::Temperature, TargetKind::Noise, TargetKind::Clock, TargetKind::Gap, TargetKind::Volume, TargetKind::Mass, TargetKind::Cost, TargetKind::Power};
}

BriefDialog::BriefDialog(Context& context, QWidget* parent) : FormDialog(context, tr("Brief"), parent) {
    const core::Brief& brief = context.document.project().brief;
    m_purpose = addText(tr("What is it for?"), QStringLiteral("purpose"), qs(brief.purpose));
    m_room = addNumber(tr("Room temperature all is judged at"), QStringLiteral("room"), Quantity::Temperature, brief.roomC, -20, 60);
    m_listener = addNumber(tr("Distance of the listener, m"), QStringLiteral("listener"), Quantity::None, brief.listenerM, 0.1, 10);
    m_altitude = addNumber(tr("Altitude, m"), QStringLiteral("altitude"), Quantity::None, brief.altitudeM, -400, 6000);
    m_load = addChoice(tr("Load all is judged at"), QStringLiteral("load"));
    for (const core::Load& load : context.document.project().loads)
        m_load->addItem(qs(load.name), qs(load.id));
    m_load->setCurrentIndex(m_load->findData(qs(brief.load)));
    auto* carry = new QHBoxLayout;
    for (std::size_t a = 0; a < 3; ++a) {
        m_carry[a] = addNumber({}, QStringLiteral("carry%1").arg(a), Quantity::Length, brief.carryBoxMm[a], 0, 3000);
        m_form->takeRow(m_carry[a]);
        m_carry[a]->setSpecialValueText(tr("none"));
        carry->addWidget(m_carry[a]);
    }
    m_form->addRow(tr("Carry box, inner sizes"), carry);
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
    connect(more, &QPushButton::clicked, this, [this] { addRow({.name = tr("New target").toStdString(), .kind = TargetKind::Noise, .limit = 35}); });
    connect(less, &QPushButton::clicked, this, [this] { m_table->removeRow(m_table->currentRow()); });
    resize(640, 520);
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
    for (const TargetKind k : kinds)
        kind->addItem(qs(core::targetWord(k)), static_cast<int>(k));
    subject->addItem(QStringLiteral("–"), QString());
    if (const auto* e = m_context.view().evaluation())
        for (const core::Placed& p : e->build.placed)
            subject->addItem(qs(p.name), qs(p.mount));
    if (!target.subject.empty() && subject->findData(qs(target.subject)) < 0)
        subject->addItem(qs(target.subject), qs(target.subject)); // not in this revision, kept all the same
    subject->setCurrentIndex(std::max(0, subject->findData(qs(target.subject))));
    const auto suit = [this, kind, limit] {
        const auto k = static_cast<TargetKind>(kind->currentData().toInt());
        const Quantity q = core::explain::quantityOf(k);
        limit->setDecimals(std::max(1, m_context.show().decimals(q)));
        limit->setRange(-1000, 1e6);
        limit->setPrefix(core::isFloor(k) ? tr("at least ") : tr("at most "));
        limit->setSuffix(QStringLiteral("\u00a0") + qs(m_context.show().unit(q)));
    };
    kind->setCurrentIndex(kind->findData(static_cast<int>(target.kind)));
    suit();
    limit->setValue(m_context.show().value(core::explain::quantityOf(target.kind), target.limit));
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
        core::Target t{.id = m_table->item(row, 0)->data(Qt::UserRole).toString().toStdString(), .name = m_table->item(row, 0)->text().trimmed().toStdString(), .kind = static_cast<TargetKind>(kind->currentData().toInt()),
                       .subject = subject->currentData().toString().toStdString()};
        t.limit = m_context.show().stored(core::explain::quantityOf(t.kind), limit->value());
        const bool needsPart = t.kind == TargetKind::Temperature || t.kind == TargetKind::Clock;
        if (t.name.empty())
            return core::problem("Target " + std::to_string(row + 1), "has no name", "a name");
        if (needsPart && t.subject.empty())
            return core::problem(t.name, "says no part", "choose the part whose " + std::string(core::targetWord(t.kind)) + " is meant");
        for (int n = 1; t.id.empty() || std::any_of(out.begin(), out.end(), [&](const core::Target& o) { return o.id == t.id; }); ++n)
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
        p.brief.purpose = m_purpose->text().toStdString();
        p.brief.roomC = stored(m_room);
        p.brief.listenerM = m_listener->value();
        p.brief.altitudeM = m_altitude->value();
        for (std::size_t a = 0; a < 3; ++a)
            p.brief.carryBoxMm[a] = stored(m_carry[a]);
        if (m_load->currentIndex() >= 0)
            p.brief.load = m_load->currentData().toString().toStdString();
        p.brief.targets = *wanted;
    });
}

} // namespace app
