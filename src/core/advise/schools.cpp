// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/advise/schools.h"

#include "core/model/edits.h"

#include <algorithm>

namespace core::advise {
namespace {

double thicknessMm(const Part& fan) { return fan.size[2].value.mm(); }
double frameMm(const Part& fan) { return std::max(fan.size[0].value.mm(), fan.size[1].value.mm()); }

class Schools {
public:
    Schools(const Project& project, const stages::Evaluation& now, const std::function<bool()>& stop,
            std::string_view load)
        : m_project(project), m_now(now), m_stop(stop), m_load(load) {
        for (const air::FanResult& fan : now.air.fans)
            if (const Placed* p = now.build.at(fan.id);
                p && p->part->kind == PartKind::Fan && fan.direction != air::FanDirection::Inside)
                m_fans.push_back({p, fan.ratedFlowM3h});
    }

    std::vector<School> run() {
        pressure();
        sides();
        screens();
        thickness();
        liquid();
        return std::move(m_all);
    }

private:
    struct PanelFan {
        const Placed* placed;
        double ratedM3h;
    };

    void add(const Sentence& question, const Sentence& name, std::vector<Change> changes) {
        if (m_stop && m_stop())
            return;
        School s{.question = question, .name = name, .changes = std::move(changes), .why = {}};
        if (s.changes.empty()) {
            s.against = Against::Now;
            figures(s, m_now);
        } else if (auto build = resolveWith(m_project, m_now.build.revision, s.changes); !build) {
            refuse(s, say("{}", build.error().text()));
        } else if (const auto then = stages::evaluateBuild(m_project, std::move(*build), {.load = m_load}); !then) {
            refuse(s, say("{}", then.error().text()));
        } else {
            figures(s, *then);
            s.processor = differenceOf(*then, PartKind::Processor);
            s.card = differenceOf(*then, PartKind::Card);
            s.noiseDb = then->noise.totalDba - m_now.noise.totalDba;
            s.price = then->price - m_now.price;
            s.against = judged(s);
            if (const auto* blocker = newBlocker(*then))
                refuse(s, blocker->text);
        }
        m_all.push_back(std::move(s));
    }
    void cannot(const Sentence& question, const Sentence& name, const Sentence& why) {
        School s{.question = question, .name = name, .changes = {}, .why = {}};
        refuse(s, why);
        m_all.push_back(std::move(s));
    }
    static void refuse(School& s, const Sentence& why) {
        s.against = Against::DoesNotGoIn;
        s.why = why;
    }
    static const air::PartResult* hottest(const stages::Evaluation& e, PartKind kind) {
        const air::PartResult* found = nullptr;
        for (const air::PartResult& part : e.air.parts)
            if (part.kind == kind && (!found || part.temperatureC > found->temperatureC))
                found = &part;
        return found;
    }
    static void figures(School& s, const stages::Evaluation& e) {
        s.inM3h = e.air.balance.inM3h;
        s.outM3h = e.air.balance.outM3h;
        s.unfilteredShare = e.air.balance.unfilteredShare;
        if (const auto* part = hottest(e, PartKind::Processor))
            s.processorC = part->temperatureC;
        if (const auto* part = hottest(e, PartKind::Card))
            s.cardC = part->temperatureC;
    }
    std::optional<air::Difference> differenceOf(const stages::Evaluation& then, PartKind kind) const {
        const air::PartResult* part = hottest(then, kind);
        return part ? air::differenceOf(m_now.air, then.air, part->id) : std::nullopt;
    }
    static Against judged(const School& s) {
        bool better = false, worse = false;
        for (const auto& d : {s.processor, s.card})
            if (d && std::abs(d->kelvin) > std::max(d->bandK, facts::toldApart.value))
                (d->kelvin < 0 ? better : worse) = true;
        return better && worse ? Against::Undecided
               : better        ? Against::Better
               : worse         ? Against::Worse
                               : Against::Neither;
    }
    /// Something that keeps it from being built that is not there now.
    const rules::Finding* newBlocker(const stages::Evaluation& then) const {
        for (const rules::Finding& f : then.findings) {
            const bool counts = f.severity == rules::Severity::Blocker && f.station != rules::Station::Air;
            if (counts && std::none_of(m_now.findings.begin(), m_now.findings.end(), [&](const rules::Finding& was) {
                    return was.id == f.id && was.severity == f.severity;
                }))
                return &f;
        }
        return nullptr;
    }

