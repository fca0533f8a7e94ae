// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/box_edits.h"

#include "core/base/text.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace core::box {
namespace {

const CaseSpec& specOf(const Part& part) { return std::get<CaseSpec>(part.spec); }
CaseSpec& specOf(Part& part) { return std::get<CaseSpec>(part.spec); }
double inside(const Part& part, std::size_t axis) { return part.size[axis].value.mm(); }
double tenth(double mm) { return std::round(mm * 100) / 100; }

/// How far a measured offset lies along its axis: the low end of what is as large as @p size.
double lowOf(const Offset& at, double size, double whole) {
    const double v = at.value.value.mm();
    switch (at.ref) {
    case Ref::Low:
        return v;
    case Ref::High:
        return whole - v - size;
    case Ref::Centre:
        return v - size / 2;
    case Ref::Above:
        return whole + v;
    case Ref::Below:
        return -v - size;
    }
    return v;
}
void shift(Offset& at, double by) {
    const bool inwards = at.ref == Ref::High || at.ref == Ref::Below;
    at.value.value = Length::fromMm(tenth(at.value.value.mm() + (inwards ? -by : by)));
    if (at.value.tolerance == Length{} && at.value.value != Length{} && !at.value.toleranceStated)
        at.value.tolerance =
            defaultTolerance(at.value.source, at.value.value); // it touched a wall, and was exact there
}

template <class T> std::string freeId(const std::vector<T>& all, const std::string& wanted) {
    const auto taken = [&](const std::string& id) {
        return std::any_of(all.begin(), all.end(), [&](const T& t) { return t.id == id; });
    };
    if (!taken(wanted))
        return wanted;
    for (int n = 2;; ++n)
        if (std::string id = wanted + "-" + std::to_string(n); !taken(id))
            return id;
}
/// "Vent" after "Vent", "Vent 2".
template <class T> std::string freeName(const std::vector<T>& all, const std::string& wanted) {
    std::set<std::string> names;
    for (const T& t : all)
        names.insert(t.name);
    if (!names.contains(wanted))
        return wanted;
    for (int n = 2;; ++n)
        if (std::string name = wanted + " " + std::to_string(n); !names.contains(name))
            return name;
}

/// Where the plane of a vent lies along its own axis.
double planeOf(const Part& part, const Opening& o) {
    const Direction out = outward(o.side);
    const std::size_t a = index(out.axis);
    if (o.to.empty())
        return out.sign > 0 ? inside(part, a) : 0;
    for (const Chamber& c : specOf(part).chambers)
        if (c.id == o.chamber)
            return out.sign > 0 ? c.highMm[a] : c.lowMm[a];
    return 0;
}

Problem outside(const std::string& name) { return {name, "would lie outside the case", "keep it between the walls"}; }
Problem gone(const Part& part) { return {part.name, "has no such thing", "choose it in the list again"}; }

bool isThere(const Part& part, const Item& item) {
    const CaseSpec* spec = std::get_if<CaseSpec>(&part.spec);
    return spec && item.kind != Kind::Cutout &&
           (item.kind == Kind::Walls     ? item.index == 0
            : item.kind == Kind::Chamber ? item.index < spec->chambers.size()
            : item.kind == Kind::Vent    ? item.index < spec->openings.size()
                                         : item.index < part.mounts.size());
}

Result<void> resizeWalls(Part& part, std::size_t a, bool high, double toMm) {
    const double was = inside(part, a), now = tenth(high ? toMm : was - toMm), by = now - was;
    if (!(now >= 20 && now <= 2000))
        return problem("inner size", fixed(now, 1) + " mm", "20 to 2000 mm");
    part.size[a].value = Length::fromMm(now);
    for (Chamber& c : specOf(part).chambers) {
        if (std::abs(c.highMm[a] - was) < 0.05)
            c.highMm[a] = now;
        else if (!high)
            c.highMm[a] += by;
        if (!high && c.lowMm[a] > 0.05)
            c.lowMm[a] += by;
    }
    if (high)
        return {};
    for (Opening& o : specOf(part).openings)
        for (std::size_t i = 0; i < 2; ++i)
            if (index(planeAxes(o.side)[i]) == a)
                o.centreMm[i] += by;
    for (Mount& m : part.mounts) {
        if ((m.at[a].ref == Ref::Low && m.at[a].value.value != Length{}) || m.at[a].ref == Ref::Centre)
            shift(m.at[a], by);
        for (MountVariant& v : m.variants)
            if (v.at &&
                (((*v.at)[a].ref == Ref::Low && (*v.at)[a].value.value != Length{}) || (*v.at)[a].ref == Ref::Centre))
                shift((*v.at)[a], by);
    }
    return {};
}

} // namespace

