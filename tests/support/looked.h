// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/stages/evaluate.h"

#include <QtTest>

namespace support {

/// Everything of a revision; a test ends where there is none.
inline core::stages::Evaluation looked(const core::Project& p, const std::string& id) {
    auto e = core::stages::evaluate(p, id);
    if (!e)
        qFatal("%s", e.error().text().c_str());
    return std::move(*e);
}

} // namespace support
