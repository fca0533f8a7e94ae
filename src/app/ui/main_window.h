// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/model/background_job.h"
#include "app/model/recovery.h"
#include "app/stations/station_page.h"
#include "app/ui/context.h"

#include <QMainWindow>
#include <QPointer>

#include <set>

class QMenu;
class QPagedPaintDevice;
class QScrollArea;
class QSplitter;
class QStackedWidget;
class QTemporaryDir;

namespace app {

class BenchPage;
class FindingsLine;
class FindingsList;
class ImportDialog;
class Recorder;
class RevisionRail;
class StationStrip;
class WorkingPanel;
class FitPage;
class WorkingTab;

/// The shell: strip, rail, stage, Working, findings line. Stations plug in; it knows none of their insides.
class MainWindow : public QMainWindow {
    Q_OBJECT
public:
    explicit MainWindow(Context& context, QWidget* parent = nullptr);
    ~MainWindow() override;

    // ---- files (main_window_opening.cpp, main_window_files.cpp) ----
    /// For a picture or a timing: what is opened is neither locked nor remembered, nothing is written beside it.
    void setOnlyLooks(bool on) { m_onlyLooks = on; }
    /// Opens a project file or folder beside the window; a refused one is said in a dialog and leaves what is open as
    /// it was.
    void openInBackground(const QString& path);
    /// The demo, which no file is kept of: what is done to it stays in the window until it is saved somewhere.
    void openDemo();
    /// As openInBackground(), waited for.
    bool openPath(const QString& path);
    /// Saves under a name, waited for. What is not saved, and why, stands in the findings line.
    bool saveTo(const QString& path);
    enum class OnDisk { Ask, Replace }; ///< when somebody else wrote the file since it was read
    void startSave(const QString& path, store::Foreign foreign, OnDisk onDisk = OnDisk::Ask);
    /// A name as it was chosen; the ending of projects is added where it has none.
    void saveAsNamed(const QString& chosen);
    /// The program is asked to end by the system: what is not saved goes to the disk as a copy.
    void endNow();
    /// Where copies of what is not saved, and recordings, are kept.
    [[nodiscard]] QString recoveryFolder() const;
    [[nodiscard]] QString captureFolder() const;
    void workOnACopy();
    void startProject(const core::Project& project);
    bool writeReport(const QString& path);
    /// Opens the dialog that reads in a log; nothing when there is no revision to attach it to.
    ImportDialog* importLog(const QString& path);
    // ---- what is selected (main_window_editing.cpp); keys as in Selection ----
    void editThing(const core::Thing& thing);
    void detailsOf(const core::Thing& thing);
    void keepThing(const core::Thing& thing);
    void renameThing(const core::Thing& thing);
    void renameTo(const core::Thing& thing, const QString& name);
    void removeThing(const core::Thing& thing);
    void duplicateThing(const core::Thing& thing);
    void replaceThing(const core::Thing& thing);
    void observeLink(const core::Thing& thing);
    void stateCorners(const core::LeadRef& lead, std::size_t end);
    void unplug(const core::Thing& thing);
    /// What can be done with a thing; empty where nothing can.
    [[nodiscard]] QMenu* menuOf(const core::Thing& thing);
    [[nodiscard]] QMenu* sheetMenu();

    bool printSheet(const QString& pdfPath);
    /// The measuring sheet, to a printer or (with a path) into a PDF.
    bool printMeasures(const QString& pdfPath);

