// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/error.h"
#include "core/model/project.h"

#include <functional>

namespace store {

/// A project and what was noticed while reading it.
struct Loaded {
    core::Project project;
    std::vector<core::Problem> warnings;
    bool damaged = false; ///< the file was damaged; the warnings say what was lost
};

/// 0..1; false stops, and the answer is then the error "stopped".
using Progress = std::function<bool(double)>;

} // namespace store
