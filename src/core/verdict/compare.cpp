// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/verdict/compare.h"

#include "core/base/text.h"

namespace core::verdict {

std::vector<Difference> against(const Evaluation& now, const Evaluation& then) {
    return {{"screws", "Screws", Quantity::None, static_cast<double>(now.make.screws), static_cast<double>(then.make.screws)},
            {"minutes", "Assembly, min", Quantity::None, now.make.minutes, then.make.minutes},
            {"money", "Cost", Quantity::Money, now.price, then.price},
            {"volume", "Volume", Quantity::Volume, now.fit.volumeL, then.fit.volumeL}};
}

std::string textOf(const Difference& d, const Show& show) {
    const auto number = [&](double v) { return d.quantity == Quantity::None ? fixed(v, 0) : show.number(d.quantity, v); };
    const std::string by = d.quantity == Quantity::None ? withSign(d.by(), 0) : show.signedNumber(d.quantity, d.by());
    const std::string unit = d.quantity == Quantity::None ? std::string{} : " " + show.unit(d.quantity);
    return number(d.then) + " to " + number(d.now) + unit + ", " + by + (d.then != 0 ? " (" + withSign(d.percent(), 0) + " %)" : "");
}

} // namespace core::verdict
