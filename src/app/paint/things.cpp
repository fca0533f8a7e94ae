// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/paint/stations.h"

// How the figure of a thing was worked out on the revision that is looked at.
namespace app {
using core::Quantity;
using core::explain::Working;

namespace {

/// One function a kind of thing; nothing where there is no such thing on this revision.
class Workings {
public:
    explicit Workings(const View& v) : m_v(v), m_e(v.evaluation()) {}

    using Answer = std::optional<Working>;
    Answer operator()(std::monostate) const { return {}; }

    // ---- of a log: no build is needed for it ----
    Answer operator()(const core::ChannelRef& ref) const {
        return ofChannels(
            ref.run, [&](const auto& c) { return c.name == ref.channel; }, false);
    }
    /// Of a run, the processor's is what one asks for first.
    Answer operator()(const core::RunRef& ref) const {
        return ofChannels(
            ref.id, [](const auto& c) { return c.kind == core::ChannelKind::Temperature && c.name.starts_with("cpu"); },
            true);
    }

    // ---- of the build ----
    Answer operator()(const core::PartRef& ref) const {
        if (!m_e || !(m_e->build.at(ref.mount) || m_e->air.part(ref.mount)))
            return {};
        const core::verdict::Deciding limit = core::verdict::temperatureOf(*m_e, m_v.result().verdict, ref.mount);
        Working w = core::explain::ofPart(*m_e, ref.mount, &limit, answered(m_v.document.trials()), &m_v.project());
        addLearned(w, ref.mount);
        return w;
    }
    Answer operator()(const core::FanRef& ref) const {
        return m_e && m_e->build.at(ref.mount) ? Answer(core::explain::ofFan(*m_e, ref.mount)) : Answer();
    }
    Answer operator()(const core::OpeningRef& ref) const {
        return m_e && m_e->build.opening(ref.id) ? Answer(core::explain::ofOpening(*m_e, ref.id)) : Answer();
    }
    Answer operator()(const core::ChamberRef& ref) const {
        const auto isIt = [&](const auto& c) { return c.id == ref.id; };
        const bool is = m_e && (std::any_of(m_e->air.chambers.begin(), m_e->air.chambers.end(), isIt) ||
                                (m_e->air.solved && std::any_of(m_e->air.solved->compiled.network.zones.begin(),
                                                                m_e->air.solved->compiled.network.zones.end(), isIt)));
        return is ? Answer(core::explain::ofChamber(*m_e, ref.id)) : Answer();
    }
    Answer operator()(const core::BranchRef& ref) const {
        return m_e ? core::explain::ofBranch(*m_e, ref.name) : Answer();
    }
    Answer operator()(const core::GapRef& ref) const {
        const auto* gap = gapOf(ref);
        return gap ? Answer(core::explain::ofGap(*gap, static_cast<std::size_t>(gap - m_e->fit.gaps.data()) + 1))
                   : Answer();
    }
    Answer operator()(const core::PortRef& ref) const { return m_e ? core::explain::ofPort(*m_e, ref) : Answer(); }
    Answer operator()(const core::LeadRef& ref) const {
        if (m_e)
            for (std::size_t i = 0; i < m_e->build.joined.size(); ++i)
                if (core::leadRef(m_e->build, i) == ref)
                    return core::explain::ofLead(*m_e, ref);
        return {};
    }
    Answer operator()(const core::TotalRef& ref) const {
        using core::Total;
        if (!m_e)
            return {};
        switch (ref.total) {
        case Total::Noise:
            return core::explain::ofNoise(*m_e);
        case Total::Power:
            return core::explain::ofPower(*m_e);
        case Total::Volume:
            return core::explain::ofVolume(*m_e);
        case Total::Balance:
            return core::explain::ofBalance(*m_e);
        case Total::Mass:
            return core::explain::ofTotals(*m_e, Quantity::Mass);
        case Total::Price:
            return core::explain::ofTotals(*m_e, Quantity::Money);
        }
        return {};
    }

