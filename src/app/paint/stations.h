// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/model/document.h"
#include "app/paint/canvas.h"
#include "core/explain/fit_words.h"

namespace app {

/// The reader of the window: its language, and no line break between a figure and its unit.
[[nodiscard]] core::Reader readerFor(const core::Show& show);

/// What a station is painted from.
struct View {
    const Document& document;
    core::Show show;
    const Document::Result* another = nullptr; ///< what is painted instead: a way that is not built, a taught state

    /// Never waits.
    [[nodiscard]] const Document::Result& result() const {
        return another ? *another : document.shown(document.revision());
    }
    [[nodiscard]] const core::stages::Evaluation* evaluation() const {
        return result().evaluation ? &*result().evaluation : nullptr;
    }
    /// While the newest result is worked out the project of the one that is shown, so that the two belong together.
    [[nodiscard]] const core::Project& project() const {
        const auto& shown = result();
        return (another || isPending()) && shown.project ? *shown.project : document.project();
    }
    [[nodiscard]] bool isPending() const { return !another && document.isPending(document.revision()); }
    [[nodiscard]] QString text(core::Quantity q, double v) const { return qs(show.text(q, v)); }
    [[nodiscard]] QString number(core::Quantity q, double v) const { return qs(show.number(q, v)); }
    [[nodiscard]] QString signedNumber(core::Quantity q, double v) const { return qs(show.signedNumber(q, v)); }
    /// A sentence of the core in the reader's language and units.
    [[nodiscard]] QString words(const core::Sentence& s) const { return qs(readerFor(show).text(s)); }
    [[nodiscard]] QString figure(const core::Figure& f) const { return qs(readerFor(show).text(f)); }
    [[nodiscard]] QString unit(core::Quantity q) const { return qs(show.unit(q)); }
};

/// Positions of the three cuts through the case, mm in case axes: A across y, B across x, C across z.
struct Cuts {
    double a = -1, b = -1, c = -1;
    core::Axis moved = core::Axis::Y;
};

/// Answers of the Fit station that take longer than a gap; of before, or none, while they are worked out.
struct FitAnswers {
    Answer<Rooms> rooms;
    Answer<Measures> measure;
    Answer<Ways> ways;
    Answer<Mends> mends;
};
/// What was answered, or nothing yet.
template <class T> [[nodiscard]] const T& answered(const Answer<T>& answer) {
    static const T nothing{};
    return answer.value ? *answer.value : nothing;
}

/// How the Fit station is looked at: cuts, the list beside the drawing, zoom, and a part that is about to be placed.
struct FitLook {
    enum class List { Gaps, Change, Measure, Room, GoingIn, Leads };
    enum class Sort { Worst, Chance, Name };
    enum class Filter { All, Short, Open, Part };
    Cuts cuts;
    List list = List::Gaps;
    Sort sort = Sort::Worst;
    Filter filter = Filter::All;
    bool unfolded = false; ///< changes that harm elsewhere are listed as well
    double zoom = 1;
    QPointF pan; ///< of the zoomed drawing, px
    const FitAnswers* answers = nullptr;
    const std::vector<core::fit::PlacedBody>* ghost = nullptr; ///< bodies of a part that is not placed yet
    std::array<double, 3> ghostByMm{};                         ///< a part that is dragged: how far, in case axes
    int ghostShort = 0;                                        ///< gaps that would be short with it in place
    const core::fit::LeadRoute* leadTrial = nullptr;           ///< a lead one of whose corners is dragged
    int leadCorner = -1;                                       ///< of the lead that is selected; keys move it
    std::size_t leadEnd = 0;                                   ///< and which of its ends
    std::string over;   ///< another revision that is laid over the sections in grey; empty: none
    bool paper = false; ///< for a page: nothing to click, nothing about keys and wheels
};
/// Gaps in the order and choice of the ladder; indices into the fit result, so that rungs keep their numbers.
[[nodiscard]] std::vector<std::size_t> ladderRows(const core::fit::FitResult& fit, const FitLook& look,
                                                  const core::Thing& selected);
/// The gap whose changes are looked for: the selected one, else the first that is short.
[[nodiscard]] const core::fit::Gap* gapToMend(const core::fit::FitResult& fit, const core::Thing& selected);

/// Painters of the six stations into the inside of the stage border. They only draw and name what can be clicked.
void paintBrief(Canvas& c, const QRectF& r, const View& v);
/// Height its tables and the port map need; a lower stage scrolls.
[[nodiscard]] double briefHeight(const View& v);
void paintFit(Canvas& c, const QRectF& r, const View& v, const FitLook& look);
void paintAir(Canvas& c, const QRectF& r, const View& v);
void paintMake(Canvas& c, const QRectF& r, const View& v);
/// Left column of the bench: coverage and runs; the plots are widgets beside it.
void paintBench(Canvas& c, const QRectF& r, const View& v, const std::string& run);
void paintVerdict(Canvas& c, const QRectF& r, const View& v);

/// What each station answers; said in its head and on its tab.
namespace question {
inline constexpr const char *brief = QT_TRANSLATE_NOOP("stations", "What is it for, and what must it hold?"),
                            *fit = QT_TRANSLATE_NOOP("stations", "Does everything go in, at the worst tolerance?"),
                            *air = QT_TRANSLATE_NOOP("stations", "Where does the air go, and how warm is it?"),
                            *make = QT_TRANSLATE_NOOP("stations", "What gets printed and cut, and what goes in first?"),
                            *bench = QT_TRANSLATE_NOOP("stations", "What did the real box do?"),
                            *verdict =
                                QT_TRANSLATE_NOOP("stations", "Which revision is good enough, and how sure is that?");
}
/// Question in the head of a station.
void stageHead(Canvas& c, const QRectF& r, const char* question, const QString& right = {});
/// "No parts yet. ..." at the upper left of an empty stage.
void emptyStage(Canvas& c, const QRectF& r, const QString& sentence);

/// Live result of a station and its mark, for the strip.
struct Live {
    QString text;
    core::Mark mark = core::Mark::None;
    std::optional<core::bench::SettleState> settle = {}; ///< of Bench: in place of the mark, since no limit is meant
    [[nodiscard]] QString word() const { return settle ? settleText(*settle) : qs(core::markWord(mark)); }
};
[[nodiscard]] Live briefLive(const View& v, const core::stages::Evaluation& e);
[[nodiscard]] Live fitLive(const View& v, const core::stages::Evaluation& e);
[[nodiscard]] Live airLive(const View& v, const core::stages::Evaluation& e);
[[nodiscard]] Live makeLive(const View& v, const core::stages::Evaluation& e);
[[nodiscard]] Live benchLive(const View& v, const core::stages::Evaluation& e);
[[nodiscard]] Live verdictLive(const View& v, const core::stages::Evaluation& e);
/// Marks of fit, heat and noise of a revision, for the rail.
[[nodiscard]] std::array<core::Mark, 3> railMarks(const Document::Result& result);

/// How the selected figure was worked out, with what was found about it; nothing when there is no such thing on this
/// revision.
[[nodiscard]] std::optional<core::explain::Working> workingOf(const View& v, const core::Thing& thing);
/// A channel in words, e.g. "CPU", "Card clock", "Fan 92-15", "Room"; the log's own heading where nothing better is
/// known.
[[nodiscard]] QString channelName(const View& v, const core::Run& run, core::ChannelKind kind,
                                  const std::string& subject, const std::string& heading);

/// Target result by kind and subject, for readings such as "CPU 74 at 39 dB".
[[nodiscard]] const core::verdict::TargetResult* targetOf(const Document::Result& result, core::TargetKind kind);

} // namespace app
