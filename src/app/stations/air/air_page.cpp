// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/air/air_page.h"

#include <QKeyEvent>
#include <QMouseEvent>

#include <cmath>

namespace app {

AirPage::AirPage(Context& context, QWidget* parent) : StationPage(context, paintAir, parent) {}

void AirPage::change(const core::Change& change) {
    if (const auto done = m_context.document.addChange(change); !done)
        Q_EMIT refused(done.error());
}

void AirPage::mousePressEvent(QMouseEvent* event) {
    m_clickX = event->position().x();
    StationPage::mousePressEvent(event);
}

void AirPage::clicked(const Hit& hit) {
    const auto* fan = std::get_if<core::FanRef>(&hit.handle.of);
    if (fan && hit.is(Act::TurnFan)) {
        change(core::FlipFan{fan->mount});
        m_context.selection.select(*fan);
    } else if (fan && hit.is(Act::SetSpeed)) {
        const double share = std::clamp((m_clickX - hit.rect.left()) / std::max(1.0, hit.rect.width()), 0.2, 1.0);
        change(core::SetFan{fan->mount, core::FanMode::Fixed, std::round(share * 50) / 50});
        m_context.selection.select(*fan);
    } else {
        StationPage::clicked(hit);
    }
}

/// The fan that is selected; null: none is, or it is no part of its own.
const core::Placed* AirPage::fanSelected() const {
    const auto* e = m_context.view().evaluation();
    const auto* fan = std::get_if<core::FanRef>(&m_context.selection.thing());
    const core::Placed* p = e && fan ? e->build.at(fan->mount) : nullptr;
    return p && p->part->kind == core::PartKind::Fan ? p : nullptr;
}

void AirPage::changeSpeed(double by) {
    if (const core::Placed* p = fanSelected())
        change(
            core::SetFan{p->mount, core::FanMode::Fixed, std::clamp(std::round((p->duty + by) * 100) / 100, 0.0, 1.0)});
}

void AirPage::keyPressEvent(QKeyEvent* event) {
    switch (event->key()) {
    case Qt::Key_R:
        if (const core::Placed* p = fanSelected())
            change(core::FlipFan{p->mount});
        return;
    case Qt::Key_Left:
        return changeSpeed(-0.05);
    case Qt::Key_Right:
        return changeSpeed(0.05);
    default:
        StationPage::keyPressEvent(event);
    }
}

} // namespace app
