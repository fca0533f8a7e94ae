// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/advise/fan_curves.h"

#include "core/base/csv_field.h"
#include "core/base/text.h"
#include "core/stages/at_loads.h"

namespace core::advise {
namespace {

class Curves {
public:
    Curves(const Project& project, const stages::Evaluation& now, const Build& build)
        : m_project(project), m_conditions(now.air.conditions), m_build(build) {
        m_full = air::predict(build, m_conditions);
        air::Conditions idle = m_conditions;
        idle.processorShare = idle.cardShare = stages::usualIdleShare;
        idle.powers.clear();
        m_idle = air::predict(build, idle);
    }

    std::vector<FanCurveAdvice> run() const {
        std::vector<FanCurveAdvice> all;
        for (const Placed& p : m_build.placed) {
            const bool held =
                p.control.mode == FanMode::Fixed &&
                (p.part->kind == PartKind::Fan || p.part->kind == PartKind::Card || p.part->kind == PartKind::Cooler);
            const auto runs = std::any_of(m_full.fans.begin(), m_full.fans.end(),
                                          [&](const air::FanResult& f) { return f.id == p.mount && f.share > 0; });
            if (held && runs)
                if (auto curve = of(p))
                    all.push_back(std::move(*curve));
        }
        return all;
    }

private:
    [[nodiscard]] double capOf(const air::PartResult& part) const {
        double cap = part.limitC > 0 ? part.limitC : 90;
        for (const Target& t : m_project.brief.targets)
            if (t.kind == TargetKind::Temperature && t.subject == part.id)
                cap = std::min(cap, t.limit);
        return cap;
    }
    /// The processor or card that cools most when this fan turns faster; the fan of a cooler or card serves its own.
    [[nodiscard]] const air::PartResult* servedBy(const Placed& fan) const {
        if (fan.part->kind == PartKind::Card)
            return m_full.part(fan.mount);
        Build faster = m_build;
        for (Placed& p : faster.placed)
            if (p.mount == fan.mount)
                p.control.duty = std::min(1.0, p.control.duty + 0.15);
        const air::Prediction then = air::predict(faster, m_conditions);
        const air::PartResult* best = nullptr;
        double most = -1e9;
        for (const air::PartResult& part : m_full.parts) {
            if (part.kind != PartKind::Processor && part.kind != PartKind::Card)
                continue;
            const double cooler = part.temperatureC - then.part(part.id)->temperatureC;
            if (cooler > most) {
                most = cooler;
                best = &part;
            }
        }
        return best;
    }
    [[nodiscard]] std::optional<FanCurveAdvice> of(const Placed& fan) const {
        const air::PartResult* part = servedBy(fan);
        if (!part)
            return std::nullopt;
        double least = 0.2;
        if (const auto* spec = std::get_if<FanSpec>(&fan.part->spec))
            least = std::max(least, spec->minDuty);
        const double low = std::min(least, fan.control.duty), cap = std::max(capOf(*part), part->temperatureC + 4);
        const double idleC = std::round(m_idle.part(part->id)->temperatureC) + 3,
                     settledC = std::max(idleC + 4, std::floor(part->temperatureC));
        FanCurveAdvice advice{fan.mount, fan.name, part->id, part->name, {{idleC, low}, {settledC, fan.control.duty}}};
        if (fan.control.duty < 0.999)
            advice.points.push_back({std::max(settledC + 2, std::round(cap)), 1.0});
        return advice;
    }

    const Project& m_project;
    air::Conditions m_conditions;
    const Build& m_build;
    air::Prediction m_full, m_idle;
};

} // namespace

Result<std::vector<FanCurveAdvice>> fanCurves(const Project& project, const stages::Evaluation& now,
                                              const std::vector<Change>& changes) {
    const auto build = resolveWith(project, now.build.revision, changes);
    if (!build)
        return tl::make_unexpected(build.error());
    return Curves(project, now, *build).run();
}

std::vector<Change> asChanges(const std::vector<FanCurveAdvice>& curves) {
    std::vector<Change> changes;
    changes.reserve(curves.size());
    for (const FanCurveAdvice& c : curves)
        changes.push_back(
            SetFan{c.mount, {.mode = FanMode::Part, .follows = c.follows, .curve = c.points, .hysteresisK = 3}});
    return changes;
}

std::string curvesText(const std::vector<FanCurveAdvice>& curves, const Reader& reader) {
    std::string text;
    for (const FanCurveAdvice& c : curves) {
        text += reader.text(say("{} follows {}:", c.name, c.followsName));
        for (const CurvePoint& p : c.points)
            text += "  " + reader.text(figure::percent(p.duty)) + " " +
                    reader.text(say("at {}", figure::celsius(p.temperatureC, 0)));
        text += "\n";
    }
    return text;
}

std::string curvesCsv(const std::vector<FanCurveAdvice>& curves) {
    std::string csv = "fan,follows,temperature_c,duty_percent\n";
    for (const FanCurveAdvice& c : curves)
        for (const CurvePoint& p : c.points)
            csv += csvField(c.name) + "," + csvField(c.followsName) + "," + plainFixed(p.temperatureC, 0) + "," +
                   plainFixed(100 * p.duty, 0) + "\n";
    return csv;
}

} // namespace core::advise
