// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/show.h"

#include <array>
#include <functional>
#include <span>
#include <string>
#include <string_view>
#include <type_traits>
#include <variant>
#include <vector>

// Sentences as values: what is said, with names and figures as they are stored. A Reader makes text of them, in the
// reader's language and units; nobody looks into text for figures.
namespace core {

/// A figure inside a sentence, stored as everything is: mm, °C, K, m³/h, dB(A), W, rpm, MHz, L, g, h, Pa, 0..1.
struct Figure {
    Quantity quantity = Quantity::None;
    double value = 0;
    int decimals = 0;                  ///< in the stored unit; another unit has those that suit it
    bool hasUnit = true;               ///< false: the unit stands elsewhere in the sentence
    bool hasSign = false;              ///< also on what is positive, for differences
    [[nodiscard]] Figure bare() const; ///< the number alone, in the reader's unit
    [[nodiscard]] Figure signedFigure() const;
    friend bool operator==(const Figure&, const Figure&) = default;
};

/// Figures by their stored unit.
namespace figure {
[[nodiscard]] constexpr Figure mm(double v, int decimals = 1) { return {Quantity::Length, v, decimals}; }
[[nodiscard]] constexpr Figure celsius(double v, int decimals = 1) { return {Quantity::Temperature, v, decimals}; }
[[nodiscard]] constexpr Figure kelvin(double v, int decimals = 1) {
    return {Quantity::TemperatureDifference, v, decimals};
}
[[nodiscard]] constexpr Figure flow(double v, int decimals = 0) { return {Quantity::Flow, v, decimals}; }
[[nodiscard]] constexpr Figure watts(double v, int decimals = 0) { return {Quantity::Power, v, decimals}; }
[[nodiscard]] constexpr Figure percent(double share, int decimals = 0) { return {Quantity::Share, share, decimals}; }
/// Without a unit that a reader chooses: a count, or one whose unit the sentence names.
[[nodiscard]] constexpr Figure number(double v, int decimals = 0) { return {Quantity::None, v, decimals}; }
/// As the quantity is usually shown.
[[nodiscard]] Figure usual(Quantity q, double v);
} // namespace figure

/// The text of a sentence with "{}" for what is put in. Only a literal, so that a translator finds it; as many "{}" as
/// there are values, or it does not compile.
template <std::size_t Values> struct Pattern {
    const char* text;
    template <std::size_t N> consteval Pattern(const char (&literal)[N]) : text(literal) {
        std::size_t count = 0;
        for (std::size_t i = 0; i + 1 < N; ++i)
            count += literal[i] == '{' && literal[i + 1] == '}';
        if (count != Values)
            throw "a sentence wants as many values as it has {}";
    }
};

/// Something said: a pattern and what is put into it, or several sentences one after the other. What is copied and let
/// go stands in one place: sentences are made in hundreds of others, and each would bring its own.
class Sentence {
public:
    /// A fixed word of the program, as "caution" or "mesh": translated, and found by its own text.
    struct Term {
        std::string text;
        friend bool operator==(const Term&, const Term&) = default;
    };
    class Piece;

    Sentence();
    /// Takes what @p pieces hold.
    Sentence(const char* pattern, std::span<Piece> pieces);
    Sentence(const Sentence&);
    Sentence(Sentence&&) noexcept;
    Sentence& operator=(const Sentence&);
    Sentence& operator=(Sentence&&) noexcept;
    ~Sentence();

    [[nodiscard]] bool empty() const { return !m_pattern && m_pieces.empty(); }
    /// Null: the pieces follow one another.
    [[nodiscard]] const char* pattern() const { return m_pattern; }
    [[nodiscard]] const std::vector<Piece>& pieces() const { return m_pieces; }
    [[nodiscard]] bool isCapitalised() const { return m_capital; }

