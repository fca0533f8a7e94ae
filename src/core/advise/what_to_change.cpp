// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/advise/what_to_change.h"

#include "core/base/text.h"
#include "core/model/choices.h"
#include "core/model/facts.h"

#include <cmath>
#include <limits>

namespace core::advise {
namespace {

const fit::Options usual{};

/// The gap between the same two ends after a change: parts may have other names by then.
struct SameGap {
    std::array<std::string, 2> mounts, ports;
    bool desk = false, breathing = false;
    Axis axis;

    explicit SameGap(const fit::Gap& gap)
        : mounts{gap.between[0].mount, gap.between[1].mount}, ports{gap.between[0].port, gap.between[1].port},
          desk(gap.rule == "intake-desk"), breathing(gap.breathing), axis(gap.axis) {}

    [[nodiscard]] const fit::Gap* in(const fit::FitResult& fit) const {
        const fit::Gap* found = nullptr;
        for (const fit::Gap& g : fit.gaps) {
            const auto is = [&](std::size_t a, std::size_t b) {
                return g.between[0].mount == mounts[a] && g.between[1].mount == mounts[b] &&
                       g.between[0].port == ports[a] && g.between[1].port == ports[b];
            };
            if (desk != (g.rule == "intake-desk") || breathing != g.breathing || !(is(0, 1) || is(1, 0)))
                continue;
            if ((mounts[0].empty() || mounts[1].empty()) && (g.axis != axis || !is(0, 1)))
                continue; // another wall
            if (!found || g.marginMm() < found->marginMm())
                found = &g;
        }
        return found;
    }
};

class Advisor {
public:
    Advisor(const Project& project, const stages::Evaluation& now, const fit::Gap& gap, std::string_view load,
            std::function<bool()> stop)
        : m_project(project), m_now(now), m_gap(gap), m_same(gap), m_load(load), m_stop(std::move(stop)) {}

