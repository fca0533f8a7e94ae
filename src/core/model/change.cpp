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

std::string changedMount(const Change& change) {
    return std::visit(
        [](const auto& c) -> std::string {
            if constexpr (requires { c.mount; })
                return c.mount;
            else
                return {};
        },
        change);
}

std::string changedPart(const Change& change) {
    return std::visit(
        [](const auto& c) -> std::string {
            if constexpr (requires { c.part; })
                return c.part;
            else
                return {};
        },
        change);
}

} // namespace core

template class std::vector<core::Change>;
