// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/text.h"
#include "core/model/build.h"

#include "core/model/differences.h"
#include "core/model/ranges.h"

#include <set>

namespace core {
namespace {

class Validator {
public:
    Validator(const Project& project, const Project* sound) : m_project(project), m_sound(sound) {}

    std::vector<Problem> run() {
        checkRanges(
            m_project, [this](Problem p) { add(std::move(p)); }, m_sound);
        if (!m_problems.empty())
            return std::move(m_problems); // numbers that mean nothing are not resolved
        checkIds("shelf", m_project.shelf);
        checkIds("revisions", m_project.revisions);
        checkIds("runs", m_project.runs);
        checkIds("loads", m_project.loads);
        checkIds("brief.targets", m_project.brief.targets);
        checkLoads();
        checkBrief();
        for (std::size_t i = 0; i < m_project.shelf.size(); ++i)
            if (!m_sound || !m_project.shelf.isSame(i, m_sound->shelf))
                checkPart("shelf[" + std::to_string(i) + "]", m_project.shelf[i]);
        if (!m_problems.empty())
            return std::move(m_problems);
        const auto touched = m_sound ? touchedRevisions(*m_sound, m_project) : std::set<std::string>{};
        for (const Revision& revision : m_project.revisions)
            if (m_sound && !touched.contains(revision.id))
                continue;
            else if (const auto build = resolve(m_project, revision.id); !build)
                add(build.error());
        if (!m_project.baseline.empty() && !m_project.revision(m_project.baseline))
            add({"baseline", "revision \"" + m_project.baseline + "\" is not there",
                 "name one of the revisions, or leave it out"});
        checkRuns();
        return std::move(m_problems);
    }

private:
    void add(Problem p) {
        if (std::find(m_problems.begin(), m_problems.end(), p) == m_problems.end())
            m_problems.push_back(std::move(p));
    }
    template <class List> void checkIds(const std::string& list, const List& items) {
        std::set<std::string> seen;
        for (std::size_t i = 0; i < items.size(); ++i) {
            const std::string place = list + "[" + std::to_string(i) + "].id";
            if (items[i].id.empty())
                add({place, "the id is empty", "a short name that is used once"});
            else if (!seen.insert(items[i].id).second)
                add({place, "the id \"" + items[i].id + "\" is used twice", "a name of its own"});
        }
    }
    void checkLoads() {
        for (std::size_t i = 0; i < m_project.loads.size(); ++i) {
            std::set<std::string> seen;
            const auto& powers = m_project.loads[i].powers;
            for (std::size_t k = 0; k < powers.size(); ++k)
                if (!seen.insert(powers[k].mount).second)
                    add({"loads[" + std::to_string(i) + "].powers[" + std::to_string(k) + "].mount",
                         "the watts of \"" + powers[k].mount + "\" are stated twice", "one of them"});
        }
    }
    void checkBrief() {
        if (!m_project.brief.load.empty() && !m_project.load(m_project.brief.load))
            add({"brief.load", "load \"" + m_project.brief.load + "\" is not there", "name one of the loads"});
    }
    /// What a size must be at least depends on what it is the size of; its field only knows the largest.
    void checkSizes(const std::string& place, const Part& part) {
        const bool isLead =
            part.kind == PartKind::Adapter || part.kind == PartKind::Cable; // they have no place, and so no size
        const double least = part.kind == PartKind::Fan ? 3 : isLead ? 0 : 0.01;
        const auto check = [&](const std::string& at, const Measure& m, double low) {
            if (m.value.mm() < low)
                add({at, "the value " + shortest(m.value.mm()) + " mm is out of range",
                     "from " + shortest(low) + " to 2000 mm"});
        };
        for (std::size_t a = 0; a < 3; ++a)
            check(place + ".size_mm[" + std::to_string(a) + "]", part.size[a], least);
        for (std::size_t i = 0; i < part.bodies.size(); ++i)
            for (std::size_t a = 0; a < 3; ++a)
                check(place + ".bodies[" + std::to_string(i) + "].size_mm[" + std::to_string(a) + "]",
                      part.bodies[i].size[a], isRun(part.bodies[i]) && a == 2 ? 0 : 0.01);
        for (const Mount& m : part.mounts)
            for (const Slide& s : m.slides)
                if (s.stepMm > 0 && (s.toMm - s.fromMm) / s.stepMm > 10000)
                    add({place + ".mounts " + m.id + ", slides", "more than 10 000 steps",
                         "a larger step_mm, or 0 for anywhere between"});
    }
    static bool isRun(const Body& body) { return body.shape == Shape::Tube || body.shape == Shape::Ribbon; }
    void checkPart(const std::string& place, const Part& part) {
        checkSizes(place + " (" + part.id + ")", part);
        for (const Body& body : part.bodies)
            if (isRun(body) && body.routeMm.size() < 2)
                add({place + " (" + part.id + ").bodies " + body.name + ".route_mm", "a run has fewer than two points",
                     "the points of its middle line"});
        if (const auto* fan = std::get_if<FanSpec>(&part.spec))
            checkFanCurve(place + " (" + part.id + ").fan.curve", fan->curve);
        checkPorts(place + " (" + part.id + ")", part);
        checkIds(place + ".mounts", part.mounts);
        for (std::size_t i = 0; i < part.mounts.size(); ++i)
            checkIds(place + ".mounts[" + std::to_string(i) + "].variants", part.mounts[i].variants);
        if (const auto* spec = std::get_if<CaseSpec>(&part.spec)) {
            checkIds(place + ".case.chambers", spec->chambers);
            checkIds(place + ".case.openings", spec->openings);
            checkIds(place + ".case.modifications", spec->modifications);
        }
        if (part.kind == PartKind::Case)
            checkCase(place + " (" + part.id + ")", std::get<CaseSpec>(part.spec));
    }
    void checkFanCurve(const std::string& place, const std::vector<FanPoint>& curve) {
        for (std::size_t i = 1; i < curve.size(); ++i)
            if (curve[i].flowM3s <= curve[i - 1].flowM3s)
                return add({place + "[" + std::to_string(i) + "]",
                            "the flow " + shortest(curve[i].flowM3s) + " m³/s does not rise",
                            "points in the order of their flows, each once"});
        if (curve.size() == 1 || (!curve.empty() && curve.back().pressurePa >= curve.front().pressurePa))
            add({place, "the pressure does not fall from its first point to its last",
                 "two points or more, from no flow to free flow"});
    }
    void checkPorts(const std::string& place, const Part& part) {
        std::set<std::string> seen;
        for (const Port& port : part.ports) {
            if (port.id.empty() || !seen.insert(port.id).second)
                add({place + ".ports", "the id \"" + port.id + "\" is empty or used twice", "a name of its own"});
            if (port.plug == PlugStyle::Angled && port.towards.axis == port.out.axis)
                add({place + ".ports " + port.id, "an angled plug cannot leave along its own socket",
                     "a direction across it"});
        }
    }
    void checkCase(const std::string& place, const CaseSpec& spec) {
        constexpr std::size_t mostChambers = 64;
        if (spec.chambers.size() > mostChambers)
            add({place + ".chambers", std::to_string(spec.chambers.size()) + " air spaces",
                 "at most " + std::to_string(mostChambers)});
        if (spec.chambers.empty())
            add({place + ".chambers", "the case has no chamber", "at least one air space with its corners"});
        for (const Chamber& c : spec.chambers)
            for (std::size_t a = 0; a < 3; ++a)
                if (!(c.highMm[a] > c.lowMm[a]))
                    add({place + ".chambers " + c.id, "its high corner is not beyond its low corner",
                         "larger numbers in high_mm"});
        for (const Opening& o : spec.openings) {
            const std::string at = place + ".openings " + o.id;
            if (std::none_of(spec.chambers.begin(), spec.chambers.end(),
                             [&](const Chamber& c) { return c.id == o.chamber; }))
                add({at, "chamber \"" + o.chamber + "\" is not there", "name one of the case's chambers"});
            if (!o.to.empty() && std::none_of(spec.chambers.begin(), spec.chambers.end(),
                                              [&](const Chamber& c) { return c.id == o.to; }))
                add({at + ", to", "chamber \"" + o.to + "\" is not there",
                     "name one of the case's chambers, or leave it out for the outside"});
        }
    }
    void checkRuns() {
        for (std::size_t i = 0; i < m_project.runs.size(); ++i) {
            const Run& run = m_project.runs[i];
            const std::string place = "run " + run.id;
            if (!m_project.revision(run.revision))
                add({place, "revision \"" + run.revision + "\" is not there", "name one of the revisions"});
            if (!run.load.empty() && !m_project.load(run.load))
                add({place, "load \"" + run.load + "\" is not there", "name one of the loads"});
            if (run.loadStartS && run.loadEndS && !(*run.loadEndS > *run.loadStartS))
                add({place + ", load_end_s", "the load ends before it starts", "an end after load_start_s"});
            if (m_sound && m_project.runs.isSame(i, m_sound->runs))
                continue;
            for (const Channel& channel : run.samples->channels)
                if (channel.values.size() != run.samples->timeS.size())
                    add({place + ", channel " + channel.name, "it has another length than the time",
                         "one value each row"});
        }
    }

    const Project& m_project;
    const Project* m_sound;
    std::vector<Problem> m_problems;
};

} // namespace

std::vector<Problem> validate(const Project& project) { return Validator(project, nullptr).run(); }

std::vector<Problem> validateEdit(const Project& project, const Project& sound) {
    return Validator(project, &sound).run();
}

} // namespace core
