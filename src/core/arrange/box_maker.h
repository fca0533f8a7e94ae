// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/arrange/arrangement.h"

namespace core::arrange {

constexpr Direction right{Axis::X, 1}, left{Axis::X, -1}, front{Axis::Y, -1}, rear{Axis::Y, 1}, up{Axis::Z, 1},
    down{Axis::Z, -1};

/// An offset that an arrangement takes for usual: an estimate until it is measured.
[[nodiscard]] Offset low(double mm);
[[nodiscard]] Offset high(double mm);
[[nodiscard]] Offset middle(double mm);

/// Puts a box together, thing by thing. Lengths in mm, in the axes of the case: x from left to right, y from front to
/// rear, z from the floor up.
class BoxMaker {
public:
    BoxMaker(const Sizes& sizes, std::string_view way);

    /// Inner sizes, and the size of that index.
    double w, d, h;
    [[nodiscard]] double size(std::size_t i) const { return m_sizes.mm(i); }
    [[nodiscard]] bool is(std::string_view way) const { return m_way == way; }

    void chamber(std::string_view id, std::string_view name, std::array<double, 3> from, std::array<double, 3> to);
    Mount& place(std::string_view id, std::string_view name, PartKind takes, std::array<Offset, 3> at, Direction facing,
                 Direction upwards);
    /// A rectangle of a panel that air may pass, @p at its middle in the plane of the panel.
    Opening& vent(std::string_view id, std::string_view name, Side side, std::string_view chamber,
                  std::array<double, 2> at, std::array<double, 2> size, double openShare = 0.5);
    /// A fan place behind a panel, and the round vent before it.
    void fan(std::string_view id, std::string_view name, Side side, std::string_view chamber, std::array<double, 2> at,
             double frame);
    /// A hole from one chamber to the next, in a panel of theirs that faces @p side.
    void hole(std::string_view id, std::string_view name, Side side, std::string_view chamber, std::string_view to,
              std::array<double, 2> at, std::array<double, 2> size);
    /// An inner panel: a sheet whose thinnest size stands across @p facing.
    void panel(std::string_view id, std::string_view name, std::array<double, 3> at, std::array<double, 3> size,
               Axis across);
    CaseSpec& spec() { return m_spec; }
    [[nodiscard]] Box done() &&;

private:
    const Sizes& m_sizes;
    std::string_view m_way;
    Box m_box;
    CaseSpec m_spec;
};

} // namespace core::arrange
