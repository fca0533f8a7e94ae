// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/dialogs/part_edit_dialog.h"

namespace app {
using core::Quantity;

PartEditDialog::PartEditDialog(Context& context, std::string part, QWidget* parent) : FormDialog(context, tr("Edit part"), parent), m_part(std::move(part)) {
    setObjectName(QStringLiteral("partEdit"));
    const core::Part& p = *context.document.project().part(m_part);
    m_name = addText(tr("Name"), QStringLiteral("name"), qs(p.name));
    const bool isCase = p.kind == core::PartKind::Case;
    const std::array labels{isCase ? tr("Inner width") : tr("Width"), isCase ? tr("Inner depth") : tr("Height"), isCase ? tr("Inner height") : tr("Depth, off its mount")};
    const std::array names{"width", "height", "depth"};
    for (std::size_t i = 0; i < 3; ++i)
        m_sizes[i] = addNumber(labels[i], QString::fromLatin1(names[i]), Quantity::Length, p.size[i].value.mm(), 0.01, 2000);
    m_source = addSources(p.size[0].source);
    m_source->insertItem(0, tr("as they are"), -1);
    m_source->setCurrentIndex(0);
    m_power = addNumber(tr("Power, sustained"), QStringLiteral("power"), Quantity::Power, p.powerW, 0, 2000);
    m_mass = addNumber(tr("Mass"), QStringLiteral("mass"), Quantity::Mass, p.massG, 0, 50000);
    m_price = addNumber(tr("Price"), QStringLiteral("price"), Quantity::Money, p.price, 0, 1e6);
    m_buttons->button(QDialogButtonBox::Ok)->setText(tr("Save"));
    const auto places = [&] {
        int n = 0;
        if (const auto* e = context.view().evaluation())
            for (const core::Placed& placed : e->build.placed)
                n += placed.part->id == m_part;
        return n;
    }();
    if (places > 1)
        m_layout->insertWidget(0, new QLabel(tr("%1 places of this revision use it: all change. Duplicate it first to change one alone.").arg(places), this));
    resize(420, sizeHint().height());
}

core::Result<void> PartEditDialog::apply() {
    const std::string name = m_name->text().trimmed().toStdString();
    if (name.empty())
        return core::problem(tr("Name").toStdString(), "is empty", "a name");
    return m_context.document.edit(tr("Edit %1").arg(qs(name)), [&](core::Project& project) {
        core::Part* p = project.shelf.edit(m_part);
        if (!p)
            return;
        p->name = name;
        for (std::size_t i = 0; i < 3; ++i) {
            // What was not touched stays to the last digit.
            const double mm = stored(m_sizes[i]);
            const bool changed = std::abs(mm - p->size[i].value.mm()) > 0.004;
            if (m_source->currentData().toInt() >= 0)
                p->size[i] = core::measureMm(changed ? mm : p->size[i].value.mm(), sourceOf(m_source));
            else if (changed)
                p->size[i].value = core::Length::fromMm(mm);
        }
        p->powerW = stored(m_power);
        p->massG = stored(m_mass);
        p->price = stored(m_price);
    });
}

} // namespace app
