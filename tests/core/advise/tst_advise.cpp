// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/advise/search.h"
#include "core/advise/what_to_change.h"
#include "support/builds.h"
#include "support/looked.h"
#include "support/registry.h"

#include <QtTest>

#include <set>

namespace tst_advise {

using namespace support;

namespace {

const fit::Gap* shortGap(const stages::Evaluation& e) {
    for (const fit::Gap& gap : e.fit.gaps)
        if (gap.isWrong() || gap.rule == "intake-desk")
            return &gap;
    return nullptr;
}
const advise::Mend* offered(const std::vector<advise::Mend>& mends, const Change& change) {
    for (const auto& m : mends)
        if (m.change == change)
            return &m;
    return nullptr;
}
/// The cooler of 60 against the side fan, which is lifted before it.
Project tooTall() {
    Project p = project();
    std::get<CaseSpec>(p.shelf[0].spec).openings[0].centreMm = {200, 155};
    p.shelf[0].mounts[2].at[2] = centre(155);
    for (Part& part : p.shelf)
        if (part.id == "supply")
            part.size[2] = mm(60); // 18 before the closed panel, 15 are needed
    return with(p, {SwapPart{"tray/cpu/lid", "cooler-60"}});
}

} // namespace

/// What would mend a gap, and the search over combinations.
class AdviseTest : public QObject {
    Q_OBJECT
private slots:
    void singleChangesThatMend() {
        const Project p = tooTall();
        const auto e = looked(p, "R2");
        const fit::Gap* gap = shortGap(e);
        QVERIFY(gap);
        const auto mends = advise::whatToChange(p, e, *gap);
        const auto* lower = offered(mends, SwapPart{"tray/cpu/lid", "cooler-37"});
        QVERIFY(lower && lower->mends);
        QCOMPARE_LE(std::abs(lower->wonMm - 23), 1e-6); // 60 to 37
        QVERIFY(offered(mends, RemovePart{"side"}));    // a taller cooler gives up a case fan
        QCOMPARE(offered(mends, RemovePart{"side"})->screws, -4);
        QCOMPARE_LE(std::abs(offered(mends, RemovePart{"side"})->price + 15), 1e-6);
        QVERIFY(!offered(mends, SwapPart{"side", "fan-25"})); // wins nothing
        QVERIFY(core::english(offered(mends, RemovePart{"side"})->cost).find("Fan fan-15 is lost") !=
                std::string::npos);
        // Those that mend stand first, the most millimetres first among them.
        for (std::size_t i = 1; i < mends.size(); ++i) {
            QVERIFY(!mends[i - 1].takesOut || mends[i].takesOut); // a part lost comes last, whatever it wins
            if (mends[i - 1].takesOut != mends[i].takesOut)
                continue;
            QVERIFY(mends[i - 1].mends || !mends[i].mends);
            if (mends[i - 1].mends && mends[i].mends && mends[i - 1].spoils.size() == mends[i].spoils.size() &&
                !mends[i - 1].with && !mends[i].with)
                QVERIFY(mends[i - 1].wonMm >= mends[i].wonMm);
        }
    }

    /// What is told of a change is what the changed revision then is.
    void toldIsWhatComes() {
        const Project p = tooTall();
        const auto e = looked(p, "R2");
        const auto mends = advise::whatToChange(p, e, *shortGap(e));
        QVERIFY(mends.size() >= 3);
        for (const auto& m : mends) {
            Project q = p;
            q.revisions.push_back({.id = "R3", .parent = "R2", .changes = {m.change}});
            const auto then = looked(q, "R3");
            QCOMPARE_LE(std::abs(then.price - e.price - m.price), 1e-9);
            QCOMPARE(then.make.screws - e.make.screws, m.screws);
            QCOMPARE_LE(std::abs(then.noise.totalDba - e.noise.totalDba - m.noiseDb), 1e-9);
            if (m.mends) {
                for (const fit::Gap& gap : then.fit.gaps)
                    QVERIFY2(!gap.isWrong(), core::english(m.text).c_str());
            }
        }
    }

