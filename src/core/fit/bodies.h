// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/build.h"

namespace core::fit {

using Point = std::array<double, 3>; ///< case coordinates, mm
/// Columns are the own axes of a primitive in the case.
using Turn = std::array<std::array<double, 3>, 3>;
constexpr Turn noTurn{{{1, 0, 0}, {0, 1, 0}, {0, 0, 1}}};

/// A convex piece: a box, or a cylinder along its own z.
struct Primitive {
    Shape shape = Shape::Box;
    Point centre{};
    Point half{}; ///< cylinder: radius, radius, half length
    Turn turn = noTurn;
};

/// A body or keep-out of a placed part in case coordinates.
struct PlacedBody {
    std::size_t placed = 0;
    const Body* body = nullptr; ///< null: the whole part, or a plug
    const Port* port = nullptr; ///< the plug of this socket
    BodyRole role = BodyRole::Solid;
    Use use = Use::Plug;
    Shape shape = Shape::Box;
    Axis along = Axis::Z;              ///< of a cylinder, in the case
    std::array<Length, 3> low, high;   ///< the box around it
    std::vector<Primitive> primitives; ///< empty: it is the box itself

    [[nodiscard]] bool isBox() const { return primitives.empty(); }
};

/// All bodies and keep-outs of a build: parts, their plugs, plates with holes in pieces, tubes and ribbons in short
/// legs.
[[nodiscard]] std::vector<PlacedBody> bodiesOf(const Build& build);
/// Those of one placed part.
[[nodiscard]] std::vector<PlacedBody> bodiesOf(const Build& build, std::size_t placed);
/// The pieces of a body; for a box the box itself.
[[nodiscard]] std::vector<Primitive> primitivesOf(const PlacedBody& body);

/// The least bend radius that a route leaves room for, mm: at each corner the legs limit the arc. Infinite when
/// straight.
[[nodiscard]] double tightestBend(const std::vector<Point>& route);

/// A way with something swept along it: a tube, or a ribbon that lies flat on the plane of its bends.
struct Swept {
    Shape shape = Shape::Tube;
    double widthMm = 0;
    double thicknessMm = 0;
    double bendMm = 0;   ///< corners are rounded with it, as far as the legs allow
    Point flat{0, 0, 1}; ///< across a straight ribbon
};
/// Its pieces along @p route, mm.
[[nodiscard]] std::vector<Primitive> sweep(const std::vector<Point>& route, const Swept& what);

/// Room of a plug over its socket, in the part's own axes: its low corner from the middle of the socket, and its size.
struct PlugRoom {
    Point low{};
    Point size{};
};
[[nodiscard]] std::optional<PlugRoom> plugRoom(const Port& port);

} // namespace core::fit
