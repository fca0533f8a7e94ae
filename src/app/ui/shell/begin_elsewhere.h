// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/context.h"

#include <QPushButton>
#include <QVBoxLayout>
#include <QWidget>

namespace app {

/// In the rail while there is no revision: what else a project can begin with.
class BeginElsewhere : public QWidget {
    Q_OBJECT
public:
    explicit BeginElsewhere(Context& context, QWidget* parent = nullptr);
    /// The projects that were open last, anew.
    void refresh();

Q_SIGNALS:
    void openWanted();
    void caseWanted();
    void demoWanted();
    void recentWanted(const QString& path);

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    QPushButton* offer(const QString& words, const QString& tip, const QString& objectName);
    Context& m_context;
    QVBoxLayout* m_recent;
};

} // namespace app
