// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/brief/brief_page.h"
#include "app/stations/brief/start_dialog.h"
#include "app/stations/fit/box_editor.h"
#include "app/stations/fit/fit_page.h"
#include "app/ui/dialogs/details_dialog.h"
#include "app/ui/fields/number_box.h"
#include "app/ui/shell/begin_elsewhere.h"
#include "app/ui/shell/revision_rail.h"
#include "app/ui/shell/working_panel.h"
#include "support/patience.h"
#include "support/registry.h"
#include "support/window.h"

#include <QComboBox>
#include <QLabel>
#include <QListWidget>
#include <QMenu>

namespace tst_own_box {

using support::Window;

namespace {

/// What a builder does, counted: a click, a key, a text typed into a field.
struct Hands {
    Window w;
    int actions = 0;

    bool start(const std::string& arrangement, const QString& name,
               const std::vector<std::pair<const char*, QString>>& sizes) {
        QTest::mouseClick(w.window->page(0)->findChild<QPushButton*>("start0"), Qt::LeftButton);
        ++actions;
        auto* grid = w.dialog<app::ArrangementGrid>("arrangements");
        if (!grid)
            return false;
        const auto all = core::arrange::arrangements();
        for (int row = 0; row < static_cast<int>(all.size()); ++row)
            if (all[static_cast<std::size_t>(row)].id == arrangement) {
                const QModelIndex at = grid->model()->index(row, 0);
                grid->scrollTo(at);
                QTest::mouseClick(grid->viewport(), Qt::LeftButton, {}, grid->visualRect(at).center());
                ++actions;
            }
        QApplication::processEvents();
        auto* title = w.dialog<QLineEdit>("name");
        title->setFocus();
        title->selectAll();
        QTest::keyClicks(title, name);
        ++actions;
        for (const auto& [key, text] : sizes) {
            auto* box = w.dialog<QDoubleSpinBox>(key);
            box->setFocus();
            box->selectAll();
            QTest::keyClicks(box, text);
            ++actions;
        }
        QTest::keyClick(title, Qt::Key_Return, Qt::ControlModifier);
        ++actions;
        QApplication::processEvents();
        return !w.openDialog() && !w.document().project().revisions.empty();
    }
    /// By keyboard: search, place, Enter. Answers what went wrong.
    QString add(const QString& search, const QString& place) {
        w.key(Qt::Key_A, Qt::ControlModifier | Qt::ShiftModifier);
        auto* text = w.dialog<QLineEdit>("search");
        if (!text)
            return "no dialog";
        QTest::keyClicks(text, search);
        auto* to = w.dialog<QComboBox>("place");
        if (w.dialog<QListWidget>("shelf")->count() == 0)
            return "nothing found for " + search;
        if (!place.isEmpty() && to->findData(place) < 0)
            return place + " is not offered for " + search;
        if (!place.isEmpty() && to->currentData().toString() != place) {
            to->setCurrentIndex(to->findData(place));
            ++actions;
        }
        QTest::keyClick(text, Qt::Key_Return);
        actions += 3; // the key, the search, Enter
        QApplication::processEvents();
        return w.openDialog() ? "still open: " + search : QString();
    }
    QString addAll(const std::vector<std::pair<const char*, const char*>>& parts) {
        for (const auto& [search, place] : parts)
            if (const QString wrong = add(QString::fromUtf8(search), QString::fromUtf8(place)); !wrong.isEmpty())
                return wrong;
        return {};
    }
    app::BoxEditor* editBox() {
        w.window->setStation(1);
        QTest::keyClick(w.window->page(1), Qt::Key_E);
        actions += 2;
        return static_cast<app::FitPage*>(w.window->page(1))->boxEditor();
    }
    /// An entry of the menu of *Add*.
    bool choose(app::BoxEditor* e, const QString& menu, const QString& entry) {
        for (QAction* group : e->findChild<QPushButton*>("boxAdd")->menu()->actions())
            if (group->menu() && group->text() == menu)
                for (QAction* action : group->menu()->actions())
                    if (action->text() == entry) {
                        action->trigger();
                        actions += 3;
                        QApplication::processEvents();
                        return true;
                    }
        return false;
    }
    void field(app::BoxEditor* e, const char* key, const QString& text) {
        if (auto* box = e->form()->findChild<app::NumberBox*>(key)) {
            box->setFocus();
            box->selectAll();
            QTest::keyClicks(box, text);
            QTest::keyClick(box, Qt::Key_Return);
        } else if (auto* choice = e->form()->findChild<QComboBox*>(key)) {
            choice->setCurrentText(text);
        }
        actions += 2;
        QApplication::processEvents();
    }
    /// A socket at a place of a part of one's own: its menu, All details, Add, and the fields of the page.
    bool plug(const std::string& mount, const QString& kind, const std::array<double, 3>& at) {
        for (QAction* action : w.window->menuOf(core::PartRef{mount})->actions())
            if (action->text().remove('&').startsWith("All details"))
                action->trigger();
        auto* dialog = qobject_cast<app::DetailsDialog*>(w.openDialog());
        if (!dialog)
            return false;
        QTest::mouseClick(dialog->editor()->findChild<QPushButton*>("ports-add"), Qt::LeftButton);
        QApplication::processEvents();
        const auto type = [&](QLineEdit* edit, const QString& text) {
            edit->setFocus();
            edit->selectAll();
            QTest::keyClicks(edit, text);
            Q_EMIT edit->editingFinished(); // as leaving it does
        };
        type(dialog->editor()->findChild<QLineEdit*>("id"), kind);
        dialog->editor()->findChild<QComboBox*>("kind")->setCurrentText(kind);
        for (std::size_t i = 0; i < 3; ++i) {
            auto* box = dialog->editor()->findChild<app::NumberBox*>(QString("at_mm%1").arg(i));
            box->setFocus();
            box->selectAll();
            QTest::keyClicks(box, QString::number(at[i]));
            if (!box->takeTyped())
                return false;
        }
        QTest::mouseClick(dialog->findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok), Qt::LeftButton);
        actions += 9;
        QApplication::processEvents();
        return !w.openDialog() && !w.document().result().evaluation->build.at(mount)->part->ports.empty();
    }
    /// Dragged in Brief from a socket to a plug, and the lead chosen that is made to length. Answers its id.
    std::string lead(const std::string& from, const std::string& to) {
        w.window->setStation(0);
        auto* brief = static_cast<app::BriefPage*>(w.window->page(0));
        brief->grab();
        const auto& ports = w.document().result().evaluation->wiring.ports;
        QPointF socket, plug;
        for (const app::Hit& hit : brief->hits()) {
            const auto row = static_cast<std::size_t>(std::max(0, hit.handle.row));
            if (hit.is(app::Act::DragSocket) && ports.sockets[row].giver.mount + ":" + ports.sockets[row].kind == from)
                socket = hit.rect.center();
            if (hit.is(app::Act::DragPlug) && ports.needs[row].taker.mount + ":" + ports.needs[row].kind == to)
                plug = hit.rect.center();
        }
        if (socket.isNull() || plug.isNull())
            return {};
        QTest::mousePress(brief, Qt::LeftButton, {}, socket.toPoint());
        QMouseEvent move(QEvent::MouseMove, plug, brief->mapToGlobal(plug), Qt::NoButton, Qt::LeftButton, {});
        QCoreApplication::sendEvent(brief, &move);
        QTest::mouseRelease(brief, Qt::LeftButton, {}, plug.toPoint());
        QApplication::processEvents();
        actions += 3; // the station, the drag, the choice
        for (QMenu* menu : brief->findChildren<QMenu*>("leadMenu"))
            if (menu->isVisible()) {
                menu->actions().back()->trigger();
                menu->close();
            }
        QApplication::processEvents();
        const auto& joined = w.document().result().evaluation->build.joined;
        return joined.empty() || joined.back().from != from ? std::string() : joined.back().part->id;
    }
    /// A corner of the lead, by its key, moved up by keys.
    bool route(const std::string& lead, const std::string& from) {
        w.window->setStation(1);
        auto* fit = static_cast<app::FitPage*>(w.window->page(1));
        if (fit->boxEditor() && fit->boxEditor()->isVisible())
            QTest::keyClick(fit->boxEditor()->sheet(), Qt::Key_E);
        QTest::keyClick(fit, Qt::Key_L);
        fit->grab();
        const core::Thing thing = core::LeadRef{lead, from, 1};
        std::optional<QPointF> row; // the one in the list stands last
        for (const app::Hit& hit : fit->hits())
            if (hit.thing == thing)
                row = hit.rect.center();
        if (!row)
            return false;
        QTest::mouseClick(fit, Qt::LeftButton, {}, row->toPoint());
        QTest::keyClick(fit, Qt::Key_Insert);
        QTest::keyClick(fit, Qt::Key_Up, Qt::AltModifier | Qt::ShiftModifier);
        actions += 5;
        for (const auto& way : w.document().result().evaluation->wiring.routes)
            if (way.ref.part == lead)
                return way.stated;
        return false;
    }
    [[nodiscard]] double litres() { return w.document().result().evaluation->fit.volumeL; }
    [[nodiscard]] QStringList warnings() {
        QStringList all;
        for (const auto& f : w.document().result().evaluation->findings)
            if (f.severity != core::rules::Severity::Note)
                all << QString::fromStdString(f.rule);
        return all;
    }
    /// Saved, opened again: the same project, the same findings.
    QString savedAndReopened(const QString& path) {
        const QStringList before = warnings();
        if (!w.window->saveTo(path))
            return "not saved";
        const core::Project saved = w.document().project();
        if (!w.window->openPath(path))
            return "not opened";
        if (!(w.document().project() == saved))
            return "another project came back";
        return warnings() == before ? QString() : "other findings: " + warnings().join(' ');
    }
};
} // namespace