std::vector<Item> itemsOf(const Part& part) {
    const CaseSpec* spec = std::get_if<CaseSpec>(&part.spec);
    if (!spec)
        return {};
    std::vector<Item> all{{Kind::Walls, 0}};
    for (std::size_t i = 0; i < spec->chambers.size(); ++i)
        all.push_back({Kind::Chamber, i});
    for (std::size_t i = 0; i < spec->openings.size(); ++i)
        all.push_back({Kind::Vent, i});
    for (std::size_t i = 0; i < part.mounts.size(); ++i)
        all.push_back({Kind::Place, i});
    return all;
}

std::string nameOf(const Part& part, const Item& item) {
    if (!isThere(part, item))
        return {};
    switch (item.kind) {
    case Kind::Walls:
        return part.name;
    case Kind::Chamber:
        return specOf(part).chambers[item.index].name;
    case Kind::Vent:
        return specOf(part).openings[item.index].name;
    case Kind::Place:
        return part.mounts[item.index].name;
    case Kind::Cutout:
        break;
    }
    return {};
}

std::string idOf(const Part& part, const Item& item) {
    if (!isThere(part, item))
        return {};
    return item.kind == Kind::Walls     ? part.id
           : item.kind == Kind::Chamber ? specOf(part).chambers[item.index].id
           : item.kind == Kind::Vent    ? specOf(part).openings[item.index].id
                                        : part.mounts[item.index].id;
}

Extent extentOf(const Part& part, const Item& item, const std::array<double, 3>& partMm) {
    Extent e;
    if (!isThere(part, item))
        return e;
    if (item.kind == Kind::Walls) {
        for (std::size_t a = 0; a < 3; ++a)
            e.high[a] = inside(part, a);
    } else if (item.kind == Kind::Chamber) {
        const Chamber& c = specOf(part).chambers[item.index];
        e = {c.lowMm, c.highMm};
    } else if (item.kind == Kind::Vent) {
        const Opening& o = specOf(part).openings[item.index];
        const Direction out = outward(o.side);
        const std::size_t a = index(out.axis);
        const double plane = planeOf(part, o), thick = specOf(part).wall.value.mm();
        e.low[a] = out.sign > 0 ? plane : plane - thick;
        e.high[a] = out.sign > 0 ? plane + thick : plane;
        for (std::size_t i = 0; i < 2; ++i) {
            const std::size_t b = index(planeAxes(o.side)[i]);
            e.low[b] = o.centreMm[i] - o.sizeMm[i] / 2;
            e.high[b] = o.centreMm[i] + o.sizeMm[i] / 2;
        }
    } else {
        const Mount& m = part.mounts[item.index];
        for (std::size_t a = 0; a < 3; ++a) {
            double size = partMm[a];
            if (size <= 0 && m.frameMm > 0)
                size = a == index(m.facing.axis) ? 15 : m.frameMm;
            if (size <= 0)
                size = 20;
            e.low[a] = lowOf(m.at[a], size, inside(part, a));
            e.high[a] = e.low[a] + size;
        }
    }
    return e;
}

bool canResize(const Part& part, const Item& item, Axis axis) {
    if (!isThere(part, item) || item.kind == Kind::Place)
        return false;
    return item.kind != Kind::Vent || outward(specOf(part).openings[item.index].side).axis != axis;
}

