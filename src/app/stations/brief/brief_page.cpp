// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/brief/brief_page.h"

#include "app/stations/brief/port_map.h"

namespace app {

BriefPage::BriefPage(Context& context, QWidget* parent) : StationPage(context, paintBrief, parent) {
    const auto suit = [this] { setMinimumHeight(std::max(560, static_cast<int>(briefHeight(m_context.view())) + 44)); };
    connect(&context.document, &Document::changed, this, suit);
    connect(&context.document, &Document::revisionSelected, this, suit);
}

void BriefPage::clicked(const Hit& hit) {
    if (hit.is(Act::AddAdapter))
        return Q_EMIT addPartWanted(tr("adapter"));
    const auto* adapter = std::get_if<core::LeadRef>(&hit.handle.of);
    if (!adapter || !hit.is(Act::UseAdapter))
        return StationPage::clicked(hit);
    const auto* e = m_context.view().evaluation();
    const auto change = e ? connectionOf(e->wiring.ports, adapter->part, m_context.document.project()) : std::nullopt;
    if (!change)
        return;
    if (const auto done = m_context.document.addChange(*change); !done)
        Q_EMIT refused(done.error());
}

} // namespace app
