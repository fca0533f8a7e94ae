// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/error.h"
#include "core/model/part.h"

#include <array>
#include <compare>
#include <cstddef>
#include <functional>
#include <optional>
#include <string>
#include <string_view>
#include <variant>

namespace core {

// What can be meant: pointed at, selected, told about by a finding, worked out. Each kind is a small value that names
// its thing by the ids of the project, never by words made for people.

struct PartRef {
    std::string mount;
    auto operator<=>(const PartRef&) const = default;
}; ///< the part at a mount
struct FanRef {
    std::string mount;
    auto operator<=>(const FanRef&) const = default;
}; ///< a fan as what moves air
/// One end of a gap. @c mount empty: the case. @c item: the body, plug or wall; empty: the whole part.
struct GapEndRef {
    std::string mount, item;
    auto operator<=>(const GapEndRef&) const = default;
};
/// A clearance. @c copy tells apart gaps of the same ends, from 1 on.
struct GapRef {
    std::array<GapEndRef, 2> ends;
    Axis axis = Axis::X;
    int copy = 1;
    auto operator<=>(const GapRef&) const = default;
};
struct OpeningRef {
    std::string id;
    auto operator<=>(const OpeningRef&) const = default;
};
struct ChamberRef {
    std::string id;
    auto operator<=>(const ChamberRef&) const = default;
}; ///< or any zone of the air network
/// A way of air in the network, by its name there.
struct BranchRef {
    std::string name;
    auto operator<=>(const BranchRef&) const = default;
};
/// A socket of a part. @c mount empty: the case. @c number counts from 0 among those of the kind.
struct PortRef {
    std::string mount, kind;
    int number = 0;
    auto operator<=>(const PortRef&) const = default;
};
/// A lead or adapter in use. @c from: the end it is fed at, "mount:port"; empty: it is found where it fits. @c copy
/// tells apart equal ones, from 1 on.
struct LeadRef {
    std::string part, from;
    int copy = 1;
    auto operator<=>(const LeadRef&) const = default;
};
struct TargetRef {
    std::string id, revision;
    auto operator<=>(const TargetRef&) const = default;
}; ///< revision empty: the one looked at
struct RevisionRef {
    std::string id;
    auto operator<=>(const RevisionRef&) const = default;
};
struct RunRef {
    std::string id;
    auto operator<=>(const RunRef&) const = default;
};
struct ChannelRef {
    std::string run, channel;
    auto operator<=>(const ChannelRef&) const = default;
};
/// A step of assembly: the part that is placed (id: its mount), the lead that is plugged in or the modification that is
/// made.
enum class StepKind { Place, Lead, Modify };
struct StepRef {
    StepKind kind = StepKind::Place;
    std::string id, from;
    auto operator<=>(const StepRef&) const = default;
};
struct MadeRef {
    std::string part;
    auto operator<=>(const MadeRef&) const = default;
}; ///< a part that is printed or cut
struct ScrewRef {
    std::string kind;
    auto operator<=>(const ScrewRef&) const = default;
}; ///< screws or inserts of one kind
struct RoomRef {
    std::string mount;
    std::size_t own = 0;
    auto operator<=>(const RoomRef&) const = default;
}; ///< room left along an own axis
struct WayRef {
    std::string mount;
    auto operator<=>(const WayRef&) const = default;
}; ///< the way a part goes in
struct DimensionRef {
    std::string label;
    auto operator<=>(const DimensionRef&) const = default;
}; ///< a size worth a caliper
struct MendRef {
    GapRef gap;
    std::size_t row = 0;
    auto operator<=>(const MendRef&) const = default;
}; ///< what could be changed about a gap

/// A figure of the whole computer.
enum class Total { Noise, Power, Volume, Balance, Mass, Price };
struct TotalRef {
    Total total = Total::Noise;
    auto operator<=>(const TotalRef&) const = default;
};
/// A matter that is no single thing: a part that is missing, the lanes of a chip, a kind of plug, an assumption.
struct TopicRef {
    std::string name;
    auto operator<=>(const TopicRef&) const = default;
};

/// One of them, or nothing.
using AnyThing = std::variant<std::monostate, PartRef, FanRef, GapRef, OpeningRef, ChamberRef, PortRef, LeadRef,
                              TargetRef, RevisionRef, RunRef, ChannelRef, StepRef, MadeRef, ScrewRef, RoomRef, WayRef,
                              DimensionRef, MendRef, TotalRef, TopicRef, BranchRef>;
/// A class of its own for the same reason as Change: copying and comparing twenty kinds is compiled once.
struct Thing : AnyThing {
    using AnyThing::AnyThing;
    Thing();
    Thing(const Thing& other);
    Thing(Thing&& other) noexcept;
    Thing& operator=(const Thing& other);
    Thing& operator=(Thing&& other) noexcept;
    ~Thing();
    friend bool operator==(const Thing& a, const Thing& b);
    friend std::strong_ordering operator<=>(const Thing& a, const Thing& b);
};

[[nodiscard]] inline bool isNothing(const Thing& thing) { return std::holds_alternative<std::monostate>(thing); }
[[nodiscard]] std::string_view totalWord(Total total); ///< "noise", "power", ...

/// "part:tray/cpu", "gap:tray/cpu#lid|#right wall|x", "noise": the one text form, for files, the command line and
/// tests. The kind, a colon and the fields between bars; %, |, # and control characters inside a field as %25. Nothing:
/// empty.
[[nodiscard]] std::string textOf(const Thing& thing);
/// Reads textOf() back. Errors: an unknown kind, too few or too many fields, a number or axis that is none.
[[nodiscard]] Result<Thing> thingFrom(std::string_view text);

/// The mount that a thing is at; empty: it is at none.
[[nodiscard]] std::string_view mountOf(const Thing& thing);
/// The id by which files name a thing: mount, opening, target, run; the name of a topic.
[[nodiscard]] std::string subjectOf(const Thing& thing);

} // namespace core

template <> struct std::hash<core::Thing> { std::size_t operator()(const core::Thing& thing) const noexcept; };
