// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/explain/fit_words.h"
#include "support/json.h"
#include "support/process.h"
#include "support/registry.h"

#include <QTemporaryDir>
#include <QtTest>

namespace tst_cli {

using support::Ended;

class CliTest : public QObject {
    Q_OBJECT
    QTemporaryDir m_dir;

    [[nodiscard]] static QString demo() { return support::sourcePath("data/demo/dig-tent"); }
    [[nodiscard]] static QString hand() { return support::sourcePath("examples/hand-written"); }
    [[nodiscard]] static Ended cli(const QStringList& arguments) { return support::run("mini-draft-cli", arguments); }
    [[nodiscard]] static store::Json json(const Ended& e) { return store::Json::parse(e.out.toStdString()); }
    /// Message when a key of an object is not there.
    [[nodiscard]] static QString missing(const store::Json& object, const QStringList& keys) {
        for (const QString& key : keys)
            if (!object.contains(key.toStdString()))
                return key + QStringLiteral(" is missing");
        return {};
    }

private slots:
    void fitJson() {
        const Ended e = cli({"fit", demo(), "--revision", "R10", "--json"});
        QCOMPARE(e.code, 0);
        const auto j = json(e);
        QCOMPARE(missing(j, {"gaps", "findings", "volume_l", "power"}), QString());
        QCOMPARE(missing(j["gaps"][0], {"id", "between", "nominal_mm", "worst_mm", "rss_mm", "required_mm", "chance",
                                        "state", "chain"}),
                 QString());
        QCOMPARE(missing(j["gaps"][0]["chain"][0], {"label", "sign", "value_mm", "tolerance_mm", "source"}), QString());
        QCOMPARE(missing(j["findings"][0], {"id", "severity", "subject", "text", "rule", "remedies"}), QString());
        QCOMPARE(missing(j["power"], {"draw_w", "supply_w", "share"}), QString());
        for (const auto& gap : j["gaps"]) { // every chain adds up to its gap
            double sum = 0;
            for (const auto& item : gap["chain"])
                sum += item["sign"].get<int>() * item["factor"].get<double>() * item["value_mm"].get<double>();
            QCOMPARE_LE(std::abs(sum - gap["nominal_mm"].get<double>()), 2e-3);
        }
    }
    /// Everything Fit answers, with the texts of the screen.
    void fitAnswersJson() {
        const core::Project project = support::demoProject();
        for (const auto& [revision, isShort] : {std::pair{"R3", true}, std::pair{"R11", false}}) {
            const auto j = json(cli({"fit", demo(), "--revision", revision, "--json"}));
            QCOMPARE(missing(j, {"gaps", "room", "changes", "measure_next", "insertion", "ports", "links", "ledger",
                                 "cables"}),
                     QString());
            QCOMPARE(missing(j["room"][0], {"mount", "size", "now_mm", "most_mm", "surely_mm", "limit", "text"}),
                     QString());
            QCOMPARE(missing(j["measure_next"][0], {"dimension", "value_mm", "tolerance_mm", "source", "risk_now",
                                                    "risk_then", "gaps", "text"}),
                     QString());
            QCOMPARE(missing(j["insertion"][0], {"mount", "answer", "side", "margin_mm", "tilt_deg", "before", "text"}),
                     QString());
            QCOMPARE(missing(j["ports"], {"plugs", "free", "adapters"}), QString());
            QCOMPARE(missing(j["links"]["chains"][0],
                             {"chain", "generation", "lanes", "usable_gb_s", "need_gb_s", "narrowest", "text"}),
                     QString());
            QCOMPARE(
                missing(j["cables"][0], {"part", "from", "to", "length_mm", "way_mm", "slack_mm", "state", "text"}),
                QString());
            QCOMPARE(j["changes"].size(),
                     static_cast<std::size_t>(std::count_if(j["gaps"].begin(), j["gaps"].end(),
                                                            [](const auto& g) { return g["state"] != "clear"; })));
            if (isShort)
                QCOMPARE(missing(j["changes"][0]["mends"][0],
                                 {"change", "mends", "won_mm", "margin_mm", "spoils", "price", "text"}),
                         QString());
            QCOMPARE(j["ledger"].empty(), isShort); // R11 cuts the front USB off
            // The words are made in one place.
            const auto e = core::stages::evaluate(project, revision);
            const auto rooms = core::fit::roomLeft(project, e->build, {.needs = project.needs});
            QCOMPARE(j["room"].size(), rooms.size());
            QCOMPARE(j["room"][0]["text"].get<std::string>(), core::english(core::explain::textOf(rooms[0])));
            QCOMPARE(j["measure_next"][0]["text"].get<std::string>(),
                     core::english(core::explain::textOf(core::fit::measureNext(e->fit)[0])));
            QCOMPARE(j["insertion"][0]["text"].get<std::string>(),
                     core::english(core::fit::insertions(e->build, core::make::orderOf(e->make))[0].text));
            QCOMPARE(j["cables"][0]["text"].get<std::string>(), core::english(e->wiring.cables[0].text));
            for (const auto& f : e->findings) // and what is told in a finding is the same again
                if (f.rule == "modified")
                    QCOMPARE(core::english(f.text), j["ledger"][0]["text"].get<std::string>());
        }
    }
    /// --units changes what is said, and no figure that stands under its own key.
    void saidInTheReadersUnits() {
        const auto plain = json(cli({"fit", demo(), "--revision", "R3", "--json"})),
                   inch = json(cli({"fit", demo(), "--revision", "R3", "--json", "--units", "inch,f,cfm"}));
        QCOMPARE(inch["gaps"], plain["gaps"]);
        QCOMPARE(inch["room"][0]["most_mm"], plain["room"][0]["most_mm"]);
        const auto room = QString::fromStdString(inch["room"][0]["text"].get<std::string>());
        const double mm = plain["room"][0]["most_mm"].get<double>();
        QVERIFY2(room.contains(QString::number(mm / 25.4, 'f', 3) + " in"), qPrintable(room));
        static const QRegularExpression metric(
            QStringLiteral("[0-9] ?(mm|\u00b0C|K|m\u00b3/h)(?![\u00b3\u00b2/A-Za-z0-9])"));
        for (const char* command : {"fit", "air", "verdict", "bench"}) {
            const QString text = cli({command, demo(), "--revision", "R10", "--units", "inch,f,cfm"}).out;
            QVERIFY2(text.size() > 100 && !metric.match(text).hasMatch(),
                     qPrintable(metric.match(text).captured() + " in " + text));
            QVERIFY2(metric.match(cli({command, demo(), "--revision", "R10"}).out).hasMatch(), command);
        }
        QCOMPARE(cli({"fit", demo(), "--units", "furlong"}).code, 2);
    }
    void sectionsAreWritten() {
        QCOMPARE(cli({"sections", demo(), "-r", "R3", "-o", m_dir.filePath("s.svg")}).code, 0);
        QVERIFY(QFile(m_dir.filePath("s.svg")).size() > 2000);
        QCOMPARE(cli({"sections", demo(), "-o", m_dir.filePath("s.bmp")}).code, 2);
        QCOMPARE(cli({"sections", demo(), "-o", m_dir.filePath("none/s.dxf")}).code, 2);
        QCOMPARE(cli({"sections", demo()}).code, 2);
    }
    /// All that the screen says of air: network, warm-up, where builders disagree, what is left open, what runs taught.
    void airGivesAllOfIt() {
        const auto j = json(cli({"air", demo(), "--revision", "R10", "--json", "--network", "--schools", "--calibrate",
                                 "--transient", "5", "--explore", "--most", "400"}));
        QVERIFY(j["network"]["branches"].size() > 10 && j["network"]["zones"].size() > 3);
        QCOMPARE_LE(j["network"]["mass_residual_kgs"].get<double>(), 1e-9);
        QCOMPARE(j["transient"]["rows"].size(), std::size_t{31});
        QCOMPARE(j["transient"]["rows"].back()["c"].size(), j["transient"]["parts"].size());
        QVERIFY(j["transient"]["rows"].back()["c"][0].get<double>() >
                j["transient"]["rows"][0]["c"][0].get<double>() + 5);
        QVERIFY(j["schools"].size() >= 8);
        QCOMPARE(j["explore"]["seed"], 7);
        QVERIFY(j["explore"]["counted"].get<int>() <= 400 && !j["explore"]["front"].empty());
        QVERIFY(j["calibration"]["runs"].get<int>() > 5 && j["calibration"]["simulated"] == true);
        QVERIFY(!j["calibration"]["next_runs"].empty());
        for (const auto& p : j["parts"])
            QVERIFY(p["band_k"].get<double>() > 0 && !p["band_from"].empty());
    }
    /// Only what is named is left open, what is kept stays, each change tells what it does, and curves are written; a
    /// name that is none is refused.
    void airExploresWhatIsAsked() {
        QTemporaryDir dir;
        const QString curves = dir.filePath("curves.csv");
        const auto j = json(cli({"air", demo(), "--revision", "R10", "--json", "--explore", "--most", "3000", "--open",
                                 "fans", "--keep", "side-a,card", "--curves", curves}));
        for (const auto& point : j["explore"]["front"]) {
            const auto words = QString::fromStdString(point["changes"].get<std::string>());
            QVERIFY2(!words.contains("screen") && !words.contains("Laid") && !words.contains("Card 168-E"),
                     qPrintable(words));
            double k = 0;
            for (const auto& step : point["steps"])
                k += step["headroom_k"].get<double>();
            QCOMPARE_LE(
                std::abs(k - (point["headroom_k"].get<double>() - j["explore"]["now"]["headroom_k"].get<double>())),
                0.2);
        }
        QVERIFY(!j["explore"]["fan_curves"].empty());
        QVERIFY(QFile::exists(curves));
        QCOMPARE(j["loads"].size(), std::size_t{4});
        QVERIFY(j["loads"][0]["noise_dba"].get<double>() < j["loads"][3]["noise_dba"].get<double>());
        QVERIFY(j["local_heat"].is_array() && j["peaks"].is_array());
        QFile kept(curves);
        QVERIFY(kept.open(QIODevice::ReadOnly) && kept.readAll().contains(','));
        const QStringList again{"air", demo(), "--revision", "R10", "--explore", "--most", "300", "--curves", curves};
        const auto there = cli(again);
        QVERIFY2(there.code == 2 && there.err.contains("already"), qPrintable(there.err));
        QCOMPARE(cli(again + QStringList{"--force"}).code == 2, false);
        QCOMPARE(cli({"air", demo(), "--curves", curves}).code, 2); // without exploring there are none
        const auto refused = cli({"air", demo(), "--explore", "--keep", "attic"});
        QCOMPARE(refused.code, 2);
        QVERIFY(refused.err.contains("attic"));
    }
    /// Why it answers 1 is in what it says.
    void airSaysWhatIsMissing() {
        // A removed cooler, and a part over its limit.
        QTemporaryDir dir;
        store::Json j = store::Json::parse(*store::readFile((demo() + "/project.json").toStdString()));
        j["runs"] = store::Json::array();
        j["revisions"].push_back(
            {{"id", "bare"}, {"parent", "R10"}, {"changes", {{{"do", "remove"}, {"mount", "tray/cpu/lid"}}}}});
        j["revisions"].push_back({{"id", "closed"},
                                  {"parent", "R10"},
                                  {"changes",
                                   {{{"do", "remove"}, {"mount", "side-a"}},
                                    {{"do", "set-opening"}, {"opening", "floor-vent"}, {"style", "closed"}}}}});
        QVERIFY(QDir().mkpath(dir.filePath("p")));
        QFile file(dir.filePath("p/project.json"));
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write(QByteArray::fromStdString(j.dump()));
        file.close();
        const auto bare = cli({"air", dir.filePath("p"), "--revision", "bare"});
        QVERIFY2(bare.out.contains("has no cooler"), qPrintable(bare.out + bare.err));
        const auto closed = cli({"air", dir.filePath("p"), "--revision", "closed"});
        QVERIFY2(closed.code == 0 || closed.out.contains("blocker"), qPrintable(closed.out));
        QVERIFY(closed.out.contains("uncertain") || closed.out.contains("limit"));
        const auto said = cli({"air", demo(), "--revision", "R10", "--schools"});
        QVERIFY(said.out.contains("unfiltered") && said.out.contains("pressure: negative"));
    }
    void airJson() {
        const auto j = json(cli({"air", demo(), "--revision", "R10", "--json"}));
        QCOMPARE(missing(j, {"openings", "fans", "chambers", "parts", "noise_dba", "balance"}), QString());
        QCOMPARE(missing(j["openings"][0], {"id", "flow_m3h"}), QString());
        QCOMPARE(missing(j["fans"][0], {"id", "rpm", "flow_m3h", "direction"}), QString());
        QCOMPARE(missing(j["chambers"][0], {"id", "air_c"}), QString());
        QCOMPARE(missing(j["parts"][0], {"id", "temperature_c", "power_w", "limit_c", "clock_mhz"}), QString());
        QCOMPARE(missing(j["balance"], {"rated_in_m3h", "rated_out_m3h", "in_m3h", "out_m3h"}), QString());
    }
    void benchJson() {
        const Ended e = cli({"bench", demo(), "--run", "r6-short", "--json"});
        QCOMPARE(e.code, 1); // stopped for the evening talk
        const auto j = json(e);
        QCOMPARE(missing(j["channels"][0], {"name", "unit", "state", "settled", "low", "high", "tau_s", "more_minutes",
                                            "mean", "p95", "sustained_max", "why"}),
                 QString());
        const auto all = json(cli({"bench", demo(), "--json"}));
        QVERIFY(all["runs"].size() >= 12);
        QVERIFY(all["channels"].size() > all["runs"].size());
    }
    void verdictJson() {
        const Ended good = cli({"verdict", demo(), "--revision", "R10", "--json"}),
                    bad = cli({"verdict", demo(), "--revision", "R1", "--json"});
        QCOMPARE(good.code, 0);
        QCOMPARE(bad.code, 1);
        const auto j = json(good);
        QCOMPARE(j["revisions"].size(), std::size_t{1});
        QCOMPARE(missing(j["revisions"][0], {"id", "targets"}), QString());
        QCOMPARE(missing(j["revisions"][0]["targets"][0],
                         {"id", "value", "low", "high", "limit", "headroom", "state", "basis"}),
                 QString());
        QVERIFY(j["revisions"][0]["validated"].get<bool>());
    }

