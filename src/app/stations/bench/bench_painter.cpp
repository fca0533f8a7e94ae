// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/paint/stations.h"

#include "core/base/text.h"

namespace app {
using core::Mark;
using core::Quantity;
using core::bench::SettleState;

namespace {

const core::bench::ChannelResult* cpuOf(const core::bench::RunAnalysis* a) {
    if (!a)
        return nullptr;
    for (const auto& c : a->channels)
        if (c.kind == core::ChannelKind::Temperature &&
            (c.name.starts_with("cpu") || c.subject.find("cpu") != std::string::npos))
            return &c;
    for (const auto& c : a->channels)
        if (c.kind == core::ChannelKind::Temperature)
            return &c;
    return nullptr;
}

double coverage(Canvas& c, const QRectF& r, const View& v) {
    c.heading(r.left(), r.top(), r.width(), QObject::tr("Coverage"),
              QObject::tr("settled CPU, %1 at %2 room")
                  .arg(v.unit(Quantity::Temperature), v.number(Quantity::Temperature, v.project().brief.roomC)));
    const auto& loads = v.project().loads;
    const auto& revisions = v.project().revisions;
    const double rowH = std::clamp((r.height() - 50) / share(revisions.size()), 18.0, 28.0);
    PaintedList list(c, QStringLiteral("coverage"), r.adjusted(0, 46, 0, 2), revisions.size(), rowH);
    // In sight is the revision of the run that is selected, else the one that is looked at.
    const auto* selected = std::get_if<core::RunRef>(&c.selected());
    const core::Run* chosen = selected ? v.project().run(selected->id) : nullptr;
    const std::string& inSight = chosen ? chosen->revision : v.document.revision();
    list.follow([&](std::size_t i) { return core::Thing(core::RevisionRef{revisions[i].id}); });
    for (std::size_t i = 0; i < revisions.size(); ++i)
        if (revisions[i].id == inSight)
            list.keepInSight(i);
    const double column = (list.right() - r.left() - 44) / share(loads.size());
    for (std::size_t i = 0; i < loads.size(); ++i)
        c.second({r.left() + 44 + column * static_cast<double>(i), r.top() + 26, column - 4, 18},
                 c.elided(qs(loads[i].name), column - 6, 12), Qt::AlignCenter);
    list.paint([&](std::size_t at, const QRectF& row) {
        const core::Revision& revision = revisions[at];
        const double y = row.top();
        if (revision.id == v.document.revision())
            c.box(row, c.t.marker, {});
        c.hit(row, Hit{{},
                       core::RevisionRef{revision.id},
                       {.act = Act::LookAt},
                       QObject::tr("Look at %1").arg(qs(revision.id))});
        c.text({r.left() + 6, y, 40, rowH}, qs(revision.id), 12.5, Weight::Medium, c.t.ink);
        for (std::size_t i = 0; i < loads.size(); ++i) {
            const QRectF cell(r.left() + 44 + column * static_cast<double>(i), y + 2, column - 5, rowH - 4);
            const core::Run* best = nullptr;
            const core::bench::ChannelResult* value = nullptr;
            for (const core::Run& run : v.project().runs) {
                if (run.revision != revision.id || run.load != loads[i].id)
                    continue;
                const auto* channel = cpuOf(v.document.analysis(run.id));
                const auto* a = v.document.analysis(run.id);
                if (a && a->stepped && best)
                    continue; // something was changed in the middle: another run says more
                if (!best || (channel && (!value || channel->state <= value->state))) {
                    best = &run;
                    value = channel;
                }
            }
            if (!best) {
                QPen pen(c.t.line, 1);
                pen.setDashPattern({3, 3});
                c.p.setPen(pen);
                c.p.setBrush(Qt::NoBrush);
                c.p.drawRect(cell);
                continue;
            }
            const core::Thing key = core::RunRef{best->id};
            c.box(cell, c.isSelected(key) ? c.t.marker : c.t.sheet, c.isSelected(key) ? c.t.medge : c.t.ink,
                  c.isSelected(key) ? 2 : 1);
            c.settleSign({cell.left() + 4, cell.center().y() - 6}, value ? value->state : SettleState::Refused);
            const QString text =
                value && value->atReference
                    ? qs(core::fixed(v.show.value(Quantity::Temperature, value->atReference->value), 0))
                    : QStringLiteral("–");
            c.text(cell.adjusted(0, 0, -6, 0), text, 12.5, Weight::SemiBold, c.t.ink,
                   Qt::AlignRight | Qt::AlignVCenter);
            c.hit(cell, key, QObject::tr("Run %1, %2").arg(qs(best->name), text));
        }
    });
    return std::min(r.top() + 46 + rowH * static_cast<double>(revisions.size()), r.bottom() + 2);
}

void runRows(Canvas& c, const QRectF& r, const View& v, const std::string& chosen) {
    int count = 0, simulated = 0;
    for (const core::Run& run : v.project().runs)
        if (run.revision == v.document.revision()) {
            ++count;
            simulated += run.simulated ? 1 : 0;
        }
    // Said once where it is true of all, so that the rows have room for what differs.
    const bool allSimulated = count > 0 && simulated == count;
    const QString many = counted(count, QObject::tr("1 run"), QObject::tr("%1 runs"));
    c.heading(r.left(), r.top(), r.width(), QObject::tr("Runs of %1").arg(qs(v.document.revision())),
              allSimulated ? QObject::tr("%1, simulated").arg(many) : many);
    const double settledX = r.right() - 4, roomX = r.right() - 96, lengthX = r.right() - 140;
    for (const auto& [x, word] : {std::pair{lengthX, QObject::tr("length")}, std::pair{roomX, QObject::tr("room")},
                                  std::pair{settledX, QObject::tr("CPU settled")}})
        c.second({x - 80, r.top() + 26, 80, 18}, word, Qt::AlignRight | Qt::AlignVCenter, 11.5);
    const double none = r.top() + 46;
    std::vector<const core::Run*> runs;
    for (const core::Run& run : v.project().runs)
        if (run.revision == v.document.revision())
            runs.push_back(&run);
    PaintedList list(c, QStringLiteral("runs"), r.adjusted(0, 46, 0, 2), runs.size(), 24);
    list.follow([&](std::size_t i) { return core::Thing(core::RunRef{runs[i]->id}); });
    list.paint([&](std::size_t i, const QRectF& row) {
        const core::Run& run = *runs[i];
        const double y = row.top();
        const auto* a = v.document.analysis(run.id);
        const auto* cpu = cpuOf(a);
        const core::Thing key = core::RunRef{run.id};
        if (run.id == chosen)
            c.box(row, c.t.marker, c.t.medge, 1.5);
        if (v.document.isAnalysing(run.id))
            c.mark({r.left() + 4, y + 6}, Mark::Running);
        else
            c.settleSign({r.left() + 4, y + 6}, !cpu         ? SettleState::Refused
                                                : a->stepped ? std::max(SettleState::Rough, cpu->state)
                                                             : cpu->state);
        c.text({r.left() + 26, y, 120, 24}, c.elided(qs(run.name), 118, 12.5, Weight::Medium), 12.5, Weight::Medium);
        // What must be said of a run stands in its row.
        QStringList said;
        if (a && !a->unsettled.empty())
            said << (a->disturbed ? QObject::tr("disturbed") : QObject::tr("stopped early"));
        if (run.simulated)
            said << QObject::tr("simulated");
        QStringList shown = said;
        if (allSimulated)
            shown.removeLast();
        const double from = r.left() + 34 + std::min(118.0, c.width(qs(run.name), 12.5, Weight::Medium)),
                     room = lengthX - 42 - from;
        c.second({from, y, room, 24}, c.elided(shown.join(QStringLiteral(", ")), room, 11.5),
                 Qt::AlignLeft | Qt::AlignVCenter, 11.5);
        if (a && a->load) {
            c.text({lengthX - 60, y, 60, 24},
                   qs(core::fixed((a->load->endS - a->load->startS) / 60, 0)) + QStringLiteral(" min"), 12.5,
                   Weight::Regular, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
            c.text({roomX - 40, y, 40, 24}, v.number(Quantity::Temperature, a->roomC), 12.5, Weight::Regular, c.t.ink,
                   Qt::AlignRight | Qt::AlignVCenter);
        }
        const QString value = cpu && cpu->atReference
                                  ? v.number(Quantity::Temperature, cpu->atReference->value) + QStringLiteral(" ±") +
                                        v.number(Quantity::TemperatureDifference, 1.96 * cpu->atReference->u)
                                  : QObject::tr("not yet");
        c.text({settledX - 92, y, 92, 24}, value, 12.5, Weight::SemiBold, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
        c.hline(r.left(), r.right(), y + 24, c.t.hair);
        c.hit(row, key,
              said.isEmpty()
                  ? QObject::tr("Run %1, CPU %2").arg(qs(run.name), value)
                  : QObject::tr("Run %1 (%3), CPU %2").arg(qs(run.name), value, said.join(QStringLiteral(", "))));
    });
    if (count == 0)
        c.paragraph({r.left(), none + 4, r.width(), 60},
                    QObject::tr("No runs yet. Read in a log, or record from the rig."), 12.5, Weight::Regular,
                    c.t.ink2);
}

/// The channels of the chosen run with what each settled at, or why it did not.
void channelRows(Canvas& c, const QRectF& r, const View& v, const std::string& chosen) {
    const auto* a = v.document.analysis(chosen);
    const core::Run* run = v.project().run(chosen);
    if (!a || !run)
        return;
    c.heading(r.left(), r.top(), r.width(), QObject::tr("Channels of %1").arg(qs(run->name)),
              QObject::tr("settled, or why not"));
    PaintedList list(c, QStringLiteral("channels"), r.adjusted(0, 26, 0, 2), a->channels.size(), 20);
    const auto keyOf = [&](std::size_t i) { return core::Thing(core::ChannelRef{run->id, a->channels[i].name}); };
    list.filter(c.headingRoom(r, QObject::tr("Channels of %1").arg(qs(run->name)), QObject::tr("settled, or why not")),
                [&](std::size_t i) {
                    const auto& ch = a->channels[i];
                    return channelName(v, *run, ch.kind, ch.subject, ch.name) + QLatin1Char(' ') + qs(ch.name);
                });
    list.follow(keyOf);
    list.paint([&](std::size_t i, const QRectF& row) {
        const auto& ch = a->channels[i];
        const double y = row.top(), right = row.right();
        const core::Thing key = keyOf(i);
        c.washIfSelected(row, key);
        c.settleSign({r.left() + 4, y + 4}, ch.state);
        const QString name = channelName(v, *run, ch.kind, ch.subject, ch.name);
        c.text({r.left() + 26, y, r.width() - 130, 20}, c.elided(name, r.width() - 130, 12.5), 12.5, Weight::Regular);
        const bool thermal = ch.kind == core::ChannelKind::Temperature || ch.kind == core::ChannelKind::Ambient;
        const QString value = !std::isfinite(ch.settled) ? QObject::tr("refused")
                              : thermal                  ? v.text(Quantity::Temperature, ch.settled)
                                        : digits(ch.settled, ch.kind == core::ChannelKind::Level ? 1 : 0) +
                                              QLatin1Char(' ') + qs(ch.unit);
        c.text({r.left() + 120, y, right - r.left() - 122, 20}, value, 12.5, Weight::SemiBold, c.t.ink,
               Qt::AlignRight | Qt::AlignVCenter);
        c.hline(r.left(), right, y + 20, c.t.hair);
        c.hit(row, key, QObject::tr("Channel %1 (%2), %3, %4").arg(name, qs(ch.name), value, settleText(ch.state)));
    });
}

} // namespace

void paintBench(Canvas& c, const QRectF& r, const View& v, const std::string& run) {
    if (v.project().revisions.empty())
        return emptyStage(c, r,
                          QObject::tr("No revisions yet. A run belongs to a revision: add the case and parts first."));
    const double coverageH = std::min(r.height() * 0.52, 52 + 28.0 * static_cast<double>(v.project().revisions.size()));
    const double y = coverage(c, {r.left(), r.top(), r.width(), coverageH}, v) + 10;
    int count = 0;
    for (const core::Run& candidate : v.project().runs)
        count += candidate.revision == v.document.revision();
    const double runsH = 50 + 24.0 * std::max(1, std::min(count, 4));
    runRows(c, {r.left(), y, r.width(), runsH}, v, run);
    channelRows(c, {r.left(), y + runsH + 10, r.width(), r.bottom() - y - runsH - 10}, v, run);
}

} // namespace app
