// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/text.h"
#include "core/rules/port_map.h"
#include "devices/line_protocol.h"
#include "rig/player.h"
#include "store/files.h"
#include "store/project_json.h"

#include <CLI/CLI.hpp>
#include <QCoreApplication>
#include <QLocalServer>
#include <QLocalSocket>
#include <QTimer>

#include <cerrno>
#include <clocale>
#include <cstdio>

namespace {

struct Options {
    std::string project, revision, load, socket, truthFile;
    double room = 1e9, drift = 0, idle = 60, duration = 1800, cool = 60, speed = 1, noise = 1;
    unsigned seed = 1, machine = 0;
    std::vector<std::string> faults, fanSteps;
};

int fail(const core::Problem& p) {
    std::fprintf(stderr, "mini-draft-rig: %s\n", core::printable(p.text()).c_str());
    return 2;
}

core::Result<void> writeTruth(const std::string& file, const rig::Player& player) {
    nlohmann::ordered_json json;
    for (const auto& [name, value] : player.truth())
        json["settled"][name] = value;
    return store::writeWhole(QString::fromStdString(file), QByteArray::fromStdString(json.dump(1) + "\n"));
}

/// Sends rows at the wanted speed; speed 0 sends as fast as they are taken.
class Sender : public QObject {
public:
    Sender(rig::Player& player, QIODevice* device, double speed) : m_player(player), m_device(device), m_speed(speed) {
        line(devices::helloText("rig", true));
        for (const core::Channel& c : player.channels())
            line(devices::channelText(c));
        connect(&m_timer, &QTimer::timeout, this, [this] { tick(); });
        m_timer.start(speed > 0 ? std::max(1, static_cast<int>(1000 / speed)) : 0);
    }

private:
    void line(const std::string& text) {
        const std::string full = text + "\n";
        if (m_device) {
            m_device->write(full.data(), static_cast<qint64>(full.size()));
        } else {
            std::fputs(full.c_str(), stdout);
            if (std::fflush(stdout) != 0 || std::ferror(stdout)) {
                const int error = errno;
                QCoreApplication::exit(
                    fail(store::cannotWrite(QStringLiteral("standard output"), error ? error : ENOSPC)));
                m_timer.stop();
            }
        }
    }
    void tick() {
        const int rows = m_speed > 1000 ? static_cast<int>(m_speed / 1000) : 1;
        for (int i = 0; i < rows; ++i) {
            if (m_player.disconnected())
                return QCoreApplication::exit(0); // gone without a word, as a pulled plug is
            if (m_player.done()) {
                line("E done");
                if (m_device)
                    m_device->waitForBytesWritten(1000);
                return QCoreApplication::exit(0);
            }
            const auto row = m_player.next();
            line(devices::dataText(row.timeS, row.values));
        }
    }
    rig::Player& m_player;
    QIODevice* m_device;
    double m_speed;
    QTimer m_timer;
};

core::Result<rig::Script> scriptOf(const Options& o, const core::Project& project) {
    rig::Script script{.conditions = core::air::conditionsOf(project, o.load),
                       .idleS = o.idle,
                       .loadS = o.duration,
                       .coolS = o.cool,
                       .roomDriftKh = o.drift,
                       .listenerM = project.brief.listenerM,
                       .noise = o.noise,
                       .seed = o.seed,
                       .machine = o.machine};
    if (o.room < 1e8)
        script.conditions.roomC = o.room;
    if (!o.load.empty() && !project.load(o.load))
        return core::problem("--load", "load \"" + o.load + "\" is not there", "one of the project's loads");
    for (const std::string& text : o.faults) {
        auto fault = rig::parseFault(text);
        if (!fault)
            return tl::make_unexpected(fault.error());
        script.faults.push_back(*fault);
    }
    for (const std::string& text : o.fanSteps) { // mount@seconds=share
        const auto at = text.find('@'), equals = text.find('=');
        if (at == std::string::npos || equals == std::string::npos || equals < at)
            return core::problem("--fan-step \"" + text + "\"", "is not understood",
                                 "mount@seconds=share, e.g. side-a@600=0.5");
        const auto second = core::numberFrom(std::string_view(text).substr(at + 1, equals - at - 1)),
                   share = core::numberFrom(std::string_view(text).substr(equals + 1));
        if (!second || !share)
            return core::problem("--fan-step \"" + text + "\"", "is not understood",
                                 "mount@seconds=share, e.g. side-a@600=0.5");
        script.fanSteps.push_back({text.substr(0, at), *second, *share});
    }
    return script;
}

} // namespace

