// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/dialogs/import_dialog.h"

#include "store/csv_fields.h"
#ifndef Q_MOC_RUN
#include "store/subjects.h"
#endif

#include <QCheckBox>
#include <QFile>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QProgressBar>
#include <QPushButton>
#include <QTableWidget>

namespace app {
using core::ChannelKind;

namespace {
constexpr std::array kinds{ChannelKind::Temperature, ChannelKind::Ambient, ChannelKind::Rpm,  ChannelKind::Clock,
                           ChannelKind::Power,       ChannelKind::Level,   ChannelKind::Other};
enum Column { Header, First, Role, Unit, Of };
constexpr int timeRole = -1, skipRole = -2;
constexpr qint64 headBytes = 64 * Q_INT64_C(1024);

struct UnitWord {
    const char* word;
    bool fahrenheit;
    double scale;
};
std::vector<UnitWord> unitsOf(ChannelKind kind) {
    switch (kind) {
    case ChannelKind::Temperature:
    case ChannelKind::Ambient:
        return {{"°C", false, 1}, {"°F", true, 1}};
    case ChannelKind::Clock:
        return {{"MHz", false, 1}, {"GHz", false, 1000}};
    case ChannelKind::Power:
        return {{"W", false, 1}, {"mW", false, 0.001}};
    case ChannelKind::Rpm:
        return {{"rpm", false, 1}};
    case ChannelKind::Level:
        return {{"dB(A)", false, 1}};
    case ChannelKind::Other:
        break;
    }
    return {{"as it is", false, 1}};
}
} // namespace

ImportDialog::ImportDialog(Context& context, QString path, QWidget* parent)
    : FormDialog(context, tr("Read in a log"), parent), m_path(std::move(path)) {
    QFile file(m_path);
    if (file.open(QIODevice::ReadOnly))
        m_head = store::decodeText(file.read(headBytes).toStdString());
    if (const auto cut = m_head.rfind('\n'); file.size() > headBytes && cut != std::string::npos)
        m_head.resize(cut + 1);
    if (const auto about = store::readLogAbout(m_path.toStdString()))
        m_about = *about;
    const auto& project = context.document.project();
    m_layout->insertWidget(
        0,
        new QLabel(tr("%1, for revision %2").arg(QFileInfo(m_path).fileName(), qs(context.document.revision())), this));
    m_name = addText(tr("Name of the run"), QStringLiteral("name"), QFileInfo(m_path).completeBaseName());
    m_load = addChoice(tr("Load"), QStringLiteral("load"));
    for (const core::Load& load : project.loads)
        m_load->addItem(qs(load.name), qs(load.id));
    m_load->setCurrentIndex(std::max(0, m_load->findData(qs(project.brief.load))));
    m_hasRoom = new QCheckBox(tr("The room was at"), this);
    m_hasRoom->setObjectName(QStringLiteral("hasRoom"));
    m_hasRoom->setToolTip(tr("Only when the log has no room channel: a typed room temperature adds to the doubt"));
    m_room = addNumber(QString(), QStringLiteral("room"), core::Quantity::Temperature, project.brief.roomC, -30, 60);
    m_form->insertRow(m_form->rowCount() - 1, m_hasRoom);
    m_room->setEnabled(false);
    m_instruments = addText(tr("Instruments"), QStringLiteral("instruments"));
    m_note = addText(tr("Note"), QStringLiteral("note"));
    m_separator = addChoice(tr("Columns are parted by"), QStringLiteral("separator"));
    for (const auto& [words, c] : {std::pair{tr("comma"), ','}, std::pair{tr("semicolon"), ';'},
                                   std::pair{tr("tab"), '\t'}, std::pair{tr("bar"), '|'}})
        m_separator->addItem(words, QChar(QLatin1Char(c)));
    m_decimal = addChoice(tr("Decimal sign"), QStringLiteral("decimal"));
    m_decimal->addItem(tr("point"), QChar(u'.'));
    m_decimal->addItem(tr("comma"), QChar(u','));
    m_timeFormat = addChoice(tr("Time is"), QStringLiteral("time"));
    m_timeFormat->addItems(
        {tr("seconds"), tr("hh:mm:ss"), tr("date and time (ISO 8601)"), tr("day.month.year and time")});
    m_header = new QCheckBox(tr("The first line names the columns"), this);
    m_form->addRow(QString(), m_header);
    m_readRest = new QCheckBox(tr("Take fields that are not numbers as missing"), this);
    m_readRest->setObjectName(QStringLiteral("readRest"));
    m_form->addRow(QString(), m_readRest);
    m_columns = new QTableWidget(0, 5, this);
    m_columns->setObjectName(QStringLiteral("columns"));
    m_columns->setHorizontalHeaderLabels({tr("Column"), tr("First readings"), tr("Is"), tr("Unit"), tr("Of")});
    m_columns->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    m_columns->verticalHeader()->hide();
    m_unclear = new QLabel(this);
    m_unclear->setObjectName(QStringLiteral("unclear"));
    m_unclear->setWordWrap(true);
    m_layout->insertWidget(2, m_unclear);
    m_layout->insertWidget(3, m_columns, 1);
    m_progress = new QProgressBar(this);
    m_progress->setRange(0, 100);
    m_progress->hide();
    m_layout->insertWidget(4, m_progress);
    m_buttons->button(QDialogButtonBox::Ok)->setText(tr("Read in"));
    connect(m_hasRoom, &QCheckBox::toggled, m_room, &QWidget::setEnabled);
    recognise();
    // Another separator cuts other columns: recognise the rest again with what was chosen.
    connect(m_separator, &QComboBox::activated, this, [this] {
        m_format.separator = static_cast<char>(m_separator->currentData().toChar().toLatin1());
        m_format.columns.clear();
        for (const std::string& field : store::readRecord(m_head, 0, m_format.separator).fields)
            m_format.columns.push_back(store::columnFromHeader(store::headingFrom(field)));
        fillColumns();
    });
    resize(760, 680);
}

void ImportDialog::recognise() {
    const auto found = store::recogniseCsv(m_head, m_path.toStdString());
    m_buttons->button(QDialogButtonBox::Ok)->setEnabled(found.has_value());
    if (!found)
        return say(qs(found.error().text()));
    m_format = *found;
    // What the device declared goes before what a heading suggests.
    for (store::CsvColumn& column : m_format.columns)
        for (const core::Channel& c : m_about.channels)
            if (!column.isTime && c.name == column.header) {
                column.kind = c.kind;
                column.subject = c.subject;
                column.scale = 1;
                column.fahrenheit = false;
            }
    m_separator->setCurrentIndex(std::max(0, m_separator->findData(QChar(QLatin1Char(m_format.separator)))));
    m_decimal->setCurrentIndex(m_format.decimal == ',' ? 1 : 0);
    m_timeFormat->setCurrentIndex(static_cast<int>(m_format.time));
    m_header->setChecked(m_format.header);
    fillColumns();
}

/// Mounts of the parts the columns belong to, by the rule the command line goes by; what the headings leave open is
/// asked.
std::vector<std::string> ImportDialog::mountsOf(const std::vector<store::CsvColumn>& columns) {
    core::Samples headings;
    for (const store::CsvColumn& c : columns) {
        const bool read = c.use && !c.isTime;
        headings.channels.push_back({.name = c.header,
                                     .kind = read ? c.kind : ChannelKind::Other,
                                     .subject = read ? c.subject : std::string()});
    }
    QStringList open;
    for (const store::Ambiguous& a : store::assignSubjects(m_context.document.project(), m_context.document.revision(),
                                                           headings, store::Guess::Never))
        open << qs(a.text());
    m_unclear->setVisible(!open.isEmpty());
    m_unclear->setText(tr("Whose is it? %1. Choose under Of; a column that stays at – proves nothing of a part.")
                           .arg(open.join(QStringLiteral("; "))));
    std::vector<std::string> mounts;
    for (const core::Channel& c : headings.channels)
        mounts.push_back(c.subject);
    return mounts;
}

/// What a column is was changed by hand: whose it is then is asked as if its heading had said so. Whose it is by hand
/// stays.
void ImportDialog::askAgain() {
    std::vector<store::CsvColumn> columns = format().columns;
    for (std::size_t i = 0; i < columns.size(); ++i)
        if (!m_saidOf.contains(i))
            columns[i].subject = m_format.columns[i].subject;
    const std::vector<std::string> mounts = mountsOf(columns);
    const auto box = [this](std::size_t row, Column column) {
        return static_cast<QComboBox*>(m_columns->cellWidget(static_cast<int>(row), column));
    };
    // A part that was given its column by hand wants no second one of the same kind.
    const auto given = [&](std::size_t row) {
        return std::any_of(m_saidOf.begin(), m_saidOf.end(), [&](std::size_t other) {
            return columns[other].kind == columns[row].kind && mounts[other] == mounts[row];
        });
    };
    for (std::size_t row = 0; row < columns.size(); ++row)
        if (!m_saidOf.contains(row))
            box(row, Of)->setCurrentIndex(given(row) ? 0 : std::max(0, box(row, Of)->findData(qs(mounts[row]))));
}

void ImportDialog::fillColumns() {
    const auto* e = m_context.view().evaluation();
    const std::vector<std::string> mounts = mountsOf(m_format.columns);
    // The first two rows of readings, so that one sees what a column holds.
    std::vector<std::vector<std::string>> rows;
    std::size_t at = 0;
    for (int line = 0; line < 3 && at < m_head.size(); ++line) {
        store::CsvRecord record = store::readRecord(m_head, at, m_format.separator);
        at = record.end;
        if (line > 0 || !m_format.header)
            rows.push_back(std::move(record.fields));
    }
    m_columns->setRowCount(0);
    m_saidOf.clear();
    for (std::size_t i = 0; i < m_format.columns.size(); ++i) {
        const store::CsvColumn& c = m_format.columns[i];
        const int row = m_columns->rowCount();
        m_columns->insertRow(row);
        QStringList first;
        for (const auto& r : rows)
            if (i < r.size())
                first << qs(r[i]);
        for (const auto& [column, text] : {std::pair<int, QString>{Header, qs(c.header)},
                                           std::pair<int, QString>{First, first.join(QStringLiteral(", "))}}) {
            auto* item = new QTableWidgetItem(text);
            item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable);
            m_columns->setItem(row, column, item);
        }
        auto* role = new QComboBox(m_columns);
        role->addItem(tr("time"), timeRole);
        for (const ChannelKind k : kinds)
            role->addItem(qs(core::channelKindWord(k)), static_cast<int>(k));
        role->addItem(tr("left out"), skipRole);
        auto* unit = new QComboBox(m_columns);
        auto* of = new QComboBox(m_columns);
        of->addItem(QStringLiteral("–"), QString());
        if (e)
            for (const core::Placed& p : e->build.placed)
                of->addItem(qs(p.name), qs(p.mount));
        const auto fillUnits = [role, unit] {
            unit->clear();
            const int r = role->currentData().toInt();
            if (r >= 0)
                for (const UnitWord& u : unitsOf(static_cast<ChannelKind>(r)))
                    unit->addItem(QString::fromUtf8(u.word));
            unit->setEnabled(unit->count() > 1);
        };
        role->setCurrentIndex(role->findData(c.isTime ? timeRole : !c.use ? skipRole : static_cast<int>(c.kind)));
        fillUnits();
        connect(role, &QComboBox::currentIndexChanged, unit, fillUnits);
        connect(role, &QComboBox::activated, this, &ImportDialog::askAgain);
        connect(of, &QComboBox::activated, this, [this, i] {
            m_saidOf.insert(i);
            askAgain(); // the question goes with its answer
        });
        if (c.fahrenheit || c.scale == 1000)
            unit->setCurrentIndex(1);
        of->setCurrentIndex(std::max(0, of->findData(qs(mounts[i]))));
        m_columns->setCellWidget(row, Role, role);
        m_columns->setCellWidget(row, Unit, unit);
        m_columns->setCellWidget(row, Of, of);
    }
}

