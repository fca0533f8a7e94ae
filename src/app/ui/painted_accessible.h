// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

namespace app {

/// Makes the places of painted panels known to screen readers: each is a child with role, name and rectangle. Called
/// once.
void installPaintedAccessibility();

} // namespace app
