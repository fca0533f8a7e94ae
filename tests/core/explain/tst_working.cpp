// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/text.h"
#include "core/explain/working.h"
#include "support/demo.h"
#include "support/registry.h"

namespace tst_working {

using namespace core;

namespace {

double rowSum(const explain::Working& w) {
    double sum = 0;
    for (const auto& row : w.rows)
        sum += row.sign == "\u2212" ? -row.value : row.value;
    return sum;
}

QString shares(const explain::Working& w) {
    double sum = 0;
    for (const auto& d : w.doubt)
        sum += d.share;
    return w.doubt.empty() || std::abs(sum - 1) < 1e-6 ? QString() : QStringLiteral("shares add up to %1").arg(sum);
}

} // namespace

/// Every figure answers how it was worked out: the rows add up to it, the doubt to 100 %.
class WorkingTest : public QObject {
    Q_OBJECT
    Project m_project;
    std::optional<stages::Evaluation> m_e;

private slots:
    void initTestCase() {
        m_project = support::demoProject();
        auto e = stages::evaluate(m_project, "R10");
        QVERIFY(e);
        m_e = std::move(*e);
    }

    void gapsAddUp() {
        for (std::size_t i = 0; i < m_e->fit.gaps.size(); ++i) {
            const auto w = explain::ofGap(m_e->fit.gaps[i], i + 1);
            QVERIFY2(std::abs(rowSum(w) - w.value) < 1e-3, core::english(w.title).c_str());
            QVERIFY2(shares(w).isEmpty(), qPrintable(shares(w)));
            QVERIFY(!w.sentence.empty() && !w.method.empty() && !w.sum.empty());
        }
    }
    void partsAddUp() {
        for (const auto& part : m_e->air.parts) {
            if (part.kind != PartKind::Processor && part.kind != PartKind::Card)
                continue;
            const auto w = explain::ofPart(*m_e, part.id, nullptr, advise::airTrials(m_project, *m_e));
            QVERIFY2(std::abs(rowSum(w) - w.value) < 0.05,
                     qPrintable(QStringLiteral("%1 against %2").arg(rowSum(w)).arg(w.value)));
            QVERIFY2(shares(w).isEmpty(), qPrintable(shares(w)));
            QVERIFY(!w.changes.empty());
            for (const auto& change : w.changes)
                QVERIFY(std::isfinite(change.change));
        }
    }
    void totalsAddUp() {
        for (const Quantity q : {Quantity::Mass, Quantity::Money}) {
            const auto w = explain::ofTotals(*m_e, q);
            QVERIFY(std::abs(rowSum(w) - w.value) < 1e-6);
        }
        const auto power = explain::ofPower(*m_e);
        QVERIFY(std::abs(rowSum(power) - power.value) < 1e-6);
    }
    void volumeMultiplies() {
        const auto w = explain::ofVolume(*m_e);
        double litres = 1e-6;
        for (const auto& row : w.rows)
            litres *= row.value;
        QVERIFY(std::abs(litres - w.value) < 1e-9);
    }
    /// Its band and shares against the box with each size off by its tolerance; what the gaps leave is taken off the
    /// case, and the gap that was named has nothing to spare then.
    void volumeKnowsItsDoubt() {
        const auto w = explain::ofVolume(*m_e);
        const auto caseIn = [](Project& p, const Part& was) -> Part& { return *p.shelf.edit(was.id); };
        const auto litresWith = [&](const std::function<void(Part&)>& edit) {
            Project p = m_project;
            edit(caseIn(p, *m_e->build.casePart));
            const auto e = stages::evaluate(p, "R10");
            return e ? e->fit.volumeL : 0;
        };
        double squares = 0;
        for (std::size_t a = 0; a < 4; ++a) {
            const double more = litresWith([a](Part& part) {
                Measure& size = a < 3 ? part.size[a] : std::get<CaseSpec>(part.spec).wall;
                size.value = size.value + size.tolerance;
            });
            squares += std::pow(more - w.value, 2);
        }
        QVERIFY2(w.band > 0 && std::abs(std::sqrt(squares) - w.band) < 0.01 * w.band,
                 qPrintable(QStringLiteral("%1 against %2").arg(std::sqrt(squares)).arg(w.band)));
        QVERIFY2(shares(w).isEmpty() && w.doubt.size() == 4, qPrintable(shares(w)));
        int taken = 0;
        for (const auto& change : w.changes) {
            if (change.quantity != Quantity::Volume)
                continue;
            for (std::size_t a = 0; a < 3; ++a) {
                const double lessMm = -change.change * m_e->fit.outsideMm[a] / w.value;
                Project p = m_project;
                Measure& size = caseIn(p, *m_e->build.casePart).size[a];
                if (english(change.text).find(fixed(lessMm, 1) + " mm less") == std::string::npos)
                    continue;
                size.value = Length::fromMm(size.value.mm() - lessMm);
                const auto e = stages::evaluate(p, "R10");
                QVERIFY(e);
                double nearest = 1e9;
                for (const fit::Gap& gap : e->fit.gaps)
                    if (english(change.text).find(gap.between[0].text + " to " + gap.between[1].text) !=
                        std::string::npos)
                        nearest = std::min(nearest, std::abs(gap.touchMarginMm()));
                QVERIFY2(nearest < 0.06, english(change.text).c_str());
                ++taken;
            }
        }
        QVERIFY(taken > 0);
    }
    void printTimesMultiply() {
        int printed = 0;
        for (const auto& part : m_e->make.parts) {
            const auto w = explain::ofMadePart(m_project, part);
            if (w.rows.empty())
                continue;
            ++printed;
            double hours = 1;
            for (const auto& row : w.rows)
                hours = row.sign == "÷" ? hours / row.value : hours * row.value;
            QVERIFY2(std::abs(hours - w.value) < 0.01 * w.value,
                     qPrintable(QStringLiteral("%1 against %2").arg(hours).arg(w.value)));
        }
        QVERIFY(printed >= 3);
    }
    void screwsAddUp() {
        for (const auto& item : m_e->make.shopping)
            QVERIFY2(std::abs(rowSum(explain::ofScrews(m_e->make, item)) - item.count) < 1e-9, item.kind.c_str());
    }
    /// What a part would rise to beyond its limit is not told as a rise that stops there; what the model cannot tell is
    /// not told.
    void changesSayWhatTheyCannot() {
        Project p = m_project;
        for (Part& part : p.shelf)
            if (part.kind == PartKind::Processor)
                std::get<ProcessorSpec>(part.spec).limitC = 78; // a little above where it settles
        const auto e = stages::evaluate(p, "R10");
        QVERIFY(e && !e->air.part("tray/cpu")->throttled);
        const auto w = explain::ofPart(*e, "tray/cpu", nullptr, advise::airTrials(p, *e));
        bool slows = false, within = false;
        for (const auto& change : w.changes) {
            if (english(change.instead).find("slows down") != std::string::npos) {
                slows = true;
                QCOMPARE(change.after, Mark::Crossed);
                QVERIFY(english(change.instead).find("78") != std::string::npos);
            } else if (!change.instead.empty()) { // its band crosses zero
                within = true;
                QVERIFY2(english(change.instead).find("uncertain") != std::string::npos,
                         english(change.instead).c_str());
            }
        }
        QVERIFY(slows && within);
    }
    void triedChangesAreRealChanges() {
        // "Turned round" of the side fan, tried by the working, against the same change made as a revision.
        Project p = m_project;
        p.revisions.push_back({.id = "T", .parent = "R10", .changes = {FlipFan{"side-a"}}});
        const auto changed = stages::evaluate(p, "T");
        const double d = changed->air.part("tray/cpu")->temperatureC - m_e->air.part("tray/cpu")->temperatureC;
        const auto w = explain::ofPart(*m_e, "tray/cpu", nullptr, advise::airTrials(m_project, *m_e));
        bool found = false;
        for (const auto& change : w.changes)
            if (english(change.text) == "Fan 92-15 turned round") {
                found = true;
                QVERIFY(std::abs(change.change - d) < 0.05);
            }
        QVERIFY(found);
    }
    void everyFigureHasOne_data() {
        QTest::addColumn<QString>("kind");
        for (const char* kind : {"noise", "fan", "opening", "chamber", "balance", "step", "made", "target"})
            QTest::newRow(kind) << QString::fromLatin1(kind);
    }
    void everyFigureHasOne() {
        QFETCH(QString, kind);
        std::vector<explain::Working> all;
        if (kind == "noise")
            all.push_back(explain::ofNoise(*m_e));
        if (kind == "balance")
            all.push_back(explain::ofBalance(*m_e));
        if (kind == "fan")
            for (const auto& f : m_e->air.fans)
                all.push_back(explain::ofFan(*m_e, f.id));
        if (kind == "opening")
            for (const auto& o : m_e->air.openings)
                all.push_back(explain::ofOpening(*m_e, o.id));
        if (kind == "chamber")
            for (const auto& c : m_e->air.chambers)
                all.push_back(explain::ofChamber(*m_e, c.id));
        if (kind == "step")
            for (std::size_t i = 0; i < m_e->make.steps.size(); ++i)
                all.push_back(explain::ofStep(m_e->make, i));
        if (kind == "made")
            for (const auto& part : m_e->make.parts)
                all.push_back(explain::ofMadePart(m_project, part));
        if (kind == "target")
            for (const auto& t : verdict::judge(m_project, *m_e, {}).targets)
                all.push_back(explain::ofTarget(*m_e, t));
        QVERIFY(!all.empty());
        for (const auto& w : all) {
            QVERIFY2(!w.title.empty() && !w.place.empty() && !w.sentence.empty() && !w.method.empty(),
                     textOf(w.thing).c_str());
            QVERIFY2(std::isfinite(w.value), textOf(w.thing).c_str());
            QVERIFY2(shares(w).isEmpty(), qPrintable(shares(w)));
        }
    }
    /// Of each socket who sits in it, and the least of the limits that are stated.
    void socketsSayWhatSitsInThem() {
        int taken = 0, spare = 0, limited = 0;
        const auto& map = m_e->wiring.ports;
        for (const rules::Socket& socket : map.sockets) {
            if (socket.giver.isLead)
                continue;
            const Thing thing = rules::thingOf(m_e->build, socket);
            const auto w = explain::ofPort(*m_e, std::get<PortRef>(thing));
            QVERIFY2(w && w->thing == thing && !w->method.empty(), textOf(thing).c_str());
            if (socket.takenBy < 0) {
                ++spare;
                QVERIFY(!w->known && w->rows.empty() && english(w->sentence).find("free") != std::string::npos);
                continue;
            }
            ++taken;
            const std::string who = map.needs[static_cast<std::size_t>(socket.takenBy)].taker.name;
            QVERIFY2(english(w->sentence).find(who) != std::string::npos, english(w->sentence).c_str());
            QCOMPARE(w->known, !w->rows.empty());
            if (!w->known)
                continue;
            ++limited;
            double least = 1e9;
            for (const auto& row : w->rows)
                least = std::min(least, row.value);
            QCOMPARE(w->value, least);
        }
        QVERIFY(taken > 3 && spare > 0 && limited > 1);
        QVERIFY(!explain::ofPort(*m_e, {"nowhere", "fan", 0}));
    }
    void noPartNoHeat() {
        const auto w = explain::ofPart(*m_e, "spine", {});
        QVERIFY(!w.known);
        QVERIFY(!w.sentence.empty());
    }
};
} // namespace tst_working
MD_TEST(tst_working, WorkingTest)
#include "tst_working.moc"
