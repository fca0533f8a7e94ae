// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/arrange/arrangement.h"

#include "core/arrange/box_maker.h"
#include "core/base/text.h"

#include <algorithm>
#include <cmath>

namespace core::arrange {
namespace {

Problem outOfRange(const AskedSize& asked, double mm) {
    return {std::string(asked.label), fixed(mm, 1) + " mm",
            fixed(asked.lowMm, 0) + " to " + fixed(asked.highMm, 0) + " mm"};
}

std::optional<Problem> wrongSize(const Arrangement& arrangement, const Sizes& sizes) {
    if (sizes.all.size() != arrangement.sizes.size())
        return Problem{"sizes", std::to_string(sizes.all.size()) + " are given",
                       std::to_string(arrangement.sizes.size()) + " are asked"};
    for (std::size_t i = 0; i < sizes.all.size(); ++i) {
        const AskedSize& asked = arrangement.sizes[i];
        const double mm = sizes.mm(i);
        if (!(mm >= asked.lowMm && mm <= asked.highMm))
            return outOfRange(asked, mm);
    }
    return std::nullopt;
}

/// A part that is too large for a wall, or a panel beyond it, is found by Fit; what has no size at all is refused here.
std::optional<Problem> nothingLeft(const Box& box) {
    for (const Chamber& c : std::get<CaseSpec>(box.casePart.spec).chambers)
        for (std::size_t a = 0; a < 3; ++a)
            if (c.highMm[a] - c.lowMm[a] < 5)
                return Problem{c.name, "would be " + fixed(c.highMm[a] - c.lowMm[a], 1) + " mm thick",
                               "move the inner panel, or make the box larger"};
    for (const Opening& o : std::get<CaseSpec>(box.casePart.spec).openings)
        if (o.sizeMm[0] < 5 || o.sizeMm[1] < 5)
            return Problem{o.name, "would be smaller than 5 mm", "make the box larger"};
    for (const Part& p : box.panels)
        for (const Measure& side : p.size)
            if (side.value.mm() <= 0)
                return Problem{p.name, "would have no size", "make the box larger"};
    return std::nullopt;
}

} // namespace

const Arrangement* arrangement(std::string_view id) {
    const auto all = arrangements();
    const auto it = std::find_if(all.begin(), all.end(), [&](const Arrangement& a) { return a.id == id; });
    return it == all.end() ? nullptr : &*it;
}

Sizes usualSizes(const Arrangement& arrangement) {
    Sizes sizes;
    for (const AskedSize& asked : arrangement.sizes)
        sizes.all.push_back(measureMm(asked.usualMm, Source::Estimate));
    return sizes;
}

Result<Box> makeBox(const Arrangement& arrangement, const Sizes& sizes, std::string_view way) {
    if (auto wrong = wrongSize(arrangement, sizes))
        return tl::make_unexpected(*wrong);
    const auto known = [&](const Way& w) { return w.id == way; };
    if (!way.empty() && std::none_of(arrangement.ways.begin(), arrangement.ways.end(), known))
        return problem(std::string(arrangement.name), "has no way \"" + std::string(way) + "\"",
                       arrangement.ways.empty() ? "leave it out" : "e.g. " + std::string(arrangement.ways.front().id));
    BoxMaker maker(sizes, way);
    arrangement.make(maker);
    Box box = std::move(maker).done();
    box.casePart.name = std::string(arrangement.name);
    if (auto wrong = nothingLeft(box))
        return tl::make_unexpected(*wrong);
    return box;
}

Project startWith(const Arrangement& arrangement, Box box, std::string name) {
    Project project;
    project.name = std::move(name);
    project.brief.load = "full";
    project.loads = {{.id = "full", .name = "Full load"},
                     {.id = "mixed", .name = "Mixed use", .processorShare = 0.5, .cardShare = 0.5},
                     {.id = "idle", .name = "Idle", .processorShare = 0.2, .cardShare = 0.1}};
    double litres = 1e-6;
    const double wallMm = std::get<CaseSpec>(box.casePart.spec).wall.value.mm();
    for (const Measure& side : box.casePart.size)
        litres *= side.value.mm() + 2 * wallMm;
    project.brief.targets = {
        {.id = "gaps", .name = "Every gap, at worst", .kind = TargetKind::Gap, .limit = 0},
        {.id = "noise", .name = "Noise", .kind = TargetKind::Noise, .limit = 38},
        {.id = "volume", .name = "Volume", .kind = TargetKind::Volume, .limit = std::ceil(litres * 2) / 2}};
    const auto takes = [&](PartKind kind) {
        return std::any_of(box.casePart.mounts.begin(), box.casePart.mounts.end(), [&](const Mount& m) {
            return std::find(m.accepts.begin(), m.accepts.end(), kind) != m.accepts.end();
        });
    };
    if (takes(PartKind::Board))
        project.brief.targets.push_back(
            {.id = "cpu", .name = "Processor", .kind = TargetKind::Temperature, .subject = "tray/cpu", .limit = 90});
    if (takes(PartKind::Card))
        project.brief.targets.push_back(
            {.id = "card", .name = "Card", .kind = TargetKind::Temperature, .subject = "card", .limit = 84});
    project.shelf.push_back(std::move(box.casePart));
    for (Part& panel : box.panels)
        project.shelf.push_back(std::move(panel));
    project.revisions.push_back(
        {.id = "R1", .changes = std::move(box.changes), .note = "Begun as: " + std::string(arrangement.name)});
    return project;
}

Result<Project> meantProject(const Arrangement& arrangement, Box box, const std::vector<Part>& standard) {
    Project project = startWith(arrangement, std::move(box), std::string(arrangement.name));
    Revision revision = project.revisions.front();
    const auto take = [&](std::string_view id) -> std::optional<Problem> {
        if (project.part(id))
            return std::nullopt;
        const auto it = std::find_if(standard.begin(), standard.end(), [&](const Part& p) { return p.id == id; });
        if (it == standard.end())
            return Problem{"standard sizes", "\"" + std::string(id) + "\" is not there",
                           "install the file of standard sizes again"};
        project.shelf.push_back(*it);
        return std::nullopt;
    };
    for (const Meant& meant : arrangement.meant) {
        if (auto wrong = take(meant.part))
            return tl::make_unexpected(*wrong);
        revision.changes.emplace_back(PlacePart{std::string(meant.part), std::string(meant.mount), meant.flow});
    }
    for (const MeantLead& lead : arrangement.leads) {
        if (auto wrong = take(lead.part))
            return tl::make_unexpected(*wrong);
        Connect connect{std::string(lead.part), std::string(lead.from), {}};
        if (!lead.to.empty())
            connect.to.emplace_back(lead.to);
        revision.changes.emplace_back(std::move(connect));
    }
    project.revisions = {};
    project.revisions.push_back(std::move(revision));
    return project;
}

} // namespace core::arrange
