// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/context.h"

#include <QDialog>

class QLineEdit;
class QListWidget;

namespace app {

/// Finds a part, gap, fan, opening, socket, lead, target or run by its name.
class FindDialog : public QDialog {
    Q_OBJECT
public:
    FindDialog(Context& context, QWidget* parent);

Q_SIGNALS:
    void found(core::rules::Station station, const core::Thing& thing);

private:
    struct Entry {
        core::rules::Station station;
        core::Thing thing;
        QString name;
    };
    void tellApart();
    void fill();
    void choose();
    std::vector<Entry> m_things;
    QLineEdit* m_text;
    QListWidget* m_list;
};

} // namespace app
