// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/commands.h"

#include "devices/capture_file.h"
#include "devices/sample_source.h"

#include <QCoreApplication>

#include <csignal>
#include <cstdio>

namespace cli {

int capture(const Options& options) {
    const QString source = QString::fromStdString(options.source);
    std::unique_ptr<devices::LineSource> lines;
    if (source.startsWith(QLatin1String("socket:"))) {
        lines = devices::LineSource::fromSocket(source.mid(7));
    } else {
        QStringList arguments;
        for (const std::string& a : options.sourceArguments)
            arguments << QString::fromStdString(a);
        lines = devices::LineSource::fromProgram(source, arguments);
    }
    devices::CaptureFile file;
    std::size_t rows = 0;
    int code = ExitFine;
    double first = std::nan("");
    const auto stop = [&](int with) {
        code = std::max(code, with);
        QCoreApplication::quit();
    };
    QObject::connect(lines.get(), &devices::SampleSource::note, [](const QString& text) { std::fprintf(stderr, "mini-draft-cli: note: %s\n", text.toUtf8().constData()); });
    QObject::connect(lines.get(), &devices::SampleSource::channelsKnown, [&] {
        if (const auto opened = file.open(QString::fromStdString(options.output), lines->channels()); !opened)
            stop(badInput(opened.error()));
    });
    QObject::connect(lines.get(), &devices::SampleSource::reading, [&](double t, const std::vector<double>& values) {
        if (!file.isOpen())
            return;
        if (std::isnan(first))
            first = t;
        if (const auto added = file.add(t, values); !added)
            return stop(badInput(added.error()));
        ++rows;
        if (options.seconds > 0 && t - first >= options.seconds)
            lines->stop();
    });
    QObject::connect(lines.get(), &devices::SampleSource::ended, [&](const QString& reason) {
        if (!reason.isEmpty())
            std::fprintf(stderr, "mini-draft-cli: %s; what was read is in %s\n", reason.toUtf8().constData(), options.output.c_str());
        stop(reason.isEmpty() ? ExitFine : rows > 0 ? ExitNotMet : ExitBadInput);
    });
    QMetaObject::invokeMethod(lines.get(), [&] { lines->start(); }, Qt::QueuedConnection);
    QCoreApplication::exec();
    file.close();
    if (options.json)
        print({{"file", options.output}, {"rows", rows}});
    else
        std::printf("%s: %zu rows\n", options.output.c_str(), rows);
    return code;
}

} // namespace cli
