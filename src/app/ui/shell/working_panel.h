// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/painted_panel.h"

#include <QScrollArea>

namespace app {

/// How the selected figure was worked out; always in the same order.
class WorkingSheet : public PaintedPanel {
    Q_OBJECT
public:
    explicit WorkingSheet(Context& context, QWidget* parent = nullptr);
    [[nodiscard]] const std::optional<core::explain::Working>& working() const { return m_working; }
    void refresh();
    /// What is shown while there is no project: the box that is about to be one. Nothing: there is none.
    void showBefore(std::optional<core::explain::Working> working);

protected:
    void paintContent(Canvas& canvas) override;
    void refreshKept() override { refresh(); }

private:
    double paintRows(Canvas& c, double y, const core::explain::Working& w, const View& v);
    double paintDoubt(Canvas& c, double y, const core::explain::Working& w, const View& v);
    double paintPeers(Canvas& c, double y, const core::explain::Working& w, const View& v);
    double paintFound(Canvas& c, double y, const core::explain::Working& w);
    double paintLearned(Canvas& c, double y, const core::explain::Working& w, const View& v);
    double paintChanges(Canvas& c, double y, const core::explain::Working& w, const View& v);
    static std::optional<double> valueOf(const core::Thing& thing, const core::stages::Evaluation& e,
                                         const core::verdict::RevisionVerdict& verdict);
    double paintHistory(Canvas& c, double y, const View& v);
    std::optional<core::explain::Working> m_working, m_before;
    QString m_missing;
};

class WorkingPanel : public QWidget {
    Q_OBJECT
public:
    explicit WorkingPanel(Context& context, QWidget* parent = nullptr);
    [[nodiscard]] WorkingSheet* sheet() const { return m_sheet; }
    void showBefore(std::optional<core::explain::Working> working); ///< as of the sheet

private:
    Context& m_context;
    WorkingSheet* m_sheet;
    QWidget* m_head;
};

} // namespace app
