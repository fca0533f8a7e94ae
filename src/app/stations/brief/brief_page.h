// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/stations/station_page.h"

namespace app {

/// Targets, parts, power and the port map; adapters offered there are plugged in by a click.
class BriefPage : public StationPage {
    Q_OBJECT
public:
    explicit BriefPage(Context& context, QWidget* parent = nullptr);

Q_SIGNALS:
    void refused(const core::Problem& problem);
    void addPartWanted(const QString& search);

protected:
    void clicked(const Hit& hit) override;
};

} // namespace app
