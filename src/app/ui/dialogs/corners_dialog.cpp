// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/dialogs/corners_dialog.h"

#include <cmath>

namespace app {
using core::Quantity;

CornersDialog::CornersDialog(Context& context, const core::fit::LeadRoute& route, QWidget* parent)
    : FormDialog(context, tr("Corners of a lead"), parent), m_change{route.ref.part, route.from, route.to,
                                                                     core::fit::cornersOf(route)},
      m_lead(route.ref), m_end(route.end), m_rows(*this) {
    const core::Part* lead = context.document.project().part(route.ref.part);
    auto* head = new QLabel(tr("%1 from %2 to %3: its corners between the plugs, from the case's inner corner at the "
                               "left, front and bottom: to the right, to the rear, up. Without any it follows the "
                               "edges of the case.")
                                .arg(lead ? qs(lead->name) : QString(), qs(route.from), qs(route.to)),
                            this);
    head->setWordWrap(true);
    m_layout->insertWidget(0, head);
    m_words = new QLabel(this);
    m_words->setObjectName(QStringLiteral("way"));
    m_words->setWordWrap(true);
    m_layout->insertWidget(2, m_words);
    m_rows.add(m_change, {"part", "from", "to"});
    m_rows.changed = [this] { tell(); };
    tell();
    resize(460, 330);
}

/// Length, slack and bends of the way as it is typed.
void CornersDialog::tell() {
    core::RouteLead change = m_change;
    m_rows.take(change);
    const View v = m_context.view();
    const auto build = core::resolveWith(m_context.document.project(), m_context.document.revision(), {change});
    if (!build)
        return m_words->setText(qs(build.error().text()));
    for (const auto& route : core::fit::leadRoutes(*build))
        if (route.ref == m_lead && route.end == m_end) {
            QString words = tr("A way of %1").arg(v.text(Quantity::Length, route.wayMm));
            if (route.lengthMm > 0)
                words += route.slackMm() < 0
                             ? tr(", %1 too long for it").arg(v.text(Quantity::Length, -route.slackMm()))
                             : tr(", %1 slack").arg(v.text(Quantity::Length, route.slackMm()));
            if (std::isfinite(route.tightestMm))
                words +=
                    tr("; bends at %1 or wider, needs %2")
                        .arg(v.text(Quantity::Length, route.tightestMm), v.text(Quantity::Length, route.body.bendMm));
            if (!route.meets.empty())
                words += tr("; too near to %1 of the box")
                             .arg(counted(static_cast<qsizetype>(route.meets.size()), tr("1 thing"), tr("%1 things")));
            m_words->setText(words);
        }
}

core::Result<void> CornersDialog::apply() {
    m_rows.take(m_change);
    const auto done = m_context.document.addChange(m_change);
    return done ? core::Result<void>{} : tl::make_unexpected(done.error());
}

} // namespace app

#include "moc_corners_dialog.cpp"
