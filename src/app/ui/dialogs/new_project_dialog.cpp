// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/dialogs/new_project_dialog.h"

#include "core/model/blank_case.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>

namespace app {
using core::Quantity;

NewProjectDialog::NewProjectDialog(Context& context, QWidget* parent) : FormDialog(context, tr("New project"), parent) {
    m_name = addText(tr("Name"), QStringLiteral("name"), tr("My compact build"));
    m_purpose = addText(tr("What is it for?"), QStringLiteral("purpose"));
    m_room = addNumber(tr("Room it must hold in"), QStringLiteral("room"), Quantity::Temperature, 23, -10, 50);
    m_width =
        addNumber(tr("Case, inner width (left to right)"), QStringLiteral("width"), Quantity::Length, 90, 60, 800);
    m_depth = addNumber(tr("Inner depth (front to rear)"), QStringLiteral("depth"), Quantity::Length, 320, 60, 800);
    m_height = addNumber(tr("Inner height"), QStringLiteral("height"), Quantity::Length, 240, 60, 800);
    m_source = addSources(core::Source::Caliper);
    m_assumed = new QLabel(this);
    m_assumed->setObjectName(QStringLiteral("assumed"));
    m_assumed->setWordWrap(true);
    m_form->addRow(QString(), m_assumed);
    for (QDoubleSpinBox* box : {m_width, m_depth, m_height}) {
        const auto typed = [this, box] {
            m_typed.insert(box);
            sayWhatIsAssumed();
        };
        connect(box, &QDoubleSpinBox::valueChanged, this, typed);
        connect(box->findChild<QLineEdit*>(), &QLineEdit::textEdited, this,
                typed); // the same figure typed again is stated as well
    }
    sayWhatIsAssumed();
    addOpenings();
    m_wall = addNumber(tr("Wall"), QStringLiteral("wall"), Quantity::Length, 1.5, 0.3, 10);
    m_feet = addNumber(tr("Feet"), QStringLiteral("feet"), Quantity::Length, 8, 0, 60);
    m_material = addChoice(tr("Walls are of"), QStringLiteral("material"));
    m_material->addItems({tr("steel"), tr("aluminium"), tr("plastic, printed")});
    m_buttons->button(QDialogButtonBox::Ok)->setText(tr("Start"));
}

/// Which panels let air through, and how much: nothing about air can be said without it.
void NewProjectDialog::addOpenings() {
    auto* row = new QHBoxLayout;
    for (const auto& [side, name, open] :
         {std::tuple{core::Side::Left, tr("left"), false}, std::tuple{core::Side::Right, tr("right"), true},
          std::tuple{core::Side::Front, tr("front"), true}, std::tuple{core::Side::Rear, tr("rear"), true},
          std::tuple{core::Side::Bottom, tr("bottom"), true}, std::tuple{core::Side::Top, tr("top"), true}}) {
        auto* box = new QCheckBox(name, this);
        box->setObjectName(QStringLiteral("open-") + qs(core::sideWord(side)));
        box->setChecked(open);
        box->setToolTip(tr("A panel with a grille; left, right, bottom and top have a fan place behind it"));
        connect(box, &QCheckBox::clicked, this, [this] { stateOpenings(); });
        row->addWidget(box);
        m_open.emplace_back(side, box);
    }
    m_form->addRow(tr("Panels with openings"), row);
    m_perforation =
        addNumber(tr("Open share of a grille"), QStringLiteral("perforation"), Quantity::Share, 0.45, 0.05, 1);
    connect(m_perforation, &QDoubleSpinBox::valueChanged, this, [this] { stateOpenings(); });
}

void NewProjectDialog::stateOpenings() {
    m_openingsStated = true;
    sayWhatIsAssumed();
}

void NewProjectDialog::sayWhatIsAssumed() {
    QStringList names;
    for (const auto& [box, name] :
         {std::pair{m_width, tr("width")}, std::pair{m_depth, tr("depth")}, std::pair{m_height, tr("height")}})
        if (!m_typed.contains(box))
            names << name;
    if (!m_openingsStated)
        names << tr("openings");
    m_assumed->setVisible(!names.isEmpty());
    m_assumed->setText(tr("Assumed until you type them: %1. Usual figures stand there; sizes count as estimates.")
                           .arg(names.join(tr(", "))));
}

core::Result<void> NewProjectDialog::apply() {
    if (m_name->text().trimmed().isEmpty())
        return core::problem("Name", "is empty", "any name; the file is called after it");
    const auto size = [&](QDoubleSpinBox* box) {
        return core::measureMm(stored(box), m_typed.contains(box) ? sourceOf(m_source) : core::Source::Estimate);
    };
    std::vector<core::Side> open;
    for (const auto& [side, box] : m_open)
        if (box->isChecked())
            open.push_back(side);
    auto part = core::blankCase({.name = tr("Case").toStdString(),
                                 .inside = {size(m_width), size(m_depth), size(m_height)},
                                 .wallMm = stored(m_wall),
                                 .feetMm = stored(m_feet),
                                 .material = static_cast<core::WallMaterial>(m_material->currentIndex()),
                                 .open = open,
                                 .perforation = stored(m_perforation)});
    if (!part)
        return tl::make_unexpected(part.error());
    core::Project project;
    project.name = m_name->text().trimmed().toStdString();
    project.brief.purpose = m_purpose->text().toStdString();
    project.brief.roomC = stored(m_room);
    project.brief.load = "full";
    project.loads = {{.id = "full", .name = tr("Full load").toStdString()},
                     {.id = "idle", .name = tr("Idle").toStdString(), .processorShare = 0.2, .cardShare = 0.1}};
    project.brief.targets = {
        {.id = "gaps", .name = tr("Every gap, at worst").toStdString(), .kind = core::TargetKind::Gap, .limit = 0},
        {.id = "noise",
         .name = tr("Noise at %1 m").arg(1).toStdString(),
         .kind = core::TargetKind::Noise,
         .limit = 38}};
    project.shelf.push_back(std::move(*part));
    project.revisions.push_back({.id = "R1", .changes = {core::SetCase{"case-1"}}});
    if (auto wrong = core::validate(project); !wrong.empty())
        return tl::make_unexpected(wrong.front());
    Q_EMIT created(project);
    return {};
}

} // namespace app
