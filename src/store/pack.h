// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <cstdint>
#include <optional>
#include <string>
#include <string_view>

// Compression and checks of what is stored.
namespace store {

/// zlib, the fastest level; @p plain stores without making it smaller.
enum class Packing { Fast, Plain };
[[nodiscard]] std::string pack(std::string_view bytes, Packing packing = Packing::Fast);
/// Unpacks exactly @p size bytes into @p to, never more whatever the stream says of itself; false when it holds
/// anything else.
[[nodiscard]] bool unpackInto(std::string_view packed, char* to, std::size_t size);
/// The same as a string. Nothing when the stream is not exactly @p size bytes.
[[nodiscard]] std::optional<std::string> unpack(std::string_view packed, std::size_t size);

/// CRC-32 of several pieces one after another, each with its length: notices any flipped bit and any swap.
class Check {
public:
    Check& add(std::string_view bytes);
    Check& add(long long number);
    [[nodiscard]] std::uint32_t value() const { return m_value; }

private:
    std::uint32_t m_value = 0;
};

/// CRC-64/XZ (ECMA-182, reflected), fed piece by piece: unlike a digest it tells which single bit of a file was
/// flipped.
class Crc64 {
public:
    void add(std::string_view bytes);
    [[nodiscard]] std::uint64_t value() const { return ~m_state; }
    /// The bit, counted from the first of @p bytes bytes, whose flip alone turns the check @p was into @p is. Linear in
    /// the size.
    [[nodiscard]] static std::optional<std::uint64_t> flippedBit(std::uint64_t was, std::uint64_t is,
                                                                 std::uint64_t bytes);

private:
    std::uint64_t m_state = ~0ULL;
};

} // namespace store
