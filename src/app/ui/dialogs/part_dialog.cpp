// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/dialogs/part_dialog.h"

#include "app/ui/dialogs/standard_parts.h"
#include "core/model/choices.h"
#include "core/model/standard_sizes.h"
#include "store/files.h"
#include "store/project_json.h"

#include <QStandardItemModel>
#include <QFile>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QListWidget>
#include <QPushButton>

namespace app {
using core::Quantity;

namespace {
constexpr int listRole = Qt::UserRole, indexRole = Qt::UserRole + 1;
enum List { Own, Standard, Blank };
using core::PartKind;

/// An empty part of each kind with the numbers a first try needs.
std::vector<core::Part> blankParts() {
    const auto part = [](PartKind kind, std::array<double, 3> size, core::Spec spec) {
        core::Part p{.id = std::string(core::kindWord(kind)), .kind = kind, .name = "New " + std::string(core::kindWord(kind)), .spec = std::move(spec)};
        for (std::size_t i = 0; i < 3; ++i)
            p.size[i] = core::measureMm(size[i], core::Source::Sheet);
        return p;
    };
    return {part(PartKind::Board, {170, 170, 1.6}, core::BoardSpec{}), part(PartKind::Processor, {40, 40, 7}, core::ProcessorSpec{}), part(PartKind::Cooler, {94, 94, 47}, core::CoolerSpec{}),
            part(PartKind::Fan, {92, 92, 15}, core::FanSpec{}), part(PartKind::Card, {170, 111.15, 40}, core::CardSpec{}), part(PartKind::PowerSupply, {100, 125, 63.5}, core::PowerSupplySpec{}),
            part(PartKind::Drive, {69.85, 100.45, 7}, core::DriveSpec{.form = core::DriveForm::Inch25}), part(PartKind::Memory, {8, 133.35, 32}, core::MemorySpec{}), part(PartKind::Radiator, {120, 157, 27}, core::RadiatorSpec{}),
            part(PartKind::Made, {50, 50, 10}, core::MadeSpec{}), part(PartKind::Adapter, {0, 0, 0}, core::AdapterSpec{}), part(PartKind::Cable, {0, 0, 0}, core::CableSpec{})};
}

/// "eps-8, fan 4" -> counts by kind, and back.
std::map<std::string, int> countsOf(const QString& text) {
    std::map<std::string, int> counts;
    for (const QString& item : text.split(QLatin1Char(','), Qt::SkipEmptyParts)) {
        const QString words = item.simplified();
        const int number = words.section(QLatin1Char(' '), -1).toInt();
        if (!words.isEmpty())
            counts[words.section(QLatin1Char(' '), 0, 0).toStdString()] += std::max(1, number);
    }
    return counts;
}
QString textOf(const std::map<std::string, int>& counts) {
    QStringList items;
    for (const auto& [kind, n] : counts)
        items << (n == 1 ? qs(kind) : QStringLiteral("%1 %2").arg(qs(kind)).arg(n));
    return items.join(QStringLiteral(", "));
}
}

PartDialog::PartDialog(Context& context, QWidget* parent, const QString& search) : FormDialog(context, tr("Add a part"), parent) {
    if (auto parts = standardParts())
        m_standard = std::move(*parts);
    m_blank = blankParts();
    resize(560, 620);
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
        const QString path = QFileDialog::getSaveFileName(this, tr("Export shelf"), QStringLiteral("shelf.json"), tr("Parts (*.json)"));
        if (!path.isEmpty())
            if (const auto done = exportShelf(path); !done)
                say(qs(done.error().text()));
    });
    columns->addLayout(left, 1);
    m_layout->removeItem(m_form);
    columns->addLayout(m_form, 1);
    m_layout->insertLayout(0, columns, 1);
    m_name = addText(tr("Name"), QStringLiteral("name"));
    m_width = addNumber(tr("Width"), QStringLiteral("width"), Quantity::Length, 10, 0.1, 2000);
    m_height = addNumber(tr("Height"), QStringLiteral("height"), Quantity::Length, 10, 0.1, 2000);
    m_depth = addNumber(tr("Depth, off its place"), QStringLiteral("depth"), Quantity::Length, 10, 0.1, 2000);
    m_source = addSources(core::Source::Sheet);
    addKindFields();
    m_power = addNumber(tr("Power, held"), QStringLiteral("power"), Quantity::Power, 0, 0, 2000);
    m_mass = addNumber(tr("Mass"), QStringLiteral("mass"), Quantity::Mass, 0, 0, 50000);
    m_price = addNumber(tr("Price"), QStringLiteral("price"), Quantity::Money, 0, 0, 100000);
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
    for (QDoubleSpinBox* box : {m_width, m_height, m_depth})
        connect(box, &QDoubleSpinBox::valueChanged, this, &PartDialog::showGhost);
    m_search->setText(search);
    fillList();
    m_search->setFocus();
}