    /// What decides the exit code is printed by the command itself, in words and as JSON.
    void findingsThatDecide_data() {
        QTest::addColumn<QString>("command");
        QTest::addColumn<QString>("revision");
        QTest::newRow("fit") << "fit"
                             << "R3";
        QTest::newRow("verdict") << "verdict"
                                 << "R3";
    }
    void findingsThatDecide() {
        QFETCH(QString, command);
        QFETCH(QString, revision);
        const Ended words = cli({command, demo(), "-r", revision}),
                    e = cli({command, demo(), "-r", revision, "--json"});
        QCOMPARE(e.code, 1);
        const auto j = json(e);
        const auto findings = command == "verdict" ? j["revisions"][0]["findings"] : j["findings"];
        int blockers = 0;
        for (const auto& f : findings)
            if (f["severity"] == "blocker") {
                ++blockers;
                QVERIFY2(words.out.contains(QString::fromStdString(f["text"].get<std::string>())),
                         qPrintable(words.out));
            }
        QVERIFY(blockers > 0);
        QVERIFY(json(cli({"air", demo(), "--json"})).contains("findings"));
        QVERIFY(!json(cli({"bench", demo(), "--run", "r6-short", "--json"}))["findings"].empty());
    }
    /// Where each part and socket came to lie, by hand: the board of the demo stands at x 6, its slot side up.
    void placesJson() {
        const auto j = json(cli({"fit", demo(), "-r", "R10", "--json"}));
        QVERIFY(!j["joints"].empty() && !j["seats"].empty());
        bool board = false;
        for (const auto& p : j["placed"]) {
            QCOMPARE(missing(p, {"mount", "part", "name", "low_mm", "high_mm", "facing", "up", "outside", "ports"}),
                     QString());
            if (p["mount"] == "tray") {
                board = true;
                QCOMPARE(p["low_mm"][0].get<double>(), 6.0);
                QCOMPARE(QString::fromStdString(p["facing"].get<std::string>()), QStringLiteral("+x"));
                QVERIFY(!p["ports"].empty());
                QCOMPARE(missing(p["ports"][0], {"id", "kind", "at_mm", "direction"}), QString());
            }
        }
        QVERIFY(board);
    }
    /// The rig's readings stay marked, through log, import and export, and prove nothing in a project that is no
    /// simulation.
    void simulatedForEver() {
        const QString folder = m_dir.filePath("real"), log = m_dir.filePath("rig.csv");
        auto project = support::demoProject();
        project.simulation = false;
        project.runs.clear();
        QVERIFY(store::saveProject(project, folder));
        QCOMPARE(cli({"capture", "-o", log, QStringLiteral(MD_BIN_DIR) + "/mini-draft-rig", "--", demo(), "--revision",
                      "R10", "--duration", "2700", "--speed", "0"})
                     .code,
                 0);
        const QString carried = m_dir.filePath("carried.csv"); // without the file beside it
        QVERIFY(QFile::copy(log, carried));
        for (const QString& file : {log, carried}) {
            const QString name = QFileInfo(file).completeBaseName();
            const Ended in = cli(QStringList{"import", folder, file, "-r", "R10", "--name", name});
            QVERIFY2(in.code == 0, qPrintable(in.err));
            QVERIFY(json(cli({"bench", folder, "--run", name, "--json"}))["simulated"].get<bool>());
        }
        const auto j = json(cli({"verdict", folder, "-r", "R10", "--json"}));
        for (const auto& t : j["revisions"][0]["targets"])
            QVERIFY2(t["basis"] != "measured", t["why"].get<std::string>().c_str());
        QVERIFY(!j["revisions"][0]["can_be_validated"].get<bool>());
        const QString file = m_dir.filePath("real.minidraft");
        QCOMPARE(cli({"export", folder, "-o", file}).code, 0);
        QVERIFY(json(cli({"bench", file, "--run", "rig", "--json"}))["simulated"].get<bool>());
        // The demo says of itself that it is a simulation, and of each target that it is measured in a simulated run.
        const auto demoJson = json(cli({"verdict", demo(), "-r", "R10", "--json"}));
        QVERIFY(demoJson["simulation"].get<bool>() && demoJson["revisions"][0]["targets"][0]["simulated"].get<bool>());
    }
    void ambiguousColumnsAreRefused() {
        const QString folder = m_dir.filePath("ambiguous"), log = m_dir.filePath("cores.csv");
        auto project = support::demoProject();
        project.runs.clear();
        QVERIFY(store::saveProject(project, folder));
        QFile file(log);
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write("Time,CPU core 1 (C),CPU core 2 (C)\n0,40,44\n1,41,45\n2,42,46\n");
        file.close();
        const Ended refused = cli({"import", folder, log, "-r", "R10"});
        QCOMPARE(refused.code, 2);
        QVERIFY2(refused.err.contains("\"CPU core 1 (C)\", \"CPU core 2 (C)\"") && refused.err.contains("--subject"),
                 qPrintable(refused.err));
        QCOMPARE(cli({"import", folder, log, "-r", "R10", "--subject", "CPU core 2 (C)=tray/cpu"}).code, 0);
        QCOMPARE(store::openProject(folder)->project.runs.front().samples->channels[1].subject,
                 std::string("tray/cpu"));
        QCOMPARE(cli({"import", folder, log, "-r", "R10", "--name", "x", "--subject", "CPU core 9=tray/cpu"}).code, 2);
    }

