// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/stations/fit_page.h"

#include <QKeyEvent>
#include <QMouseEvent>

namespace app {
using core::Axis;

FitPage::FitPage(Context& context, QWidget* parent) : StationPage(context, tr("Fit"), [this](Canvas& c, const QRectF& r, const View& v) { paintFit(c, r, v, m_cuts); }, parent) {
    connect(&context.document, &Document::pathChanged, this, [this] { m_cuts = {}; });
}

double& FitPage::cut() { return m_cuts.moved == Axis::Y ? m_cuts.a : m_cuts.moved == Axis::X ? m_cuts.b : m_cuts.c; }

void FitPage::mousePressEvent(QMouseEvent* event) {
    m_pressX = event->position().x();
    StationPage::mousePressEvent(event);
}

void FitPage::mouseMoveEvent(QMouseEvent* event) {
    const Hit* hit = event->buttons() & Qt::LeftButton ? hitAt(event->position()) : nullptr;
    if (hit && hit->key == QLatin1String("cutat:"))
        return dragTo(event->position().x());
    StationPage::mouseMoveEvent(event);
}

/// The strip spans the inner size along the cut.
void FitPage::dragTo(double x) {
    const auto* e = m_context.view().evaluation();
    for (const Hit& hit : m_hits)
        if (e && hit.key == QLatin1String("cutat:")) {
            const double size = e->build.insideAt[core::index(m_cuts.moved)].mm();
            cut() = std::clamp((x - hit.rect.left()) / hit.rect.width(), 0.0, 1.0) * size;
            return update();
        }
}

void FitPage::clicked(const Hit& hit) {
    if (hit.key == QLatin1String("cutat:"))
        dragTo(m_pressX);
    else if (hit.key.startsWith(QLatin1String("cut:")))
        chooseCut(hit.key.endsWith(QLatin1Char('A')) ? Axis::Y : hit.key.endsWith(QLatin1Char('B')) ? Axis::X : Axis::Z);
    else
        StationPage::clicked(hit);
}

void FitPage::moveCut(double mm) {
    const auto* e = m_context.view().evaluation();
    if (!e)
        return;
    const double size = e->build.insideAt[core::index(m_cuts.moved)].mm();
    double& at = cut();
    at = std::clamp((at < 0 ? size / 2 : at) + mm, 0.0, size);
    update();
}

/// The next face of a part along the cut axis, just beyond it.
void FitPage::moveToNextEdge() {
    const auto* e = m_context.view().evaluation();
    if (!e)
        return;
    const std::size_t k = core::index(m_cuts.moved);
    const double now = cut() < 0 ? e->build.insideAt[k].mm() / 2 : cut();
    double next = 1e9, first = 1e9;
    for (const core::Placed& p : e->build.placed)
        for (const double edge : {p.lowAt[k].mm(), p.highAt[k].mm()}) {
            first = std::min(first, edge + 0.1);
            if (edge + 0.1 > now + 0.05)
                next = std::min(next, edge + 0.1);
        }
    cut() = next < 1e8 ? next : first < 1e8 ? first : now;
    update();
}

void FitPage::nudgePart(Axis axis, double mm) {
    const QString key = m_context.selection.key();
    const std::string mount = key.mid(5).toStdString();
    const auto* e = m_context.view().evaluation();
    if (!key.startsWith(QLatin1String("part:")) || !e || !e->build.at(mount))
        return;
    (void)m_context.document.addChange(core::MovePart{mount, axis, core::Length::fromMm(mm)});
}

void FitPage::keyPressEvent(QKeyEvent* event) {
    const bool shift = event->modifiers() & Qt::ShiftModifier, nudge = event->modifiers() & Qt::AltModifier;
    const double step = nudge ? (shift ? 5 : 0.5) : shift ? 10 : 1;
    switch (event->key()) {
    case Qt::Key_A: return chooseCut(Axis::Y);
    case Qt::Key_B: return chooseCut(Axis::X);
    case Qt::Key_C: return chooseCut(Axis::Z);
    case Qt::Key_End: return moveToNextEdge();
    case Qt::Key_Left:
    case Qt::Key_Right: {
        const double mm = event->key() == Qt::Key_Left ? -step : step;
        return nudge ? nudgePart(Axis::Y, mm) : moveCut(mm);
    }
    case Qt::Key_Up:
    case Qt::Key_Down: {
        const double mm = event->key() == Qt::Key_Down ? -step : step;
        return nudge ? nudgePart(Axis::Z, mm) : moveCut(mm);
    }
    default: StationPage::keyPressEvent(event);
    }
}

} // namespace app
