// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/show.h"

#include "core/base/text.h"

#include <regex>

namespace core {
namespace {

const std::string aFigure = "(?:\u2212|-|\\+|±)?[0-9]+(?:\\.[0-9]+)?";
const std::string space = "(?: |\u00a0)";

/// Numbers that share the unit after the last of them: "10 x 20 x 30 mm", "3 to 5 K", "4.0 ±0.5 mm".
const std::regex& figures() {
    static const std::regex pattern("(?:" + aFigure + "(?: x | × | to | and |–| ))*" + aFigure + space +
                                    "?(mm|°C|K|m³/h)(?![A-Za-z0-9³²/])");
    return pattern;
}

Quantity quantityOf(const std::string& unit) {
    return unit == "mm"   ? Quantity::Length
           : unit == "°C" ? Quantity::Temperature
           : unit == "K"  ? Quantity::TemperatureDifference
                          : Quantity::Flow;
}

} // namespace

std::string Show::sentence(const std::string& text) const {
    if (!m_units.inch && !m_units.fahrenheit && !m_units.cfm)
        return text;
    static const std::regex one(aFigure);
    std::string out;
    auto rest = text.cbegin();
    for (std::sregex_iterator it(text.begin(), text.end(), figures()), end; it != end; ++it) {
        out.append(rest, text.cbegin() + it->position(0));
        rest = text.cbegin() + it->position(0) + it->length(0);
        const std::string whole = it->str(0), word = it->str(1);
        const Quantity q = quantityOf(word);
        if (unit(q) == word) { // a unit that was not chosen anew stays as it is, to its last digit
            out += whole;
            continue;
        }
        const std::string numbers = whole.substr(0, whole.size() - word.size());
        auto from = numbers.cbegin();
        for (std::sregex_iterator n(numbers.begin(), numbers.end(), one), none; n != none; ++n) {
            out.append(from, numbers.cbegin() + n->position(0));
            from = numbers.cbegin() + n->position(0) + n->length(0);
            std::string figure = n->str(0), sign;
            for (const std::string mark : {"\u2212", "-", "+", "±"})
                if (figure.starts_with(mark)) {
                    sign = mark;
                    figure = figure.substr(mark.size());
                    break;
                }
            // A doubt is a difference, also beside a temperature.
            const Quantity as = sign == "±" && q == Quantity::Temperature ? Quantity::TemperatureDifference : q;
            const double stored = numberFrom(figure).value_or(0) * (sign == "\u2212" || sign == "-" ? -1 : 1);
            out += sign == "±"   ? sign + this->number(as, stored)
                   : sign == "+" ? signedNumber(as, stored)
                                 : this->number(as, stored);
        }
        out.append(from, numbers.cend());
        out += unit(q);
    }
    out.append(rest, text.cend());
    return out;
}

} // namespace core
