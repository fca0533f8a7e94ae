// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/dialogs/part_dialog.h"

#include "core/model/choices.h"
#include "core/model/standard_sizes.h"
#include "store/project_json.h"

#include <QFile>
#include <QHBoxLayout>
#include <QListWidget>
#include <QPushButton>

namespace app {
using core::Quantity;

namespace {
constexpr int fromProject = Qt::UserRole, indexRole = Qt::UserRole + 1;
}

PartDialog::PartDialog(Context& context, QWidget* parent) : FormDialog(context, tr("Add a part"), parent) {
    QFile file(QStringLiteral(":/shelf/standard.json"));
    if (file.open(QIODevice::ReadOnly))
        if (auto parts = store::readShelfJson(file.readAll().toStdString(), "standard shelf"))
            m_standard = std::move(*parts);
    resize(720, 520);
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
    columns->addLayout(left, 1);
    m_layout->removeItem(m_form);
    columns->addLayout(m_form, 1);
    m_layout->insertLayout(0, columns, 1);
    m_name = addText(tr("Name"), QStringLiteral("name"));
    m_width = addNumber(tr("Width"), QStringLiteral("width"), Quantity::Length, 10, 0.1, 2000);
    m_height = addNumber(tr("Height"), QStringLiteral("height"), Quantity::Length, 10, 0.1, 2000);
    m_depth = addNumber(tr("Depth, off its place"), QStringLiteral("depth"), Quantity::Length, 10, 0.1, 2000);
    m_source = addSources(core::Source::Sheet);
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
    connect(m_list, &QListWidget::itemActivated, this, &QDialog::accept);
    fillList();
    m_search->setFocus();
}

void PartDialog::fillList() {
    m_list->clear();
    const QString wanted = m_search->text().trimmed();
    const auto add = [&](const std::vector<core::Part>& parts, bool own) {
        for (std::size_t i = 0; i < parts.size(); ++i) {
            const core::Part& p = parts[i];
            if (p.kind == core::PartKind::Case)
                continue; // a case has no place to go to: it is chosen by a change
            const QString text = qs(p.name) + (own ? tr("  (on your shelf)") : QString());
            if (!wanted.isEmpty() && !(text + QLatin1Char(' ') + qs(core::kindWord(p.kind))).contains(wanted, Qt::CaseInsensitive))
                continue;
            auto* item = new QListWidgetItem(text, m_list);
            item->setData(fromProject, own);
            item->setData(indexRole, static_cast<int>(i));
            item->setToolTip(tr("%1, %2 x %3 x %4 mm").arg(qs(core::kindWord(p.kind))).arg(p.size[0].value.mm()).arg(p.size[1].value.mm()).arg(p.size[2].value.mm()));
        }
    };
    add(m_context.document.project().shelf, true);
    add(m_standard, false);
    if (m_list->count())
        m_list->setCurrentRow(0);
    showPart();
}

const core::Part* PartDialog::chosen() const {
    const QListWidgetItem* item = m_list->currentItem();
    if (!item)
        return nullptr;
    const auto& parts = item->data(fromProject).toBool() ? m_context.document.project().shelf : m_standard;
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
    m_flow->setEnabled(p->kind == core::PartKind::Fan);
    m_formSize->clear();
    if (const core::StandardSize* s = core::standardOf(*p)) {
        QStringList sizes;
        for (const double mm : s->sizeMm)
            if (mm > 0)
                sizes << QString::number(mm);
        m_formSize->setText(tr("Form %1: %2 mm%3. %4").arg(qs(s->form), sizes.join(QStringLiteral(" × ")), s->holesMm[0] > 0 ? tr(", holes %1 × %2 apart").arg(s->holesMm[0]).arg(s->holesMm[1]) : QString(), qs(s->source)));
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
    m_place->addItem(tr("only the shelf, not placed yet"), QString());
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
    return part;
}

core::Result<void> PartDialog::apply() {
    if (!chosen())
        return core::problem("Shelf", "nothing is chosen", "choose a part in the list");
    core::Part part = edited();
    if (part.name.empty())
        return core::problem("Name", "is empty", "any name");
    Document& document = m_context.document;
    const bool own = m_list->currentItem()->data(fromProject).toBool() && part == *chosen();
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
        m_context.selection.select(QStringLiteral("part:") + qs(mount));
    return {};
}

} // namespace app