    /// Turns fans until each blows as asked; nothing where they do already.
    std::vector<Change> turned(const std::vector<FanFlow>& wanted) const {
        std::vector<Change> changes;
        for (std::size_t i = 0; i < m_fans.size(); ++i)
            if (m_fans[i].placed->flow != wanted[i])
                changes.emplace_back(FlipFan{m_fans[i].placed->mount});
        return changes;
    }
    void pressure() {
        const Sentence question = say("pressure");
        if (m_fans.empty())
            return;
        const std::size_t n = std::min<std::size_t>(m_fans.size(), 10);
        std::vector<FanFlow> balanced;
        double least = 1e300;
        for (std::size_t mask = 1; mask + 1 < (std::size_t{1} << n); ++mask) { // some in and some out
            double net = 0;
            std::vector<FanFlow> flows(m_fans.size(), FanFlow::In);
            for (std::size_t i = 0; i < n; ++i) {
                flows[i] = mask >> i & 1 ? FanFlow::In : FanFlow::Out;
                net += (mask >> i & 1 ? 1 : -1) * m_fans[i].ratedM3h;
            }
            if (std::abs(net) < least - 1e-9) {
                least = std::abs(net);
                balanced = flows;
            }
        }
        add(question, say("negative"), turned(std::vector(m_fans.size(), FanFlow::Out)));
        if (balanced.empty())
            cannot(question, say("neutral"), say("takes two fans in panels, there is one"));
        else
            add(question, say("neutral"), turned(balanced));
        add(question, say("positive"), turned(std::vector(m_fans.size(), FanFlow::In)));
    }
    void sides() {
        std::vector<FanFlow> as;
        bool any = false;
        for (const PanelFan& fan : m_fans)
            as.push_back(fan.placed->flow);
        for (const auto& [flow, name] :
             {std::pair{FanFlow::In, say("blow in")}, std::pair{FanFlow::Out, say("blow out")}}) {
            auto flows = as;
            for (std::size_t i = 0; i < m_fans.size(); ++i)
                if (m_fans[i].placed->facing().axis == Axis::X) {
                    flows[i] = flow;
                    any = true;
                }
            if (any)
                add(say("side fans"), name, turned(flows));
        }
    }
    void screens() {
        for (const auto& [screen, name] :
             {std::pair{Screen::None, say("none")}, std::pair{Screen::Coarse, say("coarse")},
              std::pair{Screen::Fine, say("fine")}}) {
            std::vector<Change> changes;
            bool any = false;
            for (const Opening& o : m_now.build.openings)
                if (o.to.empty() && o.style != OpeningStyle::Closed) {
                    any = true;
                    if (o.screen != screen)
                        changes.emplace_back(SetScreen{o.id, screen});
                }
            if (any)
                add(say("screens"), name, changes);
        }
    }
    /// A fan of the shelf with that frame, in that range of thickness.
    const Part* fanLike(const Part& fan, bool slim) const {
        const Part* found = nullptr;
        for (const Part& part : m_project.shelf)
            if (part.kind == PartKind::Fan && std::abs(frameMm(part) - frameMm(fan)) < 1.5 &&
                (thicknessMm(part) < 20) == slim && (!found || thicknessMm(part) > thicknessMm(*found)))
                found = &part;
        return found;
    }
    void thickness() {
        const Sentence question = say("fans");
        for (const bool slim : {true, false}) {
            const Sentence name = slim ? say("slim") : say("thick");
            std::vector<Change> changes;
            Sentence missing;
            for (const PanelFan& fan : m_fans) {
                if ((thicknessMm(*fan.placed->part) < 20) == slim)
                    continue;
                if (const Part* other = fanLike(*fan.placed->part, slim))
                    changes.emplace_back(SwapPart{fan.placed->mount, other->id});
                else if (missing.empty())
                    missing = slim ? say("no slim fan of {} on the shelf", figure::mm(frameMm(*fan.placed->part), 0))
                                   : say("no thick fan of {} on the shelf", figure::mm(frameMm(*fan.placed->part), 0));
            }
            if (!missing.empty())
                cannot(question, name, missing);
            else if (!m_fans.empty())
                add(question, name, changes);
        }
    }

