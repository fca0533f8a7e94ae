// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/fields/outline.h"
#include "store/json_archive.h"

#include <QString>

// What the rows of a form made of an outline have in common.
namespace app::rows {

/// A label or help of the field lists, in the reader's language.
[[nodiscard]] QString said(const char* words);
/// Range, help, standard and key of a field, for its tool tip.
[[nodiscard]] QString helpOf(const core::FieldOutline& field);
/// A number, or the length of a size with its source; 0 where there is none.
[[nodiscard]] double numberOf(const store::Json& json);

} // namespace app::rows
