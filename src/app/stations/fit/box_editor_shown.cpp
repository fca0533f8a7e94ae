// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/fit/box_editor.h"
#include "app/ui/fields/number_box.h"
#include "core/model/cutout_edits.h"
#include "store/struct_json.h"

#include <QScopedValueRollback>

#include <algorithm>

// What the editor shows of the case: its things, the form of one of them, and the end that was pulled last.
namespace app {
using core::Axis;
using core::Quantity;
using core::box::Item;
using core::box::Kind;

namespace {
QString kindName(Kind kind) {
    return kind == Kind::Walls     ? QObject::tr("Walls and feet")
           : kind == Kind::Chamber ? QObject::tr("Chambers")
           : kind == Kind::Vent    ? QObject::tr("Vents and holes")
                                   : QObject::tr("Places");
}
QString axisEnd(Axis axis, bool high) {
    return axis == Axis::X   ? (high ? QObject::tr("right end") : QObject::tr("left end"))
           : axis == Axis::Y ? (high ? QObject::tr("rear end") : QObject::tr("front end"))
                             : (high ? QObject::tr("upper end") : QObject::tr("lower end"));
}
QString axisFrom(Axis axis, bool high) {
    return axis == Axis::X   ? (high ? QObject::tr("from the right") : QObject::tr("from the left"))
           : axis == Axis::Y ? (high ? QObject::tr("from the rear") : QObject::tr("from the front"))
                             : (high ? QObject::tr("from the top") : QObject::tr("from the floor"));
}
} // namespace

void BoxEditor::fillList() {
    m_items.clear();
    std::vector<BoxThings::Row> rows;
    if (const core::Part* part = casePart()) {
        m_items = m_build ? core::box::thingsOf(*part, *m_build) : core::box::itemsOf(*part);
        // What stands at a place and can be pulled is an inner panel to who builds the box; cut-outs are below theirs.
        std::stable_partition(m_items.begin(), m_items.end(), [&](const Item& item) {
            return item.kind != Kind::Place || (m_build && core::box::panelOf(*part, *m_build, item));
        });
        for (const Item& item : m_items)
            rows.push_back(listed(item));
    }
    const auto chosen = m_item ? std::find(m_items.begin(), m_items.end(), *m_item) : m_items.end();
    m_list->fill(rows, chosen == m_items.end() ? -1 : static_cast<int>(chosen - m_items.begin()));
}

BoxThings::Row BoxEditor::listed(const Item& item) const {
    const core::Part& part = *casePart();
    const View v = m_context.view();
    const core::Placed* panel = m_build ? core::box::panelOf(part, *m_build, item) : nullptr;
    const bool hole = item.kind == Kind::Cutout;
    std::array<double, 3> size{};
    std::array<bool, 3> told{};
    const auto e = hole ? core::box::cutoutExtent(*panel, item.hole) : core::box::extentOf(part, item);
    for (std::size_t a = 0; a < 3; ++a) {
        const auto axis = static_cast<Axis>(a);
        size[a] = panel && !hole ? panel->highAt[a].mm() - panel->lowAt[a].mm() : e.high[a] - e.low[a];
        told[a] = hole                       ? core::box::isAcross(*panel, item.hole, axis)
                  : panel                    ? true
                  : item.kind == Kind::Place ? false
                  : item.kind == Kind::Vent  ? core::box::canResize(part, item, axis)
                                             : true;
    }
    QStringList words;
    for (std::size_t a = 0; a < 3; ++a)
        if (told[a])
            words << digits(v.show.value(Quantity::Length, size[a]), v.show.units().inch ? 2 : 0);
    return {panel ? tr("Inner panels and made parts") : kindName(item.kind),
            hole ? tr("cut-out %1").arg(item.hole + 1) : qs(core::box::nameOf(part, item)),
            words.join(QStringLiteral(" \u00d7 ")), hole};
}

/// What stands in the form is this case already: it keeps its page and its focus.
bool BoxEditor::formHolds(const core::Part* part) const {
    if (!part)
        return false;
    auto shown = store::partFrom(m_form->value());
    if (!shown)
        return false;
    shown->id = part->id; // a logged case became one of its own
    return *shown == *part;
}

/// The form has a vent as the case states it; what changes of the line of revisions made of it is said beside.
void BoxEditor::sayWhatRevisionsMade() {
    const core::Part* part = casePart();
    const auto* spec = part ? std::get_if<core::CaseSpec>(&part->spec) : nullptr;
    const core::Opening* own = spec && m_item && m_item->kind == Kind::Vent && m_item->index < spec->openings.size()
                                   ? &spec->openings[m_item->index]
                                   : nullptr;
    const core::Opening* now = own && m_build ? m_build->opening(own->id) : nullptr;
    QStringList made;
    const View v = m_context.view();
    if (now && now->style != own->style)
        made << v.words(core::term(core::styleWord(now->style)));
    if (now && now->perforation != own->perforation)
        made << tr("%1 open").arg(v.text(Quantity::Share, now->perforation));
    if (now && now->screen != own->screen)
        made << tr("screen %1").arg(v.words(core::term(core::screenWord(now->screen))));
    if (now && now->fouling != own->fouling)
        made << tr("fouling %1").arg(digits(now->fouling, 1));
    m_changed->setVisible(!made.isEmpty());
    m_changed->setText(tr("In %1 changes made it: %2. Below stands the case itself; what is left alone there stays as "
                          "they made it, what is typed goes before them.")
                           .arg(qs(m_context.document.revision()), made.join(QStringLiteral(", "))));
}

void BoxEditor::showForm() {
    sayWhatRevisionsMade();
    const core::Part* part = casePart();
    if (!part || !m_item)
        return;
    std::set<std::string> without{"id",    "kind", "bodies",  "mounts", "gives",    "needs",
                                  "ports", "link", "power_w", "step",   "fasteners"};
    for (const core::FieldOutline& f : StructForm::outlineOf("part")->fields)
        if (f.holds == core::Holds::Struct && core::kindFromWord(f.about.key) &&
            std::string_view(f.about.key) != "case")
            without.insert(f.about.key);
    m_form->start("part", qs(part->name), store::partJson(*part), without);
    if (const core::Part* made = m_item->kind == Kind::Cutout ? panelPart() : nullptr) {
        const auto at = core::box::cutoutsOf(*made)[m_item->hole];
        m_form->start("part", qs(made->name), store::partJson(*made), without);
        m_form->go({{"bodies", static_cast<int>(at.body)}, {"cutouts", static_cast<int>(at.cutout)}});
        return;
    }
    const int index = static_cast<int>(m_item->index);
    if (m_item->kind == Kind::Place)
        m_form->go({{"mounts", index}});
    else if (m_item->kind != Kind::Walls)
        m_form->go({{"case", -1}, {m_item->kind == Kind::Chamber ? "chambers" : "openings", index}});
}

/// The end that was pulled last, from either side: typed over at once.
void BoxEditor::showEnds() {
    const core::Part* part = casePart();
    const bool there = part && m_item && m_sheet->m_case;
    for (NumberBox* b : {m_fromLow, m_fromHigh})
        b->setEnabled(there);
    if (!there)
        return;
    const auto& side = m_sheet->sides()[static_cast<std::size_t>(std::max(0, m_grip.view))];
    Axis axis = m_grip.up ? side.up : side.across;
    if (const auto free = m_sheet->freeAxes(*m_item); std::find(free.begin(), free.end(), axis) == free.end())
        axis = free.empty() ? axis : free.back();
    const auto e = m_sheet->extentOf(*m_item);
    const std::size_t a = core::index(axis);
    const bool high = (m_grip.up ? m_grip.up : m_grip.across) >= 0;
    const double at = high ? e.high[a] : e.low[a], whole = part->size[a].value.mm();
    const View v = m_context.view();
    const QScopedValueRollback quiet(m_filling, true);
    const QString end = axisEnd(axis, high), whose = m_sheet->nameOf(*m_item);
    m_endLabel->setText(end.left(1).toUpper() + end.mid(1));
    for (const auto& [box, mm, words] :
         {std::tuple{m_fromLow, at, axisFrom(axis, false)}, std::tuple{m_fromHigh, whole - at, axisFrom(axis, true)}}) {
        box->setDecimals(v.show.units().inch ? 3 : 1);
        box->setSuffix(QStringLiteral("\u00a0") + v.unit(Quantity::Length));
        box->setValue(v.show.value(Quantity::Length, mm));
        box->setToolTip(words);
        (box == m_fromLow ? m_lowLabel : m_highLabel)->setText(words);
        box->setAccessibleName(QStringLiteral("%1, %2, %3").arg(whose, end, words));
        box->setProperty("axis", static_cast<int>(axis));
        box->setProperty("high", high);
    }
}

/// The state that "what this changes" compares with.
void BoxEditor::remember() {
    if (!m_base) // within a drag it stays
        m_changes->remember();
}

} // namespace app
