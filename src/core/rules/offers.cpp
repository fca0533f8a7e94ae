// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/rules/offers.h"

#include "core/model/choices.h"

namespace core::rules {
namespace {

bool hasFan(const Part& part) {
    return part.kind == PartKind::Fan || part.kind == PartKind::Cooler || part.kind == PartKind::Card;
}
bool isLead(const Part& part) { return part.kind == PartKind::Cable || part.kind == PartKind::Adapter; }

class Offering {
public:
    Offering(const Project& project, const Build& build, const PortMap& ports, const Change& change,
             const std::vector<Part>& standard)
        : m_project(project), m_build(build), m_ports(ports), m_change(change), m_standard(standard) {}

    std::vector<Named> of(Names names) {
        if (!offerPlaces(names) && !offerOfLeads(names))
            offerRest(names);
        return std::move(m_all);
    }

private:
    bool offerPlaces(Names names) {
        switch (names) {
        case Names::Place:
        case Names::TakenPlace:
            places([](const Placed&) { return true; });
            break;
        case Names::SwapPlace:
            places([&](const Placed& p) { return anyOther(*p.part); });
            break;
        case Names::TurnedPlace:
            places([](const Placed& p) { return p.part->kind == PartKind::Fan; });
            break;
        case Names::FanPlace:
            places([](const Placed& p) { return hasFan(*p.part); });
            break;
        case Names::PoweredPlace:
            places([](const Placed& p) { return p.powerW() > 0; });
            break;
        case Names::PluggedPlace:
            places([](const Placed& p) { return std::any_of(p.ports.begin(), p.ports.end(), isTurnable); });
            break;
        case Names::VariedPlace:
            places([&](const Placed& p) {
                const Mount* m = mountAt(m_build, p.mount);
                return m && !m->variants.empty();
            });
            break;
        case Names::FreePlace:
            freePlaces();
            break;
        default:
            return false;
        }
        return true;
    }
    bool offerOfLeads(Names names) {
        switch (names) {
        case Names::End:
            ends();
            break;
        case Names::ServedEnd:
            servedEnds();
            break;
        case Names::JoinedLead:
            for (const Joined& j : m_build.joined)
                once(j.part->id, j.part->name);
            break;
        case Names::JoinedEnd:
            for (const Joined& j : m_build.joined)
                if (j.part->id == changedPart(m_change))
                    once(j.from, j.from.empty() ? "no stated socket" : j.from);
            break;
        case Names::RoutedEnd:
            routedEnds();
            break;
        case Names::LeadPart:
            shelfThat(isLead);
            break;
        default:
            return false;
        }
        return true;
    }
    void offerRest(Names names) {
        switch (names) {
        case Names::Part:
            parts();
            break;
        case Names::CasePart:
            partsThat([](const Part& p) { return p.kind == PartKind::Case; }, {});
            break;
        case Names::Variant:
            variants();
            break;
        case Names::Opening:
        case Names::ScreenedOpening:
            for (const Opening& o : m_build.openings)
                if (o.to.empty() && (names == Names::Opening || o.screen != Screen::None))
                    add(o.id, o.name);
            break;
        case Names::Modification:
            for (const Modification& m : m_build.caseSpec().modifications)
                add(m.id, m.name);
            break;
        case Names::AngledWay:
            angledWays();
            break;
        case Names::Port:
            if (const Placed* at = m_build.at(changedMount(m_change)))
                for (const Port& port : at->ports)
                    if (isTurnable(port))
                        add(port.id, port.id);
            break;
        case Names::Load:
            for (const Load& load : m_project.loads)
                add(load.id, load.name);
            break;
        case Names::Revision:
            for (const Revision& r : m_project.revisions)
                add(r.id, r.id);
            break;
        case Names::Chamber:
            for (const Chamber& c : m_build.caseSpec().chambers)
                add(c.id, c.name);
            break;
        default:
            break; // nothing, and the kinds of plugs: any word will do
        }
    }
    static bool isTurnable(const Port& port) { return !port.angledWays.empty() || port.plug == PlugStyle::Angled; }
    void add(std::string value, std::string name, bool isStandard = false) {
        m_all.push_back({std::move(value), std::move(name), isStandard});
    }
    void once(const std::string& value, const std::string& name) {
        if (std::none_of(m_all.begin(), m_all.end(), [&](const Named& n) { return n.value == value; }))
            add(value, name);
    }
    template <class F> void shelfThat(F wanted) {
        for (const Part& p : m_project.shelf)
            if (wanted(p))
                add(p.id, p.name);
    }
    /// Below the project's own parts the standard sizes, ready to be tried.
    template <class F> void partsThat(F wanted, const std::string& except) {
        shelfThat([&](const Part& p) { return p.id != except && wanted(p); });
        for (const Part& p : m_standard)
            if (wanted(p))
                add(p.id, p.name, true);
    }
    void parts() {
        if (std::holds_alternative<SwapPart>(m_change)) {
            if (const Placed* at = m_build.at(changedMount(m_change)))
                partsThat([&](const Part& p) { return p.kind == at->part->kind; }, at->part->id);
            return;
        }
        const auto places = mountsOf(m_build);
        partsThat(
            [&](const Part& p) {
                return std::any_of(places.begin(), places.end(),
                                   [&](const MountChoice& m) { return !m.taken && takes(m, p); });
            },
            {});
    }
    static bool takes(const MountChoice& m, const Part& p) {
        return std::find(m.accepts.begin(), m.accepts.end(), p.kind) != m.accepts.end();
    }
    const Part* part(const std::string& id) const {
        if (const Part* own = m_project.part(id))
            return own;
        const auto it = std::find_if(m_standard.begin(), m_standard.end(), [&](const Part& p) { return p.id == id; });
        return it == m_standard.end() ? nullptr : &*it;
    }
    void freePlaces() {
        const Part* wanted = part(changedPart(m_change));
        for (const MountChoice& m : mountsOf(m_build))
            if (!m.taken && (!wanted || takes(m, *wanted)))
                add(m.path, m.name + " (" + m.path + ")");
    }
    template <class F> void places(F wanted) {
        for (const Placed& p : m_build.placed)
            if (wanted(p))
                add(p.mount, p.part->name + " (" + p.mount + ")");
    }
    bool anyOther(const Part& part) const {
        const auto other = [&](const Part& p) { return p.kind == part.kind && p.id != part.id; };
        return std::any_of(m_project.shelf.begin(), m_project.shelf.end(), other) ||
               std::any_of(m_standard.begin(), m_standard.end(), other);
    }
    /// Those in which the plug of the socket that was named can be had.
    void angledWays() {
        const auto* plug = std::get_if<SetPlug>(&m_change);
        const Placed* at = plug ? m_build.at(plug->mount) : nullptr;
        for (const Port& port : at ? at->ports : std::vector<Port>{})
            if (port.id == plug->port)
                // One that is angled already, and says no ways, stays as it is.
                for (const Direction& way : port.angledWays.empty() ? std::vector{port.towards} : port.angledWays)
                    add(directionWord(way), directionWord(way));
    }
    void variants() {
        add({}, "as the place is drawn");
        if (const Mount* m = mountAt(m_build, changedMount(m_change)))
            for (const MountVariant& way : m->variants)
                add(way.id, way.name);
    }
    /// Sockets the lead can draw from.
    void ends() {
        const Part* lead = part(changedPart(m_change));
        add({}, "whatever is free");
        for (const Socket& s : m_ports.sockets)
            if (!s.giver.isLead && (!lead || lead->needs.empty() || lead->needs.contains(s.kind)))
                once(s.giver.mount + ":" + s.kind, s.giver.name + ", " + s.kind);
    }
    /// Ends of the lead that is plugged in where the change says.
    void routedEnds() {
        const auto* route = std::get_if<RouteLead>(&m_change);
        for (const Joined& j : m_build.joined)
            if (route && j.part->id == route->part && j.from == route->from)
                for (const std::string& to : j.to)
                    once(to, to);
    }
    /// Plugs the lead can serve.
    void servedEnds() {
        const Part* lead = part(changedPart(m_change));
        for (const Need& n : m_ports.needs)
            if (!n.taker.isLead && (!lead || lead->gives.empty() || lead->gives.contains(n.kind)))
                once(n.taker.mount + ":" + n.kind, n.taker.name + ", " + n.kind);
    }

