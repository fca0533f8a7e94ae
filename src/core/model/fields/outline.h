// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/fields/field.h"

#include <string>
#include <vector>

// What the field lists say, as data: for the schemas, the tables of docs/format.md and whoever else tells people of
// fields.
namespace core {

enum class Holds { Text, Flag, Number, Whole, Choice, Size, Offset, Counts, Struct };

struct FieldOutline {
    NumberField about; ///< its range only for numbers and sizes
    Holds holds = Holds::Text;
    std::vector<int> items;           ///< one a level of brackets: their number, 0 any; none: a single value
    std::vector<std::string> choices; ///< words, of Holds::Choice
    std::string structName;           ///< of Holds::Struct
    bool required = true;
    std::string otherwise; ///< what holds when it is left out, in the words of the file; empty: nothing
    std::string source;    ///< of a bare number, of Holds::Size
};

struct StructOutline {
    std::string name;
    std::string about;
    std::vector<FieldOutline> fields;
    std::vector<StructOutline> oneOf; ///< of a change: every kind, its name the word behind "do"
};

/// Every struct of a project file, the project first and each after the one that names it first.
[[nodiscard]] std::vector<StructOutline> outlines();

} // namespace core
