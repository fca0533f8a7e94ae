// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/dialogs/project_dialog.h"
#include "app/ui/fields/number_box.h"
#include "store/schema.h"
#include "store/struct_json.h"
#include "support/registry.h"
#include "support/window.h"

#include <QCheckBox>
#include <QComboBox>
#include <QMenu>
#include <QPlainTextEdit>

namespace tst_every_key {

using store::Json;
using support::Window;

namespace {

QWidget* rowOf(const app::StructForm& form, const QString& key) {
    for (const QString& end :
         {QString(), QStringLiteral("0"), QStringLiteral("-ref"), QStringLiteral("-add"), QStringLiteral("-open")})
        for (QWidget* widget : form.findChildren<QWidget*>(key + end))
            if (qobject_cast<QDoubleSpinBox*>(widget) || qobject_cast<QLineEdit*>(widget) ||
                qobject_cast<QComboBox*>(widget) || qobject_cast<QCheckBox*>(widget) ||
                qobject_cast<QPlainTextEdit*>(widget) || qobject_cast<QPushButton*>(widget))
                return widget;
    return nullptr;
}

/// Types, chooses or clicks something in a row.
void drive(QWidget* row, const core::FieldOutline& f) {
    if (auto* box = qobject_cast<QDoubleSpinBox*>(row))
        box->value() < box->maximum() ? box->stepUp() : box->stepDown();
    else if (auto* edit = qobject_cast<QLineEdit*>(row)) {
        edit->setText(f.holds == core::Holds::Counts ? "fan 2"
                      : f.choices.empty()            ? "typed"
                                                     : QString::fromStdString(f.choices.back()));
        Q_EMIT edit->editingFinished();
    } else if (auto* choice = qobject_cast<QComboBox*>(row)) {
        choice->setCurrentIndex((choice->currentIndex() + 1) % choice->count());
        Q_EMIT choice->activated(choice->currentIndex());
    } else if (auto* check = qobject_cast<QCheckBox*>(row))
        check->click();
    else if (auto* points = qobject_cast<QPlainTextEdit*>(row))
        points->setPlainText(f.holds == core::Holds::Struct ? "1 2\n4\t1,5" : "1 2 3\n4\t5,5\t6");
    else
        static_cast<QPushButton*>(row)->click();
}

/// What is at a path; a list or struct that is empty gets a fresh item on the way, by its buttons.
bool open(app::StructEditor* editor, const std::vector<std::string>& path) {
    const std::size_t from = editor->path().size();
    for (const std::string& key : path) {
        const QString name = QString::fromStdString(key);
        auto* list = editor->form()->findChild<QListWidget*>(name);
        if (list && list->count() > 0) {
            list->setCurrentRow(0);
            Q_EMIT list->itemActivated(list->item(0));
        } else if (auto* add = editor->form()->findChild<QPushButton*>(name + (list ? "-add" : "-open"))) {
            add->click();
        } else {
            return false;
        }
        QApplication::processEvents();
    }
    return editor->path().size() == from + path.size();
}

} // namespace

/// For every key of the format there is a way in the window: found and driven from the outlines that write the format.
class EveryKeyTest : public QObject {
    Q_OBJECT
private slots:
    void initTestCase() { QStandardPaths::setTestModeEnabled(true); }

