// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QObject>

#ifndef Q_MOC_RUN // moc stumbles over concepts
#include "core/model/thing.h"
#endif

#include <optional>
#include <vector>

namespace app {

/// What is selected in the whole window. The only link between views.
class Selection : public QObject {
    Q_OBJECT
public:
    using QObject::QObject;
    [[nodiscard]] const core::Thing& thing() const { return m_thing; }
    [[nodiscard]] const core::Thing& hovered() const { return m_hovered; }
    void select(const core::Thing& thing) {
        if (thing == m_thing)
            return;
        if (!core::isNothing(m_thing))
            m_back.push_back(m_thing);
        if (m_back.size() > 20)
            m_back.erase(m_back.begin());
        m_thing = thing;
        Q_EMIT changed();
    }
    void back() {
        m_thing = m_back.empty() ? core::Thing{} : m_back.back();
        if (!m_back.empty())
            m_back.pop_back();
        Q_EMIT changed();
    }
    void hover(const core::Thing& thing) {
        if (thing == m_hovered)
            return;
        m_hovered = thing;
        Q_EMIT hoverChanged();
    }

    /// A part that a dialog is about to place, shown before it is.
    struct Ghost {
        core::Part part;
        std::string mount;
    };
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
    core::Thing m_thing, m_hovered;
    std::vector<core::Thing> m_back;
    std::optional<Ghost> m_ghost;
};

} // namespace app
