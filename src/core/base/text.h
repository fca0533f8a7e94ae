// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <string>

namespace core {

/// @p value with a fixed number of decimals, a point and a real minus sign; never "-0.0".
[[nodiscard]] std::string fixed(double value, int decimals);
/// The same with a sign on positive values too, for differences.
[[nodiscard]] std::string withSign(double value, int decimals);

} // namespace core
