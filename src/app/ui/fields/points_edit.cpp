// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/fields/points_edit.h"

#include "app/ui/fields/number_box.h"
#include "core/base/text.h"
#include "core/base/typed_number.h"

#include <QCoreApplication>
#include <QRegularExpression>

namespace app {
namespace {

/// The numbers of a line: apart by tabs or semicolons, as tables are, else by blanks. A comma is a decimal mark, unless
/// a blank follows it.
QStringList numbersOf(const QString& line) {
    static const QRegularExpression marks(QStringLiteral("[\\t;]|,\\s")), blanks(QStringLiteral("\\s+"));
    const QString plain = line.trimmed();
    return plain.contains(marks) ? plain.split(marks, Qt::SkipEmptyParts) : plain.split(blanks, Qt::SkipEmptyParts);
}

} // namespace

PointsEdit::PointsEdit(Context& context, const core::NumberField& field, int numbers, QWidget* parent)
    : QPlainTextEdit(parent), m_context(context), m_field(field), m_numbers(numbers) {
    setFixedHeight(84);
    setTabChangesFocus(true);
    const QString axes = numbers == 2 ? QStringLiteral("x y") : QStringLiteral("x y z");
    setPlaceholderText(tr("one point a line: %1, in %2").arg(axes, qs(context.show().unit(field.unit.quantity))));
}

void PointsEdit::show(const Points& points) {
    const core::Show show = m_context.show();
    QStringList lines;
    for (const auto& point : points) {
        QStringList words;
        for (const double n : point) {
            QString word = qs(core::shortest(std::round(show.value(m_field.unit.quantity, n) * 1e4) / 1e4));
            words << word.replace(QLatin1Char('.'), QLatin1Char(decimalMark()));
        }
        lines << words.join(QLatin1Char(' '));
    }
    setPlainText(lines.join(QLatin1Char('\n')));
}

core::Result<PointsEdit::Points> PointsEdit::points() const {
    const core::Show show = m_context.show();
    const std::string unit = show.unit(m_field.unit.quantity);
    Points points;
    const QStringList lines = toPlainText().split(QLatin1Char('\n'));
    for (qsizetype i = 0; i < lines.size(); ++i) {
        if (lines[i].trimmed().isEmpty())
            continue;
        const std::string place = tr("line %1").arg(i + 1).toStdString();
        const QStringList words = numbersOf(lines[i]);
        if (words.size() != m_numbers)
            return core::problem(place, tr("holds %1 of %2 numbers").arg(words.size()).arg(m_numbers).toStdString(),
                                 tr("numbers with blanks or tabs between").toStdString());
        std::vector<double> point;
        for (const QString& word : words) {
            const std::string text = word.trimmed().toStdString();
            const core::TypedNumber typed = core::typedNumber(text, unit);
            if (typed.wrong != core::TypedNumber::Wrong::Nothing)
                return core::problem(place, tr("\"%1\" cannot be read").arg(word).toStdString(),
                                     tr("a number of %1").arg(qs(unit)).toStdString());
            point.push_back(show.stored(m_field.unit.quantity, typed.value));
            if (point.back() < m_field.low || point.back() > m_field.high)
                return core::problem(place, tr("\"%1\" is out of range").arg(word).toStdString(),
                                     tr("a number from %1 to %2")
                                         .arg(qs(show.text(m_field.unit.quantity, m_field.low)),
                                              qs(show.text(m_field.unit.quantity, m_field.high)))
                                         .toStdString());
        }
        points.push_back(std::move(point));
    }
    return points;
}

} // namespace app
