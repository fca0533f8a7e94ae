// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/build.h"

#include "core/base/text.h"

#include <set>

namespace core {
namespace {

class Validator {
public:
    explicit Validator(const Project& project) : m_project(project) {}

    std::vector<Problem> run() {
        checkIds("shelf", m_project.shelf);
        checkIds("revisions", m_project.revisions);
        checkIds("runs", m_project.runs);
        checkIds("loads", m_project.loads);
        checkIds("brief.targets", m_project.brief.targets);
        checkBrief();
        for (std::size_t i = 0; i < m_project.shelf.size(); ++i)
            checkPart("shelf[" + std::to_string(i) + "]", m_project.shelf[i]);
        for (const Revision& revision : m_project.revisions)
            if (const auto build = resolve(m_project, revision.id); !build)
                add(build.error());
        if (!m_project.baseline.empty() && !m_project.revision(m_project.baseline))
            add({"baseline", "revision \"" + m_project.baseline + "\" is not there", "name one of the revisions, or leave it out"});
        checkRuns();
        return std::move(m_problems);
    }

private:
    void add(Problem p) {
        if (std::find(m_problems.begin(), m_problems.end(), p) == m_problems.end())
            m_problems.push_back(std::move(p));
    }
    void range(const std::string& place, double value, double low, double high, const char* unit) {
        if (!(value >= low && value <= high))
            add({place, "the value " + shortest(value) + " " + unit + " is out of range", "from " + shortest(low) + " to " + shortest(high) + " " + unit});
    }
    template <class T> void checkIds(const std::string& list, const std::vector<T>& items) {
        std::set<std::string> seen;
        for (std::size_t i = 0; i < items.size(); ++i) {
            const std::string place = list + "[" + std::to_string(i) + "].id";
            if (items[i].id.empty())
                add({place, "the id is empty", "a short name that is used once"});
            else if (!seen.insert(items[i].id).second)
                add({place, "the id \"" + items[i].id + "\" is used twice", "a name of its own"});
        }
    }
    void checkBrief() {
        range("brief.room_c", m_project.brief.roomC, -20, 60, "°C");
        range("brief.listener_m", m_project.brief.listenerM, 0.1, 10, "m");
        range("brief.altitude_m", m_project.brief.altitudeM, -400, 6000, "m");
        for (const double mm : m_project.brief.carryBoxMm)
            range("brief.carry_box_mm", mm, 0, 3000, "mm");
        for (const NeedOverride& need : m_project.needs)
            range("needs " + need.rule + ", need_mm", need.needMm, 0, 200, "mm");
        for (std::size_t a = 0; a < 3; ++a)
            range("printer.bed_mm", m_project.printer.bedMm[a], 10, 2000, "mm");
        range("printer.flow_mm3_s", m_project.printer.flowMm3s, 0.1, 200, "mm³/s");
        if (!m_project.brief.load.empty() && !m_project.load(m_project.brief.load))
            add({"brief.load", "load \"" + m_project.brief.load + "\" is not there", "name one of the loads"});
        for (const Load& load : m_project.loads) {
            range("load " + load.id + ", processor_share", load.processorShare, 0, 2, "");
            range("load " + load.id + ", card_share", load.cardShare, 0, 2, "");
        }
    }
    void checkSize(const std::string& place, const Measure& m, bool mayBeZero) {
        range(place, m.value.mm(), mayBeZero ? 0 : 0.01, 2000, "mm");
        range(place + ", tolerance", m.tolerance.mm(), 0, 100, "mm");
    }
    void checkPart(const std::string& place, const Part& part) {
        const bool flat = part.kind == PartKind::Adapter || part.kind == PartKind::Cable;
        for (std::size_t a = 0; a < 3; ++a)
            checkSize(place + " (" + part.id + ").size_mm", part.size[a], flat);
        range(place + " (" + part.id + ").power_w", part.powerW, 0, 2000, "W");
        range(place + " (" + part.id + ").mass_g", part.massG, 0, 50000, "g");
        range(place + " (" + part.id + ").price", part.price, 0, 1e6, "");
        for (const Body& body : part.bodies)
            checkBody(place + " (" + part.id + ").bodies " + body.name, body);
        checkPorts(place + " (" + part.id + ")", part);
        if (part.link)
            checkLink(place + " (" + part.id + ").link", part.link->generation, part.link->lanes);
        if (part.kind == PartKind::Board)
            for (const BoardSlot& slot : std::get<BoardSpec>(part.spec).laneSlots)
                checkLink(place + " (" + part.id + ").slots " + slot.kind, slot.generation, slot.lanes);
        if (part.kind == PartKind::Cable)
            range(place + " (" + part.id + ").length_mm", std::get<CableSpec>(part.spec).lengthMm, 1, 5000, "mm");
        if (part.kind == PartKind::Case)
            checkCase(place + " (" + part.id + ")", std::get<CaseSpec>(part.spec));
    }
    void checkBody(const std::string& place, const Body& body) {
        const bool run = body.shape == Shape::Tube || body.shape == Shape::Ribbon;
        for (std::size_t a = 0; a < 3; ++a)
            checkSize(place, body.size[a], run && a == 2);
        if (run && body.routeMm.size() < 2)
            add({place + ".route_mm", "a run has fewer than two points", "the points of its middle line"});
        range(place + ".bend_mm", body.bendMm, 0, 500, "mm");
        for (const double degrees : body.turnDeg)
            range(place + ".turn_deg", degrees, -360, 360, "°");
        for (const Cutout& hole : body.cutouts)
            for (std::size_t i = 0; i < 2; ++i)
                range(place + ".cutouts size_mm", hole.sizeMm[i], 0.01, 2000, "mm");
        for (const auto& point : body.routeMm)
            for (const double mm : point)
                range(place + ".route_mm", mm, -2000, 2000, "mm");
    }
    void checkPorts(const std::string& place, const Part& part) {
        std::set<std::string> seen;
        for (const Port& port : part.ports) {
            if (port.id.empty() || !seen.insert(port.id).second)
                add({place + ".ports", "the id \"" + port.id + "\" is empty or used twice", "a name of its own"});
            if (port.plug == PlugStyle::Angled && port.towards.axis == port.out.axis)
                add({place + ".ports " + port.id, "an angled plug cannot leave along its own socket", "a direction across it"});
        }
    }
    void checkLink(const std::string& place, int generation, int lanes) {
        range(place + ", generation", generation, 1, 5, "");
        range(place + ", lanes", lanes, 1, 16, "");
    }
    void checkCase(const std::string& place, const CaseSpec& spec) {
        checkSize(place + ".wall_mm", spec.wall, false);
        if (spec.chambers.empty())
            add({place + ".chambers", "the case has no chamber", "at least one air space with its corners"});
        for (const Chamber& c : spec.chambers)
            for (std::size_t a = 0; a < 3; ++a)
                if (!(c.highMm[a] > c.lowMm[a]))
                    add({place + ".chambers " + c.id, "its high corner is not beyond its low corner", "larger numbers in high_mm"});
        for (const Opening& o : spec.openings) {
            const std::string at = place + ".openings " + o.id;
            range(at + ", width", o.sizeMm[0], 1, 2000, "mm");
            range(at + ", height", o.sizeMm[1], 1, 2000, "mm");
            range(at + ", perforation", o.perforation, 0, 1, "");
            range(at + ", blocked", o.blockedShare, 0, 1, "");
            range(at + ", hole_mm", o.holeMm, 0.1, 500, "mm");
            range(at + ", thickness_mm", o.thicknessMm, 0, 50, "mm");
            if (std::none_of(spec.chambers.begin(), spec.chambers.end(), [&](const Chamber& c) { return c.id == o.chamber; }))
                add({at, "chamber \"" + o.chamber + "\" is not there", "name one of the case's chambers"});
        }
    }
    void checkRuns() {
        for (const Run& run : m_project.runs) {
            const std::string place = "run " + run.id;
            if (!m_project.revision(run.revision))
                add({place, "revision \"" + run.revision + "\" is not there", "name one of the revisions"});
            if (!run.load.empty() && !m_project.load(run.load))
                add({place, "load \"" + run.load + "\" is not there", "name one of the loads"});
            if (run.roomC)
                range(place + ", room_c", *run.roomC, -30, 60, "°C");
            for (const Channel& channel : run.samples->channels)
                if (channel.values.size() != run.samples->timeS.size())
                    add({place + ", channel " + channel.name, "it has another length than the time", "one value each row"});
        }
    }

    const Project& m_project;
    std::vector<Problem> m_problems;
};

} // namespace

std::vector<Problem> validate(const Project& project) { return Validator(project).run(); }

} // namespace core
