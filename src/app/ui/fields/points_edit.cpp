// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/fields/points_edit.h"

#include "app/ui/fields/number_box.h"
#include "core/base/text.h"
#include "core/base/typed_number.h"

#include <QContextMenuEvent>
#include <QCoreApplication>
#include <QFile>
#include <QFileDialog>
#include <QMenu>
#include <QMimeData>
#include <QRegularExpression>
#include <QUrl>

namespace app {
namespace {

/// The numbers of a line: apart by tabs or semicolons, as tables are, else by blanks. A comma is a decimal mark, unless
/// a blank follows it, or commas are all there is between as many numbers as are asked for.
QStringList numbersOf(const QString& line, std::size_t columns) {
    static const QRegularExpression marks(QStringLiteral("[\\t;]|,\\s")), blanks(QStringLiteral("\\s+"));
    const QString plain = line.trimmed();
    if (plain.contains(marks))
        return plain.split(marks, Qt::SkipEmptyParts);
    if (plain.contains(blanks))
        return plain.split(blanks, Qt::SkipEmptyParts);
    const QStringList byComma = plain.split(QLatin1Char(','), Qt::SkipEmptyParts);
    return static_cast<std::size_t>(byComma.size()) == columns ? byComma : QStringList{plain};
}

bool isHeading(const QString& line) {
    static const QRegularExpression number(QStringLiteral("(^|[\\s;,])[+-]?[.,]?\\d"));
    return !line.contains(number);
}

/// The unit that a cell of a heading names: "flow (CFM)" means CFM. Empty: none that its column can have.
std::string unitIn(const QString& cell, const std::string& usual) {
    static const QRegularExpression apart(QStringLiteral("[\\s()\\[\\],_]+"));
    for (const QString& word : cell.split(apart, Qt::SkipEmptyParts))
        if (core::typedNumber("1 " + word.toStdString(), usual).wrong == core::TypedNumber::Wrong::Nothing)
            return word.toStdString();
    return {};
}

} // namespace

PointsEdit::PointsEdit(Context& context, const core::NumberField& field, int numbers, QWidget* parent)
    : QPlainTextEdit(parent), m_context(context), m_columns(static_cast<std::size_t>(numbers), field) {
    const QString axes = numbers == 2 ? QStringLiteral("x y") : QStringLiteral("x y z");
    prepare(tr("one point a line: %1, in %2").arg(axes, unitOf(0)));
}

PointsEdit::PointsEdit(Context& context, std::vector<core::NumberField> columns, QWidget* parent)
    : QPlainTextEdit(parent), m_context(context), m_columns(std::move(columns)) {
    QStringList names;
    for (std::size_t c = 0; c < m_columns.size(); ++c) {
        const QString label = QCoreApplication::translate("fields", m_columns[c].label).toLower();
        names << (unitOf(c).isEmpty() ? label : tr("%1 in %2").arg(label, unitOf(c)));
    }
    prepare(tr("one point a line: %1. A table can be pasted, or its file dropped here.")
                .arg(names.join(QStringLiteral(", "))));
}

void PointsEdit::prepare(const QString& words) {
    setFixedHeight(84);
    setTabChangesFocus(true);
    setPlaceholderText(words);
}

QString PointsEdit::unitOf(std::size_t column) const {
    const core::Unit& unit = m_columns[column].unit;
    return unit.quantity == core::Quantity::None ? QString::fromUtf8(unit.text)
                                                 : qs(m_context.show().unit(unit.quantity));
}

void PointsEdit::show(const Points& points) {
    const core::Show show = m_context.show();
    QStringList lines;
    for (const auto& point : points) {
        QStringList words;
        for (std::size_t c = 0; c < point.size(); ++c) {
            const core::Unit& unit = m_columns[c].unit;
            QString word =
                qs(core::shortest(std::round(show.value(unit.quantity, point[c] * unit.factor) * 1e4) / 1e4));
            words << word.replace(QLatin1Char('.'), QLatin1Char(decimalMark()));
        }
        lines << words.join(QLatin1Char(' '));
    }
    m_shown = points;
    m_shownText = lines.join(QLatin1Char('\n'));
    setPlainText(m_shownText);
}

core::Result<double> PointsEdit::numberIn(const QString& word, std::size_t column, const std::string& unit,
                                          const std::string& place) const {
    const core::Show show = m_context.show();
    const core::NumberField& field = m_columns[column];
    const std::string usual = unitOf(column).toStdString();
    core::TypedNumber typed = core::typedNumber(word.trimmed().toStdString(), usual);
    if (!unit.empty() && word.trimmed().back().isDigit())
        typed = core::typedNumber(word.trimmed().toStdString() + " " + unit, usual);
    if (typed.wrong != core::TypedNumber::Wrong::Nothing)
        return core::problem(place, tr("\"%1\" cannot be read").arg(word).toStdString(),
                             usual.empty() ? tr("a number").toStdString()
                                           : tr("a number of %1").arg(qs(usual)).toStdString());
    const double factor = field.unit.factor, stored = show.stored(field.unit.quantity, typed.value) / factor;
    if (stored < field.low - 1e-12 || stored > field.high + 1e-12)
        return core::problem(place, tr("\"%1\" is out of range").arg(word).toStdString(),
                             tr("a number from %1 to %2")
                                 .arg(qs(show.text(field.unit.quantity, field.low * factor)),
                                      qs(show.text(field.unit.quantity, field.high * factor)))
                                 .toStdString());
    return stored;
}

core::Result<PointsEdit::Points> PointsEdit::points() const {
    if (!m_shownText.isEmpty() && toPlainText() == m_shownText)
        return m_shown; // not touched: to the last digit
    Points points;
    std::vector<std::string> units(m_columns.size());
    const QStringList lines = toPlainText().split(QLatin1Char('\n'));
    for (qsizetype i = 0; i < lines.size(); ++i) {
        if (lines[i].trimmed().isEmpty())
            continue;
        const std::string place = tr("line %1").arg(i + 1).toStdString();
        const QStringList words = numbersOf(lines[i], m_columns.size());
        if (points.empty() && isHeading(lines[i])) {
            for (std::size_t c = 0; c < units.size() && static_cast<qsizetype>(c) < words.size(); ++c)
                units[c] = unitIn(words[static_cast<qsizetype>(c)], unitOf(c).toStdString());
            continue;
        }
        if (static_cast<std::size_t>(words.size()) != m_columns.size())
            return core::problem(place,
                                 tr("holds %1 of %2 numbers").arg(words.size()).arg(m_columns.size()).toStdString(),
                                 tr("numbers with blanks or tabs between").toStdString());
        std::vector<double> point;
        for (std::size_t c = 0; c < m_columns.size(); ++c) {
            const auto number = numberIn(words[static_cast<qsizetype>(c)], c, units[c], place);
            if (!number)
                return tl::make_unexpected(number.error());
            point.push_back(*number);
        }
        points.push_back(std::move(point));
    }
    return points;
}

core::Result<void> PointsEdit::read(const QString& path) {
    constexpr qint64 most = 1 << 20;
    QFile file(path);
    if (!file.open(QIODevice::ReadOnly))
        return core::problem(path.toStdString(), file.errorString().toStdString(), tr("a table as text").toStdString());
    const QByteArray bytes = file.read(most + 1);
    if (bytes.size() > most || bytes.contains('\0'))
        return core::problem(path.toStdString(), tr("is no small table").toStdString(),
                             tr("text with a point on each line").toStdString());
    setPlainText(QString::fromUtf8(bytes).remove(QLatin1Char('\r')).trimmed());
    return {};
}

bool PointsEdit::canInsertFromMimeData(const QMimeData* source) const {
    return source->hasUrls() || QPlainTextEdit::canInsertFromMimeData(source);
}

void PointsEdit::insertFromMimeData(const QMimeData* source) {
    const QList<QUrl> urls = source->urls();
    if (urls.size() != 1 || !urls.front().isLocalFile())
        return QPlainTextEdit::insertFromMimeData(source);
    if (const auto done = read(urls.front().toLocalFile()); !done)
        Q_EMIT refused(qs(done.error().text()));
}

void PointsEdit::contextMenuEvent(QContextMenuEvent* event) {
    const std::unique_ptr<QMenu> menu(createStandardContextMenu());
    menu->addSeparator();
    connect(menu->addAction(tr("Read a table from a file ...")), &QAction::triggered, this, [this] {
        const QString path = QFileDialog::getOpenFileName(this, tr("A table of points"), QString(),
                                                          tr("Tables (*.csv *.txt *.tsv);;All files (*)"));
        if (path.isEmpty())
            return;
        if (const auto done = read(path); !done)
            Q_EMIT refused(qs(done.error().text()));
    });
    menu->exec(event->globalPos());
}

} // namespace app

#include "moc_points_edit.cpp"