void PartDialog::goToFields() {
    m_name->setFocus(Qt::TabFocusReason);
    m_name->selectAll();
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
            const QString text = list == Blank ? tr("%1 of your own ...").arg(qs(core::kindWord(p.kind))) : qs(p.name) + (list == Own ? tr("  (on your shelf)") : QString());
            if (!wanted.isEmpty() && !(text + QLatin1Char(' ') + qs(core::kindWord(p.kind))).contains(wanted, Qt::CaseInsensitive))
                continue;
            auto* item = new QListWidgetItem(text, m_list);
            item->setData(listRole, list);
            item->setData(indexRole, static_cast<int>(i));
            item->setToolTip(m_context.view().words(tr("%1, %2 x %3 x %4 mm").arg(qs(core::kindWord(p.kind))).arg(p.size[0].value.mm()).arg(p.size[1].value.mm()).arg(p.size[2].value.mm()).toStdString()));
        }
    };
    add(m_context.document.project().shelf, Own);
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
    const core::SharedList<core::Part>& parts = list == Own ? m_context.document.project().shelf : list == Standard ? m_standard : m_blank;
    const auto i = static_cast<std::size_t>(item->data(indexRole).toInt());
    return i < parts.size() ? &parts[i] : nullptr;
}

void PartDialog::showPart() {
    const core::Part* p = chosen();
    m_buttons->button(QDialogButtonBox::Ok)->setEnabled(p != nullptr);
    if (!p)
        return;
    m_name->setText(qs(p->name));
    setStored(m_width, p->size[0].value.mm());
    setStored(m_height, p->size[1].value.mm());
    setStored(m_depth, p->size[2].value.mm());
    m_source->setCurrentIndex(std::max(0, m_source->findData(static_cast<int>(p->size[2].source))));
    setStored(m_power, p->powerW);
    setStored(m_mass, p->massG);
    setStored(m_price, p->price);
    showKindFields(*p);
    m_formSize->clear();
    if (const core::StandardSize* s = core::standardOf(*p)) {
        QStringList sizes;
        for (const double mm : s->sizeMm)
            if (mm > 0)
                sizes << QString::number(mm);
        const QString apart = s->holesMm[0] > 0 ? tr(", holes %1 × %2 mm apart").arg(s->holesMm[0]).arg(s->holesMm[1]) : QString();
        m_formSize->setText(m_context.view().words(tr("Form %1: %2 mm%3.").arg(qs(s->form), sizes.join(QStringLiteral(" × ")), apart).toStdString()));
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
    m_place->addItem(placed ? tr("only the shelf, not placed yet") : tr("only the shelf: no free place takes it"), QString());
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
    if (const QWidget* over = parentWidget())
        move(over->mapToGlobal(QPoint(over->width() - width() - 8, 70)));
}

PartDialog::~PartDialog() { m_context.selection.setGhost(std::nullopt); }

void PartDialog::showGhost() {
    const std::string mount = m_place->currentData().toString().toStdString();
    if (chosen() && !mount.empty())
        m_context.selection.setGhost(Selection::Ghost{edited(), mount});
    else
        m_context.selection.setGhost(std::nullopt);
}

QWidget* PartDialog::forKinds(QWidget* field, std::vector<PartKind> kinds) {
    m_kindFields.emplace_back(field, std::move(kinds));
    return field;
}

void PartDialog::addKindFields() {
    using enum PartKind;
    for (QWidget* size : {m_width, m_height, m_depth})
        forKinds(size, {Board, Processor, Cooler, Fan, Card, PowerSupply, Drive, Memory, Made, Radiator});
    forKinds(m_form2 = addText(tr("Form"), QStringLiteral("form")), {Board, PowerSupply});
    m_form2->setToolTip(tr("mini-itx, micro-atx, atx; sfx, sfx-l, atx, tfx, flex"));
    forKinds(m_socket = addText(tr("Socket"), QStringLiteral("socket")), {Board, Processor, Cooler});
    m_socket->setToolTip(tr("A cooler may have kits for several: separate them by commas"));
    forKinds(m_memory = addText(tr("Memory kind"), QStringLiteral("memoryKind")), {Board, Memory});
    forKinds(m_type = addChoice(tr("Type"), QStringLiteral("type")), {Cooler});
    m_type->addItems({tr("top-down"), tr("tower"), tr("liquid, with a radiator")});
    forKinds(m_graphics = addChoice(tr("Shows a picture"), QStringLiteral("graphics")), {Processor});
    m_graphics->addItems({tr("no, needs a card"), tr("yes")});
    forKinds(m_rated = addNumber(tr("Rated power"), QStringLiteral("rated"), Quantity::Power, 0, 0, 3000), {PowerSupply, Cooler, Adapter});
    m_rated->setToolTip(tr("Supply: held power. Cooler: as its maker states, 0 when not stated. Adapter: it passes at most, 0 when only its plugs limit it"));
    forKinds(m_count = addNumber(tr("Slots, modules, fans"), QStringLiteral("count"), Quantity::None, 1, 1, 16), {Card, Memory, Radiator});
    m_count->setDecimals(0);
    forKinds(m_cable = addNumber(tr("Length, plug to plug"), QStringLiteral("cableLength"), Quantity::Length, 400, 1, 5000), {Cable});
    forKinds(m_family = addText(tr("Family of modular leads"), QStringLiteral("family")), {Cable, PowerSupply});
    forKinds(m_gives = addText(tr("Gives plugs"), QStringLiteral("gives")), {Board, PowerSupply, Adapter});
    forKinds(m_needs = addText(tr("Needs plugs"), QStringLiteral("needs")), {Board, Card, Drive, Fan, Cooler, Memory, Adapter});
    for (QLineEdit* field : {m_gives, m_needs})
        field->setPlaceholderText(tr("eps-8, fan 4"));
}

void PartDialog::showKindFields(const core::Part& p) {
    for (const auto& [field, kinds] : m_kindFields) {
        const bool asked = std::find(kinds.begin(), kinds.end(), p.kind) != kinds.end();
        field->setVisible(asked);
        m_form->labelForField(field)->setVisible(asked);
    }
    const bool lead = p.kind == PartKind::Adapter || p.kind == PartKind::Cable;
    for (QWidget* field : std::initializer_list<QWidget*>{m_source, m_place, m_power}) {
        field->setVisible(!lead);
        m_form->labelForField(field)->setVisible(!lead);
    }
    m_flow->setVisible(p.kind == PartKind::Fan);
    m_form->labelForField(m_flow)->setVisible(p.kind == PartKind::Fan);
    m_gives->setText(textOf(p.gives));
    m_needs->setText(textOf(p.needs));
    if (const auto* s = std::get_if<core::BoardSpec>(&p.spec)) {
        m_form2->setText(qs(s->form));
        m_socket->setText(qs(s->socket));
        m_memory->setText(qs(s->memoryKind));
    } else if (const auto* cpu = std::get_if<core::ProcessorSpec>(&p.spec)) {
        m_socket->setText(qs(cpu->socket));
        m_graphics->setCurrentIndex(cpu->graphics ? 1 : 0);
    } else if (const auto* cooler = std::get_if<core::CoolerSpec>(&p.spec)) {
        QStringList sockets;
        for (const auto& socket : cooler->sockets)
            sockets << qs(socket);
        m_socket->setText(sockets.join(QStringLiteral(", ")));
        m_type->setCurrentIndex(static_cast<int>(cooler->type));
        setStored(m_rated, cooler->ratedTdpW);
    } else if (const auto* supply = std::get_if<core::PowerSupplySpec>(&p.spec)) {
        m_form2->setText(qs(supply->form));
        setStored(m_rated, supply->ratedW);
        m_family->setText(qs(supply->cableFamily));
    } else if (const auto* memory = std::get_if<core::MemorySpec>(&p.spec)) {
        m_memory->setText(qs(memory->memoryKind));
        m_count->setValue(memory->modules);
    } else if (const auto* card = std::get_if<core::CardSpec>(&p.spec)) {
        m_count->setValue(card->slotCount);
    } else if (const auto* radiator = std::get_if<core::RadiatorSpec>(&p.spec)) {
        m_count->setValue(radiator->fans);
    } else if (const auto* adapter = std::get_if<core::AdapterSpec>(&p.spec)) {
        setStored(m_rated, adapter->limitW);
    } else if (const auto* cable = std::get_if<core::CableSpec>(&p.spec)) {
        setStored(m_cable, cable->lengthMm);
        m_family->setText(qs(cable->family));
    }
}

void PartDialog::readKindFields(core::Part& p) const {
    const auto asked = [&](const QWidget* field) {
        return std::any_of(m_kindFields.begin(), m_kindFields.end(), [&](const auto& f) { return f.first == field && std::find(f.second.begin(), f.second.end(), p.kind) != f.second.end(); });
    };
    const auto text = [](const QLineEdit* field) { return field->text().trimmed().toStdString(); };
    if (asked(m_gives))
        p.gives = countsOf(m_gives->text());
    if (asked(m_needs))
        p.needs = countsOf(m_needs->text());
    const int count = static_cast<int>(m_count->value());
    if (auto* s = std::get_if<core::BoardSpec>(&p.spec)) {
        s->form = text(m_form2);
        s->socket = text(m_socket);
        s->memoryKind = text(m_memory);
    } else if (auto* cpu = std::get_if<core::ProcessorSpec>(&p.spec)) {
        cpu->socket = text(m_socket);
        cpu->graphics = m_graphics->currentIndex() == 1;
    } else if (auto* cooler = std::get_if<core::CoolerSpec>(&p.spec)) {
        cooler->sockets.clear();
        for (const QString& socket : m_socket->text().split(QLatin1Char(','), Qt::SkipEmptyParts))
            cooler->sockets.push_back(socket.trimmed().toStdString());
        cooler->type = static_cast<core::CoolerType>(m_type->currentIndex());
        cooler->ratedTdpW = stored(m_rated);
    } else if (auto* supply = std::get_if<core::PowerSupplySpec>(&p.spec)) {
        supply->form = text(m_form2);
        supply->ratedW = stored(m_rated);
        supply->cableFamily = text(m_family);
    } else if (auto* memory = std::get_if<core::MemorySpec>(&p.spec)) {
        memory->memoryKind = text(m_memory);
        memory->modules = count;
    } else if (auto* card = std::get_if<core::CardSpec>(&p.spec)) {
        card->slotCount = count;
    } else if (auto* radiator = std::get_if<core::RadiatorSpec>(&p.spec)) {
        radiator->fans = count;
    } else if (auto* adapter = std::get_if<core::AdapterSpec>(&p.spec)) {
        adapter->limitW = stored(m_rated);
    } else if (auto* cable = std::get_if<core::CableSpec>(&p.spec)) {
        cable->lengthMm = stored(m_cable);
        cable->family = text(m_family);
    }
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
    return store::writeWhole(path, QByteArray::fromStdString(store::writeShelfJson(m_context.document.project().shelf)));
}

core::Part PartDialog::edited() const {
    core::Part part = *chosen();
    part.name = m_name->text().trimmed().toStdString();
    const auto loose = part.kind == core::PartKind::Cooler || part.kind == core::PartKind::Card ? core::SheetKind::CoolerOrCard : core::SheetKind::Ordinary;
    const std::array<QDoubleSpinBox*, 3> boxes{m_width, m_height, m_depth};
    const core::Source source = sourceOf(m_source);
    for (std::size_t i = 0; i < 3; ++i) {
        const core::Length typed = core::Length::fromMm(stored(boxes[i]));
        // A size and source that were not touched keep their stated tolerance.
        if (typed.um() / 10 != part.size[i].value.um() / 10 || source != chosen()->size[2].source) {
            const core::Length before = part.size[i].value;
            part.size[i] = core::measureMm(typed.mm(), source, loose);
            for (core::Body& body : part.bodies) // a body that spans the part follows its size
                if (body.role == core::BodyRole::Solid && body.size[i].value == before)
                    body.size[i] = part.size[i];
        }
    }
    part.powerW = stored(m_power);
    part.massG = stored(m_mass);
    part.price = stored(m_price);
    readKindFields(part);
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
        const auto placed = document.addChange(core::PlacePart{part.id, mount, m_flow->currentIndex() == 1 ? core::FanFlow::Out : core::FanFlow::In});
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
