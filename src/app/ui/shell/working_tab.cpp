// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/shell/working_tab.h"

#include <QKeyEvent>

namespace app {

WorkingTab::WorkingTab(Context& context, QWidget* parent) : PaintedPanel(context, parent) {
    setFixedWidth(36);
    setAccessibleName(tr("Working, folded"));
    setObjectName(QStringLiteral("workingTab"));
    setToolTip(tr("How the selected figure was worked out (W)"));
}

void WorkingTab::clicked(const Hit&) { Q_EMIT toggled(); }

void WorkingTab::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Space)
        Q_EMIT toggled();
    else
        PaintedPanel::keyPressEvent(event);
}

void WorkingTab::paintContent(Canvas& c) {
    c.p.fillRect(rect(), c.t.sheet);
    c.vline(0, 0, height(), c.t.line);
    c.p.save();
    c.p.translate(18, 70);
    c.p.rotate(90);
    c.text({-50, -10, 100, 20}, tr("Working"), 14, Weight::SemiBold, c.t.ink, Qt::AlignCenter);
    c.p.restore();
    c.hit(QRectF(rect()), Handle{.act = Act::FoldWorking}, tr("Open or fold Working (W)"));
}

} // namespace app

#include "moc_working_tab.cpp"
