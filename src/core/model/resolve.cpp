// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/build.h"

#include "core/base/text.h"

#include <map>

namespace core {
namespace {

/// Builds up a Build change by change. Changes name mounts; the placing happens at the end, parents before children,
/// so that swapping a board does not disturb what sits on it.
class Resolver {
public:
    explicit Resolver(const Project& project) : m_project(project) {}

    Result<Build> run(std::string_view revisionId, const std::vector<Change>& more);

private:
    struct Order {
        const Part* part = nullptr;
        std::string mount;
        std::string place; ///< of the change that put it there
        FanFlow flow = FanFlow::In;
        FanMode mode = FanMode::Fixed;
        double duty = 0.6;
        std::optional<double> powerLimitW;
        std::array<Length, 3> shift{};
        std::string variant;
        std::vector<SetPlug> plugs;
    };
    using Check = std::optional<Problem>;

    Check apply(const Change& change, const std::string& place);
    Check applyTo(const SetCase& c, const std::string& place);
    Check applyTo(const PlacePart& c, const std::string& place);
    Check applyTo(const SwapPart& c, const std::string& place);
    Check applyTo(const RemovePart& c, const std::string& place);
    Check applyTo(const FlipFan& c, const std::string& place);
    Check applyTo(const SetFan& c, const std::string& place);
    Check applyTo(const SetScreen& c, const std::string& place);
    Check applyTo(const SetOpening& c, const std::string& place);
    Check applyTo(const MovePart& c, const std::string& place);
    Check applyTo(const Orient& c, const std::string& place);
    Check applyTo(const LimitPower& c, const std::string& place);
    Check applyTo(const ChooseVariant& c, const std::string& place);
    Check applyTo(const SetPlug& c, const std::string& place);
    Check applyTo(const Connect& c, const std::string& place);
    Check applyTo(const Disconnect& c, const std::string& place);
    Check applyTo(const SetFeet& c, const std::string& place);
    Check applyTo(const Modify& c, const std::string& place);

    Check placeAll();
    void nameParts();
    Check outsideIsSaid(const Order& order, const Placed& placed) const;
    Check placeOne(const Order& order);
    static Check setPlugs(const Order& order, Placed& placed);
    Check checkEnds() const;
    Order* order(std::string_view mount);
    Opening* opening(std::string_view id);
    std::size_t dimension(std::string label, const Measure& measure, DimensionOrigin origin = {});
    static Problem unknown(const std::string& place, const std::string& kind, const std::string& id) {
        return {place, kind + " \"" + id + "\" is not there", "name one that exists, or add it first"};
    }

