// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/dialogs/part_edit_dialog.h"

#include "app/model/case_edit.h"
#include "app/model/own_shelf.h"
#include "app/ui/dialogs/details_dialog.h"
#include "app/ui/dialogs/part_sheet.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QPushButton>

namespace app {

PartEditDialog::PartEditDialog(Context& context, std::string part, QWidget* parent)
    : FormDialog(context, tr("Edit part"), parent), m_part(std::move(part)) {
    setObjectName(QStringLiteral("partEdit"));
    const core::Part& p = *context.document.project().part(m_part);
    // What has a place of its own in the window, or is drawn, is not asked here.
    m_rows.add(p, {"id", "kind"});
    core::withSpecOf(p.kind, [&]<class S>() { m_spec.add(std::get<S>(p.spec)); });
    auto* beside = new QHBoxLayout;
    beside->addWidget(scrollFields(), 1);
    m_layout->insertLayout(0, beside, 1);
    if (p.kind == core::PartKind::Case)
        for (const auto& [key, words] : {std::pair{"width", tr("Inner width")}, std::pair{"height", tr("Inner depth")},
                                         std::pair{"depth", tr("Inner height")}})
            static_cast<QLabel*>(m_form->labelForField(m_rows.field(key)))->setText(words);
    m_buttons->button(QDialogButtonBox::Ok)->setText(tr("Save"));
    // Bodies, plugs, places and screws are lists: a page of their own.
    auto* all = m_buttons->addButton(tr("All details ..."), QDialogButtonBox::ActionRole);
    all->setObjectName(QStringLiteral("allDetails"));
    connect(all, &QPushButton::clicked, this, [this] {
        if (!fieldsTaken())
            return;
        if (const auto done = apply(); !done)
            return say(qs(done.error().text()));
        (new DetailsDialog(m_context, m_part, parentWidget()))->open();
        QDialog::accept(); // NOLINT(bugprone-parent-virtual-call): it was applied above
    });
    addPicture(beside);
    sayWhereElse();
    offerKept();
    resize(m_picture ? 760 : 460, std::clamp(m_form->sizeHint().height() + 120, m_picture ? 420 : 320, 640));
}

/// Its three sides beside the figures, as they are typed.
void PartEditDialog::addPicture(QHBoxLayout* beside) {
    if (m_context.document.project().part(m_part)->kind == core::PartKind::Case)
        return;
    m_picture = new PartSheet(m_context, this);
    m_picture->setObjectName(QStringLiteral("partPicture"));
    m_picture->setAttribute(Qt::WA_TransparentForMouseEvents); // its things are moved in "All details"
    m_picture->setFocusPolicy(Qt::NoFocus);
    beside->addWidget(m_picture, 1);
    for (auto* box : findChildren<QDoubleSpinBox*>())
        connect(box, &QDoubleSpinBox::valueChanged, this, &PartEditDialog::drawPicture);
    for (auto* choice : findChildren<QComboBox*>())
        connect(choice, &QComboBox::currentIndexChanged, this, &PartEditDialog::drawPicture);
    drawPicture();
}

void PartEditDialog::drawPicture() {
    core::Part typed = *m_context.document.project().part(m_part);
    m_rows.take(typed);
    core::withSpecOf(typed.kind, [&]<class S>() { m_spec.take(std::get<S>(typed.spec)); });
    m_picture->show(typed);
}

/// Where else the same part is used: it changes there as well.
void PartEditDialog::sayWhereElse() {
    const core::Project& project = m_context.document.project();
    int places = 0;
    if (const auto* e = m_context.view().evaluation())
        for (const core::Placed& placed : e->build.placed)
            places += placed.part->id == m_part;
    QStringList revisions;
    for (const core::Revision& r : project.revisions)
        if (std::any_of(r.changes.begin(), r.changes.end(),
                        [&](const core::Change& c) { return core::changedPart(c) == m_part; }))
            revisions << qs(r.id);
    if (places < 2 && revisions.size() < 2)
        return;
    auto* words = new QLabel(this);
    words->setObjectName(QStringLiteral("whereElse"));
    words->setWordWrap(true);
    words->setText(
        revisions.size() > 1
            ? tr("Put in by %1: all of them change, and what comes from them. Duplicate it first (menu of "
                 "the right button) to change one alone.")
                  .arg(revisions.join(QStringLiteral(", ")))
            : tr("%1 places of this revision use it: all change. Duplicate it first to change one alone.").arg(places));
    m_layout->insertWidget(0, words);
}

/// A newer or older state of the same part on one's own shelf is said; it is taken only by hand.
void PartEditDialog::offerKept() {
    const auto kept = ownParts(ownShelfFile(m_context.settings));
    if (!kept)
        return;
    const auto same = std::find_if(kept->begin(), kept->end(), [&](const core::Part& p) { return p.id == m_part; });
    if (same == kept->end() || *same == *m_context.document.project().part(m_part))
        return;
    auto* row = new QHBoxLayout;
    auto* words = new QLabel(tr("Your shelf has another state of it."), this);
    words->setObjectName(QStringLiteral("otherState"));
    auto* take = new QPushButton(tr("Take it"), this);
    take->setObjectName(QStringLiteral("takeKept"));
    take->setAutoDefault(false);
    connect(take, &QPushButton::clicked, this, [this, part = *same] {
        if (const auto done = changePart(m_context.document, tr("%1 as on the shelf").arg(qs(part.name)), part); !done)
            return say(qs(done.error().text()));
        QDialog::accept(); // NOLINT(bugprone-parent-virtual-call): what is typed is not wanted
    });
    row->addWidget(words, 1);
    row->addWidget(take);
    m_layout->insertLayout(0, row);
}

core::Result<void> PartEditDialog::apply() {
    core::Part edited = *m_context.document.project().part(m_part);
    m_rows.take(edited);
    core::withSpecOf(edited.kind, [&]<class S>() { m_spec.take(std::get<S>(edited.spec)); });
    if (edited.name.empty())
        return core::problem(tr("Name").toStdString(), "is empty", "a name");
    const QString text = tr("Edit %1").arg(qs(edited.name));
    return changePart(m_context.document, text, std::move(edited));
}

} // namespace app

#include "moc_part_edit_dialog.cpp"
