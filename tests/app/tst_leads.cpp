// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/brief/brief_page.h"
#include "app/stations/fit/fit_page.h"
#include "app/ui/fields/points_edit.h"
#include "support/registry.h"
#include "support/things.h"
#include "support/window.h"

#include <QComboBox>
#include <QMenu>

namespace tst_leads {

using support::Window;

namespace {

const core::LeadRef epsLead{"lead-eps", "front-bay:eps-8", 1};

app::FitPage* fitWithLeads(Window& w) {
    w.window->setStation(1);
    auto* fit = static_cast<app::FitPage*>(w.window->page(1));
    QTest::keyClick(fit, Qt::Key_L);
    return fit;
}
const core::fit::LeadRoute& way(Window& w, const core::LeadRef& lead) {
    for (const auto& route : w.document().result().evaluation->wiring.routes)
        if (route.ref == lead)
            return route;
    qFatal("the lead is not plugged in");
}
std::vector<core::fit::Point> corners(Window& w) { return core::fit::cornersOf(way(w, epsLead)); }

void drag(QWidget* on, const QPointF& from, const QPointF& to, Qt::KeyboardModifiers keys = {}) {
    const auto send = [&](QEvent::Type type, const QPointF& at, Qt::MouseButton button, Qt::MouseButtons held) {
        QMouseEvent event(type, at, on->mapToGlobal(at), button, held, keys); // also where one would have to scroll to
        QCoreApplication::sendEvent(on, &event);
    };
    send(QEvent::MouseButtonPress, from, Qt::LeftButton, Qt::LeftButton);
    for (int i = 1; i <= 4; ++i) {
        send(QEvent::MouseMove, from + (to - from) * i / 4.0, Qt::NoButton, Qt::LeftButton);
    }
    send(QEvent::MouseButtonRelease, to, Qt::LeftButton, Qt::NoButton);
    QApplication::processEvents();
}
/// A place of the port map that holds this plug of this part.
QPointF plugAt(Window& w, app::Act act, const std::string& mount, const std::string& kind) {
    const auto& ports = w.document().result().evaluation->wiring.ports;
    auto* brief = w.window->page(0);
    brief->grab();
    for (const app::Hit& hit : brief->hits()) {
        const auto row = static_cast<std::size_t>(std::max(0, hit.handle.row));
        if (hit.is(act) &&
            (act == app::Act::DragSocket ? ports.sockets[row].giver.mount == mount && ports.sockets[row].kind == kind
                                         : ports.needs[row].taker.mount == mount && ports.needs[row].kind == kind))
            return hit.rect.center();
    }
    qFatal("%s %s is not on the map", mount.c_str(), kind.c_str());
}
QMenu* leadMenu(Window& w) {
    for (QMenu* menu : w.window->page(0)->findChildren<QMenu*>("leadMenu"))
        if (menu->isVisible())
            return menu;
    return nullptr;
}
void chooseFrom(QMenu* menu, const QString& begins) {
    for (QAction* action : menu->actions())
        if (action->text().startsWith(begins)) {
            action->trigger();
            menu->close();
            return QApplication::processEvents();
        }
    qFatal("no entry begins with %s", qPrintable(begins));
}

} // namespace

/// Leads on the sections and on the port map, by mouse and by keys.
class LeadsTest : public QObject {
    Q_OBJECT
private slots:
    void initTestCase() { QStandardPaths::setTestModeEnabled(true); }

