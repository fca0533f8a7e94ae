// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/paint/hit.h"

#include <functional>
#include <map>
#include <optional>
#include <variant>
#include <vector>

namespace app {

class Canvas;

/// How a list is looked at: kept by the panel that shows it, so that every list scrolls and sorts alike.
struct ListState {
    std::size_t top = 0; ///< first row in sight
    int column = -1;     ///< sorted by; -1: in its own order
    bool descending = false;
    core::Thing selected;            ///< the row that was brought into sight last
    std::optional<std::size_t> kept; ///< the row that keepInSight() brought into sight last
    QString filter;                  ///< only rows whose words hold this
};
/// Where a list stood when it was painted.
struct ListPlace {
    QString id;
    QRectF rect;
    std::size_t rows = 0, shown = 0;
    std::vector<core::Thing> things = {}; ///< of all rows, also those out of sight; where they were asked for
};
struct ListLook {
    std::map<QString, ListState> states;
    std::vector<ListPlace> places;
    bool asksThings = false; ///< each list says what all of its rows are of
    /// Moves a list by rows; answers whether it moved.
    bool scroll(const QString& id, int rows);
    void scrollTo(const QString& id, double share);
    void sortBy(const QString& id, int column);
    [[nodiscard]] const ListPlace* at(const QPointF& point) const;
};

/// A head over one column of a list; sorts by it when it is clicked.
struct ListColumn {
    QString name;
    double left = 0, right = 0;
    Qt::Alignment align = Qt::AlignLeft;
};
using SortKey = std::variant<double, QString>;

/// Rows under a head that stays, with a bar at the right where there are more rows than room. Nothing is cut in
/// silence: on paper, where nothing scrolls, the last row says how many follow.
class PaintedList {
public:
    /// @p heads 0 or more columns; @p r with the head; rows are @p rowHeight high.
    PaintedList(Canvas& c, QString id, const QRectF& r, std::size_t rows, double rowHeight,
                std::vector<ListColumn> heads = {});
    /// Leaves out the rows whose words do not hold what was typed, and paints where to type it: at @p control, where
    /// there are more rows than are seen at a glance. Call before sort().
    void filter(const QRectF& control, const std::function<QString(std::size_t row)>& wordsOf);
    /// Sorts by the head that was clicked; call before paint().
    void sort(const std::function<SortKey(std::size_t row, int column)>& keyOf);
    /// Brings the row with the selected key into sight when the selection has moved.
    void follow(const std::function<core::Thing(std::size_t row)>& thingOf);
    /// Brings @p row into sight whenever it is another one than before, whatever is selected.
    void keepInSight(std::size_t row);
    /// Calls @p paint for each row in sight, then paints the bar.
    void paint(const std::function<void(std::size_t row, const QRectF& place)>& paint);
    /// Right end of the rows, left of the bar.
    [[nodiscard]] double right() const { return m_body.right(); }

private:
    [[nodiscard]] std::size_t room() const; ///< for so many rows
    void bringIntoSight(std::size_t place); ///< in the order that is shown
    void paintBar(std::size_t top, std::size_t shown);
    Canvas& m_c;
    QString m_id;
    QRectF m_body;
    double m_rowHeight;
    std::vector<ListColumn> m_heads;
    std::vector<std::size_t> m_order;
    std::vector<core::Thing> m_things;
    ListState* m_state = nullptr; ///< null: on paper
};

} // namespace app
