// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/build.h"

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
            add({place, "the value " + trimmed(value) + " " + unit + " is out of range", "from " + trimmed(low) + " to " + trimmed(high) + " " + unit});
    }
    static std::string trimmed(double value) {
        std::string text = std::to_string(value);
        text.erase(text.find_last_not_of('0') + 1);
        if (text.ends_with('.'))
            text.pop_back();
        return text;
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
            for (std::size_t a = 0; a < 3; ++a)
                checkSize(place + " (" + part.id + ").bodies " + body.name, body.size[a], false);
        if (part.kind == PartKind::Case)
            checkCase(place + " (" + part.id + ")", std::get<CaseSpec>(part.spec));
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
