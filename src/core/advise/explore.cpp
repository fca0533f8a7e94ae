// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/advise/explore.h"

#include "core/model/edits.h"

#include <algorithm>
#include <atomic>
#include <mutex>
#include <random>
#include <thread>
#include <unordered_set>

namespace core::advise {
namespace {

constexpr std::array<double, 5> speeds{0.40, 0.55, 0.70, 0.85, 1.0};

/// One question and its possible answers, each as changes; the first is what is there.
struct OpenQuestion {
    std::vector<std::vector<Change>> answers;
};

double fanFrame(const Part& fan) { return std::max(fan.size[0].value.mm(), fan.size[1].value.mm()); }

class Explorer {
public:
    Explorer(const Project& project, const stages::Evaluation& now, const ExploreRequest& request,
             const std::function<bool(double)>& progress)
        : m_project(project), m_now(now), m_request(request), m_progress(progress) {
        m_out.seed = request.seed;
        m_out.roomC = now.air.conditions.roomC;
        m_out.hottestC = std::max(m_out.roomC, project.brief.hottestC);
        for (const Target& t : project.brief.targets)
            if (t.kind == TargetKind::Noise)
                m_out.noiseCap = m_out.noiseCap > 0 ? std::min(m_out.noiseCap, t.limit) : t.limit;
    }

    Result<Explored> run() {
        open();
        if (m_choices.empty())
            return problem("explore", "nothing is left open", "leave fans, screens or the way it stands open");
        m_out.now = *solved({}, m_out.roomC);
        finish(m_out.now);
        draw();
        count(0);
        for (std::size_t before = 0;
             before < m_numbers.size() && !m_stop;) { // from the best so far, one answer changed
            before = m_numbers.size();
            addNeighbours();
            count(before);
        }
        tell();
        front();
        m_out.cancelled = m_stop;
        return std::move(m_out);
    }

private:
    // ---- what is open ----
    void open() {
        m_out.possible = 1;
        if (m_request.fans) {
            ownFans(); // first, as it is what ways differ in most: their words begin with it
            fans();
        }
        if (m_request.screens)
            screens();
        if (m_request.lying && m_now.build.down == Side::Bottom)
            m_choices.push_back({{{}, {Orient{Side::Left}}}});
        for (const OpenQuestion& c : m_choices)
            m_out.possible *= c.answers.size();
    }
    /// Whether a fan goes in there by itself: nothing is short or refused that is not now.
    bool goesIn(const std::vector<Change>& changes) const {
        auto build = resolveWith(m_project, m_now.build.revision, changes);
        if (!build)
            return false;
        const auto then = stages::evaluateBuild(m_project, std::move(*build));
        return then && std::none_of(then->findings.begin(), then->findings.end(), [&](const rules::Finding& f) {
                   return f.severity == rules::Severity::Blocker && f.station != rules::Station::Air &&
                          std::none_of(m_now.findings.begin(), m_now.findings.end(),
                                       [&](const auto& was) { return was.id == f.id && was.severity == f.severity; });
               });
    }
    /// A place that takes a fan: of the case, or of a part that carries others, as a radiator does.
    struct FanPlace {
        std::string mount;
        double frameMm = 0; ///< 0: any
    };
    std::vector<FanPlace> fanPlaces() const {
        std::vector<FanPlace> all;
        const auto collect = [&](const Part& carrier, const std::string& path) {
            for (const Mount& mount : carrier.mounts)
                if (std::find(mount.accepts.begin(), mount.accepts.end(), PartKind::Fan) != mount.accepts.end())
                    all.push_back({path + mount.id, mount.frameMm});
        };
        collect(*m_now.build.casePart, {});
        for (const Placed& p : m_now.build.placed)
            collect(*p.part, p.mount + "/");
        return all;
    }
    void fans() {
        for (const FanPlace& place : fanPlaces()) {
            const Placed* there = m_now.build.at(place.mount);
            if (there && there->part->kind != PartKind::Fan)
                continue;
            OpenQuestion choice{{{}}};
            if (there)
                choice.answers.push_back({RemovePart{place.mount}});
            const double frame = there ? fanFrame(*there->part) : place.frameMm;
            for (const Part& fan : m_project.shelf)
                if (fan.kind == PartKind::Fan && (frame <= 0 || std::abs(fanFrame(fan) - frame) < 1.5))
                    addFan(choice, place.mount, there, fan);
            if (choice.answers.size() > 1)
                m_choices.push_back(std::move(choice));
        }
    }
    /// That fan at a place, blowing either way at each speed.
    void addFan(OpenQuestion& choice, const std::string& mount, const Placed* there, const Part& fan) const {
        std::vector<Change> put;
        if (!there)
            put.emplace_back(PlacePart{fan.id, mount});
        else if (there->part->id != fan.id)
            put.emplace_back(SwapPart{mount, fan.id});
        if (!put.empty() && !goesIn(put))
            return;
        for (const bool turned : {false, true})
            for (const double speed : speeds) {
                std::vector<Change> answer = put;
                if (turned && !there)
                    std::get<PlacePart>(answer.front()).flow = FanFlow::Out;
                else if (turned)
                    answer.emplace_back(FlipFan{mount});
                answer.emplace_back(SetFan{mount, FanMode::Fixed, speed});
                choice.answers.push_back(std::move(answer));
            }
    }
    /// Fans of coolers and cards: as their curve has it, or held.
    void ownFans() {
        constexpr std::array<double, 5> held{0.35, 0.45, 0.55, 0.70, 0.85};
        for (const Placed& p : m_now.build.placed) {
            const auto* cooler = std::get_if<CoolerSpec>(&p.part->spec);
            if (p.part->kind != PartKind::Card && !(cooler && cooler->type != CoolerType::Liquid))
                continue;
            OpenQuestion choice{{{}}};
            for (const double duty : held)
                choice.answers.push_back({SetFan{p.mount, FanMode::Fixed, duty}});
            m_choices.push_back(std::move(choice));
        }
    }
    void screens() {
        OpenQuestion choice{{{}}};
        for (const Screen screen : {Screen::None, Screen::Coarse, Screen::Fine}) {
            std::vector<Change> changes;
            for (const Opening& o : m_now.build.openings)
                if (o.to.empty() && o.style != OpeningStyle::Closed && o.screen != screen)
                    changes.emplace_back(SetScreen{o.id, screen});
            if (!changes.empty())
                choice.answers.push_back(std::move(changes));
        }
        if (choice.answers.size() > 1)
            m_choices.push_back(std::move(choice));
    }

