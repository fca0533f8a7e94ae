// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QTreeWidget>

#include <set>
#include <vector>

namespace app {

/// The things of the box by their kind, each with its size; groups fold, and stay as they were folded.
class BoxThings : public QTreeWidget {
    Q_OBJECT
public:
    struct Row {
        QString group, name, size;
        bool within = false; ///< of the thing before it that is not
    };
    explicit BoxThings(QWidget* parent = nullptr);
    /// @p chosen: its number among the rows, -1: none is.
    void fill(const std::vector<Row>& rows, int chosen);
    void choose(int row);
    /// What stands in each row, groups among them, from above.
    [[nodiscard]] QStringList words() const;

Q_SIGNALS:
    void chose(int row);

private:
    QTreeWidgetItem* add(QTreeWidgetItem* parent, const QString& name, const QString& size);
    std::vector<QTreeWidgetItem*> m_rows;
    std::set<QString> m_open; ///< groups
    bool m_filling = false;
};

} // namespace app
