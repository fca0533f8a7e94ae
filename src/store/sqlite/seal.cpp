// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/sqlite/seal.h"

#include "store/pack.h"

#include <QCryptographicHash>
#include <QFile>

#include <cstring>

namespace store::sql {
namespace {

constexpr std::array<char, 8> magic{'M', 'D', 'F', 'T', 'E', 'N', 'D', '1'};
constexpr QCryptographicHash::Algorithm digest = QCryptographicHash::Blake2b_256;

Seal sealFrom(QCryptographicHash& hash, const Crc64& crc, std::uint64_t size) {
    Seal seal{.size = size, .crc = crc.value()};
    const QByteArray result = hash.result();
    std::memcpy(seal.digest.data(), result.constData(), seal.digest.size());
    return seal;
}

/// The digest of a file with one bit turned back.
core::Result<std::array<char, 32>> digestWithout(const QString& path, std::uint64_t size, std::uint64_t bit) {
    QFile file(path);
    if (!file.open(QIODevice::ReadOnly))
        return core::problem(path.toStdString(), "cannot be read: " + file.errorString().toStdString(),
                             "check its rights");
    QCryptographicHash hash(digest);
    for (std::uint64_t at = 0; at < size;) {
        QByteArray piece = file.read(static_cast<qint64>(std::min<std::uint64_t>(1 << 20, size - at)));
        if (piece.isEmpty())
            break;
        if (bit / 8 >= at && bit / 8 < at + static_cast<std::uint64_t>(piece.size())) {
            char& c = piece.data()[bit / 8 - at];
            c = static_cast<char>(c ^ (1 << (bit % 8)));
        }
        hash.addData(piece);
        at += static_cast<std::uint64_t>(piece.size());
    }
    return sealFrom(hash, {}, size).digest;
}

} // namespace

std::array<char, sealBytes> sealText(const Seal& seal) {
    std::array<char, sealBytes> out{};
    std::memcpy(out.data(), magic.data(), 8);
    std::memcpy(out.data() + 8, &seal.size, 8);
    std::memcpy(out.data() + 16, &seal.crc, 8);
    std::memcpy(out.data() + 24, seal.digest.data(), 32);
    std::memcpy(out.data() + 56, magic.data(), 8); // twice, so that one flipped bit does not hide it
    return out;
}

std::optional<Seal> sealOf(const QString& path) {
    QFile file(path);
    if (!file.open(QIODevice::ReadOnly) || file.size() < static_cast<qint64>(sealBytes) ||
        !file.seek(file.size() - static_cast<qint64>(sealBytes)))
        return std::nullopt;
    const QByteArray text = file.read(sealBytes);
    if (text.size() != static_cast<qsizetype>(sealBytes) || (std::memcmp(text.constData(), magic.data(), 8) != 0 &&
                                                             std::memcmp(text.constData() + 56, magic.data(), 8) != 0))
        return std::nullopt;
    Seal seal;
    std::memcpy(&seal.size, text.constData() + 8, 8);
    std::memcpy(&seal.crc, text.constData() + 16, 8);
    std::memcpy(seal.digest.data(), text.constData() + 24, 32);
    return seal;
}

core::Result<Seal> computeSeal(const QString& path, std::uint64_t bytes) {
    QFile file(path);
    if (!file.open(QIODevice::ReadOnly | QIODevice::Unbuffered))
        return core::problem(path.toStdString(), "cannot be read: " + file.errorString().toStdString(),
                             "check its rights");
    QCryptographicHash hash(digest);
    Crc64 crc;
    std::string buffer(1 << 20, '\0');
    std::uint64_t at = 0;
    while (at < bytes) {
        const qint64 n =
            file.read(buffer.data(), static_cast<qint64>(std::min<std::uint64_t>(buffer.size(), bytes - at)));
        if (n <= 0)
            return core::problem(path.toStdString(), "reading stopped half way: " + file.errorString().toStdString(),
                                 "check the disk");
        hash.addData(QByteArrayView(buffer.data(), n));
        crc.add({buffer.data(), static_cast<std::size_t>(n)});
        at += static_cast<std::uint64_t>(n);
    }
    return sealFrom(hash, crc, bytes);
}

core::Result<Sealed> examine(const QString& path) {
    const auto said = sealOf(path);
    if (!said)
        return Sealed{Soundness::Unsealed, 0};
    const auto size = static_cast<std::uint64_t>(QFile(path).size()) - sealBytes;
    const auto is = computeSeal(path, size);
    if (!is)
        return tl::make_unexpected(is.error());
    QFile file(path);
    if (!file.open(QIODevice::ReadOnly) || !file.seek(static_cast<qint64>(size)))
        return core::problem(path.toStdString(), "cannot be read: " + file.errorString().toStdString(),
                             "check its rights");
    const auto wanted = sealText(*is);
    const QByteArray stands = file.read(sealBytes);
    if (stands == QByteArray::fromRawData(wanted.data(), sealBytes))
        return Sealed{Soundness::Whole, 0};
    if (is->digest == said->digest || (is->crc == said->crc && is->size == said->size))
        return Sealed{Soundness::BrokenSeal, 0};
    if (const auto bit = Crc64::flippedBit(said->crc, is->crc, size)) {
        const auto mended = digestWithout(path, size, *bit);
        if (mended && *mended == said->digest)
            return Sealed{Soundness::OneBit, *bit};
    }
    return Sealed{Soundness::Damaged, 0};
}

} // namespace store::sql