Result<void> move(Part& part, const Item& item, const std::array<double, 3>& by) {
    if (!isThere(part, item) || item.kind == Kind::Walls)
        return tl::make_unexpected(gone(part));
    if (item.kind == Kind::Chamber) {
        Chamber& c = specOf(part).chambers[item.index];
        for (std::size_t a = 0; a < 3; ++a)
            if (c.lowMm[a] + by[a] < -0.05 || c.highMm[a] + by[a] > inside(part, a) + 0.05)
                return tl::make_unexpected(outside(c.name));
        for (std::size_t a = 0; a < 3; ++a) {
            c.lowMm[a] = tenth(c.lowMm[a] + by[a]);
            c.highMm[a] = tenth(c.highMm[a] + by[a]);
        }
    } else if (item.kind == Kind::Vent) {
        Opening& o = specOf(part).openings[item.index];
        for (std::size_t i = 0; i < 2; ++i) {
            const std::size_t a = index(planeAxes(o.side)[i]);
            const double centre = o.centreMm[i] + by[a];
            if (centre - o.sizeMm[i] / 2 < -0.05 || centre + o.sizeMm[i] / 2 > inside(part, a) + 0.05)
                return tl::make_unexpected(outside(o.name));
        }
        for (std::size_t i = 0; i < 2; ++i)
            o.centreMm[i] = tenth(o.centreMm[i] + by[index(planeAxes(o.side)[i])]);
    } else {
        Mount& m = part.mounts[item.index];
        for (std::size_t a = 0; a < 3; ++a)
            if (by[a] != 0)
                shift(m.at[a], by[a]);
    }
    return {};
}

Result<void> resize(Part& part, const Item& item, Axis axis, bool high, double toMm) {
    const std::size_t a = index(axis);
    if (!canResize(part, item, axis))
        return problem(nameOf(part, item), "has no size to change there", "move it, or edit its part");
    if (item.kind == Kind::Walls)
        return resizeWalls(part, a, high, toMm);
    if (toMm < -0.05 || toMm > inside(part, a) + 0.05)
        return tl::make_unexpected(outside(nameOf(part, item)));
    const Extent e = extentOf(part, item);
    const double low = high ? e.low[a] : toMm, top = high ? toMm : e.high[a];
    if (top - low < 1)
        return problem(nameOf(part, item), "would be smaller than 1 mm", "leave its other end where it is");
    if (item.kind == Kind::Chamber) {
        (high ? specOf(part).chambers[item.index].highMm : specOf(part).chambers[item.index].lowMm)[a] = tenth(toMm);
        return {};
    }
    Opening& o = specOf(part).openings[item.index];
    const std::size_t i = planeAxes(o.side)[0] == axis ? 0 : 1;
    o.sizeMm[i] = tenth(top - low);
    o.centreMm[i] = tenth((top + low) / 2);
    return {};
}

