// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/dialogs/find_dialog.h"

#include <QLineEdit>
#include <QListWidget>
#include <QVBoxLayout>

namespace app {

FindDialog::FindDialog(Context& context, QWidget* parent) : QDialog(parent), m_text(new QLineEdit(this)), m_list(new QListWidget(this)) {
    setWindowTitle(tr("Find a part or number"));
    setAttribute(Qt::WA_DeleteOnClose);
    const View v = context.view();
    if (const auto* e = v.evaluation()) {
        for (const auto& p : e->build.placed)
            m_things.push_back({e->air.part(p.mount) ? 2 : 1, QStringLiteral("part:") + qs(p.mount), tr("Part %1").arg(qs(p.name))});
        for (const auto& gap : e->fit.gaps)
            m_things.push_back({1, QStringLiteral("gap:") + qs(gap.id), tr("Gap %1 to %2").arg(qs(gap.between[0].text), qs(gap.between[1].text))});
        for (const auto& fan : e->air.fans)
            m_things.push_back({2, QStringLiteral("fan:") + qs(fan.id), tr("Fan %1, %2").arg(qs(fan.name), v.text(core::Quantity::Flow, fan.flowM3h))});
        for (const auto& o : e->air.openings)
            m_things.push_back({2, QStringLiteral("opening:") + qs(o.id), tr("Opening %1, %2").arg(qs(o.name), v.text(core::Quantity::Flow, o.flowM3h))});
        for (const auto& t : v.result().verdict.targets)
            m_things.push_back({5, QStringLiteral("target:") + qs(t.id), tr("Target %1").arg(qs(t.name))});
        for (const auto& part : e->make.parts)
            m_things.push_back({3, QStringLiteral("made:") + qs(part.id), tr("Made part %1").arg(qs(part.name))});
        for (const auto& [key, station, name] : {std::tuple{"noise", 2, tr("Noise")}, std::tuple{"balance", 2, tr("Pressure")}, std::tuple{"power", 0, tr("Power budget")}, std::tuple{"price", 0, tr("Price")}, std::tuple{"mass", 0, tr("Mass")}, std::tuple{"volume", 1, tr("Volume")}})
            m_things.push_back({station, QLatin1String(key), name});
    }
    for (const auto& run : v.project().runs)
        m_things.push_back({4, QStringLiteral("run:") + qs(run.id), tr("Run %1, %2").arg(qs(run.name), qs(run.revision))});
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
    const Thing& thing = m_things[static_cast<std::size_t>(item->data(Qt::UserRole).toInt())];
    Q_EMIT found(thing.station, thing.key);
    accept();
}

} // namespace app
