// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/advise/what_to_change.h"

#include "core/base/text.h"
#include "core/model/choices.h"

#include <cmath>
#include <limits>

namespace core::advise {
namespace {

const fit::Options usual{};

/// The gap between the same two ends after a change: parts may have other names by then.
struct SameGap {
    std::array<std::string, 2> mounts, ports;
    bool desk = false;
    Axis axis;

    explicit SameGap(const fit::Gap& gap) : mounts{gap.between[0].mount, gap.between[1].mount}, ports{gap.between[0].port, gap.between[1].port},
        desk(gap.rule == "intake-desk"), axis(gap.axis) {}

    [[nodiscard]] const fit::Gap* in(const fit::FitResult& fit) const {
        const fit::Gap* found = nullptr;
        for (const fit::Gap& g : fit.gaps) {
            const auto is = [&](std::size_t a, std::size_t b) { return g.between[0].mount == mounts[a] && g.between[1].mount == mounts[b] && g.between[0].port == ports[a] && g.between[1].port == ports[b]; };
            if (desk != (g.rule == "intake-desk") || !(is(0, 1) || is(1, 0)))
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
    Advisor(const Project& project, const verdict::Evaluation& now, const fit::Gap& gap, std::string_view load)
        : m_project(project), m_now(now), m_gap(gap), m_same(gap), m_load(load) {}

    std::vector<Mend> run() {
        for (const fit::GapEnd& end : m_gap.between) {
            // What carries an end moves it as well.
            for (std::string mount = end.mount; !mount.empty(); mount = mount.find('/') == std::string::npos ? "" : mount.substr(0, mount.rfind('/')))
                tryMount(mount, mount == end.mount);
            if (!end.port.empty())
                tryPlugs(end);
        }
        if (m_same.desk)
            tryFeet();
        for (const Part& p : m_project.shelf)
            if (p.kind == PartKind::Case && p.id != m_now.build.casePart->id)
                attempt(SetCase{p.id});
        std::stable_sort(m_mends.begin(), m_mends.end(), [](const Mend& a, const Mend& b) {
            const auto key = [](const Mend& m) { return std::tuple(!m.mends, m.spoils.size(), -m.wonMm, m.price, m.screws); };
            return key(a) < key(b);
        });
        return std::move(m_mends);
    }

private:
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
            if (other.kind == p->part->kind && other.id != p->part->id)
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
                const double steps = slide.stepMm > 0 ? std::ceil(missing / slide.stepMm) * slide.stepMm : std::ceil(missing * 2) / 2;
                if (way * end >= steps - 1e-9)
                    attempt(MovePart{path, slide.axis, Length::fromMm(way * steps)});
                return;
            }
        }
        // What sits on another part stays where that part has its place for it.
        if (isEnd && missing <= 25 && path.find('/') == std::string::npos)
            attempt(MovePart{path, m_gap.axis, Length::fromMm(way * std::ceil(missing * 2) / 2)}, ", with new holes");
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
    void attempt(const Change& change, const std::string& remark = {});
    void findSpoils(const verdict::Evaluation& then, Mend& mend) const;
    [[nodiscard]] static double temperature(const verdict::Evaluation& e, PartKind kind) {
        for (const auto& part : e.air.parts)
            if (part.kind == kind)
                return part.temperatureC;
        return std::numeric_limits<double>::quiet_NaN();
    }
    [[nodiscard]] std::string costWords(const Mend& m) const;

    const Project& m_project;
    const verdict::Evaluation& m_now;
    const fit::Gap& m_gap;
    SameGap m_same;
    std::string_view m_load;
    std::vector<Mend> m_mends;
};

void Advisor::attempt(const Change& change, const std::string& remark) {
    auto build = resolveWith(m_project, m_now.build.revision, {change});
    if (!build)
        return; // the model itself says that it cannot be
    auto then = verdict::evaluateBuild(m_project, std::move(*build), m_load);
    if (!then)
        return;
    const fit::Gap* after = m_same.in(then->fit);
    Mend mend{.change = change, .marginMm = after ? after->marginMm() : usual.reachMm, .after = after ? after->mark : Mark::Holds, .gone = after == nullptr};
    mend.wonMm = mend.marginMm - m_gap.marginMm();
    if (mend.wonMm < 0.05)
        return;
    mend.text = describe(change, m_project, m_now.build.revision) + remark;
    findSpoils(*then, mend);
    mend.mends = (!after || !after->isShort()) && mend.spoils.empty();
    mend.processorK = temperature(*then, PartKind::Processor) - temperature(m_now, PartKind::Processor);
    mend.cardK = temperature(*then, PartKind::Card) - temperature(m_now, PartKind::Card);
    mend.noiseDb = then->noise.totalDba - m_now.noise.totalDba;
    mend.screws = then->make.screws - m_now.make.screws;
    mend.minutes = then->make.minutes - m_now.make.minutes;
    mend.price = then->price - m_now.price;
    mend.volumeL = then->fit.volumeL - m_now.fit.volumeL;
    mend.cost = costWords(mend);
    m_mends.push_back(std::move(mend));
}

void Advisor::findSpoils(const verdict::Evaluation& then, Mend& mend) const {
    for (const fit::Gap& gap : then.fit.gaps) {
        if (!gap.isShort())
            continue;
        const fit::Gap* before = SameGap(gap).in(m_now.fit);
        if (&gap == m_same.in(then.fit) || (before && before->isShort() && before->marginMm() <= gap.marginMm() + 0.05))
            continue;
        mend.spoils.push_back(gap.between[0].text + " to " + gap.between[1].text + ": " + std::string(fit::gapStateWord(gap.state)) + ", " + fixed(gap.nominal.mm(), 1) + " mm, needs " + fixed(gap.requiredMm, 1));
    }
    for (const rules::Finding& f : then.findings) {
        if (f.severity != rules::Severity::Blocker || f.station == rules::Station::Fit)
            continue;
        const bool was = std::any_of(m_now.findings.begin(), m_now.findings.end(), [&](const rules::Finding& b) { return b.rule == f.rule && b.subject == f.subject && b.severity == f.severity; });
        if (!was)
            mend.spoils.push_back(f.text);
    }
}

std::string Advisor::costWords(const Mend& m) const {
    std::vector<std::string> words;
    const auto kelvin = [&](const char* what, double k) {
        // Predicted differences carry 3 K; below 1.5 K they are no difference.
        if (std::isfinite(k) && std::abs(k) >= 1.5)
            words.push_back(std::string(what) + " " + withSign(k, 0) + " K");
    };
    kelvin("processor", m.processorK);
    kelvin("card", m.cardK);
    if (std::abs(m.noiseDb) >= 0.5)
        words.push_back("noise " + withSign(m.noiseDb, 1) + " dB");
    if (m.screws != 0)
        words.push_back(withSign(m.screws, 0) + " screws");
    if (std::abs(m.minutes) >= 1)
        words.push_back(withSign(m.minutes, 0) + " min");
    if (std::abs(m.price) >= 0.5)
        words.push_back(withSign(m.price, 0) + " " + m_project.currency);
    if (std::abs(m.volumeL) >= 0.005)
        words.push_back(withSign(m.volumeL, 2) + " L");
    if (words.empty())
        return "costs nothing elsewhere";
    std::string all = words.front();
    for (std::size_t i = 1; i < words.size(); ++i)
        all += ", " + words[i];
    return all;
}

} // namespace

std::vector<Mend> whatToChange(const Project& project, const verdict::Evaluation& now, const fit::Gap& gap, std::string_view loadId) {
    return Advisor(project, now, gap, loadId).run();
}

} // namespace core::advise
