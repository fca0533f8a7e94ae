// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/dialogs/project_dialog.h"
#include "app/ui/fields/number_box.h"
#include "app/ui/fields/points_edit.h"
#include "store/schema.h"
#include "store/struct_json.h"
#include "support/registry.h"
#include "support/window.h"

#include <QCheckBox>
#include <QComboBox>

namespace tst_by_hand {

using core::FieldOutline;
using core::Holds;
using store::Json;
using support::Window;

namespace {

/// Someone who states a whole project in the fields of the window, row by row and page by page.
class Typist {
public:
    Typist(app::StructEditor* editor, const core::Show& show) : m_editor(editor), m_show(show) {}
    /// Everything that @p want says of the struct on this page.
    void state(const std::string& structName, const Json& want) {
        const core::StructOutline* outline = app::StructForm::outlineOf(structName);
        if (!outline->oneOf.empty()) {
            auto* kind = row<QComboBox>("do");
            kind->setCurrentText(text(want["do"]));
            Q_EMIT kind->activated(kind->currentIndex());
            QApplication::processEvents();
            for (const core::StructOutline& one : outline->oneOf)
                if (one.name == want["do"].get<std::string>())
                    for (const FieldOutline& f : one.fields)
                        field(f, want);
            return;
        }
        for (const FieldOutline& f : outline->fields)
            field(f, want);
    }
    [[nodiscard]] int actions() const { return m_actions; }

private:
    static QString text(const Json& j) { return QString::fromStdString(j.get<std::string>()); }
    template <class W> W* row(const QString& key) {
        QApplication::processEvents();
        auto* widget = m_editor->form()->findChild<W*>(key);
        if (!widget)
            qFatal("no row for %s", qPrintable(key));
        ++m_actions;
        return widget;
    }
    void field(const FieldOutline& f, const Json& want) {
        const QString key = QString::fromLatin1(f.about.key);
        if (key == "id" && m_editor->path().empty())
            return; // of the project: made by the program
        const Json now = want.contains(f.about.key) ? want[f.about.key] : Json();
        if (f.holds == Holds::Struct)
            return f.items.empty() ? one(f, key, now) : all(f, key, now);
        if (now.is_null())
            return;
        if (f.holds == Holds::Flag) {
            auto* box = row<QCheckBox>(key);
            if (box->isChecked() != now.get<bool>())
                box->click();
        } else if (f.holds == Holds::Counts ||
                   (!f.items.empty() && (f.holds == Holds::Text || f.holds == Holds::Choice))) {
            QStringList words;
            for (const auto& [word, n] : now.items())
                words << (f.holds == Holds::Counts
                              ? QString("%1 %2").arg(QString::fromStdString(word)).arg(n.get<int>())
                              : text(n));
            words.isEmpty() && !m_editor->form()->findChild<QLineEdit*>(key) ? void() : type(key, words.join(", "));
        } else if (f.holds == Holds::Text || f.holds == Holds::Choice) {
            if (auto* box = m_editor->form()->findChild<QComboBox*>(key))
                box->setCurrentText(text(now));
            else
                type(key, text(now));
        } else if (f.holds == Holds::Size && f.items.empty()) {
            size(f, key, now);
        } else if (f.holds == Holds::Size) {
            for (std::size_t i = 0; i < now.size(); ++i)
                size(f, key + QString::number(i), now[i]);
        } else if (f.holds == Holds::Offset) {
            auto* ref = row<QComboBox>(key + "-ref");
            ref->setCurrentText(QString::fromStdString(now.begin().key()));
            Q_EMIT ref->activated(ref->currentIndex());
            size(f, key, now.begin().value());
        } else if (f.items.size() > 1) {
            QStringList lines;
            for (const Json& point : now) {
                QStringList words;
                for (const Json& n : point)
                    words << QString::number(n.get<double>(), 'g', 12);
                lines << words.join(' ');
            }
            row<QPlainTextEdit>(key)->setPlainText(lines.join('\n'));
        } else if (f.items.size() == 1) {
            for (std::size_t i = 0; i < now.size(); ++i)
                number(f, key + QString::number(i), now[i].get<double>());
        } else {
            number(f, key, now.get<double>());
        }
    }
    void type(const QString& key, const QString& words) {
        auto* edit = row<QLineEdit>(key);
        edit->setText(words);
        Q_EMIT edit->editingFinished();
    }
    void number(const FieldOutline& f, const QString& key, double stored) {
        auto* box = row<app::NumberBox>(key);
        box->selectAll();
        QTest::keyClicks(box,
                         QString::number(m_show.value(f.about.unit.quantity, stored * f.about.unit.factor), 'f', 8));
        if (!box->takeTyped()) // as leaving it does
            qFatal("%s: %s", qPrintable(key), qPrintable(box->refusal()));
    }
    void size(const FieldOutline& f, const QString& key, const Json& want) {
        number(f, key, want.is_object() ? want["mm"].get<double>() : want.get<double>());
        if (!want.is_object())
            return; // of the usual source, or flush
        if (want.contains("source")) {
            auto* source = row<QComboBox>(key + "-source");
            source->setCurrentIndex(source->findData(text(want["source"])));
            Q_EMIT source->activated(source->currentIndex());
        }
        if (want.contains("tol_mm")) {
            auto* band = row<app::NumberBox>(key + "-tol");
            band->setValue(want["tol_mm"].get<double>());
        }
    }
    /// A list whose rows are numbers and nothing else is typed as a table.
    void table(const FieldOutline& f, QPlainTextEdit* rows, const Json& want) {
        ++m_actions;
        QStringList lines;
        for (const Json& row : want.is_array() ? want : Json::array()) {
            QStringList words;
            for (const FieldOutline& column : app::StructForm::outlineOf(f.structName)->fields) {
                const core::Unit& unit = column.about.unit;
                const double stored = row[column.about.key].get<double>();
                words << QString::number(m_show.value(unit.quantity, stored * unit.factor), 'g', 12);
            }
            lines << words.join(' ');
        }
        rows->setPlainText(lines.join('\n'));
    }
    void one(const FieldOutline& f, const QString& key, const Json& want) {
        if (!want.is_object())
            return;
        const auto here = m_editor->path();
        row<QPushButton>(key + "-open")->click();
        QApplication::processEvents();
        state(f.structName, want);
        m_editor->go(here);
    }
    void all(const FieldOutline& f, const QString& key, const Json& want) {
        if (auto* rows = m_editor->form()->findChild<QPlainTextEdit*>(key))
            return table(f, rows, want);
        const auto here = m_editor->path();
        while (m_editor->form()->findChild<QListWidget*>(key)->count() > 0) { // what an arrangement left there
            m_editor->form()->findChild<QListWidget*>(key)->setCurrentRow(0);
            row<QPushButton>(key + "-delete")->click();
            QApplication::processEvents();
        }
        for (const Json& item : want.is_array() ? want : Json::array()) {
            row<QPushButton>(key + "-add")->click();
            QApplication::processEvents();
            state(f.structName, item);
            m_editor->go(here);
        }
    }

