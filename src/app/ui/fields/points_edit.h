// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/context.h"
#ifndef Q_MOC_RUN
#include "core/model/fields/field.h"
#endif

#include <QPlainTextEdit>

namespace app {

/// Points one a line, in the reader's unit: typed, or pasted as a table. Units and sums as in every field of a number.
class PointsEdit : public QPlainTextEdit {
    Q_OBJECT
public:
    using Points = std::vector<std::vector<double>>; ///< in stored units, each with as many numbers as were asked for
    PointsEdit(Context& context, const core::NumberField& field, int numbers, QWidget* parent);
    void show(const Points& points);
    /// What stands there; the error names the line and what is wrong with it.
    [[nodiscard]] core::Result<Points> points() const;

private:
    Context& m_context;
    core::NumberField m_field;
    int m_numbers;
};

} // namespace app
