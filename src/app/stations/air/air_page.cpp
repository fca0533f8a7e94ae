// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/air/air_page.h"

#include "app/stations/air/air_table.h"
#include "app/ui/dialogs/air_value_dialog.h"
#include "core/advise/fan_curves.h"
#include "core/base/text.h"
#include "store/safe_write.h"

#include <QBuffer>
#include <QFileDialog>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QSvgGenerator>

#include <cmath>

namespace app {

AirPage::AirPage(Context& context, QWidget* parent)
    : StationPage(
          context,
          [this](Canvas& c, const QRectF& r, const View& v) {
              const bool solved = v.evaluation() && v.evaluation()->air.solved;
              if (solved && m_view.pane == AirPane::Explore && m_look.drawn)
                  paintGhost(c, r, v, m_view, m_look);
              else if (solved && m_view.pane == AirPane::Explore)
                  paintExplore(c, r, v, m_look);
              else if (solved && m_view.pane == AirPane::Network)
                  paintNetwork(c, r, v, m_view);
              else if (solved && m_view.pane == AirPane::WarmUp)
                  paintWarmUp(c, r, v, m_view);
              else
                  paintAir(c, r, v, m_view);
          },
          parent) {
    const std::array names{
        std::tuple{tr("Section"), "airSection", tr("Where the air goes, and how warm it gets")},
        std::tuple{tr("Network"), "airNetwork", tr("Every room and way of air with its figures (N)")},
        std::tuple{tr("Warm-up"), "airWarmUp", tr("An hour of the load from idle, played (H)")},
        std::tuple{tr("Explore"), "airExplore",
                   tr("All that is left open, as noise against temperature; where builders disagree (E)")}};
    for (std::size_t i = 0; i < names.size(); ++i) {
        const auto& [text, name, tip] = names[i];
        m_panes[i] = addButton(text, QString::fromLatin1(name), static_cast<int>(3 - i) * 72, 0, 70, 24);
        m_panes[i]->setToolTip(tip);
        m_panes[i]->setCheckable(true);
        connect(m_panes[i], &QPushButton::clicked, this, [this, i] { show(static_cast<AirPane>(i)); });
    }
    m_panes[0]->setChecked(true);
    m_view.tellsLoads = true;
    m_clock.setInterval(50);
    connect(&m_clock, &QTimer::timeout, this, [this] {
        const auto rows = answered(m_view.warmUp).rows.size();
        if (m_view.row + 1 >= rows)
            return play(false);
        setMoment(static_cast<std::ptrdiff_t>(m_view.row) + 1);
    });
    constexpr int momentMs = 150, restMs = 700;
    m_rest.setSingleShot(true);
    m_rest.setInterval(momentMs);
    connect(&m_rest, &QTimer::timeout, this, [this] { askLoads(); });
    m_learning.setSingleShot(true);
    m_learning.setInterval(restMs);
    connect(&m_learning, &QTimer::timeout, this, [this] {
        if (isVisible() && !m_context.document.project().runs.empty())
            (void)m_context.document.taught();
    });
    connect(&context.document, &Document::changed, this, [this] { ask(); });
    connect(&context.document, &Document::revisionSelected, this, [this] { ask(); });
    const StageStore& stages = context.document.stages();
    using core::stages::Stage;
    const auto isOurs = [this](const StageStore::Key& key) {
        const bool exploring = isExploring() && (key.stage == Stage::Explore || key.stage == Stage::Schools ||
                                                 key.stage == Stage::Run || key.stage == Stage::Learn);
        return exploring || key.stage == Stage::WarmUp ||
               (key.stage == Stage::Preview && key.of == Document::ghostAsked && m_look.drawn) ||
               (key.stage == Stage::Learn && m_view.asTaught);
    };
    connect(&stages, &StageStore::published, this, [this, isOurs](const StageStore::Key& key) {
        if (key.stage == Stage::Loads)
            askLoads();
        else if (isOurs(key))
            ask();
    });
    connect(&stages, &StageStore::progressed, this, [this](const StageStore::Key& key, int percent) {
        if (isExploring() && key.stage == Stage::Explore && key.of == m_context.document.revision()) {
            m_look.percent = percent;
            update();
        }
    });
}

void AirPage::show(AirPane pane) {
    if (m_view.pane != pane)
        play(false);
    m_view.pane = pane;
    for (std::size_t i = 0; i < m_panes.size(); ++i)
        m_panes[i]->setChecked(static_cast<std::size_t>(pane) == i);
    ask();
    update();
}

void AirPage::showEvent(QShowEvent* event) {
    StationPage::showEvent(event);
    ask();
}

void AirPage::ask() {
    if (!isVisible() || !m_context.view().evaluation())
        return update();
    const Document& d = m_context.document;
    if (m_askedOf != d.revision()) { // what was found for another revision is of no use here
        m_look = {.explored = {}, .schools = {}, .taught = {}, .request = m_look.request, .ghost = {}};
        m_view.loads = {};
        m_view.warmUp = {};
        m_askedOf = d.revision();
    }
    if (m_view.pane == AirPane::Section && m_view.loadsOf != shownLook())
        m_rest.start();
    if (m_view.pane == AirPane::WarmUp)
        m_view.warmUp = d.warmUp();
    if (m_view.asTaught && m_view.pane == AirPane::Section)
        askTaught();
    if (isExploring())
        askExplored();
    else if (!d.knownTaught())
        m_learning.start();
    update();
}

/// Kept, so that another one never stands at its address.
std::shared_ptr<const results::Look> AirPage::shownLook() const {
    return m_context.document.results().look(m_context.document.revision()).value;
}

void AirPage::askLoads() {
    if (!m_context.view().evaluation() || !isVisible())
        return;
    const auto of = shownLook();
    m_view.loads = m_context.document.loads();
    if (m_view.loads.standing == Standing::Ready)
        m_view.loadsOf = of;
    update();
}

void AirPage::askExplored() {
    const Document& d = m_context.document;
    m_look.schools = d.schools();
    m_look.taught = d.taught();
    m_look.explored = d.explored(m_look.request);
    const int ways = static_cast<int>(answered(m_look.explored).front.size());
    if (m_look.chosen >= ways)
        m_look.chosen = -1;
    if (m_look.chosen < 0 && ways > 0)
        m_look.chosen = core::advise::chosenOf(answered(m_look.explored));
    if (m_look.drawn && m_look.chosen >= 0)
        m_look.ghost = d.ghost(answered(m_look.explored).front[static_cast<std::size_t>(m_look.chosen)].changes);
}

void AirPage::drawWay(bool on) {
    m_look.drawn = on && m_look.chosen >= 0;
    if (!m_look.drawn)
        m_look.ghost = {};
    ask();
}

void AirPage::showTaught(bool on) {
    m_view.asTaught = on;
    m_view.taught.reset();
    ask();
}

/// The look that is shown with the air of the taught model in it: the same build, its sheets' figures replaced.
void AirPage::askTaught() {
    const auto of = shownLook();
    const Answer<results::Taught> taught = m_context.document.taught();
    if (!of || !of->evaluation || taught.standing != Standing::Ready || !taught.value || taught.value->parts.empty())
        return m_view.taught.reset();
    if (m_view.taught && m_taughtOf == of && m_taughtBy == taught.value)
        return;
    m_taughtOf = of;
    m_taughtBy = taught.value;
    auto look = std::make_shared<results::Look>(*of);
    look->evaluation->air = taught.value->air;
    look->evaluation->noise = taught.value->noise;
    m_view.taught = look;
    m_view.taughtRuns = taught.value->runs;
}

void AirPage::setMoment(std::ptrdiff_t row) {
    const auto rows = static_cast<std::ptrdiff_t>(answered(m_view.warmUp).rows.size());
    if (rows == 0)
        return;
    m_view.row = static_cast<std::size_t>(std::clamp<std::ptrdiff_t>(row, 0, rows - 1));
    update();
}

void AirPage::play(bool on) {
    if (on && m_view.row + 1 >= answered(m_view.warmUp).rows.size())
        m_view.row = 0; // from the beginning again
    m_view.playing = on;
    on ? m_clock.start() : m_clock.stop();
    update();
}

/// The room or way of air that is selected, set by hand.
void AirPage::editElement() {
    const core::Thing& thing = m_context.selection.thing();
    std::string element;
    if (const auto* branch = std::get_if<core::BranchRef>(&thing))
        element = branch->name;
    else if (const auto* zone = std::get_if<core::ChamberRef>(&thing))
        element = zone->id;
    else if (const auto* part = std::get_if<core::PartRef>(&thing))
        element = part->mount;
    if (element.empty())
        return;
    auto* dialog = new AirValueDialog(m_context, element, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

core::Result<void> AirPage::saveCurves(const QString& path) {
    const auto& front = answered(m_look.explored).front;
    const auto* e = m_context.view().evaluation();
    if (!e || m_look.chosen < 0 || m_look.chosen >= static_cast<int>(front.size()))
        return core::problem("fan curves", "no way is chosen", "choose one of the best ways first");
    const auto curves =
        core::advise::fanCurves(m_context.view().project(), *e, front[static_cast<std::size_t>(m_look.chosen)].changes);
    if (!curves)
        return tl::make_unexpected(curves.error());
    if (curves->empty())
        return core::problem("fan curves", "this way holds no fan at a speed of its own", "choose another way");
    const std::string text = path.endsWith(QStringLiteral(".txt"), Qt::CaseInsensitive)
                                 ? core::advise::curvesText(*curves, readerFor(m_context.show()))
                                 : core::advise::curvesCsv(*curves);
    return store::writeWhole(path, QByteArray::fromStdString(text));
}

core::Result<void> AirPage::saveSheet(const QString& path) {
    if (path.endsWith(QStringLiteral(".csv"), Qt::CaseInsensitive)) {
        const QByteArray table = airTable(m_context.view(), m_view, m_look);
        return table.isEmpty() ? core::problem(path.toStdString(), "there is nothing to save yet", "add parts first")
                               : store::writeWhole(path, table);
    }
    QBuffer buffer;
    buffer.open(QIODevice::WriteOnly);
    const QRectF sheet(0, 0, 1000, 680);
    {
        QSvgGenerator svg;
        svg.setOutputDevice(&buffer);
        svg.setSize(sheet.size().toSize());
        svg.setViewBox(sheet);
        svg.setTitle(QStringLiteral("Mini Draft"));
        QPainter painter(&svg);
        painter.fillRect(sheet, Theme::light().paper);
        const Theme light = Theme::light(); // as on paper
        Canvas canvas(painter, light, m_context.selection.thing());
        paintInside(canvas, sheet.adjusted(10, 10, -10, -10));
    }
    return store::writeWhole(path, buffer.data());
}

void AirPage::askAndSave(const QString& title, const QString& name, const QStringList& kinds,
                         core::Result<void> (AirPage::*save)(const QString&)) {
    QFileDialog dialog(this, title);
    dialog.setAcceptMode(QFileDialog::AcceptSave);
    dialog.setNameFilters(kinds);
    const auto endOf = [](const QString& kind) { return kind.section(QStringLiteral("*."), 1, 1).chopped(1); };
    dialog.setDefaultSuffix(endOf(kinds.front()));
    connect(&dialog, &QFileDialog::filterSelected, &dialog,
            [&dialog, endOf](const QString& kind) { dialog.setDefaultSuffix(endOf(kind)); });
    dialog.selectFile(name);
    if (dialog.exec() != QDialog::Accepted || dialog.selectedFiles().isEmpty())
        return;
    if (const auto done = (this->*save)(dialog.selectedFiles().front()); !done)
        Q_EMIT refused(done.error());
}

void AirPage::askForSheet() {
    askAndSave(tr("Save what is shown"), QStringLiteral("air"), {tr("Drawing (*.svg)"), tr("Table (*.csv)")},
               &AirPage::saveSheet);
}

void AirPage::turnOpen(int what) {
    auto& r = m_look.request;
    const std::array<bool*, 5> all{&r.fans, &r.screens, &r.panels, &r.places, &r.lying};
    bool& asked = *all[static_cast<std::size_t>(std::clamp(what, 0, 4))];
    asked = !asked;
    m_look.chosen = -1;
    ask();
}

void AirPage::askForCurves() {
    askAndSave(tr("Save fan curves"), QStringLiteral("fan-curves"), {tr("Table (*.csv)"), tr("Text (*.txt)")},
               &AirPage::saveCurves);
}

void AirPage::choose(int way) {
    const int ways = static_cast<int>(answered(m_look.explored).front.size());
    if (ways > 0)
        m_look.chosen = std::clamp(way, 0, ways - 1);
    if (m_look.drawn)
        return ask();
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

bool AirPage::exploreKey(QKeyEvent* event) {
    const int key = event->key();
    if (!isExploring())
        return false;
    if (key == Qt::Key_E && event->modifiers() == Qt::ControlModifier)
        askForCurves();
    else if (const auto open = openKeys.find(static_cast<char>(key));
             key < 128 && event->modifiers() == Qt::NoModifier && open != std::string_view::npos)
        turnOpen(static_cast<int>(open));
    else if (key == Qt::Key_Left || key == Qt::Key_Up)
        choose(m_look.chosen - 1);
    else if (key == Qt::Key_Right || key == Qt::Key_Down)
        choose(m_look.chosen + 1);
    else if (key == Qt::Key_Space)
        drawWay(!m_look.drawn);
    else if (key == Qt::Key_Escape && m_look.drawn)
        drawWay(false);
    else if (key == Qt::Key_Return || key == Qt::Key_Enter)
        openWay();
    else
        return false;
    return true;
}

bool AirPage::warmUpKey(int key) {
    if (m_view.pane != AirPane::WarmUp)
        return false;
    const auto row = static_cast<std::ptrdiff_t>(m_view.row);
    if (key == Qt::Key_Left || key == Qt::Key_Right)
        setMoment(row + (key == Qt::Key_Left ? -1 : 1));
    else if (key == Qt::Key_PageUp || key == Qt::Key_PageDown)
        setMoment(row + (key == Qt::Key_PageUp ? -20 : 20));
    else if (key == Qt::Key_Space)
        play(!m_view.playing);
    else
        return false;
    return true;
}

bool AirPage::sightKey(int key) {
    if (key >= Qt::Key_A && key <= Qt::Key_C)
        m_view.sight = static_cast<AirSight>(key - Qt::Key_A);
    else if (key == Qt::Key_D && m_view.pane == AirPane::Section)
        m_view.againstBaseline = !m_view.againstBaseline;
    else if (key == Qt::Key_M && m_view.pane == AirPane::Section)
        showTaught(!m_view.asTaught);
    else
        return false;
    update();
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

/// Over the hour of the warm-up the figures of the moment under the pointer.
void AirPage::mouseMoveEvent(QMouseEvent* event) {
    StationPage::mouseMoveEvent(event);
    std::optional<std::size_t> pointed;
    if (const Hit* hit = hitAt(event->position()); hit && hit->is(Act::SetMoment) && hit->handle.row > 1) {
        const double share = (event->position().x() - hit->rect.left()) / std::max(1.0, hit->rect.width());
        pointed = static_cast<std::size_t>(std::lround(std::clamp(share, 0.0, 1.0) * (hit->handle.row - 1)));
    }
    if (pointed != m_view.pointed) {
        m_view.pointed = pointed;
        update();
    }
}

void AirPage::leaveEvent(QEvent* event) {
    m_view.pointed.reset();
    StationPage::leaveEvent(event);
}

void AirPage::clicked(const Hit& hit) {
    if (hit.is(Act::ChooseWay))
        return choose(hit.handle.row);
    if (hit.is(Act::OpenWay))
        return openWay();
    if (hit.is(Act::DrawWay))
        return drawWay(true);
    if (hit.is(Act::TurnTaught))
        return showTaught(!m_view.asTaught);
    if (hit.is(Act::SaveCurves))
        return askForCurves();
    if (hit.is(Act::SaveSheet))
        return askForSheet();
    if (hit.is(Act::TurnOpen))
        return turnOpen(hit.handle.row);
    if (hit.is(Act::ChooseSight) || hit.is(Act::TurnDifference))
        return void(sightKey(hit.is(Act::TurnDifference) ? Qt::Key_D : Qt::Key_A + hit.handle.row));
    if (hit.is(Act::SetMoment))
        return setMoment(
            std::lround((m_clickX - hit.rect.left()) / std::max(1.0, hit.rect.width()) * (hit.handle.row - 1)));
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
    const auto turnTo = [this](AirPane pane) { show(m_view.pane == pane ? AirPane::Section : pane); };
    if (exploreKey(event) || warmUpKey(event->key()))
        return;
    if (event->key() == Qt::Key_T && event->modifiers() == Qt::ControlModifier)
        return askForSheet();
    if (event->modifiers() != Qt::NoModifier && event->modifiers() != Qt::KeypadModifier)
        return StationPage::keyPressEvent(event);
    if (sightKey(event->key()))
        return;
    switch (event->key()) {
    case Qt::Key_E:
        return turnTo(AirPane::Explore);
    case Qt::Key_N:
        return turnTo(AirPane::Network);
    case Qt::Key_H:
        return turnTo(AirPane::WarmUp);
    case Qt::Key_Escape:
        return m_view.pane == AirPane::Section ? StationPage::keyPressEvent(event) : show(AirPane::Section);
    case Qt::Key_Return:
    case Qt::Key_Enter:
        return m_view.pane == AirPane::Network ? editElement() : StationPage::keyPressEvent(event);
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

#include "moc_air_page.cpp"