    app::StructEditor* m_editor;
    core::Show m_show;
    int m_actions = 0;
};

/// Where two values differ; empty: nowhere. A figure may differ by the last digits that typing it costs.
QString difference(const Json& a, const Json& b, const QString& at = {}) {
    if (a.is_number() && b.is_number())
        return std::abs(a.get<double>() - b.get<double>()) <= 1e-9 * std::max(1.0, std::abs(a.get<double>()))
                   ? QString()
                   : QString("%1: %2, %3").arg(at).arg(a.get<double>()).arg(b.get<double>());
    if (a.type() != b.type() || (a.is_array() && a.size() != b.size()))
        return at + ": " + QString::fromStdString(a.dump().substr(0, 80) + " / " + b.dump().substr(0, 80));
    if (a.is_array())
        for (std::size_t i = 0; i < a.size(); ++i)
            if (const QString d = difference(a[i], b[i], at + QString("[%1]").arg(i)); !d.isEmpty())
                return d;
    if (a.is_object()) {
        for (const auto& [key, value] : a.items())
            if (const QString d =
                    difference(value, b.contains(key) ? b[key] : Json(), at + "." + QString::fromStdString(key));
                !d.isEmpty())
                return d;
        for (const auto& [key, value] : b.items())
            if (!a.contains(key))
                return at + "." + QString::fromStdString(key) + " is too much";
    }
    return a.is_structured() || a == b ? QString()
                                       : at + ": " + QString::fromStdString(a.dump() + " / " + b.dump()).left(160);
}

} // namespace

/// What was written by hand, stated again in the fields of the window alone, is the same project.
class ByHandTest : public QObject {
    Q_OBJECT
private slots:
    void initTestCase() { QStandardPaths::setTestModeEnabled(true); }

    void stated_data() {
        QTest::addColumn<QString>("path");
        QTest::newRow("the example") << "examples/hand-written";
        QTest::newRow("the demo") << "data/demo/dig-tent";
    }
    void stated() {
        QFETCH(QString, path);
        const auto written = store::openProject(QString(MD_SOURCE_DIR) + "/" + path);
        QVERIFY(written);
        core::Project want = written->project;
        want.runs.clear();
        Window w;
        core::Project empty;
        empty.name = "new";
        w.document().reset(empty, {});
        w.window->findChild<QAction*>("actProjectDetails")->trigger();
        QApplication::processEvents();
        auto* dialog = qobject_cast<app::ProjectDialog*>(w.openDialog());
        QVERIFY(dialog);
        Typist typist(dialog->editor(), w.context.show());
        typist.state("project", store::headJson(want));
        dialog->accept();
        QVERIFY2(!dialog->isVisible(), qPrintable(dialog->problem()));
        core::Project made = w.document().project();
        made.id = want.id;
        QVERIFY2(difference(store::headJson(want), store::headJson(made)).isEmpty(),
                 qPrintable(difference(store::headJson(want), store::headJson(made))));
        QVERIFY(typist.actions() > 100);
    }
};
} // namespace tst_by_hand
MD_TEST(tst_by_hand, ByHandTest)
#include "tst_by_hand.moc"
