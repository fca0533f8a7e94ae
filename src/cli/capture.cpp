// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/commands.h"

#include "devices/capture_file.h"
#include "devices/end_signals.h"
#include "devices/sample_source.h"

#include <QCoreApplication>
#include <QDateTime>
#include <QFileInfo>

#include <csignal>

namespace cli {
namespace {

std::unique_ptr<devices::LineSource> sourceOf(const Options& options) {
    const QString source = QString::fromStdString(options.source);
    if (source.startsWith(QLatin1String("socket:")))
        return devices::LineSource::fromSocket(source.mid(7));
    QStringList arguments;
    for (const std::string& a : options.sourceArguments)
        arguments << QString::fromStdString(a);
    return devices::LineSource::fromProgram(source, arguments);
}

} // namespace

int capture(const Options& options) {
    const QString output = QString::fromStdString(options.output);
    if (!options.force && QFileInfo::exists(output) && QFileInfo(output).isFile())
        return badInput({options.output, "is there already and was not overwritten", "another name, or --force"});
    const auto lines = sourceOf(options);
    devices::CaptureFile file;
    std::size_t rows = 0;
    int code = ExitFine;
    double first = std::nan("");
    const auto stop = [&](int with) {
        code = std::max(code, with);
        QCoreApplication::quit();
    };
    QObject::connect(lines.get(), &devices::SampleSource::note,
                     [](const QString& text) { note("note: " + text.toStdString()); });
    QObject::connect(lines.get(), &devices::SampleSource::channelsKnown, [&] {
        store::LogAbout about{.source = lines->name().toStdString(),
                              .simulated = lines->simulated(),
                              .started = QDateTime::currentDateTimeUtc().toString(Qt::ISODate).toStdString(),
                              .channels = lines->channels()};
        if (const auto opened = file.open(output, about, overwrite(options)); !opened)
            stop(badInput(opened.error()));
    });
    QObject::connect(lines.get(), &devices::SampleSource::reading, [&](double t, const std::vector<double>& values) {
        if (!file.isOpen())
            return;
        if (std::isnan(first))
            first = t;
        if (const auto added = file.add(t, values); !added) {
            lines->blockSignals(true); // the first error is the one to tell
            lines->stop();
            note(std::to_string(rows) + " rows were kept");
            return stop(badInput(added.error()));
        }
        ++rows;
        if (options.seconds > 0 && t - first >= options.seconds)
            lines->stop();
    });
    QObject::connect(lines.get(), &devices::SampleSource::ended, [&](const QString& reason) {
        if (!reason.isEmpty())
            note(reason.toStdString() +
                 (file.isOpen() ? "; what was read is in " + options.output : "; nothing was read"));
        stop(reason.isEmpty() ? (rows > 0 ? ExitFine : ExitBadInput) : rows > 0 ? ExitNotMet : ExitBadInput);
    });
    QObject context;
    devices::onEndSignals(&context, [&](int number) {
        note(std::string("stopped by ") + (number == SIGINT ? "Ctrl+C" : "signal " + std::to_string(number)));
        lines->stop();
    });
    QMetaObject::invokeMethod(
        lines.get(), [&] { lines->start(); }, Qt::QueuedConnection);
    QCoreApplication::exec();
    if (const auto closed = file.close(); !closed)
        code = std::max(code, badInput(closed.error()));
    if (options.json)
        print({{"file", options.output}, {"rows", rows}});
    else
        say("%s: %d rows\n", options.output, rows);
    return code;
}

} // namespace cli
