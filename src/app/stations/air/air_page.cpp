// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/air/air_page.h"

#include <QKeyEvent>
#include <QMouseEvent>

#include <cmath>

namespace app {

AirPage::AirPage(Context& context, QWidget* parent)
    : StationPage(
          context,
          [this](Canvas& c, const QRectF& r, const View& v) {
              m_exploring&& v.evaluation() ? paintExplore(c, r, v, m_look) : paintAir(c, r, v);
          },
          parent) {
    m_turn = addButton(tr("Explore"), QStringLiteral("airExplore"), 0, 0, 84, 24);
    m_turn->setToolTip(tr("All that is left open, as noise against temperature; where builders disagree (E)"));
    connect(m_turn, &QPushButton::clicked, this, [this] { explore(!m_exploring); });
    const auto news = [this] {
        if (m_exploring)
            ask();
    };
    connect(&context.document, &Document::changed, this, news);
    connect(&context.document, &Document::revisionSelected, this, news);
    const StageStore& stages = context.document.stages();
    const auto isOurs = [this](const StageStore::Key& key) {
        return m_exploring && (key.stage == core::stages::Stage::Explore || key.stage == core::stages::Stage::Schools ||
                               key.stage == core::stages::Stage::Run);
    };
    connect(&stages, &StageStore::published, this, [this, isOurs](const StageStore::Key& key) {
        if (isOurs(key))
            ask();
    });
    connect(&stages, &StageStore::progressed, this, [this, isOurs](const StageStore::Key& key, int percent) {
        if (isOurs(key) && key.stage == core::stages::Stage::Explore && key.of == m_context.document.revision()) {
            m_look.percent = percent;
            update();
        }
    });
}

void AirPage::explore(bool on) {
    m_exploring = on;
    m_turn->setText(on ? tr("Section") : tr("Explore"));
    if (on)
        ask();
    update();
}

void AirPage::ask() {
    const Document& d = m_context.document;
    if (!m_context.view().evaluation())
        return update();
    if (m_askedOf != d.revision()) { // what was found for another revision is of no use here
        m_look = {};
        m_askedOf = d.revision();
    }
    m_look.schools = d.schools();
    m_look.taught = d.taught();
    m_look.explored = d.explored();
    const int ways = static_cast<int>(answered(m_look.explored).front.size());
    if (m_look.chosen >= ways)
        m_look.chosen = -1;
    if (m_look.chosen < 0 && ways > 0) { // the quietest that holds and is no warmer than now, else the coolest
        const auto& found = answered(m_look.explored);
        const auto& front = found.front;
        const auto holds = std::find_if(front.begin(), front.end(), [&](const auto& p) {
            return p.holdsHot() && p.headroomK >= found.now.headroomK;
        });
        m_look.chosen = holds == front.end() ? ways - 1 : static_cast<int>(holds - front.begin());
    }
    update();
}

void AirPage::choose(int way) {
    const int ways = static_cast<int>(answered(m_look.explored).front.size());
    if (ways > 0)
        m_look.chosen = std::clamp(way, 0, ways - 1);
    update();
}

void AirPage::openWay() {
    const auto& front = answered(m_look.explored).front;
    if (m_look.chosen < 0 || m_look.chosen >= static_cast<int>(front.size()))
        return;
    const auto changes = front[static_cast<std::size_t>(m_look.chosen)].changes;
    const auto made = m_context.document.newRevision(m_context.document.revision(), changes,
                                                     tr("Found by exploring what was left open").toStdString());
    if (!made)
        return Q_EMIT refused(made.error());
    explore(false);
    m_context.document.selectRevision(*made);
}

bool AirPage::exploreKey(int key) {
    if (!m_exploring)
        return false;
    if (key == Qt::Key_Left || key == Qt::Key_Up)
        choose(m_look.chosen - 1);
    else if (key == Qt::Key_Right || key == Qt::Key_Down)
        choose(m_look.chosen + 1);
    else if (key == Qt::Key_Return || key == Qt::Key_Enter)
        openWay();
    else if (key == Qt::Key_Escape)
        explore(false);
    else
        return false;
    return true;
}

void AirPage::change(const core::Change& change) {
    if (const auto done = m_context.document.addChange(change); !done)
        Q_EMIT refused(done.error());
}

void AirPage::mousePressEvent(QMouseEvent* event) {
    m_clickX = event->position().x();
    StationPage::mousePressEvent(event);
}

void AirPage::clicked(const Hit& hit) {
    if (hit.is(Act::ChooseWay))
        return choose(hit.handle.row);
    if (hit.is(Act::OpenWay))
        return openWay();
    const auto* fan = std::get_if<core::FanRef>(&hit.handle.of);
    if (fan && hit.is(Act::TurnFan)) {
        change(core::FlipFan{fan->mount});
        m_context.selection.select(*fan);
    } else if (fan && hit.is(Act::SetSpeed)) {
        const double share = std::clamp((m_clickX - hit.rect.left()) / std::max(1.0, hit.rect.width()), 0.2, 1.0);
        change(core::SetFan{fan->mount, core::FanMode::Fixed, std::round(share * 50) / 50});
        m_context.selection.select(*fan);
    } else {
        StationPage::clicked(hit);
    }
}

/// The fan that is selected; null: none is, or it is no part of its own.
const core::Placed* AirPage::fanSelected() const {
    const auto* e = m_context.view().evaluation();
    const auto* fan = std::get_if<core::FanRef>(&m_context.selection.thing());
    const core::Placed* p = e && fan ? e->build.at(fan->mount) : nullptr;
    return p && p->part->kind == core::PartKind::Fan ? p : nullptr;
}

void AirPage::changeSpeed(double by) {
    if (const core::Placed* p = fanSelected())
        change(core::SetFan{p->mount, core::FanMode::Fixed,
                            std::clamp(std::round((p->control.duty + by) * 100) / 100, 0.0, 1.0)});
}

void AirPage::keyPressEvent(QKeyEvent* event) {
    if (exploreKey(event->key()))
        return;
    switch (event->key()) {
    case Qt::Key_E:
        return explore(!m_exploring);
    case Qt::Key_R:
        if (const core::Placed* p = fanSelected())
            change(core::FlipFan{p->mount});
        return;
    case Qt::Key_Left:
        return changeSpeed(-0.05);
    case Qt::Key_Right:
        return changeSpeed(0.05);
    default:
        StationPage::keyPressEvent(event);
    }
}

} // namespace app
