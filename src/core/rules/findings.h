// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/air/predict.h"
#include "core/base/sentence.h"
#include "core/fit/fit.h"
#include "core/model/thing.h"
#include "core/rules/wiring.h"

namespace core::rules {

enum class Severity { Blocker, Caution, Note };
[[nodiscard]] std::string_view severityWord(Severity severity);
[[nodiscard]] Mark markOf(Severity severity);

enum class Station { Brief, Fit, Air, Make, Bench, Verdict };
[[nodiscard]] std::string_view stationWord(Station station);

/// Something a builder must know: what, by which rule, and what would mend it.
struct Finding {
    std::string id; ///< stable: rule and subject
    Severity severity = Severity::Note;
    Station station = Station::Brief;
    std::string subject; ///< the same as @c about for files and people: mount, gap, plug kind
    Sentence text;
    std::string rule;
    Sentences remedies;
    Thing about; ///< what to show for it: never nothing
};
/// A finding whose id and subject follow from what it is about.
[[nodiscard]] Finding findingAbout(Thing about, std::string rule, Severity severity, Station station, Sentence text,
                                   Sentences remedies);

/// Sum of the sustained draw against what the supply gives.
struct PowerBudget {
    struct Item {
        std::string mount;
        std::string name;
        PartKind kind = PartKind::Board;
        double watts = 0;
    };
    std::vector<Item> items; ///< largest first
    double drawW = 0;
    double supplyW = 0; ///< 0: there is none
    double share = 0;   ///< draw / supply
    double wallW = 0;   ///< with the loss of the supply
    bool brick = false;
};
[[nodiscard]] PowerBudget powerBudget(const Build& build);

/// What plugs into what: per kind how many are offered and taken up.
struct Connectors {
    struct Row {
        std::string kind;
        int given = 0;
        int needed = 0;
        std::vector<std::string> givers;
        std::vector<std::string> takers;
    };
    std::vector<Row> rows;
};
[[nodiscard]] Connectors connectors(const Build& build);

/// Sockets, forms, memory, picture output, plugs, power, links, liquid, leads and modifications: checks of the parts
/// against each other.
[[nodiscard]] std::vector<Finding> compatibility(const Build& build, const Wiring& wiring);
[[nodiscard]] inline std::vector<Finding> compatibility(const Build& build) {
    return compatibility(build, wiring(build));
}
/// Findings made from the gaps.
[[nodiscard]] std::vector<Finding> gapFindings(const fit::FitResult& fit);
/// Findings made from the air: limits of parts, fans that blow against nothing, assumptions.
[[nodiscard]] std::vector<Finding> airFindings(const Build& build, const air::Prediction& prediction);

/// Heaviest first, then by station.
void sortFindings(std::vector<Finding>& findings);

} // namespace core::rules
