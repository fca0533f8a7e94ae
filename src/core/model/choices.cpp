// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/choices.h"

namespace core {

std::vector<MountChoice> mountsOf(const Build& build) {
    std::vector<MountChoice> choices;
    const auto add = [&](const Part& owner, const std::string& prefix) {
        const auto one = [&](const std::string& id, const std::string& name, const std::vector<PartKind>& accepts) {
            const std::string path = prefix.empty() ? id : prefix + "/" + id;
            const Placed* at = build.at(path);
            choices.push_back({path, name.empty() ? id : name, accepts, at ? at->part : nullptr});
        };
        for (const Mount& m : owner.mounts)
            one(m.id, m.name, m.accepts);
        if (owner.kind == PartKind::Processor && owner.mounts.empty())
            one("lid", "Lid", {PartKind::Cooler});
    };
    add(*build.casePart, {});
    for (const Placed& p : build.placed)
        add(*p.part, p.mount);
    return choices;
}

const Mount* mountAt(const Build& build, std::string_view path) {
    const auto slash = path.rfind('/');
    const Placed* parent = slash == std::string_view::npos ? nullptr : build.at(path.substr(0, slash));
    const Part* owner = slash == std::string_view::npos ? build.casePart : parent ? parent->part : nullptr;
    const std::string_view last = slash == std::string_view::npos ? path : path.substr(slash + 1);
    if (!owner)
        return nullptr;
    const auto it =
        std::find_if(owner->mounts.begin(), owner->mounts.end(), [&](const Mount& m) { return m.id == last; });
    return it == owner->mounts.end() ? nullptr : &*it;
}

namespace {

/// The thing a change sets to a value, when saying it again simply replaces it; empty: it adds up or stands alone.
std::string settingOf(const Change& change) {
    return std::visit(
        [](const auto& c) -> std::string {
            using T = std::decay_t<decltype(c)>;
            if constexpr (std::is_same_v<T, SetFan> || std::is_same_v<T, LimitPower> || std::is_same_v<T, SwapPart> ||
                          std::is_same_v<T, ChooseVariant>)
                return c.mount;
            else if constexpr (requires { c.opening; })
                return c.opening;
            else if constexpr (std::is_same_v<T, SetPlug>)
                return c.mount + ":" + c.port;
            else if constexpr (std::is_same_v<T, RouteLead>)
                return c.part + " " + c.from + " " + c.to;
            else if constexpr (std::is_same_v<T, SetFeet>)
                return "feet";
            else if constexpr (std::is_same_v<T, Orient>)
                return "gravity";
            else
                return {};
        },
        change);
}

/// Whether what was said of a thing before @p earlier may be replaced by @p change as if @p earlier were not between:
/// of the way of a lead as long as nothing was plugged or taken out, of a vent as long as the case stayed what it was.
bool reachesPast(const Change& earlier, const Change& change) {
    if (std::holds_alternative<RouteLead>(change))
        return std::holds_alternative<RouteLead>(earlier) || std::holds_alternative<MovePart>(earlier);
    const bool ofVent = std::visit(
        [](const auto& c) {
            return requires { c.opening; };
        },
        change);
    return ofVent && !std::holds_alternative<SetCase>(earlier) && !std::holds_alternative<Modify>(earlier);
}

/// What was said last of the same thing, and can be said anew in its place; null: nothing.
Change* saidBefore(std::vector<Change>& changes, const Change& change) {
    for (std::size_t i = changes.size(); i-- > 0;) {
        Change& earlier = changes[i];
        if (earlier.index() == change.index() && !settingOf(change).empty() && settingOf(earlier) == settingOf(change))
            return &earlier;
        if (!reachesPast(earlier, change))
            return nullptr;
    }
    return nullptr;
}

} // namespace

void addTo(std::vector<Change>& changes, const Change& change) {
    if (!changes.empty()) {
        Change& last = changes.back();
        if (std::holds_alternative<FlipFan>(change) && last == change) {
            changes.pop_back();
            return;
        }
        if (auto* move = std::get_if<MovePart>(&last))
            if (const auto* more = std::get_if<MovePart>(&change);
                more && more->mount == move->mount && more->axis == move->axis) {
                move->by += more->by;
                if (move->by == Length{})
                    changes.pop_back();
                return;
            }
        if (Change* before = saidBefore(changes, change)) {
            *before = change;
            return;
        }
    }
    changes.push_back(change);
}

std::string freePartId(const Project& project, std::string_view wanted) {
    std::string id(wanted);
    for (int n = 2; project.part(id); ++n)
        id = std::string(wanted) + "-" + std::to_string(n);
    return id;
}

} // namespace core
