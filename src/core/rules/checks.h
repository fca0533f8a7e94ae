// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/rules/findings.h"

namespace core::rules {

/// What the checks of a build look at, and where they put what they find. One function a group of rules.
struct Checks {
    const Build& build;
    const Wiring& wiring;
    std::vector<Finding>& findings;

    /// Of the part at a mount.
    void add(std::string rule, Severity severity, const std::string& mount, Sentence text, Sentences remedies,
             Station station = Station::Brief) const {
        add(std::move(rule), severity, partOrCase(mount), std::move(text), std::move(remedies), station);
        findings.back().subject = mount;
    }
    void add(std::string rule, Severity severity, Thing about, Sentence text, Sentences remedies,
             Station station = Station::Brief) const {
        findings.push_back(
            findingAbout(std::move(about), std::move(rule), severity, station, std::move(text), std::move(remedies)));
    }
    /// A bare case with its inner panels asks for nothing yet.
    [[nodiscard]] bool isBegun() const {
        return std::any_of(build.placed.begin(), build.placed.end(),
                           [](const Placed& p) { return p.part->kind != PartKind::Made; });
    }
    /// Of the draw of the whole computer, told at its supply.
    void addPower(std::string rule, Severity severity, const Placed& supply, Sentence text, Sentences remedies) const {
        add(std::move(rule), severity, supply.mount, std::move(text), std::move(remedies));
        findings.back().about = TotalRef{Total::Power};
    }
    template <class S> [[nodiscard]] const S* specOf(PartKind kind, const Placed** where = nullptr) const {
        const Placed* p = build.firstOf(kind);
        if (where)
            *where = p;
        return p ? &std::get<S>(p->part->spec) : nullptr;
    }
};

void checkParts(const Checks& c);   ///< sockets, kits, forms, picture
void checkMemory(const Checks& c);  ///< kind, slots, which to fill first
void checkPlugs(const Checks& c);   ///< what is short, fan headers, families of modular leads, moulded adapters
void checkPower(const Checks& c);   ///< sum, peaks, rail, capacity of plugs
void checkLinks(const Checks& c);   ///< chains of lanes and their budget
void checkLiquid(const Checks& c);  ///< metals, pump, screws into a radiator, bends of tubes and risers
void checkMissing(const Checks& c); ///< parts, plugs and places that nobody stated: what is not there or not looked at
void checkCase(
    const Checks& c); ///< what the case takes and shows: supply form, slot covers, risers, the side it stands on
void checkCutouts(const Checks& c); ///< fans and radiators over their openings, frames on other places
void checkLeads(const Checks& c);   ///< cable lengths, modifications of the case

} // namespace core::rules
