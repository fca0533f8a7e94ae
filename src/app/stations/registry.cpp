// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/registry.h"

#include "app/stations/air/air_page.h"
#include "app/stations/bench/bench_page.h"
#include "app/stations/brief/brief_page.h"
#include "app/stations/fit/fit_page.h"

#include <QCoreApplication>

#include <algorithm>

namespace app {
namespace {
using core::rules::Station;

template <class Page> StationPage* page(Context& context, const Recorder&) { return new Page(context); }
/// A station that only shows.
template <auto painter> StationPage* sheet(Context& context, const Recorder&) {
    return new StationPage(context, painter);
}
StationPage* benchPage(Context& context, const Recorder& recorder) { return new BenchPage(context, recorder); }
} // namespace

std::span<const StationRow> stations() {
    static constexpr StationRow rows[] = {
        {Station::Brief, QT_TRANSLATE_NOOP("stations", "Brief"), question::brief, "brief", briefLive, page<BriefPage>},
        {Station::Fit, QT_TRANSLATE_NOOP("stations", "Fit"), question::fit, "fit", fitLive, page<FitPage>},
        {Station::Air, QT_TRANSLATE_NOOP("stations", "Air"), question::air, "air", airLive, page<AirPage>},
        {Station::Make, QT_TRANSLATE_NOOP("stations", "Make"), question::make, "make", makeLive, sheet<paintMake>},
        {Station::Bench, QT_TRANSLATE_NOOP("stations", "Bench"), question::bench, "bench", benchLive, benchPage},
        {Station::Verdict, QT_TRANSLATE_NOOP("stations", "Verdict"), question::verdict, "verdict", verdictLive,
         sheet<paintVerdict>},
    };
    return rows;
}

int numberOf(Station station) {
    const auto all = stations();
    const auto row = std::find_if(all.begin(), all.end(), [&](const StationRow& r) { return r.id == station; });
    return static_cast<int>(row - all.begin());
}

QString StationRow::title() const { return QCoreApplication::translate("stations", name); }

std::vector<Live> liveResults(const View& v) {
    std::vector<Live> live(stations().size());
    const auto* e = v.evaluation();
    const bool empty = v.project().revisions.empty();
    static const core::stages::Evaluation nothing{};
    for (std::size_t i = 0; i < live.size(); ++i) {
        if (e || stations()[i].id == Station::Bench) // runs are told of a build that does not resolve, too
            live[i] = stations()[i].live(v, e ? *e : nothing);
        else
            live[i] = {empty ? QObject::tr("no parts yet") : QObject::tr("does not resolve"),
                       empty ? core::Mark::None : core::Mark::Crossed};
    }
    return live;
}

} // namespace app
