// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <array>
#include <optional>
#include <string_view>
#include <utility>

namespace core {

/// A two-way table between an enum and the words used for it in files and on screen.
template <class Enum, std::size_t N> using WordTable = std::array<std::pair<Enum, std::string_view>, N>;

template <class Enum, std::size_t N>
[[nodiscard]] constexpr std::string_view wordOf(const WordTable<Enum, N>& table, Enum value) {
    for (const auto& [key, word] : table)
        if (key == value)
            return word;
    return "?";
}

template <class Enum, std::size_t N>
[[nodiscard]] constexpr std::optional<Enum> fromWord(const WordTable<Enum, N>& table, std::string_view word) {
    for (const auto& [key, name] : table)
        if (name == word)
            return key;
    return std::nullopt;
}

} // namespace core
