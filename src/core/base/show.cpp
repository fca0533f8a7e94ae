// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/show.h"

#include "core/base/text.h"

namespace core {
namespace {
constexpr double mmPerInch = 25.4;
constexpr double m3hPerCfm = 1.699;
} // namespace

double Show::value(Quantity q, double v) const {
    switch (q) {
    case Quantity::Length:
        return m_units.inch ? v / mmPerInch : v;
    case Quantity::Temperature:
        return m_units.fahrenheit ? v * 1.8 + 32 : v;
    case Quantity::TemperatureDifference:
        return m_units.fahrenheit ? v * 1.8 : v;
    case Quantity::Flow:
        return m_units.cfm ? v / m3hPerCfm : v;
    case Quantity::Clock:
        return v / 1000;
    case Quantity::Mass:
        return v / 1000;
    case Quantity::Share:
        return v * 100;
    default:
        return v;
    }
}

double Show::stored(Quantity q, double v) const {
    switch (q) {
    case Quantity::Length:
        return m_units.inch ? v * mmPerInch : v;
    case Quantity::Temperature:
        return m_units.fahrenheit ? (v - 32) / 1.8 : v;
    case Quantity::TemperatureDifference:
        return m_units.fahrenheit ? v / 1.8 : v;
    case Quantity::Flow:
        return m_units.cfm ? v * m3hPerCfm : v;
    case Quantity::Clock:
        return v * 1000;
    case Quantity::Mass:
        return v * 1000;
    case Quantity::Share:
        return v / 100;
    default:
        return v;
    }
}

std::string Show::unit(Quantity q) const {
    switch (q) {
    case Quantity::Length:
        return m_units.inch ? "in" : "mm";
    case Quantity::Temperature:
        return m_units.fahrenheit ? "°F" : "°C";
    case Quantity::TemperatureDifference:
        return m_units.fahrenheit ? "°F" : "K";
    case Quantity::Flow:
        return m_units.cfm ? "CFM" : "m³/h";
    case Quantity::Level:
        return "dB(A)";
    case Quantity::Power:
        return "W";
    case Quantity::Speed:
        return "rpm";
    case Quantity::Clock:
        return "GHz";
    case Quantity::Volume:
        return "L";
    case Quantity::Mass:
        return "kg";
    case Quantity::Money:
        return m_units.currency;
    case Quantity::Hours:
        return "h";
    case Quantity::Pressure:
        return "Pa";
    case Quantity::Share:
        return "%";
    case Quantity::None:
        break;
    }
    return "";
}

int Show::decimals(Quantity q) const {
    switch (q) {
    case Quantity::Length:
        return m_units.inch ? 3 : 1;
    case Quantity::Temperature:
    case Quantity::TemperatureDifference:
    case Quantity::Level:
    case Quantity::Hours:
        return 1;
    case Quantity::Clock:
    case Quantity::Volume:
    case Quantity::Mass:
    case Quantity::Pressure:
        return 2;
    default:
        return 0;
    }
}

std::string Show::digits(double shown, int decimals, bool hasSign) const {
    std::string out = hasSign ? withSign(shown, decimals) : fixed(shown, decimals);
    if (const auto point = out.find('.'); point != std::string::npos)
        out[point] = m_units.decimalMark;
    return out;
}
std::string Show::number(Quantity q, double v) const { return digits(value(q, v), decimals(q)); }
std::string Show::signedNumber(Quantity q, double v) const { return digits(value(q, v), decimals(q), true); }

std::string Show::text(Quantity q, double v) const {
    const std::string u = unit(q);
    return number(q, v) + (u.empty() ? "" : "\u00a0" + u);
}

} // namespace core
