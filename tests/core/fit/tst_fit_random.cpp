// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/fit/fit.h"
#include "core/model/choices.h"
#include "support/builds.h"
#include "support/registry.h"

#include <QtTest>

#include <random>

namespace tst_fit_random {

using namespace support;

namespace {

struct Box {
    std::array<double, 3> low{}, high{};
};

/// A case with n boxes at random places, each given by plain low offsets.
Project randomBoxes(std::mt19937& random, int n, std::vector<Box>& boxes) {
    Project p = project();
    p.shelf.resize(1);
    auto& mounts = p.shelf[0].mounts;
    mounts.clear();
    std::vector<Change> changes{SetCase{"box"}};
    const std::array<double, 3> inside{82, 300, 250};
    const auto uniform = [&](double a, double b) {
        return a + std::floor(std::uniform_real_distribution<double>(0, b - a)(random) * 10) / 10;
    };
    boxes.clear();
    for (int i = 0; i < n; ++i) {
        Box b;
        for (std::size_t a = 0; a < 3; ++a) {
            const double size = uniform(4, inside[a] * 0.5);
            b.low[a] = uniform(0, inside[a] - size);
            b.high[a] = b.low[a] + size;
        }
        const std::string id = "b" + std::to_string(i);
        Part part{
            .id = id,
            .kind = PartKind::Made,
            .name = "Box " + id,
            .size = {mm(b.high[0] - b.low[0], 0.1), mm(b.high[1] - b.low[1], 0.1), mm(b.high[2] - b.low[2], 0.1)}};
        part.spec = MadeSpec{};
        p.shelf.push_back(part);
        mounts.push_back({.id = id,
                          .name = id,
                          .accepts = {PartKind::Made},
                          .at = {low(b.low[0], 0.1), low(b.low[1], 0.1), low(b.low[2], 0.1)},
                          .facing = {Axis::Z, 1},
                          .up = {Axis::Y, 1}});
        changes.push_back(PlacePart{id, id});
        boxes.push_back(b);
    }
    p.revisions = {{.id = "R1", .changes = changes}};
    return p;
}

} // namespace

/// Gaps of random builds against distances worked out from the corners alone.
class FitRandomTest : public QObject {
    Q_OBJECT
private slots:
    void gapsAreDistances() {
        std::mt19937 random(12);
        int compared = 0, corners = 0;
        for (int round = 0; round < 300; ++round) {
            std::vector<Box> boxes;
            const Project p = randomBoxes(random, 2 + static_cast<int>(random() % 5), boxes);
            const Build build = built(p, "R1");
            for (std::size_t i = 0; i < boxes.size(); ++i)
                for (std::size_t a = 0; a < 3; ++a) {
                    QCOMPARE_LE(std::abs(build.placed[i].lowAt[a].mm() - boxes[i].low[a]), 1e-9);
                    QCOMPARE_LE(std::abs(build.placed[i].highAt[a].mm() - boxes[i].high[a]), 1e-9);
                }
            for (const fit::Gap& gap : fit::check(build).gaps) {
                if (gap.rule == "intake-desk")
                    continue;      // outside the case
                if (gap.slanted) { // corners: the diagonal between them
                    double squares = 0;
                    for (std::size_t k = 0; k < 3; ++k) {
                        const Box &l = boxes[static_cast<std::size_t>(std::stoi(gap.between[0].mount.substr(1)))],
                                  &u = boxes[static_cast<std::size_t>(std::stoi(gap.between[1].mount.substr(1)))];
                        squares += std::pow(std::max({0.0, u.low[k] - l.high[k], l.low[k] - u.high[k]}), 2);
                    }
                    QCOMPARE_LE(std::abs(gap.nominal.mm() - std::sqrt(squares)), 0.002);
                    ++corners;
                    continue;
                }
                const std::size_t a = index(gap.axis);
                const auto box = [&](const fit::GapEnd& end) {
                    return boxes[static_cast<std::size_t>(std::stoi(end.mount.substr(1)))];
                };
                const double from = gap.between[0].mount.empty() ? 0.0 : box(gap.between[0]).high[a];
                const double to = gap.between[1].mount.empty() ? build.insideAt[a].mm() : box(gap.between[1]).low[a];
                QCOMPARE_LE(std::abs(gap.nominal.mm() - (to - from)), 1e-9);
                // Its chain of dimensions says the same.
                double sum = 0;
                for (const auto& item : gap.chain)
                    sum += item.sign * item.factor * item.valueMm;
                QCOMPARE_LE(std::abs(sum - gap.nominal.mm()), 1e-9);
                QVERIFY(gap.rssBandMm <= gap.worstBandMm + 1e-12);
                QVERIFY(gap.chance >= 0 && gap.chance <= 1);
                ++compared;
            }
        }
        QVERIFY(compared > 2000 && corners > 3);
    }

