// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/air/air_table.h"

#include "core/air/own_values.h"
#include "core/base/csv_field.h"
#include "core/base/text.h"

#include <cmath>

namespace app {
namespace {

QString field(const std::string& text) { return qs(core::csvField(text)); }
QString field(double value) { return qs(core::shortest(std::round(value * 1e6) / 1e6)); }

template <class... Cells> void line(QString& out, const Cells&... cells) {
    QStringList all;
    (all.push_back(field(cells)), ...);
    out += all.join(QLatin1Char(',')) + QLatin1Char('\n');
}

QString sectionTable(const core::stages::Evaluation& e) {
    QString out = QStringLiteral("part,temperature_c,band_k,power_w,limit_c,clock_mhz\n");
    for (const auto& p : e.air.parts)
        line(out, p.name, p.temperatureC, p.bandK, p.powerW, p.limitC, p.clockMhz);
    out += QStringLiteral("\nfan,rpm,share,flow_m3h,level_dba\n");
    for (const auto& f : e.air.fans) {
        double level = 0;
        for (const auto& s : e.noise.sources)
            level = s.id == f.id ? s.levelDba : level;
        line(out, f.name, f.rpm, f.share, f.flowM3h, level);
    }
    out += QStringLiteral("\nopening,area_cm2,out_m3h,in_m3h,air_c\n");
    for (const auto& o : e.air.openings)
        if (const core::Opening* spec = e.build.opening(o.id))
            line(out, o.name, spec->sizeMm[0] * spec->sizeMm[1] / 100, o.outM3h, o.inM3h, o.airC);
    return out;
}

QString networkTable(const core::stages::Evaluation& e) {
    const auto& net = e.air.solved->compiled.network;
    const auto& s = e.air.solved->solution;
    QString out = QStringLiteral("room,air_c,pressure_pa,wall_wk,heat_w\n");
    for (std::size_t z = 1; z < net.zones.size(); ++z)
        line(out, net.zones[z].id, s.temperatureC[z], s.pressurePa[z], net.zones[z].uaWk, net.zones[z].heatW);
    out += QStringLiteral("\nway,from,to,flow_m3h,linear_per_m3,quadratic_per_m4,height_m\n");
    const auto names = core::air::branchNames(net);
    for (std::size_t b = 0; b < net.branches.size(); ++b) {
        const auto& way = net.branches[b];
        line(out, names[b], net.zones[way.from].id, net.zones[way.to].id, s.flowM3s[b] * 3600, way.resistance.a,
             way.resistance.b, way.heightM);
    }
    return out;
}

QString warmUpTable(const core::stages::Evaluation& e, const results::WarmUp& warm) {
    const auto& net = e.air.solved->compiled.network;
    if (warm.of != e.air.solved)
        return {};
    QStringList heads{QStringLiteral("seconds")};
    for (const auto& part : net.parts)
        heads << field(part.name + ", C");
    for (const auto& part : net.passive)
        heads << field(part.name + ", C");
    QString out = heads.join(QLatin1Char(',')) + QLatin1Char('\n');
    for (std::size_t row = 0; row < warm.rows.size(); ++row) {
        QStringList cells{field(warm.rows[row].seconds)};
        for (qsizetype i = 1; i < heads.size(); ++i)
            cells << field(warm.partC(row, static_cast<std::size_t>(i - 1)));
        out += cells.join(QLatin1Char(',')) + QLatin1Char('\n');
    }
    return out;
}

QString waysTable(const View& v, const results::Explored& found) {
    QString out = QStringLiteral("way,noise_dba,under_its_cap_k,band_k,in_the_hottest_room_k,nearest_part,changes\n");
    for (std::size_t i = 0; i < found.front.size(); ++i) {
        const auto& p = found.front[i];
        QStringList changes;
        for (const core::Sentence& s :
             core::describe({.id = "trial", .parent = v.document.revision(), .changes = p.changes}, v.project()))
            changes << v.words(s);
        line(out, static_cast<double>(i + 1), p.noiseDba, p.headroomK, p.bandK, p.hotHeadroomK, p.part,
             changes.join(QStringLiteral("; ")).toStdString());
    }
    return out;
}

} // namespace

QByteArray airTable(const View& v, const AirLook& look, const ExploreLook& explored) {
    const auto* e = v.evaluation();
    const results::Look* other = look.pane == AirPane::Section && look.asTaught    ? look.taught.get()
                                 : look.pane == AirPane::Explore && explored.drawn ? explored.ghost.value.get()
                                                                                   : nullptr;
    if (other && other->evaluation)
        return sectionTable(*other->evaluation).toUtf8();
    if (!e)
        return {};
    if (!e->air.solved || look.pane == AirPane::Section)
        return sectionTable(*e).toUtf8();
    if (look.pane == AirPane::Network)
        return networkTable(*e).toUtf8();
    return (look.pane == AirPane::WarmUp ? warmUpTable(*e, answered(look.warmUp))
                                         : waysTable(v, answered(explored.explored)))
        .toUtf8();
}

} // namespace app