Result<Item> add(Part& part, Kind kind, Side side, PartKind takes) {
    if (!std::holds_alternative<CaseSpec>(part.spec) || kind == Kind::Walls)
        return tl::make_unexpected(gone(part));
    CaseSpec& spec = specOf(part);
    const Direction out = outward(side);
    const auto axes = planeAxes(side);
    const double u = inside(part, index(axes[0])), v = inside(part, index(axes[1]));
    if (kind == Kind::Vent) {
        const auto reaches = [&](const Chamber& c) {
            const std::size_t a = index(out.axis);
            return out.sign > 0 ? c.highMm[a] > inside(part, a) - 0.5 : c.lowMm[a] < 0.5;
        };
        const auto chamber = std::find_if(spec.chambers.begin(), spec.chambers.end(), reaches);
        const double size = std::min({80.0, u - 10, v - 10});
        if (chamber == spec.chambers.end() || size < 5)
            return problem("vent", "finds no chamber behind the " + std::string(sideWord(side)) + " wall",
                           "state a chamber that reaches it first");
        std::array<double, 2> at{};
        for (std::size_t i = 0; i < 2; ++i)
            at[i] = tenth(std::clamp((chamber->lowMm[index(axes[i])] + chamber->highMm[index(axes[i])]) / 2, size / 2,
                                     inside(part, index(axes[i])) - size / 2));
        spec.openings.push_back({.id = freeId(spec.openings, std::string(sideWord(side)) + "-vent"),
                                 .name = freeName(spec.openings, "Vent, " + std::string(sideWord(side))),
                                 .side = side,
                                 .chamber = chamber->id,
                                 .centreMm = at,
                                 .sizeMm = {size, size}});
        return Item{kind, spec.openings.size() - 1};
    }
    if (kind == Kind::Chamber) {
        Chamber c{.id = freeId(spec.chambers, "chamber"), .name = freeName(spec.chambers, "Chamber")};
        for (std::size_t a = 0; a < 3; ++a)
            c.highMm[a] = inside(part, a) / 2;
        spec.chambers.push_back(c);
        return Item{kind, spec.chambers.size() - 1};
    }
    const bool fan = takes == PartKind::Fan;
    const auto estimate = [](Ref ref, double mm) { return Offset{ref, measureMm(mm, Source::Estimate)}; };
    Mount m{.id = freeId(part.mounts, fan ? std::string(sideWord(side)) + "-fan" : std::string(kindWord(takes))),
            .name = freeName(part.mounts, fan ? "Fan place, " + std::string(sideWord(side))
                                              : "Place, " + std::string(kindWord(takes))),
            .accepts = {takes},
            .facing = fan ? out : Direction{Axis::X, 1},
            .up = {fan && out.axis == Axis::Z ? Axis::Y : Axis::Z, 1}};
    if (fan) {
        m.at[index(out.axis)] = {out.sign > 0 ? Ref::High : Ref::Low, {.source = Source::Drawing}};
        m.at[index(axes[0])] = estimate(Ref::Centre, tenth(u / 2));
        m.at[index(axes[1])] = estimate(Ref::Centre, tenth(v / 2));
        for (const double frame : {120.0, 92.0, 80.0, 60.0, 40.0})
            if (m.frameMm == 0 && std::min(u, v) >= frame)
                m.frameMm = frame;
    } else {
        for (Offset& o : m.at)
            o = estimate(Ref::Low, 6);
    }
    part.mounts.push_back(std::move(m));
    return Item{kind, part.mounts.size() - 1};
}

Result<Item> copy(Part& part, const Item& item, const std::array<double, 3>& by) {
    if (!isThere(part, item) || item.kind == Kind::Walls)
        return tl::make_unexpected(gone(part));
    Part tried = part;
    Item made{item.kind, 0};
    const auto again = [&](auto& list) {
        auto one = list[item.index];
        one.id = freeId(list, one.id);
        one.name = freeName(list, one.name);
        list.push_back(std::move(one));
        made.index = list.size() - 1;
    };
    if (item.kind == Kind::Chamber)
        again(specOf(tried).chambers);
    else if (item.kind == Kind::Vent)
        again(specOf(tried).openings);
    else
        again(tried.mounts);
    if (by != std::array<double, 3>{})
        if (auto done = move(tried, made, by); !done)
            return tl::make_unexpected(done.error());
    part = std::move(tried);
    return made;
}