    /// What the demo must show.
    void demoTells_data() {
        QTest::addColumn<QStringList>("arguments");
        QTest::addColumn<int>("code");
        QTest::addColumn<QString>("words");
        QTest::newRow("a bad plug") << QStringList{"fit", "-r", "R1"} << 1 << "the plug or lead has no room";
        QTest::newRow("a clash") << QStringList{"fit", "-r", "R3"} << 1 << "clash";
        QTest::newRow("a bulge") << QStringList{"fit", "-r", "R5"} << 0 << "forced out";
        QTest::newRow("a missed temperature") << QStringList{"verdict", "-r", "R1"} << 1 << "crossed  CPU";
        QTest::newRow("an unsettled run") << QStringList{"bench", "--run", "r6-short"} << 1 << "refused";
        QTest::newRow("a validated revision") << QStringList{"verdict", "-r", "R10"} << 0 << "validated";
    }
    void demoTells() {
        QFETCH(QStringList, arguments);
        QFETCH(int, code);
        QFETCH(QString, words);
        arguments.insert(1, demo());
        const Ended e = cli(arguments);
        QCOMPARE(e.code, code);
        QVERIFY2(e.out.contains(words), qPrintable(e.out));
    }

    /// The project that is written by hand from docs/format.md goes through everything.
    void handWritten_data() {
        QTest::addColumn<QString>("command");
        QTest::addColumn<int>("code"); // 1: something stands in the way
        for (const auto& [command, code] :
             {std::pair{"fit", 1}, std::pair{"air", 0}, std::pair{"bench", 0}, std::pair{"verdict", 1}})
            QTest::newRow(command) << QString::fromLatin1(command) << code;
    }
    void handWritten() {
        QFETCH(QString, command);
        QFETCH(int, code);
        const Ended e = cli({command, hand(), "--json"});
        QCOMPARE(e.code, code);
        QVERIFY(!e.crashed);
        (void)json(e);
        QVERIFY2(!e.err.contains("not a known field"), qPrintable(e.err));
        QVERIFY(!cli({command, hand()}).out.isEmpty());
    }
    void handWrittenReport() {
        const QString file = m_dir.filePath("r.html");
        QVERIFY(cli({"report", hand(), "-o", file}).code <= 1);
        QFile html(file);
        QVERIFY(html.open(QIODevice::ReadOnly));
        const QByteArray text = html.readAll();
        QVERIFY(text.startsWith("<!doctype html>"));
        QVERIFY(text.contains("</html>"));
        for (const char* outside : {"src=\"http", "href=\"http", "url(", "<script", "@import"})
            QVERIFY2(!text.contains(outside), outside);
    }

