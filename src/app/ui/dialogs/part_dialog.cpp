// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/dialogs/part_dialog.h"

#include "app/model/own_shelf.h"
#include "app/ui/dialogs/standard_parts.h"
#include "core/model/choices.h"
#include "core/model/standard_sizes.h"
#include "store/files.h"
#include "store/project_json.h"

#include <QFile>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QListWidget>
#include <QPushButton>
#include <QStandardItemModel>

namespace app {

namespace {
constexpr int listRole = Qt::UserRole, indexRole = Qt::UserRole + 1;
enum List { Own, Standard, Blank, Kept };
using core::PartKind;

/// An empty part of each kind with the numbers a first try needs.
std::vector<core::Part> blankParts() {
    const auto part = [](PartKind kind, std::array<double, 3> size, core::Spec spec) {
        core::Part p{.id = std::string(core::kindWord(kind)),
                     .kind = kind,
                     .name = "New " + std::string(core::kindWord(kind)),
                     .spec = std::move(spec)};
        for (std::size_t i = 0; i < 3; ++i)
            p.size[i] = core::measureMm(size[i], core::Source::Sheet);
        return p;
    };
    return {part(PartKind::Board, {170, 170, 1.6}, core::BoardSpec{}),
            part(PartKind::Processor, {40, 40, 7}, core::ProcessorSpec{}),
            part(PartKind::Cooler, {94, 94, 47}, core::CoolerSpec{}),
            part(PartKind::Fan, {92, 92, 15}, core::FanSpec{}),
            part(PartKind::Card, {170, 111.15, 40}, core::CardSpec{}),
            part(PartKind::PowerSupply, {100, 125, 63.5}, core::PowerSupplySpec{}),
            part(PartKind::Drive, {69.85, 100.45, 7}, core::DriveSpec{.form = core::DriveForm::Inch25}),
            part(PartKind::Memory, {8, 133.35, 32}, core::MemorySpec{}),
            part(PartKind::Radiator, {120, 157, 27}, core::RadiatorSpec{}),
            part(PartKind::Made, {50, 50, 10}, core::MadeSpec{}),
            part(PartKind::Adapter, {0, 0, 0}, core::AdapterSpec{}),
            part(PartKind::Cable, {0, 0, 0}, core::CableSpec{})};
}
} // namespace

PartDialog::PartDialog(Context& context, QWidget* parent, const QString& search)
    : FormDialog(context, tr("Add a part"), parent) {
    if (auto parts = standardParts())
        m_standard = *parts;
    m_blank = blankParts();
    QString wrong;
    if (auto kept = ownParts(ownShelfFile(context.settings)))
        m_kept = *kept;
    else
        wrong = tr("Your own shelf is left out: %1").arg(qs(kept.error().text()));
    resize(700, 640);
    // The shelf at the left, the figures of the chosen part at the right.
    auto* columns = new QHBoxLayout;
    auto* left = new QVBoxLayout;
    m_search = new QLineEdit(this);
    m_search->setObjectName(QStringLiteral("search"));
    m_search->setPlaceholderText(tr("Search the shelf: fan, sfx, 2280 ..."));
    m_list = new QListWidget(this);
    m_list->setObjectName(QStringLiteral("shelf"));
    left->addWidget(m_search);
    left->addWidget(m_list, 1);
    auto* files = new QHBoxLayout;
    auto* import = new QPushButton(tr("Import parts ..."), this);
    auto* exported = new QPushButton(tr("Export shelf ..."), this);
    import->setAutoDefault(false);
    exported->setAutoDefault(false);
    files->addWidget(import);
    files->addWidget(exported);
    left->addLayout(files);
    connect(import, &QPushButton::clicked, this, [this] {
        const QString path = QFileDialog::getOpenFileName(this, tr("Import parts"), {}, tr("Parts (*.json)"));
        if (!path.isEmpty())
            if (const auto done = importShelf(path); !done)
                say(qs(done.error().text()));
    });
    connect(exported, &QPushButton::clicked, this, [this] {
        const QString path =
            QFileDialog::getSaveFileName(this, tr("Export shelf"), QStringLiteral("shelf.json"), tr("Parts (*.json)"));
        if (!path.isEmpty())
            if (const auto done = exportShelf(path); !done)
                say(qs(done.error().text()));
    });
    columns->addLayout(left, 2);
    columns->setSpacing(16);
    columns->addWidget(scrollFields(), 3);
    m_layout->insertLayout(0, columns, 1);
    m_place = addChoice(tr("Goes to"), QStringLiteral("place"));
    m_flow = addChoice(tr("Blows"), QStringLiteral("flow"));
    m_flow->addItems({tr("in"), tr("out")});
    m_formSize = new QLabel(this);
    m_formSize->setObjectName(QStringLiteral("formSize"));
    m_formSize->setWordWrap(true);
    m_form->addRow(m_formSize);
    m_buttons->button(QDialogButtonBox::Ok)->setText(tr("Add"));
    connect(m_search, &QLineEdit::textChanged, this, &PartDialog::fillList);
    connect(m_list, &QListWidget::currentRowChanged, this, &PartDialog::showPart);
    // Choosing is not adding: Enter and a double click go on to what must be said of the part.
    m_list->installEventFilter(this);
    connect(m_list, &QListWidget::itemDoubleClicked, this, &PartDialog::goToFields);
    connect(m_place, &QComboBox::currentIndexChanged, this, &PartDialog::showGhost);
    m_rows.changed = m_spec.changed = [this] { showGhost(); };
    m_search->setText(search);
    fillList();
    m_search->setFocus();
    say(wrong);
}

void PartDialog::goToFields() {
    if (auto* name = qobject_cast<QLineEdit*>(m_rows.field("name"))) {
        name->setFocus(Qt::TabFocusReason);
        name->selectAll();
    }
}

bool PartDialog::eventFilter(QObject* watched, QEvent* event) {
    if (watched == m_list && event->type() == QEvent::KeyPress)
        if (const int key = static_cast<QKeyEvent*>(event)->key(); key == Qt::Key_Return || key == Qt::Key_Enter) {
            goToFields();
            return true;
        }
    return FormDialog::eventFilter(watched, event);
}

void PartDialog::fillList() {
    m_list->clear();
    const QString wanted = m_search->text().trimmed();
    const auto add = [&](const core::SharedList<core::Part>& parts, List list) {
        for (std::size_t i = 0; i < parts.size(); ++i) {
            const core::Part& p = parts[i];
            if (p.kind == core::PartKind::Case)
                continue; // a case has no place to go to: it is chosen by a change
            const QString text = list == Blank ? tr("%1 of your own ...").arg(qs(core::kindWord(p.kind)))
                                               : qs(p.name) + (list == Own ? tr("  (on your shelf)") : QString());
            if (!wanted.isEmpty() &&
                !(text + QLatin1Char(' ') + qs(core::kindWord(p.kind))).contains(wanted, Qt::CaseInsensitive))
                continue;
            auto* item = new QListWidgetItem(text, m_list);
            item->setData(listRole, list);
            item->setData(indexRole, static_cast<int>(i));
            item->setToolTip(
                tr("%1, %2").arg(qs(core::kindWord(p.kind)),
                                 m_context.view().words(core::boxMm(
                                     {p.size[0].value.mm(), p.size[1].value.mm(), p.size[2].value.mm()}, 1))));
        }
    };
    add(m_context.document.project().shelf, Own);
    add(m_kept, Kept);
    add(m_standard, Standard);
    add(m_blank, Blank);
    if (m_list->count())
        m_list->setCurrentRow(0);
    showPart();
}

const core::Part* PartDialog::chosen() const {
    const QListWidgetItem* item = m_list->currentItem();
    if (!item)
        return nullptr;
    const int list = item->data(listRole).toInt();
    const core::SharedList<core::Part>& parts = list == Own        ? m_context.document.project().shelf
                                                : list == Standard ? m_standard
                                                : list == Kept     ? m_kept
                                                                   : m_blank;
    const auto i = static_cast<std::size_t>(item->data(indexRole).toInt());
    return i < parts.size() ? &parts[i] : nullptr;
}

void PartDialog::showPart() {
    const core::Part* p = chosen();
    m_buttons->button(QDialogButtonBox::Ok)->setEnabled(p != nullptr);
    if (!p)
        return;
    askFor(*p);
    m_formSize->clear();
    if (const core::StandardSize* s = core::standardOf(*p)) {
        core::Sentences sizes;
        for (const double mm : s->sizeMm)
            if (mm > 0)
                sizes.push_back(core::say("{}", core::figure::mm(mm)));
        const core::Sentence size =
            core::say("Form {}: {}", std::string(s->form), core::joined(sizes, core::say(" × ")));
        m_formSize->setText(m_context.view().words(s->holesMm[0] > 0 ? core::say("{}, holes {} × {} apart.", size,
                                                                                 core::figure::mm(s->holesMm[0]).bare(),
                                                                                 core::figure::mm(s->holesMm[1]))
                                                                     : core::say("{}.", size)));
    }
    fillPlaces();
}

void PartDialog::fillPlaces() {
    m_place->clear();
    const core::Part* p = chosen();
    if (const auto* e = m_context.view().evaluation(); e && p)
        for (const core::MountChoice& m : core::mountsOf(e->build))
            if (!m.taken && std::find(m.accepts.begin(), m.accepts.end(), p->kind) != m.accepts.end())
                m_place->addItem(tr("%1 (%2)").arg(qs(m.name), qs(m.path)), qs(m.path));
    const bool placed = m_place->count() > 0;
    m_place->addItem(placed ? tr("only the shelf, not placed yet") : tr("only the shelf: no free place takes it"),
                     QString());
    addTakenPlaces();
    showGhost();
}

/// Places that would take it and are taken: listed, with the reason, and not to be chosen.
void PartDialog::addTakenPlaces() {
    const auto* e = m_context.view().evaluation();
    const core::Part* p = chosen();
    auto* model = qobject_cast<QStandardItemModel*>(m_place->model());
    if (!e || !p || !model)
        return;
    for (const core::MountChoice& m : core::mountsOf(e->build))
        if (m.taken && std::find(m.accepts.begin(), m.accepts.end(), p->kind) != m.accepts.end()) {
            m_place->addItem(tr("%1: taken by %2").arg(qs(m.name), qs(m.taken->name)));
            model->item(m_place->count() - 1)->setEnabled(false);
        }
}

/// At the right of the window, so that the ghost on the drawing is seen.
void PartDialog::showEvent(QShowEvent* event) {
    FormDialog::showEvent(event);
    m_search->setFocus(Qt::TabFocusReason);
    if (const QWidget* over = parentWidget()) {
        constexpr int below = 70, edge = 12; // its buttons stay on a low screen; the fields scroll
        resize(width(), std::min(height(), over->height() - below - edge));
        move(over->mapToGlobal(QPoint(over->width() - width() - 8, below)));
    }
}

PartDialog::~PartDialog() { m_context.selection.setGhost(std::nullopt); }

void PartDialog::showGhost() {
    const std::string mount = m_place->currentData().toString().toStdString();
    if (chosen() && !mount.empty())
        m_context.selection.setGhost(Selection::Ghost{edited(), mount});
    else
        m_context.selection.setGhost(std::nullopt);
}

/// Rows for what matters of a part of its kind, and nothing else.
void PartDialog::askFor(const core::Part& p) {
    m_rows.clear();
    m_spec.clear();
    const bool isLead = p.kind == PartKind::Adapter || p.kind == PartKind::Cable; // it has no place, and so no size
    std::set<std::string_view> without{"id", "kind"};
    if (isLead)
        without.insert({"size_mm", "power_w"});
    m_rows.startAt(placeRows);
    m_rows.add(p, without);
    m_spec.startAt(m_form->rowCount() - 1); // above what a form fixes
    core::withSpecOf(p.kind, [&]<class S>() { m_spec.add(std::get<S>(p.spec)); });
    for (QWidget* row : {static_cast<QWidget*>(m_place), static_cast<QWidget*>(m_flow)})
        m_form->setRowVisible(row, row == m_place ? !isLead : p.kind == PartKind::Fan);
}

core::Result<int> PartDialog::importShelf(const QString& path) {
    QFile file(path);
    if (!file.open(QIODevice::ReadOnly))
        return core::problem(path.toStdString(), "cannot be read", "check the name and the folder");
    const auto parts = store::readShelfJson(file.readAll().toStdString(), path.toStdString());
    if (!parts)
        return tl::make_unexpected(parts.error());
    const auto done = m_context.document.edit(tr("Import %1 parts").arg(parts->size()), [&](core::Project& p) {
        for (core::Part part : *parts) {
            part.id = core::freePartId(p, part.id);
            p.shelf.push_back(std::move(part));
        }
    });
    if (!done)
        return tl::make_unexpected(done.error());
    fillList();
    return static_cast<int>(parts->size());
}

core::Result<void> PartDialog::exportShelf(const QString& path) const {
    return store::writeWhole(path,
                             QByteArray::fromStdString(store::writeShelfJson(m_context.document.project().shelf)));
}

/// What is chosen, with what stands in the fields.
core::Part PartDialog::edited() const {
    core::Part part = *chosen();
    const core::Size3 before = part.size;
    m_rows.take(part);
    core::withSpecOf(part.kind, [&]<class S>() { m_spec.take(std::get<S>(part.spec)); });
    for (core::Body& body : part.bodies) // a body that spans the part follows its size
        for (std::size_t i = 0; i < 3; ++i)
            if (!(part.size[i] == before[i]) && body.role == core::BodyRole::Solid &&
                body.size[i].value == before[i].value)
                body.size[i] = part.size[i];
    return part;
}

core::Result<void> PartDialog::apply() {
    if (!chosen())
        return core::problem("Shelf", "nothing is chosen", "choose a part in the list");
    core::Part part = edited();
    if (part.name.empty())
        return core::problem("Name", "is empty", "any name");
    Document& document = m_context.document;
    const bool own = m_list->currentItem()->data(listRole).toInt() == Own && part == *chosen();
    if (!own)
        part.id = core::freePartId(document.project(), part.id);
    const std::string mount = m_place->currentData().toString().toStdString();
    document.undoStack().beginMacro(tr("Add %1").arg(qs(part.name)));
    core::Result<void> done;
    if (!own)
        done = document.edit(tr("Part on the shelf"), [&](core::Project& p) { p.shelf.push_back(part); });
    if (done && !mount.empty()) {
        const auto placed = document.addChange(
            core::PlacePart{part.id, mount, m_flow->currentIndex() == 1 ? core::FanFlow::Out : core::FanFlow::In});
        if (!placed)
            done = tl::make_unexpected(placed.error());
    }
    document.undoStack().endMacro();
    if (!done) {
        document.undoStack().undo();
        return done;
    }
    if (!mount.empty())
        m_context.selection.select(core::PartRef{mount});
    return {};
}

} // namespace app

#include "moc_part_dialog.cpp"
