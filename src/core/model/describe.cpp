// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/text.h"
#include "core/model/box_edits.h"
#include "core/model/build.h"
#include "core/model/fields/choices_of.h"

namespace core {
namespace {
/// Where something is moved to.
Sentence moved(const std::string& name, const Figure& by, Axis axis, bool up) {
    switch (axis) {
    case Axis::X:
        return sayCounted(up, "{} moved {} right", "{} moved {} left", name, by);
    case Axis::Y:
        return sayCounted(up, "{} moved {} back", "{} moved {} forward", name, by);
    case Axis::Z:
        break;
    }
    return sayCounted(up, "{} moved {} up", "{} moved {} down", name, by);
}

/// Where something points in the case.
Sentence pointing(Direction d) {
    switch (d.axis) {
    case Axis::X:
        return d.sign > 0 ? say("to the right") : say("to the left");
    case Axis::Y:
        return d.sign > 0 ? say("to the rear") : say("to the front");
    case Axis::Z:
        break;
    }
    return d.sign > 0 ? say("up") : say("down");
}

/// Names things as they were before the change; falls back on ids when the parent does not resolve.
struct Namer {
    const Project& project;
    std::optional<Build> before;
    /// By mount: what changes named before this one put there; "": nothing is left there.
    std::map<std::string, std::string> placed = {};