    void importExportRoundTrip() {
        const QString file = m_dir.filePath("p.minidraft"), folder = m_dir.filePath("folder");
        QCOMPARE(cli({"export", hand(), "-o", file}).code, 0);
        const Ended imported =
            cli({"import", file, support::sourcePath("tests/data/stress_fixed.csv"), "--name", "stress", "--json"});
        QVERIFY2(imported.code == 0, qPrintable(imported.err));
        QCOMPARE(json(imported)["rows"].get<int>(), 1380);
        QCOMPARE(cli({"import", file, support::sourcePath("tests/data/stress_fixed.csv"), "--name", "stress"}).code,
                 2); // the name is taken
        QCOMPARE(cli({"export", file, "-o", folder}).code, 0);
        const auto bench = cli({"bench", folder, "--run", "stress", "--json"});
        QVERIFY(bench.code <= 1);
        QVERIFY(QFile::exists(folder + "/runs/stress.csv"));
    }

    void captureFromTheRig() {
        const QString log = m_dir.filePath("live.csv");
        const QStringList rig{QStringLiteral(MD_BIN_DIR) + "/mini-draft-rig",
                              "--",
                              demo(),
                              "--revision",
                              "R8",
                              "--idle",
                              "5",
                              "--duration",
                              "60",
                              "--cool-down",
                              "5",
                              "--speed",
                              "0"};
        const Ended e = cli(QStringList{"capture", "-o", log, "--json"} + rig);
        QVERIFY2(e.code == 0, qPrintable(e.err));
        QCOMPARE(json(e)["rows"].get<int>(), 71);
        const Ended shorter = cli(QStringList{"capture", "-o", log, "--force", "--seconds", "20"} + rig);
        QCOMPARE(shorter.code, 0);
        QVERIFY(shorter.out.contains("21 rows"));
        const Ended broken =
            cli(QStringList{"capture", "-o", log, "--force"} + rig + QStringList{"--fault", "disconnect@30"});
        QCOMPARE(broken.code, 1);
        QVERIFY2(broken.err.contains("what was read is in"), qPrintable(broken.err));
        QCOMPARE(cli({"capture", "-o", log, "/no/such/program"}).code, 2);
    }