    Sentence& operator+=(const Sentence& next);
    friend Sentence operator+(Sentence a, const Sentence& b) { return a += b; }
    friend bool operator==(const Sentence& a, const Sentence& b);
    friend Sentence capitalised(Sentence s);

private:
    const char* m_pattern = nullptr;
    std::vector<Piece> m_pieces;
    bool m_capital = false;
};

/// What is put into a sentence.
class Sentence::Piece {
public:
    /// A name, told as it is: of a part, a place, a run.
    Piece(std::string name);
    Piece(Term term);
    Piece(Figure figure);
    Piece(Sentence sentence);
    template <class Count>
    requires(std::is_integral_v<Count> && !std::is_same_v<Count, bool> && !std::is_same_v<Count, char>)
        Piece(Count count)
        : Piece(figure::number(static_cast<double>(count))) {}
    Piece(const Piece&);
    Piece(Piece&&) noexcept;
    Piece& operator=(const Piece&);
    Piece& operator=(Piece&&) noexcept;
    ~Piece();

    /// One of them; null where it is another.
    [[nodiscard]] const std::string* name() const { return std::get_if<std::string>(&m_value); }
    [[nodiscard]] const Term* term() const { return std::get_if<Term>(&m_value); }
    [[nodiscard]] const Figure* figure() const { return std::get_if<Figure>(&m_value); }
    [[nodiscard]] const Sentence* sentence() const { return std::get_if<Sentence>(&m_value); }
    friend bool operator==(const Piece&, const Piece&);

private:
    std::variant<std::string, Term, Figure, Sentence> m_value;
};
using Sentences = std::vector<Sentence>;

/// A name as a sentence of its own.
[[nodiscard]] Sentence named(std::string name);
/// Marks a literal that term() is given later, so that translators find it.
[[nodiscard]] constexpr std::string_view word(std::string_view literal) { return literal; }
/// A word from one of the tables of words.
[[nodiscard]] Sentence term(std::string_view word);
/// Begins with a capital letter, whatever it begins with.
[[nodiscard]] Sentence capitalised(Sentence s);
/// "170 x 170 x 37 mm".
[[nodiscard]] Sentence boxMm(const std::array<double, 3>& mm, int decimals = 0);
/// One after the other with @p between.
[[nodiscard]] Sentence joined(const Sentences& all, const Sentence& between);
[[nodiscard]] Sentence joined(const Sentences& all); ///< "a, b, c"
[[nodiscard]] Sentence joined(std::span<const std::string> names);

/// A sentence: say("{} is {} short", name, figure::mm(2.5)). Names as text, figures as Figure, counts as whole numbers,
/// sentences as they are.
template <class... Values> [[nodiscard]] Sentence say(Pattern<sizeof...(Values)> pattern, Values&&... values) {
    if constexpr (sizeof...(Values) == 0) {
        return {pattern.text, {}};
    } else {
        Sentence::Piece pieces[]{Sentence::Piece(std::forward<Values>(values))...};
        return {pattern.text, pieces};
    }
}
/// A sentence by a count: "1 gap", "2 gaps".
template <class... Values>
[[nodiscard]] Sentence sayCounted(bool one, Pattern<sizeof...(Values)> single, Pattern<sizeof...(Values)> many,
                                  Values&&... values) {
    return say(one ? single : many, std::forward<Values>(values)...);
}

/// Makes text of sentences for one reader.
class Reader {
public:
    /// A text of the program in the reader's language; the same text where there is none.
    using Translate = std::function<std::string(const char*)>;
    Reader() = default;
    /// @p gap: between a number and its unit.
    explicit Reader(Show show, Translate translate = {}, std::string gap = " ")
        : m_show(std::move(show)), m_translate(std::move(translate)), m_gap(std::move(gap)) {}

    [[nodiscard]] std::string text(const Sentence& s) const;
    [[nodiscard]] std::string text(const Figure& f) const;
    [[nodiscard]] std::vector<std::string> texts(const Sentences& all) const;
    [[nodiscard]] const Show& show() const { return m_show; }

private:
    void put(std::string& out, const Sentence& s) const;
    void putPattern(std::string& out, const Sentence& s) const;
    void put(std::string& out, const Sentence::Piece& piece) const;
    [[nodiscard]] std::string translated(std::string_view text) const;

    Show m_show;
    Translate m_translate;
    std::string m_gap = " ";
};

/// In English, mm, °C and m³/h.
[[nodiscard]] std::string english(const Sentence& s);

} // namespace core
