// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/run.h"

#include <QObject>
#include <QString>
#include <QTimer>

#include <memory>

class QIODevice;
class QProcess;
class QLocalSocket;

namespace devices {

/// Where readings come from. Channels are known after channelsKnown(); each reading has one value a channel.
class SampleSource : public QObject {
    Q_OBJECT
public:
    using QObject::QObject;
    virtual void start() = 0;
    virtual void stop() = 0;
    [[nodiscard]] const std::vector<core::Channel>& channels() const { return m_channels; }
    [[nodiscard]] const QString& name() const { return m_name; }
    /// A stand-in for a device: its readings prove nothing.
    [[nodiscard]] bool simulated() const { return m_simulated; }

Q_SIGNALS:
    /// Once, before the first reading: the channels are what they are from then on.
    void channelsKnown();
    void reading(double timeS, const std::vector<double>& values);
    void note(const QString& text);
    /// The source is gone; @p reason is empty when it was stopped on purpose.
    void ended(const QString& reason);

protected:
    std::vector<core::Channel> m_channels;
    QString m_name;
    bool m_simulated = false;
};

/// Readings in the line protocol, from a program's standard output or a local socket.
class LineSource : public SampleSource {
    Q_OBJECT
public:
    static std::unique_ptr<LineSource> fromProgram(const QString& program, const QStringList& arguments);
    static std::unique_ptr<LineSource> fromSocket(const QString& name);
    ~LineSource() override;
    void start() override;
    void stop() override;

    /// How long a source may say nothing before that is noted; for tests.
    void setPatience(int milliseconds) { m_patienceMs = milliseconds; }

private:
    LineSource();
    void readLines();
    void take(const QByteArray& line);
    void announce(const core::Channel& channel);
    void warn(const QString& text);
    void waitForReading();
    void finish(const QString& reason);

    QString m_program, m_socketName;
    QStringList m_arguments;
    std::unique_ptr<QProcess> m_process;
    std::unique_ptr<QLocalSocket> m_socket;
    QIODevice* m_device = nullptr;
    QTimer m_silence;
    int m_patienceMs = 10'000;
    int m_notes = 0;
    bool m_announced = false, m_ended = false, m_wrongCount = false;
};

} // namespace devices
