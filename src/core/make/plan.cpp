// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/make/plan.h"

#include "core/base/text.h"
#include "core/model/facts.h"

#include <numbers>
#include <set>

namespace core::make {
namespace {

constexpr std::array<Material, 5> materials{
    {{"pla", 1.24, 60}, {"petg", 1.27, 80}, {"abs", 1.04, 105}, {"asa", 1.07, 100}, {"tpu", 1.21, 60}}};
constexpr double tongueMm = 6, tongueClearanceMm = 0.2; // of a joint: common practice, no source

/// How a box lies on the bed: turned, and on which of its faces.
struct Lying {
    double turnDeg = 0;
    bool onItsSide = false;
    std::array<double, 2> footMm{};
    double heightMm = 0;
};

/// First as drawn (own z up), then on its other faces; nothing when it fits on none.
std::optional<Lying> lying(const Printer& printer, const std::array<double, 3>& size) {
    for (const auto& [u, v, up] : {std::array{0, 1, 2}, std::array{0, 2, 1}, std::array{1, 2, 0}}) {
        if (size[up] > printer.bedMm[2])
            continue;
        if (const auto turn = turnToFit(size[u], size[v], printer.bedMm[0] - 2 * printer.borderMm,
                                        printer.bedMm[1] - 2 * printer.borderMm))
            return Lying{*turn, up != 2, {size[u], size[v]}, size[up]};
    }
    return std::nullopt;
}

constexpr int mostPieces = 8;
/// The fewest equal pieces that fit, across the axis that needs fewest.
std::optional<Split> splitOf(const Printer& printer, const std::array<double, 3>& size) {
    for (int pieces = 2; pieces <= mostPieces; ++pieces)
        for (std::size_t axis = 0; axis < 3; ++axis) {
            auto piece = size;
            piece[axis] = size[axis] / pieces + tongueMm;
            if (!lying(printer, piece))
                continue;
            Split split{.axis = axis, .pieceMm = piece[axis], .jointMm = tongueMm, .clearanceMm = tongueClearanceMm};
            for (int i = 1; i < pieces; ++i)
                split.atMm.push_back(size[axis] * i / pieces);
            return split;
        }
    return std::nullopt;
}

MadePart madePart(const Project& project, const Part& part, int copies) {
    const auto& spec = std::get<MadeSpec>(part.spec);
    MadePart made{.id = part.id,
                  .name = part.name,
                  .process = spec.process,
                  .material = spec.material,
                  .count = spec.count * copies};
    const std::array<double, 3> size{part.size[0].value.mm(), part.size[1].value.mm(), part.size[2].value.mm()};
    if (const auto lies = lying(project.printer, size)) {
        made.fits = true;
        made.turnedDeg = lies->turnDeg;
        made.onItsSide = lies->onItsSide;
        made.footMm = lies->footMm;
        made.heightMm = lies->heightMm;
    } else {
        made.footMm = {size[0], size[1]};
        made.heightMm = size[2];
        if (spec.process == Process::Print)
            made.split = splitOf(project.printer, size);
    }
    if (spec.process == Process::Print) {
        const double plasticCm3 = spec.volumeCm3 * (spec.shellShare + spec.infillShare * (1 - spec.shellShare));
        const Material* material = materialOf(spec.material);
        made.massG = plasticCm3 * (material ? material->densityGcm3 : 1.27) * made.count;
        made.plasticMm3 = plasticCm3 * 1000;
        made.hours = made.plasticMm3 / project.printer.flowMm3s / 3600 * made.count;
        made.cost = made.massG / 1000 * project.printer.pricePerKg;
    } else {
        made.fits = true;
        made.massG = part.massG * made.count;
        made.cost = part.price * made.count;
    }
    return made;
}

Sentence usualSafety(PartKind kind) {
    switch (kind) {
    case PartKind::PowerSupply:
        return say("Never open a supply: its capacitors hold a dangerous charge. Mains wiring to local code, by a "
                   "qualified person.");
    case PartKind::Cooler:
        return say("Tighten alternately, in a cross.");
    case PartKind::Made:
        return say("Eye protection when cutting; keep swarf away from electronics.");
    default:
        return {};
    }
}

/// Larger goes in first where nothing else decides: what carries others before what is only carried.
int usualOrder(PartKind kind) {
    switch (kind) {
    case PartKind::Made:
        return 0;
    case PartKind::Processor:
        return 2;
    case PartKind::Memory:
        return 3;
    case PartKind::Drive:
        return 4;
    case PartKind::Cooler:
        return 5;
    case PartKind::Board:
        return 1;
    case PartKind::PowerSupply:
        return 6;
    case PartKind::Radiator:
        return 6;
    case PartKind::Adapter:
    case PartKind::Cable:
        return 7;
    case PartKind::Card:
        return 8;
    case PartKind::Fan:
        return 9;
    case PartKind::Case:
        break;
    }
    return 10;
}

void addUndo(Plan& plan) {
    for (std::size_t i = 0; i < plan.steps.size(); ++i) {
        std::set<std::size_t> back{i};
        for (std::size_t j = i + 1; j < plan.steps.size(); ++j)
            if (std::any_of(plan.steps[j].needs.begin(), plan.steps[j].needs.end(),
                            [&](std::size_t n) { return back.contains(n); }))
                back.insert(j);
        Step& step = plan.steps[i];
        step.undo.assign(back.rbegin(), back.rend());
        for (const std::size_t j : back) {
            step.undoMinutes += 0.5 * plan.steps[j].minutes; // taking out is about half of putting in
            step.undoScrews += plan.steps[j].screws;
        }
    }
}

Result<std::vector<Step>> orderSteps(const Build& build) {
    const auto& placed = build.placed;
    std::vector<std::vector<std::size_t>> needs(placed.size());
    for (std::size_t i = 0; i < placed.size(); ++i) {
        if (placed[i].parent >= 0)
            needs[i].push_back(static_cast<std::size_t>(placed[i].parent));
        for (const std::string& mount : placed[i].part->step.after)
            for (std::size_t j = 0; j < placed.size(); ++j)
                if (j != i && placed[j].mount == mount)
                    needs[i].push_back(j);
    }
    std::vector<Step> steps;
    std::vector<std::size_t> position(placed.size(), placed.size());
    while (steps.size() < placed.size()) {
        std::size_t next = placed.size();
        for (std::size_t i = 0; i < placed.size(); ++i) {
            const bool ready =
                position[i] == placed.size() && std::all_of(needs[i].begin(), needs[i].end(),
                                                            [&](std::size_t n) { return position[n] < placed.size(); });
            if (ready &&
                (next == placed.size() || usualOrder(placed[i].part->kind) < usualOrder(placed[next].part->kind)))
                next = i;
        }
        if (next == placed.size()) {
            const auto stuck = std::find(position.begin(), position.end(), placed.size()) - position.begin();
            return problem("part at " + placed[static_cast<std::size_t>(stuck)].mount + ", step.after",
                           "steps wait for each other", "leave out one of the \"after\" entries");
        }
        const Placed& p = placed[next];
        const Part& part = *p.part;
        Step step{.ref = {StepKind::Place, p.mount, {}},
                  .mount = p.mount,
                  .text = part.name,
                  .tool = named(part.step.tool),
                  .minutes = part.step.minutes > 0 ? part.step.minutes : facts::stepMinutes(part.kind),
                  .fasteners = part.fasteners,
                  .safety = part.step.safety.empty() ? usualSafety(part.kind) : named(part.step.safety)};
        const auto slash = p.mount.find('/');
        step.place = slash == std::string::npos ? std::string(caseMount) : p.mount.substr(0, slash);
        for (const Fastener& f : part.fasteners)
            step.screws += f.count;
        if (step.tool.empty())
            step.tool = step.screws > 0 ? say("screwdriver") : say("hands");
        for (const std::size_t n : needs[next])
            step.needs.push_back(position[n]);
        position[next] = steps.size();
        steps.push_back(std::move(step));
    }
    return steps;
}

/// Cutting the case comes before anything is in it: swarf and electronics do not go together.
void addModifications(const Build& build, std::vector<Step>& steps) {
    const std::size_t n = build.modified.size();
    if (n == 0)
        return;
    for (Step& step : steps) {
        for (std::size_t& need : step.needs)
            need += n;
        if (step.place == caseMount)
            for (std::size_t i = 0; i < n; ++i)
                step.needs.push_back(i);
    }
    std::vector<Step> first;
    for (const Modification* m : build.modified) {
        Step step{.ref = {StepKind::Modify, m->id, {}},
                  .mount = {},
                  .text = m->name,
                  .tool = m->tool.empty() ? say("saw, file") : named(m->tool),
                  .place = std::string(caseMount),
                  .minutes = m->minutes};
        step.safety = m->safety.empty() ? say("Eyes, ears and mask; clamp the work; gloves off near spinning tools. "
                                              "Electronics and riser out before cutting, no swarf left.")
                                        : named(m->safety);
        first.push_back(std::move(step));
    }
    steps.insert(steps.begin(), first.begin(), first.end());
}

/// Leads and adapters go in when both of their ends are there.
void addLeads(const Build& build, std::vector<Step>& steps) {
    for (const Joined& j : build.joined) {
        Step step{.ref = {StepKind::Lead, j.part->id, j.from},
                  .mount = {},
                  .text = j.part->name,
                  .tool = say("hands"),
                  .place = std::string(caseMount),
                  .minutes = j.part->step.minutes > 0 ? j.part->step.minutes : facts::leadStep.value,
                  .safety = named(j.part->step.safety)};
        std::vector<std::string> ends = j.to;
        ends.push_back(j.from);
        for (const std::string& end : ends)
            for (std::size_t i = 0; i < steps.size(); ++i)
                if (!end.empty() && !steps[i].mount.empty() && steps[i].mount == endName(end).mount)
                    step.needs.push_back(i);
        steps.push_back(std::move(step));
    }
}

} // namespace

const Material* materialOf(std::string_view id) {
    const auto it = std::find_if(materials.begin(), materials.end(), [&](const Material& m) { return m.id == id; });
    return it == materials.end() ? nullptr : &*it;
}

std::optional<double> turnToFit(double w, double h, double bedW, double bedH) {
    for (int degrees = 0; degrees <= 90; ++degrees) {
        const double a = degrees * std::numbers::pi / 180;
        const double c = degrees == 90 ? 0 : std::cos(a), s = std::sin(a);
        if (w * c + h * s <= bedW + 1e-9 && w * s + h * c <= bedH + 1e-9)
            return degrees;
    }
    return std::nullopt;
}

Sentence bedWords(const Project& project, const MadePart& part) {
    if (part.fits)
        return {};
    const Printer& p = project.printer;
    const Sentence text =
        say("{} does not fit the printer bed of {} less a border of {}, not turned and not on its side", part.name,
            boxMm(p.bedMm), figure::mm(p.borderMm, 0));
    if (!part.split)
        return say("{}; no cut into up to {} pieces makes it fit", text, mostPieces);
    const std::array<Sentence, 3> across{say("width"), say("height"), say("depth")};
    Sentences at;
    for (const double mm : part.split->atMm)
        at.push_back(say("{}", figure::mm(mm)));
    return say("{}: cut it across its {} at {}; each joint (tongue and groove) adds {} to its piece with {} clearance",
               text, across[part.split->axis], joined(at), figure::mm(part.split->jointMm),
               figure::mm(part.split->clearanceMm));
}

std::vector<std::string> orderOf(const Plan& plan) {
    std::vector<std::string> order;
    for (const Step& step : plan.steps)
        if (!step.mount.empty())
            order.push_back(step.mount);
    return order;
}

Result<Plan> plan(const Project& project, const Build& build) {
    Plan plan;
    std::map<std::string, int> made, screws;
    const auto count = [&](const Part& part) {
        if (part.kind == PartKind::Made)
            ++made[part.id];
        for (const Fastener& f : part.fasteners)
            screws[f.kind] += f.count;
    };
    count(*build.casePart);
    for (const std::string& id : build.caseSpec().pieces) {
        const Part* piece = project.part(id);
        if (!piece || piece->kind != PartKind::Made)
            return problem("part " + build.casePart->id + ".pieces", "\"" + id + "\" is not a made part on the shelf",
                           "name a part of kind made");
        count(*piece);
    }
    for (const Placed& p : build.placed)
        count(*p.part);
    for (const auto& [id, copies] : made)
        plan.parts.push_back(madePart(project, *project.part(id), copies));
    for (const MadePart& part : plan.parts) {
        plan.hours += part.hours;
        plan.massG += part.massG;
        plan.cost += part.cost;
        if (part.material == "abs" || part.material == "asa")
            plan.cautions.push_back(part.name + ": ventilate the room while printing " + part.material);
    }
    for (const auto& [kind, n] : screws) {
        plan.shopping.push_back({kind, n});
        plan.screws += n;
    }
    auto steps = orderSteps(build);
    if (!steps)
        return tl::make_unexpected(steps.error());
    plan.steps = std::move(*steps);
    addModifications(build, plan.steps);
    addLeads(build, plan.steps);
    for (const Modification* m : build.modified)
        plan.cost += m->price;
    for (const Step& step : plan.steps)
        plan.minutes += step.minutes;
    addUndo(plan);
    return plan;
}

} // namespace core::make
