// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/explain/working.h"

namespace report {

/// A picture of a station as SVG text, to be put into the report as it is.
struct Picture {
    std::string title;
    std::string svg;
};

/// One self-contained HTML page of a revision: brief, targets over the revisions, gaps with chains, air, runs, making,
/// findings. Nothing is fetched from outside. @p evaluations holds every revision that resolves, in order.
[[nodiscard]] std::string html(const core::Project& project,
                               const std::vector<const core::stages::Evaluation*>& evaluations,
                               const core::verdict::RunAnalyses& runs, std::string_view revision,
                               const core::Reader& reader, const std::vector<Picture>& pictures = {});

} // namespace report
