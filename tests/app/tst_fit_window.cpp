// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/fit/fit_page.h"
#include "app/stations/fit/fit_sheet.h"
#include "app/ui/dialogs/measure_dialog.h"
#include "app/ui/dialogs/part_dialog.h"
#include "app/ui/dialogs/search_dialog.h"
#include "app/ui/dialogs/sections_dialog.h"
#include "support/painted_words.h"
#include "support/patience.h"
#include "support/registry.h"
#include "support/window.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLineEdit>
#include <QListWidget>
#include <QStandardPaths>
#include <QTableWidget>
#include <QWheelEvent>

#include <set>

namespace tst_fit_window {

using support::Window;
using List = app::FitLook::List;

/// The Fit and Brief stations on the real window.
class FitWindowTest : public QObject {
    Q_OBJECT

    static app::FitPage* fitOf(Window& w) {
        w.window->setStation(1);
        return static_cast<app::FitPage*>(w.window->page(1));
    }
    static const core::fit::Gap* shortGap(Window& w) {
        for (const auto& gap : w.document().result().evaluation->fit.gaps)
            if (gap.isWrong())
                return &gap;
        return nullptr;
    }
    /// Adds a part as a builder does: Ctrl+Shift+A, words, place, Enter. Answers what went wrong.
    static QString add(Window& w, const QString& search, const QString& place) {
        w.key(Qt::Key_A, Qt::ControlModifier | Qt::ShiftModifier);
        auto* text = w.dialog<QLineEdit>("search");
        if (!text)
            return "no dialog";
        QTest::keyClicks(text, search);
        auto* to = w.dialog<QComboBox>("place");
        if (to->findData(place) < 0)
            return place + " is not offered for " + search;
        to->setCurrentIndex(to->findData(place));
        QTest::keyClick(text, Qt::Key_Return);
        QApplication::processEvents();
        return w.openDialog() ? "the dialog is still open" : QString();
    }

private slots:
    void initTestCase() {
        QStandardPaths::setTestModeEnabled(true);
        QCoreApplication::setOrganizationName("mini-draft-test");
    }
    void cleanup() {
        QApplication::processEvents();
        for (QWidget* top : QApplication::topLevelWidgets())
            if (qobject_cast<QDialog*>(top))
                delete top;
    }