    /// Two boxes that overlap in all three axes always make a finding, however they lie.
    void overlapsAreNeverMissed() {
        std::mt19937 random(4);
        int overlaps = 0;
        for (int round = 0; round < 400; ++round) {
            std::vector<Box> boxes;
            const Project p = randomBoxes(random, 2, boxes);
            double least = 1e9;
            for (std::size_t a = 0; a < 3; ++a)
                least = std::min(least, std::min(boxes[0].high[a], boxes[1].high[a]) -
                                            std::max(boxes[0].low[a], boxes[1].low[a]));
            if (least <= 0.6) // beyond the tolerances
                continue;
            ++overlaps;
            const auto result = fit::check(built(p, "R1"));
            const bool found = std::any_of(result.gaps.begin(), result.gaps.end(), [](const fit::Gap& g) {
                return g.nominal < Length{} && !g.between[0].mount.empty() && !g.between[1].mount.empty();
            });
            QVERIFY2(found, qPrintable(QStringLiteral("overlap of %1 mm").arg(least)));
        }
        QVERIFY(overlaps > 30);
    }

    void movingAPartMovesItsGaps() {
        const Project p = with(project(), {MovePart{"card", Axis::X, Length::fromMm(1.5)}});
        const auto width = [](const Project& project, const char* id) {
            const Build b = built(project, id);
            for (const auto& gap : fit::check(b).gaps)
                if (gap.between[0].mount == "card" && gap.between[1].mount == "side")
                    return gap.nominal.mm();
            return 1e9;
        };
        QCOMPARE_LE(std::abs(width(p, "R1") - width(p, "R2") - 1.5), 1e-9);
    }

    void measuringNarrowsTheBand() {
        Project p = project();
        const auto band = [](const Project& project) {
            for (const auto& gap : fit::check(built(project, "R1")).gaps)
                if (gap.between[0].mount == "card" && gap.between[1].mount == "side")
                    return gap.worstBandMm;
            return 0.0;
        };
        const double before = band(p);
        p.shelf[0].size[0] = measureMm(82, Source::Caliper); // from ±0.5 to ±0.1
        QCOMPARE_LE(std::abs(before - band(p) - 0.4), 1e-9);
    }

    /// Any sequence of changes ends in a build or in words, and never in a half-made one.
    void randomChanges() {
        std::mt19937 random(21);
        const std::array<std::string, 7> mounts{"tray", "tray/cpu", "tray/cpu/lid", "card", "side", "shelf", "nowhere"};
        const std::array<std::string, 7> parts{"board", "cpu", "cooler-47", "card", "fan-25", "caddy", "nothing"};
        int good = 0, refused = 0;
        for (int round = 0; round < 2000; ++round) {
            std::vector<Change> changes;
            for (int k = 0; k < 1 + static_cast<int>(random() % 5); ++k) {
                const std::string mount = mounts[random() % 7], part = parts[random() % 7];
                switch (random() % 8) {
                case 0:
                    addTo(changes, PlacePart{part, mount});
                    break;
                case 1:
                    addTo(changes, SwapPart{mount, part});
                    break;
                case 2:
                    addTo(changes, RemovePart{mount});
                    break;
                case 3:
                    addTo(changes, FlipFan{mount});
                    break;
                case 4:
                    addTo(changes, SetFan{mount, FanMode::Fixed, static_cast<double>(random() % 120) / 100});
                    break;
                case 5:
                    addTo(changes, MovePart{mount, static_cast<Axis>(random() % 3),
                                            Length::fromMm(static_cast<double>(random() % 80) - 40)});
                    break;
                case 6:
                    addTo(changes, SetScreen{random() % 2 ? "floor-vent" : "porthole", Screen::Fine});
                    break;
                default:
                    addTo(changes, LimitPower{mount, static_cast<double>(random() % 200)});
                    break;
                }
            }
            const Project p = with(project(), changes);
            const auto build = resolve(p, "R2");
            if (!build) {
                ++refused;
                QVERIFY(!build.error().place.empty() && !build.error().what.empty());
                continue;
            }
            ++good;
            for (const Placed& placed : build->placed)
                QVERIFY(placed.parent < 0 || static_cast<std::size_t>(placed.parent) < build->placed.size());
            const auto result = fit::check(*build);
            for (const auto& gap : result.gaps)
                QVERIFY(std::isfinite(gap.marginMm()));
        }
        QVERIFY(good > 200 && refused > 200);
    }
};
} // namespace tst_fit_random
MD_TEST(tst_fit_random, FitRandomTest)
#include "tst_fit_random.moc"
