// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/main_window.h"

#include "app/stations/air/air_page.h"
#include "app/stations/bench/bench_page.h"
#include "app/stations/brief/brief_page.h"
#include "app/stations/fit/fit_page.h"
#include "app/stations/registry.h"
#include "app/ui/dialogs/form_dialog.h"
#include "app/ui/recording/recorder.h"
#include "app/ui/shell/begin_elsewhere.h"
#include "app/ui/shell/findings_line.h"
#include "app/ui/shell/revision_rail.h"
#include "app/ui/shell/station_strip.h"
#include "app/ui/shell/working_panel.h"
#include "app/ui/shell/working_tab.h"
#include "app/ui/style.h"
#include "core/base/text.h"

#include <QApplication>
#include <QKeyEvent>
#include <QMenu>
#include <QMessageBox>
#include <QScrollArea>
#include <QSplitter>
#include <QStackedWidget>
#include <QTimer>

namespace app {
using core::rules::Station;

namespace {
constexpr int narrowBelow = 1180, wideFrom = 1600;
constexpr int leastStageHeight = 560;
} // namespace

MainWindow::MainWindow(Context& context, QWidget* parent) : QMainWindow(parent), m_context(context) {
    setObjectName(QStringLiteral("mainWindow"));
    setMinimumSize(1100, 700);
    resize(1280, 800);
    setAcceptDrops(true);
    m_recorder = new Recorder(context, captureFolder());
    m_recovery = new Recovery(context.document, recoveryFolder(), this);
    connect(m_recovery, &Recovery::failed, this, [this](const core::Problem& p) {
        m_findings->setProblem(tr("What is not saved has no copy on the disk: %1").arg(qs(p.text())));
    });
    buildShell();
    buildPages();
    m_recorder->setParent(this); // behind the pages that look at it, so that it is deleted after them
    buildActions();
    connectViews();
    setStation(context.settings.station);
    refresh();
    QMetaObject::invokeMethod(this, &MainWindow::offerLeft, Qt::QueuedConnection);
}

MainWindow::~MainWindow() {
    // Views listen to the document; they must not be told of its end.
    m_context.document.disconnect();
    m_context.selection.disconnect();
    // Jobs deliver to a window that is still there, or to none.
    for (const QPointer<BackgroundJob>& job : {m_openJob, m_saveJob, m_reportJob})
        delete job;
}

QScrollArea* MainWindow::scrolled(QWidget* page) {
    auto* area = new QScrollArea(this);
    area->setWidget(page);
    area->setWidgetResizable(true);
    area->setFrameShape(QFrame::NoFrame);
    area->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    area->setFocusPolicy(Qt::NoFocus);
    page->setMinimumHeight(leastStageHeight);
    return area;
}

void MainWindow::buildShell() {
    auto* central = new QWidget(this);
    auto* column = new QVBoxLayout(central);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    m_strip = new StationStrip(m_context, central);
    m_splitter = new QSplitter(Qt::Horizontal, central);
    m_splitter->setHandleWidth(1);
    m_splitter->setChildrenCollapsible(false);
    m_rail = new RevisionRail(m_context, m_splitter);
    m_stack = new QStackedWidget(m_splitter);
    m_working = new WorkingPanel(m_context, m_splitter);
    m_splitter->addWidget(m_rail);
    m_splitter->addWidget(m_stack);
    m_splitter->addWidget(m_working);
    m_splitter->setStretchFactor(1, 1);
    m_workingTab = new WorkingTab(m_context, central);
    auto* row = new QHBoxLayout;
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(0);
    row->addWidget(m_splitter, 1);
    row->addWidget(m_workingTab);
    m_findings = new FindingsLine(m_context, central);
    column->addWidget(m_strip);
    m_findingsList = new FindingsList(m_context, central);
    m_findingsList->hide();
    column->addLayout(row, 1);
    column->addWidget(m_findingsList); // the stage gives way: what a finding speaks of stays in sight
    column->addWidget(m_findings);
    setCentralWidget(central);
}

void MainWindow::buildPages() {
    for (const StationRow& row : stations()) {
        const std::size_t i = m_pages.size();
        m_pages.push_back(row.page(m_context, *m_recorder));
        m_pages[i]->setAccessibleName(row.title());
        m_pages[i]->setObjectName(QStringLiteral("page%1").arg(i));
        m_stack->addWidget(scrolled(m_pages[i]));
        // One button at the upper left of an empty stage: the next thing to do.
        auto* start = new QPushButton(tr("Start a project"), m_pages[i]);
        start->setObjectName(QStringLiteral("start%1").arg(i));
        start->setProperty(mainAction, true);
        start->setGeometry(48, row.id == Station::Brief ? 262 : 200, 150, 30); // below the sentence of the empty stage
        connect(start, &QPushButton::clicked, this, &MainWindow::newProject);
        m_startButtons.push_back(start);
    }
    m_bench = static_cast<BenchPage*>(page(Station::Bench));
    connect(page(Station::Brief)->addButton(tr("Edit"), QStringLiteral("editBrief"), 8, 40, 52), &QPushButton::clicked,
            this, &MainWindow::editBrief);
    connect(page(Station::Brief)->addButton(tr("Add a part"), QStringLiteral("addPart"), 0, 84, 96, 24),
            &QPushButton::clicked, this, [this] { addPart(); });
    auto* import = m_bench->addButton(tr("Read in a log"), QStringLiteral("readLog"), 226, 0, 104);
    auto* rec = m_recordButton = m_bench->addButton(tr("Record"), QStringLiteral("record"), 114, 0, 104);
    m_stopButton = m_bench->addButton(tr("Stop"), QStringLiteral("stop"), 0, 0, 106);
    rec->setProperty(mainAction, true);
    connect(import, &QPushButton::clicked, this, &MainWindow::askImport);
    connect(rec, &QPushButton::clicked, this, &MainWindow::record);
    connect(m_stopButton, &QPushButton::clicked, this, [this] { m_recorder->stop(); });
    auto* report = page(Station::Verdict)->addButton(tr("Write report"), QStringLiteral("writeReport"), 12, 42, 110);
    report->setProperty(mainAction, true);
    m_validateButton = page(Station::Verdict)->addButton(tr("Validate"), QStringLiteral("validate"), 134, 42, 110);
    connect(report, &QPushButton::clicked, this, &MainWindow::askReport);
    connect(m_validateButton, &QPushButton::clicked, this, &MainWindow::validateRevision);
}

void MainWindow::connectViews() {
    connect(m_strip, &StationStrip::stationChosen, this, &MainWindow::setStation);
    connect(m_strip, &StationStrip::menuWanted, this, [this](const QPoint& at) { m_menu->popup(at); });
    std::vector<PaintedPanel*> panels{m_pages.begin(), m_pages.end()};
    panels.push_back(m_rail->cards());
    for (PaintedPanel* panel : panels) {
        connect(panel, &PaintedPanel::opened, this, &MainWindow::editThing);
        connect(panel, &PaintedPanel::menuWanted, this, &MainWindow::showMenuOf);
        connect(panel, &PaintedPanel::sheetMenuWanted, this, &MainWindow::showSheetMenu);
    }
    connect(m_rail, &RevisionRail::newRevision, this, &MainWindow::newRevision);
    connect(m_findings, &FindingsLine::toggled, this, &MainWindow::toggleFindings);
    connect(m_findings, &FindingsLine::show, this, &MainWindow::showFinding);
    connect(m_findingsList, &FindingsList::show, this, &MainWindow::showFinding);
    m_findingsList->zoneOf = [this](const core::rules::Finding& f) {
        return numberOf(f.station) == station() ? page(station())->zoneOf(f.about) : QString();
    };
    connect(m_findingsList, &FindingsList::closed, this, &MainWindow::toggleFindings);
    connect(m_workingTab, &WorkingTab::toggled, this, [this] {
        m_working->setVisible(!m_working->isVisible());
        arrange();
    });
    connectBrief();
    auto* fit = fitPage();
    connect(fit, &FitPage::refused, this, qOverload<const core::Problem&>(&MainWindow::tell));
    connect(fit, &FitPage::addPartWanted, this, [this] { addPart(); });
    connect(fit, &FitPage::cornersWanted, this, &MainWindow::stateCorners);
    connect(fit, &FitPage::fillInWanted, this, &MainWindow::fillInMeasures);
    connect(fit, &FitPage::sheetWanted, this, [this] { printMeasures({}); });
    connect(static_cast<AirPage*>(page(Station::Air)), &AirPage::refused, this,
            qOverload<const core::Problem&>(&MainWindow::tell));
    connectRecorder();
    connect(&m_context.document, &Document::changed, this, &MainWindow::refresh);
    connect(&m_context.document, &Document::revisionSelected, this, &MainWindow::refresh);
    connect(&m_context.document, &Document::pathChanged, this, &MainWindow::refresh);
    connect(&m_context.document.undoStack(), &QUndoStack::cleanChanged, this, &MainWindow::refresh);
    connect(m_splitter, &QSplitter::splitterMoved, this, [this] { m_strip->setRailWidth(m_rail->width() + 1); });
}

void MainWindow::connectBrief() {
    auto* brief = static_cast<BriefPage*>(page(Station::Brief));
    connect(brief, &BriefPage::addPartWanted, this, &MainWindow::addPart);
    connect(brief, &BriefPage::started, this, &MainWindow::startProject);
    connect(brief, &BriefPage::startWorked, m_working, &WorkingPanel::showBefore);
    connect(brief, &BriefPage::refused, this, qOverload<const core::Problem&>(&MainWindow::tell));
    BeginElsewhere* elsewhere = m_rail->elsewhere();
    connect(elsewhere, &BeginElsewhere::openWanted, this, &MainWindow::open);
    connect(elsewhere, &BeginElsewhere::demoWanted, this, &MainWindow::openDemo);
    connect(elsewhere, &BeginElsewhere::caseWanted, this, [this, brief] {
        goTo(Station::Brief);
        brief->beginWithCase();
    });
    connect(elsewhere, &BeginElsewhere::recentWanted, this,
            [this](const QString& path) { whenSafe([this, path] { openInBackground(path); }); });
}

void MainWindow::refresh() {
    const auto& project = m_context.document.project();
    const bool empty = project.revisions.empty();
    for (QPushButton* start : m_startButtons)
        start->setVisible(empty);
    for (StationPage* page : m_pages)
        for (auto* button : page->findChildren<QPushButton*>(QString(), Qt::FindDirectChildrenOnly))
            if (std::find(m_startButtons.begin(), m_startButtons.end(), button) == m_startButtons.end())
                button->setVisible(!empty);
    const auto& verdict = m_context.view().result().verdict;
    m_validateButton->setText(verdict.validated ? tr("Withdraw")
                                                : tr("Validate %1").arg(qs(m_context.document.revision())));
    m_validateButton->setEnabled(!empty && (verdict.canBeValidated || verdict.validated));
    m_validateButton->setToolTip(verdict.validated        ? tr("Take the stamp off this revision")
                                 : verdict.canBeValidated ? tr("Mark this revision as validated")
                                                          : tr("What is left to do stands below on this sheet"));
    m_validateAction->setEnabled(m_validateButton->isEnabled());
    m_stopButton->setEnabled(m_recorder->isRecording());
    m_stopAction->setEnabled(m_recorder->isRecording());
    m_recordButton->setEnabled(!m_recorder->isRecording()); // one at a time
    m_strip->setRecording(m_recorder->isRecording());
    const bool readOnly = m_context.document.isReadOnly();
    const QString name = project.name.empty() ? tr("Mini Draft")
                         : readOnly           ? tr("%1 (read-only) – Mini Draft").arg(qs(project.name))
                                              : tr("%1 – Mini Draft").arg(qs(project.name));
    setWindowTitle(name + QStringLiteral("[*]"));
    setWindowModified(m_context.document.isModified());
    if (!m_findingsList->isHidden())
        fitFindingsList();
}

/// One that is remembered may be of a program with more of them.
void MainWindow::setStation(int station) {
    station = std::clamp(station, 0, static_cast<int>(m_pages.size()) - 1);
    m_stack->setCurrentIndex(station);
    m_strip->setCurrent(station);
    m_context.settings.station = station;
    page(station)->setFocus();
}

void MainWindow::goTo(Station station) { setStation(numberOf(station)); }

StationPage* MainWindow::page(Station station) const { return page(numberOf(station)); }

int MainWindow::station() const { return m_stack->currentIndex(); }

void MainWindow::arrange() {
    const bool narrow = width() < narrowBelow;
    const int rail = narrow ? 164 : width() >= 2200 ? 240 : width() >= wideFrom ? 216 : 188;
    const int working = width() >= 2200 ? 340 : width() >= wideFrom ? 300 : 252;
    fitFindingsList();
    if (std::exchange(m_narrow, narrow) != narrow)
        m_working->setVisible(!narrow);
    m_workingTab->setVisible(narrow);
    m_rail->setMinimumWidth(164);
    // In a narrow window Working takes the room of the rail while it is open: it covers no part of the sheet.
    const bool open = !m_working->isHidden();
    m_rail->setVisible(!narrow || !open);
    const int whole = width() - (narrow ? m_workingTab->width() : 0);
    m_splitter->setSizes({m_rail->isHidden() ? 0 : rail,
                          whole - (m_rail->isHidden() ? 0 : rail) - (open ? working : 0) - 2, open ? working : 0});
    m_strip->setRailWidth(rail + 1);
}

/// As many rows as there are, and no more than a third of the window.
void MainWindow::fitFindingsList() {
    m_findingsList->setFixedHeight(std::min(m_findingsList->wantedHeight(), std::max(192, (height() - 90) / 3)));
}

void MainWindow::resizeEvent(QResizeEvent* event) {
    QMainWindow::resizeEvent(event);
    arrange();
}

void MainWindow::toggleFindings() {
    const bool show = !m_findingsList->isVisible();
    m_findingsList->setVisible(show);
    m_findings->setOpen(show);
    arrange();
    if (show)
        m_findingsList->setFocus();
    else
        page(station())->setFocus();
}

void MainWindow::showFinding(const core::rules::Finding& finding) {
    goTo(finding.station);
    m_findingsList->update(); // zones are those of the station shown
    m_context.selection.select(finding.about);
    QTimer::singleShot(0, this, &MainWindow::bringSelectionIntoSight);
}

/// Where the list of findings leaves little room, the sheet scrolls to what is selected.
void MainWindow::bringSelectionIntoSight() {
    StationPage* shown = page(station());
    auto* area = qobject_cast<QScrollArea*>(m_stack->currentWidget());
    if (!area)
        return;
    shown->repaint();
    for (const Hit& hit : shown->hits())
        if (hit.thing == m_context.selection.thing()) {
            const QPoint at = hit.rect.center().toPoint();
            return area->ensureVisible(at.x(), at.y(), 40,
                                       static_cast<int>(std::min(120.0, hit.rect.height() / 2 + 30)));
        }
}

void MainWindow::stepRevision(int direction) {
    const auto line = core::lineage(m_context.document.project(), m_context.document.revision());
    if (!line)
        return;
    if (direction < 0) {
        if (line->size() > 1)
            m_context.document.selectRevision((*line)[line->size() - 2]->id);
        return;
    }
    for (const core::Revision& r : m_context.document.project().revisions)
        if (r.parent == m_context.document.revision())
            return m_context.document.selectRevision(r.id);
}

void MainWindow::nextRegion(int direction) {
    const std::array<QWidget*, 5> regions{m_strip, m_rail->cards(), page(station()), m_working->sheet(), m_findings};
    int at = 2;
    for (int i = 0; i < 5; ++i)
        if (regions[static_cast<std::size_t>(i)]->hasFocus())
            at = i;
    for (int step = 0; step < 5; ++step) {
        at = (at + direction + 5) % 5;
        if (regions[static_cast<std::size_t>(at)]->isVisible())
            break;
    }
    regions[static_cast<std::size_t>(at)]->setFocus(Qt::TabFocusReason);
}

void MainWindow::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape || event->key() == Qt::Key_Backspace)
        return m_context.selection.back();
    // After choosing in the rail or in Working the keys of the sheet go on working: what no region took is the page's.
    QWidget* sheet = page(station());
    const bool plain =
        (event->modifiers() & ~(Qt::ShiftModifier | Qt::AltModifier | Qt::KeypadModifier)) == Qt::NoModifier;
    if (plain && !m_forwarding && !sheet->hasFocus() && (!sheet->focusWidget() || !sheet->focusWidget()->hasFocus())) {
        m_forwarding = true;
        QApplication::sendEvent(sheet, event);
        m_forwarding = false;
        if (event->isAccepted())
            return;
    }
    QMainWindow::keyPressEvent(event);
}

void MainWindow::tell(const QString& title, const QString& text) {
    m_lastMessage = title + QStringLiteral(": ") + text;
    auto* box = new QMessageBox(QMessageBox::NoIcon, qs(core::printable(title.toStdString())),
                                qs(core::printable(text.toStdString())), QMessageBox::Ok, this);
    box->setObjectName(QStringLiteral("message"));
    box->setAttribute(Qt::WA_DeleteOnClose);
    box->open();
}

void MainWindow::tell(const core::Problem& problem) {
    tell(qs(problem.place), qs(problem.what + (problem.remedy.empty() ? "" : "\n" + problem.remedy)));
}

void MainWindow::applyTheme(ThemeChoice choice) {
    m_context.settings.theme = choice;
    const bool dark = choice == ThemeChoice::Dark ||
                      (choice == ThemeChoice::System &&
                       QApplication::style()->standardPalette().color(QPalette::Window).lightness() < 128);
    m_context.theme = dark ? Theme::night_() : Theme::light();
    QApplication::setPalette(m_context.theme.palette());
    QApplication::setFont(m_context.theme.font(13));
    m_bench->refreshTheme();
    for (QWidget* w : findChildren<QWidget*>())
        w->update();
}

} // namespace app

#include "moc_main_window.cpp"
