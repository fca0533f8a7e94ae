// SPDX-License-Identifier: GPL-3.0-or-later
// What stands between a change and its picture: each station painted whole, and a fan turned with all that follows.
#include "app/stations/fit/box_editor.h"
#include "app/stations/fit/fit_page.h"
#include "app/ui/main_window.h"
#include "app/ui/shell/working_panel.h"
#include "app/ui/style.h"
#include "store/files.h"

#include <QApplication>
#include <QMouseEvent>

#include <algorithm>
#include <benchmark/benchmark.h>
#include <chrono>
#include <vector>

namespace {

struct Shown {
    app::Context context;
    std::unique_ptr<app::MainWindow> window;
    Shown() {
        app::loadFonts();
        QApplication::setStyle(new app::SheetStyle(context.theme));
        window = std::make_unique<app::MainWindow>(context);
        window->applyTheme(app::ThemeChoice::Light);
        window->resize(1280, 800);
        window->show();
        context.document.reset(
            store::openProject(QStringLiteral(MD_SOURCE_DIR) + QStringLiteral("/data/demo/dig-tent"))->project, {});
        context.document.finishAnalyses();
        QApplication::processEvents();
    }
};
Shown& shown() {
    static Shown* s = new Shown; // lives until the end of the program
    return *s;
}

void paintStation(benchmark::State& state) {
    shown().window->setStation(static_cast<int>(state.range(0)));
    QApplication::processEvents();
    auto* page = shown().window->page(static_cast<int>(state.range(0)));
    QImage image(page->size(), QImage::Format_ARGB32_Premultiplied);
    for (auto _ : state)
        page->render(&image);
}
BENCHMARK(paintStation)->DenseRange(0, 5)->Unit(benchmark::kMillisecond);

/// Model to pixels: the fan of the shown revision is turned, everything is recomputed and the window painted. One frame
/// is 16 ms.
void turnAFan(benchmark::State& state) {
    shown().window->setStation(2);
    (void)shown().context.document.newRevision("R10", {core::SetFan{"top", core::FanMode::Fixed, 0.6}});
    QApplication::processEvents();
    QImage image(shown().window->size(), QImage::Format_ARGB32_Premultiplied);
    for (auto _ : state) {
        (void)shown().context.document.addChange(core::FlipFan{"side-a"});
        shown().window->render(&image);
    }
}
BENCHMARK(turnAFan)->Unit(benchmark::kMillisecond);

/// J: to the next figure, and the sheet painted with it. One frame is 16 ms.
void stepToTheNextFigure(benchmark::State& state) {
    shown().window->setStation(1);
    QApplication::processEvents();
    auto* page = shown().window->page(1);
    QImage image(page->size(), QImage::Format_ARGB32_Premultiplied);
    page->render(&image);
    for (auto _ : state) {
        page->stepSelection(1);
        page->render(&image);
    }
}
BENCHMARK(stepToTheNextFigure)->Unit(benchmark::kMillisecond);

/// Counts how often a widget was painted.
struct Painted : QObject {
    int count = 0;
    bool eventFilter(QObject* watched, QEvent* event) override {
        const bool is = event->type() == QEvent::Paint;
        if (is)
            watched->event(event);
        count += is;
        return is;
    }
};

/// The same as it happens: a click at the pace of the program, until the sheet with the result is painted (p50, p99),
/// until Working and the rail are as well (all), and how long the handler of the click held the window.
void turnAFanByHand(benchmark::State& state) {
    auto& document = shown().context.document;
    document.setBackground(true);
    shown().window->setStation(2);
    (void)document.newRevision("R10", {core::SetFan{"top", core::FanMode::Fixed, 0.6}});
    (void)document.result();
    QApplication::processEvents();
    std::vector<double> frames, whole, handlers;
    Painted painted;
    shown().window->page(2)->installEventFilter(&painted);
    for (auto _ : state) {
        const auto begin = std::chrono::steady_clock::now();
        const auto ms = [&] {
            return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - begin).count();
        };
        (void)document.addChange(core::FlipFan{"side-a"});
        handlers.push_back(ms());
        painted.count = 0;
        while (document.isPending(document.revision()) || painted.count == 0)
            QApplication::processEvents(QEventLoop::WaitForMoreEvents);
        frames.push_back(ms());
        QApplication::processEvents(); // what stands beside the sheet, in the frame after
        whole.push_back(ms());
    }
    document.setBackground(false);
    const auto at = [](std::vector<double> v, double share) {
        std::sort(v.begin(), v.end());
        return v[static_cast<std::size_t>(share * static_cast<double>(v.size() - 1))];
    };
    state.counters["p50_ms"] = at(frames, 0.5);
    state.counters["p99_ms"] = at(frames, 0.99);
    state.counters["all_p99_ms"] = at(whole, 0.99);
    state.counters["handler_p99_ms"] = at(handlers, 0.99);
}
BENCHMARK(turnAFanByHand)->Unit(benchmark::kMillisecond)->Iterations(300);

