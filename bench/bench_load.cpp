// SPDX-License-Identifier: GPL-3.0-or-later
// The real window with far more than anybody has: 500 runs of an hour at 1 s and 12 channels, 300 revisions, 400 parts
// on the shelf, 60 placed. Prints what a builder would notice; a heartbeat in the window's thread finds every freeze.
#include "app/ui/main_window.h"
#include "app/ui/style.h"
#include "bench/demo.h"
#include "core/base/text.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QTemporaryDir>
#include <QTimer>

#include <cmath>
#include <cstdio>
#include <fstream>

namespace {

constexpr int runs = 500, rows = 3600, channels = 12, revisions = 300, shelf = 400, placed = 60;

/// The demo, grown: dummies on a rack of mounts, descendants that set fans, runs that warm up differently.
core::Project grown() {
    core::Project p = shared::demo();
    p.runs.clear();
    core::Part dummy{.id = "dummy",
                     .kind = core::PartKind::Made,
                     .name = "Block",
                     .size = {core::measureMm(4, core::Source::Drawing), core::measureMm(4, core::Source::Drawing),
                              core::measureMm(4, core::Source::Drawing)}};
    dummy.spec = core::MadeSpec{.volumeCm3 = 1};
    for (int i = 0; static_cast<int>(p.shelf.size()) < shelf; ++i) {
        dummy.id = "block-" + std::to_string(i);
        dummy.name = "Block " + std::to_string(i);
        p.shelf.push_back(dummy);
    }
    const std::string last = p.revisions.back().id;
    std::vector<core::Change> rack;
    const auto line = core::lineage(p, last);
    const auto* setCase = std::get_if<core::SetCase>(&line->front()->changes.front());
    for (const core::Revision* r : *line)
        for (const core::Change& c : r->changes)
            if (const auto* s = std::get_if<core::SetCase>(&c))
                setCase = s;
    for (core::Part& part : p.shelf)
        if (part.id == setCase->part)
            for (int i = 0; i < placed - 13; ++i) {
                const auto at = [](double mm) {
                    return core::Offset{core::Ref::Low, core::measureMm(mm, core::Source::Drawing)};
                };
                part.mounts.push_back({.id = "rack-" + std::to_string(i),
                                       .name = "Rack " + std::to_string(i),
                                       .accepts = {core::PartKind::Made},
                                       .at = {at(2 + 6 * (i % 8)), at(2 + 6 * (i / 8)), at(2)}});
                rack.push_back(
                    core::PlacePart{"block-" + std::to_string(i), "rack-" + std::to_string(i), core::FanFlow::In});
            }
    p.revisions.push_back({.id = "Q0", .parent = last, .changes = rack});
    for (int i = 1; static_cast<int>(p.revisions.size()) < revisions; ++i)
        p.revisions.push_back({.id = "Q" + std::to_string(i),
                               .parent = "Q" + std::to_string(i % 7 ? 0 : i - 1),
                               .changes = {core::MovePart{"rack-" + std::to_string(i % 40), core::Axis::Z,
                                                          core::Length::fromMm(1 + i % 9)}}});
    for (int i = 0; i < runs; ++i) {
        auto samples = std::make_shared<core::Samples>();
        const double scale = 1 + 0.001 * i;
        for (int c = 0; c < channels; ++c)
            samples->channels.push_back({.name = "channel " + std::to_string(c),
                                         .unit = {},
                                         .kind = c < 5    ? core::ChannelKind::Temperature
                                                 : c == 5 ? core::ChannelKind::Ambient
                                                 : c == 6 ? core::ChannelKind::Power
                                                 : c == 7 ? core::ChannelKind::Clock
                                                          : core::ChannelKind::Rpm,
                                         .subject = c == 0 ? "tray/cpu" : "",
                                         .values = {}});
        for (int t = 0; t < rows; ++t) {
            samples->timeS.push_back(t);
            const bool on = t > 120 && t < 3300;
            for (int c = 0; c < channels; ++c) {
                const double noise = 0.125 * ((t * 7919 + c * 104729 + i * 31) % 9 - 4);
                const double rise = on ? 1 - std::exp(-(t - 120) / 420.0) : 0.3;
                samples->channels[static_cast<std::size_t>(c)].values.push_back(c < 5 ? 38 + 30 * scale * rise + noise
                                                                                : c == 5 ? 23 + noise
                                                                                : c == 6 ? (on ? 90 : 20) + noise
                                                                                : c == 7
                                                                                    ? 4000 + 8 * noise
                                                                                    : std::round(900 + 40 * noise));
            }
        }
        core::Run run{.id = "run-" + std::to_string(i),
                      .name = "Run " + std::to_string(i),
                      .revision = "Q" + std::to_string(i % 250),
                      .load = p.brief.load,
                      .source = "file"};
        run.samples = samples;
        p.runs.push_back(std::move(run));
    }
    return p;
}

double memoryMb(const char* what) {
    std::ifstream status("/proc/self/status");
    for (std::string line; std::getline(status, line);)
        if (line.starts_with(what))
            return core::numberFrom(std::string_view(line).substr(line.find_first_of("0123456789"),
                                                                  line.find(" kB") - line.find_first_of("0123456789")))
                       .value_or(0) /
                   1024;
    return 0;
}

/// The longest time without a turn of the event loop.
class Heartbeat : public QObject {
public:
    Heartbeat() {
        connect(&m_timer, &QTimer::timeout, this, [this] { beat(); });
        m_timer.start(2);
        m_clock.start();
    }
    void beat() { m_worst = std::max(m_worst, m_clock.restart()); }
    qint64 take() {
        beat();
        return std::exchange(m_worst, 0);
    }

private:
    QTimer m_timer;
    QElapsedTimer m_clock;
    qint64 m_worst = 0;
};

void waitFor(int ms, const std::function<bool()>& done) {
    QElapsedTimer t;
    t.start();
    while (!done() && t.elapsed() < ms)
        QApplication::processEvents(QEventLoop::WaitForMoreEvents, 20);
}

} // namespace