    const Project& m_project;
    const Build& m_build;
    const PortMap& m_ports;
    const Change& m_change;
    const std::vector<Part>& m_standard;
    std::vector<Named> m_all;
};

} // namespace

std::vector<Named> nameable(const Project& project, const Build& build, const PortMap& ports, const Change& change,
                            Names names, const std::vector<Part>& standard) {
    return Offering(project, build, ports, change, standard).of(names);
}

Change asItIs(const Build& build, Change change) {
    const Placed* at = build.at(changedMount(change));
    if (auto* fan = std::get_if<SetFan>(&change); fan && at)
        fan->control = at->control;
    else if (auto* limit = std::get_if<LimitPower>(&change); limit && at)
        limit->watts = std::max(1.0, at->powerW() * 0.85);
    else if (auto* feet = std::get_if<SetFeet>(&change))
        feet->mm = build.feet.value.mm();
    else if (auto* style = std::get_if<SetOpening>(&change)) {
        if (const Opening* o = build.opening(style->opening)) {
            style->style = o->style;
            style->perforation = o->perforation;
        }
    } else if (auto* route = std::get_if<RouteLead>(&change)) {
        route->pointsMm.clear(); // those of the lead that was named before
        for (const Joined& j : build.joined)
            if (j.part->id == route->part && j.from == route->from)
                if (const auto end = std::find(j.to.begin(), j.to.end(), route->to); end != j.to.end())
                    route->pointsMm = j.routeTo(static_cast<std::size_t>(end - j.to.begin()));
    } else if (auto* move = std::get_if<MovePart>(&change); move && move->by == Length{})
        move->by = Length::fromMm(5);
    return change;
}

} // namespace core::rules