/// A vent dragged on the drawing at the pace of the program: from a move of the mouse until the drawing shows it (p50,
/// p99), and until gaps, litres and air are there as well (all).
void dragAVent(benchmark::State& state) {
    auto& document = shown().context.document;
    document.setBackground(true);
    document.selectRevision("R11");
    (void)document.result();
    shown().window->setStation(1);
    auto* fit = static_cast<app::FitPage*>(shown().window->page(1));
    fit->editBox(true);
    auto* editor = fit->boxEditor();
    for (const core::box::Item& item : editor->items())
        if (item.kind == core::box::Kind::Vent && item.index == 0)
            editor->choose(item);
    QApplication::processEvents();
    auto* sheet = editor->sheet();
    const QPointF from = sheet->gripAt({1, 0, 0});
    const auto send = [&](QEvent::Type type, const QPointF& at) {
        QMouseEvent event(type, at, sheet->mapToGlobal(at), type == QEvent::MouseMove ? Qt::NoButton : Qt::LeftButton,
                          type == QEvent::MouseButtonRelease ? Qt::NoButton : Qt::LeftButton, Qt::AltModifier);
        QCoreApplication::sendEvent(sheet, &event);
    };
    Painted painted;
    sheet->installEventFilter(&painted);
    std::vector<double> frames, whole;
    send(QEvent::MouseButtonPress, from);
    int move = 0;
    for (auto _ : state) {
        const auto begin = std::chrono::steady_clock::now();
        const auto ms = [&] {
            return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - begin).count();
        };
        painted.count = 0;
        ++move;
        send(QEvent::MouseMove, from + QPointF(move % 20, move % 7));
        while (painted.count == 0)
            QApplication::processEvents(QEventLoop::WaitForMoreEvents);
        frames.push_back(ms());
        while (document.isPending(document.revision()))
            QApplication::processEvents(QEventLoop::WaitForMoreEvents);
        QApplication::processEvents();
        whole.push_back(ms());
    }
    send(QEvent::MouseButtonRelease, from);
    sheet->removeEventFilter(&painted);
    fit->editBox(false);
    document.setBackground(false);
    const auto at = [](std::vector<double> v, double share) {
        std::sort(v.begin(), v.end());
        return v[static_cast<std::size_t>(share * static_cast<double>(v.size() - 1))];
    };
    state.counters["p50_ms"] = at(frames, 0.5);
    state.counters["p99_ms"] = at(frames, 0.99);
    state.counters["all_p50_ms"] = at(whole, 0.5);
    state.counters["all_p99_ms"] = at(whole, 0.99);
}
BENCHMARK(dragAVent)->Unit(benchmark::kMillisecond)->Iterations(300);

void paintPanel(benchmark::State& state) {
    shown().window->setStation(2);
    QApplication::processEvents();
    const auto panels = shown().window->findChildren<app::PaintedPanel*>();
    std::vector<app::PaintedPanel*> seen;
    for (app::PaintedPanel* p : panels)
        if (p->isVisible())
            seen.push_back(p);
    const auto which = static_cast<std::size_t>(state.range(0));
    if (which >= seen.size())
        return state.SkipWithError("no such panel");
    QImage image(seen[which]->size(), QImage::Format_ARGB32_Premultiplied);
    state.SetLabel(seen[which]->accessibleName().toStdString() + " " + std::to_string(seen[which]->width()) + " x " +
                   std::to_string(seen[which]->height()));
    for (auto _ : state)
        seen[which]->render(&image);
}
BENCHMARK(paintPanel)->DenseRange(0, 9)->Unit(benchmark::kMillisecond);

void workingOfThePanel(benchmark::State& state) {
    shown().context.selection.select(core::PartRef{"tray/cpu"});
    for (auto _ : state)
        shown().window->working()->sheet()->refresh();
}
BENCHMARK(workingOfThePanel)->Unit(benchmark::kMillisecond);

} // namespace

int main(int argc, char** argv) {
    qputenv("QT_QPA_PLATFORM", "offscreen");
    QApplication application(argc, argv);
    benchmark::Initialize(&argc, argv);
    benchmark::RunSpecifiedBenchmarks();
    return 0;
}
