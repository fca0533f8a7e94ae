// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/model/jobs.h"

#include "store/csv_fields.h"
#include "store/run_files.h"

#include <QFileInfo>

namespace app {
namespace {
core::Result<ReadLog> read(const std::string& path, const store::CsvFormat& format, store::BadField bad,
                           const BackgroundJob::Progress& progress) {
    const auto bytes = store::readFile(path);
    if (!bytes)
        return tl::make_unexpected(bytes.error());
    auto samples = store::readCsv(store::decodeText(*bytes), format, path, bad, progress);
    if (!samples)
        return tl::make_unexpected(samples.error());
    auto original =
        store::originalFrom(QFileInfo(QString::fromStdString(path)).fileName().toStdString(), *bytes, *samples);
    return ReadLog{std::move(*samples), std::move(original)};
}
} // namespace

ReadLogJob::ReadLogJob(Workers& workers, QString path, store::CsvFormat format, store::BadField bad, QObject* parent)
    : QObject(parent), m_workers(workers), m_path(std::move(path)), m_format(std::move(format)), m_bad(bad) {}

ReadLogJob::~ReadLogJob() {
    m_cancelled = true;
    delete m_job;
}

void ReadLogJob::start() {
    // Everything the thread touches is its own copy, but for the result, which is read when it is done.
    m_job = new BackgroundJob(
        m_workers,
        [path = m_path.toStdString(), format = m_format, bad = m_bad,
         result = m_result](const BackgroundJob::Progress& progress) { *result = read(path, format, bad, progress); },
        [this] {
            if (m_cancelled)
                return;
            if (*m_result)
                Q_EMIT done(**m_result);
            else
                Q_EMIT refused(m_result->error());
        });
    connect(m_job, &BackgroundJob::progressed, this, &ReadLogJob::progress);
}

void ReadLogJob::cancel() {
    m_cancelled = true;
    if (m_job)
        m_job->cancel();
}

} // namespace app

#include "moc_jobs.cpp"
