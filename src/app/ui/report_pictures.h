// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/context.h"
#include "report/html_report.h"

namespace app {

/// Sheets of the selected revision as SVG, painted in the light theme by the painters of the screen.
[[nodiscard]] std::vector<report::Picture> reportPictures(const Context& context);

} // namespace app