    // ---- stations ----
    void setStation(int station);
    void goTo(core::rules::Station station);
    [[nodiscard]] int station() const;
    [[nodiscard]] StationPage* page(int station) const { return m_pages.at(static_cast<std::size_t>(station)); }
    [[nodiscard]] StationPage* page(core::rules::Station station) const;
    [[nodiscard]] BenchPage* bench() const { return m_bench; }
    [[nodiscard]] Recorder* recorder() const { return m_recorder; }
    [[nodiscard]] Recovery* recovery() const { return m_recovery; }
    [[nodiscard]] RevisionRail* rail() const { return m_rail; }
    [[nodiscard]] WorkingPanel* working() const { return m_working; }
    void applyTheme(ThemeChoice choice);
    /// The user asked that the program start itself anew once this window is closed.
    [[nodiscard]] bool wantsRestart() const { return m_restart; }
    /// Goes to the station of a finding, selects what it is about and flashes its zone.
    void showFinding(const core::rules::Finding& finding);
    /// The last message of the program in words; kept for tests and for reading out.
    [[nodiscard]] const QString& lastMessage() const { return m_lastMessage; }

public Q_SLOTS:
    void newProject();
    void open();
    void save();
    void saveAs();
    void exportFolder();
    void askImport();
    void askReport();
    void askPrint();
    void record();
    void newRevision();
    void copyFigure(const core::Thing& thing);
    [[nodiscard]] FitPage* fitPage() const;
    /// @p search: what the shelf is searched for at first.
    void addPart(const QString& search = {});
    void openMenu();
    void editBrief();
    void pinBaseline();
    void validateRevision();
    void setValidated(const std::string& id, bool validated);
    void find();
    void searchCombinations();
    void fillInMeasures();
    void changeNeed();
    void askSections();
    void about();

protected:
    void closeEvent(QCloseEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    // main_window.cpp
    void buildShell();
    void buildPages();
    void connectViews();
    void connectBrief();
    void arrange();
    void refresh();
    void toggleFindings();
    void bringSelectionIntoSight();
    void fitFindingsList();
    void stepRevision(int direction);
    void nextRegion(int direction);
    void tell(const QString& title, const QString& text);
    void tell(const core::Problem& problem);
    [[nodiscard]] QScrollArea* scrolled(QWidget* page);
    // main_window_actions.cpp
    void buildActions();
    void buildFileActions();
    void buildEditActions();
    void buildRevisionActions();
    void buildViewActions();
    void addSizes(QMenu* sizes);
    void addUnits(QMenu* units);
    void fillRecent();
    void offerRestart(int percent);
    QAction* action(QMenu* menu, const QString& text, const QKeySequence& keys, std::function<void()> run,
                    const QString& objectName = {});
    // main_window_opening.cpp, main_window_files.cpp
    struct Opened {
        core::Result<store::Loaded> loaded;
        std::optional<store::FileStamp> stamp;
        QString path;
        bool asCopy = false; ///< as a project that was never saved
        std::shared_ptr<const core::Project> before;
    };
    void startOpen(const QString& path, bool asCopy);
    void finishOpen(Opened& opened);
    void placeOpened(Opened& opened);
    void startCopy(core::Project copy);
    void tellWarnings(const store::Loaded& loaded);
    void askAboutSecondWindow();
    void saved(Document::Place place, const std::shared_ptr<const core::Project>& project);
    void saveFailed(const core::Problem& problem);
    void askAboutChange(const QString& path);
    void exportTo(const QString& target, store::Foreign foreign);
    void askAboutRecording(const std::function<void()>& then);
    void offerLeft();
    void offerRecovered(const Recovery::Left& left, const core::Result<Recovery::Recovered>& read);
    void recover(const Recovery::Left& left, const Recovery::Recovered& state);
    void whenSafe(const std::function<void()>& then);
    void remember(const QString& path);
    void showProgress(BackgroundJob* job, const QString& text);
    // main_window_recording.cpp
    void connectRecorder();
    void offerLeftCapture();
    void askToThrowAway(const QString& file, std::size_t rows);
    // main_window_outputs.cpp
    void startReport(const QString& path);
    [[nodiscard]] bool paintSheetOn(QPagedPaintDevice& device, double dotsPerInch);

    Context& m_context;
    StationStrip* m_strip = nullptr;
    RevisionRail* m_rail = nullptr;
    QStackedWidget* m_stack = nullptr;
    QSplitter* m_splitter = nullptr;
    WorkingPanel* m_working = nullptr;
    WorkingTab* m_workingTab = nullptr;
    FindingsLine* m_findings = nullptr;
    FindingsList* m_findingsList = nullptr;
    BenchPage* m_bench = nullptr;
    std::vector<StationPage*> m_pages;        ///< in the order of the registry
    std::vector<QPushButton*> m_startButtons; ///< shown while the stage is empty
    QMenu* m_menu = nullptr;
    QMenu* m_recent = nullptr;
    QAction *m_stopAction = nullptr, *m_validateAction = nullptr;
    QPushButton *m_validateButton = nullptr, *m_stopButton = nullptr, *m_recordButton = nullptr;
    QString m_lastMessage;
    Recorder* m_recorder = nullptr;
    Recovery* m_recovery = nullptr;
    QPointer<BackgroundJob> m_openJob, m_saveJob, m_reportJob;
    std::function<void()> m_afterSave;
    std::vector<std::shared_ptr<const core::LogFile>>
        m_knownFiles;           ///< where readings stand since the last save to a folder
    std::set<QString> m_passed; ///< copies and captures that were offered in this session
    bool m_openedWell = false, m_savedWell = false, m_reportWell = false, m_asking = false, m_onlyLooks = false;
    void showMenuOf(const core::Thing& thing, const QPoint& at);
    void showSheetMenu(Act act, const QPoint& at);
    /// What keys act on: the selection, or the revision where the rail has the focus.
    [[nodiscard]] core::Thing thingSelected() const;
    [[nodiscard]] std::string partAt(const core::Thing& thing) const;
    bool change(const QString& text, const std::function<core::Result<void>(core::Project&)>& edit);

    bool m_narrow = false, m_closing = false;
    bool m_altAlone = false;   ///< Alt went down and nothing else since
    bool m_restart = false;    ///< once closed, the program starts itself anew
    bool m_forwarding = false; ///< a key is on its way to the sheet
};

} // namespace app