    // ---- of the answers of Fit ----
    Answer operator()(const core::RoomRef& ref) const {
        if (m_e)
            for (const auto& room : answered(m_v.document.rooms()))
                if (ref == core::RoomRef{room.mount, room.own})
                    return core::explain::ofRoom(room);
        return {};
    }
    /// A row of the list about a gap.
    Answer operator()(const core::MendRef& ref) const {
        const auto* gap = gapOf(ref.gap);
        const auto answer = gap ? m_v.document.mends(ref.gap) : app::Answer<Mends>{};
        const bool there = answer.value && answer.value->of == ref.gap && ref.row < answer.value->all.size();
        return there ? Answer(core::explain::ofMend(answer.value->all[ref.row], *gap)) : Answer();
    }
    Answer operator()(const core::DimensionRef& ref) const {
        if (m_e)
            for (const auto& next : answered(m_v.document.measures()))
                if (next.label == ref.label)
                    return core::explain::ofMeasure(next);
        return {};
    }
    Answer operator()(const core::WayRef& ref) const {
        if (m_e)
            for (const auto& way : answered(m_v.document.ways()))
                if (way.mount == ref.mount)
                    return core::explain::ofWay(way);
        return {};
    }

    // ---- of Make and Verdict ----
    Answer operator()(const core::MadeRef& ref) const {
        if (m_e)
            for (const auto& part : m_e->make.parts)
                if (part.id == ref.part)
                    return core::explain::ofMadePart(m_v.project(), part);
        return {};
    }
    Answer operator()(const core::ScrewRef& ref) const {
        if (m_e)
            for (const auto& item : m_e->make.shopping)
                if (item.kind == ref.kind)
                    return core::explain::ofScrews(m_e->make, item);
        return {};
    }
    Answer operator()(const core::StepRef& ref) const {
        if (m_e)
            for (std::size_t i = 0; i < m_e->make.steps.size(); ++i)
                if (m_e->make.steps[i].ref == ref)
                    return core::explain::ofStep(m_e->make, i);
        return {};
    }
    Answer operator()(const core::TargetRef& ref) const {
        const auto& result = ref.revision.empty() ? m_v.result() : m_v.document.shown(ref.revision);
        if (result.evaluation)
            for (const auto& t : result.verdict.targets)
                if (t.id == ref.id)
                    return core::explain::ofTarget(*result.evaluation, t);
        return {};
    }
    Answer operator()(const core::RevisionRef&) const { return {}; }
    Answer operator()(const core::TopicRef&) const { return {}; }

private:
    /// What the logged runs make of a temperature, and which run would narrow it most.
    void addLearned(Working& w, const std::string& mount) const {
        if (m_v.project().runs.empty() || !m_e->air.part(mount))
            return;
        const auto taught = m_v.document.knownTaught();
        for (const auto& part : taught ? taught->parts : std::vector<results::Taught::Part>{}) {
            if (part.id != mount || taught->runs == 0)
                continue;
            using core::figure::usual;
            w.learned = core::sayCounted(
                m_v.project().simulation, "{} runs, simulated: {} ±{}, of a machine that was played.",
                "{} runs make it {} ±{}.", static_cast<int>(taught->runs), usual(Quantity::Temperature, part.afterC),
                usual(Quantity::TemperatureDifference, part.bandAfterK));
            for (const auto& next : part.next)
                if (w.nextRuns.size() < 3 && next.bandK < part.bandAfterK - 0.02)
                    w.nextRuns.push_back(next);
        }
    }
    const core::fit::Gap* gapOf(const core::GapRef& ref) const { return m_e ? m_e->fit.gap(ref) : nullptr; }

    template <class Wanted> Answer ofChannels(const std::string& id, const Wanted& wanted, bool orFirst) const {
        const core::Run* run = m_v.project().run(id);
        const auto* a = run ? m_v.document.analysis(run->id) : nullptr;
        if (!a || a->channels.empty())
            return {};
        for (const auto& c : a->channels)
            if (wanted(c))
                return ofChannel(*run, *a, c);
        return orFirst ? Answer(ofChannel(*run, *a, a->channels.front())) : Answer();
    }
    Working ofChannel(const core::Run& run, const core::bench::RunAnalysis& a,
                      const core::bench::ChannelResult& c) const {
        Working w = core::explain::ofChannel(run, a, c);
        w.title = core::say("{}, {}", channelName(m_v, run, c.kind, c.subject, c.name).toStdString(), run.name);
        return w;
    }

    const View& m_v;
    const core::stages::Evaluation* m_e;
};

} // namespace

std::optional<Working> workingOf(const View& v, const core::Thing& thing) {
    auto w = std::visit(Workings(v), thing);
    const auto* e = v.evaluation();
    if (!e || core::isNothing(thing))
        return w;
    for (const auto& f : e->findings) {
        if (f.about != thing)
            continue;
        if (w)
            w->found.push_back(core::explain::foundOf(f));
        else // about what is not there, or about the whole: the finding is its own working
            w = core::explain::ofFinding(f);
    }
    if (w)
        w->thing = thing;
    return w;
}

} // namespace app
