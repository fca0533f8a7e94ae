// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/dialogs/form_dialog.h"
#include "report/drawing_export.h"

namespace app {

/// Asks how the sections go into a file: kind, sheet, scale. Shows the sheet before a name is asked for.
class SectionsDialog : public FormDialog {
    Q_OBJECT
public:
    SectionsDialog(Context& context, core::fit::Drawing drawing, QWidget* parent);
    /// The drawing under a name; the ending decides the kind. Errors: as report::drawingFile, the file cannot be
    /// written.
    [[nodiscard]] core::Result<void> writeTo(const QString& path);
    /// The name that was chosen with the ending of the kind. Errors: an ending was added and that file is there: nobody
    /// was asked whether to replace it.
    [[nodiscard]] core::Result<QString> completed(const QString& chosen) const;
    [[nodiscard]] QString proposedName() const;
    [[nodiscard]] core::Result<report::SheetLayout> layoutChosen() const;

protected:
    core::Result<void> apply() override;

private:
    void showSheet();
    void paint(QPainter& p, const report::SheetLayout& layout, const QRectF& sheet, const QColor& ink,
               const QColor& faint) const;
    [[nodiscard]] QByteArray pdf(const report::SheetLayout& layout) const;
    [[nodiscard]] QPixmap preview(const report::SheetLayout& layout, const QSize& size) const;

    core::fit::Drawing m_drawing;
    QComboBox *m_kind, *m_paper, *m_scale;
    QLabel *m_picture, *m_words;
};

} // namespace app
