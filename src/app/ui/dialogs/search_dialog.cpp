// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/dialogs/search_dialog.h"

#include "app/ui/style.h"
#include "core/base/text.h"

#include <QFormLayout>
#include <QHBoxLayout>
#include <QHeaderView>

namespace app {
using core::PartKind;
using core::Quantity;

/// What may be chosen anew, and what counts.
void SearchDialog::addChoices(QVBoxLayout& layout) {
    auto* kinds = new QHBoxLayout;
    for (const auto& [words, kind] :
         {std::pair{tr("Cooler"), PartKind::Cooler}, std::pair{tr("Fans"), PartKind::Fan},
          std::pair{tr("Card"), PartKind::Card}, std::pair{tr("Supply"), PartKind::PowerSupply},
          std::pair{tr("Drives"), PartKind::Drive}, std::pair{tr("Radiator"), PartKind::Radiator}}) {
        auto* box = new QCheckBox(words, this);
        box->setObjectName(QStringLiteral("kind-") + qs(core::kindWord(kind)));
        box->setChecked(kind == PartKind::Cooler || kind == PartKind::Fan);
        kinds->addWidget(box);
        m_kinds.emplace_back(box, kind);
    }
    kinds->addStretch();
    layout.addLayout(kinds);
    auto* weights = new QHBoxLayout;
    const QString names[] = {tr("Odds"), tr("Cooling"), tr("Quiet"), tr("Price")};
    for (std::size_t i = 0; i < 4; ++i) {
        m_weights[i] = new QSlider(Qt::Horizontal, this);
        m_weights[i]->setObjectName(QStringLiteral("weight%1").arg(i));
        m_weights[i]->setRange(0, 10);
        m_weights[i]->setValue(5);
        m_weights[i]->setAccessibleName(names[i]);
        weights->addWidget(new QLabel(names[i], this));
        weights->addWidget(m_weights[i]);
    }
    layout.addLayout(weights);
}

void SearchDialog::addTable(QVBoxLayout& layout) {
    const View v = m_context.view();
    m_table = new QTableWidget(0, 7, this);
    m_table->setObjectName(QStringLiteral("combinations"));
    m_table->setHorizontalHeaderLabels(
        {tr("Against %1").arg(qs(m_revision)), tr("Odds, %"), tr("Keeps, %1").arg(v.unit(Quantity::Length)),
         tr("CPU, %1").arg(v.unit(Quantity::Temperature)), tr("Card, %1").arg(v.unit(Quantity::Temperature)),
         tr("dB(A)"), qs(v.project().currency)});
    m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_table->setWordWrap(true);
    m_table->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    m_table->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
    layout.addWidget(m_table, 1);
}

SearchDialog::SearchDialog(Context& context, QWidget* parent)
    : QDialog(parent), m_context(context), m_revision(context.document.revision()) {
    setWindowTitle(tr("Search combinations for %1").arg(qs(m_revision)));
    setAttribute(Qt::WA_DeleteOnClose);
    auto* layout = new QVBoxLayout(this);
    auto* head = new QLabel(tr("Every combination of the shelf's parts of these kinds at the places that take them. "
                               "Only those that fit are listed; the weights set their order."),
                            this);
    head->setWordWrap(true);
    layout->addWidget(head);
    addChoices(*layout);
    auto* row = new QHBoxLayout;
    m_start = new QPushButton(tr("Search"), this);
    m_start->setObjectName(QStringLiteral("startSearch"));
    m_start->setProperty(mainAction, true);
    m_start->setDefault(true);
    m_progress = new QProgressBar(this);
    m_progress->setObjectName(QStringLiteral("searchProgress"));
    m_progress->setRange(0, 100);
    m_progress->setVisible(false);
    m_words = new QLabel(this);
    m_words->setObjectName(QStringLiteral("searchWords"));
    m_words->setWordWrap(true);
    row->addWidget(m_start);
    row->addWidget(m_progress, 1);
    row->addWidget(m_words, 3);
    layout->addLayout(row);
    addTable(*layout);
    auto* foot = new QHBoxLayout;
    m_apply = new QPushButton(tr("Make revision"), this);
    m_apply->setObjectName(QStringLiteral("applyCombination"));
    m_apply->setEnabled(false);
    auto* closing = new QPushButton(tr("Close"), this);
    foot->addStretch();
    foot->addWidget(m_apply);
    foot->addWidget(closing);
    layout->addLayout(foot);
    resize(820, 560);
    connect(m_start, &QPushButton::clicked, this, &SearchDialog::start);
    connect(m_apply, &QPushButton::clicked, this, &SearchDialog::applyRow);
    connect(closing, &QPushButton::clicked, this, &QDialog::close);
    connect(m_table, &QTableWidget::itemSelectionChanged, this,
            [this] { m_apply->setEnabled(m_table->currentRow() >= 0 && !m_found.empty()); });
    const StageStore& stages = m_context.document.stages();
    const auto isOurs = [this](const StageStore::Key& key) {
        return key.stage == core::stages::Stage::Search && key.of == m_revision;
    };
    connect(&stages, &StageStore::published, this, [this, isOurs](const StageStore::Key& key) {
        if (m_request && isOurs(key))
            ask();
    });
    connect(&stages, &StageStore::progressed, this, [this, isOurs](const StageStore::Key& key, int percent) {
        if (isOurs(key))
            m_progress->setValue(percent);
    });
}

SearchDialog::~SearchDialog() { m_context.document.results().stopSearch(m_revision); }

void SearchDialog::start() {
    if (m_request) { // the same button stops it
        m_context.document.results().stopSearch(m_revision);
        return stop(tr("Stopped. Nothing was changed."));
    }
    core::advise::SearchRequest request;
    for (const auto& [box, kind] : m_kinds)
        if (box->isChecked())
            request.kinds.push_back(kind);
    const auto weight = [&](std::size_t i) { return static_cast<double>(m_weights[i]->value()); };
    request.weights = {weight(0), weight(1), weight(2), weight(3)};
    m_request = std::move(request);
    m_progress->setVisible(true);
    m_progress->setValue(0);
    m_words->clear();
    m_start->setText(tr("Cancel"));
    ask();
}

void SearchDialog::ask() {
    const auto answer = m_context.document.results().search(m_revision, *m_request);
    if (answer.standing == Standing::Pending)
        return; // told when it is there
    stop(qs(answer.why));
    if (answer.standing == Standing::Ready)
        show(*answer.value);
}

void SearchDialog::stop(const QString& words) {
    m_request.reset();
    m_progress->setVisible(false);
    m_start->setText(tr("Search"));
    m_table->setRowCount(0);
    m_found.clear();
    m_words->setText(words);
}

void SearchDialog::show(const core::advise::SearchResult& result) {
    m_found = result.best;
    // A table of things that do not fit is no answer.
    const bool none = result.fitting == 0 || !result.otherwiseShort.empty();
    if (none)
        m_found.clear();
    QString words = none ? tr("None of %1 combinations fits").arg(result.combinations)
                         : tr("%1 of %2 combinations fit").arg(result.fitting).arg(result.combinations);
    if (!result.otherwiseShort.empty())
        words += tr(": %1 is short whatever is chosen").arg(m_context.view().words(result.otherwiseShort.front()));
    else if (none)
        words += tr(": let more kinds of parts be chosen anew, or put others on the shelf");
    m_words->setText(words);
    const View v = m_context.view();
    m_table->setRowCount(static_cast<int>(m_found.size()));
    for (std::size_t i = 0; i < m_found.size(); ++i) {
        const auto& f = m_found[i];
        const auto number = [&](Quantity q, double value) {
            return std::isfinite(value) ? v.number(q, value) : QStringLiteral("–");
        };
        const QString cells[] = {m_context.view().words(f.text),
                                 number(Quantity::Share, f.odds),
                                 v.signedNumber(Quantity::Length, f.worstMarginMm),
                                 number(Quantity::Temperature, f.processorC),
                                 number(Quantity::Temperature, f.cardC),
                                 number(Quantity::Level, f.noiseDba),
                                 qs(core::fixed(f.price, 0))};
        for (int column = 0; column < 7; ++column) {
            auto* item = new QTableWidgetItem(cells[column]);
            if (column > 0)
                item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
            else
                item->setToolTip(cells[0]);
            m_table->setItem(static_cast<int>(i), column, item);
        }
    }
    m_table->resizeRowsToContents(); // all of the words can be read
    if (!m_found.empty())
        m_table->selectRow(0);
}

void SearchDialog::applyRow() {
    const int row = m_table->currentRow();
    if (row < 0 || m_found[static_cast<std::size_t>(row)].changes.empty())
        return;
    const auto made = m_context.document.newRevision(m_revision, m_found[static_cast<std::size_t>(row)].changes,
                                                     tr("From a search of combinations").toStdString());
    if (!made)
        return m_words->setText(qs(made.error().text()));
    close();
}

} // namespace app

#include "moc_search_dialog.cpp"
