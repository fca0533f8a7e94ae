// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/context.h"
#include "core/advise/search.h"

#include <QCheckBox>
#include <QDialog>
#include <QFutureWatcher>
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <QSlider>
#include <QTableWidget>

#include <atomic>

namespace app {

/// Looks for combinations of parts from the shelf that fit, in the background, ranked by the user's weights.
class SearchDialog : public QDialog {
    Q_OBJECT
public:
    explicit SearchDialog(Context& context, QWidget* parent = nullptr);
    ~SearchDialog() override;
    /// For tests: waits for the search that is under way.
    void finish();

private:
    void addChoices(QVBoxLayout& layout);
    void addTable(QVBoxLayout& layout);
    void start();
    void show(const core::Result<core::advise::SearchResult>& result);
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
    struct Job {
        std::atomic<bool> cancelled{false};
        std::atomic<int> percent{0};
    };
    std::shared_ptr<Job> m_job;
    QFutureWatcher<std::shared_ptr<core::Result<core::advise::SearchResult>>> m_watcher;
};

} // namespace app
