// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/style_parts.h"

#include <QPainter>
#include <QPainterPath>

namespace app {

namespace {
QRectF edge(const QRect& r) { return QRectF(r).adjusted(0.5, 0.5, -0.5, -0.5); }
} // namespace

void ControlParts::field(const QRect& r, bool enabled, Ground ground) const {
    QPen pen(t.line, 1);
    if (!enabled)
        pen.setDashPattern({4, 3});
    p.setRenderHint(QPainter::Antialiasing, false);
    p.setPen(pen);
    p.setBrush(!enabled ? t.paper : ground == Ground::Field ? t.field : t.sheet);
    p.drawRect(r.adjusted(0, 0, -1, -1));
}

void ControlParts::frame(const QRect& r) const {
    p.setRenderHint(QPainter::Antialiasing, false);
    p.setPen(QPen(t.line, 1));
    p.setBrush(Qt::NoBrush);
    p.drawRect(r.adjusted(0, 0, -1, -1));
}

void ControlParts::check(const QRect& r, QStyle::State state) const {
    const int side = std::min({r.width(), r.height(), 15});
    const QRect box(r.x() + (r.width() - side) / 2, r.y() + (r.height() - side) / 2, side, side);
    const bool enabled = state & QStyle::State_Enabled;
    field(box, enabled, Ground::Field);
    p.setRenderHint(QPainter::Antialiasing);
    const QColor ink = enabled ? t.ink : t.ink2;
    if (state & QStyle::State_On) {
        p.setPen(QPen(ink, 2, Qt::SolidLine, Qt::SquareCap, Qt::MiterJoin));
        const QRectF in = edge(box);
        p.drawPolyline(QPolygonF{{in.left() + 0.24 * in.width(), in.top() + 0.52 * in.height()},
                                 {in.left() + 0.44 * in.width(), in.top() + 0.72 * in.height()},
                                 {in.left() + 0.78 * in.width(), in.top() + 0.28 * in.height()}});
    } else if (state & QStyle::State_NoChange) {
        p.fillRect(QRectF(box).adjusted(4, side / 2.0 - 1, -4, -(side / 2.0 - 1)), ink);
    }
}

void ControlParts::radio(const QRect& r, QStyle::State state) const {
    const double side = std::min({r.width(), r.height(), 15}) - 1.0;
    const QRectF ring(r.center().x() + 0.5 - side / 2, r.center().y() + 0.5 - side / 2, side, side);
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(t.ink2, 1.5)); // a curve is thinned by its smoothing: stronger than a straight edge
    p.setBrush(state & QStyle::State_Enabled ? t.field : t.paper);
    p.drawEllipse(ring);
    if (state & QStyle::State_On) {
        p.setPen(Qt::NoPen);
        p.setBrush(state & QStyle::State_Enabled ? t.ink : t.ink2);
        p.drawEllipse(ring.adjusted(4, 4, -4, -4));
    }
}

void ControlParts::arrow(const QRect& r, Qt::ArrowType way, bool enabled) const {
    const QPointF m = QRectF(r).center();
    const double s = 3.5;
    const QPolygonF up{{-s, s / 2}, {0, -s / 2}, {s, s / 2}};
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    p.translate(m);
    p.rotate(way == Qt::DownArrow ? 180 : way == Qt::LeftArrow ? -90 : way == Qt::RightArrow ? 90 : 0);
    p.setPen(QPen(enabled ? t.ink : t.ink2, 1.6));
    p.setBrush(Qt::NoBrush);
    p.drawPolyline(up);
    p.restore();
}

void ControlParts::spinBox(const QStyleOptionSpinBox& box, const QRect& up, const QRect& down) const {
    const bool enabled = box.state & QStyle::State_Enabled;
    field(box.rect, enabled, Ground::Field);
    if (box.buttonSymbols == QAbstractSpinBox::NoButtons)
        return;
    p.setRenderHint(QPainter::Antialiasing, false);
    p.setPen(QPen(t.line, 1));
    p.drawLine(up.left() - 1, box.rect.top() + 1, up.left() - 1, box.rect.bottom() - 1);
    arrow(up, Qt::UpArrow, enabled && (box.stepEnabled & QAbstractSpinBox::StepUpEnabled));
    arrow(down, Qt::DownArrow, enabled && (box.stepEnabled & QAbstractSpinBox::StepDownEnabled));
}

void ControlParts::comboBox(const QStyleOptionComboBox& box, const QRect& button) const {
    const bool enabled = box.state & QStyle::State_Enabled;
    field(box.rect, enabled, box.editable ? Ground::Field : Ground::Sheet);
    p.setRenderHint(QPainter::Antialiasing, false);
    p.setPen(QPen(t.line, 1));
    p.drawLine(button.left(), box.rect.top() + 1, button.left(), box.rect.bottom() - 1);
    arrow(button, Qt::DownArrow, enabled);
}

void ControlParts::slider(const QStyleOptionSlider& slider, const QRect& groove, const QRect& handle) const {
    const bool across = slider.orientation == Qt::Horizontal, enabled = slider.state & QStyle::State_Enabled;
    const QPoint m = groove.center();
    p.fillRect(across ? QRect(groove.left(), m.y() - 1, groove.width(), 2)
                      : QRect(m.x() - 1, groove.top(), 2, groove.height()),
               t.line);
    const QPoint h = handle.center();
    p.fillRect(across ? QRect(h.x() - 4, h.y() - 8, 8, 16) : QRect(h.x() - 8, h.y() - 4, 16, 8),
               enabled ? t.ink : t.ink2);
}

