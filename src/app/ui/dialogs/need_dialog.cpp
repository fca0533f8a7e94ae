// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/dialogs/need_dialog.h"

#include <QCheckBox>

namespace app {

NeedDialog::NeedDialog(Context& context, const core::fit::Gap& gap, QWidget* parent)
    : FormDialog(context, tr("Need of a gap"), parent), m_rule(gap.rule) {
    const auto* rule = core::fit::clearanceRule(gap.rule);
    auto* words = new QLabel(
        tr("%1 to %2. The rule asks for %3: %4. Your own need counts for every gap of this rule in the project.")
            .arg(qs(gap.between[0].text), qs(gap.between[1].text),
                 qs(context.show().text(core::Quantity::Length, rule ? rule->requiredMm : 0)),
                 context.view().words(gap.reason)),
        this);
    words->setWordWrap(true);
    m_layout->insertWidget(0, words);
    m_need = addNumber(tr("Needs at least"), QStringLiteral("need"), core::Quantity::Length, gap.requiredMm, 0, 200);
    m_note = addText(tr("Why"), QStringLiteral("note"), qs(gap.overridden));
    m_back = new QCheckBox(tr("back to the rule"), this);
    m_back->setObjectName(QStringLiteral("back"));
    m_back->setEnabled(!gap.overridden.empty());
    m_form->addRow(m_back);
    resize(440, 260);
}

core::Result<void> NeedDialog::apply() {
    if (!m_back->isChecked() && m_note->text().trimmed().isEmpty())
        return core::problem("Why", "is empty", "a few words, so that the number can be understood later");
    return m_context.document.edit(tr("Need of a gap"), [&](core::Project& p) {
        std::erase_if(p.needs, [&](const core::NeedOverride& n) { return n.rule == m_rule; });
        if (!m_back->isChecked())
            p.needs.push_back({m_rule, stored(m_need), m_note->text().trimmed().toStdString()});
    });
}

} // namespace app

#include "moc_need_dialog.cpp"
