// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/show.h"

#include <QByteArray>
#include <QStringList>

namespace app {

enum class ThemeChoice { System, Light, Dark };

/// All that is remembered between sessions; the only user of QSettings.
struct Settings {
    core::UnitChoice units;
    ThemeChoice theme = ThemeChoice::System;
    int sizePercent = 100; ///< of text and drawing, 100 to 150; from the next start
    QStringList recent;    ///< newest first
    QString lastProject;
    int station = 0;
    QByteArray geometry;
    QString dataFolder; ///< for recordings and copies of what is not saved; empty: where the system keeps data. Not
                        ///< remembered

    static Settings load();
    void save() const;
    void addRecent(const QString& path);
};

} // namespace app
