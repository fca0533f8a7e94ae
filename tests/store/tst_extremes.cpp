// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/ranges.h"
#include "core/verdict/judge.h"
#include "store/project_fields.h"
#include "support/json.h"
#include "support/registry.h"

#include <QtTest>

#include <set>

namespace tst_extremes {

using namespace core;
using store::Json;

namespace {

/// Every place of a number in a JSON value; of places that differ only in their index the first.
void numbersIn(const Json& j, const std::string& pointer, const std::string& pattern,
               std::map<std::string, std::vector<std::string>>& found) {
    if (j.is_number()) {
        auto& places = found[pattern];
        if (places.empty())
            places.push_back(pointer);
    } else if (j.is_object()) {
        for (const auto& [key, value] : j.items())
            numbersIn(value, pointer + "/" + Json::json_pointer::string_t(key), pattern + "/" + key, found);
    } else if (j.is_array()) {
        for (std::size_t i = 0; i < j.size(); ++i)
            numbersIn(j[i], pointer + "/" + std::to_string(i),
                      pattern + (j[i].is_object() && j[i].contains("kind") ? "/" + j[i]["kind"].dump() : "/-"), found);
    }
}

/// What of an evaluation is not a number, in words.
std::string notFinite(const stages::Evaluation& e, const verdict::RevisionVerdict& v) {
    const auto odd = [](double x) { return !std::isfinite(x); };
    for (const auto& gap : e.fit.gaps)
        if (odd(gap.marginMm()) || odd(gap.nominal.mm()))
            return "gap " + gap.id;
    if (odd(e.fit.volumeL))
        return "volume";
    for (const auto& p : e.air.parts)
        if (odd(p.temperatureC) || odd(p.powerW) || odd(p.bandK))
            return "temperature of " + p.name;
    for (const auto& c : e.air.chambers)
        if (odd(c.airC))
            return "air in " + c.id;
    for (const auto& f : e.air.fans)
        if (odd(f.rpm) || odd(f.flowM3h))
            return "fan " + f.id;
    const auto& b = e.air.balance;
    if (odd(b.inM3h) || odd(b.outM3h) || odd(b.ratedInM3h) || odd(b.ratedOutM3h) || odd(b.pressurePa))
        return "balance";
    // A machine without a fan is silent: minus infinity is then said as such, and holds no target.
    if (std::isnan(e.noise.totalDba) || e.noise.totalDba == std::numeric_limits<double>::infinity() ||
        (odd(e.noise.totalDba) && !e.noise.sources.empty()))
        return "noise";
    if (odd(e.make.hours) || odd(e.make.massG) || odd(e.make.minutes) || odd(e.massG) || odd(e.price))
        return "making, mass or price";
    for (const auto& t : v.targets)
        if (t.basis != verdict::Basis::Missing && (odd(t.value) || odd(t.headroom)))
            return "target " + t.name + " judged on a value that is none";
    for (const auto& t : v.targets)
        if (t.state == Mark::Holds && odd(t.value))
            return "target " + t.name + " holds on nothing";
    return {};
}

} // namespace

/// Extreme values of every field, from the field list itself: each is refused in words, or everything computed from it
/// is finite.
class ExtremesTest : public QObject {
    Q_OBJECT
    static std::string tried(const Json& json, int& accepted) {
        const auto loaded = store::readProjectJson(store::jsonText(json), "x", {});
        if (!loaded)
            return loaded.error().what.empty() ? "refused without words" : std::string{};
        ++accepted;
        for (const Revision& r : loaded->project.revisions) {
            if (&r != &loaded->project.revisions.back())
                continue;
            const auto e = stages::evaluate(loaded->project, r.id);
            if (!e) {
                if (e.error().what.empty())
                    return "no words";
                continue;
            }
            if (const auto odd = notFinite(*e, verdict::judge(loaded->project, *e, {})); !odd.empty())
                return odd;
        }
        return {};
    }

private slots:
    void everyNumber_data() {
        QTest::addColumn<QString>("path");
        QTest::addColumn<QString>("revision");
        QTest::newRow("demo") << "data/demo/dig-tent"
                              << "R10";
        QTest::newRow("hand-written") << "examples/hand-written"
                                      << "R2";
    }
    void everyNumber() {
        QFETCH(QString, path);
        QFETCH(QString, revision);
        auto loaded = store::openProject(support::sourcePath(path.toUtf8()));
        QVERIFY(loaded);
        Project p = loaded->project;
        p.runs.clear();
        // One line of descent is enough; parts that it does not place are checked for their ranges all the same.
        const auto line = lineage(p, revision.toStdString());
        std::vector<Revision> kept;
        for (const Revision* r : *line)
            kept.push_back(*r);
        p.revisions = kept;
        p.baseline.clear();
        store::JsonWriter writer(store::Defaults::Write);
        writer("format", std::string(store::formatWord));
        writer("version", store::formatVersion);
        fields(writer, p);
        std::map<std::string, std::vector<std::string>> places;
        numbersIn(writer.json, "", "", places);
        QVERIFY2(places.size() > 120, qPrintable(QString::number(places.size())));
        int accepted = 0, tries = 0;
        QStringList wrong;
        for (const auto& [pattern, pointers] : places)
            for (const std::string& pointer : pointers) {
                const Json::json_pointer at(pointer);
                const bool whole = writer.json[at].is_number_integer();
                for (const double v : {0.0, -1.0, 1e-9, 0.3, 37.0, 1e6, 1e308}) {
                    Json changed = writer.json;
                    if (whole && std::abs(v) < 1e9)
                        changed[at] = static_cast<int>(v);
                    else
                        changed[at] = v;
                    ++tries;
                    if (const std::string odd = tried(changed, accepted); !odd.empty() && wrong.size() < 20)
                        wrong << QString::fromStdString(pattern) + " = " + QString::number(v) + ": " +
                                     QString::fromStdString(odd);
                }
            }
        qInfo("%d values tried, %d accepted", tries, accepted);
        QVERIFY2(wrong.isEmpty(), qPrintable(wrong.join("\n")));
        QVERIFY(accepted > tries / 10 && accepted < tries);
    }

