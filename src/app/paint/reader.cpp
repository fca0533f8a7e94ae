// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/paint/stations.h"

#include <QCoreApplication>

namespace app {

char decimalMark() {
    const QString mark = QCoreApplication::translate("numbers", ".", "the decimal mark: one character");
    return mark.size() == 1 && mark.front().unicode() < 0x80 ? mark.front().toLatin1() : '.';
}

QString digits(double value, int decimals, bool hasSign) {
    core::UnitChoice reader;
    reader.decimalMark = decimalMark();
    return qs(core::Show(reader).digits(value, decimals, hasSign));
}

core::Reader readerFor(const core::Show& show) {
    const auto translate = [](const char* text) { return QCoreApplication::translate("core", text).toStdString(); };
    return core::Reader(show, translate, "\u00a0");
}

} // namespace app
