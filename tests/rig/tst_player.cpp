// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/player.h"
#include "support/builds.h"
#include "support/registry.h"

#include <QtTest>

namespace tst_player {

using namespace support;

namespace {

std::size_t channelOf(const rig::Player& player, const std::string& name) {
    const auto& all = player.channels();
    return static_cast<std::size_t>(
        std::find_if(all.begin(), all.end(), [&](const Channel& c) { return c.name == name; }) - all.begin());
}

} // namespace

class PlayerTest : public QObject {
    Q_OBJECT
    Project m_project;
    std::optional<Build> m_build;

private slots:
    void initTestCase() {
        m_project = project();
        m_build = built(m_project, "R1");
    }

    void channelsOfABuild() {
        const rig::Player player(*m_build, {});
        for (const char* name : {"cpu_c", "card_c", "room_c", "side_rpm", "tray_cpu_lid_rpm", "cpu_mhz", "card_mhz",
                                 "power_w", "level_dba"})
            QVERIFY2(channelOf(player, name) < player.channels().size(), name);
        QCOMPARE(player.channels()[channelOf(player, "cpu_c")].subject, std::string("tray/cpu"));
        QCOMPARE(player.channels()[channelOf(player, "power_w")].kind, ChannelKind::Power);
    }

    void idleThenLoadThenCool() {
        rig::Player player(*m_build, {.idleS = 30, .loadS = 600, .coolS = 120, .noise = 0});
        const std::size_t cpu = channelOf(player, "cpu_c"), power = channelOf(player, "power_w");
        std::vector<double> t, w;
        while (!player.done()) {
            const auto row = player.next();
            QCOMPARE(row.values.size(), player.channels().size());
            t.push_back(row.values[cpu]);
            w.push_back(row.values[power]);
        }
        QCOMPARE(t.size(), std::size_t{751});
        QVERIFY(t[600] > t[20] + 15);
        QVERIFY(t[750] < t[600] - 10);
        QVERIFY(w[300] > w[10] + 100);
    }

    /// A machine of its own is another than the model, the same one each time, and off by about what is in doubt.
    void aMachineOfItsOwn() {
        const auto told = core::air::predictWithBands(*m_build, {});
        const auto truthOf = [&](unsigned machine) { return rig::Player(*m_build, {.machine = machine}).truth(); };
        QCOMPARE(truthOf(0).front().second, truthOf(0).front().second);
        int inside = 0, all = 0;
        std::set<long> different;
        for (unsigned machine = 1; machine <= 60; ++machine) {
            const auto truth = truthOf(machine);
            QVERIFY(truth == truthOf(machine));
            for (const auto& [name, celsius] : truth)
                for (const auto& part : told.parts)
                    if ((part.kind == PartKind::Processor && name == "cpu_c") || part.id + "_c" == name) {
                        inside += std::abs(part.temperatureC - celsius) <= part.bandK ? 1 : 0;
                        different.insert(std::lround(100 * celsius));
                        ++all;
                    }
        }
        QVERIFY2(all >= 120 && inside >= 0.85 * all && inside < all,
                 qPrintable(QStringLiteral("%1 of %2").arg(inside).arg(all)));
        QVERIFY(different.size() > 100);
    }
    void withoutNoiseItEndsAtItsTruth() {
        rig::Player player(*m_build, {.idleS = 10, .loadS = 4 * 3600, .coolS = 0, .noise = 0});
        const std::size_t cpu = channelOf(player, "cpu_c"), card = channelOf(player, "card_c");
        rig::Player::Row last;
        while (!player.done()) {
            const auto row = player.next();
            if (row.timeS <= 10 + 4 * 3600 - 1)
                last = row;
        }
        std::map<std::string, double> truth;
        for (const auto& [name, value] : player.truth())
            truth[name] = value;
        QCOMPARE_LE(std::abs(last.values[cpu] - truth.at("cpu_c")), 0.4);
        QCOMPARE_LE(std::abs(last.values[card] - truth.at("card_c")), 0.6); // its sensor shows half degrees
    }

    void roomDrifts() {
        rig::Player player(
            *m_build,
            {.conditions = {.roomC = 20}, .idleS = 0, .loadS = 3600, .coolS = 0, .roomDriftKh = 2, .noise = 0});
        const std::size_t room = channelOf(player, "room_c");
        const double first = player.next().values[room];
        double end = 0;
        while (!player.done())
            end = player.next().values[room];
        QCOMPARE_LE(std::abs(first - 20), 0.06);
        QCOMPARE_LE(std::abs(end - 22), 0.06);
    }

    void sensorsShowTheirSteps() {
        rig::Player player(*m_build, {.idleS = 10, .loadS = 60, .coolS = 0});
        const std::size_t cpu = channelOf(player, "cpu_c"), room = channelOf(player, "room_c");
        while (!player.done()) {
            const auto row = player.next();
            QCOMPARE_LE(std::abs(row.values[cpu] * 8 - std::round(row.values[cpu] * 8)), 1e-9);
            QCOMPARE_LE(std::abs(row.values[room] * 10 - std::round(row.values[room] * 10)), 1e-6);
        }
    }

    void aHeldFanStaysThere() {
        rig::Player player(*m_build,
                           {.idleS = 0, .loadS = 60, .coolS = 0, .noise = 0, .fanSteps = {{"side", 30, 1.0}}});
        const std::size_t rpm = channelOf(player, "side_rpm");
        std::vector<double> values;
        while (!player.done())
            values.push_back(player.next().values[rpm]);
        QVERIFY(values[59] > values[20] * 1.3);
    }

    void backgroundIsHeard() {
        rig::Player quiet(*m_build, {.backgroundDba = 10, .noise = 0}),
            loud(*m_build, {.backgroundDba = 50, .noise = 0});
        const std::size_t level = channelOf(quiet, "level_dba");
        const double a = quiet.next().values[level], b = loud.next().values[level];
        QVERIFY(b >= 50 && a < 50);
    }

    void faultsAreParsed_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<bool>("good");
        for (const char* text :
             {"dropout@300+10:cpu_c", "stuck@400+60:card_c", "spike@200:cpu_c", "disconnect@900", "dropout@5"})
            QTest::newRow(text) << QString(text) << true;
        for (const char* text : {"", "dropout", "flood@3", "dropout@soon", "stuck@3+long", "@5"})
            QTest::newRow(*text ? text : "empty") << QString(text) << false;
    }
    void faultsAreParsed() {
        QFETCH(QString, text);
        QFETCH(bool, good);
        const auto fault = rig::parseFault(text.toStdString());
        QCOMPARE(fault.has_value(), good);
        if (!fault)
            QVERIFY(!fault.error().remedy.empty());
    }
};

} // namespace tst_player
MD_TEST(tst_player, PlayerTest)
#include "tst_player.moc"