    // ---- one combination ----
    std::vector<Change> changesOf(std::size_t number) const {
        std::vector<Change> changes;
        for (const OpenQuestion& c : m_choices) {
            const auto& answer = c.answers[number % c.answers.size()];
            changes.insert(changes.end(), answer.begin(), answer.end());
            number /= c.answers.size();
        }
        return changes;
    }
    /// Cap of a part: the least of the brief's and its own; 0: none.
    double capOf(const air::PartResult& part) const {
        double cap = part.limitC;
        for (const Target& t : m_project.brief.targets)
            if (t.kind == TargetKind::Temperature && t.subject == part.id)
                cap = cap > 0 ? std::min(cap, t.limit) : t.limit;
        return cap;
    }
    /// How far a part is below its cap; one that is held at its limit by so much above as the heat it cannot give would
    /// warm it.
    static double headroom(const air::PartResult& part, double cap, double fullW, double roomC) {
        const double missing = part.throttled ? std::max(0.0, fullW - part.powerW) : 0;
        const double over = missing > 0 ? missing * (part.temperatureC - roomC) / std::max(1.0, part.powerW) : 0;
        return cap - part.temperatureC - over;
    }
    std::optional<ExplorePoint> solved(const std::vector<Change>& changes, double roomC) const {
        const auto build = resolveWith(m_project, m_now.build.revision, changes);
        if (!build)
            return std::nullopt;
        air::Conditions conditions = m_now.air.conditions;
        conditions.roomC = roomC;
        const air::Prediction p = air::predict(*build, conditions);
        if (!p.converged)
            return std::nullopt;
        ExplorePoint point{.changes = changes, .headroomK = 1e9, .part = {}};
        for (const air::PartResult& part : p.parts) {
            const double cap = capOf(part);
            if (cap <= 0 || cap > 1e8)
                continue;
            const Placed* placed = build->at(part.id);
            const double share = part.kind == PartKind::Processor ? conditions.processorShare
                                 : part.kind == PartKind::Card    ? conditions.cardShare
                                                                  : 1;
            const double k = headroom(part, cap, placed ? placed->powerW() * share : part.powerW, roomC);
            if (k < point.headroomK) {
                point.headroomK = k;
                point.part = part.id;
            }
        }
        const auto noise = acoustics::noiseOf(*build, p, m_project.brief.listenerM);
        point.noiseDba = std::isfinite(noise.totalDba) ? noise.totalDba : 0;
        point.quietEnough = m_out.noiseCap <= 0 || point.noiseDba <= m_out.noiseCap;
        return point;
    }

