// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/brief/brief_page.h"

#include "app/stations/brief/port_map.h"
#include "app/stations/brief/start_dialog.h"

#include "core/model/plug_fits.h"

#include <QKeyEvent>
#include <QMenu>
#include <QMouseEvent>

namespace app {
using core::Quantity;
using core::rules::LeadOffer;
using core::rules::LeadState;

BriefPage::BriefPage(Context& context, QWidget* parent) : StationPage(context, paintBrief, parent) {
    const auto suit = [this] { setMinimumHeight(std::max(560, static_cast<int>(briefHeight(m_context.view())) + 44)); };
    connect(&context.document, &Document::changed, this, suit);
    connect(&context.document, &Document::revisionSelected, this, suit);
    connect(&context.document, &Document::changed, this, [this] { // it was done, or another project was opened
        if (m_start && !m_context.document.project().revisions.empty()) {
            m_start->hide();
            m_start->deleteLater();
        }
    });
}

void BriefPage::begin() {
    if (!m_start) {
        m_start = new StartDialog(m_context, this);
        connect(m_start, &StartDialog::created, this, &BriefPage::started);
        connect(m_start, &StartDialog::worked, this, &BriefPage::startWorked);
    }
    m_start->standOn(this);
    placeStart();
}

void BriefPage::beginWithCase() {
    begin();
    m_start->takeCase();
}

void BriefPage::placeStart() {
    if (m_start)
        m_start->setGeometry(inside().adjusted(-8, -6, 10, 6).toRect());
}

void BriefPage::resizeEvent(QResizeEvent* event) {
    StationPage::resizeEvent(event);
    placeStart();
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

const core::rules::PortMap* BriefPage::ports() const {
    const auto* e = m_context.view().evaluation();
    return e ? &e->wiring.ports : nullptr;
}

void BriefPage::paintContent(Canvas& c) {
    StationPage::paintContent(c);
    if (!m_drag || !m_drag->moving)
        return;
    c.p.setPen(QPen(c.t.medge, 2, Qt::DashLine));
    c.p.drawLine(m_drag->from, m_drag->at);
    c.p.setBrush(c.t.marker);
    c.p.setPen(QPen(c.t.medge, 1.6));
    c.p.drawEllipse(m_drag->at, 5, 5);
}

void BriefPage::mousePressEvent(QMouseEvent* event) {
    m_drag.reset();
    if (const Hit* hit = hitAt(event->position());
        hit && event->button() == Qt::LeftButton && (hit->is(Act::DragSocket) || hit->is(Act::DragPlug)))
        m_drag = Drag{hit->handle, event->position(), event->position(), false};
    StationPage::mousePressEvent(event);
}

void BriefPage::mouseMoveEvent(QMouseEvent* event) {
    if (!m_drag || !(event->buttons() & Qt::LeftButton))
        return StationPage::mouseMoveEvent(event);
    m_drag->at = event->position();
    m_drag->moving = m_drag->moving || (m_drag->at - m_drag->from).manhattanLength() > 6;
    update();
}

void BriefPage::mouseReleaseEvent(QMouseEvent* event) {
    const auto drag = std::exchange(m_drag, std::nullopt);
    if (drag && drag->moving)
        drop(*drag, event->globalPosition().toPoint());
    update();
    StationPage::mouseReleaseEvent(event);
}

void BriefPage::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape && m_drag) {
        m_drag.reset();
        return update();
    }
    StationPage::keyPressEvent(event);
}

/// On the other side of the map it is joined, beside it the lead of a plug is pulled out.
void BriefPage::drop(const Drag& drag, const QPoint& global) {
    const Hit* hit = hitAt(drag.at);
    const bool plug = drag.handle.act == Act::DragPlug;
    if (hit && hit->is(plug ? Act::DragSocket : Act::DragPlug)) {
        const int socket = plug ? hit->handle.row : drag.handle.row, need = plug ? drag.handle.row : hit->handle.row;
        leadMenu(socket, need)->popup(global);
    } else if (plug && !(hit && hit->is(Act::DragPlug))) {
        unplug(drag.handle.row);
    }
}

QMenu* BriefPage::leadMenu(int socket, int need) {
    auto* menu = new QMenu(this);
    menu->setObjectName(QStringLiteral("leadMenu"));
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->setToolTipsVisible(true);
    const auto* map = ports();
    if (!map || socket >= static_cast<int>(map->sockets.size()) || need >= static_cast<int>(map->needs.size()))
        return menu;
    const auto& giver = map->sockets[static_cast<std::size_t>(socket)];
    const auto& taker = map->needs[static_cast<std::size_t>(need)];
    const auto say = [menu](const QString& text) { menu->addAction(text)->setEnabled(false); };
    if (giver.giver.isLead || taker.taker.isLead) {
        offerAdapter(menu, socket, need);
        return menu;
    }
    const core::Connect ends{{}, giver.giver.mount + ":" + giver.kind, {taker.taker.mount + ":" + taker.kind}};
    const View v = m_context.view();
    const auto offers =
        core::rules::leadsBetween(m_context.document.project(), v.evaluation()->build, ends.from, ends.to.front());
    if (offers.leads.empty())
        say(tr("%1 does not go into %2: an adapter on the shelf would be needed").arg(qs(taker.kind), qs(giver.kind)));
    else
        menu->addSection(tr("Way along the edges %1").arg(v.text(Quantity::Length, offers.wayMm)));
    for (const LeadOffer& lead : offers.leads) {
        QString words = lead.part.empty() ? tr("New: %1").arg(qs(lead.name)) : qs(lead.name);
        if (lead.lengthMm > 0)
            words += QStringLiteral(", %1, %2")
                         .arg(v.text(Quantity::Length, lead.lengthMm), qs(core::rules::leadStateWord(lead.state)));
        connect(menu->addAction(words), &QAction::triggered, this,
                [this, lead, ends, need] { connectBy(lead, ends, need); });
    }
    return menu;
}