Result<Item> mirror(Part& part, const Item& item, Axis axis) {
    Part tried = part;
    auto made = copy(tried, item, {});
    if (!made)
        return made;
    const std::size_t a = index(axis);
    const double whole = inside(tried, a);
    const auto other = [&](Direction d) { return d.axis == axis ? Direction{axis, -d.sign} : d; };
    if (item.kind == Kind::Chamber) {
        Chamber& c = specOf(tried).chambers[made->index];
        std::tie(c.lowMm[a], c.highMm[a]) = std::pair(tenth(whole - c.highMm[a]), tenth(whole - c.lowMm[a]));
    } else if (item.kind == Kind::Vent) {
        Opening& o = specOf(tried).openings[made->index];
        if (outward(o.side).axis == axis)
            o.side = sideOf(other(outward(o.side)));
        for (std::size_t i = 0; i < 2; ++i)
            if (planeAxes(o.side)[i] == axis)
                o.centreMm[i] = tenth(whole - o.centreMm[i]);
    } else {
        Mount& m = tried.mounts[made->index];
        Offset& at = m.at[a];
        if (at.ref == Ref::Centre)
            at.value.value = Length::fromMm(tenth(whole - at.value.value.mm()));
        else
            at.ref = at.ref == Ref::Low     ? Ref::High
                     : at.ref == Ref::High  ? Ref::Low
                     : at.ref == Ref::Above ? Ref::Below
                                            : Ref::Above;
        m.facing = other(m.facing);
        m.variants.clear();
        m.slides.clear();
    }
    part = std::move(tried);
    return made;
}

Result<void> row(Part& part, const Item& item, int count, Axis axis, double stepMm) {
    Part tried = part;
    for (int i = 1; i <= count; ++i) {
        std::array<double, 3> by{};
        by[index(axis)] = i * stepMm;
        if (auto made = copy(tried, item, by); !made)
            return tl::make_unexpected(made.error());
    }
    part = std::move(tried);
    return {};
}

Result<Item> split(Part& part, const Item& item, Axis axis, double atMm, double gapMm) {
    if (!isThere(part, item) || item.kind != Kind::Chamber)
        return tl::make_unexpected(gone(part));
    auto& all = specOf(part).chambers;
    const std::size_t a = index(axis);
    Chamber far = all[item.index];
    if (!(atMm > far.lowMm[a] + 1 && atMm + gapMm < far.highMm[a] - 1))
        return problem(far.name, "is not cut at " + fixed(atMm, 1) + " mm", "a place between its two ends");
    far.id = freeId(all, far.id);
    far.name = freeName(all, far.name);
    far.lowMm[a] = tenth(atMm + gapMm);
    all[item.index].highMm[a] = tenth(atMm);
    // A vent on the far side is now of the far chamber.
    for (Opening& o : specOf(part).openings) {
        if (o.chamber != all[item.index].id)
            continue;
        const Direction out = outward(o.side);
        bool beyond = out.axis == axis && out.sign > 0;
        for (std::size_t i = 0; i < 2; ++i)
            beyond = beyond || (planeAxes(o.side)[i] == axis && o.centreMm[i] > atMm);
        if (beyond)
            o.chamber = far.id;
    }
    all.push_back(far);
    return Item{Kind::Chamber, all.size() - 1};
}

std::vector<std::size_t> joinable(const Part& part, const Item& item, double gapMm) {
    std::vector<std::size_t> all;
    if (!isThere(part, item) || item.kind != Kind::Chamber)
        return all;
    constexpr double alikeMm = 0.5;
    const auto& chambers = specOf(part).chambers;
    const Chamber& one = chambers[item.index];
    for (std::size_t i = 0; i < chambers.size(); ++i) {
        const Chamber& other = chambers[i];
        int alike = 0, beside = 0;
        for (std::size_t k = 0; k < 3; ++k) {
            const double between = std::max(one.lowMm[k], other.lowMm[k]) -
                                   std::min(one.highMm[k], other.highMm[k]); // negative: they overlap
            const bool same = std::abs(one.lowMm[k] - other.lowMm[k]) <= alikeMm &&
                              std::abs(one.highMm[k] - other.highMm[k]) <= alikeMm;
            alike += same ? 1 : 0;
            beside += !same && between >= -alikeMm && between <= gapMm ? 1 : 0;
        }
        if (i != item.index && alike == 2 && beside == 1)
            all.push_back(i);
    }
    return all;
}