    // ---- all of them ----
    void draw() {
        if (m_out.possible <= m_request.most) {
            for (std::size_t i = 0; i < m_out.possible; ++i)
                add(i);
            return;
        }
        // Own arithmetic instead of a distribution of the library: the same seed is the same everywhere. A part of what
        // may be looked at is left for the neighbours of what is found.
        std::mt19937_64 random(m_request.seed);
        add(0);
        while (m_numbers.size() < std::max<std::size_t>(1, m_request.most * 3 / 5))
            add(random() % m_out.possible);
    }
    void add(std::size_t number) {
        if (m_numbers.size() < m_request.most && m_seen.insert(number).second)
            m_numbers.push_back(number);
    }
    /// Of each point of the front, and of those just behind it, all that differ in one answer.
    void addNeighbours() {
        std::vector<std::size_t> order;
        for (std::size_t i = 0; i < m_points.size(); ++i)
            if (m_points[i])
                order.push_back(i);
        std::stable_sort(order.begin(), order.end(),
                         [&](std::size_t a, std::size_t b) { return m_points[a]->noiseDba < m_points[b]->noiseDba; });
        double best = -1e300;
        for (const std::size_t at : order) {
            if (m_points[at]->headroomK <= best)
                continue;
            best = m_points[at]->headroomK;
            if (!m_expanded.insert(m_numbers[at]).second)
                continue;
            std::size_t weight = 1;
            for (const OpenQuestion& c : m_choices) {
                const std::size_t own = m_numbers[at] / weight % c.answers.size();
                for (std::size_t other = 0; other < c.answers.size(); ++other)
                    add(m_numbers[at] + (other - own) * weight);
                weight *= c.answers.size();
            }
        }
    }
    void count(std::size_t first) {
        m_points.resize(m_numbers.size());
        std::atomic<std::size_t> next{first};
        std::mutex telling;
        const auto work = [&] {
            constexpr std::size_t batch = 32;
            for (std::size_t from = next.fetch_add(batch); from < m_numbers.size() && !m_stop;
                 from = next.fetch_add(batch)) {
                for (std::size_t i = from; i < std::min(from + batch, m_numbers.size()) && !m_stop; ++i)
                    m_points[i] = solved(changesOf(m_numbers[i]), m_out.roomC);
                const std::lock_guard lock(telling);
                const auto whole = static_cast<double>(std::min(m_request.most, m_out.possible));
                if (m_progress && !m_progress(static_cast<double>(from) / whole))
                    m_stop = true;
            }
        };
        std::vector<std::thread> others;
        for (unsigned i = 1; i < std::max(1U, m_request.threads); ++i)
            others.emplace_back(work);
        work();
        for (std::thread& t : others)
            t.join();
    }
    void tell() {
        for (const auto& point : m_points)
            if (point) {
                ++m_out.counted;
                m_out.cloud.push_back({static_cast<float>(point->noiseDba), static_cast<float>(point->headroomK)});
            }
        m_out.solved = m_out.counted + 1;
    }
    void finish(ExplorePoint& point) {
        if (const auto hot = solved(point.changes, m_out.hottestC))
            point.hotHeadroomK = hot->headroomK;
        ++m_out.solved;
        if (const auto build = resolveWith(m_project, m_now.build.revision, point.changes)) {
            const auto p = air::predictWithBands(*build, m_now.air.conditions);
            if (const auto* part = p.part(point.part))
                point.bandK = part->bandK;
        }
    }
    /// Quietest first, each cooler than all that are quieter, and buildable.
    void front() {
        std::vector<const ExplorePoint*> order;
        for (const auto& point : m_points)
            if (point)
                order.push_back(&*point);
        std::stable_sort(order.begin(), order.end(), [](const ExplorePoint* a, const ExplorePoint* b) {
            return a->noiseDba != b->noiseDba ? a->noiseDba < b->noiseDba : a->headroomK > b->headroomK;
        });
        // Steps that nobody hears or feels are one.
        constexpr double leastDb = 0.3, leastK = 0.3;
        for (const ExplorePoint* point : order) {
            if (m_stop)
                return;
            if (!m_out.front.empty() && point->headroomK < m_out.front.back().headroomK + leastK)
                continue;
            if (!point->changes.empty() && !goesIn(point->changes)) {
                ++m_out.didNotGoIn;
                continue;
            }
            const bool close = !m_out.front.empty() && point->noiseDba < m_out.front.back().noiseDba + leastDb;
            if (close && m_out.front.back().headroomK < point->headroomK)
                m_out.front.back() = *point;
            else
                m_out.front.push_back(*point);
        }
        for (ExplorePoint& point : m_out.front)
            finish(point);
    }

    const Project& m_project;
    const stages::Evaluation& m_now;
    const ExploreRequest m_request;
    const std::function<bool(double)>& m_progress;
    std::vector<OpenQuestion> m_choices;
    std::vector<std::size_t> m_numbers;
    std::unordered_set<std::size_t> m_seen, m_expanded;
    std::vector<std::optional<ExplorePoint>> m_points;
    std::atomic<bool> m_stop{false};
    Explored m_out;
};

} // namespace

Result<Explored> explore(const Project& project, const stages::Evaluation& now, const ExploreRequest& request,
                         const std::function<bool(double)>& progress) {
    return Explorer(project, now, request, progress).run();
}

} // namespace core::advise
