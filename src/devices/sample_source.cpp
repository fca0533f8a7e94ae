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
    if (!m_socketName.isEmpty()) {
        m_socket = std::make_unique<QLocalSocket>();
        m_device = m_socket.get();
        connect(m_socket.get(), &QLocalSocket::disconnected, this, [this] { finish(tr("the connection was closed")); });
        connect(m_socket.get(), &QLocalSocket::errorOccurred, this, [this] { finish(tr("socket %1: %2").arg(m_socketName, m_socket->errorString())); });
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
        finish(tr("the source ended by itself: %1").arg(QString::fromUtf8(m_process->readAllStandardError()).trimmed()));
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
    Q_EMIT ended(reason);
}

void LineSource::readLines() {
    while (!m_ended && m_device->canReadLine()) {
        const QByteArray text = m_device->readLine(1 << 16).trimmed();
        const auto line = parseLine({text.constData(), static_cast<std::size_t>(text.size())});
        if (!line) {
            Q_EMIT note(QString::fromStdString(line.error().text()));
            continue;
        }
        if (const auto* hello = std::get_if<Hello>(&*line)) {
            m_name = QString::fromStdString(hello->name);
        } else if (const auto* c = std::get_if<ChannelLine>(&*line)) {
            m_channels.push_back(c->channel);
        } else if (const auto* d = std::get_if<DataLine>(&*line)) {
            if (!m_announced) {
                m_announced = true;
                Q_EMIT channelsKnown();
            }
            std::vector<double> values = d->values;
            values.resize(m_channels.size(), std::nan(""));
            Q_EMIT reading(d->timeS, values);
        } else if (const auto* n = std::get_if<NoteLine>(&*line)) {
            Q_EMIT note(QString::fromStdString(n->text));
        } else if (const auto* e = std::get_if<EndLine>(&*line)) {
            finish(e->text == "done" ? QString{} : QString::fromStdString(e->text));
        }
    }
}

} // namespace devices
