// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/commands.h"
#include "store/schema.h"

namespace cli {

int schema(const Options& options) {
    put(options.what == "project" ? store::jsonText(store::projectSchema()) : options.what == "shelf" ? store::jsonText(store::shelfSchema()) : store::fieldTables());
    return ExitFine;
}

} // namespace cli