    std::string part(const std::string& id) const {
        const Part* p = project.part(id);
        return p ? p->name : id;
    }
    std::string at(const std::string& mount) const {
        if (const auto now = placed.find(mount); now != placed.end())
            return now->second.empty() ? mount : apart(part(now->second), mount);
        const Placed* p = before ? before->at(mount) : nullptr;
        return p ? apart(p->part->name, mount) : mount;
    }
    /// With its place where another part is called the same, as a build names them: "Fan 92, top".
    [[nodiscard]] std::string apart(const std::string& name, const std::string& mount) const {
        bool other = std::any_of(placed.begin(), placed.end(), [&](const auto& p) {
            return p.first != mount && !p.second.empty() && part(p.second) == name;
        });
        if (before)
            for (const Placed& p : before->placed)
                other = other || (p.mount != mount && p.part->name == name); // also where it was until a change before
        return other ? name + ", " + mount : name;
    }
    std::string opening(const std::string& id) const {
        const Opening* o = before ? before->opening(id) : nullptr;
        return o && !o->name.empty() ? o->name : id;
    }
    /// An edited copy of the case that was there: what is another of it.
    [[nodiscard]] Sentence editedCase(const Part& now) const {
        Part was = *before->casePart;
        std::get<CaseSpec>(was.spec).openings = before->openings; // with what changes made of them
        Sentences all = box::differences(was, now);
        constexpr std::size_t most = 4;
        if (all.size() > most) {
            const std::size_t more = all.size() - most + 1;
            all.resize(most - 1);
            all.push_back(say("and {} more", more));
        }
        return joined(all);
    }
    Sentence operator()(const SetCase& c) const {
        const Part* now = project.part(c.part);
        if (now && before && before->casePart && now->name == before->casePart->name && now->id != before->casePart->id)
            return editedCase(*now);
        const std::string name = part(c.part);
        const bool says = name.find("case") != std::string::npos || name.find("Case") != std::string::npos;
        return says ? named(name) : say("Case {}", name);
    }
    Sentence operator()(const PlacePart& c) const { return say("{} added", apart(part(c.part), c.mount)); }
    Sentence operator()(const SwapPart& c) const { return say("{} to {}", at(c.mount), part(c.part)); }
    Sentence operator()(const RemovePart& c) const { return say("{} taken out", at(c.mount)); }
    Sentence operator()(const FlipFan& c) const {
        const Placed* p = before ? before->at(c.mount) : nullptr;
        return !p                       ? say("{} turned round", at(c.mount))
               : p->flow == FanFlow::In ? say("{} turned to blow out", at(c.mount))
                                        : say("{} turned to blow in", at(c.mount));
    }
    Sentence operator()(const SetFan& c) const {
        const FanControl& f = c.control;
        if (f.mode == FanMode::Fixed)
            return say("{} held at {}", at(c.mount), figure::percent(f.duty));
        const Sentence what = f.mode == FanMode::Processor ? say("the processor")
                              : f.mode == FanMode::Card    ? say("the card")
                                                           : named(at(f.follows));
        if (f.curve.empty())
            return say("{} follows {}", at(c.mount), what);
        return say("{} follows {}, {} at {} to {} at {}", at(c.mount), what, figure::percent(f.curve.front().duty),
                   figure::celsius(f.curve.front().temperatureC, 0), figure::percent(f.curve.back().duty),
                   figure::celsius(f.curve.back().temperatureC, 0));
    }
    Sentence operator()(const SetScreen& c) const {
        return c.screen == Screen::None ? say("Dust screen off {}", opening(c.opening))
                                        : say("{} dust screen on {}", term(screenWord(c.screen)), opening(c.opening));
    }
    Sentence operator()(const SetFouling& c) const {
        return c.fouling <= 1 ? say("{} cleaned", opening(c.opening))
                              : say("{} clogged, {} times the resistance of its clean screen", opening(c.opening),
                                    shortest(c.fouling));
    }
    Sentence operator()(const SetOpening& c) const {
        if (c.style == OpeningStyle::Closed)
            return say("{} closed", opening(c.opening));
        const Opening* o = before ? before->opening(c.opening) : nullptr;
        const Figure now = figure::percent(c.perforation);
        return o && o->style != OpeningStyle::Closed
                   ? say("{} {} to {} open", opening(c.opening), figure::percent(o->perforation), now)
                   : say("{} opened to {}, {} open", opening(c.opening), term(styleWord(c.style)), now);
    }
    Sentence operator()(const MovePart& c) const {
        return moved(at(c.mount), figure::mm(std::abs(c.by.mm())), c.axis, c.by.um() > 0);
    }
    Sentence operator()(const Orient& c) const {
        return c.down == Side::Bottom ? say("Standing upright") : say("Laid on its {} side", term(sideWord(c.down)));
    }
    Sentence operator()(const ChooseVariant& c) const {
        if (c.variant.empty())
            return say("{} as the place is drawn", at(c.mount));
        const auto slash = c.mount.rfind('/');
        const Placed* parent = before && slash != std::string::npos ? before->at(c.mount.substr(0, slash)) : nullptr;
        const Part* owner = slash == std::string::npos ? (before ? before->casePart : nullptr)
                            : parent                   ? parent->part
                                                       : nullptr;
        const std::string last = slash == std::string::npos ? c.mount : c.mount.substr(slash + 1);
        if (owner)
            for (const Mount& m : owner->mounts)
                for (const MountVariant& v : m.variants)
                    if (m.id == last && v.id == c.variant)
                        return say("{}: {}", at(c.mount), (v.name.empty() ? v.id : v.name));
        return say("{}: {}", at(c.mount), c.variant);
    }
    Sentence operator()(const SetPlug& c) const {
        return c.style == PlugStyle::Straight
                   ? say("{}, straight plug at {}", at(c.mount), c.port)
                   : say("{}, angled plug at {}, lead {}", at(c.mount), c.port, inCase(c.mount, c.towards));
    }
    /// A part's own direction as it lies in the case, in words.
    Sentence inCase(const std::string& mount, Direction own) const {
        const Placed* p = before ? before->at(mount) : nullptr;
        if (!p)
            return say("towards its own {}", directionWord(own));
        Direction d = p->frame.axis[index(own.axis)];
        d.sign *= own.sign;
        return pointing(d);
    }
    Sentence operator()(const Connect& c) const {
        Sentences to;
        for (const std::string& one : c.to)
            to.push_back(end(one));
        if (c.from.empty())
            return to.empty() ? named(part(c.part)) : say("{} to {}", part(c.part), joined(to));
        return to.empty() ? say("{} from {}", part(c.part), end(c.from))
                          : say("{} from {} to {}", part(c.part), end(c.from), joined(to));
    }
    Sentence operator()(const Disconnect& c) const {
        return c.from.empty() ? say("{} unplugged", part(c.part))
                              : say("{} at {} unplugged", part(c.part), end(c.from));
    }
    Sentence operator()(const RouteLead& c) const {
        return c.pointsMm.empty() ? say("{} along the edges of the case", part(c.part))
                                  : sayCounted(c.pointsMm.size() == 1, "{} led round {} corner",
                                               "{} led round {} corners", part(c.part), c.pointsMm.size());
    }
    Sentence operator()(const SetFeet& c) const { return say("Feet of {}", figure::mm(c.mm)); }
    Sentence operator()(const Modify& c) const {
        if (before)
            for (const Modification& m : before->caseSpec().modifications)
                if (m.id == c.modification)
                    return named(m.name);
        return say("Modification {}", c.modification);
    }
    Sentence end(const std::string& text) const {
        const EndName name = endName(text);
        const Sentence of = name.mount == caseMount ? say("the case") : named(at(name.mount));
        return name.port.empty() ? of : say("{} ({})", of, name.port);
    }
    Sentence operator()(const LimitPower& c) const {
        return say("{} limited to {}", at(c.mount), figure::watts(c.watts));
    }
};

Namer namerAt(const Project& project, const std::string& revision) {
    Namer namer{project, std::nullopt};
    if (!revision.empty())
        if (auto build = resolve(project, revision))
            namer.before = std::move(*build);
    return namer;
}
} // namespace

std::string_view styleWord(OpeningStyle style) { return choiceWord(style); }
std::optional<OpeningStyle> styleFromWord(std::string_view word) { return choiceFrom<OpeningStyle>(word); }
std::string_view screenWord(Screen screen) { return choiceWord(screen); }
std::optional<Screen> screenFromWord(std::string_view word) { return choiceFrom<Screen>(word); }
std::string_view fanModeWord(FanMode mode) { return choiceWord(mode); }
std::optional<FanMode> fanModeFromWord(std::string_view word) { return choiceFrom<FanMode>(word); }

Sentence describe(const Change& change, const Project& project, const std::string& parentRevision) {
    return capitalised(std::visit(namerAt(project, parentRevision), change));
}

Sentences describe(const Revision& revision, const Project& project) {
    Namer namer = namerAt(project, revision.parent);
    Sentences all;
    for (const Change& change : revision.changes) {
        all.push_back(capitalised(std::visit(namer, change)));
        if (const auto* place = std::get_if<PlacePart>(&change))
            namer.placed[place->mount] = place->part;
        else if (const auto* swap = std::get_if<SwapPart>(&change))
            namer.placed[swap->mount] = swap->part;
        else if (const auto* removed = std::get_if<RemovePart>(&change))
            namer.placed[removed->mount].clear();
    }
    return all;
}

} // namespace core
