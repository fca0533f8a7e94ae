// SPDX-License-Identifier: GPL-3.0-or-later
// A log from anywhere: readings or words; what was read is written and read again as the same.
#include "store/csv.h"
#include "store/csv_fields.h"

#include <cstdlib>

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    const std::string text = store::decodeText({reinterpret_cast<const char*>(data), size});
    const auto format = store::recogniseCsv(text, "fuzz");
    if (!format)
        return 0;
    for (const store::BadField bad : {store::BadField::Refuse, store::BadField::ReadTheRest}) {
        const auto samples = store::readCsv(text, *format, "fuzz", bad);
        if (!samples)
            continue;
        for (const core::Channel& c : samples->channels)
            if (c.values.size() != samples->timeS.size())
                std::abort();
        const std::string written = store::writeCsv(*samples);
        auto known = store::recogniseCsv(written, "again", store::NoRows::Allow);
        if (!known)
            std::abort();
        for (store::CsvColumn& column :
             known->columns) { // as project.json says of a file of ours: values stand as they are
            column.scale = 1;
            column.fahrenheit = false;
        }
        const auto again = store::readCsv(written, *known, "again");
        if (!again || again->channels.size() != samples->channels.size() || store::writeCsv(*again) != written)
            std::abort();
    }
    return 0;
}
