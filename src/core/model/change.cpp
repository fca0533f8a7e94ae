// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/change.h"

namespace core {

Change::Change() = default;
Change::Change(const Change& other) = default;
Change::Change(Change&& other) noexcept = default;
Change& Change::operator=(const Change& other) = default;
Change& Change::operator=(Change&& other) noexcept = default;
Change::~Change() = default;
bool operator==(const Change& a, const Change& b) {
    return static_cast<const AnyChange&>(a) == static_cast<const AnyChange&>(b);
}

} // namespace core

template class std::vector<core::Change>;
