// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/resolver.h"

// Where every part of a build comes to lie, parents before children.
namespace core {

namespace {

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

/// A mount of the owner by its id. Every processor has a lid that carries a cooler, stated or not; it is centred on the
/// processor at hand.
std::optional<Mount> mountOf(const Part& owner, std::string_view id) {
    const auto it = std::find_if(owner.mounts.begin(), owner.mounts.end(), [&](const Mount& m) { return m.id == id; });
    if (it != owner.mounts.end())
        return *it;
    if (owner.kind != PartKind::Processor || id != "lid")
        return std::nullopt;
    Mount lid{.id = "lid", .name = "Lid", .accepts = {PartKind::Cooler}};
    const auto half = [&](std::size_t a) {
        return Offset{
            Ref::Centre,
            {.value = Length::fromUm(owner.size[a].value.um() / 2), .tolerance = {}, .source = Source::Computed}};
    };
    lid.at = {half(0), half(1), Offset{Ref::Above, {}}};
    return lid;
}

/// In the owner's own axes "low" and "high" trade places when its axis runs against the case axis.
Ref mirrored(Ref ref) {
    switch (ref) {
    case Ref::Low:
        return Ref::High;
    case Ref::High:
        return Ref::Low;
    case Ref::Above:
        return Ref::Below;
    case Ref::Below:
        return Ref::Above;
    case Ref::Centre:
        break;
    }
    return ref;
}

} // namespace

std::size_t Resolver::dimension(std::string label, const Measure& measure, DimensionOrigin origin) {
    m_build.dimensions.push_back({std::move(label), measure, std::move(origin)});
    return m_build.dimensions.size() - 1;
}

Resolver::Check Resolver::placeAll() {
    constexpr std::array<const char*, 3> names{"inner width", "inner depth", "inner height"};
    for (std::size_t a = 0; a < 3; ++a) {
        m_build.inside[a].add(dimension("case " + std::string(names[a]), m_build.casePart->size[a],
                                        {DimensionOrigin::What::PartSize, m_build.casePart->id, {}, {}, a}),
                              2);
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
        if ((p.lowAt[a] >= m_build.insideAt[a] && p.highAt[a] > m_build.insideAt[a] + wall) ||
            (p.highAt[a] <= Length{} && p.lowAt[a] < Length{} - wall))
            return Problem{o.place,
                           p.part->name + " at \"" + o.mount + "\" lies wholly outside the case: " + axes[a] +
                               " from " + fixed(p.lowAt[a].mm(), 1) + " to " + fixed(p.highAt[a].mm(), 1) +
                               " mm, inside is 0 to " + fixed(m_build.insideAt[a].mm(), 1),
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
                return Problem{"connection of " + j.part->id, "nothing is placed at \"" + name.mount + "\"",
                               "an end such as \"tray:eps-8\", or take the cable out first"};
        }
    }
    return std::nullopt;
}

Resolver::Check Resolver::setPlugs(const Order& o, Placed& p) {
    p.ports = o.part->ports;
    for (const SetPlug& plug : o.plugs) {
        const auto port =
            std::find_if(p.ports.begin(), p.ports.end(), [&](const Port& q) { return q.id == plug.port; });
        if (port == p.ports.end())
            continue; // another part has come to this mount; its sockets are its own
        if (plug.style == PlugStyle::Angled && plug.towards.axis == port->out.axis)
            return Problem{o.place, "an angled plug at \"" + plug.port + "\" cannot leave along its own socket",
                           "a direction across it"};
        port->plug = plug.style;
        port->towards = plug.towards;
    }
    return std::nullopt;
}

Result<Resolver::Place> Resolver::placeOf(const Order& o, Placed& p) const {
    const auto slash = o.mount.rfind('/');
    Place place{.owner = m_build.casePart,
                .frame = {},
                .mount = {},
                .id = slash == std::string::npos ? o.mount : o.mount.substr(slash + 1)};
    if (slash != std::string::npos) {
        const Placed* parent = m_build.at(std::string_view(o.mount).substr(0, slash));
        if (!parent)
            return problem(o.place, "nothing is placed at \"" + o.mount.substr(0, slash) + "\"",
                           "place the part that carries it first");
        p.parent = parent - m_build.placed.data();
        place.owner = parent->part;
        place.frame = parent->frame;
    }
    const auto mount = mountOf(*place.owner, place.id);
    if (!mount)
        return problem(o.place, "\"" + place.owner->name + "\" has no mount \"" + place.id + "\"",
                       "name one of its mounts");
    place.mount = *mount;
    if (!o.variant.empty()) {
        const auto v = std::find_if(mount->variants.begin(), mount->variants.end(),
                                    [&](const MountVariant& m) { return m.id == o.variant; });
        if (v == mount->variants.end())
            return problem(o.place, "mount \"" + o.mount + "\" has no variant \"" + o.variant + "\"",
                           "name one of its variants, or none");
        place.mount.accepts = v->accepts.value_or(mount->accepts);
        place.mount.at = v->at.value_or(mount->at);
        place.mount.facing = v->facing.value_or(mount->facing);
        place.mount.up = v->up.value_or(mount->up);
        place.mount.outside = mount->outside || v->outside;
        p.variant = o.variant;
    }
    return place;
}

Resolver::Check Resolver::placeOne(const Order& o) {
    Placed p{.mount = o.mount, .part = o.part, .flow = o.flow, .control = o.control, .powerLimitW = o.powerLimitW};
    const auto place = placeOf(o, p);
    if (!place)
        return place.error();
    if (auto wrong = setPlugs(o, p))
        return wrong;
    const Mount& mount = place->mount;
    if (std::find(mount.accepts.begin(), mount.accepts.end(), o.part->kind) == mount.accepts.end())
        return Problem{o.place, "mount \"" + o.mount + "\" does not take a " + std::string(kindWord(o.part->kind)),
                       "choose another mount, or let the mount accept that kind"};
    if (mount.facing.axis == mount.up.axis)
        return Problem{o.place, "mount \"" + o.mount + "\" faces along its own up direction", "two different axes"};
    const Direction facing = map(place->frame, mount.facing);
    const Direction up = map(place->frame, mount.up);
    p.frame.axis = {cross(up, facing), up, facing};
    p.outside = mount.outside || (p.parent >= 0 && m_build.placed[static_cast<std::size_t>(p.parent)].outside);
    for (std::size_t own = 0; own < 3; ++own)
        placeAlong(own, o, *place, p);
    if (auto wrong = outsideIsSaid(o, p))
        return wrong;
    m_build.placed.push_back(std::move(p));
    return std::nullopt;
}

/// Axis @p own of the part lies along ownerAxis of the owner, which lies along axis a of the case.
void Resolver::placeAlong(std::size_t own, const Order& o, const Place& place, Placed& p) {
    const std::size_t a = index(p.frame.axis[own].axis);
    std::size_t ownerAxis = a;
    if (p.parent >= 0)
        for (std::size_t k = 0; k < 3; ++k)
            if (index(place.frame.axis[k].axis) == a)
                ownerAxis = k;
    const bool flipped = p.parent >= 0 && place.frame.axis[ownerAxis].sign < 0;
    const Chain& ownerLow = p.parent >= 0 ? m_build.placed[static_cast<std::size_t>(p.parent)].low[a] : Chain{};
    const Chain& ownerHigh =
        p.parent >= 0 ? m_build.placed[static_cast<std::size_t>(p.parent)].high[a] : m_build.inside[a];

    const Offset& offset = place.mount.at[ownerAxis];
    p.outside = p.outside || (p.parent < 0 && (offset.ref == Ref::Above || offset.ref == Ref::Below));
    constexpr std::array<const char*, 3> sizeWords{"width", "height", "depth"};
    const std::size_t size = dimension(o.part->name + ", " + sizeWords[own], o.part->size[own],
                                       {DimensionOrigin::What::PartSize, o.part->id, {}, {}, own});
    const bool needsOffset = offset.value.value != Length{} || offset.value.tolerance != Length{};
    const std::size_t off =
        needsOffset ? dimension(place.mount.name + ", place", offset.value,
                                {o.variant.empty() ? DimensionOrigin::What::MountAt : DimensionOrigin::What::VariantAt,
                                 place.owner->id, place.id, o.variant, ownerAxis})
                    : 0;

    const Ref ref = flipped ? mirrored(offset.ref) : offset.ref;
    Chain& low = p.low[a];
    Chain& high = p.high[a];
    const auto addOffset = [&](Chain& chain, int halves) {
        if (needsOffset)
            chain.add(off, halves);
    };
    switch (ref) {
    case Ref::Low:
        low = ownerLow;
        addOffset(low, 2);
        break;
    case Ref::Above:
        low = ownerHigh;
        addOffset(low, 2);
        break;
    case Ref::High:
        high = ownerHigh;
        addOffset(high, -2);
        break;
    case Ref::Below:
        high = ownerLow;
        addOffset(high, -2);
        break;
    case Ref::Centre:
        low = flipped ? ownerHigh : ownerLow;
        addOffset(low, flipped ? -2 : 2);
        low.add(size, -1);
        break;
    }
    const bool fromHigh = ref == Ref::High || ref == Ref::Below;
    if (o.shift[a] != Length{})
        (fromHigh ? high : low)
            .add(dimension(o.part->name + ", moved",
                           {.value = o.shift[a], .tolerance = Length::fromUm(200), .source = Source::Drawing}),
                 2);
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

} // namespace core
