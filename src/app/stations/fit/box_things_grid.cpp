// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/fit/box_things_grid.h"

#include <QHeaderView>
#include <QScopedValueRollback>

#include <algorithm>

namespace app {

BoxThings::BoxThings(QWidget* parent) : QTreeWidget(parent) {
    setObjectName(QStringLiteral("boxThings"));
    setAccessibleName(tr("Things of the box"));
    setColumnCount(2);
    setHeaderHidden(true);
    setUniformRowHeights(true);
    setIndentation(14);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    header()->setStretchLastSection(false);
    header()->setSectionResizeMode(0, QHeaderView::Stretch);
    header()->setSectionResizeMode(1, QHeaderView::ResizeToContents);
    connect(this, &QTreeWidget::currentItemChanged, this, [this](QTreeWidgetItem* now) {
        const auto at = std::find(m_rows.begin(), m_rows.end(), now);
        if (!m_filling && at != m_rows.end())
            Q_EMIT chose(static_cast<int>(at - m_rows.begin()));
    });
    const auto fold = [this](const QTreeWidgetItem* item, bool open) {
        if (m_filling || item->parent())
            return;
        if (open)
            m_open.insert(item->text(0));
        else
            m_open.erase(item->text(0));
    };
    connect(this, &QTreeWidget::itemExpanded, this, [fold](const QTreeWidgetItem* item) { fold(item, true); });
    connect(this, &QTreeWidget::itemCollapsed, this, [fold](const QTreeWidgetItem* item) { fold(item, false); });
}

QTreeWidgetItem* BoxThings::add(QTreeWidgetItem* parent, const QString& name, const QString& size) {
    constexpr int rowHeight = 20;
    auto* item = parent ? new QTreeWidgetItem(parent) : new QTreeWidgetItem(this);
    item->setText(0, name);
    item->setText(1, size);
    item->setToolTip(0, size.isEmpty() ? name : QStringLiteral("%1, %2").arg(name, size));
    item->setTextAlignment(1, Qt::AlignRight | Qt::AlignVCenter);
    item->setSizeHint(0, {0, rowHeight});
    return item;
}

void BoxThings::fill(const std::vector<Row>& rows, int chosen) {
    {
        const QScopedValueRollback quiet(m_filling, true);
        m_rows.clear();
        clear();
        QTreeWidgetItem *group = nullptr, *thing = nullptr;
        for (const Row& row : rows) {
            if (!group || group->text(0) != row.group) {
                group = add(nullptr, row.group, {});
                group->setFlags(Qt::ItemIsEnabled);
            }
            QTreeWidgetItem* item = add(row.within && thing ? thing : group, row.name, row.size);
            if (!row.within)
                thing = item;
            m_rows.push_back(item);
        }
        for (int i = 0; i < topLevelItemCount(); ++i) {
            QTreeWidgetItem* top = topLevelItem(i);
            top->setText(1, QString::number(top->childCount()));
            top->setExpanded(m_open.count(top->text(0)));
            for (int k = 0; k < top->childCount(); ++k)
                top->child(k)->setExpanded(true);
        }
    }
    if (chosen >= 0)
        choose(chosen);
}

void BoxThings::choose(int row) {
    if (row < 0 || row >= static_cast<int>(m_rows.size()))
        return;
    QTreeWidgetItem* item = m_rows[static_cast<std::size_t>(row)];
    for (QTreeWidgetItem* above = item->parent(); above; above = above->parent())
        above->setExpanded(true);
    const QScopedValueRollback quiet(m_filling, true);
    setCurrentItem(item);
    scrollToItem(item);
}

QStringList BoxThings::words() const {
    QStringList all;
    for (int i = 0; i < topLevelItemCount(); ++i) {
        all << topLevelItem(i)->text(0);
        for (const QTreeWidgetItem* item : m_rows)
            if (item->parent() == topLevelItem(i) || item->parent()->parent() == topLevelItem(i))
                all << item->text(0);
    }
    return all;
}

} // namespace app

#include "moc_box_things_grid.cpp"
