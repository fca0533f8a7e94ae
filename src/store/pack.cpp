// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/pack.h"

#include <array>
#include <zlib.h>

namespace store {
namespace {

std::array<std::array<std::uint64_t, 256>, 8> makeTables() {
    constexpr std::uint64_t polynomial = 0xC96C5795D7870F42ULL; // ECMA-182, bits reversed
    std::array<std::array<std::uint64_t, 256>, 8> t{};
    for (std::uint64_t i = 0; i < 256; ++i) {
        std::uint64_t c = i;
        for (int k = 0; k < 8; ++k)
            c = (c >> 1) ^ (c & 1 ? polynomial : 0);
        t[0][i] = c;
    }
    for (std::size_t i = 0; i < 256; ++i)
        for (std::size_t k = 1; k < 8; ++k)
            t[k][i] = t[0][t[k - 1][i] & 0xFF] ^ (t[k - 1][i] >> 8);
    return t;
}
const std::array<std::array<std::uint64_t, 256>, 8> tables = makeTables();

} // namespace

std::string pack(std::string_view bytes, Packing packing) {
    uLongf size = compressBound(static_cast<uLong>(bytes.size()));
    std::string out(size, '\0');
    compress2(reinterpret_cast<Bytef*>(out.data()), &size, reinterpret_cast<const Bytef*>(bytes.data()),
              static_cast<uLong>(bytes.size()), packing == Packing::Fast ? 1 : 0);
    out.resize(size);
    return out;
}

bool unpackInto(std::string_view packed, char* to, std::size_t size) {
    char none = 0;
    uLongf got = static_cast<uLongf>(size);
    uLong used = static_cast<uLong>(packed.size());
    return uncompress2(reinterpret_cast<Bytef*>(size ? to : &none), &got, reinterpret_cast<const Bytef*>(packed.data()),
                       &used) == Z_OK &&
           got == size && used == packed.size();
}

std::optional<std::string> unpack(std::string_view packed, std::size_t size) {
    if (size > packed.size() * 1040 + 64) // zlib cannot make it smaller than this
        return std::nullopt;
    std::string out(size, '\0');
    if (!unpackInto(packed, out.data(), size))
        return std::nullopt;
    return out;
}

Check& Check::add(std::string_view bytes) {
    add(static_cast<long long>(bytes.size()));
    m_value = static_cast<std::uint32_t>(
        crc32(m_value, reinterpret_cast<const Bytef*>(bytes.data()), static_cast<uInt>(bytes.size())));
    return *this;
}

Check& Check::add(long long number) {
    std::array<unsigned char, 8> bytes{};
    for (std::size_t i = 0; i < 8; ++i)
        bytes[i] = static_cast<unsigned char>(static_cast<unsigned long long>(number) >> (8 * i));
    m_value = static_cast<std::uint32_t>(crc32(m_value, bytes.data(), 8));
    return *this;
}

void Crc64::add(std::string_view bytes) {
    std::size_t i = 0;
    for (; i + 8 <= bytes.size(); i += 8) {
        std::uint64_t x = m_state;
        for (std::size_t k = 0; k < 8; ++k)
            x ^= static_cast<std::uint64_t>(static_cast<unsigned char>(bytes[i + k])) << (8 * k);
        m_state = tables[7][x & 0xFF] ^ tables[6][(x >> 8) & 0xFF] ^ tables[5][(x >> 16) & 0xFF] ^
                  tables[4][(x >> 24) & 0xFF] ^ tables[3][(x >> 32) & 0xFF] ^ tables[2][(x >> 40) & 0xFF] ^
                  tables[1][(x >> 48) & 0xFF] ^ tables[0][x >> 56];
    }
    for (; i < bytes.size(); ++i)
        m_state = tables[0][(m_state ^ static_cast<unsigned char>(bytes[i])) & 0xFF] ^ (m_state >> 8);
}

std::optional<std::uint64_t> Crc64::flippedBit(std::uint64_t was, std::uint64_t is, std::uint64_t bytes) {
    // A check is linear: the difference of two is that of the flipped bit alone, carried over the bytes behind it.
    const std::uint64_t difference = was ^ is;
    std::array<std::uint64_t, 8> d{};
    for (std::size_t b = 0; b < 8; ++b)
        d[b] = tables[0][std::size_t{1} << b];
    for (std::uint64_t behind = 0; behind < bytes; ++behind)
        for (std::size_t b = 0; b < 8; ++b) {
            if (d[b] == difference)
                return (bytes - 1 - behind) * 8 + b;
            d[b] = tables[0][d[b] & 0xFF] ^ (d[b] >> 8);
        }
    return std::nullopt;
}

} // namespace store
