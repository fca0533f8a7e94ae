// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/make/printer_dialog.h"

namespace app {

PrinterDialog::PrinterDialog(Context& context, QWidget* parent) : FormDialog(context, tr("Printer"), parent) {
    setObjectName(QStringLiteral("printer"));
    m_rows.add(context.document.project().printer);
    resize(440, sizeHint().height());
}

core::Result<void> PrinterDialog::apply() {
    return m_context.document.edit(tr("Printer"), [&](core::Project& p) { m_rows.take(p.printer); });
}

} // namespace app

#include "moc_printer_dialog.cpp"