    /// From a blank case with measured inside sizes to a mended build, with nothing but what the README says.
    void fromBlankToMended() {
        Window w;
        QTest::mouseClick(w.window->page(0)->findChild<QPushButton*>("start0"), Qt::LeftButton);
        auto* name = w.dialog<QLineEdit>("name");
        QVERIFY(name);
        name->setText("Cellar box");
        w.dialog<QDoubleSpinBox>("width")->setValue(82);
        QTest::keyClick(name, Qt::Key_Return);
        QApplication::processEvents();
        for (const auto& [search, place] : {std::pair{"Mini-ITX", "tray"}, std::pair{"65 W", "tray/cpu"},
                                            std::pair{"cooler 47", "tray/cpu/lid"}, std::pair{"92 x 25", "side-a"}}) {
            const QString wrong = add(w, search, place);
            QVERIFY2(wrong.isEmpty(), qPrintable(wrong));
        }
        // The clash is seen: on the ladder, in the findings, on the strip.
        auto* fit = fitOf(w);
        const auto* gap = shortGap(w);
        QVERIFY(gap);
        const std::string id = gap->id;
        QVERIFY(w.click(fit, gap->ref));
        // Asked what would mend it; the answers are tried on the model.
        QVERIFY(w.click(fit,
                        app::Handle{.act = app::Act::ChooseList, .row = static_cast<int>(app::FitLook::List::Change)}));
        fit->grab();
        QVERIFY(fit->look().answers && !app::answered(fit->look().answers->mends).all.empty());
        const auto mendingRow = [&] {
            const auto& mends = app::answered(fit->look().answers->mends).all;
            return static_cast<int>(std::find_if(mends.begin(), mends.end(), [](const auto& m) { return m.mends; }) -
                                    mends.begin());
        };
        QVERIFY(mendingRow() < static_cast<int>(app::answered(fit->look().answers->mends).all.size()));
        const auto changes = w.document().project().revisions.back().changes.size();
        QVERIFY(w.click(fit, app::Handle{.act = app::Act::ApplyMend, .row = mendingRow()}));
        for (const auto& g : w.document().result().evaluation->fit.gaps)
            QVERIFY2(g.id != id || !g.isWrong(), g.id.c_str());
        // Whatever else is short is mended the same way, one after the other.
        for (int more = 0; more < 4 && shortGap(w); ++more) {
            const std::string next = shortGap(w)->id;
            w.context.selection.select(shortGap(w)->ref);
            fit->grab();
            QVERIFY2(w.click(fit, app::Handle{.act = app::Act::ApplyMend, .row = mendingRow()}), next.c_str());
        }
        QVERIFY(!shortGap(w));
        QVERIFY(w.document().project().revisions.back().changes.size() >= changes);
        // Undo brings the clash back.
        w.key(Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(shortGap(w));
        // The measuring sheet, on paper, of a box whose sizes leave something open.
        w.document().reset(support::demoProject(), {});
        QTemporaryDir dir;
        QVERIFY(w.window->printMeasures(dir.filePath("sheet.pdf")));
        QFile pdf(dir.filePath("sheet.pdf"));
        QVERIFY(pdf.open(QIODevice::ReadOnly) && pdf.read(5) == "%PDF-" && pdf.size() > 2000);
        const QString html = app::measuringSheet(w.context.view());
        const auto next = core::fit::measureNext(w.document().result().evaluation->fit);
        QVERIFY(!next.empty());
        QVERIFY(html.contains("Measured, mm") &&
                html.contains(QString::fromStdString(next.front().label).toHtmlEscaped()) &&
                html.contains("unplugged"));
    }

    /// The revision it came from, then the baseline, then nothing again; what differs stands below in words.
    void anOlderRevisionIsLaidOver() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R8");
        w.window->setStation(1);
        auto* fit = fitOf(w);
        const QImage plain = fit->grab().toImage();
        QTest::keyClick(fit, Qt::Key_O);
        QCOMPARE(fit->look().over, std::string("R7"));
        QVERIFY(fit->grab().toImage() != plain);
        const QStringList words = support::paintedWords(
            [&](app::Canvas& c, const QRectF& r) { app::paintFit(c, r, w.context.view(), fit->look()); }, {900, 700});
        QVERIFY2(words.join(' ').contains("Grey: R7") && words.join(' ').contains("Fan 80-15 added"),
                 qPrintable(words.join('|')));
        QTest::keyClick(fit, Qt::Key_O);
        QCOMPARE(fit->look().over, std::string("R4")); // the baseline
        QTest::keyClick(fit, Qt::Key_O);
        QCOMPARE(fit->look().over, std::string());
        QCOMPARE(fit->grab().toImage(), plain);
    }
    /// Any other revision, from the menu of its card; what differs is told from where their lines part.
    void anyTwoRevisionsAreLaidOver() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11");
        auto* fit = fitOf(w);
        const auto overlay = [&](const char* id) {
            for (QAction* action : w.window->menuOf(core::RevisionRef{id})->actions())
                if (action->text().contains("over the sections"))
                    return action->trigger(), true;
            return false;
        };
        QVERIFY(!overlay("R11")); // itself
        QVERIFY(overlay("R9"));
        QCOMPARE(w.window->station(), 1);
        QCOMPARE(fit->look().over, std::string("R9"));
        (void)w.document().result("R9");
        const QString words =
            support::paintedWords(
                [&](app::Canvas& c, const QRectF& r) { app::paintFit(c, r, w.context.view(), fit->look()); },
                {900, 700})
                .join(' ');
        QVERIFY2(words.contains("here and not there: R10"), qPrintable(words));
        QVERIFY(overlay("R9"));
        QCOMPARE(fit->look().over, std::string());
    }
    /// X: the next of the ways its place has; where there is one, that is said.
    void aPartIsTurned() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11");
        w.window->setStation(1);
        auto* fit = fitOf(w);
        const auto variant = [&] { return w.document().result().evaluation->build.at("front-bay")->variant; };
        w.context.selection.select(core::PartRef{"front-bay"});
        const int steps = w.document().undoStack().count();
        std::set<std::string> seen{variant()};
        QTest::keyClick(fit, Qt::Key_X);
        QVERIFY(!seen.contains(variant()));
        QCOMPARE(w.document().undoStack().count(), steps + 1);
        for (int i = 0; i < 4 && !variant().empty(); ++i)
            QTest::keyClick(fit, Qt::Key_X);
        QVERIFY(variant().empty());
        QSignalSpy refused(fit, &app::FitPage::refused);
        w.context.selection.select(core::PartRef{"tray"});
        QTest::keyClick(fit, Qt::Key_X);
        QCOMPARE(refused.count(), 1);
    }
    /// A part is dragged on a section: a ghost says what would be short, one step of undo takes it back, Esc drops it.
    void aPartIsDragged() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11");
        w.window->setStation(1);
        auto* fit = fitOf(w);
        fit->grab();
        const auto low = [&] { return w.document().result().evaluation->build.at("card")->lowAt; };
        const auto before = low();
        const auto place = w.place(fit, core::PartRef{"card"});
        QVERIFY(place);
        const QPoint from = place->rect.center().toPoint();
        const auto move = [&](const QPoint& at) {
            QMouseEvent event(QEvent::MouseMove, at, fit->mapToGlobal(at), Qt::NoButton, Qt::LeftButton, {});
            QCoreApplication::sendEvent(fit, &event);
        };
        const int steps = w.document().undoStack().count();
        QTest::mousePress(fit, Qt::LeftButton, {}, from);
        move(from + QPoint(12, 0));
        QVERIFY(fit->look().ghost); // where it would be, and how far that is
        const QString said =
            support::paintedWords(
                [&](app::Canvas& c, const QRectF& r) { app::paintFit(c, r, w.context.view(), fit->look()); },
                {900, 700})
                .join(' ');
        QVERIFY2(said.contains("to the rear: ") || said.contains("to the right: "), qPrintable(said));
        QCOMPARE(low(), before);
        QTest::keyClick(fit, Qt::Key_Escape);
        QVERIFY(!fit->look().ghost);
        QTest::mouseRelease(fit, Qt::LeftButton, {}, from + QPoint(12, 0));
        QCOMPARE(w.document().undoStack().count(), steps);
        QTest::mousePress(fit, Qt::LeftButton, {}, from);
        move(from + QPoint(8, 0));
        move(from + QPoint(12, -10));
        QTest::mouseRelease(fit, Qt::LeftButton, {}, from + QPoint(12, -10));
        QCOMPARE(w.document().undoStack().count(), steps + 1);
        int axes = 0;
        for (std::size_t a = 0; a < 3; ++a)
            axes += low()[a] != before[a];
        QCOMPARE(axes, 2);
        w.key(Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(low(), before);
        // A click alone moves nothing.
        QTest::mouseClick(fit, Qt::LeftButton, {}, from);
        QCOMPARE(low(), before);
        QCOMPARE(w.context.selection.thing(), support::thing("part:card"));
    }
    /// What was logged stays what it was of: a change there makes a revision; elsewhere it is made in place.
    void aChangeWhereRunsWereLoggedMakesARevision_data() {
        QTest::addColumn<QString>("revision");
        QTest::addColumn<bool>("logged");
        QTest::newRow("runs logged") << "R1" << true;
        QTest::newRow("none") << "R3" << false;
    }
    void aChangeWhereRunsWereLoggedMakesARevision() {
        QFETCH(QString, revision);
        QFETCH(bool, logged);
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        const std::string id = revision.toStdString();
        w.document().selectRevision(id);
        auto* fit = fitOf(w);
        fit->choose(List::Change);
        const auto before = w.document().project();
        QVERIFY(w.click(fit, app::Handle{.act = app::Act::ApplyMend, .row = 0}));
        const auto& after = w.document().project();
        QCOMPARE(after.revisions.size(), before.revisions.size() + (logged ? 1 : 0));
        QCOMPARE(*after.revision(id) == *before.revision(id), logged);
        QCOMPARE(w.document().revision(), logged ? after.revisions.back().id : id);
        QVERIFY(!logged || after.revisions.back().parent == id);
        QVERIFY(!shortGap(w));
    }

    void everyListIsReachedByKeyAndMouse() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        auto* fit = fitOf(w);
        for (const auto& [key, name, list] :
             {std::tuple{Qt::Key_M, "change", List::Change}, std::tuple{Qt::Key_T, "measure", List::Measure},
              std::tuple{Qt::Key_R, "room", List::Room}, std::tuple{Qt::Key_I, "goingin", List::GoingIn},
              std::tuple{Qt::Key_G, "gaps", List::Gaps}}) {
            QTest::keyClick(fit, key);
            QCOMPARE(static_cast<int>(fit->look().list), static_cast<int>(list));
            fit->choose(List::Gaps);
            QVERIFY2(w.click(fit, app::Handle{.act = app::Act::ChooseList, .row = static_cast<int>(list)}), name);
            QCOMPARE(static_cast<int>(fit->look().list), static_cast<int>(list));
        }
        // Rows show their working.
        w.document().selectRevision("R3");
        w.context.selection.select({});
        for (const auto& [list, prefix] :
             {std::pair{List::Measure, "measure:"}, std::pair{List::Room, "room:"}, std::pair{List::GoingIn, "way:"},
              std::pair{List::Change, "mend:"}}) { // as the text form begins
            fit->choose(list);
            fit->grab();
            bool found = false;
            for (const app::Hit& hit : fit->hits())
                if (support::text(hit.thing).startsWith(QLatin1String(prefix))) {
                    const auto working = app::workingOf(w.context.view(), hit.thing);
                    QVERIFY2(working && !working->sentence.empty() && !working->method.empty(),
                             qPrintable(support::text(hit.thing)));
                    found = true;
                    break;
                }
            QVERIFY2(found, prefix);
        }
    }

    /// Drawn positions reach far out of the case: they have the drawing to themselves and cover no other section.
    void aWayInHasTheDrawingToItself_data() {
        QTest::addColumn<QSize>("size");
        QTest::newRow("usual") << QSize(1280, 800);
        QTest::newRow("small") << QSize(1100, 700);
        QTest::newRow("tall") << QSize(1300, 1400);
    }
    void aWayInHasTheDrawingToItself() {
        QFETCH(QSize, size);
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.window->resize(size);
        auto* fit = fitOf(w);
        fit->choose(List::GoingIn);
        w.context.selection.select({});
        const auto sections = [&] {
            fit->grab();
            return std::count_if(fit->hits().begin(), fit->hits().end(),
                                 [](const app::Hit& h) { return h.is(app::Act::DragCut); });
        };
        QCOMPARE(sections(), 3);
        for (const char* way : {"way:card", "way:front-bay", "way:tray/store"}) {
            w.context.selection.select(support::thing(way));
            QCOMPARE(sections(), 1);
            std::vector<QRectF> drawn;
            QRectF title, stage, entry;
            for (const app::Hit& h : fit->hits()) {
                if (h.is(app::Act::DragCut))
                    title = h.rect;
                else if (h.is(app::Act::MoveSheet))
                    stage = h.rect;
                else if (h.thing == support::thing(way) && h.name.contains("position"))
                    drawn.push_back(h.rect);
                else if (h.thing == support::thing(way))
                    entry = h.rect;
            }
            QVERIFY2(drawn.size() >= 3, way);
            for (const QRectF& position : drawn) {
                QVERIFY2(stage.adjusted(-1, -1, 1, 1).contains(position), way); // nothing of it is cut off
                QVERIFY2(!position.adjusted(0, 8, 0, -8).intersects(title) && !position.intersects(entry),
                         way); // targets of thin parts are grown
            }
        }
        w.context.selection.select({});
        QCOMPARE(sections(), 3);
    }

    void ladderIsSortedAndFiltered() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R3");
        auto* fit = fitOf(w);
        const auto& result = w.document().result().evaluation->fit;
        const auto rows = [&] { return app::ladderRows(result, fit->look(), w.context.selection.thing()); };
        QCOMPARE(rows().size(), result.gaps.size());
        QVERIFY(w.click(fit, app::Act::NextSort));
        for (std::size_t i = 1; i < rows().size(); ++i)
            QVERIFY(result.gaps[rows()[i - 1]].chance <= result.gaps[rows()[i]].chance);
        QTest::keyClick(fit, Qt::Key_S);
        for (std::size_t i = 1; i < rows().size(); ++i)
            QVERIFY(result.gaps[rows()[i - 1]].id <= result.gaps[rows()[i]].id);
        QVERIFY(w.click(fit, app::Act::NextFilter)); // short ones
        QCOMPARE(rows().size(), static_cast<std::size_t>(std::count_if(result.gaps.begin(), result.gaps.end(),
                                                                       [](const auto& g) { return g.isShort(); })));
        QVERIFY(rows().size() < result.gaps.size());
        QTest::keyClick(fit, Qt::Key_D); // open or short
        QVERIFY(rows().size() > 1 && rows().size() < result.gaps.size());
        QTest::keyClick(fit, Qt::Key_D); // of the selected part
        w.context.selection.select(core::PartRef{"card"});
        QVERIFY(!rows().empty());
        for (const std::size_t i : rows())
            QVERIFY(result.gaps[i].between[0].mount == "card" || result.gaps[i].between[1].mount == "card");
    }

    /// What harms elsewhere is no offer: folded away, counted, and there for who asks.
    void harmIsFoldedAway() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.window->resize(1280, 1400);
        w.document().selectRevision("R1");
        auto* fit = fitOf(w);
        fit->choose(List::Change);
        const auto offered = [&] {
            fit->grab();
            return std::count_if(fit->hits().begin(), fit->hits().end(),
                                 [](const app::Hit& h) { return h.is(app::Act::ApplyMend); });
        };
        const auto& mends = app::answered(fit->look().answers->mends).all;
        const auto harms =
            std::count_if(mends.begin(), mends.end(), [](const auto& m) { return m.mark() == core::Mark::Crossed; });
        QVERIFY(harms > 0);
        QCOMPARE(offered(), static_cast<std::ptrdiff_t>(mends.size()) - harms);
        QVERIFY(w.click(fit, app::Act::ShowHarm));
        QCOMPARE(offered(), static_cast<std::ptrdiff_t>(mends.size()));
        QVERIFY(w.click(fit, app::Act::ShowHarm));
        QCOMPARE(offered(), static_cast<std::ptrdiff_t>(mends.size()) - harms);
    }
    /// A zoomed drawing still says what it shows and how large, and goes back by a click; the key has what is hatched.
    void zoomedDrawingSaysWhereOneIs() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R10");
        auto* fit = fitOf(w);
        const auto words = [&] {
            return support::paintedWords(
                [&](app::Canvas& c, const QRectF& r) { app::paintFit(c, r, w.context.view(), fit->look()); },
                {790, 640});
        };
        QVERIFY(words().contains("keep clear"));
        QVERIFY(words().filter("as large").isEmpty());
        QTest::keyClick(fit, Qt::Key_Plus);
        QTest::keyClick(fit, Qt::Key_Plus);
        QVERIFY(fit->look().zoom > 1);
        QCOMPARE(words().filter("as large").size(), 1);
        QVERIFY(w.click(fit, app::Act::ShowAll));
        QCOMPARE(fit->look().zoom, 1.0);
    }
    /// An arrow goes on from where the cut is drawn, also where none was set; of a way in it moves the cut that is
    /// drawn.
    void everyListIsReachedByKeys_data() {
        using Rows = app::FitLook::List;
        QTest::addColumn<int>("list");
        QTest::newRow("gaps") << static_cast<int>(Rows::Gaps);
        QTest::newRow("measure") << static_cast<int>(Rows::Measure);
        QTest::newRow("room") << static_cast<int>(Rows::Room);
        QTest::newRow("going in") << static_cast<int>(Rows::GoingIn);
        QTest::newRow("leads") << static_cast<int>(Rows::Leads);
    }
    /// J goes through all rows of a list one after the other, also those out of sight that the drawing shows too.
    void everyListIsReachedByKeys() {
        QFETCH(int, list);
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11");
        w.window->resize(1100, 700);
        auto* fit = fitOf(w);
        fit->choose(static_cast<app::FitLook::List>(list));
        fit->answer();
        fit->grab();
        QTest::keyClick(fit, Qt::Key_PageDown); // from its beginning also where it was turned
        w.context.selection.select({});
        fit->grab();
        std::vector<core::Thing> round;
        std::vector<bool> listed;
        for (int i = 0; i < 400; ++i) {
            fit->stepSelection(1);
            fit->grab();
            const core::Thing now = w.context.selection.thing();
            if (!round.empty() && now == round.front())
                break;
            round.push_back(now);
            const auto& lists = fit->lists();
            listed.push_back(std::any_of(fit->hits().begin(), fit->hits().end(), [&](const app::Hit& hit) {
                const auto* place = hit.thing == now ? lists.at(hit.rect.center()) : nullptr;
                return place && place->id == "fit";
            }));
        }
        support::Things wanted;
        const auto& e = *w.document().result().evaluation;
        const auto answers = *fit->look().answers;
        switch (static_cast<app::FitLook::List>(list)) {
        case app::FitLook::List::Gaps:
            for (const std::size_t row : app::ladderRows(e.fit, fit->look(), {}))
                wanted.insert(e.fit.gaps[row].ref);
            break;
        case app::FitLook::List::Measure:
            for (const auto& next : *answers.measure.value)
                wanted.insert(core::DimensionRef{next.label});
            break;
        case app::FitLook::List::Room:
            for (const auto& room : *answers.rooms.value)
                wanted.insert(core::RoomRef{room.mount, room.own});
            break;
        case app::FitLook::List::GoingIn:
            for (const auto& way : *answers.ways.value)
                wanted.insert(core::WayRef{way.mount});
            break;
        default:
            for (const auto& route : e.wiring.routes)
                wanted.insert(route.ref);
        }
        support::Things met;
        int left = 0; // how often the list is left for the drawing, around the end as well
        for (std::size_t i = 0; i < round.size(); ++i) {
            if (wanted.contains(round[i])) {
                met.insert(round[i]);
                QVERIFY2(listed[i], qPrintable(support::text(round[i])));
            }
            left += listed[i] && !listed[(i + 1) % round.size()];
        }
        QCOMPARE(met.all, wanted.all); // in the order of the rows
        QVERIFY2(left <= 1, qPrintable(QString::number(left)));
    }
    void arrowsMoveTheCutThatIsDrawn() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        auto* fit = fitOf(w);
        const auto& build = w.document().result().evaluation->build;
        const core::Placed& cooler = *build.firstOf(core::PartKind::Cooler);
        QVERIFY(fit->cuts().a < 0);
        QTest::keyClick(fit, Qt::Key_Right); // A-A is drawn through the cooler
        QCOMPARE_LE(std::abs(fit->cuts().a - 0.5 * (cooler.lowAt[1].mm() + cooler.highAt[1].mm()) - 1), 1e-9);
        const double a = fit->cuts().a;
        fit->choose(app::FitLook::List::GoingIn);
        fit->answer();
        w.context.selection.select(core::WayRef{"card"});
        fit->grab();
        const core::Axis axis = app::movedCut(w.context.view(), fit->look(), w.context.selection.thing()).axis;
        QVERIFY(axis != core::Axis::Y);
        const core::Placed& card = *build.at("card");
        const std::size_t k = core::index(axis);
        QTest::keyClick(fit, Qt::Key_Right);
        QCOMPARE_LE(std::abs((axis == core::Axis::X ? fit->cuts().b : fit->cuts().c) -
                             0.5 * (card.lowAt[k].mm() + card.highAt[k].mm()) - 1),
                    1e-9);
        QCOMPARE(fit->cuts().a, a);
    }
    void slidersZoomAndPan() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        auto* fit = fitOf(w);
        for (const auto& [axis, at] : {std::pair{core::Axis::Y, &app::Cuts::a}, std::pair{core::Axis::X, &app::Cuts::b},
                                       std::pair{core::Axis::Z, &app::Cuts::c}}) {
            const auto hit = w.place(fit, app::Handle{.act = app::Act::DragCut, .axis = axis});
            QVERIFY(hit);
            const QPoint quarter(static_cast<int>(hit->rect.left() + hit->rect.width() / 4),
                                 hit->rect.center().toPoint().y());
            QTest::mouseClick(fit, Qt::LeftButton, {}, quarter);
            QVERIFY(fit->cuts().*at > 0);
        }
        const auto before = w.place(fit, core::PartRef{"card"});
        QVERIFY(before);
        fit->zoomBy(2, before->rect.center());
        const auto after = w.place(fit, core::PartRef{"card"});
        QVERIFY(after && after->rect.width() > 1.2 * before->rect.width());
        QCOMPARE(fit->look().zoom, 2.0);
        // Drag moves the paper.
        const QPointF pan = fit->look().pan;
        const auto paper = w.place(fit, app::Act::MoveSheet);
        QPoint empty;
        for (int x = 30; x < 500 && empty.isNull(); x += 7)
            for (int y = 80; y < 400 && empty.isNull(); y += 7)
                if (const auto* hit = fit->hitAt(QPointF(x, y)); hit && hit->is(app::Act::MoveSheet))
                    empty = {x, y};
        QVERIFY(paper && !empty.isNull());
        QTest::mousePress(fit, Qt::LeftButton, {}, empty);
        QMouseEvent move(QEvent::MouseMove, empty + QPointF(30, 20), fit->mapToGlobal(empty + QPointF(30, 20)),
                         Qt::NoButton, Qt::LeftButton, {});
        QApplication::sendEvent(fit, &move);
        QTest::mouseRelease(fit, Qt::LeftButton);
        QCOMPARE(fit->look().pan, pan + QPointF(30, 20));
        QTest::keyClick(fit, Qt::Key_0);
        QCOMPARE(fit->look().zoom, 1.0);
        // The wheel zooms over the drawing and turns the list over the list.
        const auto wheel = [&](const QPointF& at, int delta) {
            QWheelEvent event(at, fit->mapToGlobal(at), {}, {0, delta}, Qt::NoButton, {}, Qt::NoScrollPhase, false);
            QApplication::sendEvent(fit, &event);
        };
        wheel(empty, 120);
        QVERIFY(fit->look().zoom > 1);
        const auto list = w.place(fit, app::Act::TurnList);
        QVERIFY(list);
        wheel(list->rect.center(), -120);
        QCOMPARE(fit->lists().states.at("fit").top, std::size_t{1});
    }

    /// The heavy line of the ladder is called what it is, at every size.
    void theLadderNamesItsAxis() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R10");
        auto* fit = fitOf(w);
        for (const QSize size : {QSize(720, 600), QSize(790, 640), QSize(1100, 800), QSize(1500, 1100)})
            for (const int filter : {0, 1, 2, 3}) {
                app::FitLook look = fit->look();
                look.filter = static_cast<app::FitLook::Filter>(filter);
                const QStringList words = support::paintedWords(
                    [&](app::Canvas& c, const QRectF& r) { app::paintFit(c, r, w.context.view(), look); }, size);
                QVERIFY2(words.contains("need"), qPrintable(QStringLiteral("%1 %2").arg(size.width()).arg(filter)));
            }
    }

    /// The strip of the cut follows the zoom: what of the case it shows is what the section shows, and a click on it
    /// cuts there.
    void theStripFollowsTheZoom() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        auto* fit = fitOf(w);
        const auto strip = [&]() -> std::optional<app::Hit> {
            fit->grab();
            for (const app::Hit& hit : fit->hits())
                if (hit.is(app::Act::SlideCut))
                    return hit;
            return std::nullopt;
        };
        QCOMPARE(strip()->handle, (app::Handle{.act = app::Act::SlideCut}));
        const double depth = w.document().result().evaluation->build.insideAt[1].mm();
        for (int i = 0; i < 4; ++i)
            QTest::keyClick(fit, Qt::Key_Plus);
        const auto zoomed = strip();
        const double from = zoomed->handle.fromMm, to = zoomed->handle.toMm;
        QVERIFY(from >= 0 && to <= depth && to - from < depth && to > from);
        QVERIFY(fit->rect().contains(zoomed->rect.toRect().adjusted(0, 0, -1, -1)));
        QTest::mouseClick(fit, Qt::LeftButton, {}, zoomed->rect.center().toPoint());
        QCOMPARE_LE(std::abs(fit->cuts().a - (from + to) / 2), (to - from) / zoomed->rect.width() + 1e-6);
        QTest::keyClick(fit, Qt::Key_0);
        QCOMPARE(strip()->handle, (app::Handle{.act = app::Act::SlideCut}));
    }

    /// The list of Fit has a bar as every list has: its ends are the first and the last gap; keys reach every rung.
    void theLadderScrolls() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R3");
        w.window->resize(1100, 700);
        auto* fit = fitOf(w);
        const auto& gaps = w.document().result().evaluation->fit.gaps;
        const auto bar = w.place(fit, app::Handle{.act = app::Act::ScrollList, .list = "fit"});
        QVERIFY(bar);
        QVERIFY(!w.place(fit, gaps.back().ref));
        QTest::mouseClick(fit, Qt::LeftButton, {},
                          QPoint(static_cast<int>(bar->rect.center().x()), static_cast<int>(bar->rect.bottom()) - 2));
        QVERIFY(w.place(fit, gaps.back().ref));
        QTest::mouseClick(fit, Qt::LeftButton, {},
                          QPoint(static_cast<int>(bar->rect.center().x()), static_cast<int>(bar->rect.top()) + 2));
        QCOMPARE(fit->lists().states.at("fit").top, std::size_t{0});
        support::Things met;
        w.context.selection.select(gaps.front().ref);
        for (std::size_t i = 0; i < 6 * gaps.size(); ++i) {
            fit->grab();
            fit->stepSelection(1);
            met.insert(w.context.selection.thing());
        }
        for (const auto& gap : gaps)
            QVERIFY2(met.contains(gap.ref), gap.id.c_str());
        // What is selected elsewhere comes into sight.
        w.context.selection.select(gaps.back().ref);
        fit->grab();
        QVERIFY(fit->lists().states.at("fit").top > 0);
        QVERIFY(w.place(fit, gaps.back().ref));
    }

    /// A list that becomes shorter than it was turned shows what it has: here the gaps of one part, then those of
    /// another.
    void aShorterListIsNotEmpty() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R3");
        w.window->resize(1100, 700);
        auto* fit = fitOf(w);
        while (fit->look().filter != app::FitLook::Filter::Part)
            QTest::keyClick(fit, Qt::Key_D);
        const auto place = [&] {
            fit->grab();
            const auto& places = fit->lists().places;
            return *std::find_if(places.begin(), places.end(), [](const auto& p) { return p.id == "fit"; });
        };
        const auto turned = [&](const std::string& mount) { // to its end
            w.context.selection.select(core::PartRef{mount});
            for (int i = 0; i < 10; ++i) {
                fit->grab();
                QTest::keyClick(fit, Qt::Key_PageDown);
            }
            return place().rows;
        };
        std::string most, least;
        std::size_t many = 0, few = 1000;
        for (const core::Placed& p : w.document().result().evaluation->build.placed) {
            w.context.selection.select(core::PartRef{p.mount});
            const std::size_t rows = place().rows;
            if (rows > many) {
                many = rows;
                most = p.mount;
            }
            if (rows > 0 && rows < few) {
                few = rows;
                least = p.mount;
            }
        }
        QVERIFY(few < many);
        QCOMPARE(turned(most), many);
        QVERIFY2(
            fit->lists().states.at("fit").top >= few,
            qPrintable(QStringLiteral("%1 of %2, then %3").arg(fit->lists().states.at("fit").top).arg(many).arg(few)));
        w.context.selection.select(core::PartRef{least});
        QCOMPARE(place().rows, few);
        QVERIFY(place().shown > 0);
    }

    /// Tags of pins keep off the names of parts, on every revision and both themes.
    void pinsKeepOffNames() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        auto* fit = fitOf(w);
        for (const core::Revision& r : w.document().project().revisions) {
            w.document().selectRevision(r.id);
            fit->grab();
            std::vector<QRectF> tags;
            for (const app::Hit& hit : fit->hits())
                if (support::stands<core::GapRef>(hit) && hit.rect.width() < 80) {
                    for (const QRectF& other : tags)
                        QVERIFY2(!other.adjusted(3, 3, -3, -3).intersects(hit.rect), r.id.c_str());
                    tags.push_back(hit.rect.adjusted(0, 3, 0, -3)); // targets are grown to 24 px
                }
            QVERIFY(!tags.empty());
        }
    }

    void hoverIsLinked() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        auto* fit = fitOf(w);
        w.context.selection.hover(core::PartRef{"card"});
        const QImage hovered = fit->grab().toImage();
        w.context.selection.hover({});
        const QImage plain = fit->grab().toImage();
        int sections = 0;
        for (const app::Hit& hit : fit->hits())
            if (hit.thing == core::Thing(core::PartRef{"card"})) {
                const QRect edge = hit.rect.toRect().adjusted(-2, -2, 2, 2);
                sections += hovered.copy(edge) != plain.copy(edge) ? 1 : 0;
            }
        QVERIFY(sections >= 2); // outlined in every section that shows it
    }

    void nudging() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11");
        auto* fit = fitOf(w);
        w.context.selection.select(core::PartRef{"card"});
        const auto at = [&](std::size_t axis) {
            return w.document().result().evaluation->build.at("card")->lowAt[axis].mm();
        };
        const double y = at(1), z = at(2), x = at(0);
        QTest::keyClick(fit, Qt::Key_Left, Qt::AltModifier);
        QCOMPARE_LE(std::abs(at(1) - y + 0.5), 1e-9);
        QTest::keyClick(fit, Qt::Key_Up, Qt::AltModifier | Qt::ShiftModifier);
        QCOMPARE_LE(std::abs(at(2) - z - 5), 1e-9);
        QTest::keyClick(fit, Qt::Key_PageUp, Qt::AltModifier);
        QCOMPARE_LE(std::abs(at(0) - x - 0.5), 1e-9);
    }

    void measuresAreFilledIn() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R10");
        w.key(Qt::Key_M, Qt::ControlModifier);
        auto* table = w.dialog<QTableWidget>("measures");
        QVERIFY(table && table->rowCount() > 2);
        table->item(0, 2)->setText("not a number");
        w.openDialog()->accept();
        QVERIFY(w.openDialog()); // stays, with words
        const auto next = core::fit::measureNext(w.document().result().evaluation->fit);
        table->item(0, 2)->setText(QString::number(next[0].now.value.mm() - 0.2).replace('.', ','));
        w.openDialog()->accept();
        QApplication::processEvents();
        QVERIFY(!w.openDialog());
        const auto after = core::fit::measureNext(w.document().result().evaluation->fit);
        for (const auto& m : after)
            QVERIFY(!(m.origin == next[0].origin)); // a caliper was at it
        w.key(Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(core::fit::measureNext(w.document().result().evaluation->fit)[0].origin == next[0].origin);
    }

    void aNeedOfOnesOwn() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        auto* fit = fitOf(w);
        const auto gap = w.document().result().evaluation->fit.gaps.front();
        QVERIFY(w.click(fit, gap.ref));
        w.key(Qt::Key_G, Qt::ControlModifier);
        auto* need = w.dialog<QDoubleSpinBox>("need");
        QVERIFY(need);
        need->setValue(gap.nominal.mm() + 1);
        w.openDialog()->accept();
        QVERIFY(w.openDialog()); // asks why
        w.dialog<QLineEdit>("note")->setText("foam");
        w.openDialog()->accept();
        QApplication::processEvents();
        bool isShort = false;
        for (const auto& g : w.document().result().evaluation->fit.gaps)
            if (g.id == gap.id)
                isShort = g.isShort() && g.overridden == "foam";
        QVERIFY(isShort);
    }

    void ghostBeforePlacing() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R4");
        auto* fit = fitOf(w);
        const QImage before = fit->grab().toImage();
        w.window->addPart();
        auto* text = w.dialog<QLineEdit>("search");
        QTest::keyClicks(text, "80-15");
        auto* to = w.dialog<QComboBox>("place");
        QVERIFY(to->findData("top") >= 0);
        to->setCurrentIndex(to->findData("top"));
        QVERIFY(w.context.selection.ghost());
        QVERIFY(fit->look().ghost);
        QVERIFY(fit->grab().toImage() != before);
        w.openDialog()->reject();
        QApplication::processEvents();
        delete w.openDialog();
        QApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
        QVERIFY(!fit->look().ghost);
    }

    void ownPartAsksWhatMattersForItsKind() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.window->addPart();
        auto* text = w.dialog<QLineEdit>("search");
        auto* list = w.dialog<QListWidget>("shelf");
        const auto asked = [&](const char* field) {
            const auto* row = w.openDialog()->findChild<QWidget*>(field);
            return row && row->isVisible();
        };
        QTest::keyClicks(text, "cable of your own");
        QCOMPARE(list->count(), 1);
        QVERIFY(asked("length_mm") && asked("family") && !asked("width") && !asked("power_w") && !asked("socket"));
        text->clear();
        QTest::keyClicks(text, "adapter of your own");
        QVERIFY(asked("gives") && asked("needs") && !asked("length_mm") && !asked("width"));
        w.openDialog()->findChild<QLineEdit*>("gives")->setText("sata-power 2");
        w.openDialog()->findChild<QLineEdit*>("needs")->setText("molex-4");
        w.openDialog()->findChild<QLineEdit*>("name")->setText("Y lead");
        QTest::keyClick(text, Qt::Key_Return);
        QApplication::processEvents();
        const core::Part& part = w.document().project().shelf.back();
        QCOMPARE(part.name, std::string("Y lead"));
        QVERIFY(part.gives == (std::map<std::string, int>{{"sata-power", 2}}) &&
                part.needs == (std::map<std::string, int>{{"molex-4", 1}}));
    }

    /// On a low window the dialog keeps its buttons in sight, and its fields scroll.
    void thePartDialogFitsALowWindow() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.window->resize(1100, 700);
        w.window->addPart();
        QWidget* dialog = w.openDialog();
        QVERIFY(dialog);
        QVERIFY2(dialog->height() <= w.window->height() - 70, qPrintable(QString::number(dialog->height())));
        const auto* buttons = dialog->findChild<QDialogButtonBox*>();
        QVERIFY(dialog->rect().contains(buttons->geometry()));
    }

    void shelfOutAndIn() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        app::PartDialog dialog(w.context, w.window.get());
        QVERIFY(dialog.exportShelf(dir.filePath("shelf.json")));
        const auto count = w.document().project().shelf.size();
        const auto read = dialog.importShelf(dir.filePath("shelf.json"));
        QVERIFY(read && *read == static_cast<int>(count));
        QCOMPARE(w.document().project().shelf.size(), 2 * count);
        const auto wrong = dialog.importShelf(dir.filePath("none.json"));
        QVERIFY(!wrong && !wrong.error().remedy.empty());
    }

    /// Where nothing fits, a table of things that do not is no answer: what is short whatever is chosen is named.
    void searchThatFindsNothingSaysWhy() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R5"); // the caddy does not go in
        w.window->searchCombinations();
        auto* start = w.dialog<QPushButton>("startSearch");
        QDialog* dialog = w.openDialog();
        QTest::mouseClick(start, Qt::LeftButton);
        auto* words = w.dialog<QLabel>("searchWords");
        QVERIFY(words);
        QTRY_VERIFY2(words->text().contains("None of"), qPrintable(words->text()));
        QVERIFY2(words->text().contains("caddy", Qt::CaseInsensitive) && words->text().contains("whatever is chosen"),
                 qPrintable(words->text()));
        QCOMPARE(w.dialog<QTableWidget>("combinations")->rowCount(), 0);
        QVERIFY(!w.dialog<QPushButton>("applyCombination")->isEnabled());
        dialog->close();
    }
    void searchInTheBackground() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R3");
        w.document().setBackground(true);
        w.window->searchCombinations();
        auto* start = w.dialog<QPushButton>("startSearch");
        QVERIFY(start);
        auto* progress = w.dialog<QProgressBar>("searchProgress");
        auto* words = w.dialog<QLabel>("searchWords");
        QTest::mouseClick(start, Qt::LeftButton);
        QTest::mouseClick(start, Qt::LeftButton); // the same button stops it
        QVERIFY2(words->text().contains("Stopped"), qPrintable(words->text()));
        QVERIFY(!progress->isVisible());
        QTest::mouseClick(start, Qt::LeftButton);
        QSignalSpy told(progress, &QProgressBar::valueChanged);
        auto* table = w.dialog<QTableWidget>("combinations");
        WAIT_VERIFY(table->rowCount() > 0);
        QVERIFY(told.count() > 2);
        auto* apply = w.dialog<QPushButton>("applyCombination");
        QVERIFY(apply->isEnabled());
        const auto before = w.document().project().revisions.size();
        QTest::mouseClick(apply, Qt::LeftButton);
        QApplication::processEvents();
        QCOMPARE(w.document().project().revisions.size(), before + 1);
        QVERIFY(!shortGap(w));
    }

    void sectionsAreExported_data() {
        QTest::addColumn<QString>("suffix");
        QTest::addColumn<bool>("trueSize");
        for (const char* suffix : {"pdf", "svg", "dxf"})
            for (const bool trueSize : {true, false})
                QTest::addRow("%s %s", suffix, trueSize ? "1:1" : "fitted") << QString(suffix) << trueSize;
    }
    void sectionsAreExported() {
        QFETCH(QString, suffix);
        QFETCH(bool, trueSize);
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        const QString path = dir.filePath("sections." + suffix);
        auto* dialog = sectionsDialog(w);
        choose(dialog, "sheet", trueSize ? 0 : 1);
        choose(dialog, "scale", trueSize ? 0 : 2);
        QVERIFY(dialog->writeTo(path));
        QFile file(path);
        QVERIFY(file.open(QIODevice::ReadOnly));
        QVERIFY(file.size() > 2000);
        QVERIFY(!dialog->writeTo(dir.filePath("no/such/folder." + suffix)));
        QVERIFY(!dialog->writeTo(dir.filePath("sections.bmp")));
    }
    static app::SectionsDialog* sectionsDialog(Window& w) {
        w.window->askSections();
        return w.window->findChild<app::SectionsDialog*>();
    }
    static void choose(QWidget* dialog, const char* name, int row) {
        dialog->findChild<QComboBox*>(QString::fromLatin1(name))->setCurrentIndex(row);
    }

    /// Before a name is asked for: what the sheet holds, a name with the revision, and a refusal of what does not fit.
    void sectionsAreShownBeforeTheyAreWritten() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        auto* dialog = sectionsDialog(w);
        const auto* ok = dialog->findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok);
        const auto* picture = dialog->findChild<QLabel*>("preview");
        const auto* words = dialog->findChild<QLabel*>("sheetWords");
        QVERIFY(ok->isEnabled());
        QVERIFY2(words->text().contains("1:1.") || words->text().contains("1:1 "), qPrintable(words->text()));
        const QImage large = picture->pixmap().toImage();
        QVERIFY(!large.isNull());
        choose(dialog, "sheet", 1); // A4 at true size: the demo is larger
        QVERIFY(!ok->isEnabled());
        QVERIFY2(dialog->problem().contains("too small"), qPrintable(dialog->problem()));
        choose(dialog, "scale", 2);
        QVERIFY(ok->isEnabled());
        QVERIFY(dialog->problem().isEmpty());
        QVERIFY(picture->pixmap().toImage() != large);
        QVERIFY2(words->text().contains("297"), qPrintable(words->text()));
        const auto layout = dialog->layoutChosen();
        QVERIFY(layout && layout->scale < 1);
        QVERIFY2(words->text().contains(QString::number(50 * layout->scale, 'f', 1)), qPrintable(words->text()));
        // An ending that is added replaces no file that nobody was asked about.
        QFile there(dir.filePath("mine.pdf"));
        QVERIFY(there.open(QIODevice::WriteOnly));
        QVERIFY(!dialog->completed(dir.filePath("mine")));
        QCOMPARE(dialog->completed(dir.filePath("mine.pdf")).value(), dir.filePath("mine.pdf"));
        QCOMPARE(dialog->completed(dir.filePath("other")).value(), dir.filePath("other.pdf"));
        choose(dialog, "kind", 2);
        QVERIFY2(dialog->proposedName().contains(QString::fromStdString(w.document().revision())) &&
                     dialog->proposedName().endsWith(".dxf"),
                 qPrintable(dialog->proposedName()));
    }

    /// What is short on the port map is mended by a click on an adapter of the shelf.
    void adapterFromThePortMap() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        (void)w.document().edit("test", [](core::Project& p) {
            core::Part hub{.id = "hub",
                           .kind = core::PartKind::Adapter,
                           .name = "Hub",
                           .gives = {{"tacho", 1}},
                           .needs = {{"fan", 1}}};
            hub.spec = core::AdapterSpec{};
            p.shelf.push_back(hub);
            for (core::Part& part : p.shelf)
                if (part.id == "card-168e")
                    part.needs["tacho"] = 1;
        });
        w.window->setStation(0);
        auto* brief = w.window->page(0);
        QVERIFY(w.document().result().evaluation->wiring.ports.isShort("tacho"));
        QVERIFY(w.click(brief, app::Handle{.act = app::Act::UseAdapter, .of = core::LeadRef{"hub", {}}}));
        QVERIFY(!w.document().result().evaluation->wiring.ports.isShort("tacho"));
    }
};
} // namespace tst_fit_window
MD_TEST(tst_fit_window, FitWindowTest)
#include "tst_fit_window.moc"
