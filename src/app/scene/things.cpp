// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/scene/stations.h"

// What a key of the selection means on a revision, and how its figure was worked out.
namespace app {
using core::Quantity;
using core::explain::Working;

namespace {

/// A key in its two halves, e.g. "part" and "tray/cpu".
struct Key { std::string kind, rest; };
Key halves(const QString& key) {
    const std::string k = key.toStdString();
    const auto colon = k.find(':');
    return {k.substr(0, colon), colon == std::string::npos ? std::string{} : k.substr(colon + 1)};
}

Working workingOfChannel(const View& v, const core::Run& run, const core::bench::RunAnalysis& a, const core::bench::ChannelResult& c) {
    Working w = core::explain::ofChannel(run, a, c, v.show);
    w.title = QObject::tr("%1, %2").arg(channelName(v, run, c.kind, c.subject, c.name), qs(run.name)).toStdString();
    return w;
}

/// Of a log: no build is needed for it.
std::optional<Working> ofBench(const View& v, const Key& key) {
    const auto cut = key.rest.find(':');
    const core::Run* run = v.project().run(key.kind == "channel" ? key.rest.substr(0, cut) : key.rest);
    const auto* a = run ? v.document.analysis(run->id) : nullptr;
    if (!a || a->channels.empty())
        return std::nullopt;
    for (const auto& c : a->channels) // of a run, the processor's is what one asks for first
        if (key.kind == "channel" ? c.name == key.rest.substr(cut + 1) : c.kind == core::ChannelKind::Temperature && c.name.starts_with("cpu"))
            return workingOfChannel(v, *run, *a, c);
    return key.kind == "run" ? std::optional(workingOfChannel(v, *run, *a, a->channels.front())) : std::nullopt;
}

const core::fit::Gap* gapOf(const core::verdict::Evaluation& e, const std::string& id) {
    const auto at = std::find_if(e.fit.gaps.begin(), e.fit.gaps.end(), [&](const auto& g) { return g.id == id; });
    return at == e.fit.gaps.end() ? nullptr : &*at;
}

std::optional<Working> ofFit(const View& v, const core::verdict::Evaluation& e, const QString& whole, const Key& key) {
    if (key.kind == "gap")
        if (const auto* gap = gapOf(e, key.rest))
            return core::explain::ofGap(*gap, static_cast<std::size_t>(gap - e.fit.gaps.data()) + 1, v.show);
    if (key.kind == "room")
        for (const auto& room : core::fit::roomLeft(v.project(), e.build, {.needs = v.project().needs}))
            if (key.rest == room.mount + ":" + std::to_string(room.own))
                return core::explain::ofRoom(room, v.show);
    if (key.kind == "mend") // a row of the list about a gap; the trial is made again for its figures
        if (const auto* gap = gapToMend(e.fit, whole)) {
            const auto mends = core::advise::whatToChange(v.project(), e, *gap);
            const std::size_t row = whole.section(QLatin1Char(':'), 1, 1).toULong();
            if (row < mends.size())
                return core::explain::ofMend(mends[row], *gap, v.show);
        }
    if (key.kind == "measure")
        for (const auto& next : core::fit::measureNext(e.fit))
            if (next.label == key.rest)
                return core::explain::ofMeasure(next, v.show);
    if (key.kind == "way")
        for (const auto& way : core::fit::insertions(e.build, core::make::orderOf(e.make)))
            if (way.mount == key.rest)
                return core::explain::ofWay(way);
    return std::nullopt;
}

std::optional<Working> ofAirAndTotals(const View& v, const core::verdict::Evaluation& e, const Key& key) {
    if (key.kind == "part" && (e.build.at(key.rest) || e.air.part(key.rest))) {
        const core::verdict::Deciding limit = core::verdict::temperatureOf(e, v.result().verdict, key.rest);
        return core::explain::ofPart(e, key.rest, v.show, &limit);
    }
    if (key.kind == "fan" && e.build.at(key.rest))
        return core::explain::ofFan(e, key.rest, v.show);
    if (key.kind == "opening" && e.build.opening(key.rest))
        return core::explain::ofOpening(e, key.rest, v.show);
    if (key.kind == "chamber")
        return core::explain::ofChamber(e, key.rest, v.show);
    if (key.kind == "noise")
        return core::explain::ofNoise(e, v.show);
    if (key.kind == "power")
        return core::explain::ofPower(e, v.show);
    if (key.kind == "volume")
        return core::explain::ofVolume(e, v.show);
    if (key.kind == "balance")
        return core::explain::ofBalance(e, v.show);
    if (key.kind == "mass")
        return core::explain::ofTotals(e, Quantity::Mass, v.show);
    if (key.kind == "price")
        return core::explain::ofTotals(e, Quantity::Money, v.show);
    return std::nullopt;
}

std::optional<Working> ofMakeAndVerdict(const View& v, const core::verdict::Evaluation& e, const Key& key) {
    if (key.kind == "made")
        for (const auto& part : e.make.parts)
            if (part.id == key.rest)
                return core::explain::ofMadePart(v.project(), part, v.show);
    if (key.kind == "screws")
        for (const auto& item : e.make.shopping)
            if (item.kind == key.rest)
                return core::explain::ofScrews(e.make, item);
    if (key.kind == "step")
        for (std::size_t i = 0; i < e.make.steps.size(); ++i)
            if (e.make.steps[i].mount == key.rest)
                return core::explain::ofStep(e.make, i, v.show);
    if (key.kind == "target") {
        const auto cut = key.rest.find('@');
        const auto& result = cut == std::string::npos ? v.result() : v.document.result(key.rest.substr(cut + 1));
        if (result.evaluation)
            for (const auto& t : result.verdict.targets)
                if (t.id == key.rest.substr(0, cut))
                    return core::explain::ofTarget(*result.evaluation, t, v.show);
    }
    if (key.kind == "finding")
        for (const auto& f : e.findings)
            if (f.id == key.rest)
                return core::explain::ofFinding(f);
    return std::nullopt;
}

} // namespace

std::optional<Working> workingOf(const View& v, const QString& key) {
    const Key k = halves(key);
    if (k.kind == "channel" || k.kind == "run")
        return ofBench(v, k);
    const auto* e = v.evaluation();
    if (!e)
        return std::nullopt;
    auto w = ofFit(v, *e, key, k);
    if (!w)
        w = ofAirAndTotals(v, *e, k);
    if (!w)
        w = ofMakeAndVerdict(v, *e, k);
    if (w && k.kind != "finding")
        for (const auto& f : e->findings)
            if (thingOf(v, f) == key)
                w->found.push_back(core::explain::foundOf(f));
    return w;
}

QString thingOf(const View& v, const core::rules::Finding& f) {
    const auto* e = v.evaluation();
    if (!e)
        return {};
    const QString subject = qs(f.subject);
    if (f.rule.starts_with("power") && e->build.at(f.subject))
        return QStringLiteral("power");
    const auto has = [&](const auto& list) { return std::any_of(list.begin(), list.end(), [&](const auto& x) { return x.id == f.subject; }); };
    if (gapOf(*e, f.subject))
        return QStringLiteral("gap:") + subject;
    if (f.rule == "target" && has(v.result().verdict.targets))
        return QStringLiteral("target:") + subject;
    if (f.station == core::rules::Station::Make && has(e->make.parts))
        return QStringLiteral("made:") + subject;
    if (e->build.at(f.subject) || e->air.part(f.subject))
        return QStringLiteral("part:") + subject;
    if (e->build.opening(f.subject))
        return QStringLiteral("opening:") + subject;
    return QStringLiteral("finding:") + qs(f.id); // about what is not there, or about the whole
}

} // namespace app