void BriefPage::offerAdapter(QMenu* menu, int socket, int need) {
    const auto& map = *ports();
    const auto& giver = map.sockets[static_cast<std::size_t>(socket)];
    const auto& taker = map.needs[static_cast<std::size_t>(need)];
    const auto& all = m_context.view().evaluation()->build.joined;
    const auto say = [menu](const QString& text) { menu->addAction(text)->setEnabled(false); };
    if (giver.giver.isLead && taker.taker.isLead)
        return say(tr("One adapter in another has no place of its own: put one that does both on the shelf"));
    if (core::plugFit(taker.kind, giver.kind) == core::PlugFit::Not)
        return say(tr("%1 does not go into %2").arg(qs(taker.kind), qs(giver.kind)));
    const core::Joined& adapter = all[(giver.giver.isLead ? giver.giver : taker.taker).joined];
    std::string from = adapter.from;
    std::vector<std::string> to = adapter.to;
    std::vector<core::Change> changes;
    QString words;
    if (taker.taker.isLead) {
        from = giver.giver.mount + ":" + giver.kind;
        words = tr("Feed %1 from %2").arg(qs(adapter.part->name), qs(giver.giver.name));
    } else {
        if (giver.takenBy >= 0) { // what sat in it is unplugged
            const auto& old = map.needs[static_cast<std::size_t>(giver.takenBy)];
            std::erase_if(to, [&](const std::string& end) { return core::endName(end).mount == old.taker.mount; });
        }
        if (taker.cable >= 0)
            changes = core::rules::pluggedAs(all[static_cast<std::size_t>(taker.cable)], {}, {});
        to.push_back(taker.taker.mount + ":" + taker.kind);
        words = tr("Into %1").arg(qs(adapter.part->name));
    }
    for (core::Change& change : core::rules::pluggedAs(adapter, from, to))
        changes.push_back(std::move(change));
    connect(menu->addAction(words), &QAction::triggered, this, [this, words, changes] { make(words, changes); });
}

void BriefPage::connectBy(const LeadOffer& lead, const core::Connect& ends, int need) {
    const auto* map = ports();
    const auto* e = m_context.view().evaluation();
    if (!map || need >= static_cast<int>(map->needs.size()))
        return;
    std::vector<core::Change> changes;
    if (const int cable = map->needs[static_cast<std::size_t>(need)].cable; cable >= 0) {
        const core::Joined& j = e->build.joined[static_cast<std::size_t>(cable)];
        changes.emplace_back(core::Disconnect{j.part->id, j.from});
    }
    core::Connect connection = ends;
    connection.part = lead.part;
    std::optional<core::Part> made;
    if (lead.part.empty()) {
        made = core::rules::plainLead(m_context.document.project(), core::endName(ends.to.front()).port,
                                      core::fit::wayAlongEdgesMm(e->build, ends.from, ends.to.front()));
        connection.part = made->id;
    }
    changes.emplace_back(connection);
    make(tr("Plug in %1").arg(qs(lead.name)), changes, made ? &*made : nullptr);
}

void BriefPage::unplug(int need) {
    const auto* map = ports();
    if (!map || need >= static_cast<int>(map->needs.size()))
        return;
    const auto& plug = map->needs[static_cast<std::size_t>(need)];
    const auto& all = m_context.view().evaluation()->build.joined;
    const auto* giver = plug.socket < 0 ? nullptr : &map->sockets[static_cast<std::size_t>(plug.socket)].giver;
    if (plug.taker.isLead || (giver && giver->isLead)) {
        const core::Joined& adapter = all[(plug.taker.isLead ? plug.taker : *giver).joined];
        std::vector<std::string> to;
        if (!plug.taker.isLead)
            std::copy_if(adapter.to.begin(), adapter.to.end(), std::back_inserter(to),
                         [&](const std::string& end) { return core::endName(end).mount != plug.taker.mount; });
        return make(tr("Unplug %1").arg(qs(plug.taker.name)), core::rules::pluggedAs(adapter, adapter.from, to));
    }
    if (plug.cable < 0)
        return Q_EMIT refused({plug.taker.name,
                               plug.socket < 0 ? "nothing is plugged in there" : "no stated lead is plugged in there",
                               "a lead is stated by dragging a socket to it"});
    const core::Joined& j = all[static_cast<std::size_t>(plug.cable)];
    make(tr("Unplug %1").arg(qs(j.part->name)), {core::Disconnect{j.part->id, j.from}});
}

void BriefPage::make(const QString& text, const std::vector<core::Change>& changes, const core::Part* added) {
    auto& stack = m_context.document.undoStack();
    stack.beginMacro(text);
    core::Result<void> done;
    if (added)
        done = m_context.document.edit(text, [&](core::Project& p) { p.shelf.push_back(*added); });
    for (const core::Change& change : changes)
        if (done)
            if (const auto one = m_context.document.addChange(change); !one)
                done = tl::make_unexpected(one.error());
    stack.endMacro();
    if (done)
        return;
    stack.undo(); // a part of it is of no use
    Q_EMIT refused(done.error());
}

} // namespace app

#include "moc_brief_page.cpp"
