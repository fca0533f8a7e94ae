// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/dialogs/change_dialog.h"

#include "core/air/bands.h"
#include "core/verdict/compare.h"

#include <QScrollArea>

#include "app/ui/dialogs/standard_parts.h"
#include "core/base/text.h"
#include "core/model/choices.h"
#include "core/model/facts.h"
#include "core/rules/offers.h"

#include <QPushButton>

namespace app {
using core::PartKind;
using core::Quantity;

namespace {

/// A change of the kind with this index in core::Change, as it is made.
core::Change blank(int kind) {
    core::Change change;
    int i = 0;
    core::forEachChange([&]<class C>() {
        if (i++ == kind)
            change = C{};
    });
    return change;
}
template <class C> int kindOf() { return static_cast<int>(core::Change(C{}).index()); }

} // namespace

ChangeDialog::ChangeDialog(Context& context, const core::Thing& about, QWidget* parent)
    : FormDialog(context, tr("New revision"), parent), m_parent(context.document.revision()),
      m_rows(*this, [this](core::Names names) { return offers(names); }) {
    auto* head = new QLabel(tr("%1 from %2. State what changes; its words are made from it.")
                                .arg(qs(nextRevisionId(context.document.project())), qs(m_parent)),
                            this);
    head->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    m_layout->insertWidget(0, head);
    m_kind = addChoice(tr("Change"), QStringLiteral("kind"));
    core::forEachChange([&]<class C>() {
        m_kind->addItem(FieldRows::said(core::ChangeWords<C>::label));
        m_kind->setItemData(m_kind->count() - 1, FieldRows::said(core::ChangeWords<C>::about), Qt::ToolTipRole);
    });
    m_kind->setCurrentIndex(kindOf<core::SwapPart>());
    m_note = addText(tr("Note"), QStringLiteral("note"));
    auto* more = new QPushButton(tr("And one more change"), this);
    more->setObjectName(QStringLiteral("oneMore"));
    more->setAutoDefault(false);
    more->setToolTip(tr("Keeps this change and states another one of the same revision. One change at a time tells "
                        "more in a comparison."));
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
    connect(m_kind, &QComboBox::currentIndexChanged, this, &ChangeDialog::askForKind);
    m_rows.changed = [this] { follow(); };
    connect(&m_context.document.stages(), &StageStore::published, this, [this](const StageStore::Key& key) {
        if (m_tried && key.stage == core::stages::Stage::Preview)
            tellPreview();
    });
    startWith(about);
}

/// The change that suits what is selected, about that.
void ChangeDialog::startWith(const core::Thing& about) {
    const QSignalBlocker block(m_kind);
    if (std::holds_alternative<core::FanRef>(about))
        m_kind->setCurrentIndex(kindOf<core::SetFan>());
    else if (std::holds_alternative<core::OpeningRef>(about))
        m_kind->setCurrentIndex(kindOf<core::SetScreen>());
    m_change = blank(m_kind->currentIndex());
    const bool is = std::holds_alternative<core::FanRef>(about) || std::holds_alternative<core::OpeningRef>(about) ||
                    std::holds_alternative<core::PartRef>(about);
    if (is)
        std::visit(
            [&](auto& c) {
                if constexpr (requires { c.mount; })
                    c.mount = core::subjectOf(about);
                else if constexpr (requires { c.opening; })
                    c.opening = core::subjectOf(about);
            },
            m_change);
    ask();
}

void ChangeDialog::askForKind() {
    m_change = blank(m_kind->currentIndex());
    ask();
}

/// Rows for the change as it stands.
void ChangeDialog::ask() {
    m_rows.clear();
    m_rows.startAt(1); // below the kind
    std::visit([&](auto& c) { m_rows.add(c); }, m_change);
    m_subject = {};
    follow();
}

/// What stands in the rows, brought together: each list offers what suits the rows above it, and another subject starts
/// with the figures that hold for it now.
void ChangeDialog::follow() {
    const auto take = [&] { std::visit([&](auto& c) { m_rows.take(c); }, m_change); };
    take();
    m_rows.offerAnew();
    take();
    const std::string subject = std::visit(
        [](const auto& c) -> std::string {
            if constexpr (requires { c.mount; })
                return c.mount;
            else if constexpr (requires { c.opening; })
                return c.opening;
            else if constexpr (std::is_same_v<std::decay_t<decltype(c)>, core::RouteLead>)
                return c.part + " " + c.from + " " + c.to;
            else
                return "the case";
        },
        m_change);
    const auto* e = m_context.view().evaluation();
    if (e && std::exchange(m_subject, subject) != subject) {
        m_change = core::rules::asItIs(e->build, m_change);
        std::visit([&](auto& c) { m_rows.show(c); }, m_change);
    }
    preview();
}

std::vector<FieldRows::Offer> ChangeDialog::offers(core::Names names) {
    std::visit([&](auto& c) { m_rows.take(c); }, m_change); // of the rows above
    std::vector<FieldRows::Offer> all;
    if (const auto* e = m_context.view().evaluation())
        for (const core::rules::Named& n : core::rules::nameable(m_context.document.project(), e->build,
                                                                 e->wiring.ports, m_change, names, m_standard))
            all.push_back({qs(n.value), n.isStandard ? tr("%1 (standard size)").arg(qs(n.name)) : qs(n.name)});
    return all;
}

std::optional<core::Change> ChangeDialog::change() const {
    // A list with nothing in it: there is nothing to choose.
    for (const QComboBox* box : findChildren<QComboBox*>())
        if (box != m_kind && !box->count())
            return std::nullopt;
    core::Change change = m_change;
    std::visit([&](auto& c) { m_rows.take(c); }, change);
    return change;
}

void ChangeDialog::preview() {
    const bool wanted = change().has_value();
    m_buttons->button(QDialogButtonBox::Ok)->setEnabled(wanted);
    m_tried.reset();
    if (!wanted)
        return m_preview->setText(
            tr("There is nothing to choose here. Parts come onto the shelf with Add a part (Ctrl+Shift+A)."));
    const core::Project with = withParts();
    m_triedId = nextRevisionId(with);
    m_tried = std::make_shared<core::Project>(Document::withRevision(with, m_triedId, m_parent, changes()));
    tellPreview();
}

/// What is there of it; the rest follows when it is worked out.
void ChangeDialog::tellPreview() {
    const auto answer = m_context.document.results().preview(m_tried, m_triedId, m_parent);
    const bool ready = answer.standing == Standing::Ready;
    const QString head =
        QStringLiteral("<b>%1</b><br>")
            .arg(m_context.view().words(core::describe(changes().back(), *m_tried, m_parent)).toHtmlEscaped());
    const auto say = [&](const QString& text) {
        m_preview->setText(head + text.toHtmlEscaped().replace(QLatin1Char('\n'), QStringLiteral("<br>")));
    };
    const std::string why = ready ? answer.value->problem : answer.why;
    m_buttons->button(QDialogButtonBox::Ok)->setEnabled(why.empty());
    if (!why.empty())
        return say(qs(why));
    m_preview->setEnabled(ready); // of before, and grey, while it is worked out
    if (ready)
        say(differences(*answer.value).join(QLatin1Char('\n')));
    else if (m_preview->text().isEmpty())
        say(tr("Working out what it does ..."));
}

QStringList ChangeDialog::differences(const Document::Result& look) const {
    const View v = m_context.view();
    const auto& then = look.evaluation;
    const auto* now = v.evaluation();
    QStringList lines;
    if (!now)
        return lines;
    if (!then->fit.gaps.empty() && !now->fit.gaps.empty())
        lines << tr("tightest gap %1 (was: %2)")
                     .arg(v.words(core::explain::marginText(core::fit::tightestMm(then->fit))),
                          v.words(core::explain::marginText(core::fit::tightestMm(now->fit))));
    for (const auto& part : then->air.parts)
        if (const auto* before = now->air.part(part.id);
            before && (part.kind == PartKind::Processor || part.kind == PartKind::Card)) {
            const double d = part.temperatureC - before->temperatureC;
            const auto difference = core::air::differenceOf(now->air, then->air, part.id);
            const double band = difference ? difference->bandK : part.bandK;
            lines << tr("%1 %2 %3%4")
                         .arg(qs(part.name), v.signedNumber(Quantity::TemperatureDifference, d),
                              v.unit(Quantity::TemperatureDifference),
                              (std::abs(d) < band ? tr(" ±%1, uncertain") : tr(" ±%1"))
                                  .arg(v.text(Quantity::TemperatureDifference, band)));
        }
    lines << tr("noise %1 dB ±2").arg(digits(then->noise.totalDba - now->noise.totalDba, 1, true));
    const auto marks = core::verdict::markChanges(*look.project, *now, *then);
    lines << (marks.empty()
                  ? tr("no mark changes")
                  : counted(static_cast<qsizetype>(marks.size()), tr("1 mark changes:"), tr("%1 marks change:")));
    for (const auto& change : marks)
        lines << QStringLiteral("\u2013 ") + v.words(core::verdict::textOf(change));
    return lines;
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
    core::Result<void> shelved =
        with.shelf.size() == known
            ? core::Result<void>{}
            : document.edit(tr("Standard sizes"), [&](core::Project& p) { p.shelf = with.shelf; });
    made = shelved ? document.newRevision(m_parent, changes(), m_note->text().toStdString())
                   : core::Result<std::string>(tl::make_unexpected(shelved.error()));
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
    for (const core::Part& part : m_standard)
        if (const auto all = changes();
            !project.part(part.id) &&
            std::any_of(all.begin(), all.end(), [&](const core::Change& c) { return core::changedPart(c) == part.id; }))
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
        words << m_context.view().words(core::describe(c, with, m_parent));
    m_statedWords->setText(tr("So far: %1").arg(words.join(QStringLiteral(", "))));
    m_statedWords->setVisible(!words.isEmpty());
}

} // namespace app

#include "moc_change_dialog.cpp"