int main(int argc, char** argv) { // NOLINT(bugprone-exception-escape): options throw where two are named alike
    QCoreApplication app(argc, argv);
    std::setlocale(LC_NUMERIC, "C"); // options are read with a point everywhere
    Options o;
    CLI::App cli("Plays a build through time as a bench would log it. A stand-in for real sensors; docs/protocol.md "
                 "describes the lines.",
                 "mini-draft-rig");
    cli.add_option("project", o.project, "project file or interchange folder")->required();
    cli.add_option("--revision", o.revision, "revision to play")->required();
    cli.add_option("--load", o.load, "load of the project (default: the load of the brief)");
    cli.add_option("--room", o.room, "room temperature, °C (default: that of the brief)");
    cli.add_option("--room-drift", o.drift, "K per hour");
    cli.add_option("--idle", o.idle, "seconds of idling before the load");
    cli.add_option("--duration", o.duration, "seconds of load");
    cli.add_option("--cool-down", o.cool, "seconds of idling after the load");
    cli.add_option("--speed", o.speed, "model seconds a second; 0 as fast as possible");
    cli.add_option("--noise", o.noise, "multiplies sensor noise");
    cli.add_option("--seed", o.seed, "of the noise");
    cli.add_option(
        "--machine", o.machine,
        "number of a machine of its own, off from the model by what is drawn from the doubt of each input; 0: "
        "as the model says");
    cli.add_option("--fault", o.faults, "dropout@300+10:cpu_c, stuck@400+60:card_c, spike@200:cpu_c, disconnect@900");
    cli.add_option("--fan-step", o.fanSteps, "mount@seconds=share: someone turns a fan");
    cli.add_option("--socket", o.socket, "serve on a local socket of this name instead of standard output");
    cli.add_option("--truth", o.truthFile, "write the settled values of the model to this JSON file");
    try {
        cli.parse(argc, argv);
    } catch (const CLI::ParseError& e) {
        const int code = cli.exit(e);
        return code == 0 ? 0 : 2;
    }
    auto loaded = store::openProject(QString::fromStdString(o.project));
    if (!loaded)
        return fail(loaded.error());
    const auto build = core::resolve(loaded->project, o.revision);
    if (!build)
        return fail(build.error());
    auto script = scriptOf(o, loaded->project);
    if (!script)
        return fail(script.error());
    // What the prediction says does not run does not run here either.
    script->conditions.idle = core::rules::idleOf(*build, core::rules::portMap(*build));
    rig::Player player(*build, *script);
    if (!o.truthFile.empty())
        if (const auto written = writeTruth(o.truthFile, player); !written)
            return fail(written.error());
    if (o.socket.empty()) {
        Sender sender(player, nullptr, o.speed);
        return app.exec();
    }
    QLocalServer::removeServer(QString::fromStdString(o.socket));
    QLocalServer server;
    if (!server.listen(QString::fromStdString(o.socket)))
        return fail({"--socket " + o.socket, server.errorString().toStdString(), "another name"});
    std::unique_ptr<Sender> sender;
    QObject::connect(&server, &QLocalServer::newConnection, &app, [&] {
        QLocalSocket* socket = server.nextPendingConnection();
        QObject::connect(socket, &QLocalSocket::disconnected, &app, [] { QCoreApplication::exit(0); });
        sender = std::make_unique<Sender>(player, socket, o.speed);
    });
    return app.exec();
}
