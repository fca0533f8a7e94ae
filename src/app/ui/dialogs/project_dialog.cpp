// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/dialogs/project_dialog.h"

#include "app/model/case_edit.h"
#include "core/rules/offers.h"
#include "store/struct_json.h"

#include <QPushButton>
#include <QTimer>

namespace app {
namespace {

/// What a field of the project can name, as the revision looked at has it.
QStringList namesNow(const Context& context, core::Names names) {
    QStringList all;
    const auto& project = context.document.project();
    const auto* e = context.view().evaluation();
    if (names == core::Names::Plug)
        for (const core::Part& p : project.shelf)
            for (const auto* kinds : {&p.gives, &p.needs})
                for (const auto& [kind, n] : *kinds)
                    if (!all.contains(qs(kind)))
                        all << qs(kind);
    if (e)
        for (const core::rules::Named& n :
             core::rules::nameable(project, e->build, e->wiring.ports, core::PlacePart{}, names))
            if (!n.value.empty())
                all << qs(n.value);
    return all;
}

/// What was built and logged, or validated, stays what it was.
core::Result<void> loggedStays(const core::Project& before, const core::Project& after) {
    for (const core::Part& part : before.shelf)
        if (const core::Part* now = after.part(part.id);
            part.kind == core::PartKind::Case && isLogged(before, part.id) && !(now && *now == part))
            return core::problem("shelf (" + part.id + ")", part.name + " was logged or validated as it is",
                                 "Edit the box (E): it makes a case and a revision of their own");
    for (const core::Revision& r : before.revisions) {
        const bool logged = r.validated || std::any_of(before.runs.begin(), before.runs.end(),
                                                       [&](const core::Run& run) { return run.revision == r.id; });
        const core::Revision* now = after.revision(r.id);
        if (!logged)
            continue;
        if (!now)
            return core::problem("revisions", r.id + " was logged or validated, and is gone", "leave it there");
        const auto line = core::lineage(before, r.id), then = core::lineage(after, r.id);
        const bool same = line && then &&
                          std::equal(line->begin(), line->end(), then->begin(), then->end(),
                                     [](const core::Revision* a, const core::Revision* b) {
                                         return a->id == b->id && a->changes == b->changes;
                                     });
        if (!same)
            return core::problem("revisions", r.id + " was logged or validated: what it was built of is not changed",
                                 "make a new revision from it (Ctrl+N)");
    }
    return {};
}

/// What both dialogs have: a hint, the pages, Save.
void layOut(QVBoxLayout* layout, StructEditor* editor, QDialogButtonBox* buttons) {
    auto* hint = new QLabel(
        QObject::tr("Open a list's item for its page; the line above leads back. Nothing is taken before Save."));
    hint->setWordWrap(true);
    layout->insertWidget(0, hint);
    layout->insertWidget(1, editor, 1);
    buttons->button(QDialogButtonBox::Ok)->setText(QObject::tr("Save"));
}

} // namespace

ProjectDialog::ProjectDialog(Context& context, const std::string& revision, QWidget* parent)
    : FormDialog(context, tr("All details of the project"), parent) {
    setObjectName(QStringLiteral("projectDetails"));
    const core::Project& project = context.document.project();
    m_editor = new StructEditor(context, this);
    m_editor->form()->offers = [this](core::Names names) { return namesNow(m_context, names); };
    m_editor->start("project", qs(project.name), store::headJson(project), {"id"});
    for (std::size_t i = 0; i < project.revisions.size(); ++i)
        if (project.revisions[i].id == revision)
            m_editor->go({{"revisions", static_cast<int>(i)}});
    connect(m_editor, &StructEditor::refused, this, &ProjectDialog::say);
    // A large project takes a while to be checked: once nothing was typed for a moment, and before it is saved.
    auto* pause = new QTimer(this);
    pause->setSingleShot(true);
    pause->setInterval(250);
    connect(m_editor, &StructEditor::edited, pause, qOverload<>(&QTimer::start));
    connect(pause, &QTimer::timeout, this, [this] {
        const auto read = store::projectFrom(m_editor->value(), m_context.document.project());
        say(read ? QString() : qs(read.error().text()));
    });
    layOut(m_layout, m_editor, m_buttons);
    resize(560, 640);
}

core::Result<void> ProjectDialog::apply() {
    auto read = store::projectFrom(m_editor->value(), m_context.document.project());
    if (!read)
        return tl::make_unexpected(read.error());
    if (auto kept = loggedStays(m_context.document.project(), *read); !kept)
        return kept;
    return m_context.document.edit(tr("Details of the project"), [&](core::Project& p) { p = *read; });
}

RunDialog::RunDialog(Context& context, std::string run, QWidget* parent)
    : FormDialog(context, tr("All details of a run"), parent), m_run(std::move(run)) {
    setObjectName(QStringLiteral("runDetails"));
    const core::Run& now = *context.document.project().run(m_run);
    m_editor = new StructEditor(context, this);
    m_editor->form()->offers = [this](core::Names names) { return namesNow(m_context, names); };
    // Where it came from, and that a device was simulated, is not for people to say.
    m_editor->start("run", qs(now.name), store::runJson(now), {"id", "source", "simulated", "file", "original"});
    connect(m_editor, &StructEditor::refused, this, &RunDialog::say);
    connect(m_editor, &StructEditor::edited, this, [this] {
        const core::Run* base = m_context.document.project().run(m_run);
        const auto read = base ? store::runFrom(m_editor->value(), *base) : core::Result<core::Run>{};
        say(read ? QString() : qs(read.error().text()));
    });
    layOut(m_layout, m_editor, m_buttons);
    resize(520, 600);
}

core::Result<void> RunDialog::apply() {
    const core::Run* base = m_context.document.project().run(m_run);
    if (!base)
        return core::problem(m_run, "is not there any more", "close this and choose it again");
    auto read = store::runFrom(m_editor->value(), *base);
    if (!read)
        return tl::make_unexpected(read.error());
    return m_context.document.edit(tr("Details of %1").arg(qs(base->name)), [&](core::Project& p) {
        if (core::Run* run = p.runs.edit(m_run))
            *run = std::move(*read);
    });
}

} // namespace app

#include "moc_project_dialog.cpp"
