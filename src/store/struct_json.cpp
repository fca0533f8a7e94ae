// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/struct_json.h"

#include "core/model/build.h"
#include "store/project_fields.h"

namespace store {

Json partJson(const core::Part& part) {
    JsonWriter writer(Defaults::Write);
    core::fields(writer, part);
    return std::move(writer.json);
}

core::Result<core::Part> unfinishedPart(const Json& json) {
    core::Part part;
    std::vector<core::Problem> warnings;
    try {
        JsonReader reader(json, "", warnings);
        core::fields(reader, part);
    } catch (const ReadError& e) {
        return tl::make_unexpected(e.problem);
    } catch (const Json::exception& e) {
        return core::problem("part", e.what(), "check its fields");
    }
    return part;
}

core::Result<core::Part> partFrom(const Json& json) {
    auto read = unfinishedPart(json);
    if (!read)
        return read;
    core::Part part = std::move(*read);
    core::Project carrier;
    carrier.shelf.push_back(part);
    for (core::Problem wrong : core::validate(carrier)) {
        for (const char* end : {").", "]."}) // one part: where in it
            if (const auto dot = wrong.place.find(end); wrong.place.starts_with("shelf[") && dot != std::string::npos)
                wrong.place.erase(0, dot + 2);
        return tl::make_unexpected(wrong);
    }
    return part;
}

} // namespace store
