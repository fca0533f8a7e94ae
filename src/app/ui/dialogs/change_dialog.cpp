// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/dialogs/change_dialog.h"

#include "core/verdict/compare.h"

#include <QScrollArea>

#include "app/ui/dialogs/standard_parts.h"
#include "core/base/text.h"
#include "core/model/choices.h"

#include <QPushButton>

namespace app {
using core::PartKind;
using core::Quantity;

namespace {

/// In the order of the choices on screen.
enum Kind { Swap, Place, Remove, Flip, Speed, ScreenOf, OpenShare, Move, Lay, Limit, Case, Variant, Plug, Join, Unplug, Feet, Cut };

} // namespace

ChangeDialog::ChangeDialog(Context& context, const core::Thing& about, QWidget* parent) : FormDialog(context, tr("New revision"), parent), m_parent(context.document.revision()) {
    auto* head = new QLabel(tr("%1 from %2. State what changes; its words are made from it.").arg(qs(nextRevisionId(context.document.project())), qs(m_parent)), this);
    head->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    m_layout->insertWidget(0, head);
    m_kind = addChoice(tr("Change"), QStringLiteral("kind"));
    m_kind->addItems({tr("Swap a part"), tr("Place a part"), tr("Take a part out"), tr("Turn a fan round"), tr("Set a fan's speed"), tr("Dust screen"), tr("Open share of a panel"), tr("Move a part"), tr("Stand or lay the case"), tr("Limit the power of a part"), tr("Another case"), tr("Another way to sit at its place"), tr("Another plug"), tr("Plug in a cable or adapter"), tr("Unplug a cable or adapter"), tr("Height of the feet"), tr("Modify the case")});
    m_subject = addChoice(tr("Of"), QStringLiteral("subject"));
    m_value = addChoice(tr("To"), QStringLiteral("value"));
    m_from = addChoice(tr("From"), QStringLiteral("from"));
    m_share = addNumber(tr("Share"), QStringLiteral("share"), Quantity::Share, 0.6, 0, 1);
    m_axis = addChoice(tr("Along"), QStringLiteral("axis"));
    m_axis->addItems({tr("left to right"), tr("front to rear"), tr("bottom to top")});
    m_length = addNumber(tr("By"), QStringLiteral("length"), Quantity::Length, 5, -500, 500);
    m_watts = addNumber(tr("At most"), QStringLiteral("watts"), Quantity::Power, 65, 1, 2000);
    m_note = addText(tr("Note"), QStringLiteral("note"));
    auto* more = new QPushButton(tr("And one more change"), this);
    more->setObjectName(QStringLiteral("oneMore"));
    more->setAutoDefault(false);
    more->setToolTip(tr("Keeps this change and states another one of the same revision. One change at a time tells more in a comparison."));
    m_form->addRow(QString(), more);
    connect(more, &QPushButton::clicked, this, &ChangeDialog::oneMore);
    m_statedWords = new QLabel(this);
    m_statedWords->setObjectName(QStringLiteral("stated"));
    m_statedWords->setWordWrap(true);
    m_statedWords->hide();
    m_preview = new QLabel(this);
    m_preview->setTextFormat(Qt::RichText); // its own lines; names in it are escaped
    m_preview->setObjectName(QStringLiteral("preview"));
    m_preview->setWordWrap(true);
    m_preview->setMinimumHeight(76);
    m_preview->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    m_layout->insertWidget(1, m_statedWords);
    auto* scroll = new QScrollArea(this); // every mark that changes is listed
    scroll->setWidget(m_preview);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setMinimumHeight(110);
    m_layout->insertWidget(3, scroll, 1);
    if (auto parts = standardParts())
        for (core::Part& part : *parts) {
            part.id = core::freePartId(context.document.project(), part.id);
            m_standard.push_back(std::move(part));
        }
    m_buttons->button(QDialogButtonBox::Ok)->setText(tr("Make revision"));
    resize(480, 500);
    connect(m_kind, &QComboBox::currentIndexChanged, this, &ChangeDialog::fillSubjects);
    connect(m_subject, &QComboBox::currentIndexChanged, this, &ChangeDialog::fillValues);
    for (QComboBox* box : {m_value, m_axis, m_from})
        connect(box, &QComboBox::currentIndexChanged, this, &ChangeDialog::preview);
    for (QDoubleSpinBox* box : {m_share, m_length, m_watts})
        connect(box, &QDoubleSpinBox::valueChanged, this, &ChangeDialog::preview);
    fillSubjects();
    startWith(about);
}

void ChangeDialog::startWith(const core::Thing& about) {
    if (std::holds_alternative<core::FanRef>(about))
        m_kind->setCurrentIndex(Speed);
    else if (std::holds_alternative<core::OpeningRef>(about))
        m_kind->setCurrentIndex(ScreenOf);
    else if (!std::holds_alternative<core::PartRef>(about))
        return;
    m_subject->setCurrentIndex(std::max(0, m_subject->findData(qs(core::subjectOf(about)))));
}

std::string ChangeDialog::subject() const { return m_subject->currentData().toString().toStdString(); }

void ChangeDialog::fillSubjects() {
    const QSignalBlocker block(m_subject);
    m_subject->clear();
    const auto* e = m_context.view().evaluation();
    const auto& shelf = m_context.document.project().shelf;
    const int kind = m_kind->currentIndex();
    if (e && (kind == ScreenOf || kind == OpenShare)) {
        for (const core::Opening& o : e->build.openings)
            if (o.to.empty())
                m_subject->addItem(qs(o.name), qs(o.id));
    } else if (e && kind == Place) {
        for (const core::MountChoice& m : core::mountsOf(e->build))
            if (!m.taken)
                m_subject->addItem(tr("%1 (%2)").arg(qs(m.name), qs(m.path)), qs(m.path));
    } else if (e && kind == Join) {
        for (const core::Part& p : shelf)
            if (p.kind == PartKind::Cable || p.kind == PartKind::Adapter)
                m_subject->addItem(qs(p.name), qs(p.id));
    } else if (e && kind == Unplug) {
        for (const core::Joined& j : e->build.joined)
            m_subject->addItem(tr("%1 at %2").arg(qs(j.part->name), qs(j.from.empty() ? std::string("no stated socket") : j.from)), qs(j.part->id + "|" + j.from));
    } else if (e && kind == Plug) {
        for (const core::Placed& p : e->build.placed)
            for (const core::Port& port : p.ports)
                if (!port.angledWays.empty() || port.plug == core::PlugStyle::Angled)
                    m_subject->addItem(tr("%1, %2").arg(qs(p.part->name), qs(port.id)), qs(p.mount + ":" + port.id));
    } else if (e && kind == Variant) {
        for (const core::Placed& p : e->build.placed)
            if (const core::Mount* m = core::mountAt(e->build, p.mount); m && !m->variants.empty())
                m_subject->addItem(tr("%1 (%2)").arg(qs(p.part->name), qs(p.mount)), qs(p.mount));
    } else if (e && kind != Lay && kind != Case && kind != Feet && kind != Cut) {
        for (const core::Placed& p : e->build.placed) {
            const bool caseFan = p.part->kind == PartKind::Fan, hasFan = caseFan || p.part->kind == PartKind::Cooler || p.part->kind == PartKind::Card;
            const bool hasOther = std::any_of(shelf.begin(), shelf.end(), [&](const core::Part& other) { return other.kind == p.part->kind && other.id != p.part->id; });
            if ((kind == Swap && !hasOther) || (kind == Flip && !caseFan) || (kind == Speed && !hasFan) || (kind == Limit && p.powerW() <= 0))
                continue;
            m_subject->addItem(tr("%1 (%2)").arg(qs(p.part->name), qs(p.mount)), qs(p.mount));
        }
    }
    const auto row = [&](QWidget* field, bool shown) {
        field->setVisible(shown);
        m_form->labelForField(field)->setVisible(shown);
    };
    // A place, a part, a vent: what is meant is named, not "of" and "to".
    const auto name = [&](QWidget* field, const QString& words) {
        if (auto* label = qobject_cast<QLabel*>(m_form->labelForField(field)))
            label->setText(words);
    };
    name(m_subject, kind == Place ? tr("Place") : kind == ScreenOf || kind == OpenShare ? tr("Opening") : kind == Join || kind == Unplug ? tr("Lead") : kind == Plug ? tr("Socket") : kind == Flip || kind == Speed ? tr("Fan") : tr("Part"));
    name(m_value, kind == Place || kind == Swap ? tr("New part") : kind == Speed ? tr("Follows") : kind == ScreenOf ? tr("Screen") : kind == OpenShare ? tr("Panel") : kind == Lay ? tr("Stands on") : kind == Case ? tr("Case") : kind == Variant ? tr("Way") : kind == Plug ? tr("Plug") : kind == Join ? tr("Goes to") : tr("Change"));
    row(m_subject, kind != Lay && kind != Case && kind != Feet && kind != Cut);
    row(m_value, kind == Variant || kind == Plug || kind == Join || kind == Cut || kind == Swap || kind == Place || kind == Speed || kind == ScreenOf || kind == OpenShare || kind == Lay || kind == Case);
    row(m_share, kind == Speed || kind == OpenShare);
    row(m_axis, kind == Move);
    row(m_from, kind == Join);
    row(m_length, kind == Move || kind == Feet);
    row(m_watts, kind == Limit);
    fillValues();
}

void ChangeDialog::fillValues() {
    const QSignalBlocker block(m_value), block2(m_from);
    m_value->clear();
    m_from->clear();
    const auto* e = m_context.view().evaluation();
    const auto& shelf = m_context.document.project().shelf;
    const auto offer = [&](auto&& accepted, const std::string& except = {}) {
        for (const core::Part& p : shelf)
            if (accepted(p) && p.id != except)
                m_value->addItem(qs(p.name), qs(p.id));
        // Below the project's own parts the standard sizes, ready to be tried.
        bool first = m_value->count() > 0;
        for (const core::Part& p : m_standard) {
            if (!accepted(p))
                continue;
            if (std::exchange(first, false))
                m_value->insertSeparator(m_value->count());
            m_value->addItem(tr("%1 (standard size)").arg(qs(p.name)), qs(p.id));
        }
    };
    const core::Placed* placed = e ? e->build.at(subject()) : nullptr;
    switch (m_kind->currentIndex()) {
    case Swap:
        if (placed)
            offer([&](const core::Part& p) { return p.kind == placed->part->kind; }, placed->part->id);
        break;
    case Place:
        if (e)
            for (const core::MountChoice& m : core::mountsOf(e->build))
                if (m.path == subject())
                    offer([&](const core::Part& p) { return std::find(m.accepts.begin(), m.accepts.end(), p.kind) != m.accepts.end(); });
        break;
    case Speed:
        for (const auto& [words, mode] : {std::pair{tr("held at a share of full speed"), core::FanMode::Fixed}, std::pair{tr("follows the processor"), core::FanMode::Processor}, std::pair{tr("follows the card"), core::FanMode::Card}})
            m_value->addItem(words, static_cast<int>(mode));
        if (placed)
            setStored(m_share, placed->duty);
        break;
    case ScreenOf:
        for (const auto& [words, screen] : {std::pair{tr("off"), core::Screen::None}, std::pair{tr("fine screen"), core::Screen::Fine}, std::pair{tr("coarse screen"), core::Screen::Coarse}})
            m_value->addItem(words, static_cast<int>(screen));
        break;
    case OpenShare:
        for (const auto& [words, style] : {std::pair{tr("mesh"), core::OpeningStyle::Mesh}, std::pair{tr("printed grille"), core::OpeningStyle::Printed}, std::pair{tr("plain hole"), core::OpeningStyle::Plain}, std::pair{tr("closed"), core::OpeningStyle::Closed}})
            m_value->addItem(words, static_cast<int>(style));
        if (const core::Opening* o = e ? e->build.opening(subject()) : nullptr)
            setStored(m_share, o->perforation);
        break;
    case Lay:
        for (const auto& [words, side] : {std::pair{tr("on its left side"), core::Side::Left}, std::pair{tr("upright"), core::Side::Bottom}, std::pair{tr("on its right side"), core::Side::Right}, std::pair{tr("on its front"), core::Side::Front}, std::pair{tr("on its rear"), core::Side::Rear}, std::pair{tr("upside down"), core::Side::Top}})
            m_value->addItem(words, static_cast<int>(side));
        break;
    case Limit:
        if (placed)
            setStored(m_watts, std::max(1.0, placed->powerW() * 0.85));
        break;
    case Variant:
        m_value->addItem(tr("as the place is drawn"), QString());
        if (const core::Mount* m = e ? core::mountAt(e->build, subject()) : nullptr)
            for (const core::MountVariant& way : m->variants)
                m_value->addItem(qs(way.name), qs(way.id));
        break;
    case Plug:
        m_value->addItem(tr("straight plug"), QString());
        if (const core::Placed* at = e ? e->build.at(core::endName(subject()).mount) : nullptr)
            for (const core::Port& port : at->ports)
                if (port.id == core::endName(subject()).port)
                    for (const core::Direction& way : port.angledWays)
                        m_value->addItem(tr("angled, lead towards its own %1").arg(qs(core::directionWord(way))), qs(core::directionWord(way)));
        break;
    case Join:
        fillEnds();
        break;
    case Feet:
        if (e)
            setStored(m_length, e->fit.feetMm);
        break;
    case Cut:
        for (const core::Modification& m : e ? e->build.caseSpec().modifications : std::vector<core::Modification>{})
            m_value->addItem(qs(m.name), qs(m.id));
        break;
    case Case:
        offer([](const core::Part& p) { return p.kind == PartKind::Case; });
        break;
    default: break;
    }
    preview();
}

/// Sockets a cable or adapter can draw from, and plugs it can serve.
void ChangeDialog::fillEnds() {
    const auto* e = m_context.view().evaluation();
    const core::Part* part = m_context.document.project().part(subject());
    if (!e || !part)
        return;
    m_from->addItem(tr("whatever is free"), QString());
    const auto name = [&](const core::rules::Holder& h, const std::string& kind) { return QPair(tr("%1, %2").arg(qs(h.name), qs(kind)), qs(h.mount + ":" + kind)); };
    for (const auto& socket : e->wiring.ports.sockets)
        if (!socket.giver.isLead && (part->needs.empty() || part->needs.contains(socket.kind)))
            if (const auto [text, key] = name(socket.giver, socket.kind); m_from->findData(key) < 0)
                m_from->addItem(text, key);
    for (const auto& need : e->wiring.ports.needs)
        if (!need.taker.isLead && (part->gives.empty() || part->gives.contains(need.kind)))
            if (const auto [text, key] = name(need.taker, need.kind); m_value->findData(key) < 0)
                m_value->addItem(text, key);
}

std::optional<core::Change> ChangeDialog::change() const {
    const std::string of = subject(), part = m_value->currentData().toString().toStdString();
    const int value = m_value->currentData().toInt(), kind = m_kind->currentIndex();
    const bool needsSubject = kind != Lay && kind != Case && kind != Feet && kind != Cut;
    if ((kind == Join || kind == Cut) && part.empty())
        return std::nullopt;
    if ((needsSubject && of.empty()) || ((kind == Swap || kind == Place || kind == Case) && part.empty()))
        return std::nullopt;
    switch (kind) {
    case Swap: return core::SwapPart{of, part};
    case Place: return core::PlacePart{part, of};
    case Remove: return core::RemovePart{of};
    case Flip: return core::FlipFan{of};
    case Speed: return core::SetFan{of, static_cast<core::FanMode>(value), stored(m_share)};
    case ScreenOf: return core::SetScreen{of, static_cast<core::Screen>(value)};
    case OpenShare: return core::SetOpening{of, static_cast<core::OpeningStyle>(value), stored(m_share)};
    case Move: return core::MovePart{of, static_cast<core::Axis>(m_axis->currentIndex()), core::Length::fromMm(stored(m_length))};
    case Lay: return core::Orient{static_cast<core::Side>(value)};
    case Limit: return core::LimitPower{of, stored(m_watts)};
    case Case: return core::SetCase{part};
    case Variant: return core::ChooseVariant{of, part};
    case Plug: {
        const core::EndName end = core::endName(of);
        const auto way = core::directionFromWord(part);
        return core::SetPlug{end.mount, end.port, way ? core::PlugStyle::Angled : core::PlugStyle::Straight, way.value_or(core::Direction{core::Axis::Y, 1})};
    }
    case Join: return core::Connect{of, m_from->currentData().toString().toStdString(), {part}};
    case Unplug: return core::Disconnect{of.substr(0, of.find('|')), of.substr(of.find('|') + 1)};
    case Feet: return core::SetFeet{stored(m_length)};
    case Cut: return core::Modify{part};
    default: return std::nullopt;
    }
}

void ChangeDialog::preview() {
    const auto wanted = change();
    m_buttons->button(QDialogButtonBox::Ok)->setEnabled(wanted.has_value());
    if (!wanted)
        return m_preview->setText(tr("There is nothing to choose here. Parts come onto the shelf with Add a part (Ctrl+Shift+A)."));
    const View v = m_context.view();
    const std::string id = nextRevisionId(v.project());
    const core::Project with = withParts(), after = Document::withRevision(with, id, m_parent, changes());
    const auto then = core::stages::evaluate(after, id);
    QString text = QStringLiteral("<b>%1</b><br>").arg(qs(core::describe(*wanted, with, m_parent)).toHtmlEscaped());
    if (!then) {
        m_buttons->button(QDialogButtonBox::Ok)->setEnabled(false);
        return m_preview->setText(text + qs(then.error().text()).toHtmlEscaped());
    }
    const auto* now = v.evaluation();
    QStringList lines;
    if (now && !then->fit.gaps.empty() && !now->fit.gaps.empty())
        lines << tr("tightest gap %1 (was: %2)").arg(qs(core::explain::marginText(core::fit::tightestMm(then->fit), v.show)), qs(core::explain::marginText(core::fit::tightestMm(now->fit), v.show)));
    if (now)
        for (const auto& part : then->air.parts)
            if (const auto* before = now->air.part(part.id); before && (part.kind == PartKind::Processor || part.kind == PartKind::Card)) {
                const double d = part.temperatureC - before->temperatureC;
                // Predicted changes carry 3 K; below 1.5 K they tell nothing.
                lines << tr("%1 %2 %3%4").arg(qs(part.name), v.signedNumber(Quantity::TemperatureDifference, d), v.unit(Quantity::TemperatureDifference), (std::abs(d) < 1.5 ? tr(", within ±%1") : tr(" ±%1")).arg(v.text(Quantity::TemperatureDifference, 3)));
            }
    if (now)
        lines << tr("noise %1 dB ±2").arg(qs(core::withSign(then->noise.totalDba - now->noise.totalDba, 1)));
    if (now) {
        const auto marks = core::verdict::markChanges(after, *now, *then);
        lines << (marks.empty() ? tr("no mark changes") : counted(static_cast<qsizetype>(marks.size()), tr("1 mark changes:"), tr("%1 marks change:")));
        for (const auto& change : marks)
            lines << QStringLiteral("\u2013 ") + qs(core::verdict::textOf(change));
    }
    m_preview->setText(text + lines.join(QLatin1Char('\n')).toHtmlEscaped().replace(QLatin1Char('\n'), QStringLiteral("<br>")));
}

core::Result<void> ChangeDialog::apply() {
    const auto wanted = change();
    if (!wanted)
        return core::problem("Change", "nothing is chosen", "choose what to change");
    Document& document = m_context.document;
    const core::Project with = withParts();
    const std::size_t known = document.project().shelf.size();
    QUndoStack& stack = document.undoStack();
    stack.beginMacro(tr("New revision"));
    core::Result<std::string> made = core::problem({}, {});
    core::Result<void> shelved = with.shelf.size() == known ? core::Result<void>{} : document.edit(tr("Standard sizes"), [&](core::Project& p) { p.shelf = with.shelf; });
    made = shelved ? document.newRevision(m_parent, changes(), m_note->text().toStdString()) : core::Result<std::string>(tl::make_unexpected(shelved.error()));
    stack.endMacro();
    if (!made) {
        stack.undo(); // the parts alone are of no use
        return tl::make_unexpected(made.error());
    }
    return {};
}

std::vector<core::Change> ChangeDialog::changes() const {
    std::vector<core::Change> all = m_stated;
    if (const auto wanted = change())
        all.push_back(*wanted);
    return all;
}

core::Project ChangeDialog::withParts() const {
    core::Project project = m_context.document.project();
    const auto named = [](const core::Change& change) {
        return std::visit([](const auto& c) -> std::string {
            if constexpr (requires { c.part; })
                return c.part;
            else
                return {};
        }, change);
    };
    for (const core::Part& part : m_standard)
        if (const auto all = changes(); !project.part(part.id) && std::any_of(all.begin(), all.end(), [&](const core::Change& c) { return named(c) == part.id; }))
            project.shelf.push_back(part);
    return project;
}

void ChangeDialog::oneMore() {
    if (!fieldsTaken())
        return;
    const auto wanted = change();
    if (!wanted)
        return say(tr("Nothing is chosen yet that could be kept."));
    const core::Project with = withParts();
    const std::string id = nextRevisionId(with);
    if (const auto tried = core::resolve(Document::withRevision(with, id, m_parent, changes()), id); !tried)
        return say(qs(tried.error().text()));
    say({});
    m_stated.push_back(*wanted);
    showStated();
    preview();
}

void ChangeDialog::showStated() {
    QStringList words;
    const core::Project with = withParts();
    for (const core::Change& c : m_stated)
        words << qs(core::describe(c, with, m_parent));
    m_statedWords->setText(tr("So far: %1").arg(words.join(QStringLiteral(", "))));
    m_statedWords->setVisible(!words.isEmpty());
}

} // namespace app
