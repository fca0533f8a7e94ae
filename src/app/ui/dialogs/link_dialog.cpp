// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/dialogs/link_dialog.h"

#include <QCheckBox>

namespace app {

LinkDialog::LinkDialog(Context& context, const core::Placed& part, QWidget* parent)
    : FormDialog(context, tr("Observed link"), parent), m_mount(part.mount) {
    auto* words =
        new QLabel(tr("The speed at which %1 was seen to run under load on the machine built as %2, as its tools "
                      "report it. It is held against what the chain of slot, riser and part should give.")
                       .arg(qs(part.name), qs(context.document.revision())),
                   this);
    words->setWordWrap(true);
    m_layout->insertWidget(0, words);
    m_generation = addChoice(tr("Generation"), QStringLiteral("generation"));
    for (int generation = 1; generation <= 5; ++generation)
        m_generation->addItem(QString::number(generation), generation);
    m_lanes = addChoice(tr("Lanes"), QStringLiteral("lanes"));
    for (const int lanes : {1, 2, 4, 8, 16})
        m_lanes->addItem(QString::number(lanes), lanes);
    m_none = new QCheckBox(tr("not seen, or no longer true"), this);
    m_none->setObjectName(QStringLiteral("none"));
    m_form->addRow(m_none);
    const core::Revision* revision = context.document.project().revision(context.document.revision());
    const auto seen = std::find_if(revision->observed.begin(), revision->observed.end(),
                                   [&](const core::ObservedLink& l) { return l.mount == m_mount; });
    const bool known = seen != revision->observed.end();
    m_none->setEnabled(known);
    const core::Link stated = part.part->link.value_or(core::Link{});
    m_generation->setCurrentIndex(std::max(0, m_generation->findData(known ? seen->generation : stated.generation)));
    m_lanes->setCurrentIndex(std::max(0, m_lanes->findData(known ? seen->lanes : stated.lanes)));
    resize(440, 240);
}

core::Result<void> LinkDialog::apply() {
    const std::string id = m_context.document.revision();
    return m_context.document.edit(tr("Observed link"), [&](core::Project& p) {
        auto& observed = std::find_if(p.revisions.begin(), p.revisions.end(), [&](const core::Revision& r) {
                             return r.id == id;
                         })->observed;
        std::erase_if(observed, [&](const core::ObservedLink& l) { return l.mount == m_mount; });
        if (!m_none->isChecked())
            observed.push_back({m_mount, m_generation->currentData().toInt(), m_lanes->currentData().toInt()});
    });
}

} // namespace app

#include "moc_link_dialog.cpp"
