// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/air/air_page.h"
#include "app/stations/bench/bench_page.h"
#include "app/stations/fit/box_editor.h"
#include "app/stations/fit/fit_page.h"
#include "app/stations/registry.h"
#include "app/ui/dialogs/details_dialog.h"
#include "app/ui/main_window.h"
#include "app/ui/painted_accessible.h"
#include "app/ui/style.h"

#include "devices/end_signals.h"
#include "store/safe_write.h"

#include <QApplication>
#include <QBuffer>
#include <QCommandLineParser>
#include <QDir>
#include <QElapsedTimer>
#include <QFileInfo>
#include <QIcon>
#include <QLibraryInfo>
#include <QProcess>
#include <QScreen>
#include <QStandardPaths>
#include <QTimer>
#include <QTranslator>

#include <algorithm>
#include <clocale>
#include <cstdio>
#include <cstring>
#include <unistd.h>

namespace {

bool shoot(QWidget& window, const QString& folder, const QString& name) {
    for (int pass = 0; pass < 3; ++pass)
        QApplication::processEvents();
    const QString file = QDir(folder).filePath(name + QStringLiteral(".png"));
    QBuffer png;
    png.open(QIODevice::WriteOnly);
    window.grab().save(&png, "PNG");
    if (const auto written = store::writeWhole(file, png.data()); !written) {
        std::fprintf(stderr, "mini-draft: %s\n", written.error().text().c_str());
        return false;
    }
    std::printf("%s\n", qPrintable(file));
    return true;
}

/// The leads with the first of them selected, and a part of the box on its own sides.
bool shootLeads(app::MainWindow& window, app::FitPage& fit, app::Context& context, const QString& folder) {
    fit.choose(app::FitLook::List::Leads);
    const auto* e = context.view().evaluation();
    if (e && !e->wiring.routes.empty())
        context.selection.select(e->wiring.routes.back().ref);
    const bool leads = shoot(window, folder, QStringLiteral("fit-leads"));
    const core::Placed* supply = e ? e->build.firstOf(core::PartKind::PowerSupply) : nullptr;
    if (!leads || !supply)
        return leads;
    app::DetailsDialog details(context, supply->part->id, &window);
    details.setAttribute(Qt::WA_DeleteOnClose, false);
    details.show();
    if (!supply->part->ports.empty())
        details.editor()->go({{"ports", 0}});
    QApplication::processEvents();
    return shoot(details, folder, QStringLiteral("part"));
}

/// The other sides of Air: the network, the warm-up halfway, and what is left open, once it is counted.
bool shootAirSides(app::MainWindow& window, app::Context& context, const QString& folder) {
    auto* air = static_cast<app::AirPage*>(window.page(core::rules::Station::Air));
    if (!context.view().evaluation())
        return true;
    const auto shootSide = [&](app::AirPane pane, const QString& name, const auto& isPending) {
        air->show(pane);
        constexpr int mostMs = 120'000;
        QElapsedTimer waited;
        waited.start();
        while (isPending() && waited.elapsed() < mostMs)
            QApplication::processEvents(QEventLoop::WaitForMoreEvents | QEventLoop::AllEvents, 50);
        return shoot(window, folder, name);
    };
    const bool shot = shootSide(app::AirPane::Network, QStringLiteral("air-network"), [] { return false; }) &&
                      shootSide(app::AirPane::WarmUp, QStringLiteral("air-warm-up"),
                                [&] {
                                    const bool pending = app::answered(air->airLook().warmUp).rows.empty();
                                    if (!pending)
                                        air->setMoment(24);
                                    return pending;
                                }) &&
                      shootSide(app::AirPane::Explore, QStringLiteral("air-explore"),
                                [&] { return air->exploreLook().explored.standing == app::Standing::Pending; });
    air->show(app::AirPane::Section);
    return shot;
}

/// One PNG of each station and of the answers of Fit, as the window shows them.
/// The editor of the box, on its first vent; nothing without a project.
bool shootBox(app::MainWindow& window, app::FitPage& fit, const QString& folder) {
    fit.editBox(true);
    if (!fit.boxEditor())
        return true;
    for (const core::box::Item& item : fit.boxEditor()->items())
        if (item.kind == core::box::Kind::Vent && item.index == 0)
            fit.boxEditor()->choose(item);
    const bool shot = shoot(window, folder, QStringLiteral("fit-box"));
    fit.editBox(false);
    return shot;
}

/// What Air says by load is asked for a moment after the last change.
void waitForLoads(const app::AirPage& air) {
    constexpr int mostMs = 3000;
    QElapsedTimer waited;
    waited.start();
    while (air.airLook().loads.standing != app::Standing::Ready && waited.elapsed() < mostMs)
        QApplication::processEvents(QEventLoop::WaitForMoreEvents | QEventLoop::AllEvents, 50);
}

/// What is selected in the picture of a station; nothing: its first figure.
core::Thing shownOn(const app::MainWindow& window, core::rules::Station station) {
    using core::rules::Station;
    switch (station) {
    case Station::Brief:
        return core::TotalRef{core::Total::Power};
    case Station::Air:
        return core::PartRef{"tray/cpu"};
    case Station::Bench:
        return core::RunRef{window.bench()->run()};
    case Station::Verdict:
        return core::TargetRef{"noise", {}};
    default:
        return {};
    }
}

int writeShots(app::MainWindow& window, app::Context& context, const QString& folder) {
    QDir().mkpath(folder);
    using core::rules::Station;
    context.document.finishAnalyses();
    for (const app::StationRow& row : app::stations()) {
        window.goTo(row.id);
        QApplication::processEvents();
        if (const core::Thing thing = shownOn(window, row.id); !core::isNothing(thing))
            context.selection.select(thing);
        else
            window.page(row.id)->stepSelection(1);
        if (row.id == Station::Air)
            waitForLoads(*static_cast<app::AirPage*>(window.page(Station::Air)));
        if (!shoot(window, folder, QString::fromLatin1(row.picture)))
            return 2;
        if (row.id == Station::Air && !shootAirSides(window, context, folder))
            return 2;
        if (row.id != Station::Fit)
            continue;
        auto* fit = static_cast<app::FitPage*>(window.page(Station::Fit));
        using List = app::FitLook::List;
        for (const auto& [list, name] : {std::pair{List::Change, QStringLiteral("fit-change")},
                                         std::pair{List::Measure, QStringLiteral("fit-measure")},
                                         std::pair{List::Room, QStringLiteral("fit-room")},
                                         std::pair{List::GoingIn, QStringLiteral("fit-going-in")}}) {
            fit->choose(list);
            if (!shoot(window, folder, name))
                return 2;
        }
        if (!shootLeads(window, *fit, context, folder))
            return 2;
        fit->choose(List::Gaps);
        if (!shootBox(window, *fit, folder))
            return 2;
    }
    context.document.reset({}, {}); // the first station before there is a project
    window.newProject();
    QApplication::processEvents();
    return shoot(window, folder, QStringLiteral("start")) ? 0 : 2;
}

constexpr const char* scaleIsOurs = "MINI_DRAFT_SCALE";

/// Text and drawing as large as was chosen. Qt reads the factor when it starts; pictures for the documents are always
/// at 1.
void scaleAsChosen(int argc, char** argv) {
    const bool pictures =
        std::any_of(argv, argv + argc, [](const char* a) { return std::strncmp(a, "--shots", 7) == 0; });
    const int percent = app::Settings::load().sizePercent;
    // What this program set is not what the user set: a program that starts itself anew sets it again.
    const bool users = qEnvironmentVariableIsSet("QT_SCALE_FACTOR") && !qEnvironmentVariableIsSet(scaleIsOurs);
    if (pictures || users)
        return;
    qputenv("QT_SCALE_FACTOR", QByteArray::number(percent / 100.0));
    qputenv(scaleIsOurs, "1");
}

/// Where Qt would abort (no display, no platform plugin), the program says why and what helps.
void sayFatal(QtMsgType type, const QMessageLogContext&, const QString& text) {
    std::fprintf(stderr, "mini-draft: %s\n", text.toLocal8Bit().constData());
    if (type != QtFatalMsg)
        return;
    std::fprintf(stderr, "mini-draft: it needs a display: start it on a desktop, or with xvfb-run; mini-draft-cli "
                         "answers without one\n");
    std::fflush(nullptr);
    ::_exit(2);
}

bool isGiven(int argc, char** argv, std::initializer_list<const char*> options) {
    return std::any_of(argv + 1, argv + argc, [&](const char* a) {
        return std::any_of(options.begin(), options.end(),
                           [&](const char* option) { return std::strncmp(a, option, std::strlen(option)) == 0; });
    });
}

/// A display that is not even named needs no library to find out.
bool hasDisplay(int argc, char** argv) {
    return !qEnvironmentVariableIsEmpty("DISPLAY") || !qEnvironmentVariableIsEmpty("WAYLAND_DISPLAY") ||
           !qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM") || isGiven(argc, argv, {"-platform", "--platform"});
}

/// Without a home or a folder for the session the program still runs; it says what it cannot keep.
void makeDoWithoutFolders() {
    const QByteArray runtime = qgetenv("XDG_RUNTIME_DIR");
    if (runtime.isEmpty() || !QFileInfo(QFile::decodeName(runtime)).isWritable()) {
        const QString own = QDir::tempPath() + QStringLiteral("/mini-draft-runtime-%1").arg(::getuid());
        QDir().mkpath(own);
        QFile::setPermissions(own, QFileDevice::ReadOwner | QFileDevice::WriteOwner | QFileDevice::ExeOwner);
        qputenv("XDG_RUNTIME_DIR", QFile::encodeName(own));
    }
    const QString config = QStandardPaths::writableLocation(QStandardPaths::ConfigLocation);
    if (!QDir().mkpath(config) || !QFileInfo(config).isWritable())
        std::fprintf(stderr,
                     "mini-draft: %s cannot be written: settings are not kept, and unsaved work is copied to %s\n",
                     qPrintable(config), qPrintable(QDir::tempPath()));
}

void nameProgram() {
    QCoreApplication::setApplicationName(QStringLiteral("mini-draft"));
    QCoreApplication::setOrganizationName(QStringLiteral("mini-draft"));
    QCoreApplication::setApplicationVersion(QStringLiteral("0.1.0"));
}

void dressProgram() {
    QApplication::setAttribute(Qt::AA_DontUseNativeDialogs); // file lists in the program's own theme, dark as well
    QApplication::setApplicationDisplayName(QStringLiteral("Mini Draft"));
    QApplication::setDesktopFileName(QStringLiteral("mini-draft"));
    QApplication::setWindowIcon(QIcon(QStringLiteral(":/icons/mini-draft.svg")));
}

void readOptions(QCommandLineParser& parser, const QCoreApplication& application) {
    parser.setApplicationDescription(QStringLiteral("Plans, tests and validates a compact computer."));
    parser.addHelpOption();
    parser.addVersionOption();
    parser.addPositionalArgument(QStringLiteral("project"),
                                 QStringLiteral("project file (.minidraft) or interchange folder"),
                                 QStringLiteral("[project]"));
    parser.addOptions(
        {{QStringLiteral("shots"), QStringLiteral("Write one PNG of each station to this folder and quit."),
          QStringLiteral("folder")},
         {QStringLiteral("revision"), QStringLiteral("Revision to look at."), QStringLiteral("id")},
         {QStringLiteral("theme"), QStringLiteral("light or dark, for this start only."), QStringLiteral("theme")},
         {QStringLiteral("size"), QStringLiteral("Size of the window, e.g. 1280x800."), QStringLiteral("size")},
         {QStringLiteral("time-to-paint"),
          QStringLiteral("Print the milliseconds to the first painted window and quit.")}});
    parser.process(application);
}

/// Theme and size of the window: as asked for this start, else as they were.
void dress(app::MainWindow& window, app::Context& context, const QCommandLineParser& parser, bool once) {
    const QString theme = parser.value(QStringLiteral("theme"));
    const app::ThemeChoice kept = context.settings.theme;
    window.applyTheme(theme == QLatin1String("dark")            ? app::ThemeChoice::Dark
                      : theme == QLatin1String("light") || once ? app::ThemeChoice::Light
                                                                : kept);
    context.settings.theme = kept;
    if (!context.settings.geometry.isEmpty() && !once)
        window.restoreGeometry(context.settings.geometry);
    const QStringList size = parser.value(QStringLiteral("size")).split(QLatin1Char('x'));
    if (size.size() == 2)
        window.resize(size[0].toInt(), size[1].toInt());
    else if (const QScreen* screen = QApplication::primaryScreen(); screen && !once) {
        // With its title bar it stays on the screen.
        constexpr int titleBar = 40, edges = 8;
        window.resize(window.size().boundedTo(screen->availableSize() - QSize(edges, titleBar)));
    }
}

/// The project that was named, else that of the last session, at the revision that was asked for.
void openWanted(app::MainWindow& window, app::Context& context, const QCommandLineParser& parser, bool once) {
    const QString given = parser.positionalArguments().value(0);
    // Without a name the last session's project comes back.
    const QString wanted = !given.isEmpty()                                           ? given
                           : !once && QFileInfo::exists(context.settings.lastProject) ? context.settings.lastProject
                                                                                      : QString();
    if (parser.isSet(QStringLiteral("revision"))) // chosen when the project is there
        QObject::connect(
            &context.document, &app::Document::pathChanged, &window,
            [&context, revision = parser.value(QStringLiteral("revision")).toStdString()] {
                context.document.selectRevision(revision);
            },
            Qt::ConnectionType(Qt::QueuedConnection | Qt::SingleShotConnection));
    if (!wanted.isEmpty() && once)
        window.openPath(wanted);
    else if (!wanted.isEmpty())
        window.openInBackground(wanted);
    if (once && parser.isSet(QStringLiteral("revision")))
        context.document.selectRevision(parser.value(QStringLiteral("revision")).toStdString());
}

int run(int argc, char** argv, QStringList& again) {
    QElapsedTimer sinceStart;
    sinceStart.start();
    qInstallMessageHandler(sayFatal);
    nameProgram();
    if (isGiven(argc, argv, {"--version", "--help", "-h", "-v"})) { // told without a display
        const QCoreApplication application(argc, argv);
        QCommandLineParser parser;
        readOptions(parser, application);
    }
    if (!hasDisplay(argc, argv)) {
        std::fprintf(stderr, "mini-draft: there is no display (neither DISPLAY nor WAYLAND_DISPLAY is set): start it "
                             "on a desktop, or with xvfb-run; mini-draft-cli answers without one\n");
        return 2;
    }
    makeDoWithoutFolders();
    scaleAsChosen(argc, argv);
    QApplication application(argc, argv);
    std::setlocale(LC_NUMERIC, "C"); // libraries below Qt read and write numbers with a point
    dressProgram();

    QCommandLineParser parser;
    readOptions(parser, application);

    QTranslator translator;
    if (translator.load(QLocale(), QStringLiteral("mini-draft"), QStringLiteral("_"),
                        QCoreApplication::applicationDirPath() + QStringLiteral("/../share/mini-draft/translations")))
        QApplication::installTranslator(&translator);

    app::loadFonts();
    app::installPaintedAccessibility();
    app::Context context;
    context.settings = app::Settings::load();
    QApplication::setStyle(new app::SheetStyle(context.theme));
    context.document.setBackground(!parser.isSet(QStringLiteral("shots"))); // pictures wait for every answer
    const bool once = parser.isSet(QStringLiteral("shots")) || parser.isSet(QStringLiteral("time-to-paint"));
    if (once) // a picture is the same whatever was open before
        context.settings.recent.clear();
    app::MainWindow window(context);
    window.setOnlyLooks(once);
    dress(window, context, parser, once);
    openWanted(window, context, parser, once);
    window.show();
    // The system asks the program to end: what is not saved goes to the disk first.
    devices::onEndSignals(&window, [&window](int) {
        window.endNow();
        QApplication::exit(0);
    });
    if (parser.isSet(QStringLiteral("shots")))
        return writeShots(window, context, parser.value(QStringLiteral("shots")));
    if (parser.isSet(QStringLiteral("time-to-paint"))) {
        window.grab();
        std::printf("%lld ms\n", static_cast<long long>(sinceStart.elapsed()));
        return 0;
    }
    const int code = QApplication::exec();
    if (window.wantsRestart())
        again = QStringList{QApplication::applicationFilePath()} +
                (context.document.path().isEmpty() ? QStringList{} : QStringList{context.document.path()});
    return code;
}

} // namespace

int main(int argc, char** argv) {
    QStringList again;
    const int code = run(argc, argv, again);
    // Only now are the locks of the project let go.
    if (!again.isEmpty())
        QProcess::startDetached(again.takeFirst(), again);
    return code;
}
