// SPDX-License-Identifier: GPL-3.0-or-later
// A parts file from anywhere: parts or words.
#include "store/project_json.h"

#include <cstdlib>

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    const auto parts = store::readShelfJson({reinterpret_cast<const char*>(data), size}, "fuzz");
    if (!parts && parts.error().text().empty())
        std::abort();
    if (parts && !store::readShelfJson(store::writeShelfJson(*parts), "again"))
        std::abort();
    return 0;
}
