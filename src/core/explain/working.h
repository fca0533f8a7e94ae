// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/advise/air_trials.h"
#include "core/advise/learn.h"
#include "core/base/sentence.h"
#include "core/verdict/marks.h"

namespace core::explain {

/// Where an input of a figure comes from.
enum class Stamp { Measured, Simulated, Sheet, Assumed, Computed, Setting };

[[nodiscard]] Stamp stampOf(Source source);
[[nodiscard]] Stamp stampOf(verdict::Basis basis, bool simulated);

struct Row {
    std::string sign; ///< "", "+", "−", "×", "÷", "±"
    Sentence label;
    Quantity quantity = Quantity::None;
    double value = 0;
    double band = 0; ///< half width, 0: none
    Stamp stamp = Stamp::Computed;
};
struct DoubtShare {
    Sentence label;
    double share = 0;
};
struct Effect {
    Sentence text;
    Quantity quantity = Quantity::None;
    double change = 0;
    Mark after = Mark::None;
    Sentence instead; ///< words in place of the change, where the change alone would mislead
};

/// The same figure of something it is compared with.
struct Peer {
    Sentence label;
    double value = 0;
    bool own = false; ///< the one that is worked out here
};

/// A finding about the thing, in words, and what would mend it.
struct Found {
    Mark mark = Mark::Note;
    Sentence text;
    Sentences remedies;
};

/// How a figure was worked out. Every figure on screen has one.
struct Working {
    Thing thing;    ///< whose figure it is
    Sentence place; ///< e.g. "Fit, gap 1"
    Sentence title;
    Quantity quantity = Quantity::None;
    double value = 0;
    double band = 0;
    bool known = true; ///< false: there is no value, the sentence says why
    Mark mark = Mark::None;
    std::optional<bench::SettleState> settle; ///< of a reading: no limit is meant
    Sentence sentence;
    std::vector<Row> rows;
    Sentence sum;                          ///< what the rows add up to, in words or as an equation
    std::vector<DoubtShare> doubt;         ///< shares of the variance, adding up to 1
    std::vector<Effect> changes;           ///< what would change it, tried on the model
    Sentence learned;                      ///< what logged runs make of it; empty: none did
    std::vector<advise::NextRun> nextRuns; ///< that would narrow it, best first
    Sentences usedBy;
    std::vector<Found> found; ///< findings about this thing, worst first
    Sentence among;           ///< what the peers are, as a heading
    std::vector<Peer> peers;  ///< least first; empty: nothing to compare with
    Sentence method;          ///< equation and source
};

[[nodiscard]] Working ofGap(const fit::Gap& gap, std::size_t rung);
/// @p limit as verdict::temperatureOf() says, where a verdict is at hand; else the maker's own limit counts. @p trials:
/// what was tried; explaining tries nothing itself.
[[nodiscard]] Working ofPart(const stages::Evaluation& e, std::string_view mount,
                             const verdict::Deciding* limit = nullptr, const std::vector<advise::AirTrial>& trials = {},
                             const Project* project = nullptr);
/// What the band of a predicted temperature comes from, largest first: shares of the sum of squares, four and the rest.
[[nodiscard]] std::vector<DoubtShare> doubtOf(const air::Prediction& air, const air::PartResult& part);
[[nodiscard]] Working ofNoise(const stages::Evaluation& e);
[[nodiscard]] Working ofPower(const stages::Evaluation& e);
/// Litres outside, with the doubt of each inner size and of the walls, and what the gaps leave to be taken off.
[[nodiscard]] Working ofVolume(const stages::Evaluation& e);
[[nodiscard]] Working ofFan(const stages::Evaluation& e, std::string_view mount);
[[nodiscard]] Working ofOpening(const stages::Evaluation& e, std::string_view id);
/// Of a way of air in the network; nothing where there is none of that name.
[[nodiscard]] std::optional<Working> ofBranch(const stages::Evaluation& e, std::string_view name);
/// Of a chamber, or of any other room of the network: a gap, the fins of a card.
[[nodiscard]] Working ofChamber(const stages::Evaluation& e, std::string_view id);
/// Of a lead or adapter in use: its length against its way, or what it joins.
[[nodiscard]] Working ofLead(const stages::Evaluation& e, const LeadRef& lead);
/// Of a socket: what sits in it, and what it may carry there; nothing where the build has none of that name.
[[nodiscard]] std::optional<Working> ofPort(const stages::Evaluation& e, const PortRef& port);
[[nodiscard]] Working ofBalance(const stages::Evaluation& e);
[[nodiscard]] Working ofTarget(const stages::Evaluation& e, const verdict::TargetResult& target);
[[nodiscard]] Working ofChannel(const Run& run, const bench::RunAnalysis& analysis,
                                const bench::ChannelResult& channel);
[[nodiscard]] Working ofMadePart(const Project& project, const make::MadePart& part);
[[nodiscard]] Working ofStep(const make::Plan& plan, std::size_t step);
/// Of screws or inserts of one kind: the steps that use them.
[[nodiscard]] Working ofScrews(const make::Plan& plan, const make::Purchase& purchase);
[[nodiscard]] Working ofTotals(const stages::Evaluation& e, Quantity massOrMoney);

} // namespace core::explain
