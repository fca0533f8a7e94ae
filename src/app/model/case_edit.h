// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/model/document.h"

namespace app {

/// Whether a revision whose case this is has runs, or was validated.
[[nodiscard]] bool isLogged(const core::Project& project, const std::string& casePart);
/// A case as the revision has it: with what its changes made of the vents.
[[nodiscard]] core::Part asBuilt(const core::Part& part, const core::Build& build);
/// Puts an edited part in the place of the one with its id. A case on which runs were logged stays what it was: the
/// edited one becomes a part and a revision of its own, whose note says what changed. Edits with the same non-zero
/// @p mergeId join. Errors: as Document::edit().
core::Result<void> changePart(Document& document, const QString& text, core::Part edited, int mergeId = 0);

/// The same of a case and a made part at its place @p mount, as one step. A made part that was logged, or that other
/// revisions have too, stays as it is there: the edited one becomes a part of its own, in the revision that is looked
/// at or, where that was logged, in one that comes from it.
core::Result<void> changePanel(Document& document, const QString& text, core::Part editedCase, core::Part editedPanel,
                               const std::string& mount, int mergeId = 0);

} // namespace app