    void badInput_data() {
        QTest::addColumn<QStringList>("arguments");
        QTest::addColumn<QString>("words");
        const QString d = demo();
        QTest::newRow("no such project") << QStringList{"fit", "/no/such/place"} << "is not there";
        QTest::newRow("unknown revision") << QStringList{"fit", d, "-r", "R99"} << "revision \"R99\" is not there";
        QTest::newRow("unknown load") << QStringList{"air", d, "--load", "sprint"} << "load \"sprint\" is not there";
        QTest::newRow("unknown run") << QStringList{"bench", d, "--run", "none"} << "run \"none\" is not there";
        QTest::newRow("not a project") << QStringList{"fit", support::sourcePath("tests/data/baseline_A.csv")}
                                       << "neither a project file";
        QTest::newRow("log with text") << QStringList{"import", "@hand", "@bad"}
                                       << "line 3, column \"cpu_c\": found \"warm\"";
        QTest::newRow("empty log") << QStringList{"import", "@hand", "@empty"} << "the file is empty";
        QTest::newRow("log that is not there") << QStringList{"import", "@hand", "/none.csv"} << "/none.csv";
        QTest::newRow("no command") << QStringList{} << "subcommand";
        QTest::newRow("unknown option") << QStringList{"fit", d, "--sideways"} << "sideways";
        QTest::newRow("report nowhere") << QStringList{"report", d, "-o", "/proc/none/x.html"} << "/proc/none/x.html";
    }
    void badInput() {
        QFETCH(QStringList, arguments);
        QFETCH(QString, words);
        const auto write = [&](const char* name, const QByteArray& bytes) {
            QFile file(m_dir.filePath(QString::fromLatin1(name)));
            if (file.open(QIODevice::WriteOnly))
                file.write(bytes);
            return file.fileName();
        };
        const QString project = m_dir.filePath("hand.minidraft");
        QCOMPARE(cli({"export", hand(), "-o", project}).code, 0);
        QFile file(project);
        QVERIFY(file.open(QIODevice::ReadOnly));
        const QByteArray before = file.readAll();
        file.close();
        for (QString& a : arguments)
            a = a == "@hand"    ? project
                : a == "@bad"   ? write("bad.csv", "time_s,cpu_c\n0,40\n1,warm\n")
                : a == "@empty" ? write("empty.csv", "")
                                : a;
        const Ended e = cli(arguments);
        QCOMPARE(e.code, 2);
        QVERIFY(!e.crashed);
        QVERIFY2(e.err.contains(words) || e.out.contains(words), qPrintable(e.err));
        QVERIFY(file.open(QIODevice::ReadOnly));
        QCOMPARE(file.readAll(), before); // nothing was lost
    }