    /// Listed with its slack and where it is only an estimate; drawn only while leads are listed or it is selected.
    void theyAreListedAndDrawn() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        auto* fit = fitWithLeads(w);
        const auto row = w.place(fit, epsLead);
        QVERIFY(row);
        QVERIFY2(row->name.contains("slack") && row->name.contains("estimate"), qPrintable(row->name));
        const auto places = [&] {
            fit->grab();
            return std::count_if(fit->hits().begin(), fit->hits().end(),
                                 [](const app::Hit& hit) { return hit.thing == core::Thing(epsLead); });
        };
        QVERIFY(places() > 3);
        QTest::keyClick(fit, Qt::Key_G);
        QCOMPARE(places(), 0);
        w.context.selection.select(epsLead);
        QVERIFY(places() > 2);
    }
    /// Each step is one of undo: a corner by double-click, dragged, nudged, one more, taken out, none.
    void cornersByMouseAndKeys() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11"); // nothing was logged of it
        auto* fit = fitWithLeads(w);
        QVERIFY(w.click(fit, epsLead));
        const auto before = corners(w);
        QVERIFY(!way(w, epsLead).stated);
        const int steps = w.document().undoStack().count();
        QPointF on; // its longest stretch on a section
        double longest = 0;
        fit->grab();
        for (const app::Hit& hit : fit->hits())
            if (hit.thing == core::Thing(epsLead) && app::fitDrawing(fit->inside()).contains(hit.rect.center()) &&
                std::max(hit.rect.width(), hit.rect.height()) > longest) {
                longest = std::max(hit.rect.width(), hit.rect.height());
                on = hit.rect.center();
            }
        QTest::mouseDClick(fit, Qt::LeftButton, {}, on.toPoint());
        QApplication::processEvents();
        QVERIFY(way(w, epsLead).stated);
        QCOMPARE(corners(w).size(), before.size() + 1);
        QCOMPARE(w.document().undoStack().count(), steps + 1);
        const int corner = fit->look().leadCorner;
        QVERIFY(corner >= 0);
        const auto hit = w.place(fit, app::Handle{.act = app::Act::DragCorner, .row = corner});
        QVERIFY(hit);
        const auto set = corners(w)[static_cast<std::size_t>(corner)];
        drag(fit, hit->rect.center(), hit->rect.center() + QPointF(30, 20), Qt::AltModifier);
        const auto moved = corners(w)[static_cast<std::size_t>(corner)];
        int axes = 0;
        for (std::size_t k = 0; k < 3; ++k)
            axes += moved[k] != set[k] ? 1 : 0;
        QCOMPARE(axes, 2); // those of the section, the third stays
        QCOMPARE(w.document().undoStack().count(), steps + 2);
        QTest::keyClick(fit, Qt::Key_Up, Qt::AltModifier);
        QCOMPARE_LE(std::abs(corners(w)[static_cast<std::size_t>(corner)][2] - moved[2] - 0.5), 1e-9);
        QTest::keyClick(fit, Qt::Key_Insert);
        QCOMPARE(corners(w).size(), before.size() + 2);
        w.window->activateWindow();
        fit->setFocus();
        QTest::keyClick(fit, Qt::Key_Delete); // the corner, not the lead
        QCOMPARE(corners(w).size(), before.size() + 1);
        const int last = fit->look().leadCorner;
        QTest::keyClick(fit, Qt::Key_N);
        QCOMPARE(fit->look().leadCorner, (last + 1) % static_cast<int>(before.size() + 1));
        // One change of the revision, however often it was dragged.
        const auto& changes = w.document().project().revision("R11")->changes;
        QCOMPARE(std::count_if(changes.begin(), changes.end(),
                               [](const auto& c) { return std::holds_alternative<core::RouteLead>(c); }),
                 1);
        while (w.document().undoStack().index() > steps)
            w.key(Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(!way(w, epsLead).stated);
        QCOMPARE(corners(w), before);
    }
    void aDragIsDroppedWithEscape() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        auto* fit = fitWithLeads(w);
        QVERIFY(w.click(fit, epsLead));
        const int steps = w.document().undoStack().count();
        const auto hit = w.place(fit, app::Handle{.act = app::Act::DragCorner, .row = 0});
        QVERIFY(hit);
        const QPointF from = hit->rect.center(), to = from + QPointF(40, 40);
        QTest::mousePress(fit, Qt::LeftButton, {}, from.toPoint());
        QMouseEvent move(QEvent::MouseMove, to, fit->mapToGlobal(to), Qt::NoButton, Qt::LeftButton, {});
        QCoreApplication::sendEvent(fit, &move);
        QVERIFY(fit->look().leadTrial);
        QTest::keyClick(fit, Qt::Key_Escape);
        QVERIFY(!fit->look().leadTrial);
        QTest::mouseRelease(fit, Qt::LeftButton, {}, to.toPoint());
        QCOMPARE(w.document().undoStack().count(), steps);
    }
    /// Typed or pasted as a table, with units, sums and a decimal comma; what cannot be read is said by its line.
    void cornersAreTyped() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        auto* fit = fitWithLeads(w);
        QVERIFY(w.click(fit, app::Handle{.act = app::Act::StateCorners, .of = epsLead}));
        auto* points = w.dialog<app::PointsEdit>("points_mm");
        QVERIFY(points);
        auto* dialog = w.openDialog();
        points->setPlainText("20 40 20\n20 forty 20");
        dialog->findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok)->click();
        QVERIFY(dialog->isVisible());
        QVERIFY2(static_cast<app::FormDialog*>(dialog)->problem().contains("line 2") &&
                     static_cast<app::FormDialog*>(dialog)->problem().contains("forty"),
                 qPrintable(static_cast<app::FormDialog*>(dialog)->problem()));
        QVERIFY(!way(w, epsLead).stated);
        points->setPlainText("20\t40,5\t20\n2 in;200+10;20");
        QVERIFY2(dialog->findChild<QLabel*>("way")->text().contains("bends"),
                 qPrintable(dialog->findChild<QLabel*>("way")->text()));
        dialog->findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok)->click();
        QApplication::processEvents();
        QCOMPARE(corners(w), (std::vector<core::fit::Point>{{20, 40.5, 20}, {50.8, 210, 20}}));
        w.context.selection.select(epsLead);
        for (QAction* action : w.window->menuOf(epsLead)->actions())
            if (action->text().contains("ges again"))
                action->trigger();
        QVERIFY(!way(w, epsLead).stated);
    }
    void inInchesItIsInches() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.context.settings.units.inch = true;
        auto* fit = fitWithLeads(w);
        QVERIFY(w.click(fit, app::Handle{.act = app::Act::StateCorners, .of = epsLead}));
        auto* points = w.dialog<app::PointsEdit>("points_mm");
        points->setPlainText("1 2 3");
        w.openDialog()->findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok)->click();
        QCOMPARE(corners(w).size(), 1U);
        for (std::size_t k = 0; k < 3; ++k)
            QCOMPARE_LE(std::abs(corners(w)[0][k] - 25.4 * static_cast<double>(k + 1)), 1e-9);
    }
    /// A plug is dragged off, and a lead is chosen by its length for where it was.
    void unpluggedAndPluggedByDragging() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11");
        w.window->setStation(0);
        auto* brief = w.window->page(0);
        const auto joined = [&] { return w.document().result().evaluation->build.joined.size(); };
        const std::size_t before = joined();
        drag(brief, plugAt(w, app::Act::DragPlug, "tray", "eps-8"), QPointF(300, 20));
        QCOMPARE(joined(), before - 1);
        const int steps = w.document().undoStack().count();
        drag(brief, plugAt(w, app::Act::DragSocket, "front-bay", "eps-8"),
             plugAt(w, app::Act::DragPlug, "tray", "eps-8"));
        QMenu* menu = leadMenu(w);
        QVERIFY(menu);
        QStringList words;
        for (const QAction* action : menu->actions())
            words << action->text();
        QVERIFY2(words.filter("8-pin lead 330, 330.0").size() == 1 && words.filter("fits").size() >= 1,
                 qPrintable(words.join('\n')));
        chooseFrom(menu, "New: eps-8 lead");
        QCOMPARE(joined(), before);
        QCOMPARE(w.document().undoStack().count(), steps + 1);
        const auto& made = w.document().result().evaluation->build.joined.back();
        QCOMPARE(made.from, std::string("front-bay:eps-8"));
        QVERIFY(std::get<core::CableSpec>(made.part->spec).lengthMm >=
                1.1 * way(w, {made.part->id, made.from, 1}).wayMm);
        w.key(Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(joined(), before - 1);
        QVERIFY(!w.document().project().part("lead-eps-8"));
    }
    /// A socket is a thing of its own: clicked it is selected, and Working says who sits in it; its name is the part.
    void aSocketIsSelected() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11");
        w.window->setStation(0);
        auto* brief = w.window->page(0);
        brief->grab();
        const core::Thing socket = core::PortRef{"front-bay", "eps-8", 0};
        const auto placesOf = [&](const core::Thing& thing) {
            std::vector<QPoint> places;
            for (const app::Hit& hit : brief->hits())
                if (hit.thing == thing)
                    places.push_back(hit.rect.center().toPoint());
            return places;
        };
        const auto ends = placesOf(socket);
        QCOMPARE(ends.size(), std::size_t{2}); // where it is given, and where the plug that sits in it is
        for (const QPoint& end : ends) {
            w.context.selection.select({});
            QTest::mouseClick(brief, Qt::LeftButton, {}, end);
            QCOMPARE(support::text(w.context.selection.thing()), support::text(socket));
        }
        const auto working = app::workingOf(w.context.view(), socket);
        QVERIFY(working && working->known);
        const auto& map = w.document().result().evaluation->wiring.ports;
        const auto& need =
            map.needs[static_cast<std::size_t>(core::rules::socketOf(map, std::get<core::PortRef>(socket))->takenBy)];
        QVERIFY(core::english(working->sentence).find(need.taker.name) != std::string::npos);
        QTest::mouseClick(brief, Qt::LeftButton, {},
                          plugAt(w, app::Act::DragSocket, "front-bay", "eps-8").toPoint()); // the middle of its row
        QCOMPARE(support::text(w.context.selection.thing()), support::text(core::PartRef{"front-bay"}));
        // It is dragged by either half.
        drag(brief, ends.front(), plugAt(w, app::Act::DragPlug, "tray", "eps-8"));
        QVERIFY(leadMenu(w));
        leadMenu(w)->close();
    }
    /// A plug that has one is given another: the old one is out, in one step.
    void anotherLeadInItsPlace() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11");
        w.window->setStation(0);
        const std::size_t before = w.document().result().evaluation->build.joined.size();
        drag(w.window->page(0), plugAt(w, app::Act::DragPlug, "tray", "eps-8"),
             plugAt(w, app::Act::DragSocket, "front-bay", "eps-8"));
        QVERIFY(leadMenu(w));
        chooseFrom(leadMenu(w), "New: eps-8 lead");
        QCOMPARE(w.document().result().evaluation->build.joined.size(), before);
        const auto& all = w.document().result().evaluation->build.joined;
        QVERIFY(std::none_of(all.begin(), all.end(), [](const auto& j) { return j.part->id == "lead-eps"; }));
    }
    /// A socket of an adapter is dragged to a plug, a plug of it off, and its own plug to another socket.
    void anAdapterByDragging() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11");
        QVERIFY(w.document().addChange(core::Connect{"fan-hub", "tray:fan", {"side-a:fan"}}));
        w.window->setStation(0);
        auto* brief = w.window->page(0);
        const auto hub = [&] {
            for (const auto& j : w.document().result().evaluation->build.joined)
                if (j.part->id == "fan-hub")
                    return j;
            return core::Joined{};
        };
        /// A place of the map that belongs to the adapter.
        const auto ofHub = [&](app::Act act) {
            const auto& ports = w.document().result().evaluation->wiring.ports;
            brief->grab();
            for (const app::Hit& hit : brief->hits()) {
                const auto row = static_cast<std::size_t>(std::max(0, hit.handle.row));
                if (hit.is(act) &&
                    (act == app::Act::DragSocket ? ports.sockets[row].giver.isLead && ports.sockets[row].takenBy < 0
                                                 : ports.needs[row].taker.isLead && ports.needs[row].kind == "fan"))
                    return hit.rect.center();
            }
            qFatal("the adapter is not on the map");
        };
        QCOMPARE(hub().to.size(), 1U);
        const int steps = w.document().undoStack().count();
        drag(brief, ofHub(app::Act::DragSocket), plugAt(w, app::Act::DragPlug, "top", "fan"));
        QVERIFY(leadMenu(w));
        chooseFrom(leadMenu(w), "Into Fan splitter");
        QCOMPARE(hub().to, (std::vector<std::string>{"side-a:fan", "top:fan"}));
        QCOMPARE(w.document().undoStack().count(), steps + 1);
        drag(brief, plugAt(w, app::Act::DragPlug, "side-a", "fan"), QPointF(300, 20));
        QCOMPARE(hub().to, std::vector<std::string>{"top:fan"});
        drag(brief, ofHub(app::Act::DragPlug), plugAt(w, app::Act::DragSocket, "tray", "fan"));
        QVERIFY(leadMenu(w));
        chooseFrom(leadMenu(w), "Feed Fan splitter from");
        QCOMPARE(hub().from, std::string("tray:fan"));
        drag(brief, ofHub(app::Act::DragPlug), QPointF(300, 20));
        QVERIFY(!hub().part);
        for (int i = 0; i < 4; ++i)
            w.key(Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(hub().to, std::vector<std::string>{"side-a:fan"});
    }
    /// A lead with two ends: the corners of the line that was clicked.
    void theEndThatIsClicked() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11");
        core::Part twin = *w.document().project().part("lead-card");
        twin.id = "twin";
        QVERIFY(w.document().edit("twin", [&](core::Project& p) { p.shelf.push_back(twin); }));
        QVERIFY(w.document().addChange(core::Connect{"twin", "front-bay:eps-8", {"tray:eps-8", "top:fan"}}));
        auto* fit = fitWithLeads(w);
        const core::LeadRef lead{"twin", "front-bay:eps-8", 1};
        const auto far = [&](std::size_t end) {
            for (const auto& route : w.document().result().evaluation->wiring.routes)
                if (route.ref == lead && route.end == end)
                    return route.points[route.points.size() - 2];
            return core::fit::Point{};
        };
        for (const std::size_t end : {std::size_t{1}, std::size_t{0}}) {
            w.context.selection.select(lead);
            fit->grab();
            const app::Sheet sheet = app::sheetOf(app::fitDrawing(fit->inside()), w.context.view(), fit->look());
            const QPointF at = sheet.side.point(far(end));
            QTest::mouseDClick(fit, Qt::LeftButton, {}, at.toPoint());
            QApplication::processEvents();
            QCOMPARE(fit->look().leadEnd, end);
        }
    }
    void deleteUnplugsTheLeadThatIsSelected() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11");
        fitWithLeads(w);
        w.context.selection.select(epsLead);
        w.key(Qt::Key_Delete);
        const auto& all = w.document().result().evaluation->build.joined;
        QVERIFY(std::none_of(all.begin(), all.end(), [](const auto& j) { return j.part->id == "lead-eps"; }));
    }
};
} // namespace tst_leads
MD_TEST(tst_leads, LeadsTest)
#include "tst_leads.moc"
