// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <string>

namespace core {

enum class Quantity {
    Length,
    Temperature,
    TemperatureDifference,
    Flow,
    Level,
    Power,
    Speed,
    Clock,
    Volume,
    Mass,
    Money,
    Hours,
    Pressure,
    Share,
    None
};

/// Units chosen for reading; what is stored never changes.
struct UnitChoice {
    bool fahrenheit = false;
    bool cfm = false;
    bool inch = false;
    std::string currency = "EUR";
    char decimalMark = '.'; ///< of the reader's language; in files it is a point
    friend bool operator==(const UnitChoice&, const UnitChoice&) = default;
};

/// Brings stored values (mm, °C, K, m³/h, dB(A), W, rpm, MHz, L, g, h, Pa, 0..1) to the reader's units and rounds them.
class Show {
public:
    Show() = default;
    explicit Show(UnitChoice units) : m_units(std::move(units)) {}

    [[nodiscard]] double value(Quantity q, double stored) const;
    [[nodiscard]] double stored(Quantity q, double shown) const; ///< the way back
    [[nodiscard]] std::string unit(Quantity q) const;
    [[nodiscard]] int decimals(Quantity q) const;
    /// A number in the reader's unit, with as many decimals and the reader's decimal mark.
    [[nodiscard]] std::string digits(double shown, int decimals, bool hasSign = false) const;
    [[nodiscard]] std::string number(Quantity q, double stored) const;
    [[nodiscard]] std::string signedNumber(Quantity q, double stored) const;
    /// Number, no-break space, unit.
    [[nodiscard]] std::string text(Quantity q, double stored) const;
    [[nodiscard]] const UnitChoice& units() const { return m_units; }

private:
    UnitChoice m_units;
};

} // namespace core
