// SPDX-License-Identifier: GPL-3.0-or-later
// What stands between a change and its picture: each station painted whole, and a fan turned with all that follows.
#include "app/stations/fit/box_editor.h"
#include "app/stations/fit/fit_page.h"
#include "app/ui/main_window.h"
#include "app/ui/shell/working_panel.h"
#include "app/ui/style.h"
#include "core/model/edits.h"
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

/// A drag on a drawing at the pace of the program: from a move of the mouse until the drawing shows it (p50, p99), and
/// until everything that follows from it is there as well (all). @p told, where there is one: shows what the move did
/// to gaps, litres and air (follow).
void drag(benchmark::State& state, QWidget* sheet, const QPointF& from, QWidget* told = nullptr) {
    auto& document = shown().context.document;
    const auto send = [&](QEvent::Type type, const QPointF& at) {
        QMouseEvent event(type, at, sheet->mapToGlobal(at), type == QEvent::MouseMove ? Qt::NoButton : Qt::LeftButton,
                          type == QEvent::MouseButtonRelease ? Qt::NoButton : Qt::LeftButton, Qt::AltModifier);
        QCoreApplication::sendEvent(sheet, &event);
    };
    Painted painted;
    sheet->installEventFilter(&painted);
    Painted follows;
    if (told)
        told->installEventFilter(&follows);
    std::vector<double> frames, whole, follow;
    send(QEvent::MouseButtonPress, from);
    send(QEvent::MouseMove, from + QPointF(12, 12)); // far enough to be no click
    QApplication::processEvents();
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
        while (document.isPending(document.revision())) {
            follows.count = 0;
            QApplication::processEvents(QEventLoop::WaitForMoreEvents);
        }
        while (told && follows.count == 0)
            QApplication::processEvents(QEventLoop::WaitForMoreEvents);
        follow.push_back(ms());
        QApplication::processEvents();
        whole.push_back(ms());
    }
    send(QEvent::MouseButtonRelease, from);
    sheet->removeEventFilter(&painted);
    if (told)
        told->removeEventFilter(&follows);
    const auto at = [](std::vector<double> v, double share) {
        std::sort(v.begin(), v.end());
        return v[static_cast<std::size_t>(share * static_cast<double>(v.size() - 1))];
    };
    state.counters["p50_ms"] = at(frames, 0.5);
    state.counters["p99_ms"] = at(frames, 0.99);
    if (told) {
        state.counters["follow_p50_ms"] = at(follow, 0.5);
        state.counters["follow_p99_ms"] = at(follow, 0.99);
    }
    state.counters["all_p50_ms"] = at(whole, 0.5);
    state.counters["all_p99_ms"] = at(whole, 0.99);
}

app::FitPage* fitOf(const char* revision) {
    auto& document = shown().context.document;
    document.setBackground(true);
    document.selectRevision(revision);
    (void)document.result();
    shown().window->setStation(1);
    QApplication::processEvents();
    return static_cast<app::FitPage*>(shown().window->page(1));
}

/// A vent of the case of @p revision.
void dragVentOf(benchmark::State& state, const char* revision) {
    auto* fit = fitOf(revision);
    fit->editBox(true);
    auto* editor = fit->boxEditor();
    for (const core::box::Item& item : editor->items())
        if (item.kind == core::box::Kind::Vent && item.index == 0)
            editor->choose(item);
    QApplication::processEvents();
    drag(state, editor->sheet(), editor->sheet()->gripAt({1, 0, 0}), editor->changes());
    fit->editBox(false);
    shown().context.document.setBackground(false);
}

void dragAVent(benchmark::State& state) { dragVentOf(state, "R11"); }
BENCHMARK(dragAVent)->Unit(benchmark::kMillisecond)->Iterations(300);

/// The same in a box of 60 placed parts.
void dragAVentOfSixty(benchmark::State& state) {
    static const bool made = [] {
        core::Project p = shown().context.document.project();
        core::Part box = *core::caseOf(p, "R11");
        core::Revision many{.id = "R60", .parent = "R11", .changes = {}};
        box.id = "case-60";
        many.changes.emplace_back(core::SetCase{box.id});
        const auto build = core::resolve(p, "R11");
        for (std::size_t i = 0; build->placed.size() + i < 60; ++i) {
            core::Mount mount{.id = "peg-" + std::to_string(i), .name = "Peg", .accepts = {core::PartKind::Made}};
            for (std::size_t a = 0; a < 3; ++a)
                mount.at[a].value = core::measureMm(
                    a == 0 ? 70 : 5.0 + 7.0 * static_cast<double>(a == 1 ? i % 16 : i / 16), core::Source::Drawing);
            box.mounts.push_back(mount);
            core::Part peg{.id = mount.id, .name = "Peg " + std::to_string(i)};
            peg.size = {core::measureMm(4, core::Source::Drawing), core::measureMm(4, core::Source::Drawing),
                        core::measureMm(4, core::Source::Drawing)};
            peg.spec = core::MadeSpec{};
            p.shelf.push_back(peg);
            many.changes.emplace_back(core::PlacePart{peg.id, mount.id});
        }
        p.shelf.push_back(box);
        p.revisions.push_back(many);
        return shown().context.document.edit(QStringLiteral("sixty"), [&](core::Project& now) { now = p; }).has_value();
    }();
    if (!made)
        return state.SkipWithError("no such box");
    dragVentOf(state, "R60");
    state.counters["parts"] =
        static_cast<double>(core::resolve(shown().context.document.project(), "R60")->placed.size());
}
BENCHMARK(dragAVentOfSixty)->Unit(benchmark::kMillisecond)->Iterations(300);

/// A part dragged on a section, with its ghost and the gaps that would be short.
void dragAPart(benchmark::State& state) {
    auto* fit = fitOf("R11");
    fit->grab();
    QPointF from;
    for (const app::Hit& hit : fit->hits())
        if (hit.thing == core::Thing(core::PartRef{"card"}) && hit.isFigure())
            from = hit.rect.center();
    drag(state, fit, from);
    shown().context.document.undoStack().undo();
    shown().context.document.setBackground(false);
}
BENCHMARK(dragAPart)->Unit(benchmark::kMillisecond)->Iterations(300);

/// A corner of a lead, with its way, its bends and what it passes.
void dragACorner(benchmark::State& state) {
    auto* fit = fitOf("R11");
    fit->choose(app::FitLook::List::Leads);
    shown().context.selection.select(core::LeadRef{"lead-eps", "front-bay:eps-8", 1});
    fit->grab();
    QPointF from;
    for (const app::Hit& hit : fit->hits())
        if (hit.is(app::Act::DragCorner))
            from = hit.rect.center();
    drag(state, fit, from);
    shown().context.document.undoStack().undo();
    fit->choose(app::FitLook::List::Gaps);
    shown().context.document.setBackground(false);
}
BENCHMARK(dragACorner)->Unit(benchmark::kMillisecond)->Iterations(300);

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
