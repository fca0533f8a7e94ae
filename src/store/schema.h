// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/fields/outline.h"
#include "store/json_archive.h"

namespace store {

/// Every struct of a project file, with what the envelope of a file adds: where the readings of a run stand, and what
/// the columns of its log are.
[[nodiscard]] std::vector<core::StructOutline> fileOutlines();

/// The JSON Schema (2020-12) of project.json and of a parts file, made from the field lists.
[[nodiscard]] Json projectSchema();
[[nodiscard]] Json shelfSchema();
/// The tables of docs/format.md, in Markdown: every field, and where it is stated in the window.
[[nodiscard]] std::string fieldTables();

/// Where a struct is stated in the window: on a page of one of the two dialogs that show all there is.
struct Way {
    std::string structName;
    bool ofRun = false;            ///< "All details" of a run, else of the project
    std::vector<std::string> path; ///< keys from there on
    std::string kind = {};         ///< of the change that alone has it
};
/// Of every struct of a project file the shortest.
[[nodiscard]] std::vector<Way> waysInWindow();

} // namespace store
