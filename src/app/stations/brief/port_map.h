// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/paint/stations.h"

namespace app {

/// What plugs into what: givers at the left, takers at the right, a line each plug; what is short, and the adapters on
/// the shelf that would mend it.
void paintPortMap(Canvas& c, const QRectF& r, const View& v);

/// The least height it can be read at.
[[nodiscard]] double portMapHeight(const core::stages::Evaluation& e);

/// The connection that an adapter offered for what is short would be.
[[nodiscard]] std::optional<core::Connect> connectionOf(const core::rules::PortMap& map, const std::string& adapter,
                                                        const core::Project& project);

} // namespace app
