// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <cerrno>
#include <cstddef>
#include <unistd.h>

namespace store {

/// Writes all of it, however often the system takes a part. Answers 0, or the error of the system; a disk that takes
/// nothing and says nothing is full.
[[nodiscard]] inline int writeFully(int fd, const char* data, std::size_t size) {
    while (size > 0) {
        const ssize_t n = ::write(fd, data, size);
        if (n < 0 && errno == EINTR)
            continue;
        if (n <= 0)
            return n < 0 ? errno : ENOSPC;
        data += n;
        size -= static_cast<std::size_t>(n);
    }
    return 0;
}

} // namespace store
