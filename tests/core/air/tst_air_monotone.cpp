// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/air/predict.h"
#include "support/builds.h"
#include "support/registry.h"

#include <QtTest>

#include <random>

namespace tst_air_monotone {

using namespace support;

namespace {

class Dice {
public:
    explicit Dice(unsigned seed) : m_random(seed) {}
    double between(double a, double b) { return a + (b - a) * std::uniform_real_distribution<double>()(m_random); }
    bool yes() { return m_random() % 2 == 0; }
    int of(int n) { return static_cast<int>(m_random() % static_cast<unsigned>(n)); }

private:
    std::mt19937 m_random;
};

CaseSpec& caseOf(Project& p) { return std::get<CaseSpec>(p.shelf[0].spec); }

/// A box of any width, its vents of any openness, its parts of any power, standing or lying, with what it is asked for.
Project drawn(Dice& dice) {
    Project p = project();
    const double width = dice.between(82, 150);
    p.shelf[0].size[0] = mm(width);
    caseOf(p).chambers[0].highMm[0] = width;
    for (Opening& o : caseOf(p).openings)
        o.perforation = dice.between(0.15, 0.75);
    for (Part& part : p.shelf)
        if (part.kind == PartKind::Card)
            part.powerW = dice.between(30, 130);
        else if (part.kind == PartKind::Processor)
            part.powerW = dice.between(15, 80);
    std::vector<Change> changes{SetFan{"side", FanMode::Fixed, dice.between(0.3, 1.0)}};
    if (dice.yes())
        changes.emplace_back(SwapPart{"tray/cpu/lid", dice.yes() ? "cooler-47" : "cooler-60"});
    if (dice.of(3) == 0)
        changes.emplace_back(Orient{dice.yes() ? Side::Left : Side::Rear});
    return with(p, changes, "A");
}
/// A child of A.
Project then(Project p, std::vector<Change> changes) {
    p.revisions.push_back({.id = "B", .parent = "A", .changes = std::move(changes)});
    return p;
}
air::Prediction at(const Project& p, const char* id, double room = 23, double share = 1) {
    return air::predict(built(p, id), {.roomC = room, .processorShare = share, .cardShare = share});
}
/// How hot a part is; one that is held at its limit counts as hotter than any that is not, the more the less it gives.
double heat(const air::Prediction& a, const char* mount) {
    const auto* part = a.part(mount);
    return part->throttled ? 300 - part->powerW : part->temperatureC;
}
constexpr double slackK = 0.05; // of two solves

} // namespace

/// What never warms and never cools, over random builds. The exceptions that physics allows are named where they are.
class AirMonotoneTest : public QObject {
    Q_OBJECT
private slots:
    void aWarmerRoomNeverCools() {
        Dice dice(1);
        for (int i = 0; i < 150; ++i) {
            const Project p = drawn(dice);
            const double by = dice.between(1, 12);
            const auto cool = at(p, "A", 22), warm = at(p, "A", 22 + by);
            for (const char* mount : {"tray/cpu", "card", "bay"})
                QVERIFY2(heat(warm, mount) >= heat(cool, mount) - slackK, mount);
            // Nor by more than the room: fans that are regulated take a part of it. A part that comes to its limit, or
            // a card whose fan starts, does not count.
            const auto* a = cool.part("tray/cpu");
            const auto* b = warm.part("tray/cpu");
            if (!a->throttled && !b->throttled)
                QVERIFY(b->temperatureC - a->temperatureC <= by + 0.6); // warm air is thinner
        }
    }
    /// More open area right before a card never warms it. Exception: while a fan blows into the box the opening may as
    /// well let that air out again, so the case fan is taken out here; and where it lets more of the warm air of a
    /// regulated cooler pass, which is below a degree.
    void aMoreOpenVentNeverWarms() {
        Dice dice(2);
        for (int i = 0; i < 150; ++i) {
            Project p = then(drawn(dice), {RemovePart{"side"}});
            const double e = caseOf(p).openings[2].perforation;
            const double before = heat(at(p, "B"), "card");
            caseOf(p).openings[2].perforation = std::min(0.98, e + dice.between(0.05, 0.3));
            const double after = heat(at(p, "B"), "card");
            QVERIFY2(after <= before + 0.3,
                     qPrintable(QStringLiteral("%1 to %2, round %3").arg(before).arg(after).arg(i)));
        }
    }
    /// A faster fan that blows in before a cooler never warms it.
    void aFasterIntakeBeforeACooler() {
        Dice dice(3);
        for (int i = 0; i < 100; ++i) {
            Project p = drawn(dice);
            const Build b = built(p, "A");
            const Placed* cooler = b.at("tray/cpu/lid");
            auto& openings = caseOf(p).openings;
            openings[0].centreMm = {0.5 * (cooler->lowAt[1].mm() + cooler->highAt[1].mm()),
                                    0.5 * (cooler->lowAt[2].mm() + cooler->highAt[2].mm())};
            for (Mount& m : p.shelf[0].mounts)
                if (m.id == "side")
                    m.at = {high(0), centre(openings[0].centreMm[0]), centre(openings[0].centreMm[1])};
            const double slow = dice.between(0.2, 0.6), fast = slow + dice.between(0.1, 0.4);
            Project both = then(p, {SetFan{"side", FanMode::Fixed, slow}});
            both.revisions.push_back({.id = "C", .parent = "A", .changes = {SetFan{"side", FanMode::Fixed, fast}}});
            QVERIFY2(heat(at(both, "C"), "tray/cpu") <= heat(at(both, "B"), "tray/cpu") + 0.1,
                     qPrintable(QString::number(i)));
        }
    }
    void aClosedCaseIsNeverCooler() {
        Dice dice(4);
        int compared = 0;
        for (int i = 0; i < 100; ++i) {
            const Project p = drawn(dice);
            // Exception: a card whose fan stands still until it is warm may be cooler where it starts; it is held here.
            const SetFan held{"card", FanMode::Fixed, 0.5};
            const Project shut = then(p, {held, RemovePart{"side"}, SetOpening{"side-grille", OpeningStyle::Closed, 0},
                                          SetOpening{"top-grille", OpeningStyle::Closed, 0},
                                          SetOpening{"floor-vent", OpeningStyle::Closed, 0}});
            Project open = then(p, {held, RemovePart{"side"}});
            const auto a = at(open, "B", 20, 0.15), b = at(shut, "B", 20, 0.15);
            QVERIFY(a.converged && b.converged);
            // Exception: a part that is held at its limit gives less heat, so that others may be cooler.
            if (std::any_of(b.parts.begin(), b.parts.end(), [](const auto& part) { return part.throttled; }))
                continue;
            ++compared;
            QVERIFY(b.chambers[0].airC >= a.chambers[0].airC - slackK);
            for (const char* mount : {"tray/cpu", "card"})
                QVERIFY2(heat(b, mount) >= heat(a, mount) - slackK, mount);
        }
        QVERIFY2(compared > 50, qPrintable(QString::number(compared)));
    }
    /// 10 000 builds of any kind: all converge, and what goes in comes out again.
    void allConverge() {
        Dice dice(5);
        for (int i = 0; i < 10000; ++i) {
            const Project p = drawn(dice);
            const Build b = built(p, "A");
            const auto s = air::solve(air::compile(b, {.roomC = dice.between(5, 40)}).network);
            QVERIFY2(s.converged, qPrintable(QString::number(i)));
            QVERIFY(s.massResidual < 1e-9);
        }
    }
};

} // namespace tst_air_monotone
MD_TEST(tst_air_monotone, AirMonotoneTest)
#include "tst_air_monotone.moc"