void ControlParts::header(const QRect& r) const {
    p.setRenderHint(QPainter::Antialiasing, false);
    p.fillRect(r, t.tray);
    p.setPen(QPen(t.line, 1));
    p.drawLine(r.bottomLeft(), r.bottomRight());
    p.drawLine(r.right(), r.top() + 4, r.right(), r.bottom() - 4);
}

void ControlParts::progress(const QStyleOptionProgressBar& bar) const {
    const QRect in = bar.rect.adjusted(2, 2, -2, -2);
    const bool busy = bar.maximum <= bar.minimum;
    const double share =
        busy ? 1 : std::clamp(double(bar.progress - bar.minimum) / (bar.maximum - bar.minimum), 0.0, 1.0);
    const QRect done(in.left(), in.top(), static_cast<int>(in.width() * share), in.height());
    busy ? p.fillRect(done, QBrush(t.ink, Qt::BDiagPattern)) : p.fillRect(done, t.ink);
}

void ControlParts::toolButton(const QRect& r, QStyle::State state) const {
    const bool down = state & (QStyle::State_Sunken | QStyle::State_On),
               over = (state & QStyle::State_MouseOver) && (state & QStyle::State_Enabled);
    if (down)
        p.fillRect(r, t.marker);
    if (down || over)
        frame(r);
}

namespace {

QPainterPath folder() {
    QPainterPath path;
    path.addPolygon(QPolygonF{{1.5, 13.5}, {1.5, 3.5}, {6, 3.5}, {7.5, 5.5}, {14.5, 5.5}, {14.5, 13.5}, {1.5, 13.5}});
    return path;
}
QPainterPath page() {
    QPainterPath path;
    path.addPolygon(QPolygonF{{3.5, 1.5}, {9.5, 1.5}, {12.5, 4.5}, {12.5, 14.5}, {3.5, 14.5}, {3.5, 1.5}});
    path.addPolygon(QPolygonF{{9.5, 1.5}, {9.5, 4.5}, {12.5, 4.5}});
    return path;
}
/// An arrow that points up, turned by @p degrees.
QPainterPath pointer(double degrees) {
    QPainterPath path;
    path.addPolygon(QPolygonF{{8, 13.5}, {8, 3.5}});
    path.addPolygon(QPolygonF{{4, 7}, {8, 3}, {12, 7}});
    return QTransform().translate(8, 8).rotate(degrees).translate(-8, -8).map(path);
}
QPainterPath lines(bool detailed) {
    QPainterPath path;
    for (const double y : {3.5, 7.5, 11.5}) {
        path.addPolygon(QPolygonF{{2, y}, {detailed ? 6.0 : 14.0, y}});
        if (detailed)
            path.addPolygon(QPolygonF{{8, y}, {14, y}});
    }
    return path;
}
QPainterPath drive() {
    QPainterPath path;
    path.addRect(1.5, 4.5, 13, 7);
    path.addEllipse(QPointF(11.5, 8), 1, 1);
    return path;
}

} // namespace

QIcon listIcon(QStyle::StandardPixmap which, const Theme& theme) {
    QPainterPath path;
    bool plus = false;
    switch (which) {
    case QStyle::SP_DirIcon:
    case QStyle::SP_DirClosedIcon:
    case QStyle::SP_DirOpenIcon:
    case QStyle::SP_DirLinkIcon:
    case QStyle::SP_DirHomeIcon:
    case QStyle::SP_DesktopIcon:
        path = folder();
        break;
    case QStyle::SP_FileIcon:
    case QStyle::SP_FileLinkIcon:
        path = page();
        break;
    case QStyle::SP_DriveHDIcon:
    case QStyle::SP_ComputerIcon:
    case QStyle::SP_DriveNetIcon:
        path = drive();
        break;
    case QStyle::SP_FileDialogNewFolder:
        path = folder();
        plus = true;
        break;
    case QStyle::SP_FileDialogToParent:
    case QStyle::SP_ArrowUp:
        path = pointer(0);
        break;
    case QStyle::SP_ArrowBack:
    case QStyle::SP_ArrowLeft:
    case QStyle::SP_FileDialogBack:
        path = pointer(-90);
        break;
    case QStyle::SP_ArrowForward:
    case QStyle::SP_ArrowRight:
        path = pointer(90);
        break;
    case QStyle::SP_FileDialogListView:
        path = lines(false);
        break;
    case QStyle::SP_FileDialogDetailedView:
        path = lines(true);
        break;
    default:
        return {};
    }
    QIcon icon;
    for (const int ratio : {1, 2}) {
        QPixmap pixmap(16 * ratio, 16 * ratio);
        pixmap.setDevicePixelRatio(ratio);
        pixmap.fill(Qt::transparent);
        QPainter p(&pixmap);
        p.setRenderHint(QPainter::Antialiasing);
        p.setPen(QPen(theme.ink, 1.2));
        p.drawPath(path);
        if (plus) {
            p.setPen(QPen(theme.ink, 1.4));
            p.drawLine(QPointF(8, 7.5), QPointF(8, 12));
            p.drawLine(QPointF(5.75, 9.75), QPointF(10.25, 9.75));
        }
        p.end();
        icon.addPixmap(pixmap);
    }
    return icon;
}

} // namespace app
