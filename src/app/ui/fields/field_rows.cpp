// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/fields/field_rows.h"

#include "app/ui/fields/points_edit.h"

#include <QCheckBox>
#include <QCoreApplication>
#include <QHBoxLayout>
#include <QScopedValueRollback>

namespace app {
namespace {
constexpr const char* shownProperty = "shown"; ///< what a box showed before anybody touched it

QString helpOf(const core::NumberField& field, bool isNumber) {
    QStringList lines;
    if (*field.help)
        lines << FieldRows::said(field.help);
    if (isNumber && field.zeroIsUnstated)
        lines << QCoreApplication::translate("fields", "0: not stated");
    if (*field.standard)
        lines << QCoreApplication::translate("fields", "Standard: %1").arg(QString::fromUtf8(field.standard));
    return lines.join(QLatin1Char('\n'));
}
} // namespace

QString FieldRows::said(const char* words) { return *words ? QCoreApplication::translate("fields", words) : QString(); }

std::map<std::string, int> FieldRows::countsOf(const QString& text) {
    std::map<std::string, int> counts;
    for (const QString& item : text.split(QLatin1Char(','), Qt::SkipEmptyParts)) {
        const QString words = item.simplified();
        const int number = words.section(QLatin1Char(' '), -1).toInt();
        if (!words.isEmpty())
            counts[words.section(QLatin1Char(' '), 0, 0).toStdString()] += std::max(1, number);
    }
    return counts;
}

QString FieldRows::countsText(const std::map<std::string, int>& counts) {
    QStringList items;
    for (const auto& [kind, n] : counts)
        items << (n == 1 ? qs(kind) : QStringLiteral("%1 %2").arg(qs(kind)).arg(n));
    return items.join(QStringLiteral(", "));
}

QString FieldRows::joined(const std::vector<std::string>& items) {
    QStringList all;
    for (const std::string& item : items)
        all << qs(item);
    return all.join(QStringLiteral(", "));
}

std::vector<std::string> FieldRows::split(const QString& text) {
    std::vector<std::string> items;
    for (const QString& item : text.split(QLatin1Char(','), Qt::SkipEmptyParts))
        if (!item.trimmed().isEmpty())
            items.push_back(item.trimmed().toStdString());
    return items;
}

void FieldRows::put(const core::Field& field, QWidget* widget, Row row) {
    widget->setObjectName(QString::fromLatin1(field.key));
    widget->setToolTip(helpOf(row.about, !row.boxes.empty() && qobject_cast<NumberBox*>(row.boxes.front())));
    row.widget = widget;
    if (m_at < 0)
        m_form.m_form->addRow(said(field.label), widget);
    else
        m_form.m_form->insertRow(m_at++, said(field.label), widget);
    m_rows.push_back(std::move(row));
}

void FieldRows::addFlag(const core::Field& field) {
    auto* box = new QCheckBox(&m_form);
    QObject::connect(box, &QCheckBox::toggled, &m_form, [this] { tell(); });
    put(field, box, {.about = {field}});
}

void FieldRows::addNumbers(const core::NumberField& field, std::size_t count, bool whole) {
    Row row{.about = field};
    const double low = field.zeroIsUnstated ? 0 : field.low; // "not stated" stands at the lower end
    auto* all = count > 1 ? new QWidget(&m_form) : nullptr;
    auto* line = all ? new QHBoxLayout(all) : nullptr;
    if (line)
        line->setContentsMargins(0, 0, 0, 0);
    for (std::size_t i = 0; i < count; ++i) {
        QDoubleSpinBox* box =
            m_form.makeNumber(QString::fromLatin1(field.key) + (count > 1 ? QString::number(i) : QString()),
                              field.unit.quantity, 0, low * field.unit.factor, field.high * field.unit.factor);
        if (whole)
            box->setDecimals(0);
        else if (field.unit.quantity == core::Quantity::None)
            box->setDecimals(field.unit.decimals);
        if (field.unit.quantity == core::Quantity::None)
            box->setSuffix(*field.unit.text ? QStringLiteral("\u00a0") + qs(field.unit.text) : QString());
        if (field.zeroIsUnstated)
            box->setSpecialValueText(QCoreApplication::translate("fields", "not stated"));
        QObject::connect(box, &QDoubleSpinBox::valueChanged, &m_form, [this] { tell(); });
        row.boxes.push_back(box);
        if (line)
            line->addWidget(box);
    }
    QWidget* widget = all ? all : row.boxes.front();
    put(field, widget, std::move(row));
}

void FieldRows::addChoice(const core::Field& field, const QStringList& labels) {
    auto* box = new QComboBox(&m_form);
    box->addItems(labels);
    QObject::connect(box, &QComboBox::currentIndexChanged, &m_form, [this] { tell(); });
    put(field, box, {.about = {field}});
}

void FieldRows::addText(const core::Field& field, bool several) {
    if (offers(field)) {
        auto* box = new QComboBox(&m_form);
        QObject::connect(box, &QComboBox::currentIndexChanged, &m_form, [this] { tell(); });
        return put(field, box, {.about = {field}, .named = true});
    }
    auto* edit = new QLineEdit(&m_form);
    if (several)
        edit->setPlaceholderText(QCoreApplication::translate("fields", "several: with commas between"));
    QObject::connect(edit, &QLineEdit::textEdited, &m_form, [this] { tell(); });
    put(field, edit, {.about = {field}});
}

/// Three sizes in rows of their own, and the source of them all.
void FieldRows::addSizes(const core::NumberField& field) {
    const std::array labels{QT_TRANSLATE_NOOP("fields", "Width"), QT_TRANSLATE_NOOP("fields", "Height"),
                            QT_TRANSLATE_NOOP("fields", "Depth, off its place")};
    const std::array keys{"width", "height", "depth"};
    for (std::size_t i = 0; i < 3; ++i) {
        core::NumberField one = field;
        one.key = keys[i];
        one.label = labels[i];
        addNumbers(one, 1, false);
    }
    QComboBox* source = m_form.makeSources(core::Source::Sheet);
    source->insertItem(0, QCoreApplication::translate("fields", "as they are"), -1);
    source->setCurrentIndex(0);
    QObject::connect(source, &QComboBox::currentIndexChanged, &m_form, [this] { tell(); });
    core::NumberField about = field;
    about.label = QT_TRANSLATE_NOOP("fields", "Sizes are from");
    Row row{.about = about};
    put(about, source, std::move(row));
    source->setObjectName(QStringLiteral("source"));
}

/// What is wrong with what stands there is said where the dialog says so.
void FieldRows::addPointsEdit(const core::Field& field, QPlainTextEdit* edit) {
    QObject::connect(edit, &QPlainTextEdit::textChanged, &m_form, [this, edit] {
        if (m_showing)
            return;
        const auto points = static_cast<PointsEdit*>(edit)->points();
        m_form.say(points ? QString() : qs(points.error().text()));
        if (points)
            tell();
    });
    QObject::connect(static_cast<PointsEdit*>(edit), &PointsEdit::refused, &m_form,
                     [this](const QString& why) { m_form.say(why); });
    put(field, edit, {.about = {field}});
}
void FieldRows::addPoints(const core::NumberField& field) {
    addPointsEdit(field, new PointsEdit(m_form.m_context, field, 3, &m_form));
}
void FieldRows::addTable(const core::Field& field, const std::vector<core::NumberField>& columns) {
    addPointsEdit(field, new PointsEdit(m_form.m_context, columns, &m_form));
}
void FieldRows::showTable(Row& row, const Table& table) {
    const QScopedValueRollback quiet(m_showing, true);
    static_cast<PointsEdit*>(row.widget)->show(table);
}
std::optional<FieldRows::Table> FieldRows::table(const Row& row) const {
    const auto typed = static_cast<PointsEdit*>(row.widget)->points();
    return typed ? std::optional(*typed) : std::nullopt;
}

FieldRows::Row* FieldRows::row(std::string_view key) {
    const auto it = std::find_if(m_rows.begin(), m_rows.end(), [&](const Row& r) { return r.about.key == key; });
    return it == m_rows.end() ? nullptr : &*it;
}
const FieldRows::Row* FieldRows::row(std::string_view key) const { return const_cast<FieldRows*>(this)->row(key); }
QWidget* FieldRows::field(std::string_view key) const {
    const Row* r = row(key);
    return r ? r->widget : nullptr;
}

void FieldRows::showFlag(Row& row, bool value) {
    const QScopedValueRollback quiet(m_showing, true);
    static_cast<QCheckBox*>(row.widget)->setChecked(value);
}
void FieldRows::showNumber(Row& row, std::size_t i, double value) {
    const QScopedValueRollback quiet(m_showing, true);
    auto* box = static_cast<QDoubleSpinBox*>(row.boxes[i]);
    m_form.setStored(box, value * row.about.unit.factor);
    box->setProperty(shownProperty, box->value());
}
void FieldRows::showChoice(Row& row, int index) {
    const QScopedValueRollback quiet(m_showing, true);
    static_cast<QComboBox*>(row.widget)->setCurrentIndex(index);
}
void FieldRows::showText(Row& row, const QString& text) {
    const QScopedValueRollback quiet(m_showing, true);
    if (auto* box = qobject_cast<QComboBox*>(row.widget)) {
        if (!box->count())
            offerAnew();
        box->setCurrentIndex(std::max(0, box->findData(text)));
    } else {
        static_cast<QLineEdit*>(row.widget)->setText(text);
    }
}
void FieldRows::showSizes(Row&, const core::Size3& sizes) {
    const std::array keys{"width", "height", "depth"};
    for (std::size_t i = 0; i < 3; ++i)
        showNumber(*row(keys[i]), 0, sizes[i].value.mm());
}

void FieldRows::showPoints(Row& row, const Points& points) {
    const QScopedValueRollback quiet(m_showing, true);
    PointsEdit::Points all;
    for (const auto& point : points)
        all.emplace_back(point.begin(), point.end());
    static_cast<PointsEdit*>(row.widget)->show(all);
}
std::optional<FieldRows::Points> FieldRows::points(const Row& row) const {
    const auto typed = static_cast<PointsEdit*>(row.widget)->points();
    if (!typed)
        return std::nullopt;
    Points points;
    for (const auto& point : *typed)
        points.push_back({point[0], point[1], point[2]});
    return points;
}

bool FieldRows::flag(const Row& row) const { return static_cast<QCheckBox*>(row.widget)->isChecked(); }
std::optional<double> FieldRows::number(const Row& row, std::size_t i) const {
    const auto* box = static_cast<QDoubleSpinBox*>(row.boxes[i]);
    if (box->value() == box->property(shownProperty).toDouble())
        return std::nullopt;
    return m_form.stored(box) / row.about.unit.factor;
}
std::size_t FieldRows::chosen(const Row& row) const {
    return static_cast<std::size_t>(std::max(0, static_cast<QComboBox*>(row.widget)->currentIndex()));
}
std::optional<QString> FieldRows::text(const Row& row) const {
    const auto* box = qobject_cast<QComboBox*>(row.widget);
    if (box && !box->count())
        return std::nullopt;
    return box ? box->currentData().toString() : static_cast<QLineEdit*>(row.widget)->text().trimmed();
}

/// A size that is typed has the source that is chosen, else the one it had; a source that is chosen alone is that of
/// all sizes.
void FieldRows::takeSizes(const Row& row, core::Size3& sizes, core::SheetKind kind) const {
    const auto* source = static_cast<QComboBox*>(row.widget);
    const bool chosen = source->currentData().toInt() >= 0;
    const std::array keys{"width", "height", "depth"};
    for (std::size_t i = 0; i < 3; ++i) {
        const auto typed = number(*this->row(keys[i]), 0);
        if (chosen)
            sizes[i] = core::measureMm(typed.value_or(sizes[i].value.mm()), FormDialog::sourceOf(source), kind);
        else if (typed)
            sizes[i].value = core::Length::fromMm(*typed);
    }
}

void FieldRows::offerAnew() {
    for (Row& row : m_rows) {
        if (!row.named)
            continue;
        auto* box = static_cast<QComboBox*>(row.widget);
        const QString was = box->currentData().toString();
        const QScopedValueRollback quiet(m_showing, true);
        box->clear();
        for (const Offer& offer : m_offers(row.about.names))
            box->addItem(offer.words, offer.value);
        box->setCurrentIndex(std::max(0, box->findData(was)));
    }
}

void FieldRows::clear() {
    for (const Row& row : m_rows)
        m_form.removeFieldRow(row.widget);
    m_rows.clear();
}

} // namespace app
