// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/thing.h"

#include <QtTest>

#include <algorithm>
#include <utility>
#include <vector>

namespace support {

/// The thing that a text such as "part:tray/cpu" stands for; nothing, and a failed test, where it stands for none.
inline core::Thing thing(std::string_view text) {
    const auto read = core::thingFrom(text);
    if (!read)
        QTest::qFail(read.error().text().c_str(), __FILE__, __LINE__);
    return read.value_or(core::Thing{});
}
inline QString text(const core::Thing& thing) { return QString::fromStdString(core::textOf(thing)); }

template <class Ref, class Hit> bool stands(const Hit& hit) { return std::holds_alternative<Ref>(hit.thing); }

/// Gaps are many and have no order: a set by search.
struct Things {
    std::vector<core::Thing> all;
    void insert(const core::Thing& thing) {
        if (!contains(thing))
            all.push_back(thing);
    }
    [[nodiscard]] bool contains(const core::Thing& thing) const {
        return std::find(all.begin(), all.end(), thing) != all.end();
    }
    [[nodiscard]] std::size_t size() const { return all.size(); }
};

} // namespace support

namespace core {
inline char* toString(const Thing& thing) { return qstrdup(textOf(thing).c_str()); }
} // namespace core