int main(int argc, char** argv) {
    qputenv("QT_QPA_PLATFORM", "offscreen");
    QApplication application(argc, argv);
    QTemporaryDir dir;
    const QString path = argc > 1 ? QString::fromLocal8Bit(argv[1]) : dir.filePath(QStringLiteral("large.minidraft"));
    if (argc > 2) { // made by a process of its own, so that its memory does not count
        const auto made = grown();
        QElapsedTimer t;
        t.start();
        for (const QString& place : {path, QString(path + QStringLiteral(".folder/"))}) {
            t.restart();
            const auto done = store::saveProject(made, place);
            std::printf("save as %-28s %6.2f s %s\n",
                        place.endsWith(QLatin1Char('/')) ? "a folder, 500 logs" : "one file",
                        static_cast<double>(t.elapsed()) / 1000, done ? "" : done.error().text().c_str());
        }
        return 0;
    }
    QElapsedTimer clock;
    clock.start();
    app::loadFonts();
    app::Context context;
    context.settings.dataFolder = dir.path();
    QApplication::setStyle(new app::SheetStyle(context.theme));
    context.document.setBackground(true);
    auto window = std::make_unique<app::MainWindow>(context);
    window->applyTheme(app::ThemeChoice::Light);
    window->setStation(0);
    window->show();
    Heartbeat heart;
    window->openInBackground(path);
    waitFor(60000, [&] { return !context.document.project().runs.empty(); });
    if (context.document.project().runs.empty()) {
        std::fprintf(stderr, "%s is not there: make it first, with a second argument\n",
                     path.toLocal8Bit().constData());
        return 1;
    }
    QApplication::processEvents();
    window->grab();
    const auto firstPicture = clock.elapsed();
    std::printf("open to first picture             %6.2f s, longest freeze %lld ms, %.0f MB now, %.0f MB at most\n",
                static_cast<double>(firstPicture) / 1000, heart.take(), memoryMb("VmRSS"), memoryMb("VmHWM"));
    for (int station = 0; station < 6; ++station) {
        window->setStation(station);
        waitFor(400, [] { return false; });
        std::printf("station %d, runs being analysed     longest freeze %lld ms\n", station, heart.take());
    }
    context.document.selectRevision(context.document.project().revisions.back().id);
    window->setStation(1);
    waitFor(300, [] { return false; });
    (void)heart.take();
    for (int i = 0; i < 5; ++i) {
        clock.restart();
        if (const auto done =
                context.document.addChange(core::MovePart{"rack-3", core::Axis::Z, core::Length::fromMm(0.5 + i)});
            !done)
            std::printf("%s\n", done.error().text().c_str());
        const auto value = clock.elapsed();
        QApplication::processEvents();
        std::printf("an edit                           %lld ms, painted after %lld ms\n", value, clock.elapsed());
    }
    waitFor(3000, [] { return false; });
    std::printf("3 s after the edits (copy on disk) longest freeze %lld ms\n", heart.take());
    clock.restart();
    window->startSave(path, store::Foreign::Refuse);
    waitFor(60000, [&] { return !context.document.isModified(); });
    std::printf("save                              %6.2f s, longest freeze %lld ms\n",
                static_cast<double>(clock.elapsed()) / 1000, heart.take());
    std::printf("memory                            %.0f MB now, %.0f MB at most\n", memoryMb("VmRSS"),
                memoryMb("VmHWM"));
    window->startSave(path, store::Foreign::Refuse);
    waitFor(100, [] { return false; });
    clock.restart();
    window.reset();
    context.document.workers().stop();
    std::printf("window closed while it saves      %lld ms\n", clock.elapsed());
    return 0;
}