    void helpAndVersion() {
        QCOMPARE(cli({"--help"}).code, 0);
        QVERIFY(cli({"--help"}).out.contains("capture"));
        QVERIFY(cli({"--version"}).out.contains("0.1.0"));
        for (const char* command : {"fit", "air", "bench", "verdict", "report", "import", "export", "capture"})
            QVERIFY2(cli({command, "--help"}).out.contains("--json"), command);
    }

    /// Nothing that is there is overwritten unless it is said.
    void outputsDoNotOverwrite() {
        const auto write = [](const QString& path) {
            QFile file(path);
            return file.open(QIODevice::WriteOnly) && file.write("mine") == 4;
        };
        const QString report = m_dir.filePath("mine.html"), log = m_dir.filePath("mine.csv"),
                      drawing = m_dir.filePath("mine.svg");
        QVERIFY(write(report) && write(log) && write(drawing));
        const QStringList rig{QStringLiteral(MD_BIN_DIR) + "/mini-draft-rig",
                              "--",
                              demo(),
                              "--revision",
                              "R8",
                              "--duration",
                              "5",
                              "--speed",
                              "0"};
        for (const QStringList& command :
             {QStringList{"report", demo(), "-o", report}, QStringList{"sections", demo(), "-o", drawing},
              QStringList{"capture", "-o", log} + rig}) {
            const Ended e = cli(command);
            QCOMPARE(e.code, 2);
            QVERIFY2(e.err.contains("not overwritten"), qPrintable(e.err));
        }
        for (const QString& file : {report, log, drawing}) {
            QFile f(file);
            QVERIFY(f.open(QIODevice::ReadOnly));
            QCOMPARE(f.readAll(), QByteArray("mine"));
        }
        QCOMPARE(cli({"report", demo(), "-o", report, "--force"}).code, 0);
        QCOMPARE(cli(QStringList{"capture", "-o", log, "--force"} + rig).code, 0);
    }
    /// What the device declared is what the import takes, whatever the headings suggest.
    void declaredColumnsAreKept() {
        const QString log = m_dir.filePath("declared.csv"), file = m_dir.filePath("declared.minidraft");
        QCOMPARE(cli({"capture", "-o", log, "/bin/sh", "--", "-c",
                      "printf 'M mini-draft 1 x\\nC probe_7 temperature - card\\nC hum other %% -\\nD 0 40 1\\nD 1 41 "
                      "2\\nE done\\n'"})
                     .code,
                 0);
        QCOMPARE(cli({"export", demo(), "-o", file}).code, 0);
        QCOMPARE(cli({"import", file, log, "--name", "declared", "-r", "R10"}).code, 0);
        const auto back = store::openProject(file);
        QVERIFY(back);
        const auto& channels = back->project.run("declared")->samples->channels;
        QCOMPARE(channels.size(), std::size_t{2});
        QCOMPARE(channels[0].subject, std::string("card"));
        QCOMPARE(channels[0].kind, core::ChannelKind::Temperature);
        QCOMPARE(channels[1].unit, std::string("%"));
    }
    /// Text from a file never reaches the terminal as a command to it.
    void controlCharactersAreShown() {
        const QString folder = m_dir.filePath("escape");
        QDir().mkpath(folder);
        QFile json(folder + "/project.json");
        QVERIFY(json.open(QIODevice::WriteOnly));
        json.write("{\"format\":\"mini-draft-project\",\"version\":1,\"name\":\"x\",\"\\u001b]0;owned\\u0007\":1}");
        json.close();
        const Ended e = cli({"fit", folder});
        QVERIFY(!e.err.contains(QChar(0x1b)) && !e.err.contains(QChar(7)));
        QVERIFY(e.err.contains("owned"));
    }
};

} // namespace tst_cli
MD_TEST(tst_cli, CliTest)
#include "tst_cli.moc"
