// SPDX-License-Identifier: GPL-3.0-or-later
// Lines of a device: each is understood or answered in words.
#include "devices/line_protocol.h"

#include <cstdlib>

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    std::string_view text(reinterpret_cast<const char*>(data), size);
    while (!text.empty()) {
        const auto end = text.find('\n');
        const auto line = devices::parseLine(text.substr(0, end));
        if (!line && line.error().text().empty())
            std::abort();
        if (line)
            if (const auto* d = std::get_if<devices::DataLine>(&*line);
                d && !devices::parseLine(devices::dataText(d->timeS, d->values)))
                std::abort();
        text = end == std::string_view::npos ? std::string_view{} : text.substr(end + 1);
    }
    return 0;
}
