// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "store/safe_write.h"

#include <array>
#include <cstdint>
#include <optional>

namespace store::sql {

/// 64 bytes behind the last page of a project file: a digest and a CRC of all before them. SQLite does not look there.
/// The digest notices every change; the CRC tells which bit it was where it was one alone.
struct Seal {
    std::uint64_t size = 0; ///< of the file without its seal
    std::uint64_t crc = 0;
    std::array<char, 32> digest{}; ///< BLAKE2b-256
    friend bool operator==(const Seal&, const Seal&) = default;
};
constexpr std::size_t sealBytes = 64;

/// What stands at the end of a file.
[[nodiscard]] std::optional<Seal> sealOf(const QString& path);
/// The seal its content asks for; @p bytes of it are read. Errors: the file cannot be read.
[[nodiscard]] core::Result<Seal> computeSeal(const QString& path, std::uint64_t bytes);
[[nodiscard]] std::array<char, sealBytes> sealText(const Seal& seal);

enum class Soundness {
    Whole,
    Unsealed,   ///< of schema 1, or its end is gone
    BrokenSeal, ///< all is well but the seal itself
    OneBit,     ///< one bit was flipped; its place is known and proven
    Damaged,
};
struct Sealed {
    Soundness soundness = Soundness::Unsealed;
    std::uint64_t bit = 0;
};
[[nodiscard]] core::Result<Sealed> examine(const QString& path);

} // namespace store::sql
