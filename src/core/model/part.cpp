// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/part.h"

#include "core/model/fields/choices_of.h"

namespace core {
Spec::Spec() = default;
Spec::Spec(const Spec& other) = default;
Spec::Spec(Spec&& other) noexcept = default;
Spec& Spec::operator=(const Spec& other) = default;
Spec& Spec::operator=(Spec&& other) noexcept = default;
Spec::~Spec() = default;
bool operator==(const Spec& a, const Spec& b) {
    return static_cast<const AnySpec&>(a) == static_cast<const AnySpec&>(b);
}

std::string_view kindWord(PartKind kind) { return choiceWord(kind); }
std::optional<PartKind> kindFromWord(std::string_view word) { return choiceFrom<PartKind>(word); }
std::string_view sideWord(Side side) { return choiceWord(side); }
std::optional<Side> sideFromWord(std::string_view word) { return choiceFrom<Side>(word); }

std::string directionWord(Direction direction) {
    return {direction.sign > 0 ? '+' : '-', static_cast<char>('x' + static_cast<int>(direction.axis))};
}

std::optional<Direction> directionFromWord(std::string_view word) {
    if (word.size() != 2 || (word[0] != '+' && word[0] != '-') || word[1] < 'x' || word[1] > 'z')
        return std::nullopt;
    return Direction{static_cast<Axis>(word[1] - 'x'), word[0] == '+' ? 1 : -1};
}

Direction outward(Side side) {
    switch (side) {
    case Side::Left:
        return {Axis::X, -1};
    case Side::Right:
        return {Axis::X, 1};
    case Side::Front:
        return {Axis::Y, -1};
    case Side::Rear:
        return {Axis::Y, 1};
    case Side::Bottom:
        return {Axis::Z, -1};
    case Side::Top:
        return {Axis::Z, 1};
    }
    return {};
}

Side sideOf(Direction direction) {
    constexpr std::array<std::array<Side, 2>, 3> table{
        {{Side::Left, Side::Right}, {Side::Front, Side::Rear}, {Side::Bottom, Side::Top}}};
    return table[index(direction.axis)][direction.sign > 0 ? 1 : 0];
}

std::array<Axis, 2> planeAxes(Side side) {
    switch (outward(side).axis) {
    case Axis::X:
        return {Axis::Y, Axis::Z};
    case Axis::Y:
        return {Axis::X, Axis::Z};
    case Axis::Z:
        break;
    }
    return {Axis::X, Axis::Y};
}

} // namespace core

template class std::vector<core::Body>;
template class std::vector<core::Mount>;
template class std::vector<core::MountVariant>;
template class std::vector<core::Slide>;
template class std::vector<core::Cutout>;
template class std::vector<core::Port>;
template class std::vector<core::Chamber>;
template class std::vector<core::Opening>;
template class std::vector<core::Panel>;
template class std::vector<core::Loss>;
template class std::vector<core::Modification>;
template class std::vector<core::BoardSlot>;
template class std::vector<core::Fastener>;
template class std::vector<core::Part>;
