// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/context.h"

#include <QDialog>

class QMenu;

namespace app {

/// All keys on one page: those of the menu, read from the menu itself, and those of each sheet.
class KeysDialog : public QDialog {
    Q_OBJECT
public:
    KeysDialog(Context& context, const QMenu& menu, QWidget* parent);
};

} // namespace app
