// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/paint/labels.h"
#include "app/paint/stations.h"

namespace app {

/// One cut: which case axes lie across and up the paper, and where the cut is.
struct Section {
    QString letter, words;
    core::Axis across, up, through;
    double at = 0;
    QRectF paper; ///< of the inside of the case
    double scale = 1;
    double titleRoom = 0; ///< width of its title, 0: as wide as the paper
    double titleY = 0;    ///< where its title stands

    [[nodiscard]] QPointF point(const std::array<double, 3>& mm) const {
        return {paper.left() + mm[core::index(across)] * scale, paper.bottom() - mm[core::index(up)] * scale};
    }
    [[nodiscard]] QRectF rect(const std::array<core::Length, 3>& low, const std::array<core::Length, 3>& high) const {
        const std::array<double, 3> l{low[0].mm(), low[1].mm(), low[2].mm()},
            h{high[0].mm(), high[1].mm(), high[2].mm()};
        return QRectF(point(l), point(h)).normalized();
    }
    /// What a piece looks like along the cut: the hull of its corners or rims.
    [[nodiscard]] QPainterPath outline(const core::fit::Primitive& piece) const;
    [[nodiscard]] QPainterPath outline(const core::fit::PlacedBody& body) const;
    [[nodiscard]] bool cuts(const core::fit::PlacedBody& body) const;
};

/// Walls, parts behind and in the cut with their names, and the slider of the cut under its title.
void paintSection(Canvas& c, const Section& s, const View& v, const FitLook& look,
                  const std::vector<core::fit::PlacedBody>& bodies, Labels& labels);
/// The place of the tick of a gap, before anything is written.
[[nodiscard]] QRectF tickOf(const Section& s, const core::fit::Gap& gap);
/// A thick tick across the gap and its tag; tags keep off each other, off part names and off the ticks of other gaps.
void paintPin(Canvas& c, const Section& s, const core::fit::Gap& gap, std::size_t number, const View& v,
              Labels& labels);
/// Drawn positions of a part on its way in, on the section whose plane the way lies in.
void paintWayIn(Canvas& c, const Section& s, const core::fit::Insertion& way);

} // namespace app
