// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/text.h"
#include "core/model/build.h"
#include "core/model/fields/choices_of.h"

namespace core {
namespace {
std::string percent(double share) { return std::to_string(std::lround(share * 100)) + " %"; }

/// Names things as they were before the change; falls back on ids when the parent does not resolve.
struct Namer {
    const Project& project;
    std::optional<Build> before;

    std::string part(const std::string& id) const {
        const Part* p = project.part(id);
        return p ? p->name : id;
    }
    std::string at(const std::string& mount) const {
        const Placed* p = before ? before->at(mount) : nullptr;
        return p ? p->part->name : mount;
    }
    std::string opening(const std::string& id) const {
        const Opening* o = before ? before->opening(id) : nullptr;
        return o && !o->name.empty() ? o->name : id;
    }
    std::string operator()(const SetCase& c) const {
        const std::string name = part(c.part);
        const bool says = name.find("case") != std::string::npos || name.find("Case") != std::string::npos;
        return says ? name : "Case " + name;
    }
    std::string operator()(const PlacePart& c) const { return part(c.part) + " added"; }
    std::string operator()(const SwapPart& c) const { return at(c.mount) + " to " + part(c.part); }
    std::string operator()(const RemovePart& c) const { return at(c.mount) + " taken out"; }
    std::string operator()(const FlipFan& c) const {
        const Placed* p = before ? before->at(c.mount) : nullptr;
        return at(c.mount) + (!p                       ? " turned round"
                              : p->flow == FanFlow::In ? " turned to blow out"
                                                       : " turned to blow in");
    }
    std::string operator()(const SetFan& c) const {
        return at(c.mount) + (c.mode == FanMode::Fixed       ? " held at " + percent(c.duty)
                              : c.mode == FanMode::Processor ? " follows the processor"
                                                             : " follows the card");
    }
    std::string operator()(const SetScreen& c) const {
        return c.screen == Screen::None ? "Dust screen off " + opening(c.opening)
                                        : std::string(screenWord(c.screen)) + " dust screen on " + opening(c.opening);
    }
    std::string operator()(const SetFouling& c) const {
        return c.fouling <= 1 ? opening(c.opening) + " cleaned"
                              : opening(c.opening) + " clogged, " + shortest(c.fouling) +
                                    " times the resistance of its clean screen";
    }
    std::string operator()(const SetOpening& c) const {
        if (c.style == OpeningStyle::Closed)
            return opening(c.opening) + " closed";
        const Opening* o = before ? before->opening(c.opening) : nullptr;
        const std::string now = percent(c.perforation) + " open";
        return opening(c.opening) + (o && o->style != OpeningStyle::Closed
                                         ? " " + percent(o->perforation) + " to " + now
                                         : " opened to " + std::string(styleWord(c.style)) + ", " + now);
    }
    std::string operator()(const MovePart& c) const {
        const std::string mm = plainFixed(std::abs(c.by.mm()), 1);
        constexpr std::array<std::array<const char*, 2>, 3> words{
            {{"left", "right"}, {"forward", "back"}, {"down", "up"}}};
        return at(c.mount) + " moved " + mm + " mm " + words[index(c.axis)][c.by.um() > 0 ? 1 : 0];
    }
    std::string operator()(const Orient& c) const {
        return c.down == Side::Bottom ? "Standing upright" : "Laid on its " + std::string(sideWord(c.down)) + " side";
    }
    std::string operator()(const ChooseVariant& c) const {
        if (c.variant.empty())
            return at(c.mount) + " as the place is drawn";
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
                        return at(c.mount) + ": " + (v.name.empty() ? v.id : v.name);
        return at(c.mount) + ": " + c.variant;
    }
    std::string operator()(const SetPlug& c) const {
        return at(c.mount) + ", " + (c.style == PlugStyle::Straight ? "straight plug" : "angled plug") + " at " +
               c.port + (c.style == PlugStyle::Straight ? "" : ", lead " + inCase(c.mount, c.towards));
    }
    /// A part's own direction as it lies in the case, in words.
    std::string inCase(const std::string& mount, Direction own) const {
        const Placed* p = before ? before->at(mount) : nullptr;
        if (!p)
            return "towards its own " + directionWord(own);
        Direction d = p->frame.axis[index(own.axis)];
        d.sign *= own.sign;
        constexpr std::array<std::array<const char*, 2>, 3> words{
            {{"to the left", "to the right"}, {"to the front", "to the rear"}, {"down", "up"}}};
        return words[index(d.axis)][d.sign > 0 ? 1 : 0];
    }
    std::string operator()(const Connect& c) const {
        std::string words = part(c.part);
        if (!c.from.empty())
            words += " from " + end(c.from);
        for (std::size_t i = 0; i < c.to.size(); ++i)
            words += (i ? ", " : " to ") + end(c.to[i]);
        return words;
    }
    std::string operator()(const Disconnect& c) const {
        return part(c.part) + (c.from.empty() ? "" : " at " + end(c.from)) + " unplugged";
    }
    std::string operator()(const SetFeet& c) const { return "Feet of " + plainFixed(c.mm, 1) + " mm"; }
    std::string operator()(const Modify& c) const {
        if (before)
            for (const Modification& m : before->caseSpec().modifications)
                if (m.id == c.modification)
                    return m.name;
        return "Modification " + c.modification;
    }
    std::string end(const std::string& text) const {
        const EndName name = endName(text);
        return (name.mount == caseMount ? "the case" : at(name.mount)) +
               (name.port.empty() ? "" : " (" + name.port + ")");
    }
    std::string operator()(const LimitPower& c) const {
        return at(c.mount) + " limited to " + std::to_string(std::lround(c.watts)) + " W";
    }
};
} // namespace

std::string_view styleWord(OpeningStyle style) { return choiceWord(style); }
std::optional<OpeningStyle> styleFromWord(std::string_view word) { return choiceFrom<OpeningStyle>(word); }
std::string_view screenWord(Screen screen) { return choiceWord(screen); }
std::optional<Screen> screenFromWord(std::string_view word) { return choiceFrom<Screen>(word); }
std::string_view fanModeWord(FanMode mode) { return choiceWord(mode); }
std::optional<FanMode> fanModeFromWord(std::string_view word) { return choiceFrom<FanMode>(word); }

std::string describe(const Change& change, const Project& project, const std::string& parentRevision) {
    Namer namer{project, std::nullopt};
    if (!parentRevision.empty())
        if (auto build = resolve(project, parentRevision))
            namer.before = std::move(*build);
    std::string words = std::visit(namer, change);
    if (!words.empty() && words[0] >= 'a' && words[0] <= 'z')
        words[0] = static_cast<char>(words[0] - 'a' + 'A');
    return words;
}

} // namespace core
