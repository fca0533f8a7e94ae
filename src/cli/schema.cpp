// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/schema.h"
#include "cli/commands.h"

namespace cli {

int schema(const Options& options) {
    put(options.what == "project" ? store::jsonText(store::projectSchema())
        : options.what == "shelf" ? store::jsonText(store::shelfSchema())
                                  : store::fieldTables());
    return ExitFine;
}

} // namespace cli