    void whatSpoilsElsewhereDoesNotMend() {
        Project p = tooTall();
        for (Part& part : p.shelf)
            if (part.id == "cooler-37")
                std::get<CoolerSpec>(part.spec).sockets = {"B"}; // the low one has no kit
        const auto e = looked(p, "R2");
        const auto mends = advise::whatToChange(p, e, *shortGap(e));
        const auto* lower = offered(mends, SwapPart{"tray/cpu/lid", "cooler-37"});
        QVERIFY(lower && !lower->mends && !lower->spoils.empty());
    }

    void plugsVariantsSlidesAndFeet() {
        // An 8-pin plug on the long edge of the card meets the right panel; angled away along the card it does not.
        Project p = project();
        for (Part& part : p.shelf)
            if (part.id == "card")
                part.ports = {{.id = "power",
                               .kind = "card-8",
                               .at = {mm(100), mm(58), mm(19)},
                               .out = {Axis::Y, 1},
                               .angledWays = {{Axis::X, -1}, {Axis::X, 1}}}};
        p.shelf[0].mounts[1].slides = {{Axis::X, -2, 0, 1}};
        p = with(p, {RemovePart{"side"}});
        const auto e = looked(p, "R2");
        const fit::Gap* gap = shortGap(e);
        QVERIFY(gap && (gap->between[0].port == "power" || gap->between[1].port == "power"));
        const auto mends = advise::whatToChange(p, e, *gap);
        bool angled = false;
        for (const auto& m : mends)
            angled = angled || (m.mends && std::holds_alternative<SetPlug>(m.change));
        QVERIFY(angled);
        for (const auto& m : mends)
            QVERIFY(!std::holds_alternative<MovePart>(
                m.change)); // the slide of 2 mm does not reach, and says where holes are

        const Project low = with(project(), {SetFeet{2}});
        const auto f = looked(low, "R2");
        const fit::Gap* desk = shortGap(f);
        QVERIFY(desk && desk->rule == "intake-desk");
        const auto higher = advise::whatToChange(low, f, *desk);
        QVERIFY(!higher.empty() && higher[0].mends && std::holds_alternative<SetFeet>(higher[0].change));

        Project turned = project();
        turned.shelf[0].mounts[2].variants = {{.id = "outside",
                                               .name = "outside the panel",
                                               .at = std::array{Offset{Ref::Above, {}}, centre(200), centre(60)}}};
        for (Part& part : turned.shelf)
            if (part.id == "card")
                part.size[1] = mm(64.5, 0.3); // the slim fan clashes with its edge
        const auto g = looked(turned, "R1");
        QVERIFY(shortGap(g));
        const auto out = advise::whatToChange(turned, g, *shortGap(g));
        QVERIFY(offered(out, ChooseVariant{"side", "outside"}));
        QVERIFY(offered(out, ChooseVariant{"side", "outside"})->mends);
        // Outside is not for nothing: 15 of fan at the wall's inner face, less the wall of 2 it stands in.
        QCOMPARE_LE(std::abs(offered(out, ChooseVariant{"side", "outside"})->volumeL - 13.0 * 304 * 254 * 1e-6), 1e-9);
        QVERIFY(core::english(offered(out, ChooseVariant{"side", "outside"})->cost).find(" L") != std::string::npos);
    }

