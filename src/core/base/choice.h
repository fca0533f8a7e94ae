// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <array>
#include <optional>
#include <string>
#include <string_view>

namespace core {

/// One value of an enum: its word, and what it is called on a form.
template <class E> struct Choice {
    E value;
    std::string_view word;  ///< in files and on the command line
    const char* label = ""; ///< on a form; empty: the word itself
    [[nodiscard]] constexpr const char* text() const { return *label ? label : word.data(); }
};

/// The choices of @p E in the order of a form; specialised below.
template <class E> struct ChoicesOf;
template <class E>
concept Chosen = requires {
    ChoicesOf<E>::all;
};

template <Chosen E> [[nodiscard]] constexpr std::string_view choiceWord(const E& value) {
    for (const auto& choice : ChoicesOf<E>::all)
        if (choice.value == value)
            return choice.word;
    return "?";
}
template <Chosen E> [[nodiscard]] constexpr std::optional<E> choiceFrom(std::string_view word) {
    for (const auto& choice : ChoicesOf<E>::all)
        if (choice.word == word)
            return choice.value;
    return std::nullopt;
}
/// What a value is called on a form.
template <Chosen E> [[nodiscard]] constexpr const char* choiceText(const E& value) {
    for (const auto& choice : ChoicesOf<E>::all)
        if (choice.value == value)
            return choice.text();
    return "?";
}
/// "mesh, printed, plain, closed".
template <Chosen E> [[nodiscard]] std::string choiceList() {
    std::string text;
    for (const auto& choice : ChoicesOf<E>::all)
        text.append(text.empty() ? "" : ", ").append(choice.word);
    return text;
}

} // namespace core

/// The choices of @p Type, in the order of a form; inside namespace core.
#define MD_CHOICES(Type, ...)                                                                                          \
    template <> struct ChoicesOf<Type> { static constexpr auto all = std::to_array<Choice<Type>>({__VA_ARGS__}); };
