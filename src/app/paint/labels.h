// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QRectF>

#include <optional>
#include <vector>

namespace app {

/// Where words may stand on a drawing. What is drawn already is kept off, and each label that is placed keeps the next
/// ones off, so that nothing covers a label, the gap it measures, a corner or a name.
class Labels {
public:
    explicit Labels(const QRectF& room = {}) : m_room(room) {}

    void keepOff(const QRectF& r) { m_taken.push_back(r); }
    /// Whether a rectangle lies in the room, @p apart px from all that is there.
    [[nodiscard]] bool isFree(const QRectF& r, double apart = 0) const;
    /// The free place nearest to @p near, the middle of which lies within @p reach px; of places alike near the upper,
    /// then the left.
    /// @p within a smaller room; null: the whole. The place is taken by it. Nothing: there is none.
    std::optional<QRectF> place(const QSizeF& size, const QPointF& near, double reach = 130, const QRectF& within = {});
    /// The same for a label with a leader from @p from: its line crosses nothing that is there, where such a place is
    /// free.
    std::optional<QRectF> placeLed(const QSizeF& size, const QPointF& near, const QPointF& from, double reach = 130,
                                   const QRectF& within = {});
    [[nodiscard]] const std::vector<QRectF>& taken() const { return m_taken; }

private:
    [[nodiscard]] bool crosses(const QPointF& from, const QPointF& to) const;
    std::optional<QRectF> find(const QSizeF& size, const QPointF& near, double reach, const QRectF& within,
                               const QPointF* from);
    QRectF m_room;
    std::vector<QRectF> m_taken;
};

} // namespace app
