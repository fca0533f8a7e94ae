// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/model/document.h"
#include "app/model/selection.h"
#include "app/model/settings.h"
#include "app/paint/stations.h"

namespace app {

/// What every view of the window shares. Views change the document and the selection, never each other.
struct Context {
    Document document;
    Selection selection;
    Settings settings;
    Theme theme = Theme::light();

    [[nodiscard]] core::Show show() const {
        core::UnitChoice units = settings.units;
        units.currency = document.project().currency;
        units.decimalMark = decimalMark();
        return core::Show(units);
    }
    /// Who reads it: language, units, currency.
    [[nodiscard]] core::Reader reader() const { return readerFor(show()); }
    [[nodiscard]] View view() const { return View{document, show()}; }
};

} // namespace app