    const Placed* coolerNow() const {
        for (const Placed& p : m_now.build.placed)
            if (p.part->kind == PartKind::Cooler)
                return &p;
        return nullptr;
    }
    static bool isLiquid(const Part& part) {
        const auto* cooler = std::get_if<CoolerSpec>(&part.spec);
        return cooler && cooler->type == CoolerType::Liquid;
    }
    const Part* shelfCooler(bool liquid) const {
        for (const Part& part : m_project.shelf)
            if (part.kind == PartKind::Cooler && isLiquid(part) == liquid)
                return &part;
        return nullptr;
    }
    /// The radiators of the shelf, each at each free place that takes one, with a fan of the shelf at each of its own.
    std::vector<std::vector<Change>> radiators() const {
        std::vector<std::vector<Change>> ways;
        for (const Mount& mount : m_now.build.casePart->mounts) {
            if (std::find(mount.accepts.begin(), mount.accepts.end(), PartKind::Radiator) == mount.accepts.end())
                continue;
            for (const Part& radiator : m_project.shelf) {
                const auto* spec = std::get_if<RadiatorSpec>(&radiator.spec);
                if (!spec)
                    continue;
                std::vector<Change> way;
                if (m_now.build.at(mount.id))
                    way.emplace_back(SwapPart{mount.id, radiator.id});
                else
                    way.emplace_back(PlacePart{radiator.id, mount.id});
                for (const Mount& place : radiator.mounts)
                    for (const Part& fan : m_project.shelf)
                        if (fan.kind == PartKind::Fan && std::abs(frameMm(fan) - spec->frameMm) < 1.5) {
                            way.emplace_back(PlacePart{fan.id, mount.id + "/" + place.id});
                            break;
                        }
                ways.push_back(std::move(way));
            }
        }
        return ways;
    }
    void liquid() {
        const Sentence question = say("cooler");
        const Placed* cooler = coolerNow();
        if (!cooler)
            return;
        const bool now = isLiquid(*cooler->part);
        const Sentence air = say("air"), loop = say("liquid");
        if (!now) {
            add(question, air, {});
            const Part* block = shelfCooler(true);
            const auto ways = radiators();
            if (!block)
                return cannot(question, loop, say("no liquid block on the shelf"));
            if (ways.empty())
                return cannot(question, loop, say("no radiator on the shelf, or no place of the case takes one"));
            std::optional<School> refused;
            for (std::vector<Change> way : ways) { // the first that goes in
                way.insert(way.begin(), SwapPart{cooler->mount, block->id});
                add(question, loop, std::move(way));
                if (m_all.back().against != Against::DoesNotGoIn)
                    return;
                if (!refused)
                    refused = m_all.back();
                m_all.pop_back();
            }
            m_all.push_back(*refused);
            return;
        }
        if (const Part* other = shelfCooler(false))
            add(question, air, {SwapPart{cooler->mount, other->id}});
        else
            cannot(question, air, say("no air cooler on the shelf"));
        add(question, loop, {});
    }

    const Project& m_project;
    const stages::Evaluation& m_now;
    const std::function<bool()>& m_stop;
    std::string_view m_load;
    std::vector<PanelFan> m_fans;
    std::vector<School> m_all;
};

} // namespace

std::string_view againstWord(Against against) {
    constexpr std::array<std::string_view, 6> words{word("now"),     word("better"),    word("worse"),
                                                    word("neither"), word("undecided"), word("does not go in")};
    return words[static_cast<std::size_t>(against)];
}

std::vector<School> schools(const Project& project, const stages::Evaluation& now, const std::function<bool()>& stop,
                            std::string_view load) {
    return Schools(project, now, stop, load).run();
}

} // namespace core::advise
