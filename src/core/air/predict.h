// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/air/network.h"
#include "core/model/build.h"

#include <memory>

namespace core::air {

struct Conditions {
    double roomC = 23;
    double altitudeM = 0;
    double processorShare = 1;
    double cardShare = 1;
    std::vector<std::string> idle; ///< mounts of what finds no plug: its fan stands still; a card gives off no heat
    std::vector<LoadPower> powers = {}; ///< what single parts draw, instead of the shares
    std::vector<AirValue> own = {};     ///< values of the network that the user sets
    friend bool operator==(const Conditions&, const Conditions&) = default;
};
[[nodiscard]] Conditions conditionsOf(const Project& project, std::string_view loadId = {});

/// What a part draws under these conditions: the watts they state for it, else its share of its rated power.
[[nodiscard]] double wattsOf(const Placed& part, const Conditions& conditions);

enum class FanDirection { In, Out, Inside };

/// What stands before the face of a fan, nearer than a quarter of its frame.
struct Obstacle {
    double gapMm = 0;
    double share = 0; ///< of the face that it covers; 0: nothing stands there
    std::string name; ///< empty: a closed panel
};
/// What it adds to the resistance of a fan of that frame.
[[nodiscard]] Resistance obstacleResistance(const Obstacle& obstacle, double frameMm);

/// What a network element stands for in the build.
struct Compiled {
    Network network;
    struct OpeningBranches {
        std::string opening;
        std::vector<std::size_t> branches;
    };
    std::vector<OpeningBranches> openings;
    /// One fan; where its face looks at several rooms it has a branch to each.
    struct FanBranch {
        std::string mount;
        std::vector<std::size_t> branches;
        std::size_t fan = 0;
        FanFlow flow = FanFlow::In;
        FanDirection direction = FanDirection::Inside;
        Obstacle obstacle;
        std::string opening = {}; ///< that it blows through; empty: none
    };
    std::vector<FanBranch> fans;           ///< case fans and the fans of coolers, cards and supplies
    std::vector<std::size_t> chamberZones; ///< by chamber
    Sentences notes;                       ///< assumptions that the description made necessary
};

/// The air network of a build. No tuning per case; rules in docs/model/air.md.
[[nodiscard]] Compiled compile(const Build& build, const Conditions& conditions);

/// The points of a fan's curve as the law of the network has them; nothing where none are stated.
[[nodiscard]] std::optional<FittedFan> fittedFan(const FanSpec& spec);
/// Rated values of a fan; what its sheet does not state follows from its class at the speed it states.
[[nodiscard]] FanClass fanOf(const Part& part);
/// Of the fan in a supply, by its form.
[[nodiscard]] FanClass supplyFanClass(const PowerSupplySpec& spec);
[[nodiscard]] double supplyFrameMm(const PowerSupplySpec& spec);
/// What generates heat in a processor or card, with its clock; the sink is still to be filled in.
[[nodiscard]] CooledPart processorDie(const Placed& cpu, const Conditions& conditions);
[[nodiscard]] CooledPart cardDie(const Placed& card, const Conditions& conditions, bool runs);

/// The discharge of a slot of a length and width, where it meets a wall at a distance.
struct Jet {
    double lengthMm, widthMm;
    double reach; ///< share of it that still points there
};
[[nodiscard]] Jet jetOnWall(double lengthMm, double slotMm, double wayMm);

/// What an input that is not known exactly (core/air/bands.h) does to each part: by one standard deviation, in the
/// order of Prediction::parts.
struct Influence {
    std::string id;
    Sentence what;
    std::vector<double> kelvin, watts, megahertz;
    std::vector<double> airK; ///< by chamber
};
struct OpeningFlow {
    std::string id;
    std::string name;
    double flowM3h = 0;
    double inM3h = 0;
    double outM3h = 0;
    double airC = 0;
};
struct FanResult {
    std::string id;
    std::string name;
    double rpm = 0;
    double share = 0;
    double flowM3h = 0;
    FanDirection direction = FanDirection::Inside;
    double ratedFlowM3h = 0;
    double airC = 0;      ///< of the air it moves
    double againstPa = 0; ///< pressure of the room it blows into over the one it draws from
    Obstacle obstacle = {};
};
struct ChamberResult {
    std::string id;
    std::string name;
    double airC = 0;
    double pressurePa = 0;
    double bandK = 0; ///< of its air, as of a part
};
struct PartResult {
    std::string id;
    std::string name;
    PartKind kind = PartKind::Processor;
    double temperatureC = 0;
    double powerW = 0;
    double limitC = 0;   ///< 0: none stated
    double clockMhz = 0; ///< 0: has none
    double inletC = 0;
    double sinkC = 0;
    bool throttled = false;
    double bandK = 0;              ///< half width that holds 19 of 20; 0: none was worked out (trials)
    double bandW = 0, bandMhz = 0; ///< of its power and clock; of a part below its limit its power has none
    Sentences weak;                ///< why the band is wider than its inputs make it: the method is uncertain there
};
struct Balance {
    double ratedInM3h = 0, ratedOutM3h = 0, inM3h = 0, outM3h = 0;
    double pressurePa = 0;      ///< over the room, where the case fans blow in or draw: their mean by rated flow
    double unfilteredShare = 0; ///< of the air that comes in, past no dust screen: leaks count
};

/// What a part does with more power than it can hold, for the first seconds of a load after idling.
struct Peak {
    std::string id;
    double watts = 0;
    double seconds = 0;  ///< it may last
    double hottestC = 0; ///< in that time
    double heldS = 0;    ///< until its limit held it back; as long as it may last: it was not
    double clockMhz = 0; ///< before it fell back; 0: has none
};
/// Played from idle. Parts without a peak above their power are not in it.
[[nodiscard]] std::vector<Peak> peaksOf(const Network& network);

/// The network behind a prediction, as it was solved.
struct Solved {
    Compiled compiled;
    Solution solution;
};
/// Prediction of a build at a room temperature and load.
struct Prediction {
    bool converged = false;
    Conditions conditions;
    std::vector<OpeningFlow> openings;
    std::vector<FanResult> fans;
    std::vector<ChamberResult> chambers;
    std::vector<PartResult> parts;
    Balance balance;
    double totalPowerW = 0;
    std::vector<Peak> peaks;              ///< with bands only
    std::shared_ptr<const Solved> solved; ///< with bands only
    Sentences notes;
    std::vector<Influence> influences; ///< what the bands come from, by input; empty: none were worked out

    [[nodiscard]] const PartResult* part(std::string_view mount) const;
};
[[nodiscard]] Prediction predict(const Build& build, const Conditions& conditions);
/// With the band of every part and chamber: one more solve for each input, about a millisecond.
[[nodiscard]] Prediction predictWithBands(const Build& build, const Conditions& conditions);
[[nodiscard]] Prediction summarise(const Build& build, const Conditions& conditions, const Compiled& compiled,
                                   const Solution& solution);

} // namespace core::air