Result<Item> join(Part& part, const Item& item, std::size_t other) {
    const auto able = joinable(part, item);
    if (std::find(able.begin(), able.end(), other) == able.end())
        return problem(isThere(part, item) ? nameOf(part, item) : part.name, "makes no box with that chamber",
                       "one beside it that is as wide and as high");
    CaseSpec& spec = specOf(part);
    const Chamber gone = spec.chambers[other];
    Chamber& one = spec.chambers[item.index];
    for (std::size_t k = 0; k < 3; ++k) {
        one.lowMm[k] = std::min(one.lowMm[k], gone.lowMm[k]);
        one.highMm[k] = std::max(one.highMm[k], gone.highMm[k]);
    }
    const std::string id = one.id;
    for (Opening& o : spec.openings) {
        if (o.chamber == gone.id)
            o.chamber = id;
        if (o.to == gone.id)
            o.to = id;
    }
    std::erase_if(spec.openings, [&](const Opening& o) { return o.chamber == id && o.to == id; });
    spec.chambers.erase(spec.chambers.begin() + static_cast<std::ptrdiff_t>(other));
    return Item{Kind::Chamber, item.index - (other < item.index ? 1 : 0)};
}

Result<void> rename(Part& part, const Item& item, const std::string& name) {
    if (!isThere(part, item))
        return tl::make_unexpected(gone(part));
    if (name.empty())
        return problem("name", "is empty", "any name");
    (item.kind == Kind::Walls     ? part.name
     : item.kind == Kind::Chamber ? specOf(part).chambers[item.index].name
     : item.kind == Kind::Vent    ? specOf(part).openings[item.index].name
                                  : part.mounts[item.index].name) = name;
    return {};
}

Result<void> remove(Part& part, const Item& item) {
    if (!isThere(part, item) || item.kind == Kind::Walls)
        return tl::make_unexpected(gone(part));
    const auto at = static_cast<std::ptrdiff_t>(item.index);
    CaseSpec& spec = specOf(part);
    if (item.kind == Kind::Chamber) {
        if (spec.chambers.size() == 1)
            return problem(spec.chambers.front().name, "is the last chamber", "a case has at least one air space");
        const std::string id = spec.chambers[item.index].id;
        std::erase_if(spec.openings, [&](const Opening& o) { return o.chamber == id || o.to == id; });
        spec.chambers.erase(spec.chambers.begin() + at);
    } else if (item.kind == Kind::Vent) {
        const std::string id = spec.openings[item.index].id;
        for (Modification& m : spec.modifications)
            std::erase(m.opens, id);
        spec.openings.erase(spec.openings.begin() + at);
    } else {
        part.mounts.erase(part.mounts.begin() + at);
    }
    return {};
}

std::vector<std::string> hangsOn(const Project& project, const Part& part, const Item& item) {
    std::vector<std::string> all;
    if (!isThere(part, item))
        return all;
    const std::string id = idOf(part, item);
    if (item.kind == Kind::Chamber)
        for (const Opening& o : specOf(part).openings)
            if (o.chamber == id || o.to == id)
                all.push_back(o.name);
    if (item.kind == Kind::Vent)
        for (const Modification& m : specOf(part).modifications)
            if (std::find(m.opens.begin(), m.opens.end(), id) != m.opens.end())
                all.push_back(m.name);
    if (item.kind == Kind::Chamber || item.kind == Kind::Walls)
        return all;
    for (const Revision& r : project.revisions)
        for (const Change& change : r.changes) {
            const std::string mount = changedMount(change);
            const bool place = item.kind == Kind::Place && (mount == id || mount.starts_with(id + "/"));
            const auto* vent = std::get_if<SetOpening>(&change);
            const auto* screen = std::get_if<SetScreen>(&change);
            const auto* fouling = std::get_if<SetFouling>(&change);
            const bool opening =
                item.kind == Kind::Vent && ((vent && vent->opening == id) || (screen && screen->opening == id) ||
                                            (fouling && fouling->opening == id));
            if (place || opening)
                all.push_back(r.id + ": " + english(describe(change, project)));
        }
    return all;
}

} // namespace core::box
