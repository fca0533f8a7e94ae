// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/stations/air_page.h"

#include <QKeyEvent>
#include <QMouseEvent>

#include <cmath>

namespace app {

AirPage::AirPage(Context& context, QWidget* parent) : StationPage(context, tr("Air"), paintAir, parent) {}

void AirPage::change(const core::Change& change) {
    if (const auto done = m_context.document.addChange(change); !done)
        Q_EMIT refused(done.error());
}

void AirPage::mousePressEvent(QMouseEvent* event) {
    m_clickX = event->position().x();
    StationPage::mousePressEvent(event);
}

void AirPage::clicked(const Hit& hit) {
    const QString fan = hit.key.section(QLatin1Char(':'), 1);
    if (hit.key.startsWith(QLatin1String("flip:"))) {
        change(core::FlipFan{fan.toStdString()});
        m_context.selection.select(QStringLiteral("fan:") + fan);
    } else if (hit.key.startsWith(QLatin1String("speed:"))) {
        const double share = std::clamp((m_clickX - hit.rect.left()) / std::max(1.0, hit.rect.width()), 0.2, 1.0);
        change(core::SetFan{fan.toStdString(), core::FanMode::Fixed, std::round(share * 50) / 50});
        m_context.selection.select(QStringLiteral("fan:") + fan);
    } else {
        StationPage::clicked(hit);
    }
}

void AirPage::changeSpeed(double by) {
    const QString key = m_context.selection.key();
    const auto* e = m_context.view().evaluation();
    const core::Placed* p = e && key.startsWith(QLatin1String("fan:")) ? e->build.at(key.mid(4).toStdString()) : nullptr;
    if (p && p->part->kind == core::PartKind::Fan)
        change(core::SetFan{p->mount, core::FanMode::Fixed, std::clamp(std::round((p->duty + by) * 100) / 100, 0.0, 1.0)});
}

void AirPage::keyPressEvent(QKeyEvent* event) {
    const QString key = m_context.selection.key();
    switch (event->key()) {
    case Qt::Key_R: {
        const auto* e = m_context.view().evaluation();
        const core::Placed* p = e && key.startsWith(QLatin1String("fan:")) ? e->build.at(key.mid(4).toStdString()) : nullptr;
        if (p && p->part->kind == core::PartKind::Fan)
            change(core::FlipFan{p->mount});
        return;
    }
    case Qt::Key_Left: return changeSpeed(-0.05);
    case Qt::Key_Right: return changeSpeed(0.05);
    default: StationPage::keyPressEvent(event);
    }
}

} // namespace app
