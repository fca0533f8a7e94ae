// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/model/background_job.h"
#include "app/model/document.h"

#include <QPointer>
#include <QTimer>

namespace app {

/// Keeps what is not saved on the disk as well: within two seconds of an edit there is a copy that the next start
/// offers. Readings that stand in the saved project already are named in the copy, not written again.
class Recovery : public QObject {
    Q_OBJECT
public:
    Recovery(Document& document, QString folder, QObject* parent = nullptr);
    ~Recovery() override;
    /// At once, in this thread: the program is asked to end.
    void writeNow();
    /// Saved, or thrown away on purpose: the copy has done its work.
    void clear();
    [[nodiscard]] QString file() const { return m_file; }

    /// A copy that an ended program left.
    struct Left {
        QString about; ///< the file that says so; the copy counts from the moment it names it
        QString file;
        QString path;                    ///< of the project it belongs to; empty: never saved
        QString name;                    ///< of the project
        QString written;                 ///< local date and time
        std::vector<std::string> inBase; ///< runs whose readings stand in the project
    };
    /// Copies whose program is gone, newest first.
    [[nodiscard]] static std::vector<Left> left(const QString& folder);
    struct Recovered {
        core::Project project, base;
        std::vector<std::string> lost;
    };
    /// The state that was not saved, readings of its base in place. Errors: the copy cannot be read.
    [[nodiscard]] static core::Result<Recovered> read(const Left& left);
    static void drop(const Left& left);

Q_SIGNALS:
    /// The copy cannot be written: what is not saved stands in memory only.
    void failed(const core::Problem& problem);

private:
    struct Snapshot {
        std::shared_ptr<const core::Project> project, saved;
        QString path, file, about;
    };
    static core::Result<void> write(const Snapshot& snapshot);
    bool prepare();
    void start();
    [[nodiscard]] Snapshot snapshot();
    /// What stands beside the copy that counts.
    static void dropOlder(const QString& base, const QString& kept);

    Document& m_document;
    QString m_folder, m_file;                   ///< the name all of its files start with, and that is locked
    int m_number = 0;                           ///< of the copy: each has a file of its own
    std::shared_ptr<store::ProjectLock> m_lock; ///< says that this program lives
    std::shared_ptr<const core::Project> m_written;
    QTimer m_timer;
    QPointer<BackgroundJob> m_job;
    bool m_told = false;
};

} // namespace app
