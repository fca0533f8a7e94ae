// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "store/files.h"

#include <cstdio>
#include <cstdlib>

namespace shared {

/// The demo project, read once.
inline const core::Project& demo() {
    static const core::Project project = [] {
        auto loaded = store::openProject(QStringLiteral(MD_SOURCE_DIR) + QStringLiteral("/data/demo/dig-tent"));
        if (!loaded) {
            std::fprintf(stderr, "%s\n", loaded.error().text().c_str());
            std::exit(2);
        }
        return loaded->project;
    }();
    return project;
}

} // namespace shared
