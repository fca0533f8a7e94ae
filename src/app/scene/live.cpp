// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/scene/stations.h"

#include "core/base/text.h"

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

Mark worstOf(const Document::Result& result, TargetKind kind) {
    Mark mark = Mark::None;
    for (const auto& t : result.verdict.targets)
        if (t.kind == kind)
            mark = core::worse(mark, t.state);
    return mark;
}

Mark markOfFindings(const core::verdict::Evaluation& e, core::rules::Station station) {
    Mark mark = Mark::Holds;
    for (const auto& f : e.findings)
        if (f.station == station && f.severity != core::rules::Severity::Note)
            mark = core::worse(mark, f.severity == core::rules::Severity::Blocker ? Mark::Crossed : Mark::Open);
    return mark;
}

Live briefLive(const core::verdict::Evaluation& e) {
    int blockers = 0, cautions = 0;
    for (const auto& f : e.findings)
        if (f.station == core::rules::Station::Brief) {
            blockers += f.severity == core::rules::Severity::Blocker;
            cautions += f.severity == core::rules::Severity::Caution;
        }
    const QString text = blockers ? counted(blockers, QObject::tr("1 blocker"), QObject::tr("%1 blockers")) : cautions ? counted(cautions, QObject::tr("1 caution"), QObject::tr("%1 cautions")) : QObject::tr("%1 parts agree").arg(e.build.placed.size());
    return {text, markOfFindings(e, core::rules::Station::Brief)};
}

Live airLive(const View& v, const core::verdict::Evaluation& e) {
    const core::Placed* cpu = e.build.firstOf(core::PartKind::Processor);
    const auto* part = cpu ? e.air.part(cpu->mount) : nullptr;
    const QString noise = qs(core::fixed(e.noise.totalDba, 0)) + QStringLiteral(" dB");
    Mark mark = core::worse(worstOf(v.result(), TargetKind::Temperature), worstOf(v.result(), TargetKind::Noise));
    mark = core::worse(mark, markOfFindings(e, core::rules::Station::Air));
    if (!part)
        return {noise, mark};
    return {QObject::tr("CPU %1 at %2").arg(qs(core::fixed(v.show.value(Quantity::Temperature, part->temperatureC), 0)), noise), mark};
}

Live benchLive(const View& v) {
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
    return {QObject::tr("%1 of %2 settled").arg(settled).arg(runs), settled == runs ? Mark::Holds : settled ? Mark::Open : Mark::Crossed};
}

} // namespace

QString channelName(const View& v, const core::Run& run, core::ChannelKind kind, const std::string& subject, const std::string& heading) {
    const auto& evaluation = v.document.result(run.revision).evaluation;
    const core::Placed* p = evaluation ? evaluation->build.at(subject) : nullptr;
    QString part = p ? qs(p->name) : QString();
    if (p && p->part->kind == core::PartKind::Processor)
        part = QObject::tr("CPU");
    else if (p && p->part->kind == core::PartKind::Card)
        part = QObject::tr("Card");
    switch (kind) {
    case core::ChannelKind::Ambient: return QObject::tr("Room");
    case core::ChannelKind::Level: return QObject::tr("Noise");
    case core::ChannelKind::Power: return part.isEmpty() ? QObject::tr("Power") : QObject::tr("%1 power").arg(part);
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
    case core::ChannelKind::Other: break;
    }
    return qs(heading);
}

std::array<Live, 6> liveResults(const View& v) {
    std::array<Live, 6> live;
    const auto* e = v.evaluation();
    live[4] = benchLive(v);
    if (!e) {
        const QString text = v.project().revisions.empty() ? QObject::tr("no parts yet") : QObject::tr("does not resolve");
        for (const std::size_t i : {0U, 1U, 2U, 3U, 5U})
            live[i] = {text, v.project().revisions.empty() ? Mark::None : Mark::Crossed};
        return live;
    }
    live[0] = briefLive(*e);
    live[1] = e->fit.gaps.empty() ? Live{QObject::tr("no gaps yet"), Mark::None}
                                  : Live{QObject::tr("tightest %1").arg(v.signedNumber(Quantity::Length, core::fit::tightestMm(e->fit)) + QLatin1Char(' ') + v.unit(Quantity::Length)), railMarks(v.result())[0]};
    live[2] = airLive(v, *e);
    live[3] = {QObject::tr("%1 h, %2 screws").arg(qs(core::fixed(e->make.hours, 1))).arg(e->make.screws), markOfFindings(*e, core::rules::Station::Make)};
    const auto& verdict = v.result().verdict;
    Mark mark = verdict.targets.empty() ? Mark::None : Mark::Holds;
    for (const auto& t : verdict.targets)
        mark = core::worse(mark, t.state == Mark::None ? Mark::Open : t.state);
    live[5] = {verdict.validated ? QObject::tr("validated") : QObject::tr("%1 of %2 proven").arg(verdict.proven).arg(verdict.targets.size()), mark};
    return live;
}

std::array<Mark, 3> railMarks(const Document::Result& result) {
    if (!result.evaluation)
        return {Mark::Crossed, Mark::None, Mark::None};
    Mark fit = Mark::Holds;
    for (const auto& gap : result.evaluation->fit.gaps)
        if (gap.state != core::fit::GapState::Clear || gap.marginMm() < 0)
            fit = core::worse(fit, gap.mark == Mark::Holds ? Mark::Open : gap.mark);
    for (const auto& f : result.evaluation->findings)
        if (f.station == core::rules::Station::Fit && f.severity == core::rules::Severity::Blocker)
            fit = Mark::Crossed;
    return {fit, worstOf(result, TargetKind::Temperature), worstOf(result, TargetKind::Noise)};
}

void stageHead(Canvas& c, const QRectF& r, const QString& question, const QString& right) {
    c.text({r.left(), r.top(), r.width(), 24}, question, 16, Weight::SemiBold);
    if (!right.isEmpty())
        c.second({r.left(), r.top(), r.width(), 24}, c.elided(right, r.width() - c.width(question, 16, Weight::SemiBold) - 16, 12), Qt::AlignRight | Qt::AlignVCenter);
}

void emptyStage(Canvas& c, const QRectF& r, const QString& sentence) {
    c.box(r.adjusted(0, 34, 0, 0), {}, c.t.hair, 1);
    c.paragraph({r.left() + 16, r.top() + 52, 520, 80}, sentence, 14, Weight::Medium, c.t.ink);
}

} // namespace app
