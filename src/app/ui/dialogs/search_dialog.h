// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/context.h"
#include "core/advise/search.h"

#include <QCheckBox>
#include <QDialog>
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <QSlider>
#include <QTableWidget>

namespace app {

/// Looks for combinations of parts from the shelf that fit, in the background, ranked by the user's weights.
class SearchDialog : public QDialog {
    Q_OBJECT
public:
    explicit SearchDialog(Context& context, QWidget* parent = nullptr);
    ~SearchDialog() override;

private:
    void addChoices(QVBoxLayout& layout);
    void addTable(QVBoxLayout& layout);
    void start();
    void ask();
    void stop(const QString& words);
    void show(const core::advise::SearchResult& result);
    void applyRow();

    Context& m_context;
    std::vector<std::pair<QCheckBox*, core::PartKind>> m_kinds;
    std::array<QSlider*, 4> m_weights{};
    QPushButton *m_start, *m_apply;
    QProgressBar* m_progress;
    QLabel* m_words;
    QTableWidget* m_table;
    std::vector<core::advise::Combination> m_found;
    std::string m_revision;
    std::optional<core::advise::SearchRequest> m_request; ///< while it is searched for
};

} // namespace app
