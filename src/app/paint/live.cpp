// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/paint/stations.h"

#include "core/base/text.h"
#include "core/verdict/marks.h"

#include <QCoreApplication>

namespace app {
using core::Mark;
using core::Quantity;
using core::TargetKind;

const core::verdict::TargetResult* targetOf(const Document::Result& result, TargetKind kind) {
    for (const auto& t : result.verdict.targets)
        if (t.kind == kind)
            return &t;
    return nullptr;
}

namespace {

using core::rules::Station;

Mark markOf(const View& v, Station station) {
    return core::verdict::markOfStation(*v.evaluation(), v.result().verdict, station);
}

} // namespace

Live briefLive(const View& v, const core::stages::Evaluation& e) {
    int blockers = 0, cautions = 0;
    for (const auto& f : e.findings)
        if (f.station == core::rules::Station::Brief) {
            blockers += f.severity == core::rules::Severity::Blocker;
            cautions += f.severity == core::rules::Severity::Caution;
        }
    if (e.build.placed.empty())
        return {QObject::tr("no parts yet"), markOf(v, Station::Brief)};
    const QString text = blockers   ? counted(blockers, QObject::tr("1 blocker"), QObject::tr("%1 blockers"))
                         : cautions ? counted(cautions, QObject::tr("1 caution"), QObject::tr("%1 cautions"))
                                    : QObject::tr("%1 parts agree").arg(e.build.placed.size());
    return {text, markOf(v, Station::Brief)};
}

Live airLive(const View& v, const core::stages::Evaluation& e) {
    const core::Placed* cpu = e.build.firstOf(core::PartKind::Processor);
    const auto* part = cpu ? e.air.part(cpu->mount) : nullptr;
    const Mark mark = markOf(v, Station::Air);
    const QString noise = qs(core::fixed(e.noise.totalDba, 0)) + QStringLiteral(" dB");
    if (!part)
        return {e.noise.sources.empty() ? QObject::tr("nothing warm yet") : noise, mark};
    const QString cpuC = qs(core::fixed(v.show.value(Quantity::Temperature, part->temperatureC), 0));
    return {e.noise.sources.empty() ? QObject::tr("CPU %1, no fan").arg(cpuC)
                                    : QObject::tr("CPU %1 at %2").arg(cpuC, noise),
            mark};
}

Live benchLive(const View& v, const core::stages::Evaluation&) {
    int runs = 0, settled = 0;
    bool waiting = false;
    for (const core::Run& run : v.project().runs) {
        if (run.revision != v.document.revision())
            continue;
        ++runs;
        bool all = false;
        waiting = waiting || v.document.isAnalysing(run.id);
        if (const auto* a = v.document.analysis(run.id)) {
            all = a->load.has_value() && !a->stepped;
            for (const auto& c : a->channels)
                if (c.kind == core::ChannelKind::Temperature)
                    all = all && c.state == core::bench::SettleState::Settled;
        }
        settled += all;
    }
    if (runs == 0)
        return {QObject::tr("no runs yet"), Mark::None};
    if (waiting)
        return {QObject::tr("reading runs ..."), Mark::Running};
    using core::bench::SettleState;
    return {QObject::tr("%1 of %2 settled").arg(settled).arg(runs), Mark::None,
            settled == runs ? SettleState::Settled
            : settled       ? SettleState::Rough
                            : SettleState::Refused};
}

QString channelName(const View& v, const core::Run& run, core::ChannelKind kind, const std::string& subject,
                    const std::string& heading) {
    const auto& evaluation = v.document.shown(run.revision).evaluation;
    const core::Placed* p = evaluation ? evaluation->build.at(subject) : nullptr;
    QString part = p ? qs(p->name) : QString();
    if (p && p->part->kind == core::PartKind::Processor)
        part = QObject::tr("CPU");
    else if (p && p->part->kind == core::PartKind::Card)
        part = QObject::tr("Card");
    switch (kind) {
    case core::ChannelKind::Ambient:
        return QObject::tr("Room");
    case core::ChannelKind::Level:
        return QObject::tr("Noise");
    case core::ChannelKind::Power:
        return part.isEmpty() ? QObject::tr("Power") : QObject::tr("%1 power").arg(part);
    case core::ChannelKind::Clock:
        if (!part.isEmpty())
            return QObject::tr("%1 clock").arg(part);
        break;
    case core::ChannelKind::Rpm:
        if (!part.isEmpty())
            return QObject::tr("%1 speed").arg(part);
        break;
    case core::ChannelKind::Temperature:
        if (!part.isEmpty())
            return part;
        break;
    case core::ChannelKind::Other:
        break;
    }
    return qs(heading);
}

Live fitLive(const View& v, const core::stages::Evaluation& e) {
    const QString tightest =
        v.signedNumber(Quantity::Length, core::fit::tightestMm(e.fit)) + QLatin1Char(' ') + v.unit(Quantity::Length);
    return {core::verdict::markOfFit(e) == Mark::None ? QObject::tr("no gaps yet")
                                                      : QObject::tr("tightest %1").arg(tightest),
            markOf(v, Station::Fit)};
}

Live makeLive(const View& v, const core::stages::Evaluation& e) {
    const Mark mark = markOf(v, Station::Make);
    return {mark == Mark::None ? QObject::tr("nothing to make yet")
                               : QObject::tr("%1 h, %2 screws").arg(digits(e.make.hours, 1)).arg(e.make.screws),
            mark};
}

Live verdictLive(const View& v, const core::stages::Evaluation&) {
    const auto& verdict = v.result().verdict;
    const Mark mark = markOf(v, Station::Verdict);
    return {mark == Mark::None       ? QObject::tr("nothing to judge yet")
            : verdict.validated      ? QObject::tr("validated")
            : verdict.canBeValidated ? QObject::tr("ready to validate")
                                     : QObject::tr("%1 of %2 proven").arg(verdict.proven).arg(verdict.targets.size()),
            mark};
}

std::array<Mark, 3> railMarks(const Document::Result& result) {
    if (!result.evaluation)
        return {Mark::Crossed, Mark::None, Mark::None};
    const auto& e = *result.evaluation;
    return {core::verdict::markOfFit(e), core::verdict::markOfHeat(e, result.verdict),
            core::verdict::markOfNoise(result.verdict)};
}

void stageHead(Canvas& c, const QRectF& r, const char* asked, const QString& right) {
    const QString question = QCoreApplication::translate("stations", asked);
    c.text({r.left(), r.top(), r.width(), 24}, question, 16, Weight::SemiBold);
    if (!right.isEmpty())
        c.second({r.left(), r.top(), r.width(), 24},
                 c.elided(right, r.width() - c.width(question, 16, Weight::SemiBold) - 16, 12),
                 Qt::AlignRight | Qt::AlignVCenter);
}

void emptyStage(Canvas& c, const QRectF& r, const QString& sentence) {
    c.box(r.adjusted(0, 34, 0, 0), {}, c.t.hair, 1);
    c.paragraph({r.left() + 16, r.top() + 52, 520, 80}, sentence, 14, Weight::Medium, c.t.ink);
}

} // namespace app
