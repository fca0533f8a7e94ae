// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/box_snaps.h"

#include "core/model/standard_sizes.h"

#include <algorithm>
#include <cmath>

namespace core::box {
namespace {

/// A thing along one axis.
struct Span {
    double low = 0, high = 0;
    std::size_t at = 0; ///< in itemsOf()
    [[nodiscard]] double middle() const { return (low + high) / 2; }
};

double frameOf(const Part& part, const Item& item) {
    return item.kind == Kind::Place ? part.mounts[item.index].frameMm : 0;
}

class Snapping {
public:
    Snapping(const Part& part, const Item& item, Axis axis, const std::vector<Extent>& extents)
        : m_part(part), m_item(item), m_axis(index(axis)), m_extents(extents), m_items(itemsOf(part)) {
        for (std::size_t i = 0; i < m_items.size() && i < extents.size(); ++i)
            if (m_items[i] == item)
                m_own = span(i);
    }
    std::vector<Snap> run() {
        if (m_item.kind != Kind::Vent && m_item.kind != Kind::Place)
            return {};
        std::vector<Span> others;
        for (std::size_t i = 0; i < m_items.size() && i < m_extents.size(); ++i)
            if (isBeside(m_items[i]) && !(m_items[i] == m_item))
                others.push_back(span(i));
        std::sort(others.begin(), others.end(), [](const Span& a, const Span& b) { return a.middle() < b.middle(); });
        equalGaps(others);
        inARow(others);
        onHoles(others);
        return std::move(m_all);
    }

private:
    [[nodiscard]] Span span(std::size_t i) const { return {m_extents[i].low[m_axis], m_extents[i].high[m_axis], i}; }
    /// Of its kind, and in its wall.
    [[nodiscard]] bool isBeside(const Item& other) const {
        if (other.kind != m_item.kind)
            return false;
        const auto& openings = std::get<CaseSpec>(m_part.spec).openings;
        return other.kind != Kind::Vent || openings[other.index].side == openings[m_item.index].side;
    }
    void offer(double mm, Sentence why) { m_all.push_back({mm, std::move(why)}); }

    void equalGaps(const std::vector<Span>& others) {
        const double whole = m_part.size[m_axis].value.mm(), middle = m_own.middle();
        double below = 0, above = whole;
        for (const Span& s : others) {
            if (s.middle() < middle)
                below = std::max(below, s.high);
            else
                above = std::min(above, s.low);
        }
        if (above - below >= m_own.high - m_own.low)
            offer((below + above) / 2, say("Equal gaps on both sides"));
    }
    void inARow(const std::vector<Span>& others) {
        for (std::size_t i = 0; i + 1 < others.size(); ++i) {
            const double step = others[i + 1].middle() - others[i].middle();
            if (step < 1)
                continue;
            offer(others[i + 1].middle() + step, say("As far apart as the others"));
            offer(others[i].middle() - step, say("As far apart as the others"));
        }
    }
    void onHoles(const std::vector<Span>& others) {
        const double own = holePitchMm(frameOf(m_part, m_item)) / 2;
        for (const Span& s : others) {
            const Item& other = m_items[s.at];
            const double pitch = holePitchMm(frameOf(m_part, other)) / 2;
            if (own <= 0 || pitch <= 0)
                continue;
            for (const double theirs : {-pitch, pitch})
                for (const double mine : {-own, own})
                    offer(s.middle() + theirs - mine, say("On the screw holes of {}", nameOf(m_part, other)));
        }
    }

    const Part& m_part;
    const Item m_item;
    const std::size_t m_axis;
    const std::vector<Extent>& m_extents;
    const std::vector<Item> m_items;
    Span m_own;
    std::vector<Snap> m_all;
};

} // namespace

std::vector<Snap> snapsOf(const Part& part, const Item& item, Axis axis, const std::vector<Extent>& extents) {
    return Snapping(part, item, axis, extents).run();
}

double holePitchMm(double frameMm) {
    for (const StandardSize& s : standardSizes())
        if (s.kind == PartKind::Fan && std::abs(s.sizeMm[0] - frameMm) < 0.5)
            return s.holesMm[0];
    return 0;
}

} // namespace core::box
