// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/dialogs/record_dialog.h"

#include "store/files.h"

#include <QCoreApplication>
#include <QFileInfo>
#include <QPushButton>
#include <QRandomGenerator>

namespace app {
using core::Quantity;

core::Result<std::unique_ptr<devices::SampleSource>> rigSource(const core::Project& project,
                                                               const std::string& revision, const RigOptions& o) {
    const QString rig = QCoreApplication::applicationDirPath() + QStringLiteral("/mini-draft-rig");
    if (!QFileInfo(rig).isExecutable())
        return core::problem(rig.toStdString(), "the simulated rig is not there", "install it beside this program");
    auto folder = std::make_shared<QTemporaryDir>();
    core::Project bare = project;
    bare.runs.clear();
    if (const auto written = store::writeFolder(bare, folder->path(), {.program = store::windowProgram}); !written)
        return tl::make_unexpected(written.error());
    QStringList arguments{folder->path(),
                          QStringLiteral("--revision"),
                          qs(revision),
                          QStringLiteral("--room"),
                          QString::number(o.roomC),
                          QStringLiteral("--duration"),
                          QString::number(o.minutes * 60),
                          QStringLiteral("--speed"),
                          QString::number(o.speed),
                          QStringLiteral("--seed"),
                          QString::number(o.seed)};
    if (!o.load.empty())
        arguments << QStringLiteral("--load") << qs(o.load);
    std::unique_ptr<devices::SampleSource> source = devices::LineSource::fromProgram(rig, arguments + o.more);
    // The folder lives as long as the source that plays it.
    QObject::connect(source.get(), &QObject::destroyed, [folder] {});
    return source;
}

RecordDialog::RecordDialog(Context& context, Taker taker, QWidget* parent)
    : FormDialog(context, tr("Record a run"), parent), m_taker(std::move(taker)) {
    m_from = addChoice(tr("Readings come from"), QStringLiteral("from"));
    m_from->addItems({tr("the simulated rig, playing this revision"), tr("a program that writes the line protocol"),
                      tr("a local socket")});
    m_load = addChoice(tr("Load"), QStringLiteral("load"));
    for (const core::Load& load : context.document.project().loads)
        m_load->addItem(qs(load.name), qs(load.id));
    m_load->setCurrentIndex(std::max(0, m_load->findData(qs(context.document.project().brief.load))));
    m_room = addNumber(tr("Room"), QStringLiteral("room"), Quantity::Temperature,
                       context.document.project().brief.roomC, -10, 50);
    m_minutes = addNumber(tr("Minutes of load"), QStringLiteral("minutes"), Quantity::None, 45, 1, 600);
    m_speed = addNumber(tr("Times faster than life"), QStringLiteral("speed"), Quantity::None, 120, 1, 5000);
    m_program = addText(tr("Program, or name of the socket"), QStringLiteral("program"));
    m_arguments = addText(tr("Arguments"), QStringLiteral("arguments"));
    m_buttons->button(QDialogButtonBox::Ok)->setText(tr("Record"));
    connect(m_from, &QComboBox::currentIndexChanged, this, &RecordDialog::suit);
    suit();
}

void RecordDialog::suit() {
    const bool rig = m_from->currentIndex() == 0;
    for (QWidget* w : std::initializer_list<QWidget*>{m_room, m_minutes, m_speed})
        w->setEnabled(rig);
    m_program->setEnabled(!rig);
    m_arguments->setEnabled(m_from->currentIndex() == 1);
}

core::Result<void> RecordDialog::apply() {
    std::unique_ptr<devices::SampleSource> source;
    const std::string load = m_load->currentData().toString().toStdString();
    const QString program = m_program->text().trimmed();
    if (m_from->currentIndex() == 0) {
        auto rig = rigSource(m_context.document.project(), m_context.document.revision(),
                             {.load = load,
                              .roomC = stored(m_room),
                              .minutes = m_minutes->value(),
                              .speed = m_speed->value(),
                              .seed = QRandomGenerator::global()->generate() % 100000});
        if (!rig)
            return tl::make_unexpected(rig.error());
        source = std::move(*rig);
    } else if (program.isEmpty()) {
        return core::problem("Program", "is empty", "a program or the name of a socket");
    } else if (m_from->currentIndex() == 1) {
        source =
            devices::LineSource::fromProgram(program, m_arguments->text().split(QLatin1Char(' '), Qt::SkipEmptyParts));
    } else {
        source = devices::LineSource::fromSocket(program);
    }
    m_taker(std::move(source), load);
    return {};
}

} // namespace app

#include "moc_record_dialog.cpp"