    /// Every struct has its page, reached by the buttons a person has, with a row for each field.
    void everyStructHasItsPage() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        std::set<std::string> seen;
        int fields = 0;
        for (const store::Way& way : store::waysInWindow()) {
            app::StructEditor* editor = nullptr;
            if (way.ofRun) {
                const core::Run& run = w.document().project().runs.front();
                for (QAction* action : w.window->menuOf(core::RunRef{run.id})->actions())
                    if (action->text().contains("tails"))
                        action->trigger();
            } else {
                w.window->findChild<QAction*>("actProjectDetails")->trigger();
            }
            QApplication::processEvents();
            auto* dialog = w.openDialog();
            QVERIFY(dialog);
            editor = dialog->findChild<app::StructEditor*>();
            const core::StructOutline* outline = app::StructForm::outlineOf(way.structName);
            QVERIFY(outline);
            bool opened = open(editor, way.path);
            if (auto* kinds = editor->form()->findChild<QComboBox*>("do"); !opened && kinds && !way.kind.empty()) {
                kinds->setCurrentText(QString::fromStdString(way.kind));
                Q_EMIT kinds->activated(kinds->currentIndex());
                QApplication::processEvents();
                opened = open(editor, {way.path.back()});
            }
            if (!opened && editor->form()->findChild<QPlainTextEdit*>(QString::fromStdString(way.path.back()))) {
                seen.insert(way.structName); // rows of a table, on the page above
                dialog->reject();
                QApplication::processEvents();
                continue;
            }
            QVERIFY2(opened, way.structName.c_str());
            for (const core::FieldOutline& f : outline->fields) {
                static const std::set<std::string> notForPeople{"run.id",   "run.source",   "run.simulated",
                                                                "run.file", "run.original", "project.id"};
                if (notForPeople.contains(way.structName + "." + f.about.key))
                    continue;
                QVERIFY2(rowOf(*editor->form(), QString::fromLatin1(f.about.key)),
                         (way.structName + "." + f.about.key).c_str());
                ++fields;
            }
            seen.insert(way.structName);
            dialog->reject();
            QApplication::processEvents();
        }
        for (const core::StructOutline& s : store::fileOutlines())
            QVERIFY2(seen.contains(s.name), s.name.c_str());
        QVERIFY2(fields > 170, qPrintable(QString::number(fields)));
    }
    /// What is typed in a row stands in the value, under its key; of a change in each of its kinds.
    void everyRowStatesItsKey() {
        Window w;
        std::vector<core::StructOutline> all;
        for (const core::StructOutline& s : store::fileOutlines()) {
            all.push_back(s);
            for (const core::StructOutline& kind : s.oneOf) {
                all.push_back(kind);
                all.back().name = s.name + " " + kind.name;
            }
        }
        for (const core::StructOutline& outline : all)
            for (const core::FieldOutline& f : outline.fields) {
                app::StructForm form(w.context, nullptr);
                const bool change = outline.name.starts_with("change ");
                Json fresh = app::StructForm::fresh(change ? "change" : outline.name, Json::array());
                if (change)
                    fresh = {{"do", outline.name.substr(7)}};
                form.show(change ? "change" : outline.name, fresh);
                const Json before = form.value();
                const std::string place = outline.name + "." + f.about.key;
                QWidget* row = rowOf(form, QString::fromLatin1(f.about.key));
                QVERIFY2(row, place.c_str());
                drive(row, f);
                QVERIFY2(form.value() != before && form.value().contains(f.about.key), place.c_str());
            }
    }
    /// Saved it is in the project, as one step; what names nothing is refused with its place, and loses nothing.
    void theProjectIsEdited() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.window->findChild<QAction*>("actProjectDetails")->trigger();
        auto* dialog = qobject_cast<app::ProjectDialog*>(w.openDialog());
        QVERIFY(dialog);
        auto* currency = dialog->editor()->form()->findChild<QLineEdit*>("currency");
        currency->setText("CHF");
        Q_EMIT currency->editingFinished();
        QVERIFY(open(dialog->editor(), {"loads"}));
        auto* share = dialog->editor()->form()->findChild<QDoubleSpinBox*>("card_share");
        share->setValue(share->value() + 10);
        dialog->editor()->go({});
        auto* baseline = dialog->editor()->form()->findChild<QComboBox*>("baseline");
        baseline->setCurrentText("R99");
        const int steps = w.document().undoStack().count();
        dialog->accept();
        QVERIFY(dialog->isVisible());
        QVERIFY2(dialog->problem().contains("R99") || dialog->problem().contains("baseline"),
                 qPrintable(dialog->problem()));
        baseline = dialog->editor()->form()->findChild<QComboBox*>("baseline");
        baseline->setCurrentText("R3");
        dialog->accept();
        QVERIFY2(!dialog->isVisible(), qPrintable(dialog->problem()));
        const core::Project& p = w.document().project();
        QCOMPARE(p.currency, std::string("CHF"));
        QCOMPARE(p.baseline, std::string("R3"));
        QCOMPARE_LE(std::abs(p.loads[0].cardShare - support::demoProject().loads[0].cardShare - 0.1), 1e-9);
        QCOMPARE(w.document().undoStack().count(), steps + 1);
        QCOMPARE(p.runs.size(), support::demoProject().runs.size());
    }
    /// A change of a revision can be stated anew where nothing was logged; what was logged stays what it was.
    void changesAreStated() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        const auto change = [&](const char* revision, const char* to) {
            auto* dialog = new app::ProjectDialog(w.context, revision, w.window.get());
            dialog->setAttribute(Qt::WA_DeleteOnClose, false);
            if (!open(dialog->editor(), {"changes"}))
                return QString("no page");
            auto* kind = dialog->editor()->form()->findChild<QComboBox*>("do");
            kind->setCurrentText(to);
            Q_EMIT kind->activated(kind->currentIndex());
            QApplication::processEvents();
            auto* feet = dialog->editor()->form()->findChild<QDoubleSpinBox*>("feet_mm");
            if (!feet)
                return QString("no field");
            feet->setValue(12);
            dialog->accept();
            const QString wrong = dialog->isVisible() || !dialog->problem().isEmpty() ? dialog->problem() : QString();
            delete dialog;
            return wrong;
        };
        const QString refused = change("R10", "feet");
        QVERIFY2(refused.contains("R10") && refused.contains("logged"), qPrintable(refused));
        QVERIFY(w.document().project().revision("R10")->changes == support::demoProject().revision("R10")->changes);
        QCOMPARE(change("R11", "feet"), QString());
        const auto* feet = std::get_if<core::SetFeet>(&w.document().project().revision("R11")->changes.front());
        QVERIFY(feet);
        QCOMPARE(feet->mm, 12.0);
    }
    /// A case on which runs were logged is edited as a case and revision of its own, never here behind its back.
    void aLoggedCaseStays() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        auto* dialog = new app::ProjectDialog(w.context, {}, w.window.get());
        dialog->setAttribute(Qt::WA_DeleteOnClose, false);
        QVERIFY(open(dialog->editor(), {"shelf"})); // the first part is the case of the logged revisions
        dialog->editor()->form()->findChild<app::NumberBox*>("size_mm0")->setValue(90);
        dialog->accept();
        QVERIFY2(dialog->problem().contains("Edit the box"), qPrintable(dialog->problem()));
        QCOMPARE(w.document().project().shelf[0], support::demoProject().shelf[0]);
        delete dialog;
    }
    void aRunIsEdited() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        const std::string id = w.document().project().runs.front().id;
        auto* dialog = new app::RunDialog(w.context, id, w.window.get());
        dialog->setAttribute(Qt::WA_DeleteOnClose, false);
        auto* room = dialog->editor()->form()->findChild<QDoubleSpinBox*>("room_c");
        QVERIFY(room);
        const bool stated = w.document().project().run(id)->roomC.has_value();
        QCOMPARE(room->text() == room->specialValueText(), !stated); // no figure where none was stated
        room->setValue(21.5);
        QVERIFY(open(dialog->editor(), {"channels"}));
        auto* guess = dialog->editor()->form()->findChild<QCheckBox*>("assumed");
        const bool before = guess->isChecked();
        guess->click();
        dialog->accept();
        QVERIFY2(dialog->problem().isEmpty(), qPrintable(dialog->problem()));
        const core::Run* run = w.document().project().run(id);
        QCOMPARE(run->roomC, std::optional(21.5));
        QCOMPARE(run->samples->channels[0].assumed, !before);
        QCOMPARE(run->samples->channels[0].values, support::demoProject().run(id)->samples->channels[0].values);
        w.key(Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(*w.document().project().run(id) == *support::demoProject().run(id));
        delete dialog;
    }
};
} // namespace tst_every_key
MD_TEST(tst_every_key, EveryKeyTest)
#include "tst_every_key.moc"
