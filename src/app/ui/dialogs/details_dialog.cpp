// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/dialogs/details_dialog.h"

#include "app/model/case_edit.h"
#include "store/struct_json.h"

#include <QPushButton>
#include <QShortcut>

namespace app {
namespace {
/// What a field of a part can name in the project.
QStringList namesIn(const core::Project& project, const core::Part& part, core::Names names) {
    QStringList all;
    const auto add = [&](const std::string& name) {
        if (!all.contains(qs(name)))
            all << qs(name);
    };
    using core::Names;
    const auto* spec = std::get_if<core::CaseSpec>(&part.spec);
    if (names == Names::Plug)
        for (const core::Part& p : project.shelf)
            for (const auto* kinds : {&p.gives, &p.needs})
                for (const auto& [kind, n] : *kinds)
                    add(kind);
    if (names == Names::Chamber && spec)
        for (const core::Chamber& c : spec->chambers)
            add(c.id);
    if (names == Names::Place)
        for (const core::Mount& m : part.mounts)
            add(m.id);
    all.sort();
    return all;
}
} // namespace

DetailsDialog::DetailsDialog(Context& context, std::string part, QWidget* parent)
    : FormDialog(context, tr("All details"), parent), m_part(std::move(part)) {
    setObjectName(QStringLiteral("details"));
    const core::Part& p = *context.document.project().part(m_part);
    m_editor = new StructEditor(context, this);
    m_editor->form()->offers = [this](core::Names names) {
        const core::Project& project = m_context.document.project();
        const core::Part* now = project.part(m_part);
        return now ? namesIn(project, *now, names) : QStringList();
    };
    std::set<std::string> without{"id", "kind"};
    for (const core::FieldOutline& f : StructForm::outlineOf("part")->fields) // what other kinds have
        if (f.holds == core::Holds::Struct && core::kindFromWord(f.about.key) && f.about.key != core::kindWord(p.kind))
            without.insert(f.about.key);
    m_sheet = new PartSheet(context, this);
    m_hint = new QLabel(this);
    auto* drawing = new QVBoxLayout;
    drawing->addWidget(m_sheet, 1);
    drawing->addWidget(m_hint);
    auto* row = new QHBoxLayout;
    row->addLayout(drawing, 5);
    row->addWidget(m_editor, 6);
    m_layout->insertLayout(0, row, 1);
    // A case is drawn and edited on its own sheet: Edit the box.
    m_sheet->setVisible(p.kind != core::PartKind::Case);
    m_hint->setVisible(p.kind != core::PartKind::Case);
    m_editor->start("part", qs(p.name), store::partJson(p), without);
    m_now = m_editor->value();
    connect(m_editor, &StructEditor::refused, this, &DetailsDialog::say);
    connect(m_editor, &StructEditor::edited, this, &DetailsDialog::followEdit);
    connect(m_editor, &StructEditor::went, this, &DetailsDialog::followPage);
    m_sheet->show(p);
    connectSheet();
    auto* undo = new QShortcut(QKeySequence::Undo, this);
    connect(undo, &QShortcut::activated, this, &DetailsDialog::takeBack);
    m_buttons->button(QDialogButtonBox::Ok)->setText(tr("Save"));
    resize(p.kind == core::PartKind::Case ? 560 : 960, 640);
}

void DetailsDialog::connectSheet() {
    using core::own::Item;
    using core::own::Kind;
    const auto standing = tr("J and K: next thing, arrows move it, V: the next side, Ctrl+Z takes back");
    m_hint->setText(standing);
    connect(m_sheet, &PartSheet::hinted, this,
            [this, standing](const QString& words) { m_hint->setText(words.isEmpty() ? standing : words); });
    connect(m_sheet, &PartSheet::chose, this, &DetailsDialog::openPageOf);
    connect(m_sheet, &PartSheet::dragBegan, this, [this] {
        m_base = m_editor->value();
        m_dragging = true;
    });
    connect(m_sheet, &PartSheet::draggedBy, this, [this](const std::array<double, 3>& mm) {
        change(m_base, [&](core::Part& p) { return core::own::moveBy(p, *m_sheet->selected(), mm); });
    });
    connect(m_sheet, &PartSheet::dragEnded, this, [this](bool taken) {
        m_dragging = false;
        const store::Json now = taken ? m_editor->value() : m_base;
        if (taken)
            m_steps.push_back(m_base); // a drag is one step
        m_now = now;
        if (!taken)
            m_editor->set(now);
    });
    connect(m_sheet, &PartSheet::nudged, this, [this](const std::array<double, 3>& mm) {
        change(m_editor->value(), [&](core::Part& p) { return core::own::moveBy(p, *m_sheet->selected(), mm); });
    });
    connect(m_sheet, &PartSheet::cornerWanted, this, [this](const Item& after) {
        std::optional<Item> made;
        change(m_editor->value(), [&](core::Part& p) -> core::Result<void> {
            auto corner = core::own::addCorner(p, after.index, after.kind == Kind::Corner ? after.corner : 0);
            if (!corner)
                return tl::make_unexpected(corner.error());
            made = *corner;
            return {};
        });
        if (made)
            m_sheet->select(made);
    });
    connect(m_sheet, &PartSheet::removeWanted, this, [this] {
        const Item item = *m_sheet->selected();
        change(m_editor->value(), [&](core::Part& p) { return core::own::remove(p, item); });
    });
}

/// What is wrong is said at once, and loses nothing: the drawing stays at the last that could be read.
void DetailsDialog::followEdit() {
    const auto read = store::partFrom(m_editor->value());
    say(read ? QString() : qs(read.error().text()));
    if (const auto drawn = store::unfinishedPart(m_editor->value()))
        m_sheet->show(*drawn);
    if (m_dragging || m_editor->value() == m_now)
        return;
    m_steps.push_back(std::exchange(m_now, m_editor->value()));
}

/// What is open in the fields is chosen on the drawing.
void DetailsDialog::followPage() {
    const auto& path = m_editor->path();
    const auto kind = path.empty() || path[0].index < 0 ? std::optional<core::own::Kind>{}
                      : path[0].key == "bodies"         ? core::own::Kind::Body
                      : path[0].key == "ports"          ? core::own::Kind::Plug
                      : path[0].key == "mounts"         ? core::own::Kind::Place
                                                        : std::optional<core::own::Kind>{};
    const auto& now = m_sheet->selected();
    if (!kind || (now && now->kind == core::own::Kind::Corner && *kind == core::own::Kind::Body &&
                  now->index == static_cast<std::size_t>(path[0].index)))
        return;
    m_sheet->select(core::own::Item{*kind, static_cast<std::size_t>(path[0].index)});
}

void DetailsDialog::openPageOf(const core::own::Item& item) {
    using core::own::Kind;
    const char* key = item.kind == Kind::Plug ? "ports" : item.kind == Kind::Place ? "mounts" : "bodies";
    const StructEditor::Step step{key, static_cast<int>(item.index)};
    if (m_editor->path().empty() || !(m_editor->path().front() == step))
        m_editor->go({step});
}

void DetailsDialog::change(const store::Json& base, const std::function<core::Result<void>(core::Part&)>& edit) {
    auto read = store::unfinishedPart(base);
    const auto done = read ? edit(*read) : core::Result<void>(tl::make_unexpected(read.error()));
    if (!done)
        return say(qs(done.error().text()));
    m_editor->set(store::partJson(*read));
}

void DetailsDialog::takeBack() {
    if (m_steps.empty())
        return;
    m_now = m_steps.back();
    m_steps.pop_back();
    m_editor->set(m_now);
}

core::Result<void> DetailsDialog::apply() {
    auto read = store::partFrom(m_editor->value());
    if (!read)
        return tl::make_unexpected(read.error());
    return changePart(m_context.document, tr("Details of %1").arg(qs(read->name)), std::move(*read));
}

} // namespace app

#include "moc_details_dialog.cpp"
