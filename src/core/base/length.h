// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <cmath>
#include <compare>
#include <cstdint>

namespace core {

/// A length held as whole micrometres, so that dimension chains add up and compare exactly.
/// Valid range: about +-9e15 µm; conversions from mm round to the nearest micrometre.
class Length {
public:
    constexpr Length() = default;
    [[nodiscard]] static constexpr Length fromUm(std::int64_t um) { return Length{um}; }
    [[nodiscard]] static Length fromMm(double mm) { return Length{std::llround(mm * 1000.0)}; }

    [[nodiscard]] constexpr std::int64_t um() const { return m_um; }
    [[nodiscard]] constexpr double mm() const { return static_cast<double>(m_um) / 1000.0; }
    [[nodiscard]] constexpr double metres() const { return static_cast<double>(m_um) / 1e6; }

    friend constexpr auto operator<=>(Length, Length) = default;
    friend constexpr Length operator+(Length a, Length b) { return Length{a.m_um + b.m_um}; }
    friend constexpr Length operator-(Length a, Length b) { return Length{a.m_um - b.m_um}; }
    friend constexpr Length operator-(Length a) { return Length{-a.m_um}; }
    constexpr Length& operator+=(Length b) {
        m_um += b.m_um;
        return *this;
    }

private:
    explicit constexpr Length(std::int64_t um) : m_um(um) {}
    std::int64_t m_um = 0;
};

} // namespace core
