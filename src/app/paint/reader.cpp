// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/paint/stations.h"

#include <QCoreApplication>

namespace app {

core::Reader readerFor(const core::Show& show) {
    const auto translate = [](const char* text) { return QCoreApplication::translate("core", text).toStdString(); };
    return core::Reader(show, translate, "\u00a0");
}

} // namespace app
