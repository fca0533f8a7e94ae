// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/advise/open_questions.h"

#include <algorithm>
#include <atomic>
#include <mutex>
#include <random>
#include <thread>
#include <unordered_set>

namespace core::advise {
namespace {

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
        m_choices = openQuestions(m_project, m_now, m_request);
        m_out.possible = 1;
        for (const OpenQuestion& c : m_choices) {
            constexpr std::size_t countable = std::size_t(1) << 60; // more than that are not told apart by number
            if (m_out.possible > countable / c.answers.size())
                return problem("explore", "more is left open than can be numbered", "keep some of it as it is");
            m_out.possible *= c.answers.size();
        }
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
            const double full = placed ? air::wattsOf(*placed, conditions) : part.powerW;
            const double k = headroom(part, cap, full, roomC);
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
                    if ((m_points[i] = solved(changesOf(m_numbers[i]), m_out.roomC)))
                        m_points[i]->number = m_numbers[i];
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
    /// What does nothing is not asked of anyone: answers that are as good left out, the idlest first, until what is
    /// left would be heard or felt.
    void leaveOutIdle(ExplorePoint& point) const {
        constexpr double unheardDb = 0.1, unfeltK = 0.15; // of all that is left out together
        const ExplorePoint whole = point;
        while (!m_stop) {
            std::vector<std::pair<double, ExplorePoint>> lighter;
            std::size_t weight = 1;
            for (const OpenQuestion& c : m_choices) {
                const std::size_t own = point.number / weight % c.answers.size(), without = point.number - own * weight;
                weight *= c.answers.size();
                auto then = own > 0 ? solved(changesOf(without), m_out.roomC) : std::nullopt;
                if (!then || then->quietEnough != whole.quietEnough || then->holds() != whole.holds())
                    continue;
                then->number = without;
                const double worse = std::max((then->noiseDba - whole.noiseDba) / unheardDb,
                                              (whole.headroomK - then->headroomK) / unfeltK);
                if (worse <= 1)
                    lighter.emplace_back(worse, std::move(*then));
            }
            std::stable_sort(lighter.begin(), lighter.end(),
                             [](const auto& a, const auto& b) { return a.first < b.first; });
            const auto next =
                std::find_if(lighter.begin(), lighter.end(), [&](const auto& l) { // others may need its room
                    return goesIn(m_project, m_now, l.second.changes);
                });
            if (next == lighter.end())
                return;
            point = std::move(next->second);
        }
    }
    /// One change after the other, in the order in which one makes them: what each does by itself.
    void addSteps(ExplorePoint& point) const {
        std::vector<std::pair<Turn, std::vector<Change>>> answers;
        std::size_t number = point.number;
        for (const OpenQuestion& c : m_choices) {
            const auto& answer = c.answers[number % c.answers.size()];
            if (!answer.empty())
                answers.emplace_back(c.turn, answer);
            number /= c.answers.size();
        }
        std::stable_sort(answers.begin(), answers.end(),
                         [](const auto& a, const auto& b) { return a.first < b.first; });
        std::vector<Change> soFar;
        auto before = planned({});
        ExplorePoint was = m_out.now;
        for (const auto& [turn, changes] : answers) {
            soFar.insert(soFar.end(), changes.begin(), changes.end());
            const auto then = solved(soFar, m_out.roomC);
            const auto plan = planned(soFar);
            if (!then)
                return point.steps.clear();
            ExploreStep step{.changes = changes,
                             .noiseDb = then->noiseDba - was.noiseDba,
                             .kelvin = then->headroomK - was.headroomK};
            if (plan && before) {
                step.screws = plan->screws - before->screws;
                step.minutes = plan->minutes - before->minutes;
                step.price = plan->price - before->price;
            }
            point.steps.push_back(std::move(step));
            was = *then;
            before = plan;
        }
    }
    struct Planned {
        int screws = 0;
        double minutes = 0, price = 0;
    };
    std::optional<Planned> planned(const std::vector<Change>& changes) const {
        auto build = resolveWith(m_project, m_now.build.revision, changes);
        if (!build)
            return std::nullopt;
        const auto then = stages::evaluateBuild(m_project, std::move(*build));
        return then ? std::optional<Planned>({then->make.screws, then->make.minutes, then->price}) : std::nullopt;
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
        // Steps that nobody hears or feels are one; what is far over its cap is no way to build it.
        constexpr double leastDb = 0.3, leastK = 0.3, hopelessK = -25;
        const bool anyHope =
            std::any_of(order.begin(), order.end(), [](const ExplorePoint* p) { return p->headroomK >= hopelessK; });
        for (const ExplorePoint* point : order) {
            if (m_stop)
                return;
            if (anyHope && point->headroomK < hopelessK)
                continue;
            if (!m_out.front.empty() && point->headroomK < m_out.front.back().headroomK + leastK)
                continue;
            if (!point->changes.empty() && !goesIn(m_project, m_now, point->changes)) {
                ++m_out.didNotGoIn;
                continue;
            }
            const bool close = !m_out.front.empty() && point->noiseDba < m_out.front.back().noiseDba + leastDb;
            if (close && m_out.front.back().headroomK < point->headroomK)
                m_out.front.back() = *point;
            else
                m_out.front.push_back(*point);
        }
        for (ExplorePoint& point : m_out.front) {
            if (m_stop)
                return;
            leaveOutIdle(point);
        }
        // Two that came to the same are one.
        std::vector<ExplorePoint> kept;
        for (ExplorePoint& point : m_out.front)
            if (kept.empty() ||
                (point.headroomK > kept.back().headroomK + 0.05 && point.noiseDba > kept.back().noiseDba))
                kept.push_back(std::move(point));
        m_out.front = std::move(kept);
        for (ExplorePoint& point : m_out.front) {
            if (m_stop)
                return;
            finish(point);
            addSteps(point);
        }
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

int chosenOf(const Explored& found) {
    const auto holds = std::find_if(found.front.begin(), found.front.end(), [&](const ExplorePoint& p) {
        return p.holdsHot() && p.headroomK >= found.now.headroomK;
    });
    return holds != found.front.end() ? static_cast<int>(holds - found.front.begin())
                                      : static_cast<int>(found.front.size()) - 1;
}

Result<Explored> explore(const Project& project, const stages::Evaluation& now, const ExploreRequest& request,
                         const std::function<bool(double)>& progress) {
    return Explorer(project, now, request, progress).run();
}

} // namespace core::advise