    // ---- search ----
    void searchAgreesWithTryingThemAll() {
        const Project p = tooTall();
        const auto e = looked(p, "R2");
        advise::SearchRequest request{.kinds = {PartKind::Cooler, PartKind::Fan, PartKind::Card, PartKind::PowerSupply},
                                      .best = 1000};
        const auto found = advise::search(p, e, request);
        QVERIFY(found);
        QCOMPARE(found->combinations, std::size_t{3 * 3 * 1 * 1}); // three coolers; no fan or one of two
        // By hand: every combination resolved and checked in full.
        std::set<std::string> fitting;
        for (const char* cooler : {"cooler-37", "cooler-47", "cooler-60"})
            for (const char* fan : {"", "fan-15", "fan-25"}) {
                std::vector<Change> changes{SwapPart{"tray/cpu/lid", cooler}};
                if (*fan)
                    changes.push_back(SwapPart{"side", fan});
                else
                    changes.push_back(RemovePart{"side"});
                const auto fit = fit::check(built(with(p, changes, "T"), "T"));
                if (std::none_of(fit.gaps.begin(), fit.gaps.end(), [](const auto& g) { return g.isWrong(); }))
                    fitting.insert(std::string(cooler) + fan);
            }
        QCOMPARE(found->fitting, fitting.size());
        QCOMPARE(found->best.size(), fitting.size());
        for (const auto& c : found->best) {
            std::string name;
            for (const auto& choice : c.choices)
                if (choice.mount == "tray/cpu/lid" || choice.mount == "side")
                    name = choice.mount == "side" ? name + choice.part : choice.part + name;
            QVERIFY2(fitting.contains(name), name.c_str());
            QCOMPARE(c.worstMarginMm, fit::check(*resolveWith(p, "R2", c.changes)).gaps.front().marginMm());
        }
        for (std::size_t i = 1; i < found->best.size(); ++i)
            QVERIFY(found->best[i - 1].score >= found->best[i].score);
    }

    void weightsDecide() {
        const Project p = tooTall();
        const auto e = looked(p, "R2");
        advise::SearchRequest request{.kinds = {PartKind::Cooler, PartKind::Fan}, .best = 50};
        request.weights = {.odds = 0, .cooling = 0, .noise = 0, .price = 1};
        const auto cheap = advise::search(p, e, request);
        QVERIFY(cheap && !cheap->best.empty());
        for (const auto& c : cheap->best)
            QVERIFY(cheap->best[0].price <= c.price + 1e-9);
        request.weights = {.odds = 0, .cooling = 1, .noise = 0, .price = 0};
        const auto cool = advise::search(p, e, request);
        QVERIFY(cool && cool->best[0].processorC <= cheap->best[0].processorC + 1e-9);
    }

    void progressAndCancel() {
        const Project p = tooTall();
        const auto e = looked(p, "R2");
        int told = 0;
        double last = 0;
        const auto stopped = advise::search(p, e, {.kinds = {PartKind::Cooler, PartKind::Fan}}, [&](double share) {
            last = share;
            return ++told < 2;
        });
        QVERIFY(stopped && stopped->cancelled && stopped->best.empty());
        QVERIFY(last < 1 || told == 3);
        double before = 0;
        const auto whole = advise::search(p, e, {.kinds = {PartKind::Cooler, PartKind::Fan}}, [&](double share) {
            const bool grows = share >= before;
            before = share;
            return grows;
        });
        QVERIFY(whole && !whole->cancelled);
        QCOMPARE(before, 1.0);
    }

    /// What is short whatever is chosen is told, and does not hide the rest.
    void otherwiseShort() {
        Project p = tooTall();
        for (Part& part : p.shelf)
            if (part.id == "supply")
                part.size[2] = mm(74); // 4 before the closed panel: blocked
        const auto found = advise::search(p, looked(p, "R2"), {.kinds = {PartKind::Cooler}});
        QVERIFY(found && found->fitting == 2); // 37 and 47 below the side fan
        QCOMPARE(found->otherwiseShort.size(), std::size_t{1});
        QVERIFY(core::english(found->otherwiseShort[0]).find("Supply") != std::string::npos);
    }

    void refusedWithWords() {
        const Project p = tooTall();
        const auto e = looked(p, "R2");
        const auto nothing = advise::search(p, e, {.kinds = {PartKind::Radiator}});
        QVERIFY(!nothing && !nothing.error().remedy.empty());
        advise::SearchRequest small{.kinds = {PartKind::Cooler, PartKind::Fan}};
        small.most = 5;
        const auto many = advise::search(p, e, small);
        QVERIFY(!many && many.error().what.find("5") != std::string::npos);
    }
};
} // namespace tst_advise
MD_TEST(tst_advise, AdviseTest)
#include "tst_advise.moc"