/// Somebody's own box, from an empty window to its findings, by mouse and keys; three that differ in arrangement.
class OwnBoxTest : public QObject {
    Q_OBJECT
private slots:
    /// Before there is a project the start stands on the first station, beside which the others can be looked at; what
    /// was typed stays, and shows what it was before. Esc drops it.
    void theStartStandsOnTheFirstStation() {
        Window w;
        w.window->setStation(2);
        w.key(Qt::Key_N, Qt::ControlModifier); // there is no revision to come from
        auto* start = w.window->page(0)->findChild<QDialog*>("startProject");
        QVERIFY(start && start->isVisible() && !start->isWindow());
        QCOMPARE(w.window->station(), 0);
        QVERIFY(w.window->page(0)->rect().contains(start->geometry()));
        // From the name by Tab to the sizes as one reads, and a digit is none of the window's keys.
        QApplication::setActiveWindow(w.window.get());
        auto* width = w.dialog<QDoubleSpinBox>("width");
        w.dialog<QLineEdit>("name")->setFocus();
        QTest::keyClick(w.dialog<QLineEdit>("name"), Qt::Key_Tab);
        QVERIFY(width->hasFocus());
        QTest::keyClick(w.dialog<QComboBox>("source-width"), Qt::Key_2);
        QCOMPARE(w.window->station(), 0);
        width->selectAll();
        QTest::keyClicks(width, "80+4.6");
        QTest::keyClick(width, Qt::Key_Tab);
        QVERIFY2(w.dialog<QLabel>("litres")->text().contains("becomes"),
                 qPrintable(w.dialog<QLabel>("litres")->text()));
        QCOMPARE(width->value(), 84.6);
        w.window->setStation(1);
        QVERIFY(!start->isVisible());
        w.window->setStation(0);
        QVERIFY(start->isVisible());
        QCOMPARE(width->value(), 84.6);
        w.window->resize(1100, 700);
        QApplication::processEvents();
        QVERIFY(w.window->page(0)->rect().contains(start->geometry()));
        QTest::keyClick(start, Qt::Key_Escape);
        QVERIFY(!w.openDialog() && w.window->page(0)->findChild<QPushButton*>("start0")->isVisible());
        // Gone on with, also asked for twice: what was typed is there. With a project there is none left.
        for (int twice = 0; twice < 2; ++twice)
            w.key(Qt::Key_N, Qt::ControlModifier | Qt::ShiftModifier);
        QCOMPARE(w.openDialogs().size(), 1);
        QCOMPARE(w.dialog<QDoubleSpinBox>("width")->value(), 84.6);
        auto* name = w.dialog<QLineEdit>("name");
        QVERIFY(name && name->hasFocus());
        QTest::keyClick(name, Qt::Key_Return, Qt::ControlModifier);
        QApplication::processEvents();
        QVERIFY(!w.openDialog());
        QCOMPARE(w.document().revision(), std::string("R1"));
        QCOMPARE(w.document().result().evaluation->build.insideAt[0].mm(), 84.6);
        QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
        QVERIFY(!w.window->page(0)->findChild<QDialog*>("startProject"));
    }
    /// How the litres of the box that stands there add up is in Working, with their doubt and among the usual ones.
    void theStartIsWorkedOut() {
        Window w;
        const auto& working = [&]() -> const auto& { return w.window->working()->sheet()->working(); };
        QVERIFY(!working());
        w.key(Qt::Key_N, Qt::ControlModifier);
        QVERIFY(working());
        auto* grid = w.dialog<QListView>("arrangements");
        for (int row = 0; row < grid->model()->rowCount(); ++row) {
            grid->setCurrentIndex(grid->model()->index(row, 0));
            const QString shown = w.dialog<QLabel>("litres")->text(), name = grid->currentIndex().data().toString();
            QVERIFY2(shown.startsWith(w.context.view().text(core::Quantity::Volume, working()->value)),
                     qPrintable(name + ": " + shown));
            QVERIFY2(working()->band > 0 && working()->doubt.size() == 4 && working()->rows.size() == 3,
                     qPrintable(name));
            const auto& peers = working()->peers;
            QCOMPARE(peers.size(), std::size_t{row == 8 ? 9U : 8U});
            for (std::size_t i = 0; i < peers.size(); ++i) {
                QVERIFY(i == 0 || peers[i - 1].value <= peers[i].value);
                QCOMPARE(peers[i].own, QString::fromStdString(core::english(peers[i].label)) == name);
            }
        }
        grid->setCurrentIndex(grid->model()->index(3, 0));
        const double before = working()->value, band = working()->band;
        auto* width = w.dialog<QDoubleSpinBox>("width");
        QApplication::setActiveWindow(w.window.get());
        width->setFocus();
        width->selectAll();
        QTest::keyClicks(width, "9");
        QCOMPARE(working()->value, before); // on its way to a number: what is too small is none yet
        QTest::keyClicks(width, "1,5");
        QVERIFY2(std::abs(working()->value / before - 95.5 / 94) < 1e-6, qPrintable(QString::number(working()->value)));
        QVERIFY(w.dialog<QLabel>("litres")->text().contains("becomes")); // as it is typed, before it is left
        QVERIFY(working()->band < band);                                 // typed: with a caliper
        QVERIFY(w.window->working()->sheet()->grab().height() > 300);
        w.window->setStation(2); // it is of the start, and that is not in sight
        QVERIFY(!working());
        w.window->setStation(0);
        QVERIFY(working());
        QTest::keyClick(w.openDialog(), Qt::Key_Escape);
        QVERIFY(!working());
    }
    /// The rail says what else a project can begin with, until there is one.
    void beginElsewhere() {
        Window w;
        QTemporaryDir dir;
        QDir(dir.path()).mkpath("barn/tent"); // a name of its own: one made at random may be too wide for the rail
        QDir(dir.path()).mkpath("shed/tent");
        for (const char* file : {"a lamp.minidraft", "barn/tent/project.json", "shed/tent/project.json"}) {
            QFile at(dir.filePath(file));
            QVERIFY(at.open(QIODevice::WriteOnly));
        }
        w.context.settings.recent = {dir.filePath("a lamp.minidraft"), dir.filePath("gone.minidraft"),
                                     dir.filePath("shed/tent/project.json")};
        auto* elsewhere = w.window->rail()->elsewhere();
        QVERIFY(elsewhere->isVisible());
        const auto names = [&] {
            elsewhere->refresh();
            QStringList all;
            for (const auto* button : elsewhere->findChildren<QPushButton*>("elsewhereRecent"))
                all << button->text();
            return all;
        };
        QCOMPARE(names(), QStringList({"a lamp", "tent"})); // what is not there any more is not offered
        w.context.settings.recent << dir.filePath("barn/tent/project.json");
        QCOMPARE(names(), QStringList({"a lamp", "tent, shed", "tent, barn"}));
        QTest::mouseClick(elsewhere->findChild<QPushButton*>("elsewhereDemo"), Qt::LeftButton);
        WAIT_VERIFY(!w.document().project().revisions.empty());
        QVERIFY(!elsewhere->isVisible());
        const core::Project demo = support::demoProject();
        QVERIFY(w.document().path().isEmpty() && !w.document().isReadOnly());
        QVERIFY(w.document().project().id != demo.id);
        QCOMPARE(w.document().project().revisions.size(), demo.revisions.size());
        QCOMPARE(w.document().project().runs.size(), demo.runs.size());
        QVERIFY(!w.context.settings.recent.front().contains("dig-tent"));
    }
    void initTestCase() { QStandardPaths::setTestModeEnabled(true); }

