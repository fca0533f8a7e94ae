// SPDX-License-Identifier: GPL-3.0-or-later
#include "devices/sample_source.h"

#include "devices/line_protocol.h"

#include <QLocalSocket>
#include <QProcess>

namespace devices {

LineSource::LineSource() = default;

std::unique_ptr<LineSource> LineSource::fromProgram(const QString& program, const QStringList& arguments) {
    std::unique_ptr<LineSource> source(new LineSource);
    source->m_program = program;
    source->m_arguments = arguments;
    return source;
}

std::unique_ptr<LineSource> LineSource::fromSocket(const QString& name) {
    std::unique_ptr<LineSource> source(new LineSource);
    source->m_socketName = name;
    return source;
}

LineSource::~LineSource() {
    m_ended = true;
    if (m_process) {
        m_process->disconnect(this);
        m_process->kill();
        m_process->waitForFinished(500);
    }
}

void LineSource::start() {
    waitForReading();
    if (!m_socketName.isEmpty()) {
        m_socket = std::make_unique<QLocalSocket>();
        m_device = m_socket.get();
        connect(m_socket.get(), &QLocalSocket::disconnected, this, [this] { finish(tr("the connection was closed")); });
        connect(m_socket.get(), &QLocalSocket::errorOccurred, this,
                [this] { finish(tr("socket %1: %2").arg(m_socketName, m_socket->errorString())); });
        connect(m_device, &QIODevice::readyRead, this, &LineSource::readLines);
        m_socket->connectToServer(m_socketName, QIODevice::ReadOnly);
        return;
    }
    m_process = std::make_unique<QProcess>();
    m_device = m_process.get();
    connect(m_device, &QIODevice::readyRead, this, &LineSource::readLines);
    connect(m_process.get(), &QProcess::errorOccurred, this, [this](QProcess::ProcessError e) {
        if (e == QProcess::FailedToStart)
            finish(tr("%1 cannot be started: %2").arg(m_program, m_process->errorString()));
    });
    connect(m_process.get(), &QProcess::finished, this, [this] {
        readLines();
        finish(
            tr("the source ended by itself: %1").arg(QString::fromUtf8(m_process->readAllStandardError()).trimmed()));
    });
    m_process->start(m_program, m_arguments, QIODevice::ReadOnly);
}

void LineSource::stop() {
    finish({});
    if (m_process)
        m_process->terminate();
    if (m_socket)
        m_socket->abort();
}

void LineSource::finish(const QString& reason) {
    if (m_ended)
        return;
    m_ended = true;
    m_silence.stop();
    Q_EMIT ended(reason);
}

namespace {
constexpr qint64 longestLine = 1 << 16;
constexpr std::size_t mostChannels = 256;
constexpr int mostNotes = 50;
} // namespace

void LineSource::readLines() {
    while (!m_ended && m_device->canReadLine()) {
        const QByteArray text = m_device->readLine(longestLine + 1);
        if (!text.endsWith('\n')) {
            finish(tr("a line longer than %1 bytes is not the line protocol").arg(longestLine));
            break;
        }
        take(text.trimmed());
    }
    // Without line ends nothing would ever be taken out of the buffer.
    if (!m_ended && m_device->bytesAvailable() > longestLine)
        finish(tr("%1 bytes came without a line end: this is not the line protocol").arg(m_device->bytesAvailable()));
    if (m_ended && m_process && m_process->state() != QProcess::NotRunning)
        m_process->terminate();
}

void LineSource::waitForReading() {
    m_silence.setSingleShot(true);
    m_silence.disconnect(this);
    connect(&m_silence, &QTimer::timeout, this, [this] {
        warn(m_announced ? tr("no reading for %1 s").arg(m_patienceMs / 1000.0)
                         : tr("nothing was read yet: no reading for %1 s").arg(m_patienceMs / 1000.0));
        m_silence.start(m_patienceMs);
    });
    m_silence.start(m_patienceMs);
}

/// Notes are for people: a source that sends nothing else is cut short.
void LineSource::warn(const QString& text) {
    if (++m_notes < mostNotes)
        Q_EMIT note(text);
    else if (m_notes == mostNotes)
        Q_EMIT note(tr("further notes of this source are left out"));
}

void LineSource::announce(const core::Channel& channel) {
    const QString name = QString::fromStdString(channel.name);
    if (m_announced)
        warn(tr("channel %1 was announced after the first reading and is left out").arg(name));
    else if (m_channels.size() >= mostChannels)
        warn(tr("channel %1 is one more than %2 and is left out").arg(name).arg(mostChannels));
    else
        m_channels.push_back(channel);
}

void LineSource::take(const QByteArray& text) {
    if (text.isEmpty())
        return;
    const auto line = parseLine({text.constData(), static_cast<std::size_t>(text.size())});
    if (!line)
        return warn(QString::fromStdString(line.error().text()));
    if (const auto* hello = std::get_if<Hello>(&*line)) {
        m_name = QString::fromStdString(hello->name);
        m_simulated = hello->simulated;
    } else if (const auto* c = std::get_if<ChannelLine>(&*line)) {
        announce(c->channel);
    } else if (const auto* d = std::get_if<DataLine>(&*line)) {
        m_silence.start(m_patienceMs);
        if (!m_announced) {
            m_announced = true;
            Q_EMIT channelsKnown();
        }
        std::vector<double> values = d->values;
        if (values.size() != m_channels.size() && !std::exchange(m_wrongCount, true))
            warn(tr("a reading has %1 values for %2 channels: what is missing stays empty, what is more is left out")
                     .arg(values.size())
                     .arg(m_channels.size()));
        values.resize(m_channels.size(), std::nan(""));
        if (!m_ended)
            Q_EMIT reading(d->timeS, values);
    } else if (const auto* n = std::get_if<NoteLine>(&*line)) {
        warn(QString::fromStdString(n->text));
    } else if (const auto* e = std::get_if<EndLine>(&*line)) {
        finish(e->text == "done" ? QString{} : QString::fromStdString(e->text));
    }
}

} // namespace devices

#include "moc_sample_source.cpp"
