// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/stations/fit/fit_sheet.h"

namespace app {

/// Another revision over the sections, in grey: what lies elsewhere, is larger, or is not there any more, and a line
/// that says what differs.
void paintOverlay(Canvas& c, const Sheet& s, const View& v, const core::Build& other, const QRectF& drawing);

} // namespace app
