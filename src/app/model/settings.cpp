// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/model/settings.h"

#include <QSettings>

namespace app {

Settings Settings::load() {
    const QSettings s;
    Settings out;
    out.units.fahrenheit = s.value(QStringLiteral("units/fahrenheit"), false).toBool();
    out.units.cfm = s.value(QStringLiteral("units/cfm"), false).toBool();
    out.units.inch = s.value(QStringLiteral("units/inch"), false).toBool();
    out.theme = static_cast<ThemeChoice>(std::clamp(s.value(QStringLiteral("theme"), 0).toInt(), 0, 2));
    out.sizePercent = std::clamp(s.value(QStringLiteral("sizePercent"), 100).toInt(), 100, 150);
    out.recent = s.value(QStringLiteral("recent")).toStringList();
    out.lastProject = s.value(QStringLiteral("lastProject")).toString();
    out.station = std::max(0, s.value(QStringLiteral("station"), 0).toInt());
    out.geometry = s.value(QStringLiteral("geometry")).toByteArray();
    return out;
}

void Settings::save() const {
    QSettings s;
    s.setValue(QStringLiteral("units/fahrenheit"), units.fahrenheit);
    s.setValue(QStringLiteral("units/cfm"), units.cfm);
    s.setValue(QStringLiteral("units/inch"), units.inch);
    s.setValue(QStringLiteral("theme"), static_cast<int>(theme));
    s.setValue(QStringLiteral("sizePercent"), sizePercent);
    s.setValue(QStringLiteral("recent"), recent);
    s.setValue(QStringLiteral("lastProject"), lastProject);
    s.setValue(QStringLiteral("station"), station);
    s.setValue(QStringLiteral("geometry"), geometry);
}

void Settings::addRecent(const QString& path) {
    recent.removeAll(path);
    recent.prepend(path);
    while (recent.size() > 8)
        recent.removeLast();
    lastProject = path;
}

} // namespace app
