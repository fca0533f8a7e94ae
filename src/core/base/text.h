// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <optional>
#include <string>
#include <string_view>

// Numbers and text, the same in every locale: nothing here asks the C library how a number or a letter looks.
namespace core {

/// @p value with a fixed number of decimals, a point and a real minus sign; never "-0.0". "none" when it is not finite.
[[nodiscard]] std::string fixed(double value, int decimals);
/// The same with a sign on positive values too, for differences.
[[nodiscard]] std::string withSign(double value, int decimals);
/// Fixed decimals with an ASCII minus, for files that other programs read. 0 when it is not finite.
[[nodiscard]] std::string plainFixed(double value, int decimals);
/// The shortest digits that read back the same; "nan", "inf" and "-inf" for what is not finite.
[[nodiscard]] std::string shortest(double value);
/// The number a whole text stands for, with a decimal point; nothing when it is not one.
[[nodiscard]] std::optional<double> numberFrom(std::string_view text);

[[nodiscard]] constexpr char asciiLower(char c) { return c >= 'A' && c <= 'Z' ? static_cast<char>(c - 'A' + 'a') : c; }
[[nodiscard]] constexpr bool isAsciiAlnum(char c) {
    return (c >= '0' && c <= '9') || (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z');
}
[[nodiscard]] std::string asciiLower(std::string_view text);

/// Text for a terminal, a drawing or a message: control characters become a visible sign, line ends stay where @p lines
/// is set.
enum class LineEnds { Keep, Show };
[[nodiscard]] std::string printable(std::string_view text, LineEnds lines = LineEnds::Keep);

/// A file name made from any text: ASCII letters, digits, "-", "_" and "." inside, at most 80 characters, never empty,
/// never hidden, never a path. Two texts may share one: the caller makes them differ.
[[nodiscard]] std::string fileNameFrom(std::string_view text);

} // namespace core
