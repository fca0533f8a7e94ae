// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/sentence.h"

#include "core/base/text.h"

#include <cstring>
#include <iterator>

namespace core {

Figure Figure::bare() const {
    Figure f = *this;
    f.hasUnit = false;
    return f;
}

Figure Figure::signedFigure() const {
    Figure f = *this;
    f.hasSign = true;
    return f;
}

Figure figure::usual(Quantity q, double v) { return {q, v, Show().decimals(q)}; }

Sentence::Sentence() = default;
Sentence::Sentence(const char* pattern, std::span<Piece> pieces)
    : m_pattern(pattern), m_pieces(std::make_move_iterator(pieces.begin()), std::make_move_iterator(pieces.end())) {}
Sentence::Sentence(const Sentence&) = default;
Sentence::Sentence(Sentence&&) noexcept = default;
Sentence& Sentence::operator=(const Sentence&) = default;
Sentence& Sentence::operator=(Sentence&&) noexcept = default;
Sentence::~Sentence() = default;

Sentence::Piece::Piece(std::string name) : m_value(std::move(name)) {}
Sentence::Piece::Piece(Term term) : m_value(std::move(term)) {}
Sentence::Piece::Piece(Figure figure) : m_value(figure) {}
Sentence::Piece::Piece(Sentence sentence) : m_value(std::move(sentence)) {}
Sentence::Piece::Piece(const Piece&) = default;
Sentence::Piece::Piece(Piece&&) noexcept = default;
Sentence::Piece& Sentence::Piece::operator=(const Piece&) = default;
Sentence::Piece& Sentence::Piece::operator=(Piece&&) noexcept = default;
Sentence::Piece::~Piece() = default;
bool operator==(const Sentence::Piece& a, const Sentence::Piece& b) { return a.m_value == b.m_value; }

namespace {
/// Without a pattern: what follows one another.
Sentence alone(Sentence::Piece piece) { return {nullptr, std::span(&piece, 1)}; }
} // namespace

Sentence& Sentence::operator+=(const Sentence& next) {
    if (next.empty())
        return *this;
    if (empty())
        return *this = next;
    if (m_pattern || m_capital) { // what was one sentence becomes the first of several
        Sentence first = std::move(*this);
        *this = alone(std::move(first));
    }
    m_pieces.emplace_back(next);
    return *this;
}

bool operator==(const Sentence& a, const Sentence& b) {
    const bool same =
        a.m_pattern && b.m_pattern ? std::strcmp(a.m_pattern, b.m_pattern) == 0 : a.m_pattern == b.m_pattern;
    return same && a.m_capital == b.m_capital && a.m_pieces == b.m_pieces;
}

Sentence named(std::string name) {
    if (name.empty())
        return {};
    return alone(std::move(name));
}

Sentence term(std::string_view word) { return alone(Sentence::Term{std::string(word)}); }

Sentence boxMm(const std::array<double, 3>& mm, int decimals) {
    const auto side = [&](std::size_t axis) { return figure::mm(mm[axis], decimals); };
    return say("{} x {} x {}", side(0).bare(), side(1).bare(), side(2));
}

Sentence capitalised(Sentence s) {
    s.m_capital = true;
    return s;
}

Sentence joined(const Sentences& all, const Sentence& between) {
    Sentence out;
    for (const Sentence& s : all) {
        if (!out.empty())
            out += between;
        out += s;
    }
    return out;
}

Sentence joined(const Sentences& all) { return joined(all, say(", ")); }

Sentence joined(std::span<const std::string> names) {
    Sentences all;
    for (const std::string& name : names)
        all.push_back(named(name));
    return joined(all);
}

std::string Reader::translated(std::string_view text) const {
    return m_translate ? m_translate(std::string(text).c_str()) : std::string(text);
}

std::string Reader::text(const Figure& f) const {
    static const Show stored;
    const bool asStored = m_show.unit(f.quantity) == stored.unit(f.quantity);
    const int decimals = asStored || f.quantity == Quantity::Money ? f.decimals : m_show.decimals(f.quantity);
    const double v = m_show.value(f.quantity, f.value);
    std::string out = m_show.digits(v, decimals, f.hasSign);
    if (const std::string unit = m_show.unit(f.quantity); f.hasUnit && !unit.empty())
        out += m_gap + unit;
    return out;
}

void Reader::put(std::string& out, const Sentence::Piece& piece) const {
    if (const auto* name = piece.name())
        out += *name;
    else if (const auto* word = piece.term())
        out += translated(word->text);
    else if (const auto* f = piece.figure())
        out += text(*f);
    else
        put(out, *piece.sentence());
}

void Reader::put(std::string& out, const Sentence& s) const {
    const std::size_t from = out.size();
    if (s.pattern())
        putPattern(out, s);
    else
        for (const Sentence::Piece& piece : s.pieces())
            put(out, piece);
    if (s.isCapitalised() && from < out.size() && out[from] >= 'a' && out[from] <= 'z')
        out[from] = static_cast<char>(out[from] - 'a' + 'A');
}

/// "{}" takes the next piece; a translation that needs another order writes "{0}", "{1}".
void Reader::putPattern(std::string& out, const Sentence& s) const {
    const std::string pattern = translated(s.pattern());
    std::size_t next = 0;
    for (std::size_t i = 0; i < pattern.size(); ++i) {
        const std::size_t end = pattern[i] == '{' ? pattern.find('}', i) : std::string::npos;
        const std::string inside = end == std::string::npos ? "{" : pattern.substr(i + 1, end - i - 1);
        if (inside.find_first_not_of("0123456789") != std::string::npos || inside.size() > 2) {
            out += pattern[i]; // no place for a value
            continue;
        }
        const std::size_t which = inside.empty() ? next++ : static_cast<std::size_t>(std::stoi(inside));
        if (which < s.pieces().size())
            put(out, s.pieces()[which]);
        i = end;
    }
}

std::string Reader::text(const Sentence& s) const {
    std::string out;
    put(out, s);
    return out;
}

std::vector<std::string> Reader::texts(const Sentences& all) const {
    std::vector<std::string> out;
    out.reserve(all.size());
    for (const Sentence& s : all)
        out.push_back(text(s));
    return out;
}

std::string english(const Sentence& s) {
    static const Reader reader;
    return reader.text(s);
}

} // namespace core
