// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/context.h"

#include <QTimer>
#include <QWidget>

namespace app {

/// A widget that is drawn by a scene painter: keeps its places for clicking, hovering, J and K, and reading out.
class PaintedPanel : public QWidget {
    Q_OBJECT
public:
    PaintedPanel(Context& context, QWidget* parent = nullptr);

    [[nodiscard]] const Places& hits() const { return m_hits; }
    /// Selects the next or previous place on the drawing.
    void stepSelection(int direction);
    [[nodiscard]] const ListLook& lists() const { return m_lists; }
    [[nodiscard]] const Hit* hitAt(const QPointF& at) const { return placeAt(m_hits, at); }
    [[nodiscard]] bool isSelected(const core::Thing& thing) const { return thing == m_context.selection.thing(); }
    /// What a click on a place does, for keys, tests and screen readers.
    void press(const Hit& hit) { clicked(hit); }

Q_SIGNALS:
    void activated(const core::Thing& thing); ///< clicked, or Enter
    void opened(const core::Thing& thing);    ///< double-clicked, or Enter: to be edited
    void menuWanted(const core::Thing& thing, const QPoint& globalPosition);
    void sheetMenuWanted(app::Act act, const QPoint& globalPosition); ///< over a place that only acts

protected:
    virtual void paintContent(Canvas& canvas) = 0;
    /// A click on a place; the default selects it.
    virtual void clicked(const Hit& hit);

    void paintEvent(QPaintEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    /// Turns the list under the pointer; false: there is none, or it shows all.
    bool turnList(const QPointF& at, int rows);
    /// What a list itself answers to: its heads and its bar.
    bool pressList(const Hit& hit, const QPointF& at);
    /// The figure after @p from, or before it; of none the first, or the last.
    struct Step {
        Hit to;
        bool around = false; ///< past the end, and on from the other
    };
    [[nodiscard]] std::optional<Step> stepFrom(const core::Thing& from, int direction);
    [[nodiscard]] std::optional<Hit> endOfList(const QString& id, bool last);
    /// The list a place lies in; empty: none.
    [[nodiscard]] QString listAt(const QRectF& place) const;
    [[nodiscard]] QString listOf(const core::Thing& thing);
    bool turn(const QString& list, int rows);
    [[nodiscard]] const Places& figuresInOrder();
    void typeFilter(const Hit& hit);
    void mousePressEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void contextMenuEvent(QContextMenuEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;
    bool event(QEvent* event) override;

    void hover(const Hit* hit);
    /// The project or its results are others: refreshes what the panel keeps of them, and paints.
    void paintAnew();
    virtual void refreshKept() {}
    /// Beside the sheet: painted in the frame after it, so that what was changed is seen in the first.
    void setAside() { m_isAside = true; }

    Context& m_context;
    Places m_hits;
    Handle m_hoveredHandle;
    bool m_isAside = false;
    QTimer m_nextFrame;
    ListLook m_lists;
    Places m_order;                    ///< what J and K step through; empty: to be found anew
    std::vector<core::Thing> m_listed; ///< things of all rows of the lists, as m_order was found
    QString m_draggedList;
    bool m_ring = false; ///< the focus came by keyboard
};

} // namespace app
