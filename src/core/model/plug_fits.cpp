// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/plug_fits.h"

#include <array>
#include <charconv>

namespace core {
namespace {

struct Row {
    std::string_view asked, offered;
    PlugFit fit;
};
constexpr std::array<Row, 14> rows{{
    {"eps-8", "eps-4+4", PlugFit::Whole},
    {"eps-4", "eps-4+4", PlugFit::Whole},
    {"eps-4+4", "eps-8", PlugFit::Whole},
    {"eps-8", "eps-4", PlugFit::Narrow},
    {"eps-4+4", "eps-4", PlugFit::Narrow},
    {"card-8", "card-6+2", PlugFit::Whole},
    {"card-6", "card-6+2", PlugFit::Whole},
    {"card-6+2", "card-8", PlugFit::Whole},
    {"atx-24", "atx-20+4", PlugFit::Whole},
    {"atx-20", "atx-20+4", PlugFit::Whole},
    {"fan-4", "fan-3", PlugFit::Narrow},
    {"fan-3", "fan-4", PlugFit::Whole},
    {"fan", "fan-3", PlugFit::Narrow},
    {"fan-3", "fan", PlugFit::Whole},
}};

bool isFanFour(std::string_view kind) { return kind == "fan" || kind == "fan-4"; } // "fan" is the usual four-pin one

} // namespace

int slotWidth(std::string_view kind) {
    constexpr std::string_view prefix = "slot-x";
    if (!kind.starts_with(prefix))
        return 0;
    kind.remove_prefix(prefix.size());
    int width = 0;
    const auto [end, error] = std::from_chars(kind.data(), kind.data() + kind.size(), width);
    return error == std::errc{} && end == kind.data() + kind.size() ? width : 0;
}

PlugFit plugFit(std::string_view asked, std::string_view offered) {
    if (asked == offered || (isFanFour(asked) && isFanFour(offered)))
        return PlugFit::Whole;
    if (const int wants = slotWidth(asked), has = slotWidth(offered); wants > 0 && has > 0)
        return wants <= has ? PlugFit::Whole : PlugFit::Not;
    for (const Row& row : rows)
        if (row.asked == asked && row.offered == offered)
            return row.fit;
    return PlugFit::Not;
}

std::string_view narrowerPlug(std::string_view asked, std::string_view offered) {
    const auto is = [&](std::string_view kind) { return asked == kind || offered == kind; };
    if (is("eps-4"))
        return "eps-4";
    if (is("card-6"))
        return "card-6";
    if (slotWidth(asked) > 0)
        return asked; // a narrow card has a narrow edge
    return asked;
}

std::string_view restOfPlug(std::string_view asked, std::string_view offered) {
    return asked == "eps-4" && offered == "eps-4+4" ? "eps-4" : std::string_view{};
}

} // namespace core
