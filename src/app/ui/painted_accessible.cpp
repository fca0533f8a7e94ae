// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/painted_accessible.h"

#include "app/ui/painted_panel.h"

#include <QAccessible>
#include <QAccessibleWidget>
#include <QPointer>

namespace app {
namespace {

/// One place on a drawing. Lives as long as its panel's interface; reads the panel's present list.
class PlaceInterface : public QAccessibleInterface, public QAccessibleActionInterface {
public:
    PlaceInterface(PaintedPanel* panel, int index) : m_panel(panel), m_index(index) {}

    bool isValid() const override { return hit() != nullptr; }
    QObject* object() const override { return nullptr; }
    QAccessibleInterface* parent() const override {
        return m_panel ? QAccessible::queryAccessibleInterface(m_panel) : nullptr;
    }
    QAccessibleInterface* child(int) const override { return nullptr; }
    QAccessibleInterface* childAt(int, int) const override { return nullptr; }
    int childCount() const override { return 0; }
    int indexOfChild(const QAccessibleInterface*) const override { return -1; }
    QAccessible::Role role() const override { return QAccessible::Button; }
    QString text(QAccessible::Text which) const override {
        return which == QAccessible::Name && hit() ? hit()->name : QString();
    }
    void setText(QAccessible::Text, const QString&) override {}
    QRect rect() const override {
        return hit() ? QRect(m_panel->mapToGlobal(hit()->rect.topLeft().toPoint()), hit()->rect.size().toSize())
                     : QRect();
    }
    QAccessible::State state() const override {
        QAccessible::State s;
        s.focusable = s.selectable = true;
        s.selected = hit() && m_panel->isSelected(hit()->thing);
        return s;
    }
    void* interface_cast(QAccessible::InterfaceType type) override {
        return type == QAccessible::ActionInterface ? static_cast<QAccessibleActionInterface*>(this) : nullptr;
    }
    QStringList actionNames() const override { return {pressAction()}; }
    void doAction(const QString& name) override {
        if (name == pressAction() && hit())
            m_panel->press(Hit(*hit()));
    }
    QStringList keyBindingsForAction(const QString&) const override { return {}; }

private:
    [[nodiscard]] const Hit* hit() const {
        return m_panel && m_index < static_cast<int>(m_panel->hits().size())
                   ? &m_panel->hits()[static_cast<std::size_t>(m_index)]
                   : nullptr;
    }
    QPointer<PaintedPanel> m_panel;
    int m_index;
};

class PanelInterface : public QAccessibleWidget {
public:
    explicit PanelInterface(PaintedPanel* panel) : QAccessibleWidget(panel, QAccessible::Grouping), m_panel(panel) {}
    ~PanelInterface() override {
        for (const QAccessible::Id id : m_ids)
            QAccessible::deleteAccessibleInterface(id);
    }
    int childCount() const override { return static_cast<int>(m_panel->hits().size()); }
    QAccessibleInterface* child(int index) const override {
        if (index < 0 || index >= childCount())
            return nullptr;
        while (static_cast<int>(m_ids.size()) <= index)
            m_ids.push_back(
                QAccessible::registerAccessibleInterface(new PlaceInterface(m_panel, static_cast<int>(m_ids.size()))));
        return QAccessible::accessibleInterface(m_ids[static_cast<std::size_t>(index)]);
    }
    QAccessibleInterface* childAt(int x, int y) const override {
        const Hit* hit = m_panel->hitAt(m_panel->mapFromGlobal(QPoint(x, y)));
        return hit ? child(static_cast<int>(hit - m_panel->hits().data())) : nullptr;
    }
    int indexOfChild(const QAccessibleInterface* wanted) const override {
        for (std::size_t i = 0; i < m_ids.size(); ++i)
            if (QAccessible::accessibleInterface(m_ids[i]) == wanted)
                return static_cast<int>(i);
        return -1;
    }

private:
    PaintedPanel* m_panel;
    mutable std::vector<QAccessible::Id> m_ids;
};

QAccessibleInterface* makeInterface(const QString&, QObject* object) {
    auto* panel = qobject_cast<PaintedPanel*>(object);
    return panel ? new PanelInterface(panel) : nullptr;
}

} // namespace

void installPaintedAccessibility() { QAccessible::installFactory(makeInterface); }

} // namespace app
