// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/build.h"

namespace core {

void Chain::add(std::size_t dimension, int halves) {
    for (auto it = terms.begin(); it != terms.end(); ++it)
        if (it->dimension == dimension) {
            it->halves += halves;
            if (it->halves == 0)
                terms.erase(it);
            return;
        }
    terms.push_back({dimension, halves});
}

Chain Chain::minus(const Chain& other) const {
    Chain result = *this;
    for (const Term& term : other.terms)
        result.add(term.dimension, -term.halves);
    return result;
}

Length Chain::nominal(const std::vector<Dimension>& dimensions) const {
    std::int64_t halfUm = 0;
    for (const Term& term : terms)
        halfUm += term.halves * dimensions[term.dimension].measure.value.um();
    return Length::fromUm(halfUm >= 0 ? (halfUm + 1) / 2 : (halfUm - 1) / 2);
}

EndName endName(std::string_view end) {
    const auto colon = end.rfind(':');
    if (colon == std::string_view::npos)
        return {std::string(end), {}};
    return {std::string(end.substr(0, colon)), std::string(end.substr(colon + 1))};
}

const Placed* Build::at(std::string_view mount) const {
    const auto it = std::find_if(placed.begin(), placed.end(), [&](const Placed& p) { return p.mount == mount; });
    return it == placed.end() ? nullptr : &*it;
}

const Placed* Build::firstOf(PartKind kind) const {
    const auto it = std::find_if(placed.begin(), placed.end(), [&](const Placed& p) { return p.part->kind == kind; });
    return it == placed.end() ? nullptr : &*it;
}

const Opening* Build::opening(std::string_view id) const {
    const auto it = std::find_if(openings.begin(), openings.end(), [&](const Opening& o) { return o.id == id; });
    return it == openings.end() ? nullptr : &*it;
}

std::array<double, 3> Placed::inCaseMm(const std::array<Measure, 3>& own) const {
    std::array<double, 3> at{};
    for (std::size_t i = 0; i < 3; ++i) {
        const Direction d = frame.axis[i];
        const std::size_t a = index(d.axis);
        at[a] = d.sign > 0 ? lowAt[a].mm() + own[i].value.mm() : highAt[a].mm() - own[i].value.mm();
    }
    return at;
}

Direction Placed::inCase(Direction own) const {
    Direction d = frame.axis[index(own.axis)];
    d.sign *= own.sign;
    return d;
}

LeadRef leadRef(const Build& build, std::size_t joined) {
    const auto same = [](const Joined& a, const Joined& b) { return a.part->id == b.part->id && a.from == b.from; };
    const Joined& j = build.joined[joined];
    const auto before = std::count_if(build.joined.begin(), build.joined.begin() + static_cast<std::ptrdiff_t>(joined),
                                      [&](const Joined& other) { return same(other, j); });
    return {j.part->id, j.from, static_cast<int>(before) + 1};
}

Thing partOrCase(std::string_view mount) {
    return mount == caseMount ? Thing(TotalRef{Total::Volume}) : Thing(PartRef{std::string(mount)});
}

} // namespace core
