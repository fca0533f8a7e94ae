// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/paint/stations.h"
#include "app/stations/brief/start_dialog.h"
#include "app/stations/registry.h"
#include "app/ui/fields/number_box.h"
#include "app/ui/shell/working_panel.h"
#include "core/advise/what_to_change.h"
#include "core/fit/measure_next.h"
#include "core/fit/room.h"
#include "support/builds.h"
#include "support/painted_words.h"
#include "support/patience.h"
#include "support/registry.h"
#include "support/window.h"

#include <QProcess>
#include <QRegularExpression>
#include <QTranslator>

#include <set>

namespace tst_words {

/// A language in which every text of the core stands in brackets; remembers what it was asked for.
class Bracketed : public QTranslator {
public:
    mutable std::set<QString> asked;
    [[nodiscard]] QString translate(const char* context, const char* text, const char*, int) const override {
        if (qstrcmp(context, "core") != 0)
            return {};
        asked.insert(QString::fromUtf8(text));
        return QStringLiteral("\u27e6") + QString::fromUtf8(text) + QStringLiteral("\u27e7");
    }
    [[nodiscard]] bool isEmpty() const override { return false; }
};

/// A language that writes a comma before decimals, and nothing else otherwise.
class WithComma : public QTranslator {
public:
    [[nodiscard]] QString translate(const char*, const char* text, const char*, int) const override {
        return qstrcmp(text, ".") == 0 ? QStringLiteral(",") : QString();
    }
    [[nodiscard]] bool isEmpty() const override { return false; }
};

/// Everything that is said of a revision: findings, how its figures were worked out, what would help, what differs.
core::Sentences saidOf(const app::View& v) {
    core::Sentences all;
    const auto add = [&](const core::Sentences& some) { all.insert(all.end(), some.begin(), some.end()); };
    const core::stages::Evaluation& e = *v.evaluation();
    core::Sentence changes = v.document.words(e.build.revision);
    all.push_back(changes);
    const auto working = [&](const core::Thing& thing) {
        const auto w = app::workingOf(v, thing);
        if (!w)
            return;
        add({w->place, w->title, w->sentence, w->sum, w->method});
        add(w->usedBy);
        for (const auto& row : w->rows)
            all.push_back(row.label);
        for (const auto& doubt : w->doubt)
            all.push_back(doubt.label);
        for (const auto& change : w->changes)
            add({change.text, change.instead});
    };
    for (const auto& f : e.findings) {
        all.push_back(f.text);
        add(f.remedies);
        working(f.about);
    }
    for (const auto& p : e.build.placed)
        working(core::PartRef{p.mount});
    for (const auto& fan : e.air.fans)
        working(core::FanRef{fan.id});
    for (const auto& o : e.build.openings)
        working(core::OpeningRef{o.id});
    for (const auto& gap : e.fit.gaps)
        working(gap.ref);
    for (const auto& t : v.result().verdict.targets) {
        working(core::TargetRef{t.id, e.build.revision});
        add({t.why, core::verdict::basisText(t)});
    }
    for (const auto total : {core::Total::Noise, core::Total::Power, core::Total::Volume, core::Total::Balance,
                             core::Total::Mass, core::Total::Price})
        working(core::TotalRef{total});
    for (std::size_t i = 0; i < e.make.steps.size(); ++i) {
        working(e.make.steps[i].ref);
        add({e.make.steps[i].tool, e.make.steps[i].safety});
    }
    for (const auto& room : core::fit::roomLeft(v.project(), e.build, {.needs = v.project().needs}))
        add({core::explain::textOf(room), core::explain::ofRoom(room).method});
    for (const auto& next : core::fit::measureNext(e.fit))
        add({core::explain::textOf(next), core::explain::ofMeasure(next).method});
    for (const auto& gap : e.fit.gaps)
        if (gap.isShort()) {
            for (const auto& mend : core::advise::whatToChange(v.project(), e, gap))
                add({core::explain::textOf(mend), core::explain::ofMend(mend, gap).method});
            all.push_back(core::advise::whatToEdit(gap));
        }
    for (const auto& run : v.project().runs)
        if (const auto* a = v.document.analysis(run.id)) {
            working(core::RunRef{run.id});
            add(a->notes);
            all.push_back(a->unsettled);
            for (const auto& c : a->channels)
                all.push_back(c.why);
        }
    return all;
}

/// The names in a sentence: what no reader's language or unit touches.
void namesOf(const core::Sentence& s, std::set<std::string>& names) {
    for (const auto& piece : s.pieces())
        if (const auto* name = piece.name())
            names.insert(*name);
        else if (const auto* inner = piece.sentence())
            namesOf(*inner, names);
}

/// A line for each text that a translator is given, after "file:line: ".
QStringList listForTranslators() {
    QProcess list;
    list.start(QStringLiteral("/usr/bin/python3"), {QStringLiteral(MD_SOURCE_DIR "/tools/sentences.py")});
    if (!list.waitForFinished(30000 * kPatience))
        return {};
    return QString::fromUtf8(list.readAllStandardOutput()).split('\n', Qt::SkipEmptyParts);
}

/// What was asked for, and no translator sees.
QStringList unlisted(const Bracketed& language) {
    std::set<QString> listed;
    for (const QString& line : listForTranslators())
        listed.insert(line.section(QStringLiteral(": "), 1));
    QStringList missing;
    for (const QString& text : language.asked)
        if (!listed.contains(text))
            missing << text;
    return missing;
}

class WordsTest : public QObject {
    Q_OBJECT
    app::Document m_document;
    core::Sentences m_said;

private slots:
    void initTestCase() {
        m_document.reset(support::demoProject(), {});
        m_document.setBackground(false);
        for (const char* id : {"R1", "R3", "R8", "R10", "R11"}) {
            m_document.selectRevision(id);
            const core::Sentences some = saidOf(app::View{m_document, core::Show()});
            m_said.insert(m_said.end(), some.begin(), some.end());
        }
        QVERIFY(m_said.size() > 1000);
    }
    /// A translator sees every sentence: what the window asks for is what the list for translators holds.
    void everySentenceCanBeTranslated() {
        Bracketed language;
        QCoreApplication::installTranslator(&language);
        const core::Reader reader = app::readerFor(core::Show());
        int bare = 0;
        for (const core::Sentence& s : m_said)
            bare += s.pattern() && reader.text(s).find("\u27e6") == std::string::npos;
        QCoreApplication::removeTranslator(&language);
        QCOMPARE(bare, 0);
        QVERIFY2(language.asked.size() > 200, qPrintable(QString::number(language.asked.size())));
        QVERIFY2(unlisted(language).isEmpty(), qPrintable(unlisted(language).join(QStringLiteral(" | "))));
    }
    /// A figure is never made text before its reader is known: none stands inside a name, save in names that a person
    /// gave to a part.
    void noFigureHidesInAName() {
        static const QRegularExpression figure(
            QStringLiteral("[0-9][ \\x{00a0}]?(mm|\u00b0C|K|m\u00b3/h)(?![\u00b3\u00b2/A-Za-z0-9])"));
        std::set<std::string> names;
        for (const core::Sentence& s : m_said)
            namesOf(s, names);
        QVERIFY(names.size() > 50);
        for (const std::string& name : names)
            QVERIFY2(!figure.match(QString::fromStdString(name)).hasMatch(), name.c_str());
    }
    /// Nor in the text of a sentence.
    void noUnitStandsInAPattern() {
        static const QRegularExpression unit(
            QStringLiteral("[0-9}][ \\x{00a0}]?(mm|\u00b0C|K|m\u00b3/h)(?![\u00b3\u00b2/A-Za-z0-9])"));
        const QStringList lines = listForTranslators();
        QVERIFY(lines.size() > 600);
        for (const QString& line : lines)
            QVERIFY2(!unit.match(line.section(QStringLiteral(": "), 1)).hasMatch(), qPrintable(line));
    }
    /// Whoever reads in inch, °F and CFM meets no mm, °C or m³/h in anything that is said.
    void everySentenceInTheReadersUnits() {
        const core::Reader american = app::readerFor(core::Show({.fahrenheit = true, .cfm = true, .inch = true}));
        static const QRegularExpression metric(
            QStringLiteral("[0-9][ \\x{00a0}]?(mm|\u00b0C|K|m\u00b3/h)(?![\u00b3\u00b2/A-Za-z0-9])"));
        for (const core::Sentence& s : m_said) {
            const QString text = QString::fromStdString(american.text(s));
            QVERIFY2(!metric.match(text).hasMatch(), qPrintable(text));
        }
    }
    /// Figures are written with the decimal mark of the language: on every sheet, in sentences and in fields.
    void theDecimalMarkIsThatOfTheLanguage() {
        WithComma language;
        QCoreApplication::installTranslator(&language);
        app::Document document;
        document.reset(support::demoProject(), {});
        core::UnitChoice units;
        units.decimalMark = app::decimalMark();
        const app::View v{document, core::Show(units)};
        QStringList words;
        app::FitLook look;
        look.paper = true;
        for (const auto& paint : std::initializer_list<std::function<void(app::Canvas&, const QRectF&)>>{
                 [&](auto&c, const auto&r) { app::paintBrief(c, r, v); },
                 [&](auto&c, const auto&r) { app::paintFit(c, r, v, look); },
                 [&](auto&c, const auto&r) { app::paintAir(c, r, v); },
                 [&](auto&c, const auto&r) { app::paintMake(c, r, v); },
                 [&](auto&c, const auto&r) { app::paintBench(c, r, v, "r10-both"); },
                 [&](auto&c, const auto&r) { app::paintVerdict(c, r, v); }})
            words += support::paintedWords(paint);
        app::NumberBox box;
        box.setDecimals(2);
        box.setValue(84.6);
        words << box.text();
        QCoreApplication::removeTranslator(&language);
        static const QRegularExpression point(QStringLiteral("[0-9]\\.[0-9]"));
        QVERIFY2(words.filter(point).isEmpty(), qPrintable(words.filter(point).join(QStringLiteral(" | "))));
        QVERIFY(words.filter(QRegularExpression(QStringLiteral("[0-9],[0-9]"))).size() > 40);
    }
    /// In the real window: the line of findings and Working speak the reader's language.
    void theWindowSpeaksIt() {
        Bracketed language;
        support::Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        QCoreApplication::installTranslator(&language);
        w.context.document.selectRevision("R3");
        const auto& gap = w.context.document.result().evaluation->fit.gaps.front();
        w.context.selection.select(gap.ref);
        w.window->working()->sheet()->refresh();
        const QString said = w.window->working()->sheet()->accessibleDescription();
        for (int page = 0; page < 6; ++page) {
            w.window->setStation(page);
            w.window->grab();
        }
        app::StartDialog start(w.context, nullptr);
        start.setAttribute(Qt::WA_DeleteOnClose, false);
        start.show();
        start.grab();
        QCoreApplication::removeTranslator(&language);
        QVERIFY(language.asked.contains("Tall box, card below") && language.asked.contains("Inner depth"));
        QVERIFY2(unlisted(language).isEmpty(), qPrintable(unlisted(language).join(QStringLiteral(" | "))));
        QVERIFY2(said.contains(QChar(0x27e6)), qPrintable(said));
    }
};

} // namespace tst_words
MD_TEST(tst_words, WordsTest)
#include "tst_words.moc"
