// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/recording/recorder.h"

#include "core/base/text.h"
#include "store/csv.h"

#include <QDateTime>
#include <QDir>
#include <QFileInfo>

namespace app {

Recorder::Recorder(Context& context, QString folder, QObject* parent)
    : QObject(parent), m_context(context), m_folder(std::move(folder)) {}

Recorder::~Recorder() {
    if (m_source)
        m_source->disconnect(this);
}

void Recorder::start(std::unique_ptr<devices::SampleSource> source, const std::string& load) {
    if (isRecording())
        return;
    const Document& document = m_context.document;
    QDir().mkpath(m_folder);
    const QString file =
        QDir(m_folder).filePath(qs(core::fileNameFrom(document.revision())) +
                                QDateTime::currentDateTimeUtc().toString(QStringLiteral("-yyyyMMdd-hhmmss-zzz'.csv'")));
    if (auto lock = store::ProjectLock::take(file, store::windowProgram))
        m_lock = std::move(*lock);
    m_live = {};
    m_note.clear();
    m_about = {.source = {},
               .started = QDateTime::currentDateTimeUtc().toString(Qt::ISODate).toStdString(),
               .load = load,
               .distanceM = document.project().brief.listenerM,
               .channels = {},
               .project = document.path().toStdString(),
               .projectId = document.project().id,
               .projectName = document.project().name,
               .revision = document.revision(),
               .run = {}};
    m_source = std::move(source);
    connect(m_source.get(), &devices::SampleSource::channelsKnown, this, [this, file] {
        m_live.channels = m_source->channels();
        m_about.channels = m_source->channels();
        m_about.source = m_source->name().toStdString();
        m_about.simulated = m_source->simulated();
        if (const auto opened = m_capture.open(file, m_about); !opened) {
            Q_EMIT failed(opened.error());
            finish(qs(opened.error().text()));
        }
    });
    connect(m_source.get(), &devices::SampleSource::reading, this, &Recorder::takeRow);
    connect(m_source.get(), &devices::SampleSource::note, this, [this](const QString& text) {
        m_note = text;
        Q_EMIT changed();
    });
    connect(m_source.get(), &devices::SampleSource::ended, this, [this](const QString& reason) { finish(reason); });
    Q_EMIT changed();
    m_source->start();
}

void Recorder::takeRow(double t, const std::vector<double>& values) {
    if (!m_source || !m_capture.isOpen())
        return;
    if (const auto added = m_capture.add(t, values); !added) {
        // What is in memory and not on the disk would be lost by the next power cut, and nobody would know.
        Q_EMIT failed(added.error());
        return finish(qs(added.error().text()));
    }
    m_live.timeS.push_back(t);
    for (std::size_t i = 0; i < m_live.channels.size(); ++i)
        m_live.channels[i].values.push_back(i < values.size() ? values[i] : std::nan(""));
    Q_EMIT reading();
}

void Recorder::stop() {
    if (m_source)
        m_source->stop();
}

void Recorder::finish(const QString& reason) {
    if (!m_source)
        return;
    m_source->disconnect(this);
    m_source->stop();
    m_source.release()->deleteLater();
    const bool opened = m_capture.isOpen();
    if (const auto closed = m_capture.close(); !closed)
        Q_EMIT failed(closed.error());
    std::string id;
    if (m_live.timeS.size() > 1) {
        const auto& project = m_context.document.project();
        int n = 1;
        do
            id = m_about.revision + "-live-" + std::to_string(n++);
        while (project.run(id));
        core::Run run{.id = id,
                      .name = id,
                      .revision = m_about.revision,
                      .load = m_about.load,
                      .source = m_about.simulated ? "rig" : "capture",
                      .simulated = m_about.simulated,
                      .distanceM = m_about.distanceM};
        run.samples = std::make_shared<core::Samples>(std::move(m_live));
        const auto kept = m_context.document.edit(tr("Recorded run"), [&](core::Project& p) { p.runs.push_back(run); });
        if (kept) {
            m_about.run = id;
            if (opened) {
                (void)store::writeLogAbout(m_capture.path(), m_about);
                m_kept.push_back({m_capture.path(), id, m_lock});
            }
        } else {
            // The file stays: it is offered again when the project is opened.
            id.clear();
            Q_EMIT refused({kept.error().place,
                            kept.error().what + "; the readings are kept in " + m_capture.path().toStdString(),
                            kept.error().remedy});
        }
    } else if (opened) {
        drop(m_capture.path()); // nothing was read
    }
    m_lock = nullptr;
    m_live = {};
    Q_EMIT changed();
    Q_EMIT ended(id, reason);
}

bool Recorder::ofThisProject(const store::LogAbout& about) const {
    const auto& project = m_context.document.project();
    if (about.projectId.empty() && about.project.empty() && about.projectName.empty())
        return !project.revisions.empty(); // it does not say whose it is: whoever is asked may know
    if (!about.projectId.empty() && !project.id.empty())
        return about.projectId == project.id;
    if (!about.project.empty() && !m_context.document.path().isEmpty())
        return QFileInfo(qs(about.project)).canonicalFilePath() ==
               QFileInfo(m_context.document.path()).canonicalFilePath();
    return !about.projectName.empty() && about.projectName == project.name;
}

namespace {
/// From the first to the last time of a capture, which stands first in each row; 0 where it cannot be read.
double lengthOf(const std::string& text) {
    const auto timeAt = [&](std::size_t from) {
        return from == std::string::npos || from >= text.size()
                   ? std::optional<double>()
                   : core::numberFrom(text.substr(from, text.find_first_of(",;\t\n", from) - from));
    };
    const std::size_t head = text.find('\n');
    if (head == std::string::npos)
        return 0;
    const std::size_t end = text.find_last_not_of("\r\n"),
                      last = end == std::string::npos ? end : text.rfind('\n', end);
    const auto first = timeAt(head + 1), final = last == std::string::npos ? std::nullopt : timeAt(last + 1);
    return first && final ? std::max(0.0, *final - *first) : 0;
}
} // namespace

std::vector<Recorder::Left> Recorder::left(bool ofThis) const {
    std::vector<Left> found;
    for (const QFileInfo& info :
         QDir(m_folder).entryInfoList({QStringLiteral("*.csv")}, QDir::Files, QDir::Time | QDir::Reversed)) {
        if (store::ProjectLock::owner(info.filePath()))
            continue; // another window records it, or keeps it until it is saved
        Left left{.file = info.absoluteFilePath(),
                  .about = store::readLogAbout(info.filePath().toStdString()).value_or(store::LogAbout{}),
                  .started = info.birthTime().toString(QStringLiteral("yyyy-MM-dd HH:mm"))};
        if (ofThisProject(left.about) != ofThis)
            continue;
        if (const auto text = store::readFile(info.filePath().toStdString())) {
            left.rows =
                static_cast<std::size_t>(std::max<std::ptrdiff_t>(0, std::count(text->begin(), text->end(), '\n') - 1));
            left.seconds = lengthOf(*text);
        }
        found.push_back(std::move(left));
    }
    return found;
}

std::vector<Recorder::Left> Recorder::leftOfProject() const { return left(true); }
std::vector<Recorder::Left> Recorder::leftOfOthers() const { return left(false); }

void Recorder::readIn(const QString& file, const std::string& run) {
    std::shared_ptr<store::ProjectLock> lock;
    if (auto taken = store::ProjectLock::take(file, store::windowProgram))
        lock = std::move(*taken);
    if (auto about = store::readLogAbout(file.toStdString())) {
        about->run = run;
        (void)store::writeLogAbout(file, *about);
    }
    m_kept.push_back({file, run, std::move(lock)});
}

void Recorder::drop(const QString& file) {
    QFile::remove(file);
    QFile::remove(store::aboutPath(file));
}

std::vector<core::Problem> Recorder::saved(const QString& path) {
    std::vector<core::Problem> missing;
    std::erase_if(m_kept, [&](const Kept& kept) {
        const auto text = store::readLogText(kept.file.toStdString());
        const auto format =
            text ? store::recogniseCsv(*text, kept.file.toStdString()) : tl::make_unexpected(text.error());
        const auto captured =
            format ? store::readCsv(*text, *format, kept.file.toStdString()) : tl::make_unexpected(format.error());
        const auto back = store::readRunBack(path, kept.run);
        if (!captured || !back) {
            if (!back &&
                m_context.document.project().run(kept.run)) // undone or removed runs keep their capture in silence
                missing.push_back(back.error());
            return false;
        }
        const auto sameNumbers = [](const std::vector<double>& a, const std::vector<double>& b) {
            return std::equal(a.begin(), a.end(), b.begin(), b.end(),
                              [](double x, double y) { return x == y || (std::isnan(x) && std::isnan(y)); });
        };
        // A channel may have been left out by whoever read the log in; of the others each is found by its name.
        bool same = sameNumbers(captured->timeS, back->timeS);
        for (const core::Channel& b : back->channels)
            same =
                same && std::any_of(captured->channels.begin(), captured->channels.end(), [&](const core::Channel& c) {
                    return c.name == b.name && sameNumbers(c.values, b.values);
                });
        if (!same) {
            missing.push_back({kept.file.toStdString(),
                               "run \"" + kept.run + "\" in the saved project has other readings",
                               "the recording is kept"});
            return false;
        }
        drop(kept.file);
        return true;
    });
    return missing;
}

} // namespace app

#include "moc_recorder.cpp"
