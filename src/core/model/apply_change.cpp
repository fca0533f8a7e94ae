// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/resolver.h"

// What each kind of change does to a build.
namespace core {

Resolver::Order* Resolver::order(std::string_view mount) {
    const auto it = std::find_if(m_orders.begin(), m_orders.end(), [&](const Order& o) { return o.mount == mount; });
    return it == m_orders.end() ? nullptr : &*it;
}

Opening* Resolver::opening(std::string_view id) {
    const auto it =
        std::find_if(m_build.openings.begin(), m_build.openings.end(), [&](const Opening& o) { return o.id == id; });
    return it == m_build.openings.end() ? nullptr : &*it;
}

template <> Resolver::Check Resolver::applyTo(const SetCase& c, const std::string& place) {
    const Part* part = m_project.part(c.part);
    if (!part)
        return unknown(place, "part", c.part);
    if (part->kind != PartKind::Case)
        return Problem{place, "\"" + c.part + "\" is a " + std::string(kindWord(part->kind)), "a part of kind case"};
    // A second print of the case keeps what was changed on openings that both have.
    const auto before = m_build.openings;
    const bool second = m_build.casePart != nullptr;
    const std::vector<Opening> oldOriginal = second ? m_build.caseSpec().openings : std::vector<Opening>{};
    m_build.casePart = part;
    m_build.openings = m_build.caseSpec().openings;
    m_feet = {{Side::Bottom, measureMm(m_build.caseSpec().feetMm, Source::Drawing)}};
    m_build.modified.clear(); // another case has not been cut yet
    for (Opening& now : m_build.openings)
        for (std::size_t i = 0; i < before.size(); ++i)
            if (before[i].id == now.id && before[i].screen != oldOriginal[i].screen)
                now.screen = before[i].screen;
    return std::nullopt;
}

template <> Resolver::Check Resolver::applyTo(const PlacePart& c, const std::string& place) {
    const Part* part = m_project.part(c.part);
    if (!part)
        return unknown(place, "part", c.part);
    if (order(c.mount))
        return Problem{place, "mount \"" + c.mount + "\" is already taken", "swap the part there, or remove it first"};
    Order o;
    o.part = part;
    o.mount = c.mount;
    o.place = place;
    o.flow = c.flow;
    // Coolers and cards bring a fan that follows their own part; a case fan runs at a fixed speed until told otherwise.
    if (part->kind == PartKind::Cooler)
        o.control.mode = FanMode::Processor;
    else if (part->kind == PartKind::Card)
        o.control.mode = FanMode::Card;
    m_orders.push_back(o);
    return std::nullopt;
}

template <> Resolver::Check Resolver::applyTo(const SwapPart& c, const std::string& place) {
    const Part* part = m_project.part(c.part);
    if (!part)
        return unknown(place, "part", c.part);
    Order* o = order(c.mount);
    if (!o)
        return unknown(place, "a part at mount", c.mount);
    if (o->part != part)
        o->powerLimitW.reset(); // it was set for the part that goes
    o->part = part;
    o->place = place;
    return std::nullopt;
}

template <> Resolver::Check Resolver::applyTo(const RemovePart& c, const std::string& place) {
    if (!order(c.mount))
        return unknown(place, "a part at mount", c.mount);
    const std::string below = c.mount + "/";
    std::erase_if(m_orders, [&](const Order& o) { return o.mount == c.mount || o.mount.starts_with(below); });
    std::erase_if(m_build.joined, [&](const Joined& j) {
        const auto gone = [&](const std::string& end) {
            const std::string mount = endName(end).mount;
            return mount == c.mount || mount.starts_with(below);
        };
        return gone(j.from) || (!j.to.empty() && std::all_of(j.to.begin(), j.to.end(), gone));
    });
    return std::nullopt;
}

template <> Resolver::Check Resolver::applyTo(const ChooseVariant& c, const std::string& place) {
    Order* o = order(c.mount);
    if (!o)
        return unknown(place, "a part at mount", c.mount);
    o->variant = c.variant;
    o->place = place;
    return std::nullopt;
}

template <> Resolver::Check Resolver::applyTo(const SetPlug& c, const std::string& place) {
    Order* o = order(c.mount);
    if (!o)
        return unknown(place, "a part at mount", c.mount);
    std::erase_if(o->plugs, [&](const SetPlug& other) { return other.port == c.port; });
    o->plugs.push_back(c);
    return std::nullopt;
}

template <> Resolver::Check Resolver::applyTo(const Connect& c, const std::string& place) {
    const Part* part = m_project.part(c.part);
    if (!part)
        return unknown(place, "part", c.part);
    if (part->kind != PartKind::Cable && part->kind != PartKind::Adapter)
        return Problem{place, "\"" + c.part + "\" is a " + std::string(kindWord(part->kind)), "a cable or an adapter"};
    m_build.joined.push_back({part, c.from, c.to});
    return std::nullopt;
}

template <> Resolver::Check Resolver::applyTo(const Disconnect& c, const std::string& place) {
    const auto it = std::find_if(m_build.joined.begin(), m_build.joined.end(),
                                 [&](const Joined& j) { return j.part->id == c.part && j.from == c.from; });
    if (it == m_build.joined.end())
        return unknown(place, "a cable at \"" + c.from + "\", part", c.part);
    m_build.joined.erase(it);
    return std::nullopt;
}

template <> Resolver::Check Resolver::applyTo(const RouteLead& c, const std::string& place) {
    const auto it = std::find_if(m_build.joined.begin(), m_build.joined.end(),
                                 [&](const Joined& j) { return j.part->id == c.part && j.from == c.from; });
    if (it == m_build.joined.end())
        return unknown(place, "a cable at \"" + c.from + "\", part", c.part);
    const auto end = c.to.empty() ? it->to.begin() : std::find(it->to.begin(), it->to.end(), c.to);
    if (end == it->to.end())
        return Problem{place, "\"" + c.part + "\" does not go to \"" + c.to + "\"",
                       it->to.empty() ? "a connection with an end" : "\"" + it->to.front() + "\", as it is connected"};
    it->routesMm.resize(it->to.size());
    it->routesMm[static_cast<std::size_t>(end - it->to.begin())] = c.pointsMm;
    return std::nullopt;
}

template <> Resolver::Check Resolver::applyTo(const SetFeet& c, const std::string& place) {
    if (!(c.mm >= 0 && c.mm <= 200))
        return Problem{place, "feet of " + shortest(c.mm) + " mm", "from 0 to 200 mm"};
    m_feet[m_build.down] = measureMm(c.mm, Source::Drawing);
    return std::nullopt;
}

template <> Resolver::Check Resolver::applyTo(const Modify& c, const std::string& place) {
    if (!m_build.casePart)
        return Problem{place, "there is no case to modify", "choose the case first"};
    const auto& all = m_build.caseSpec().modifications; // the build points into the shelf
    const auto it = std::find_if(all.begin(), all.end(), [&](const Modification& m) { return m.id == c.modification; });
    if (it == all.end())
        return unknown(place, "modification", c.modification);
    if (std::find(m_build.modified.begin(), m_build.modified.end(), &*it) == m_build.modified.end())
        m_build.modified.push_back(&*it);
    for (const std::string& id : it->opens) {
        Opening* o = opening(id);
        if (!o)
            return unknown(place, "opening", id);
        o->style = OpeningStyle::Plain;
        o->perforation = 1;
    }
    return std::nullopt;
}

template <> Resolver::Check Resolver::applyTo(const FlipFan& c, const std::string& place) {
    Order* o = order(c.mount);
    if (!o || o->part->kind != PartKind::Fan)
        return unknown(place, "a fan at mount", c.mount);
    o->flow = o->flow == FanFlow::In ? FanFlow::Out : FanFlow::In;
    return std::nullopt;
}

template <> Resolver::Check Resolver::applyTo(const SetFan& c, const std::string& place) {
    Order* o = order(c.mount);
    if (!o)
        return unknown(place, "a part at mount", c.mount);
    const FanControl& control = c.control;
    if (!(control.duty >= 0 && control.duty <= 1))
        return Problem{place, "fan duty " + shortest(control.duty), "a share from 0 to 1"};
    if (control.mode == FanMode::Part && control.follows.empty())
        return Problem{place, "\"follows\" is empty", "the place of the part whose temperature it follows"};
    for (std::size_t i = 1; i < control.curve.size(); ++i)
        if (control.curve[i].temperatureC <= control.curve[i - 1].temperatureC)
            return Problem{place + ".curve[" + std::to_string(i) + "]",
                           "the temperature " + shortest(control.curve[i].temperatureC) + " °C does not rise",
                           "points in the order of their temperatures, each once"};
    o->control = control;
    return std::nullopt;
}

template <> Resolver::Check Resolver::applyTo(const SetScreen& c, const std::string& place) {
    Opening* o = opening(c.opening);
    if (!o)
        return unknown(place, "opening", c.opening);
    o->screen = c.screen;
    return std::nullopt;
}

template <> Resolver::Check Resolver::applyTo(const SetFouling& c, const std::string& place) {
    Opening* o = opening(c.opening);
    if (!o)
        return unknown(place, "opening", c.opening);
    if (o->screen == Screen::None && c.fouling > 1)
        return Problem{place, "\"" + o->name + "\" has no screen: dust in a bare opening is not modelled",
                       "put a screen on it first"};
    o->fouling = c.fouling;
    return std::nullopt;
}

template <> Resolver::Check Resolver::applyTo(const SetOpening& c, const std::string& place) {
    Opening* o = opening(c.opening);
    if (!o)
        return unknown(place, "opening", c.opening);
    if (!(c.perforation >= 0 && c.perforation <= 1))
        return Problem{place, "open share " + shortest(c.perforation), "a share from 0 to 1"};
    o->style = c.style;
    o->perforation = c.perforation;
    return std::nullopt;
}

template <> Resolver::Check Resolver::applyTo(const MovePart& c, const std::string& place) {
    Order* o = order(c.mount);
    if (!o)
        return unknown(place, "a part at mount", c.mount);
    o->shift[index(c.axis)] += c.by;
    return std::nullopt;
}

template <> Resolver::Check Resolver::applyTo(const Orient& c, const std::string&) {
    m_build.down = c.down;
    return std::nullopt;
}

template <> Resolver::Check Resolver::applyTo(const LimitPower& c, const std::string& place) {
    Order* o = order(c.mount);
    if (!o)
        return unknown(place, "a part at mount", c.mount);
    if (!(c.watts > 0 && c.watts <= 2000))
        return Problem{place, "power limit " + shortest(c.watts) + " W", "more than 0 and at most 2000 W"};
    o->powerLimitW = c.watts;
    return std::nullopt;
}

Resolver::Check Resolver::apply(const Change& change, const std::string& place) {
    return std::visit([&](const auto& c) { return applyTo(c, place); }, change);
}

} // namespace core
