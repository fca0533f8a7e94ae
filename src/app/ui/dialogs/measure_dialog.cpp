// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/dialogs/measure_dialog.h"

#include <QHeaderView>
#include <QLocale>
#include <QPushButton>

namespace app {
using core::Quantity;

namespace {
constexpr std::array tools{core::Source::Caliper, core::Source::SteelRule, core::Source::Drawing};

/// What was typed, with a point or a comma; nothing when the cell is empty.
std::optional<double> typed(const QString& text, bool& good) {
    QString number = text.trimmed();
    good = true;
    if (number.isEmpty())
        return std::nullopt;
    return number.replace(QLatin1Char(','), QLatin1Char('.')).toDouble(&good);
}
} // namespace

MeasureDialog::MeasureDialog(Context& context, QWidget* parent)
    : FormDialog(context, tr("Measuring sheet of %1").arg(qs(context.document.revision())), parent) {
    if (const auto* e = context.view().evaluation())
        m_rows = core::fit::measureNext(e->fit);
    const View v = context.view();
    m_table = new QTableWidget(static_cast<int>(m_rows.size()), 4, this);
    m_table->setObjectName(QStringLiteral("measures"));
    m_table->setHorizontalHeaderLabels({tr("Dimension"), tr("Known, %1").arg(v.unit(Quantity::Length)),
                                        tr("Measured, %1").arg(v.unit(Quantity::Length)), tr("Tool")});
    m_table->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
    for (int i = 0; i < m_table->rowCount(); ++i) {
        const auto& row = m_rows[static_cast<std::size_t>(i)];
        auto* name = new QTableWidgetItem(qs(row.label));
        auto* known = new QTableWidgetItem(QStringLiteral("%1 ±%2, %3")
                                               .arg(v.number(Quantity::Length, row.now.value.mm()),
                                                    v.number(Quantity::Length, row.now.tolerance.mm()),
                                                    qs(core::sourceWord(row.now.source))));
        for (auto* item : {name, known})
            item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable);
        name->setToolTip(v.words(core::explain::textOf(row)));
        m_table->setItem(i, 0, name);
        m_table->setItem(i, 1, known);
        m_table->setItem(i, 2, new QTableWidgetItem);
        auto* tool = new QComboBox(m_table);
        for (const core::Source source : {core::Source::Caliper, core::Source::SteelRule, core::Source::Drawing})
            tool->addItem(v.words(core::explain::textOf(source)));
        m_table->setCellWidget(i, 3, tool);
    }
    m_table->resizeColumnsToContents();
    m_table->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
    m_layout->insertWidget(0, m_table, 1);
    auto* hint = new QLabel(
        m_rows.empty()
            ? tr("Nothing is in doubt that a caliper would settle.")
            : tr("Most settling first. Leave a row empty to keep what is known; sources and odds follow at once."),
        this);
    hint->setWordWrap(true);
    m_layout->insertWidget(0, hint);
    m_buttons->button(QDialogButtonBox::Ok)->setText(tr("Save"));
    resize(720, 460);
}

core::Result<void> MeasureDialog::apply() {
    std::vector<std::pair<core::DimensionOrigin, core::Measure>> values;
    for (int i = 0; i < m_table->rowCount(); ++i) {
        bool good = true;
        const auto value = typed(m_table->item(i, 2)->text(), good);
        const auto& row = m_rows[static_cast<std::size_t>(i)];
        if (!good)
            return core::problem(row.label, "\"" + m_table->item(i, 2)->text().toStdString() + "\" is not a number",
                                 "what the caliper shows, e.g. 67.2");
        if (!value)
            continue;
        const auto tool = static_cast<std::size_t>(qobject_cast<QComboBox*>(m_table->cellWidget(i, 3))->currentIndex());
        const double mm = m_context.show().stored(Quantity::Length, *value);
        // A place may be measured from the other side; a size is not negative.
        if (row.origin.what == core::DimensionOrigin::What::PartSize && mm <= 0)
            return core::problem(row.label, "a size of " + m_table->item(i, 2)->text().toStdString(), "more than 0");
        values.emplace_back(row.origin, core::measureMm(mm, tools[tool]));
    }
    // All of them on a copy first: one that has no place any more leaves everything as it was.
    core::Project after = m_context.document.project();
    for (const auto& [origin, measure] : values)
        if (auto done = core::setMeasured(after, origin, measure); !done)
            return done;
    return m_context.document.edit(
        tr("Measured %1").arg(counted(static_cast<qsizetype>(values.size()), tr("1 dimension"), tr("%1 dimensions"))),
        [&](core::Project& p) { p = after; });
}

QString measuringSheet(const View& v) {
    QString html =
        QStringLiteral("<h2>%1</h2><p>%2</p><table border='1' cellspacing='0' cellpadding='5' "
                       "width='100%'><tr><th>%3</th><th align='left'>%4</th><th align='left'>%5</th><th "
                       "align='left'>%6</th><th width='16%'>%7</th><th width='14%'>%8</th></tr>")
            .arg(QObject::tr("Measuring sheet: %1, revision %2")
                     .arg(qs(v.project().name), qs(v.document.revision()))
                     .toHtmlEscaped(),
                 QObject::tr("The most settling dimension first. Power off and unplugged; mind the edges of cut sheet.")
                     .toHtmlEscaped(),
                 QObject::tr("No."), QObject::tr("Dimension"), QObject::tr("Known, %1").arg(v.unit(Quantity::Length)),
                 QObject::tr("Settles"), QObject::tr("Measured, %1").arg(v.unit(Quantity::Length)),
                 QObject::tr("Tool"));
    const auto* e = v.evaluation();
    int n = 0;
    for (const auto& row : e ? core::fit::measureNext(e->fit) : std::vector<core::fit::MeasureNext>{}) {
        QString settles =
            counted(static_cast<qsizetype>(row.gaps.size()), QObject::tr("1 gap"), QObject::tr("%1 gaps"));
        if (row.settles() >= 0.0005)
            settles += QObject::tr(", risk %1 to %2 %")
                           .arg(v.number(Quantity::Share, row.riskNow), v.number(Quantity::Share, row.riskThen));
        html +=
            QStringLiteral("<tr><td align='center'>%1</td><td>%2</td><td>%3 ±%4, "
                           "%5</td><td>%6</td><td>&nbsp;</td><td>&nbsp;</td></tr>")
                .arg(++n)
                .arg(qs(row.label).toHtmlEscaped())
                .arg(v.number(Quantity::Length, row.now.value.mm()), v.number(Quantity::Length, row.now.tolerance.mm()),
                     qs(core::sourceWord(row.now.source)), settles.toHtmlEscaped());
    }
    return html + QStringLiteral("</table>") +
           (n == 0 ? QStringLiteral("<p>%1</p>").arg(QObject::tr("Nothing is in doubt that a caliper would settle."))
                   : QString());
}

} // namespace app

#include "moc_measure_dialog.cpp"