    const Project& m_project;
    Build m_build;
    std::vector<Order> m_orders;
    std::map<Orientation, Measure> m_feet; ///< by the side they are under; set for the side it stands on then
};

Result<Build> Resolver::run(std::string_view revisionId, const std::vector<Change>& more) {
    const auto line = lineage(m_project, revisionId);
    if (!line)
        return tl::make_unexpected(line.error());
    m_build.revision = std::string(revisionId);
    for (const Revision* revision : *line)
        for (std::size_t i = 0; i < revision->changes.size(); ++i)
            if (auto wrong = apply(revision->changes[i], "revision " + revision->id + ", change " + std::to_string(i + 1)))
                return tl::make_unexpected(*wrong);
    if (more.empty()) // what was seen holds for the machine as it was built
        m_build.observed = line->back()->observed;
    for (const Change& change : more)
        if (auto wrong = apply(change, "the change tried"))
            return tl::make_unexpected(*wrong);
    if (!m_build.casePart)
        return problem("revision " + std::string(revisionId), "no case is chosen",
                       "start the first revision with a change of kind \"case\"");
    if (auto wrong = placeAll())
        return tl::make_unexpected(*wrong);
    nameParts();
    // Laid on a side it stands on pads that come with any case, until it is told: common practice, no source.
    const auto feet = m_feet.find(m_build.down);
    m_build.feet = feet != m_feet.end() ? feet->second : measureMm(3, Source::Estimate);
    return std::move(m_build);
}

Resolver::Check Resolver::apply(const Change& change, const std::string& place) {
    return std::visit([&](const auto& c) { return applyTo(c, place); }, change);
}

Resolver::Order* Resolver::order(std::string_view mount) {
    const auto it = std::find_if(m_orders.begin(), m_orders.end(), [&](const Order& o) { return o.mount == mount; });
    return it == m_orders.end() ? nullptr : &*it;
}

Opening* Resolver::opening(std::string_view id) {
    const auto it = std::find_if(m_build.openings.begin(), m_build.openings.end(), [&](const Opening& o) { return o.id == id; });
    return it == m_build.openings.end() ? nullptr : &*it;
}

Resolver::Check Resolver::applyTo(const SetCase& c, const std::string& place) {
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

Resolver::Check Resolver::applyTo(const PlacePart& c, const std::string& place) {
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
        o.mode = FanMode::Processor;
    else if (part->kind == PartKind::Card)
        o.mode = FanMode::Card;
    m_orders.push_back(o);
    return std::nullopt;
}

Resolver::Check Resolver::applyTo(const SwapPart& c, const std::string& place) {
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

Resolver::Check Resolver::applyTo(const RemovePart& c, const std::string& place) {
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

Resolver::Check Resolver::applyTo(const ChooseVariant& c, const std::string& place) {
    Order* o = order(c.mount);
    if (!o)
        return unknown(place, "a part at mount", c.mount);
    o->variant = c.variant;
    o->place = place;
    return std::nullopt;
}

Resolver::Check Resolver::applyTo(const SetPlug& c, const std::string& place) {
    Order* o = order(c.mount);
    if (!o)
        return unknown(place, "a part at mount", c.mount);
    std::erase_if(o->plugs, [&](const SetPlug& other) { return other.port == c.port; });
    o->plugs.push_back(c);
    return std::nullopt;
}

Resolver::Check Resolver::applyTo(const Connect& c, const std::string& place) {
    const Part* part = m_project.part(c.part);
    if (!part)
        return unknown(place, "part", c.part);
    if (part->kind != PartKind::Cable && part->kind != PartKind::Adapter)
        return Problem{place, "\"" + c.part + "\" is a " + std::string(kindWord(part->kind)), "a cable or an adapter"};
    m_build.joined.push_back({part, c.from, c.to});
    return std::nullopt;
}

Resolver::Check Resolver::applyTo(const Disconnect& c, const std::string& place) {
    const auto it = std::find_if(m_build.joined.begin(), m_build.joined.end(), [&](const Joined& j) { return j.part->id == c.part && j.from == c.from; });
    if (it == m_build.joined.end())
        return unknown(place, "a cable at \"" + c.from + "\", part", c.part);
    m_build.joined.erase(it);
    return std::nullopt;
}

Resolver::Check Resolver::applyTo(const SetFeet& c, const std::string& place) {
    if (!(c.mm >= 0 && c.mm <= 200))
        return Problem{place, "feet of " + shortest(c.mm) + " mm", "from 0 to 200 mm"};
    m_feet[m_build.down] = measureMm(c.mm, Source::Drawing);
    return std::nullopt;
}

Resolver::Check Resolver::applyTo(const Modify& c, const std::string& place) {
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

Resolver::Check Resolver::applyTo(const FlipFan& c, const std::string& place) {
    Order* o = order(c.mount);
    if (!o || o->part->kind != PartKind::Fan)
        return unknown(place, "a fan at mount", c.mount);
    o->flow = o->flow == FanFlow::In ? FanFlow::Out : FanFlow::In;
    return std::nullopt;
}

Resolver::Check Resolver::applyTo(const SetFan& c, const std::string& place) {
    Order* o = order(c.mount);
    if (!o)
        return unknown(place, "a part at mount", c.mount);
    if (!(c.duty >= 0 && c.duty <= 1))
        return Problem{place, "fan duty " + shortest(c.duty), "a share from 0 to 1"};
    o->mode = c.mode;
    o->duty = c.duty;
    return std::nullopt;
}

Resolver::Check Resolver::applyTo(const SetScreen& c, const std::string& place) {
    Opening* o = opening(c.opening);
    if (!o)
        return unknown(place, "opening", c.opening);
    o->screen = c.screen;
    return std::nullopt;
}

Resolver::Check Resolver::applyTo(const SetOpening& c, const std::string& place) {
    Opening* o = opening(c.opening);
    if (!o)
        return unknown(place, "opening", c.opening);
    if (!(c.perforation >= 0 && c.perforation <= 1))
        return Problem{place, "open share " + shortest(c.perforation), "a share from 0 to 1"};
    o->style = c.style;
    o->perforation = c.perforation;
    return std::nullopt;
}

Resolver::Check Resolver::applyTo(const MovePart& c, const std::string& place) {
    Order* o = order(c.mount);
    if (!o)
        return unknown(place, "a part at mount", c.mount);
    o->shift[index(c.axis)] += c.by;
    return std::nullopt;
}

Resolver::Check Resolver::applyTo(const Orient& c, const std::string&) {
    m_build.down = c.down;
    return std::nullopt;
}

Resolver::Check Resolver::applyTo(const LimitPower& c, const std::string& place) {
    Order* o = order(c.mount);
    if (!o)
        return unknown(place, "a part at mount", c.mount);
    if (!(c.watts > 0 && c.watts <= 2000))
        return Problem{place, "power limit " + shortest(c.watts) + " W", "more than 0 and at most 2000 W"};
    o->powerLimitW = c.watts;
    return std::nullopt;
}

std::size_t Resolver::dimension(std::string label, const Measure& measure, DimensionOrigin origin) {
    m_build.dimensions.push_back({std::move(label), measure, std::move(origin)});
    return m_build.dimensions.size() - 1;
}

Resolver::Check Resolver::placeAll() {
    constexpr std::array<const char*, 3> names{"inner width", "inner depth", "inner height"};
    for (std::size_t a = 0; a < 3; ++a) {
        m_build.inside[a].add(dimension("case " + std::string(names[a]), m_build.casePart->size[a], {DimensionOrigin::What::PartSize, m_build.casePart->id, {}, {}, a}), 2);
        m_build.insideAt[a] = m_build.inside[a].nominal(m_build.dimensions);
    }
    std::stable_sort(m_orders.begin(), m_orders.end(), [](const Order& a, const Order& b) {
        return std::count(a.mount.begin(), a.mount.end(), '/') < std::count(b.mount.begin(), b.mount.end(), '/');
    });
    m_build.placed.reserve(m_orders.size());
    for (const Order& o : m_orders)
        if (auto wrong = placeOne(o))
            return wrong;
    return checkEnds();
}

/// Equal names are told apart by the place: "Fan 92, top".
void Resolver::nameParts() {
    std::map<std::string_view, int> count;
    for (const Placed& p : m_build.placed)
        ++count[p.part->name];
    for (Placed& p : m_build.placed)
        p.name = count[p.part->name] > 1 ? p.part->name + ", " + p.mount : p.part->name;
}

/// A part that lies wholly outside must be meant to: most often an offset was typed ten times too large.
Resolver::Check Resolver::outsideIsSaid(const Order& o, const Placed& p) const {
    if (p.outside || (p.part->kind == PartKind::PowerSupply && std::get<PowerSupplySpec>(p.part->spec).brick))
        return std::nullopt;
    constexpr std::array<const char*, 3> axes{"x", "y", "z"};
    const Length wall = m_build.caseSpec().wall.value + Length::fromUm(10);
    for (std::size_t a = 0; a < 3; ++a)
        if ((p.lowAt[a] >= m_build.insideAt[a] && p.highAt[a] > m_build.insideAt[a] + wall) || (p.highAt[a] <= Length{} && p.lowAt[a] < Length{} - wall))
            return Problem{o.place, p.part->name + " at \"" + o.mount + "\" lies wholly outside the case: " + axes[a] + " from " + fixed(p.lowAt[a].mm(), 1) + " to " + fixed(p.highAt[a].mm(), 1) + " mm, inside is 0 to " + fixed(m_build.insideAt[a].mm(), 1),
                           "check the offset of the mount, or say \"outside\": true there"};
    return std::nullopt;
}

/// Every end of a cable is at something that is there.
Resolver::Check Resolver::checkEnds() const {
    for (const Joined& j : m_build.joined) {
        std::vector<std::string> ends = j.to;
        if (!j.from.empty())
            ends.push_back(j.from);
        for (const std::string& end : ends) {
            const EndName name = endName(end);
            if (name.mount != caseMount && !m_build.at(name.mount))
                return Problem{"connection of " + j.part->id, "nothing is placed at \"" + name.mount + "\"", "an end such as \"tray:eps-8\", or take the cable out first"};
        }
    }
    return std::nullopt;
}

Resolver::Check Resolver::setPlugs(const Order& o, Placed& p) {
    p.ports = o.part->ports;
    for (const SetPlug& plug : o.plugs) {
        const auto port = std::find_if(p.ports.begin(), p.ports.end(), [&](const Port& q) { return q.id == plug.port; });
        if (port == p.ports.end())
            continue; // another part has come to this mount; its sockets are its own
        if (plug.style == PlugStyle::Angled && plug.towards.axis == port->out.axis)
            return Problem{o.place, "an angled plug at \"" + plug.port + "\" cannot leave along its own socket", "a direction across it"};
        port->plug = plug.style;
        port->towards = plug.towards;
    }
    return std::nullopt;
}

Direction map(const Frame& frame, Direction own) {
    Direction d = frame.axis[index(own.axis)];
    d.sign *= own.sign;
    return d;
}

Direction cross(Direction a, Direction b) {
    const int third = 3 - static_cast<int>(a.axis) - static_cast<int>(b.axis);
    const bool cyclic = (static_cast<int>(a.axis) + 1) % 3 == static_cast<int>(b.axis);
    return {static_cast<Axis>(third), a.sign * b.sign * (cyclic ? 1 : -1)};
}

/// A mount of the owner by its id. Every processor has a lid that carries a cooler, stated or not.
const Mount* mountOf(const Part& owner, std::string_view id) {
    const auto it = std::find_if(owner.mounts.begin(), owner.mounts.end(), [&](const Mount& m) { return m.id == id; });
    if (it != owner.mounts.end())
        return &*it;
    static thread_local Mount lid; // centred on the processor at hand
    if (owner.kind != PartKind::Processor || id != "lid")
        return nullptr;
    lid = Mount{.id = "lid", .name = "Lid", .accepts = {PartKind::Cooler}};
    const auto half = [&](std::size_t a) {
        return Offset{Ref::Centre, {.value = Length::fromUm(owner.size[a].value.um() / 2), .tolerance = {}, .source = Source::Computed}};
    };
    lid.at = {half(0), half(1), Offset{Ref::Above, {}}};
    return &lid;
}

Resolver::Check Resolver::placeOne(const Order& o) {
    const auto slash = o.mount.rfind('/');
    const std::string last = slash == std::string::npos ? o.mount : o.mount.substr(slash + 1);
    Placed p{.mount = o.mount, .part = o.part, .flow = o.flow, .mode = o.mode, .duty = o.duty, .powerLimitW = o.powerLimitW};
    const Part* owner = m_build.casePart;
    Frame ownerFrame;
    if (slash != std::string::npos) {
        const Placed* parent = m_build.at(std::string_view(o.mount).substr(0, slash));
        if (!parent)
            return Problem{o.place, "nothing is placed at \"" + o.mount.substr(0, slash) + "\"", "place the part that carries it first"};
        p.parent = parent - m_build.placed.data();
        owner = parent->part;
        ownerFrame = parent->frame;
    }
    const Mount* mount = mountOf(*owner, last);
    if (!mount)
        return Problem{o.place, "\"" + owner->name + "\" has no mount \"" + last + "\"", "name one of its mounts"};
    Mount varied;
    if (!o.variant.empty()) {
        const auto v = std::find_if(mount->variants.begin(), mount->variants.end(), [&](const MountVariant& m) { return m.id == o.variant; });
        if (v == mount->variants.end())
            return Problem{o.place, "mount \"" + o.mount + "\" has no variant \"" + o.variant + "\"", "name one of its variants, or none"};
        varied = *mount;
        varied.accepts = v->accepts.value_or(mount->accepts);
        varied.at = v->at.value_or(mount->at);
        varied.facing = v->facing.value_or(mount->facing);
        varied.up = v->up.value_or(mount->up);
        varied.outside = mount->outside || v->outside;
        mount = &varied;
        p.variant = o.variant;
    }
    if (auto wrong = setPlugs(o, p))
        return wrong;
    if (std::find(mount->accepts.begin(), mount->accepts.end(), o.part->kind) == mount->accepts.end())
        return Problem{o.place, "mount \"" + o.mount + "\" does not take a " + std::string(kindWord(o.part->kind)),
                       "choose another mount, or let the mount accept that kind"};
    if (mount->facing.axis == mount->up.axis)
        return Problem{o.place, "mount \"" + o.mount + "\" faces along its own up direction", "two different axes"};

    const Direction facing = map(ownerFrame, mount->facing);
    const Direction up = map(ownerFrame, mount->up);
    p.frame.axis = {cross(up, facing), up, facing};
    p.outside = mount->outside || (p.parent >= 0 && m_build.placed[static_cast<std::size_t>(p.parent)].outside);

    for (std::size_t own = 0; own < 3; ++own) {
        // Axis "own" of the part lies along ownerAxis of the owner, which lies along caseAxis of the case.
        const Direction inCase = p.frame.axis[own];
        const std::size_t a = index(inCase.axis);
        std::size_t ownerAxis = a;
        if (p.parent >= 0)
            for (std::size_t k = 0; k < 3; ++k)
                if (index(ownerFrame.axis[k].axis) == a)
                    ownerAxis = k;
        const bool flipped = p.parent >= 0 && ownerFrame.axis[ownerAxis].sign < 0;
        const Chain& ownerLow = p.parent >= 0 ? m_build.placed[static_cast<std::size_t>(p.parent)].low[a] : Chain{};
        const Chain& ownerHigh = p.parent >= 0 ? m_build.placed[static_cast<std::size_t>(p.parent)].high[a] : m_build.inside[a];

        const Offset& offset = mount->at[ownerAxis];
        p.outside = p.outside || (p.parent < 0 && (offset.ref == Ref::Above || offset.ref == Ref::Below));
        constexpr std::array<const char*, 3> sizeWords{"width", "height", "depth"};
        const std::size_t size = dimension(o.part->name + ", " + sizeWords[own], o.part->size[own], {DimensionOrigin::What::PartSize, o.part->id, {}, {}, own});
        const bool needsOffset = offset.value.value != Length{} || offset.value.tolerance != Length{};
        const std::size_t off = needsOffset ? dimension(mount->name + ", place", offset.value, {o.variant.empty() ? DimensionOrigin::What::MountAt : DimensionOrigin::What::VariantAt, owner->id, last, o.variant, ownerAxis}) : 0;

        // In the owner's own axes "low" and "high" trade places when its axis runs against the case axis.
        Ref ref = offset.ref;
        if (flipped)
            ref = ref == Ref::Low ? Ref::High : ref == Ref::High ? Ref::Low : ref == Ref::Above ? Ref::Below
                  : ref == Ref::Below ? Ref::Above : Ref::Centre;
        Chain& low = p.low[a];
        Chain& high = p.high[a];
        const auto addOffset = [&](Chain& chain, int halves) {
            if (needsOffset)
                chain.add(off, halves);
        };
        switch (ref) {
        case Ref::Low: low = ownerLow; addOffset(low, 2); break;
        case Ref::Above: low = ownerHigh; addOffset(low, 2); break;
        case Ref::High: high = ownerHigh; addOffset(high, -2); break;
        case Ref::Below: high = ownerLow; addOffset(high, -2); break;
        case Ref::Centre:
            low = flipped ? ownerHigh : ownerLow;
            addOffset(low, flipped ? -2 : 2);
            low.add(size, -1);
            break;
        }
        const bool fromHigh = ref == Ref::High || ref == Ref::Below;
        if (o.shift[a] != Length{}) {
            const std::size_t moved = dimension(o.part->name + ", moved", {.value = o.shift[a], .tolerance = Length::fromUm(200),
                                                                           .source = Source::Drawing});
            (fromHigh ? high : low).add(moved, 2);
        }
        if (fromHigh) {
            low = high;
            low.add(size, -2);
        } else {
            high = low;
            high.add(size, 2);
        }
        p.lowAt[a] = low.nominal(m_build.dimensions);
        p.highAt[a] = high.nominal(m_build.dimensions);
    }
    if (auto wrong = outsideIsSaid(o, p))
        return wrong;
    m_build.placed.push_back(std::move(p));
    return std::nullopt;
}

} // namespace

Result<std::vector<const Revision*>> lineage(const Project& project, std::string_view revisionId) {
    std::vector<const Revision*> line;
    std::string id(revisionId);
    std::string askedBy = "project";
    while (!id.empty()) {
        const Revision* revision = project.revision(id);
        if (!revision)
            return problem(askedBy, "revision \"" + id + "\" is not there", "name one of the project's revisions");
        if (std::find(line.begin(), line.end(), revision) != line.end())
            return problem("revision " + id, "its parents lead back to itself", "let the first revision have no parent");
        line.push_back(revision);
        askedBy = "revision " + id + ", parent";
        id = revision->parent;
    }
    if (line.empty())
        return problem("project", "no revision is named", "name one of the project's revisions");
    std::reverse(line.begin(), line.end());
    return line;
}

Result<Build> resolve(const Project& project, std::string_view revisionId) { return Resolver(project).run(revisionId, {}); }

Result<Build> resolveWith(const Project& project, std::string_view revisionId, const std::vector<Change>& more) {
    return Resolver(project).run(revisionId, more);
}

} // namespace core
