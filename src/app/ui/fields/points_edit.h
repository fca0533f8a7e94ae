// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/context.h"
#ifndef Q_MOC_RUN
#include "core/model/fields/field.h"
#endif

#include <QPlainTextEdit>

namespace app {

/// Points one a line, each column in the reader's unit: typed, pasted as a table, or a file of one dropped on it. Units
/// and sums as in every field of a number; a heading may name the units of its columns.
class PointsEdit : public QPlainTextEdit {
    Q_OBJECT
public:
    using Points = std::vector<std::vector<double>>; ///< in stored units, each with as many numbers as were asked for
    /// Places: as many numbers of one field.
    PointsEdit(Context& context, const core::NumberField& field, int numbers, QWidget* parent);
    /// A table: a field for each column.
    PointsEdit(Context& context, std::vector<core::NumberField> columns, QWidget* parent);
    void show(const Points& points);
    /// What stands there; the error names the line and what is wrong with it.
    [[nodiscard]] core::Result<Points> points() const;

    /// Takes what a file holds; the error names the file.
    core::Result<void> read(const QString& path);

Q_SIGNALS:
    void refused(const QString& why); ///< a file that is no table; what stood there stays

protected:
    bool canInsertFromMimeData(const QMimeData* source) const override;
    void insertFromMimeData(const QMimeData* source) override;
    void contextMenuEvent(QContextMenuEvent* event) override;

private:
    void prepare(const QString& words);
    [[nodiscard]] QString unitOf(std::size_t column) const;
    core::Result<double> numberIn(const QString& word, std::size_t column, const std::string& unit,
                                  const std::string& place) const;

    Context& m_context;
    std::vector<core::NumberField> m_columns;
    Points m_shown; ///< as it was put in, and the text that it made
    QString m_shownText;
};

} // namespace app
