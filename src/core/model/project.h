// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/shared_list.h"
#include "core/model/change.h"
#include "core/model/part.h"
#include "core/model/run.h"

namespace core {

enum class TargetKind { Temperature, Noise, Clock, Gap, Volume, Mass, Cost, Power };

/// One thing the computer must hold. Units by kind: °C, dB(A), MHz, mm, litre, gram, money, W.
struct Target {
    std::string id;
    std::string name;
    TargetKind kind = TargetKind::Temperature;
    std::string subject; ///< mount of the part meant (temperature, clock); else empty
    double limit = 0;    ///< at most; clock and gap: at least
    friend bool operator==(const Target&, const Target&) = default;
};

[[nodiscard]] std::string_view targetWord(TargetKind kind);
[[nodiscard]] std::optional<TargetKind> targetFromWord(std::string_view word);
[[nodiscard]] std::string_view targetUnit(TargetKind kind);
/// The quantity a target is shown as; its headroom, where that is a difference of temperatures.
[[nodiscard]] Quantity quantityOf(TargetKind kind);
[[nodiscard]] Quantity headroomOf(TargetKind kind);
/// True when the target is a floor ("at least") and not a cap.
[[nodiscard]] constexpr bool isFloor(TargetKind kind) { return kind == TargetKind::Clock || kind == TargetKind::Gap; }

/// What a part draws under a load, instead of a share of its rated power.
struct LoadPower {
    std::string mount;
    double watts = 0;
    friend bool operator==(const LoadPower&, const LoadPower&) = default;
};

/// How hard the machine works: shares of the rated power of the parts.
struct Load {
    std::string id;
    std::string name;
    double processorShare = 1.0;   ///< 0..2
    double cardShare = 1.0;        ///< 0..2
    std::vector<LoadPower> powers; ///< of single parts; they go before the shares
    friend bool operator==(const Load&, const Load&) = default;
};

struct Brief {
    std::string purpose;
    double roomC = 23.0;    ///< reference room temperature
    double hottestC = 0;    ///< of the room, at which it must still hold; 0: not stated
    double listenerM = 1.0; ///< distance at which noise is judged
    double altitudeM = 0.0;
    std::string load; ///< id of the load that the targets are judged at
    std::vector<Target> targets;
    std::array<double, 3> carryBoxMm{}; ///< inner size of the box it is carried in; 0: none
    friend bool operator==(const Brief&, const Brief&) = default;
};

/// A need that the user sets instead of the one of a clearance rule.
struct NeedOverride {
    std::string rule; ///< id of a clearance rule
    double needMm = 0;
    std::string note; ///< why
    friend bool operator==(const NeedOverride&, const NeedOverride&) = default;
};

/// What a value of the air network is.
enum class AirQuantity { Linear, Quadratic, Height, FreeFlow, Shutoff, Heat, Wall, Die, Sink, Natural };

/// A value of the air network that the user sets instead of the one that follows from the description.
struct AirValue {
    std::string element; ///< of the network, as `air --network` names it
    AirQuantity quantity = AirQuantity::Quadratic;
    double value = 0;
    std::string note; ///< why
    friend bool operator==(const AirValue&, const AirValue&) = default;
};

/// The printer that made parts must fit.
struct Printer {
    std::array<double, 3> bedMm{220, 220, 240};
    double flowMm3s = 9.0; ///< volume of plastic a second, averaged over a print
    double pricePerKg = 25.0;
    double borderMm = 5.0; ///< of the bed that is left free on each side
    friend bool operator==(const Printer&, const Printer&) = default;
};

/// What a link was seen to run at, by the tool that reads it.
struct ObservedLink {
    std::string mount; ///< of the part at its end
    int generation = 0;
    int lanes = 0;
    friend bool operator==(const ObservedLink&, const ObservedLink&) = default;
};

struct Revision {
    std::string id;
    std::string parent; ///< empty for the first
    std::vector<Change> changes;
    std::string note;
    bool validated = false;
    std::vector<ObservedLink> observed; ///< on the built machine
    friend bool operator==(const Revision&, const Revision&) = default;
};

struct Project {
    std::string id; ///< made once for a new project; empty in files written by hand
    std::string name;
    std::string currency = "EUR";
    bool simulation = false; ///< says of itself that it is one: its simulated runs count
    Brief brief;
    Printer printer;
    std::vector<Load> loads;
    std::vector<NeedOverride> needs;
    std::vector<AirValue> airValues;
    SharedList<Part> shelf;
    SharedList<Revision> revisions;
    std::string baseline; ///< revision id or empty
    SharedList<Run> runs;
    friend bool operator==(const Project&, const Project&) = default;

    [[nodiscard]] const Part* part(std::string_view id) const;
    [[nodiscard]] const Revision* revision(std::string_view id) const;
    [[nodiscard]] const Load* load(std::string_view id) const;
    [[nodiscard]] const Run* run(std::string_view id) const;
};

/// What each change of a revision does, in words.
[[nodiscard]] Sentences describe(const Revision& revision, const Project& project);

} // namespace core

// Compiled once, in project.cpp.
extern template class std::vector<core::Target>;
extern template class std::vector<core::Load>;
extern template class std::vector<core::NeedOverride>;
extern template class std::vector<core::AirValue>;
extern template class std::vector<core::ObservedLink>;
