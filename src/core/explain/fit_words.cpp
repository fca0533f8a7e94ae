// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/explain/fit_words.h"

namespace core::explain {

std::string marginText(double marginMm, const Show& show) {
    return marginMm < 0 ? show.text(Quantity::Length, -marginMm) + " short at worst"
                        : "keeps " + show.text(Quantity::Length, marginMm) + " at worst";
}

std::string textOf(const fit::Room& room, const Show& show) {
    const std::string most = show.text(Quantity::Length, room.mostMm),
                      surely = show.number(Quantity::Length, room.surelyMm);
    const std::string size(fit::ownAxisWord(room.own));
    const std::string head =
        room.free ? room.name + " is free: " + size + " up to " + most
                  : room.name + ", " + size + " " + show.number(Quantity::Length, room.nowMm) + ": up to " + most;
    return head + " (" + surely + " for sure), stopped by " + room.limit;
}

std::string textOf(const fit::MeasureNext& next, const Show& show) {
    std::string text = next.label + ", " + show.number(Quantity::Length, next.now.value.mm()) + " ±" +
                       show.text(Quantity::Length, next.now.tolerance.mm()) + " (" +
                       std::string(sourceWord(next.now.source)) + ")";
    text += ": takes " + show.text(Quantity::Length, next.worstWonMm) + " of doubt off " +
            std::to_string(next.gaps.size()) + (next.gaps.size() == 1 ? " gap" : " gaps");
    if (next.settles() >= 0.0005)
        text += ", risk of a wrong answer " + show.number(Quantity::Share, next.riskNow) + " to " +
                show.number(Quantity::Share, next.riskThen) + " %";
    return text;
}

std::string textOf(const advise::Mend& mend, const Show& show) {
    const std::string spare = show.signedNumber(Quantity::Length, mend.wonMm) + " " + show.unit(Quantity::Length) +
                              ", " + show.text(Quantity::Length, std::max(0.0, mend.spareMm)) + " over its need" +
                              (mend.marginMm < 0 ? ", measure to be sure" : "");
    const std::string won = mend.gone ? "the two no longer meet"
                            : mend.mends && mend.starved
                                ? show.signedNumber(Quantity::Length, mend.wonMm) + " " + show.unit(Quantity::Length) +
                                      ", closes, still short of air"
                            : mend.mends ? spare
                                         : show.signedNumber(Quantity::Length, mend.wonMm) + " " +
                                               show.unit(Quantity::Length) + ", " + marginText(mend.marginMm, show);
    std::string text = mend.text + ": " + won + "; " + mend.cost;
    for (const std::string& spoiled : mend.spoils)
        text += "; but " + spoiled;
    return text;
}

std::string textOf(const rules::PortMap& map, std::size_t index) {
    const rules::Need& need = map.needs[index];
    const std::string head = need.taker.name + ": " + need.kind;
    if (need.socket < 0)
        return head + " finds no free socket";
    return head + " from " + map.sockets[static_cast<std::size_t>(need.socket)].giver.name +
           (need.via.empty() ? "" : " by " + need.via);
}

} // namespace core::explain
