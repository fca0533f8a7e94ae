// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

/// What the command line program answers with; the man page lists the same.
enum ExitCode : int {
    ExitFine = 0,
    ExitNotMet = 1,   ///< blockers, or targets missed
    ExitBadInput = 2, ///< file, line, field and remedy are on standard error
};