    std::vector<Mend> run() {
        for (const fit::GapEnd& end : m_gap.between) {
            // What carries an end moves it as well.
            for (std::string mount = end.mount; !mount.empty();
                 mount = mount.find('/') == std::string::npos ? "" : mount.substr(0, mount.rfind('/')))
                tryMount(mount, mount == end.mount);
            if (!end.port.empty())
                tryPlugs(end);
        }
        if (m_same.desk)
            tryFeet();
        for (const Part& p : m_project.shelf)
            if (p.kind == PartKind::Case && p.id != m_now.build.casePart->id)
                attempt(SetCase{p.id});
        if (std::none_of(m_mends.begin(), m_mends.end(), [](const Mend& m) { return m.mends && !m.takesOut; }))
            tryPairs();
        std::stable_sort(m_mends.begin(), m_mends.end(), [](const Mend& a, const Mend& b) {
            const auto key = [](const Mend& m) {
                return std::tuple(m.takesOut, !m.mends, m.spoils.size(), m.with.has_value(), -m.wonMm, m.price,
                                  m.screws);
            };
            return key(a) < key(b);
        });
        return std::move(m_mends);
    }

private:
    /// Made parts are of one kind whatever they are for: only one of about the same shape can stand in for another.
    [[nodiscard]] static bool isLike(const Part& a, const Part& b) {
        if (a.kind != PartKind::Made)
            return true;
        for (std::size_t k = 0; k < 3; ++k)
            if (std::abs(a.size[k].value.mm() - b.size[k].value.mm()) >
                std::max(10.0, 0.25 * std::max(a.size[k].value.mm(), b.size[k].value.mm())))
                return false;
        return true;
    }
    void tryMount(const std::string& path, bool isEnd) {
        const Placed* p = m_now.build.at(path);
        if (!p)
            return;
        const Mount* mount = mountAt(m_now.build, path);
        if (mount) {
            if (!p->variant.empty())
                attempt(ChooseVariant{path, {}});
            for (const MountVariant& v : mount->variants)
                if (v.id != p->variant)
                    attempt(ChooseVariant{path, v.id});
        }
        for (const Part& other : m_project.shelf)
            if (other.kind == p->part->kind && other.id != p->part->id && isLike(*p->part, other))
                attempt(SwapPart{path, other.id});
        tryMoves(path, mount, isEnd);
        if (isEnd && (p->part->kind == PartKind::Fan || p->part->kind == PartKind::Made))
            attempt(RemovePart{path});
    }
    /// By what is missing, away from the other end: along a slide where there is one, else with new holes.
    void tryMoves(const std::string& path, const Mount* mount, bool isEnd) {
        const double missing = std::max(0.5, -m_gap.marginMm());
        const bool lower = m_gap.between[0].mount == path || m_gap.between[0].mount.starts_with(path + "/");
        const double way = lower ? -1 : 1;
        if (mount && path.find('/') == std::string::npos) {
            for (const Slide& slide : mount->slides) {
                if (slide.axis != m_gap.axis)
                    continue;
                const double end = way < 0 ? slide.fromMm : slide.toMm;
                const double steps =
                    slide.stepMm > 0 ? std::ceil(missing / slide.stepMm) * slide.stepMm : std::ceil(missing * 2) / 2;
                if (way * end >= steps - 1e-9)
                    attempt(MovePart{path, slide.axis, Length::fromMm(way * steps)});
                return;
            }
        }
        // What sits on another part stays where that part has its place for it.
        if (isEnd && missing <= 25 && path.find('/') == std::string::npos)
            attempt(MovePart{path, m_gap.axis, Length::fromMm(way * std::ceil(missing * 2) / 2)},
                    say(", with new holes"), facts::newHolesStep.value);
    }
    void tryPlugs(const fit::GapEnd& end) {
        const Placed* p = m_now.build.at(end.mount);
        for (const Port& port : p ? p->ports : std::vector<Port>{}) {
            if (port.id != end.port)
                continue;
            if (port.plug == PlugStyle::Angled)
                attempt(SetPlug{end.mount, port.id, PlugStyle::Straight, port.towards});
            for (const Direction& way : port.angledWays)
                if (port.plug == PlugStyle::Straight || !(port.towards == way))
                    attempt(SetPlug{end.mount, port.id, PlugStyle::Angled, way});
        }
    }
    void tryFeet() {
        for (const double spare : {0.5, 2.0, 5.0})
            attempt(SetFeet{std::ceil((m_gap.requiredMm + m_gap.worstBandMm + spare) * 2) / 2});
    }
    void tryPairs();
    void attempt(const Change& change, const Sentence& remark = {}, double extraMinutes = 0) {
        attempt(change, std::nullopt, remark, extraMinutes);
    }
    void attempt(const Change& change, const std::optional<Change>& with, const Sentence& remark, double extraMinutes);
    void findSpoils(const stages::Evaluation& then, Mend& mend) const;
    [[nodiscard]] bool causes(const Mend& mend, const fit::Gap& gap) const;
    [[nodiscard]] static double temperature(const stages::Evaluation& e, PartKind kind) {
        for (const auto& part : e.air.parts)
            if (part.kind == kind)
                return part.temperatureC;
        return std::numeric_limits<double>::quiet_NaN();
    }
    [[nodiscard]] Sentence costWords(const Mend& m) const;