store::CsvFormat ImportDialog::format() const {
    store::CsvFormat f = m_format;
    f.separator = static_cast<char>(m_separator->currentData().toChar().toLatin1());
    f.decimal = static_cast<char>(m_decimal->currentData().toChar().toLatin1());
    f.header = m_header->isChecked();
    f.time = static_cast<store::TimeFormat>(m_timeFormat->currentIndex());
    for (int row = 0; row < m_columns->rowCount(); ++row) {
        store::CsvColumn& c = f.columns[static_cast<std::size_t>(row)];
        const int role = static_cast<QComboBox*>(m_columns->cellWidget(row, Role))->currentData().toInt();
        c.isTime = role == timeRole;
        c.use = role >= 0;
        if (role < 0)
            continue;
        c.kind = static_cast<ChannelKind>(role);
        const auto units = unitsOf(c.kind);
        const UnitWord& unit = units[static_cast<std::size_t>(
            std::clamp(static_cast<QComboBox*>(m_columns->cellWidget(row, Unit))->currentIndex(), 0,
                       static_cast<int>(units.size()) - 1))];
        c.fahrenheit = unit.fahrenheit;
        c.scale = unit.scale;
        c.subject = static_cast<QComboBox*>(m_columns->cellWidget(row, Of))->currentData().toString().toStdString();
    }
    return f;
}

