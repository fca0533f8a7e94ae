// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/dialogs/details_dialog.h"

#include "app/model/case_edit.h"
#include "store/struct_json.h"

#include <QPushButton>

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
    m_editor->start("part", qs(p.name), store::partJson(p), without);
    connect(m_editor, &StructEditor::refused, this, &DetailsDialog::say);
    connect(m_editor, &StructEditor::edited, this, [this] { // what is wrong is said at once, and loses nothing
        const auto read = store::partFrom(m_editor->value());
        say(read ? QString() : qs(read.error().text()));
    });
    m_layout->insertWidget(0, m_editor, 1);
    m_buttons->button(QDialogButtonBox::Ok)->setText(tr("Save"));
    resize(560, 640);
}

core::Result<void> DetailsDialog::apply() {
    auto read = store::partFrom(m_editor->value());
    if (!read)
        return tl::make_unexpected(read.error());
    return changePart(m_context.document, tr("Details of %1").arg(qs(read->name)), std::move(*read));
}

} // namespace app
