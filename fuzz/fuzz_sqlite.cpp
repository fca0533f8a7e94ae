// SPDX-License-Identifier: GPL-3.0-or-later
// A project file from anywhere, as the bytes of its database: a project, the rest of one, or words.
#include "store/sqlite/database.h"

#include <cstdlib>

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    const auto loaded = store::readDatabaseBytes({reinterpret_cast<const char*>(data), size});
    if (!loaded && loaded.error().text().empty())
        std::abort();
    if (loaded)
        for (const core::Run& run : loaded->project.runs)
            for (const core::Channel& c : run.samples->channels)
                if (c.values.size() != run.samples->timeS.size())
                    std::abort();
    return 0;
}
