// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/context.h"
#include "devices/capture_file.h"
#include "devices/sample_source.h"

#include <QPointer>

namespace app {

/// Takes readings from a source to the disk and, when it ends, into the project they were made for. A capture is
/// deleted only when its readings were read back from the saved project.
class Recorder : public QObject {
    Q_OBJECT
public:
    Recorder(Context& context, QString folder, QObject* parent = nullptr);
    ~Recorder() override;

    void start(std::unique_ptr<devices::SampleSource> source, const std::string& load);
    void stop();
    [[nodiscard]] bool isRecording() const { return m_source != nullptr; }
    [[nodiscard]] const core::Samples& live() const { return m_live; }
    /// The source says that it makes its readings up.
    [[nodiscard]] bool simulated() const { return m_about.simulated; }
    [[nodiscard]] const std::string& revision() const { return m_about.revision; }
    /// The last thing the source or the disk said.
    [[nodiscard]] const QString& lastNote() const { return m_note; }

    /// A capture that an ended program left, or one that did not become a run.
    struct Left {
        QString file;
        store::LogAbout about;
        QString started;
        std::size_t rows = 0;
        double seconds = 0;
    };
    /// Those of the project that is open; another program's live one is left alone.
    [[nodiscard]] std::vector<Left> leftOfProject() const;
    /// How many belong to other projects, and the path of one of them.
    [[nodiscard]] std::vector<Left> leftOfOthers() const;
    /// It was read in as this run: kept until that is saved.
    void readIn(const QString& file, const std::string& run);
    static void drop(const QString& file);
    /// The project was saved: captures whose readings are found there are deleted. Answers what was not found.
    std::vector<core::Problem> saved(const QString& path);

Q_SIGNALS:
    void changed();
    void reading();
    /// @p run is empty when nothing became of it; @p reason is empty when it was stopped on purpose.
    void ended(const std::string& run, const QString& reason);
    void refused(const core::Problem& problem);
    /// The disk did not take the readings; recording has stopped.
    void failed(const core::Problem& problem);

private:
    void finish(const QString& reason);
    void takeRow(double t, const std::vector<double>& values);
    [[nodiscard]] bool ofThisProject(const store::LogAbout& about) const;
    [[nodiscard]] std::vector<Left> left(bool ofThis) const;

    Context& m_context;
    QString m_folder;
    std::unique_ptr<devices::SampleSource> m_source;
    devices::CaptureFile m_capture;
    store::LogAbout m_about;
    core::Samples m_live;
    QString m_note;
    std::shared_ptr<store::ProjectLock> m_lock; ///< says to other windows that the capture is alive
    struct Kept {
        QString file;
        std::string run;
        std::shared_ptr<store::ProjectLock> lock;
    };
    std::vector<Kept> m_kept; ///< captures whose runs are in the project, but not on the disk with it yet
};

} // namespace app
