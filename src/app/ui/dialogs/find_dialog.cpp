// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/dialogs/find_dialog.h"

#include <QHash>
#include <QLineEdit>
#include <QListWidget>
#include <QVBoxLayout>

namespace app {
using core::rules::Station;

FindDialog::FindDialog(Context& context, QWidget* parent)
    : QDialog(parent), m_text(new QLineEdit(this)), m_list(new QListWidget(this)) {
    setWindowTitle(tr("Find a part or number"));
    setAttribute(Qt::WA_DeleteOnClose);
    const View v = context.view();
    if (const auto* e = v.evaluation()) {
        for (const auto& p : e->build.placed)
            m_things.push_back({e->air.part(p.mount) ? Station::Air : Station::Fit, core::PartRef{p.mount},
                                tr("Part %1").arg(qs(p.name))});
        for (const auto& gap : e->fit.gaps)
            m_things.push_back(
                {Station::Fit, gap.ref, tr("Gap %1 to %2").arg(qs(gap.between[0].text), qs(gap.between[1].text))});
        for (const auto& fan : e->air.fans)
            m_things.push_back({Station::Air, core::FanRef{fan.id},
                                tr("Fan %1, %2").arg(qs(fan.name), v.text(core::Quantity::Flow, fan.flowM3h))});
        for (const auto& o : e->air.openings)
            m_things.push_back({Station::Air, core::OpeningRef{o.id},
                                tr("Opening %1, %2").arg(qs(o.name), v.text(core::Quantity::Flow, o.flowM3h))});
        for (const auto& socket : e->wiring.ports.sockets)
            if (const core::Thing thing = core::rules::thingOf(e->build, socket); !socket.giver.isLead)
                m_things.push_back(
                    {Station::Brief, thing,
                     tr("Socket %1").arg(v.words(core::explain::ofPort(*e, std::get<core::PortRef>(thing))->title))});
        for (std::size_t i = 0; i < e->build.joined.size(); ++i)
            m_things.push_back(
                {Station::Fit, core::leadRef(e->build, i), tr("Lead %1").arg(qs(e->build.joined[i].part->name))});
        for (const auto& t : v.result().verdict.targets)
            m_things.push_back({Station::Verdict, core::TargetRef{t.id, {}}, tr("Target %1").arg(qs(t.name))});
        for (const auto& part : e->make.parts)
            m_things.push_back({Station::Make, core::MadeRef{part.id}, tr("Made part %1").arg(qs(part.name))});
        using core::Total;
        for (const auto& [total, station, name] : {std::tuple{Total::Noise, Station::Air, tr("Noise")},
                                                   std::tuple{Total::Balance, Station::Air, tr("Pressure")},
                                                   std::tuple{Total::Power, Station::Brief, tr("Power budget")},
                                                   std::tuple{Total::Price, Station::Brief, tr("Price")},
                                                   std::tuple{Total::Mass, Station::Brief, tr("Mass")},
                                                   std::tuple{Total::Volume, Station::Fit, tr("Volume")}})
            m_things.push_back({station, core::TotalRef{total}, name});
    }
    for (const auto& run : v.project().runs)
        m_things.push_back(
            {Station::Bench, core::RunRef{run.id}, tr("Run %1, %2").arg(qs(run.name), qs(run.revision))});
    tellApart();
    auto* layout = new QVBoxLayout(this);
    m_text->setObjectName(QStringLiteral("findText"));
    layout->addWidget(m_text);
    layout->addWidget(m_list);
    connect(m_text, &QLineEdit::textChanged, this, &FindDialog::fill);
    connect(m_text, &QLineEdit::returnPressed, this, &FindDialog::choose);
    connect(m_list, &QListWidget::itemActivated, this, &FindDialog::choose);
    fill();
    resize(420, 360);
}

/// Where two have one name, each has the name it has in files behind it; two leads of one part are counted.
void FindDialog::tellApart() {
    QHash<QString, int> named, met;
    for (const Entry& entry : m_things)
        ++named[entry.name];
    for (Entry& entry : m_things) {
        if (named[entry.name] > 1)
            entry.name += QStringLiteral(" (%1)").arg(qs(core::subjectOf(entry.thing)));
        if (const int copy = ++met[entry.name]; copy > 1)
            entry.name += QStringLiteral(", %1").arg(copy);
    }
}

void FindDialog::fill() {
    m_list->clear();
    for (std::size_t i = 0; i < m_things.size(); ++i)
        if (m_things[i].name.contains(m_text->text(), Qt::CaseInsensitive)) {
            auto* item = new QListWidgetItem(m_things[i].name, m_list);
            item->setData(Qt::UserRole, static_cast<int>(i));
        }
    m_list->setCurrentRow(0);
}

void FindDialog::choose() {
    const QListWidgetItem* item = m_list->currentItem();
    if (!item)
        return;
    const Entry& entry = m_things[static_cast<std::size_t>(item->data(Qt::UserRole).toInt())];
    Q_EMIT found(entry.station, entry.thing);
    accept();
}

} // namespace app

#include "moc_find_dialog.cpp"
