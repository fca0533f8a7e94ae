// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/advise/open_questions.h"

#include "core/model/choices.h"

#include <array>
#include <cmath>

namespace core::advise {
namespace {

constexpr double numberedBits = 59; // fewer than explore() can number
constexpr std::array<double, 5> speeds{0.40, 0.55, 0.70, 0.85, 1.0};

double fanFrame(const Part& fan) { return std::max(fan.size[0].value.mm(), fan.size[1].value.mm()); }

class Questions {
public:
    Questions(const Project& project, const stages::Evaluation& now, const ExploreRequest& request)
        : m_project(project), m_now(now), m_request(request) {}

    std::vector<OpenQuestion> run() {
        if (m_request.fans) {
            ownFans(); // first, as it is what ways differ in most: their words begin with it
            fans();
        }
        if (m_request.panels)
            panels();
        if (m_request.places)
            places();
        if (m_request.lying && m_now.build.down == Side::Bottom)
            m_choices.push_back({Turn::Lying, {{}, {Orient{Side::Left}}}});
        if (m_request.screens) // last: how many questions these are follows from what the others leave
            screens();
        return std::move(m_choices);
    }

private:
    [[nodiscard]] bool stays(const std::string& id) const {
        return std::find(m_request.keep.begin(), m_request.keep.end(), id) != m_request.keep.end();
    }
    [[nodiscard]] bool goesIn(const std::vector<Change>& changes) const {
        return advise::goesIn(m_project, m_now, changes);
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
            if (stays(place.mount) || (there && there->part->kind != PartKind::Fan))
                continue;
            OpenQuestion choice{Turn::Fan, {{}}};
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
            if (stays(p.mount) || (p.part->kind != PartKind::Card && !(cooler && cooler->type != CoolerType::Liquid)))
                continue;
            OpenQuestion choice{Turn::OwnFan, {{}}};
            for (const double duty : held)
                choice.answers.push_back({SetFan{p.mount, FanMode::Fixed, duty}});
            m_choices.push_back(std::move(choice));
        }
    }
    /// Of each vent by itself; of all together where that would be more ways than can be numbered.
    void screens() {
        std::vector<std::vector<const Opening*>> groups;
        for (const Opening& o : m_now.build.openings)
            if (o.to.empty() && o.style != OpeningStyle::Closed && !stays(o.id))
                groups.push_back({&o});
        constexpr double answers = 4;
        if (bits() + std::log2(answers) * static_cast<double>(groups.size()) >= numberedBits) {
            std::vector<const Opening*> all;
            all.reserve(groups.size());
            for (const auto& group : groups)
                all.push_back(group.front());
            groups = {all};
        }
        for (const auto& group : groups)
            screensOf(group);
    }
    /// Powers of two in the number of ways so far.
    [[nodiscard]] double bits() const {
        double sum = 0;
        for (const OpenQuestion& choice : m_choices)
            sum += std::log2(static_cast<double>(choice.answers.size()));
        return sum;
    }
    void screensOf(const std::vector<const Opening*>& vents) {
        OpenQuestion choice{Turn::Screens, {{}}};
        for (const Screen screen : {Screen::None, Screen::Coarse, Screen::Fine}) {
            std::vector<Change> changes;
            for (const Opening* o : vents)
                if (o->screen != screen)
                    changes.emplace_back(SetScreen{o->id, screen});
            if (!changes.empty())
                choice.answers.push_back(std::move(changes));
        }
        if (choice.answers.size() > 1)
            m_choices.push_back(std::move(choice));
    }
    /// Each larger panel as it is, closed, or as open as a good mesh.
    void panels() {
        constexpr double leastMm2 = 2000, mesh = 0.65;
        for (const Opening& o : m_now.build.openings) {
            if (!o.to.empty() || stays(o.id) || o.sizeMm[0] * o.sizeMm[1] < leastMm2)
                continue;
            OpenQuestion choice{Turn::Panel, {{}}};
            if (o.style != OpeningStyle::Closed)
                choice.answers.push_back({SetOpening{o.id, OpeningStyle::Closed, 0}});
            if (o.style == OpeningStyle::Closed || (o.style != OpeningStyle::Plain && o.perforation < mesh - 0.1))
                choice.answers.push_back({SetOpening{o.id, OpeningStyle::Mesh, mesh}});
            m_choices.push_back(std::move(choice));
        }
    }
    /// Where a card, a radiator or a supply sits: the ways its place has, and the ends of its rows of holes.
    void places() {
        for (const Placed& p : m_now.build.placed) {
            const Mount* mount = mountAt(m_now.build, p.mount);
            const bool asked = p.part->kind == PartKind::Card || p.part->kind == PartKind::Radiator ||
                               p.part->kind == PartKind::PowerSupply;
            if (!mount || !asked || stays(p.mount))
                continue;
            OpenQuestion choice{Turn::Place, {{}}};
            const auto offer = [&](const Change& change) {
                if (goesIn({change}))
                    choice.answers.push_back({change});
            };
            if (!p.variant.empty())
                offer(ChooseVariant{p.mount, {}});
            for (const MountVariant& v : mount->variants)
                if (v.id != p.variant)
                    offer(ChooseVariant{p.mount, v.id});
            for (const Slide& slide : mount->slides)
                for (const double end : {slide.fromMm, slide.toMm})
                    if (const double by = end - shiftOf(p.mount, slide.axis); std::abs(by) > 0.25)
                        offer(MovePart{p.mount, slide.axis, Length::fromMm(by)});
            if (choice.answers.size() > 1)
                m_choices.push_back(std::move(choice));
        }
    }
    /// By how much revisions have moved a part from where its place is drawn, mm.
    [[nodiscard]] double shiftOf(const std::string& mount, Axis axis) const {
        double mm = 0;
        if (const auto line = lineage(m_project, m_now.build.revision))
            for (const Revision* r : *line)
                for (const Change& change : r->changes)
                    if (const auto* move = std::get_if<MovePart>(&change);
                        move && move->mount == mount && move->axis == axis)
                        mm += move->by.mm();
        return mm;
    }

    const Project& m_project;
    const stages::Evaluation& m_now;
    const ExploreRequest& m_request;
    std::vector<OpenQuestion> m_choices;
};

} // namespace

bool goesIn(const Project& project, const stages::Evaluation& now, const std::vector<Change>& changes) {
    auto build = resolveWith(project, now.build.revision, changes);
    if (!build)
        return false;
    const auto then = stages::evaluateBuild(project, std::move(*build));
    return then && std::none_of(then->findings.begin(), then->findings.end(), [&](const rules::Finding& f) {
               return f.severity == rules::Severity::Blocker && f.station != rules::Station::Air &&
                      std::none_of(now.findings.begin(), now.findings.end(),
                                   [&](const auto& was) { return was.id == f.id && was.severity == f.severity; });
           });
}

std::vector<OpenQuestion> openQuestions(const Project& project, const stages::Evaluation& now,
                                        const ExploreRequest& request) {
    return Questions(project, now, request).run();
}

} // namespace core::advise