    void numbersThatJsonCannotHold() {
        for (const char* text : {"1e999", "-1e999"}) {
            const auto loaded = store::readProjectJson(
                std::string("{\"format\":\"mini-draft-project\",\"version\":1,\"name\":\"x\",\"brief\":{\"room_c\":") +
                    text + "}}",
                "x", {});
            QVERIFY(!loaded);
            QVERIFY2(loaded.error().text().find("number") != std::string::npos, loaded.error().text().c_str());
        }
    }
    void manyChambers() {
        const auto loaded = store::openProject(support::sourcePath("examples/hand-written"));
        for (const int n : {2, 29, 30, 31, 40, 64, 65, 300}) {
            Project p = loaded->project;
            p.runs.clear();
            for (Part& part : p.shelf)
                if (part.kind == PartKind::Case) {
                    auto& spec = std::get<CaseSpec>(part.spec);
                    for (int i = static_cast<int>(spec.chambers.size()); i < n; ++i)
                        spec.chambers.push_back({.id = "c" + std::to_string(i),
                                                 .name = "c",
                                                 .lowMm = {0, 0, 3.0 * i},
                                                 .highMm = {50, 50, 3.0 * i + 3}});
                }
            const auto wrong = validate(p);
            if (n > 64) {
                QVERIFY(!wrong.empty());
                QVERIFY(wrong.front().text().find("at most 64") != std::string::npos);
                continue;
            }
            QVERIFY2(wrong.empty(), wrong.empty() ? "" : wrong.front().text().c_str());
            const auto e = stages::evaluate(p, p.revisions.back().id);
            QVERIFY(e);
            QCOMPARE(notFinite(*e, verdict::judge(p, *e, {})), std::string());
        }
    }
};
} // namespace tst_extremes
MD_TEST(tst_extremes, ExtremesTest)
#include "tst_extremes.moc"
