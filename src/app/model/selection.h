// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QObject>
#include <QString>
#include <QStringList>

#ifndef Q_MOC_RUN // moc stumbles over concepts
#include "core/model/part.h"
#endif

#include <optional>

namespace app {

/// What is selected in the whole window: one key such as "gap:...", "part:tray/cpu", "target:noise". The only link between views.
class Selection : public QObject {
    Q_OBJECT
public:
    using QObject::QObject;
    [[nodiscard]] const QString& key() const { return m_key; }
    [[nodiscard]] const QString& hovered() const { return m_hovered; }
    void select(const QString& key) {
        if (key == m_key)
            return;
        if (!m_key.isEmpty())
            m_back.append(m_key);
        while (m_back.size() > 20)
            m_back.removeFirst();
        m_key = key;
        Q_EMIT changed();
    }
    void back() {
        m_key = m_back.isEmpty() ? QString{} : m_back.takeLast();
        Q_EMIT changed();
    }
    void hover(const QString& key) {
        if (key == m_hovered)
            return;
        m_hovered = key;
        Q_EMIT hoverChanged();
    }

    /// A part that a dialog is about to place, shown before it is.
    struct Ghost { core::Part part; std::string mount; };
    [[nodiscard]] const std::optional<Ghost>& ghost() const { return m_ghost; }
    void setGhost(std::optional<Ghost> ghost) {
        m_ghost = std::move(ghost);
        Q_EMIT ghostChanged();
    }

Q_SIGNALS:
    void changed();
    void hoverChanged();
    void ghostChanged();

private:
    QString m_key, m_hovered;
    QStringList m_back;
    std::optional<Ghost> m_ghost;
};

} // namespace app
