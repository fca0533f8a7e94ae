// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/main_window.h"
#include "app/ui/painted_accessible.h"
#include "app/ui/stations/bench_page.h"
#include "app/ui/stations/fit_page.h"
#include "app/ui/style.h"

#include <QApplication>
#include <QCommandLineParser>
#include <QDir>
#include <QElapsedTimer>
#include <QFileInfo>
#include <QIcon>
#include <QLibraryInfo>
#include <QTimer>
#include <QTranslator>

#include <cstdio>

namespace {

bool shoot(app::MainWindow& window, const QString& folder, const QString& name) {
    for (int pass = 0; pass < 3; ++pass)
        QApplication::processEvents();
    const QString file = QDir(folder).filePath(name + QStringLiteral(".png"));
    if (!window.grab().save(file)) {
        std::fprintf(stderr, "mini-draft: %s cannot be written\n", qPrintable(file));
        return false;
    }
    std::printf("%s\n", qPrintable(file));
    return true;
}

/// One PNG of each station and of the answers of Fit, as the window shows them.
int writeShots(app::MainWindow& window, app::Context& context, const QString& folder) {
    QDir().mkpath(folder);
    const QStringList names{QStringLiteral("brief"), QStringLiteral("fit"), QStringLiteral("air"), QStringLiteral("make"), QStringLiteral("bench"), QStringLiteral("verdict")};
    const QStringList keys{QStringLiteral("power"), {}, QStringLiteral("part:tray/cpu"), {}, {}, QStringLiteral("target:noise")};
    context.document.finishAnalyses();
    for (int i = 0; i < 6; ++i) {
        window.setStation(i);
        QApplication::processEvents();
        if (!keys[i].isEmpty())
            context.selection.select(keys[i]);
        else if (i == 4)
            context.selection.select(QStringLiteral("run:%1").arg(QString::fromStdString(window.bench()->run())));
        else
            window.page(i)->stepSelection(1);
        if (!shoot(window, folder, names[i]))
            return 2;
        if (i != 1)
            continue;
        auto* fit = static_cast<app::FitPage*>(window.page(1));
        using List = app::FitLook::List;
        for (const auto& [list, name] : {std::pair{List::Change, QStringLiteral("fit-change")}, std::pair{List::Measure, QStringLiteral("fit-measure")}, std::pair{List::Room, QStringLiteral("fit-room")}, std::pair{List::GoingIn, QStringLiteral("fit-going-in")}}) {
            fit->choose(list);
            if (!shoot(window, folder, name))
                return 2;
        }
        fit->choose(List::Gaps);
    }
    return 0;
}

} // namespace

int main(int argc, char** argv) {
    QElapsedTimer sinceStart;
    sinceStart.start();
    QApplication application(argc, argv);
    QApplication::setApplicationName(QStringLiteral("mini-draft"));
    QApplication::setApplicationDisplayName(QStringLiteral("Mini Draft"));
    QApplication::setOrganizationName(QStringLiteral("mini-draft"));
    QApplication::setApplicationVersion(QStringLiteral("0.1.0"));
    QApplication::setDesktopFileName(QStringLiteral("mini-draft"));
    QApplication::setWindowIcon(QIcon(QStringLiteral(":/icons/mini-draft.svg")));

    QCommandLineParser parser;
    parser.setApplicationDescription(QStringLiteral("Plans, tests and validates a compact computer."));
    parser.addHelpOption();
    parser.addVersionOption();
    parser.addPositionalArgument(QStringLiteral("project"), QStringLiteral("project file (.minidraft) or interchange folder"), QStringLiteral("[project]"));
    parser.addOptions({{QStringLiteral("shots"), QStringLiteral("Write one PNG of each station to this folder and quit."), QStringLiteral("folder")},
                       {QStringLiteral("revision"), QStringLiteral("Revision to look at."), QStringLiteral("id")},
                       {QStringLiteral("theme"), QStringLiteral("light or dark, for this start only."), QStringLiteral("theme")},
                       {QStringLiteral("size"), QStringLiteral("Size of the window, e.g. 1280x800."), QStringLiteral("size")},
                       {QStringLiteral("time-to-paint"), QStringLiteral("Print the milliseconds to the first painted window and quit.")}});
    parser.process(application);

    QTranslator translator;
    if (translator.load(QLocale(), QStringLiteral("mini-draft"), QStringLiteral("_"), QCoreApplication::applicationDirPath() + QStringLiteral("/../share/mini-draft/translations")))
        QApplication::installTranslator(&translator);

    app::loadFonts();
    app::installPaintedAccessibility();
    app::Context context;
    context.settings = app::Settings::load();
    QApplication::setStyle(new app::SheetStyle(context.theme));
    context.document.setBackground(true);
    app::MainWindow window(context);
    const bool once = parser.isSet(QStringLiteral("shots")) || parser.isSet(QStringLiteral("time-to-paint"));
    const QString theme = parser.value(QStringLiteral("theme"));
    const app::ThemeChoice kept = context.settings.theme;
    window.applyTheme(theme == QLatin1String("dark") ? app::ThemeChoice::Dark : theme == QLatin1String("light") || once ? app::ThemeChoice::Light : kept);
    context.settings.theme = kept;
    if (!context.settings.geometry.isEmpty() && !once)
        window.restoreGeometry(context.settings.geometry);
    const QStringList size = parser.value(QStringLiteral("size")).split(QLatin1Char('x'));
    if (size.size() == 2)
        window.resize(size[0].toInt(), size[1].toInt());
    const QString given = parser.positionalArguments().value(0);
    // Without a name the last session's project comes back.
    if (!given.isEmpty())
        window.openPath(given);
    else if (!once && QFileInfo::exists(context.settings.lastProject))
        window.openPath(context.settings.lastProject);
    if (parser.isSet(QStringLiteral("revision")))
        context.document.selectRevision(parser.value(QStringLiteral("revision")).toStdString());
    window.show();
    if (parser.isSet(QStringLiteral("shots")))
        return writeShots(window, context, parser.value(QStringLiteral("shots")));
    if (parser.isSet(QStringLiteral("time-to-paint"))) {
        window.grab();
        std::printf("%lld ms\n", static_cast<long long>(sinceStart.elapsed()));
        return 0;
    }
    return QApplication::exec();
}