    void backToBackWithARiserAndTwoTopFans() {
        Hands h;
        QVERIFY(h.start("back-to-back", "Reading lamp", {{"width", "146"}, {"depth", "300"}, {"height", "196"}}));
        const QString wrong = h.addAll({{"Mini-ITX", "tray"},
                                        {"65 W", "tray/cpu"},
                                        {"cooler 47", "tray/cpu/lid"},
                                        {"Memory", "tray/memory"},
                                        {"2280 with", "tray/store"},
                                        {"2 slots, 270", "card"},
                                        {"SFX supply", "supply"},
                                        {"80 x 15", "top-rear"},
                                        {"80 x 15", "top-front"}});
        QVERIFY2(wrong.isEmpty(), qPrintable(wrong));
        QVERIFY2(h.actions <= 60, qPrintable(QString::number(h.actions)));
        auto* e = h.w.document().result().evaluation ? h.editBox() : nullptr;
        QVERIFY(e);
        QVERIFY(h.choose(e, "A vent", "rear"));
        h.field(e, "perforation", "60");
        QCOMPARE(std::get<core::CaseSpec>(e->casePart()->spec).openings.back().perforation, 0.6);
        QVERIFY2(h.litres() < 9.1, qPrintable(QString::number(h.litres())));
        QVERIFY(h.w.document().result().evaluation->build.placed.size() >= 10);
        // A fan that is too thick meets the board, is found, and is mended.
        const auto count = h.warnings().size();
        h.w.context.selection.select(core::PartRef{"top-rear"});
        h.w.key(Qt::Key_Delete);
        QVERIFY(!h.w.document().result().evaluation->build.at("top-rear"));
        const QString thick = h.add("80 x 25", "top-rear");
        QVERIFY2(thick.isEmpty(), qPrintable(thick));
        QVERIFY2(h.warnings().size() > count, qPrintable(h.warnings().join(' ')));
        h.w.key(Qt::Key_Z, Qt::ControlModifier);
        h.w.key(Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(h.warnings().size(), count);
        QTemporaryDir dir;
        const QString again = h.savedAndReopened(dir.filePath("lamp.minidraft"));
        QVERIFY2(again.isEmpty(), qPrintable(again));
    }
    void storageTowerWithFiveDrives() {
        Hands h;
        QVERIFY(h.start("storage-tower", "Attic store", {{"width", "186"}, {"height", "238"}}));
        const QString wrong = h.addAll({{"Mini-ITX", "tray"},
                                        {"35 W", "tray/cpu"},
                                        {"cooler 37", "tray/cpu/lid"},
                                        {"Memory", "tray/memory"},
                                        {"Flex", "supply"},
                                        {"Drive 3.5", "drive-1"},
                                        {"Drive 3.5", "drive-2"},
                                        {"Drive 3.5", "drive-3"},
                                        {"Drive 3.5", "drive-4"},
                                        {"Drive 3.5", "drive-5"},
                                        {"92 x 25", "front-fan"}});
        QVERIFY2(wrong.isEmpty(), qPrintable(wrong));
        QVERIFY2(h.litres() < 9.0, qPrintable(QString::number(h.litres())));
        // Five drives, four sockets: said, until an adapter is there.
        QVERIFY(h.warnings().contains("plug-count"));
        auto* e = h.editBox();
        QVERIFY(h.choose(e, "A vent", "front"));
        QVERIFY(h.choose(e, "A fan place with its vent", "rear"));
        QVERIFY(h.w.document().result().evaluation->build.placed.size() >= 11);
        QTemporaryDir dir;
        const QString again = h.savedAndReopened(dir.filePath("attic.minidraft"));
        QVERIFY2(again.isEmpty(), qPrintable(again));
    }
    void ownPrintedCubeWithARoundVentOverTheCooler() {
        Hands h;
        QVERIFY(h.start("blank", "Printed cube", {{"width", "190"}, {"depth", "200"}, {"height", "180"}}));
        QCOMPARE(h.w.document().project().name, std::string("Printed cube"));
        auto* e = h.editBox();
        QVERIFY(e && e->casePart());
        for (const auto& [entry, count] : {std::pair{"a board", 1}, {"a supply", 2}, {"a drive", 3}})
            QVERIFY(h.choose(e, "A place for a part", entry));
        QVERIFY(h.choose(e, "A fan place with its vent", "top"));
        QVERIFY(h.choose(e, "A vent", "top"));
        auto* round = e->form()->findChild<QCheckBox*>("round");
        QVERIFY(round);
        round->click();
        const core::Opening& o = std::get<core::CaseSpec>(e->casePart()->spec).openings.back();
        QVERIFY(o.round && o.side == core::Side::Top);
        // The places lie as they should: typed in the form, and by keys.
        for (const auto& item : core::box::itemsOf(*e->casePart()))
            if (core::box::idOf(*e->casePart(), item) == "board") {
                e->choose(item);
                h.field(e, "facing", "+z");
                h.field(e, "up", "-x");
            }
        QCOMPARE(e->casePart()->mounts.front().facing, (core::Direction{core::Axis::Z, 1}));
        for (const auto& item : core::box::itemsOf(*e->casePart()))
            if (core::box::idOf(*e->casePart(), item) == "supply") {
                e->choose(item);
                for (int i = 0; i < 20; ++i)
                    QTest::keyClick(e->sheet(), Qt::Key_Up, Qt::ShiftModifier);
            }
        const QString wrong = h.addAll({{"Mini-ITX", "board"},
                                        {"65 W", "board/cpu"},
                                        {"cooler 37", "board/cpu/lid"},
                                        {"Memory", "board/memory"},
                                        {"2280 with", "board/store"},
                                        {"SFX supply", "supply"},
                                        {"2.5 in, 7", "drive"},
                                        {"120 x 15", "top-fan"}});
        QVERIFY2(wrong.isEmpty(), qPrintable(wrong));
        QVERIFY(h.plug("board", "atx-24", {160, 120, 8}));
        QVERIFY(h.plug("supply", "atx-24", {50, 125, 20}));
        const std::string lead = h.lead("supply:atx-24", "board:atx-24");
        QVERIFY(!lead.empty());
        QVERIFY(h.route(lead, "supply:atx-24"));
        QVERIFY(h.w.document().result().evaluation);
        QVERIFY2(h.litres() < 9.0, qPrintable(QString::number(h.litres())));
        QTemporaryDir dir;
        const QString again = h.savedAndReopened(dir.filePath("cube.minidraft"));
        QVERIFY2(again.isEmpty(), qPrintable(again));
    }
};
} // namespace tst_own_box
MD_TEST(tst_own_box, OwnBoxTest)
#include "tst_own_box.moc"