void ImportDialog::accept() {
    if (m_job || !fieldsTaken())
        return;
    say({});
    const auto bad = m_readRest->isChecked() ? store::BadField::ReadTheRest : store::BadField::Refuse;
    m_job = std::make_unique<ReadLogJob>(m_context.document.workers(), m_path, format(), bad);
    connect(m_job.get(), &ReadLogJob::progress, m_progress, &QProgressBar::setValue);
    connect(m_job.get(), &ReadLogJob::done, this, &ImportDialog::keep);
    connect(m_job.get(), &ReadLogJob::refused, this, [this](const core::Problem& p) {
        m_progress->hide();
        m_buttons->button(QDialogButtonBox::Ok)->setEnabled(true);
        say(qs(p.text()));
        m_job.release()->deleteLater();
    });
    m_progress->show();
    m_buttons->button(QDialogButtonBox::Ok)->setEnabled(false);
    m_job->start();
}

void ImportDialog::reject() {
    m_job.reset(); // waits for the thread, which sees the stop flag within some thousand rows
    QDialog::reject();
}

void ImportDialog::keep(const ReadLog& log) {
    Document& document = m_context.document;
    core::Run run{.revision = document.revision(),
                  .load = m_load->currentData().toString().toStdString(),
                  .instruments = m_instruments->text().toStdString(),
                  .note = m_note->text().toStdString(),
                  .source = "file",
                  .distanceM = document.project().brief.listenerM};
    run.name = m_name->text().trimmed().toStdString();
    run.id = run.name.empty() ? "run" : run.name;
    for (int n = 2; document.project().run(run.id); ++n)
        run.id = run.name + "-" + std::to_string(n);
    if (m_hasRoom->isChecked())
        run.roomC = stored(m_room);
    run.simulated = m_format.simulated || m_about.simulated;
    run.samples = std::make_shared<core::Samples>(log.samples);
    run.original = log.original;
    const auto done =
        document.edit(tr("Read in %1").arg(qs(run.name)), [&](core::Project& p) { p.runs.push_back(run); });
    if (!done) {
        m_job.release()->deleteLater();
        m_progress->hide();
        m_buttons->button(QDialogButtonBox::Ok)->setEnabled(true);
        return say(qs(done.error().text()));
    }
    m_runId = run.id;
    m_context.selection.select(core::RunRef{run.id});
    QDialog::accept(); // NOLINT(bugprone-parent-virtual-call): what a form checks was checked above
}

} // namespace app

#include "moc_import_dialog.cpp"
