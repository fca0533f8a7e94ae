// SPDX-License-Identifier: GPL-3.0-or-later
// project.json from anywhere: a project or words; what was read is written and read again as the same.
#include "core/model/build.h"
#include "store/csv.h"
#include "store/project_json.h"

#include <cstdlib>

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    const store::FolderFiles files{.log = [](const std::string&) -> core::Result<store::LogText> {
                                       return store::LogText{"time_s,cpu_c\n0,40\n1,41\n", nullptr};
                                   },
                                   .original = {},
                                   .progress = {}};
    const auto loaded = store::readProjectJson({reinterpret_cast<const char*>(data), size}, "fuzz", files);
    if (!loaded) {
        if (loaded.error().text().empty())
            std::abort();
        return 0;
    }
    const auto again = store::readProjectJson(
        store::writeProjectJson(loaded->project), "again",
        {.log = [&](const std::string& name) -> core::Result<store::LogText> {
             const auto places = store::freshPlaces(loaded->project);
             for (std::size_t i = 0; i < places.size(); ++i)
                 if (places[i].file == name)
                     return store::LogText{store::writeCsv(*loaded->project.runs[i].samples), nullptr};
             return core::problem(name, "is not there");
         },
         .original = {},
         .progress = {}});
    if (again && !(again->project == loaded->project))
        std::abort();
    return 0;
}
