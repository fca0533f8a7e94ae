// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/advise/air_trials.h"
#include "core/base/show.h"
#include "core/verdict/marks.h"

namespace core::explain {

/// Where an input of a figure comes from.
enum class Stamp { Measured, Simulated, Sheet, Assumed, Computed, Setting };

[[nodiscard]] Stamp stampOf(Source source);
[[nodiscard]] Stamp stampOf(verdict::Basis basis, bool simulated);

struct Row {
    std::string sign; ///< "", "+", "−", "×", "÷", "±"
    std::string label;
    Quantity quantity = Quantity::None;
    double value = 0;
    double band = 0; ///< half width, 0: none
    Stamp stamp = Stamp::Computed;
};
struct DoubtShare {
    std::string label;
    double share = 0;
};
struct Effect {
    std::string text;
    Quantity quantity = Quantity::None;
    double change = 0;
    Mark after = Mark::None;
    std::string instead; ///< words in place of the change, where the change alone would mislead
};

/// A finding about the thing, in words, and what would mend it.
struct Found {
    Mark mark = Mark::Note;
    std::string text;
    std::vector<std::string> remedies;
};

/// How a figure was worked out. Every figure on screen has one.
struct Working {
    Thing thing;       ///< whose figure it is
    std::string place; ///< e.g. "Fit, gap 1"
    std::string title;
    Quantity quantity = Quantity::None;
    double value = 0;
    double band = 0;
    bool known = true; ///< false: there is no value, the sentence says why
    Mark mark = Mark::None;
    std::optional<bench::SettleState> settle; ///< of a reading: no limit is meant
    std::string sentence;
    std::vector<Row> rows;
    std::string sum;               ///< what the rows add up to, in words or as an equation
    std::vector<DoubtShare> doubt; ///< shares of the variance, adding up to 1
    std::vector<Effect> changes;   ///< what would change it, tried on the model
    std::vector<std::string> usedBy;
    std::vector<Found> found; ///< findings about this thing, worst first
    std::string method;       ///< equation and source
};

[[nodiscard]] Working ofGap(const fit::Gap& gap, std::size_t rung, const Show& show);
/// @p limit as verdict::temperatureOf() says, where a verdict is at hand; else the maker's own limit counts. @p trials:
/// what was tried; explaining tries nothing itself.
[[nodiscard]] Working ofPart(const stages::Evaluation& e, std::string_view mount, const Show& show,
                             const verdict::Deciding* limit = nullptr,
                             const std::vector<advise::AirTrial>& trials = {});
[[nodiscard]] Working ofNoise(const stages::Evaluation& e, const Show& show);
[[nodiscard]] Working ofPower(const stages::Evaluation& e, const Show& show);
[[nodiscard]] Working ofVolume(const stages::Evaluation& e, const Show& show);
[[nodiscard]] Working ofFan(const stages::Evaluation& e, std::string_view mount, const Show& show);
[[nodiscard]] Working ofOpening(const stages::Evaluation& e, std::string_view id, const Show& show);
[[nodiscard]] Working ofChamber(const stages::Evaluation& e, std::string_view id, const Show& show);
/// Of a lead or adapter in use: its length against its way, or what it joins.
[[nodiscard]] Working ofLead(const stages::Evaluation& e, const LeadRef& lead, const Show& show);
[[nodiscard]] Working ofBalance(const stages::Evaluation& e, const Show& show);
[[nodiscard]] Working ofTarget(const stages::Evaluation& e, const verdict::TargetResult& target, const Show& show);
[[nodiscard]] Working ofChannel(const Run& run, const bench::RunAnalysis& analysis, const bench::ChannelResult& channel,
                                const Show& show);
[[nodiscard]] Working ofMadePart(const Project& project, const make::MadePart& part, const Show& show);
[[nodiscard]] Working ofStep(const make::Plan& plan, std::size_t step, const Show& show);
/// Of screws or inserts of one kind: the steps that use them.
[[nodiscard]] Working ofScrews(const make::Plan& plan, const make::Purchase& purchase);
[[nodiscard]] Working ofTotals(const stages::Evaluation& e, Quantity massOrMoney, const Show& show);

/// The quantity a target is shown as.
[[nodiscard]] Quantity quantityOf(TargetKind kind);

} // namespace core::explain
