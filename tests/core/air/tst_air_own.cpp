// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/acoustics/noise.h"
#include "core/air/local_heat.h"
#include "core/air/own_values.h"
#include "core/air/predict.h"
#include "core/air/thermal.h"
#include "core/air/transient.h"
#include "core/air/warm_up.h"
#include "core/stages/at_loads.h"
#include "support/builds.h"
#include "support/looked.h"
#include "support/registry.h"

#include <QtTest>

namespace tst_air_own {

using namespace support;

namespace {

double of(const air::Prediction& a, const char* mount) {
    return a.part(mount) ? a.part(mount)->temperatureC : std::nan("");
}
double shareOf(const air::Prediction& a, const std::string& mount) {
    for (const auto& f : a.fans)
        if (f.id == mount)
            return f.share;
    return -1;
}
bool noted(const air::Prediction& a, std::string_view words) {
    return std::any_of(a.notes.begin(), a.notes.end(),
                       [&](const Sentence& n) { return english(n).find(words) != std::string::npos; });
}
air::Prediction predictOf(const Project& p, const std::string& id, air::Conditions conditions = {.roomC = 23}) {
    return air::predict(built(p, id), conditions);
}
/// Of the processor that sits at tray/cpu.
ProcessorSpec& processorOf(Project& p) {
    for (std::size_t i = 0; i < p.shelf.size(); ++i)
        if (auto* spec = std::get_if<ProcessorSpec>(&p.shelf[i].spec))
            return *spec;
    qFatal("no processor");
}

} // namespace

/// What a builder states beyond the description: fan curves by points, curves of control, watts, peaks, values.
class AirOwnTest : public QObject {
    Q_OBJECT
private slots:
    /// Points of the law itself give its coefficients back; with a dip they give the nearest curve that never rises.
    void aCurveThroughPoints() {
        const air::FanCurve law{0.02, 40, 0.25};
        std::vector<std::pair<double, double>> points;
        for (double q = 0; q <= 0.02; q += 0.004) {
            const double share = q / law.freeFlowM3s;
            points.emplace_back(q, law.shutoffPa * (1 - law.linear * share - (1 - law.linear) * share * share));
        }
        const auto fitted = air::fanThrough(points);
        QCOMPARE_LE(std::abs(fitted.curve.freeFlowM3s / law.freeFlowM3s - 1), 1e-9);
        QCOMPARE_LE(std::abs(fitted.curve.shutoffPa / law.shutoffPa - 1), 1e-9);
        QCOMPARE_LE(std::abs(fitted.curve.linear - law.linear), 1e-9);
        QCOMPARE_LE(fitted.offPa, 1e-9);
        const std::vector<std::pair<double, double>> dip{{0, 30}, {0.005, 19}, {0.010, 22}, {0.015, 14}, {0.02, 0}};
        const auto near = air::fanThrough(dip);
        QVERIFY(near.offPa > 1 && near.offPa < 8);
        QVERIFY(near.curve.linear >= 0 && near.curve.linear <= 1);
        QVERIFY(near.curve.freeFlowM3s > 0.017 && near.curve.freeFlowM3s < 0.025);
        const std::vector<std::pair<double, double>> two{{0, 30}, {0.02, 0}};
        QCOMPARE_LE(std::abs(air::fanThrough(two).curve.freeFlowM3s - 0.02), 1e-9);
    }
    /// A fan whose points are those of its class is the fan of its class; a stronger one moves more; a dip is said.
    void aFanByItsPoints() {
        const Project p = project();
        const double usual = of(predictOf(p, "R1"), "tray/cpu");
        const auto withCurve = [&](double factor, double dip) {
            Project q = p;
            auto& part =
                *std::find_if(q.shelf.begin(), q.shelf.end(), [](const Part& x) { return x.kind == PartKind::Fan; });
            const auto c = air::fanOf(part).curve;
            for (double s = 0; s < 1.01; s += 0.25)
                std::get<FanSpec>(part.spec).curve.push_back(
                    {s * c.freeFlowM3s * factor,
                     c.shutoffPa * factor * (1 - 0.6 * s - 0.4 * s * s) * (s > 0.2 && s < 0.3 ? dip : 1)});
            return q;
        };
        QCOMPARE_LE(std::abs(of(predictOf(withCurve(1, 1), "R1"), "tray/cpu") - usual), 1e-3);
        QVERIFY(std::abs(of(predictOf(withCurve(2, 1), "R1"), "tray/cpu") - usual) > 0.1);
        QVERIFY(!noted(predictOf(withCurve(1, 1), "R1"), "a dip is not modelled"));
        QVERIFY(noted(predictOf(withCurve(1, 0.4), "R1"), "a dip is not modelled"));
    }
    /// Points out of order, or that do not fall, are refused with their place.
    void pointsThatAreNone() {
        const auto wrong = [](std::vector<FanPoint> points) {
            Project p = project();
            auto& part =
                *std::find_if(p.shelf.begin(), p.shelf.end(), [](const Part& x) { return x.kind == PartKind::Fan; });
            std::get<FanSpec>(part.spec).curve = std::move(points);
            const auto problems = validate(p);
            return problems.empty() ? std::string() : problems.front().text();
        };
        QVERIFY(wrong({{0.01, 20}, {0.005, 30}}).find("does not rise") != std::string::npos);
        QVERIFY(wrong({{0, 20}, {0.02, 20}}).find("does not fall") != std::string::npos);
        QVERIFY(wrong({{0, 20}}).find("does not fall") != std::string::npos);
        QVERIFY(wrong({{0, 20}, {0.02, 0}}).empty());
        const Project p =
            with(project(), {SetFan{"side", {.mode = FanMode::Processor, .curve = {{60, 1}, {50, 0.2}}}}});
        QVERIFY(resolve(p, "R2").error().text().find("does not rise") != std::string::npos);
        const Project q = with(project(), {SetFan{"side", {.mode = FanMode::Part}}});
        QVERIFY(resolve(q, "R2").error().text().find("follows") != std::string::npos);
    }
    /// A fan follows any part by points of its own: settled, its speed is what the curve says at that temperature.
    void aFanFollowsByItsOwnCurve() {
        const std::vector<CurvePoint> curve{{30, 0.3}, {90, 0.9}};
        for (const char* follows : {"tray/cpu", "card", "tray", "tray/regulators"}) {
            const Project p =
                with(project(), {SetFan{"side", {.mode = FanMode::Part, .follows = follows, .curve = curve}}});
            const auto a = predictOf(p, "R2");
            QVERIFY(a.converged);
            QVERIFY2(a.part(follows), follows);
            const double t = of(a, follows);
            QCOMPARE_LE(std::abs(shareOf(a, "side") - std::clamp(0.3 + (t - 30) / 100, 0.3, 0.9)), 2e-3);
        }
        const auto lost =
            predictOf(with(project(), {SetFan{"side", {.mode = FanMode::Part, .follows = "attic"}}}), "R2");
        QVERIFY(noted(lost, "should follow a part that is not there"));
    }
    /// The fan of a cooler takes its own curve too, and can follow another part than its own.
    void aCoolerByItsOwnCurve() {
        const auto lazy =
            with(project(), {SetFan{"tray/cpu/lid", {.mode = FanMode::Processor, .curve = {{30, 0.25}, {95, 0.4}}}}});
        QVERIFY(of(predictOf(lazy, "R2"), "tray/cpu") > of(predictOf(lazy, "R1"), "tray/cpu") + 3);
        const auto other = predictOf(
            with(project(), {SetFan{"tray/cpu/lid", {.mode = FanMode::Card, .curve = {{30, 0.3}, {90, 0.9}}}}}), "R2");
        QCOMPARE_LE(std::abs(shareOf(other, "tray/cpu/lid") - (0.3 + (of(other, "card") - 30) / 100)), 2e-3);
    }
    /// A curve that begins at nought stands still until it asks for the least speed, and stops by its hysteresis.
    void aCurveThatBeginsAtNought() {
        const SetFan quiet{
            "side", {.mode = FanMode::Part, .follows = "tray/cpu", .curve = {{55, 0}, {75, 1}}, .hysteresisK = 6}};
        const Project p = with(project(), {quiet});
        QCOMPARE(shareOf(predictOf(p, "R2", {.roomC = 10, .processorShare = 0.1, .cardShare = 0.1}), "side"), 0.0);
        QVERIFY(shareOf(predictOf(p, "R2", {.roomC = 40}), "side") >= 0.2);
        const auto compiled = air::compile(built(p, "R2"), {.roomC = 30});
        const auto f = static_cast<std::size_t>(std::find_if(compiled.network.fans.begin(), compiled.network.fans.end(),
                                                             [](const auto& d) { return d.id == "side"; }) -
                                                compiled.network.fans.begin());
        const auto cpu =
            static_cast<std::size_t>(std::find_if(compiled.network.parts.begin(), compiled.network.parts.end(),
                                                  [](const auto& d) { return d.isProcessor; }) -
                                     compiled.network.parts.begin());
        air::Transient play(compiled.network, {.roomC = 30});
        double lowestRunning = 200;
        for (int s = 0; s < 900; ++s)
            play.step({.roomC = 30});
        QVERIFY(play.state().speed[f] > 0.2);
        play.setIdle(true);
        for (int s = 0; s < 1200; ++s) {
            play.step({.roomC = 30});
            if (play.state().speed[f] > 0.19)
                lowestRunning = std::min(lowestRunning, play.state().parts[cpu].temperatureC);
        }
        QVERIFY2(lowestRunning < 59 && lowestRunning > 50, qPrintable(QString::number(lowestRunning))); // started at 59
    }
    /// Watts of single parts go before the shares; a limit still holds; watts for what is not there are said.
    void wattsUnderALoad() {
        Project p = project();
        p.loads = {{.id = "full", .name = "Full"},
                   {.id = "own", .name = "Own", .processorShare = 0.1, .powers = {{"tray/cpu", 41}, {"attic", 5}}}};
        const auto a = air::predict(built(p, "R1"), air::conditionsOf(p, "own"));
        QCOMPARE(a.part("tray/cpu")->powerW, 41.0);
        QVERIFY(noted(a, "The load has 5 W for \"attic\""));
        const Project limited = with(p, {LimitPower{"tray/cpu", 30}});
        QCOMPARE(air::predict(built(limited, "R2"), air::conditionsOf(limited, "own")).part("tray/cpu")->powerW, 30.0);
        const auto rows = stages::atLoads(p, looked(p, "R1"));
        QCOMPARE(rows.size(), 2UL);
        QCOMPARE_LE(std::abs(*rows[1].processorC - a.part("tray/cpu")->temperatureC), 1e-9);
        QVERIFY(rows[0].noiseDba > rows[1].noiseDba);
        // The supply is as loud as those watts make it, not as the share would.
        const auto supplyAt = [&](double watts) {
            Project q = p;
            q.loads[1].powers = {{"card", watts}};
            const Build b = built(q, "R1");
            for (const auto& s : acoustics::noiseOf(b, air::predict(b, air::conditionsOf(q, "own")), 1.0).sources)
                if (s.id == "bay")
                    return s.levelDba;
            return std::nan("");
        };
        QVERIFY2(supplyAt(330) > supplyAt(200) + 1,
                 qPrintable(QString("%1, %2").arg(supplyAt(330)).arg(supplyAt(200))));
    }
    /// A project that states no loads is asked at usual ones, and they rise.
    void usualLoads() {
        Project p = project();
        p.loads.clear();
        p.brief.load.clear();
        const auto rows = stages::atLoads(p, looked(p, "R1"));
        QCOMPARE(rows.size(), 3UL);
        QVERIFY(english(rows[0].name).find("usual") != std::string::npos);
        QVERIFY(*rows[0].processorC < *rows[1].processorC && *rows[1].processorC < *rows[2].processorC);
    }
    /// A peak is told beside the settled figure, which it does not touch; a small sink cannot hold it.
    void aPeak() {
        Project p = project();
        const auto plain = air::predictWithBands(built(p, "R1"), {.roomC = 23});
        QVERIFY(plain.peaks.empty());
        processorOf(p).peakW = 130;
        processorOf(p).peakS = 20;
        const auto a = air::predictWithBands(built(p, "R1"), {.roomC = 23});
        QCOMPARE(a.peaks.size(), 1UL);
        QCOMPARE(a.peaks[0].watts, 130.0);
        QCOMPARE(a.part("tray/cpu")->temperatureC, plain.part("tray/cpu")->temperatureC);
        // From idle the die rises at least by its own resistance times the step of power.
        QVERIFY(a.peaks[0].hottestC > 23 + 0.9 * (130 - 12) * processorOf(p).dieResistance);
        QVERIFY(a.peaks[0].clockMhz > a.part("tray/cpu")->clockMhz);
        QVERIFY(a.peaks[0].heldS <= 20);
        processorOf(p).limitC = 60;
        QVERIFY(air::predictWithBands(built(p, "R1"), {.roomC = 23}).peaks[0].heldS < 10);
        const Project limited = with(p, {LimitPower{"tray/cpu", 40}});
        QVERIFY(air::predictWithBands(built(limited, "R2"), {.roomC = 23}).peaks.empty());
    }
    /// A card has a peak as a processor has; one that finds no plug or is limited has none.
    void aCardPeaks() {
        Project p = project();
        CardSpec& spec = std::get<CardSpec>(partOf(p, "card").spec);
        spec.peakW = 200;
        spec.peakS = 5;
        const auto a = air::predictWithBands(built(p, "R1"), {.roomC = 23});
        QCOMPARE(a.peaks.size(), 1UL);
        QCOMPARE(a.peaks[0].id, std::string("card"));
        QCOMPARE(a.peaks[0].watts, 200.0);
        QCOMPARE(a.peaks[0].seconds, 5.0);
        QVERIFY(a.peaks[0].hottestC > 23 && a.peaks[0].clockMhz > a.part("card")->clockMhz);
        QVERIFY(air::predictWithBands(built(p, "R1"), {.roomC = 23, .idle = {"card"}}).peaks.empty());
        QVERIFY(air::predictWithBands(built(with(p, {LimitPower{"card", 90}}), "R2"), {.roomC = 23}).peaks.empty());
    }
    /// A curve that is stated for a fan which is held is not used, and that is said.
    void aCurveOfAHeldFanIsSaid() {
        FanControl control{.mode = FanMode::Fixed, .duty = 0.5};
        control.curve = {{30, 0.3}, {80, 1.0}};
        const Project held = with(project(), {SetFan{"side", control}});
        QVERIFY(noted(predictOf(held, "R2"), "the curve that is stated for it is not used"));
        control.mode = FanMode::Processor;
        QVERIFY(!noted(predictOf(with(project(), {SetFan{"side", control}}), "R2"), "is not used"));
    }
    /// Played for long, every part ends where the settled solve has it: those without a cooler and regulators too.
    void theWarmUpEndsSettled() {
        const auto compiled = air::compile(built(project(), "R1"), {.roomC = 23});
        const auto settled = air::solve(compiled.network);
        const auto warm = air::warmUp(compiled.network, settled, 300, 60);
        QCOMPARE(warm.rows.size(), 301UL);
        const auto& net = compiled.network;
        for (std::size_t i = 0; i < net.parts.size() + net.passive.size(); ++i) {
            const double end =
                i < net.parts.size() ? settled.parts[i].temperatureC : settled.passiveC[i - net.parts.size()];
            QVERIFY2(std::abs(warm.partC(300, i) - end) < 0.2,
                     qPrintable(QString("%1: %2, %3").arg(i).arg(warm.partC(300, i)).arg(end)));
            QVERIFY(warm.withinS[i] >= 0 && warm.withinS[i] < 7200);
        }
    }
    /// The books of mass and heat of a whole box close.
    void theBooksClose() {
        for (const double room : {5.0, 23.0, 45.0}) {
            const auto compiled = air::compile(built(project(), "R1"), {.roomC = room});
            const auto s = air::solve(compiled.network);
            const auto books = air::booksOf(compiled.network, s);
            QVERIFY2(std::abs(books.heatInW - books.heatOutW) < 0.1,
                     qPrintable(QString("%1 in, %2 out").arg(books.heatInW).arg(books.heatOutW)));
            QVERIFY(books.heatInW > 100 && books.massKgs < 1e-9);
        }
    }
    /// A printed part beside a hot one is warmer than the air of its chamber, further away it is not; near to where it
    /// softens it is told, and a wall of the case lies between the air and the room.
    void madePartsKnowTheirHeat() {
        const auto ringAt = [](double upMm, const char* material) {
            Project p = project();
            Part ring{.id = "ring", .kind = PartKind::Made, .name = "Ring", .size = {mm(30), mm(30), mm(4)}};
            ring.spec = MadeSpec{.material = material, .volumeCm3 = 3};
            p.shelf.push_back(ring);
            Part wall{.id = "wall", .kind = PartKind::Made, .name = "Wall", .size = {mm(82), mm(300), mm(3)}};
            wall.spec = MadeSpec{.material = "petg", .volumeCm3 = 60};
            p.shelf.push_back(wall);
            p.shelf[0].mounts.push_back({.id = "ring",
                                         .name = "Ring place",
                                         .accepts = {PartKind::Made},
                                         .at = {high(4), high(140), low(upMm)},
                                         .facing = {Axis::Z, 1},
                                         .up = {Axis::Y, 1}});
            std::get<CaseSpec>(p.shelf[0].spec).pieces = {"wall"};
            return with(p, {PlacePart{"ring", "ring"}});
        };
        const auto heatOf = [](const Project& p, std::size_t i) {
            const auto e = looked(p, "R2");
            return air::localHeat(p, e.build, e.air).at(i);
        };
        const Project base = ringAt(120, "pla");
        const double cardTop = built(base, "R1").at("card")->highAt[2].mm();
        const auto near = heatOf(ringAt(cardTop + 2, "pla"), 0), far = heatOf(ringAt(cardTop + 17, "pla"), 0);
        QVERIFY2(near.wallC > far.wallC + 3, qPrintable(QString("%1, %2").arg(near.wallC).arg(far.wallC)));
        QVERIFY(!near.near.empty() && far.near.empty());
        const auto wall = heatOf(base, 1);
        QVERIFY(wall.mount.empty() && wall.wallC < wall.airC && wall.wallC > base.brief.roomC);
        const auto told = [&](const Project& p) {
            const auto e = looked(p, "R2");
            return std::any_of(e.findings.begin(), e.findings.end(),
                               [](const auto& f) { return f.rule == "made-warm"; });
        };
        QVERIFY(told(ringAt(cardTop + 2, "pla")) == (near.wallC + 10 >= 60));
        QVERIFY(!told(ringAt(cardTop + 17, "abs")));
        Project hot = ringAt(cardTop + 2, "pla");
        hot.brief.roomC = 40;
        QVERIFY(told(hot));
    }
    /// A drive right above a card stands in what it blows out: warmer than by its chamber's air, and a caution where
    /// that takes it over its limit.
    void aDriveInTheDischarge() {
        const auto driveAt = [](double apartMm, double limitC) {
            Project p = project();
            Part drive{
                .id = "drive", .kind = PartKind::Drive, .name = "Drive", .size = {mm(22), mm(60), mm(4)}, .powerW = 3};
            drive.spec = DriveSpec{.form = DriveForm::M2Sink, .limitC = limitC};
            p.shelf.push_back(drive);
            for (Part& part : p.shelf) // a card that draws from its own vent and blows into a large cool chamber
                if (part.kind == PartKind::Card)
                    part.powerW = 230;
            for (Opening& o : std::get<CaseSpec>(p.shelf[0].spec).openings)
                o.perforation = 0.9;
            p.loads[0].processorShare = 0.05;
            const double top = built(p, "R1").at("card")->highAt[2].mm();
            p.shelf[0].mounts.push_back({.id = "above",
                                         .name = "Above the card",
                                         .accepts = {PartKind::Drive},
                                         .at = {high(4), high(120), low(top + apartMm)},
                                         .facing = {Axis::Z, 1},
                                         .up = {Axis::Y, 1}});
            return with(p, {PlacePart{"drive", "above"}});
        };
        const Project near = driveAt(3, 70), far = driveAt(17, 70);
        const auto e = looked(near, "R2"), away = looked(far, "R2");
        const auto heat = air::localHeat(near, e.build, e.air).at(0),
                   cool = air::localHeat(far, away.build, away.air).at(0);
        QVERIFY2(heat.near.starts_with("Card") && heat.airC > cool.airC + 0.5,
                 qPrintable(QString("%1, %2, %3").arg(heat.airC).arg(cool.airC).arg(e.air.part("card")->inletC)));
        const double own = e.air.part("above")->temperatureC;
        QVERIFY(heat.wallC > own && cool.near.empty());
        const auto told = [](const Project& p) {
            const auto at = looked(p, "R2");
            return std::any_of(at.findings.begin(), at.findings.end(),
                               [](const auto& f) { return f.rule == "drive-warm"; });
        };
        QVERIFY(told(driveAt(3, 0.5 * (own + heat.wallC))) && !told(driveAt(3, heat.wallC + 3)));
    }
    /// Right before the long edge of a card a drive stands in what it blows out: its own figure has that, with the band
    /// of what layers and plumes do, settled and played.
    void aDriveBeforeTheLongEdge() {
        const auto driveAt = [](double apartMm) {
            Project p = project();
            Part drive{
                .id = "drive", .kind = PartKind::Drive, .name = "Drive", .size = {mm(22), mm(60), mm(4)}, .powerW = 3};
            drive.spec = DriveSpec{.form = DriveForm::M2Sink};
            p.shelf.push_back(drive);
            partOf(p, "card").powerW = 230; // it draws from its own vent and blows into a large cool chamber
            for (Opening& o : std::get<CaseSpec>(p.shelf[0].spec).openings)
                o.perforation = 0.9;
            p.loads[0].processorShare = 0.05;
            const Build b = built(p, "R1");
            const Placed& card = *b.at("card");
            p.shelf[0].mounts.push_back(
                {.id = "edge",
                 .name = "Before its edge",
                 .accepts = {PartKind::Drive},
                 .at = {low(card.highAt[0].mm() + apartMm), low(card.lowAt[1].mm() + 60), low(card.lowAt[2].mm() + 10)},
                 .facing = {Axis::Z, 1},
                 .up = {Axis::Y, 1}});
            return with(p, {PlacePart{"drive", "edge"}});
        };
        const Project near = driveAt(3), far = driveAt(16);
        const auto e = looked(near, "R2"), away = looked(far, "R2");
        const air::PartResult &hot = *e.air.part("edge"), &cool = *away.air.part("edge");
        const auto& net = e.air.solved->compiled.network;
        const auto& s = e.air.solved->solution;
        const auto fins =
            std::find_if(net.zones.begin(), net.zones.end(), [](const auto& z) { return z.id == "fins card"; });
        QCOMPARE(hot.inletC, s.temperatureC[static_cast<std::size_t>(fins - net.zones.begin())]);
        QVERIFY2(hot.temperatureC > cool.temperatureC + 1 && hot.inletC > cool.inletC + 1,
                 qPrintable(QString("%1, %2").arg(hot.temperatureC).arg(cool.temperatureC)));
        QVERIFY(hot.bandK >= 5 && hot.weak.size() == 1 && cool.weak.empty());
        const auto heat = air::localHeat(near, e.build, e.air).at(0);
        QVERIFY(heat.near.starts_with("Card"));
        QCOMPARE(heat.wallC, hot.temperatureC);
        const auto books = air::booksOf(net, s);
        QCOMPARE_LE(std::abs(books.heatInW - books.heatOutW), 0.1);
        const auto warm = air::warmUp(net, s, 300, 60);
        for (std::size_t i = 0; i < net.passive.size(); ++i)
            QCOMPARE_LE(std::abs(warm.partC(300, net.parts.size() + i) - s.passiveC[i]), 0.2);
    }
    /// A value of one's own goes into the network, is said with what it replaces, and what it means nothing for is
    /// said.
    void ownValues() {
        Project p = project();
        const auto compiled = air::compile(built(p, "R1"), {.roomC = 23});
        const auto names = air::branchNames(compiled.network);
        QCOMPARE(std::set<std::string>(names.begin(), names.end()).size(), names.size());
        const double die = *air::valueOf(compiled.network, "tray/cpu", AirQuantity::Die);
        p.airValues = {{"tray/cpu", AirQuantity::Die, die + 0.2, "measured with a heater"}};
        const auto before = air::predict(built(p, "R1"), {.roomC = 23});
        const auto after = air::predict(built(p, "R1"), air::conditionsOf(p));
        QVERIFY(noted(after, "measured with a heater"));
        QVERIFY(of(after, "tray/cpu") > of(before, "tray/cpu") + 5);
        p.airValues = {{"grille", AirQuantity::Wall, 1, ""}, {"attic", AirQuantity::Heat, 1, ""}};
        const auto odd = air::predict(built(p, "R1"), air::conditionsOf(p));
        QVERIFY(noted(odd, "the network has no such element"));
        p.airValues = {{"tray/cpu", AirQuantity::Die, -0.1, ""}, {names[0], AirQuantity::Height, -0.1, ""}};
        const auto below = air::predict(built(p, "R1"), air::conditionsOf(p));
        QVERIFY(noted(below, "die to sink, K/W is below nought") &&
                noted(below, "height, m: \u22120.1000 of your own"));
        QCOMPARE(of(odd, "tray/cpu"), of(air::predict(built(p, "R1"), {.roomC = p.brief.roomC}), "tray/cpu"));
        for (const std::string& name : names) // nothing anyone can state leaves it without a solution
            for (const AirQuantity q : {AirQuantity::Linear, AirQuantity::Quadratic, AirQuantity::Height,
                                        AirQuantity::FreeFlow, AirQuantity::Shutoff})
                for (const double value : {0.0, 1e-9, 1.0, 1e12}) {
                    p.airValues = {{name, q, value, ""}};
                    const auto a = air::predict(built(p, "R1"), air::conditionsOf(p));
                    QVERIFY2(std::isfinite(of(a, "tray/cpu")), name.c_str());
                }
    }
};
} // namespace tst_air_own
MD_TEST(tst_air_own, AirOwnTest)
#include "tst_air_own.moc"