    const Project& m_project;
    const stages::Evaluation& m_now;
    const fit::Gap& m_gap;
    SameGap m_same;
    std::string_view m_load;
    std::function<bool()> m_stop;
    stages::Before m_before{m_project, m_now}; // most trials leave most stages as they are
    std::vector<Mend> m_mends;
};

void Advisor::attempt(const Change& change, const std::optional<Change>& with, const Sentence& remark,
                      double extraMinutes) {
    if (m_stop && m_stop())
        return;
    std::vector<Change> changes{change};
    if (with)
        changes.push_back(*with);
    auto build = resolveWith(m_project, m_now.build.revision, changes);
    if (!build)
        return; // the model itself says that it cannot be
    auto then = stages::evaluateBuild(m_project, std::move(*build), {.load = m_load, .before = &m_before});
    if (!then)
        return;
    const fit::Gap* after = m_same.in(then->fit);
    Mend mend{.change = change,
              .with = with,
              .marginMm = after ? after->marginMm() : usual.reachMm,
              .spareMm = after ? after->nominal.mm() - after->requiredMm : usual.reachMm,
              .starved = after && after->state == fit::GapState::Starved,
              .after = after ? after->mark : Mark::Holds,
              .gone = after == nullptr};
    mend.wonMm = mend.marginMm - m_gap.marginMm();
    if (mend.wonMm < 0.05)
        return;
    const auto takesOut = [](const Change& c) { return std::holds_alternative<RemovePart>(c); };
    mend.takesOut = takesOut(change) || (with && takesOut(*with));
    mend.text = describe(change, m_project, m_now.build.revision) + remark;
    if (with)
        mend.text += say(", and {}", describe(*with, m_project, m_now.build.revision));
    findSpoils(*then, mend);
    // A gap that lacks air must have it afterwards; one that did not close may end up with little.
    const bool kept = !after || !(m_gap.state == fit::GapState::Starved ? after->isShort() : after->isWrong());
    mend.mends = kept && mend.wrongs == 0;
    mend.processorK = temperature(*then, PartKind::Processor) - temperature(m_now, PartKind::Processor);
    mend.cardK = temperature(*then, PartKind::Card) - temperature(m_now, PartKind::Card);
    mend.noiseDb = then->noise.totalDba - m_now.noise.totalDba;
    mend.screws = then->make.screws - m_now.make.screws;
    mend.minutes = then->make.minutes - m_now.make.minutes + extraMinutes;
    mend.price = then->price - m_now.price;
    mend.volumeL = then->fit.volumeL - m_now.fit.volumeL;
    mend.cost = costWords(mend);
    m_mends.push_back(std::move(mend));
}

/// Two at a time of those that win something alone, on different mounts; the best of them first, and not more than are
/// tried in a fifth of a second.
void Advisor::tryPairs() {
    constexpr std::size_t most = 8;
    std::vector<Mend> helpful;
    for (const Mend& m : m_mends)
        if (!m.takesOut)
            helpful.push_back(m);
    std::stable_sort(helpful.begin(), helpful.end(), [](const Mend& a, const Mend& b) {
        return std::pair(a.spoils.size(), -a.wonMm) < std::pair(b.spoils.size(), -b.wonMm);
    });
    helpful.resize(std::min(helpful.size(), most));
    for (std::size_t i = 0; i < helpful.size(); ++i)
        for (std::size_t j = i + 1; j < helpful.size(); ++j)
            if (changedMount(helpful[i].change) != changedMount(helpful[j].change) ||
                helpful[i].change.index() != helpful[j].change.index()) {
                const std::size_t before = m_mends.size();
                attempt(helpful[i].change, helpful[j].change, {}, 0);
                if (m_mends.size() > before && !m_mends.back().mends)
                    m_mends.pop_back(); // a pair that does not mend is of no use
            }
}

/// A gap can only be the fault of a change that moves or replaces one of its ends.
bool Advisor::causes(const Mend& mend, const fit::Gap& gap) const {
    const auto touches = [&](const Change& change) {
        const std::string mount = changedMount(change);
        if (mount.empty())
            return true; // case, feet, a side to stand on: everything
        return std::any_of(gap.between.begin(), gap.between.end(), [&](const fit::GapEnd& end) {
            return end.mount == mount || end.mount.starts_with(mount + "/");
        });
    };
    return touches(mend.change) || (mend.with && touches(*mend.with));
}

void Advisor::findSpoils(const stages::Evaluation& then, Mend& mend) const {
    for (const fit::Gap& gap : then.fit.gaps) {
        if (!gap.isShort() || !causes(mend, gap))
            continue;
        const fit::Gap* before = SameGap(gap).in(m_now.fit);
        if (&gap == m_same.in(then.fit) || (before && before->isShort() && before->marginMm() <= gap.marginMm() + 0.05))
            continue;
        mend.wrongs += gap.isWrong();
        mend.spoils.push_back(say("{} to {}: {}, {}, needs {}", gap.between[0].text, gap.between[1].text,
                                  term(fit::gapStateWord(gap.state)), figure::mm(gap.nominal.mm(), 1),
                                  figure::mm(gap.requiredMm).bare()));
    }
    for (const rules::Finding& f : then.findings) {
        if (f.severity != rules::Severity::Blocker || f.station == rules::Station::Fit)
            continue;
        const bool was = std::any_of(m_now.findings.begin(), m_now.findings.end(), [&](const rules::Finding& b) {
            return b.rule == f.rule && b.about == f.about && b.severity == f.severity;
        });
        if (!was) {
            ++mend.wrongs;
            mend.spoils.push_back(f.text);
        }
    }
}

Sentence Advisor::costWords(const Mend& m) const {
    Sentences words;
    const auto kelvin = [&](const Sentence& what, double k) {
        if (std::isfinite(k) && std::abs(k) >= facts::noticeable.value)
            words.push_back(say("{} {}", what, figure::kelvin(k, 0).signedFigure()));
    };
    kelvin(say("processor"), m.processorK);
    kelvin(say("card"), m.cardK);
    if (std::abs(m.noiseDb) >= 0.5)
        words.push_back(say("noise {} dB", figure::number(m.noiseDb, 1).signedFigure()));
    if (m.screws != 0)
        words.push_back(
            sayCounted(std::abs(m.screws) == 1, "{} screw", "{} screws", figure::number(m.screws).signedFigure()));
    if (std::abs(m.minutes) >= 1)
        words.push_back(say("{} min", figure::number(m.minutes, 0).signedFigure()));
    if (std::abs(m.price) >= 0.5)
        words.push_back(say("{} {}", figure::number(m.price, 0).signedFigure(), m_project.currency));
    if (std::abs(m.volumeL) >= 0.005)
        words.push_back(say("{} L", figure::number(m.volumeL, 2).signedFigure()));
    for (const auto* change : {&m.change, m.with ? &*m.with : nullptr})
        if (const auto* gone = change ? std::get_if<RemovePart>(change) : nullptr)
            if (const Placed* p = m_now.build.at(gone->mount))
                words.insert(words.begin(), say("{} is lost, with what it does", p->name));
    if (words.empty())
        return say("costs nothing elsewhere");
    return joined(words);
}

} // namespace

std::vector<Mend> whatToChange(const Project& project, const stages::Evaluation& now, const fit::Gap& gap,
                               std::string_view loadId, const std::function<bool()>& stop) {
    return Advisor(project, now, gap, loadId, stop).run();
}

Sentence whatToEdit(const fit::Gap& gap) {
    std::vector<fit::ChainItem> items;
    std::copy_if(gap.chain.begin(), gap.chain.end(), std::back_inserter(items),
                 [](const fit::ChainItem& item) { return item.origin.what != DimensionOrigin::What::None; });
    std::stable_sort(items.begin(), items.end(), [](const fit::ChainItem& a, const fit::ChainItem& b) {
        return a.valueMm * a.factor > b.valueMm * b.factor;
    });
    Sentences words;
    for (std::size_t i = 0; i < std::min<std::size_t>(4, items.size()); ++i)
        words.push_back(sayCounted(items[i].sign > 0, "{} {} (larger)", "{} {} (smaller)", items[i].label,
                                   figure::mm(items[i].valueMm)));
    return words.empty() ? say("Nothing on the shelf mends it, and no size of it can be edited")
                         : say("Nothing on the shelf mends it; {} are missing, which could come from: {}",
                               figure::mm(gap.requiredMm - gap.nominal.mm(), 1), joined(words));
}

} // namespace core::advise
