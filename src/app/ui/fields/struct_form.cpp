// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/fields/struct_form.h"

#include "app/ui/fields/number_box.h"
#include "app/ui/fields/points_edit.h"
#include "app/ui/fields/struct_rows.h"
#include "core/explain/fit_words.h"
#include "store/schema.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QScopedValueRollback>

namespace app {
using core::Holds;
using rows::helpOf;
using rows::numberOf;
using rows::said;
using store::Json;

namespace {
QString commaJoined(const Json& list) {
    QStringList all;
    for (const Json& item : list)
        all << qs(item.is_string() ? item.get<std::string>() : item.dump());
    return all.join(QStringLiteral(", "));
}

/// "fan 2, sata" for {"fan": 2, "sata": 1}.
QString countsJoined(const Json& counts) {
    QStringList all;
    for (const auto& [kind, n] : counts.items())
        all << (n == 1 ? qs(kind) : qs(kind) + QLatin1Char(' ') + QString::number(n.get<int>()));
    return all.join(QStringLiteral(", "));
}

Json countsFrom(const QString& text) {
    Json counts = Json::object();
    for (const QString& item : text.split(QLatin1Char(','), Qt::SkipEmptyParts)) {
        const QString words = item.simplified();
        const int n = words.section(QLatin1Char(' '), -1).toInt();
        if (!words.isEmpty())
            counts[words.section(QLatin1Char(' '), 0, 0).toStdString()] = std::max(1, n);
    }
    return counts;
}

} // namespace

StructForm::StructForm(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    m_form = new QFormLayout(this);
    m_form->setContentsMargins(2, 2, 10, 2);
    m_form->setHorizontalSpacing(10);
    m_form->setVerticalSpacing(6);
    m_form->setRowWrapPolicy(QFormLayout::WrapLongRows);
}

const core::StructOutline* StructForm::outlineOf(const std::string& name) {
    static const std::vector<core::StructOutline> all = store::fileOutlines();
    const auto it = std::find_if(all.begin(), all.end(), [&](const auto& o) { return o.name == name; });
    return it == all.end() ? nullptr : &*it;
}

QString StructForm::titleOf(const Json& item, std::size_t index) {
    if (item.is_string())
        return qs(item.get<std::string>());
    for (const char* key : {"name", "id", "do", "kind", "side", "what", "axis", "rule", "mount"})
        if (item.contains(key) && item[key].is_string() && !item[key].get<std::string>().empty())
            return qs(item[key].get<std::string>());
    return QString::number(index + 1);
}

Json StructForm::fresh(const std::string& name, const Json& list) {
    const core::StructOutline* outline = outlineOf(name);
    if (outline && !outline->oneOf.empty()) {
        Json item = freshOf(outline->oneOf.front(), name, list);
        item["do"] = outline->oneOf.front().name;
        return item;
    }
    return outline ? freshOf(*outline, name, list) : Json::object();
}

Json StructForm::freshOf(const core::StructOutline& outline, const std::string& name, const Json& list) {
    Json item = Json::object();
    std::set<std::string> ids;
    for (const Json& other : list)
        if (other.is_object() && other.contains("id"))
            ids.insert(other["id"].get<std::string>());
    std::string id = name + "-1";
    for (int n = 2; ids.contains(id); ++n)
        id = name + "-" + std::to_string(n);
    for (const core::FieldOutline& f : outline.fields) {
        if (!f.required && f.holds != Holds::Size)
            continue;
        const std::string key = f.about.key;
        Json one;
        switch (f.holds) {
        case Holds::Text:
            one = key == "id" ? Json(id) : Json(QObject::tr("new").toStdString());
            break;
        case Holds::Flag:
            one = false;
            break;
        case Holds::Whole:
            one = static_cast<int>(std::clamp(1.0, f.about.low, f.about.high));
            break;
        case Holds::Number:
        case Holds::Size:
            one = std::clamp(f.about.low < 0 ? 0.0 : 10.0, f.about.low, f.about.high);
            break;
        case Holds::Choice:
            one = f.choices.front();
            break;
        default:
            continue;
        }
        for (const int level : std::vector(f.items.rbegin(), f.items.rend())) { // clang 14 has no reversed view
            Json all = Json::array();
            for (int i = 0; i < level; ++i)
                all.push_back(one);
            one = all;
        }
        item[key] = one;
    }
    return item;
}

void StructForm::show(const std::string& name, const Json& value, const std::set<std::string>& without) {
    const QScopedValueRollback quiet(m_showing, true);
    while (m_form->rowCount() > 0)
        m_form->removeRow(0);
    m_value = value;
    const core::StructOutline* outline = outlineOf(name);
    if (outline && !outline->oneOf.empty())
        outline = addKinds(*outline);
    for (const core::FieldOutline& field : outline ? outline->fields : std::vector<core::FieldOutline>{})
        if (!without.contains(field.about.key))
            addRow(field);
}

/// A struct of several kinds is asked for its kind first; answers the outline of the one it is.
const core::StructOutline* StructForm::addKinds(const core::StructOutline& outline) {
    auto* box = new QComboBox(this);
    box->setObjectName(QStringLiteral("do"));
    for (const core::StructOutline& kind : outline.oneOf) {
        box->addItem(qs(kind.name));
        box->setItemData(box->count() - 1, said(kind.about.c_str()), Qt::ToolTipRole);
    }
    const std::string now = m_value.value("do", outline.oneOf.front().name);
    box->setCurrentIndex(std::max(0, box->findText(qs(now))));
    m_form->addRow(tr("Change"), box);
    connect(box, &QComboBox::activated, this, [this, &outline, name = outline.name](int row) {
        const core::StructOutline& kind = outline.oneOf[static_cast<std::size_t>(row)];
        Json fresh = freshOf(kind, name, Json::array());
        fresh["do"] = kind.name;
        for (const core::FieldOutline& f : kind.fields) // what both say of the same thing stays
            if (m_value.contains(f.about.key) && !m_value[f.about.key].is_null())
                fresh[f.about.key] = m_value[f.about.key];
        m_value = fresh;
        Q_EMIT edited();
        QMetaObject::invokeMethod(
            this, [this, name, fresh] { show(name, fresh); }, Qt::QueuedConnection);
    });
    return &outline.oneOf[static_cast<std::size_t>(box->currentIndex())];
}

/// What is there, or what holds where nothing is said.
Json StructForm::held(const core::FieldOutline& field) const {
    if (m_value.contains(field.about.key))
        return m_value[field.about.key];
    return field.otherwise.empty() ? Json() : Json::parse(field.otherwise, nullptr, false);
}

void StructForm::set(const std::string& key, Json value) {
    if (m_showing)
        return;
    m_value[key] = std::move(value);
    Q_EMIT edited();
}

void StructForm::addRow(const core::FieldOutline& field) {
    switch (field.holds) {
    case Holds::Text:
        return field.items.empty() ? addText(field) : addTexts(field);
    case Holds::Counts:
        return addTexts(field);
    case Holds::Choice:
        return field.items.empty() ? addChoice(field) : addTexts(field);
    case Holds::Flag: {
        auto* box = new QCheckBox(said(field.about.label), this);
        const Json now = held(field);
        box->setChecked(now.is_boolean() && now.get<bool>());
        connect(box, &QCheckBox::toggled, this, [this, key = std::string(field.about.key)](bool on) { set(key, on); });
        box->setObjectName(QString::fromUtf8(field.about.key));
        box->setToolTip(helpOf(field));
        return m_form->addRow(QString(), box);
    }
    case Holds::Number:
    case Holds::Whole:
        return field.items.size() > 1 ? addPoints(field) : addNumbers(field);
    case Holds::Size:
        return addSizes(field);
    case Holds::Offset:
        return addOffset(field);
    case Holds::Struct:
        return field.items.empty() ? addStruct(field) : isTable(field) ? addTable(field) : addStructs(field);
    }
}

void StructForm::put(const core::FieldOutline& field, QWidget* widget, const QString& suffix) {
    widget->setObjectName(QString::fromUtf8(field.about.key) + suffix);
    widget->setToolTip(helpOf(field));
    if (widget->accessibleName().isEmpty())
        widget->setAccessibleName(said(field.about.label));
    m_form->addRow(said(field.about.label), widget);
}

void StructForm::addText(const core::FieldOutline& field) {
    const std::string key = field.about.key;
    const Json now = held(field);
    const QString text = now.is_string() ? qs(now.get<std::string>()) : QString();
    if (field.about.names != core::Names::Nothing && offers) {
        auto* box = new QComboBox(this);
        box->setEditable(true);
        box->setInsertPolicy(QComboBox::NoInsert);
        box->addItem(QString());
        box->addItems(offers(field.about.names));
        box->setCurrentText(text);
        connect(box, &QComboBox::currentTextChanged, this,
                [this, key](const QString& t) { set(key, t.trimmed().toStdString()); });
        return put(field, box);
    }
    auto* edit = new QLineEdit(text, this);
    connect(edit, &QLineEdit::editingFinished, this, [this, key, edit] {
        const std::string typed = edit->text().trimmed().toStdString();
        if (!m_value.contains(key) || m_value[key] != Json(typed))
            set(key, typed);
    });
    put(field, edit);
}

/// Words with commas between, or kinds with their number.
void StructForm::addTexts(const core::FieldOutline& field) {
    const std::string key = field.about.key;
    const bool counts = field.holds == Holds::Counts;
    const Json now = held(field);
    auto* edit = new QLineEdit(now.is_null() ? QString() : counts ? countsJoined(now) : commaJoined(now), this);
    edit->setPlaceholderText(counts ? tr("kind number, with commas between") : tr("several: with commas between"));
    if (!field.choices.empty()) {
        QStringList words;
        for (const std::string& c : field.choices)
            words << qs(c);
        edit->setAccessibleDescription(tr("of %1").arg(words.join(QStringLiteral(", "))));
    }
    connect(edit, &QLineEdit::editingFinished, this, [this, key, edit, counts] {
        Json all = counts ? countsFrom(edit->text()) : Json::array();
        if (!counts)
            for (const QString& word : edit->text().split(QLatin1Char(','), Qt::SkipEmptyParts))
                if (!word.trimmed().isEmpty())
                    all.push_back(word.trimmed().toStdString());
        if (!m_value.contains(key) || m_value[key] != all)
            set(key, all);
    });
    put(field, edit);
    if (!field.choices.empty()) {
        QStringList words;
        for (const std::string& c : field.choices)
            words << qs(c);
        edit->setToolTip(edit->toolTip() + QLatin1Char('\n') + tr("Of: %1").arg(words.join(QStringLiteral(", "))));
    }
}

void StructForm::addChoice(const core::FieldOutline& field) {
    auto* box = new QComboBox(this);
    for (const std::string& word : field.choices)
        box->addItem(qs(word));
    const Json now = held(field);
    box->setCurrentIndex(std::max(0, now.is_string() ? box->findText(qs(now.get<std::string>())) : 0));
    connect(box, &QComboBox::currentTextChanged, this,
            [this, key = std::string(field.about.key)](const QString& word) { set(key, word.toStdString()); });
    put(field, box);
}

NumberBox* StructForm::number(const core::FieldOutline& field, const QString& name, bool whole, double value,
                              const std::function<void(double)>& put) {
    const core::Show show = m_context.show();
    const core::Unit unit = field.about.unit;
    const auto shown = [show, unit](double stored) { return show.value(unit.quantity, stored * unit.factor); };
    auto* box = new NumberBox(this);
    box->setObjectName(name);
    const bool own = unit.quantity == core::Quantity::None;
    if (whole)
        box->setDecimals(0);
    else
        box->setLeastDecimals(own ? std::max(unit.decimals, 2)
                              : unit.quantity == core::Quantity::Length && !show.units().inch
                                  ? 2
                                  : std::max(1, show.decimals(unit.quantity)));
    box->setRange(shown(field.about.zeroIsUnstated ? 0 : field.about.low), shown(field.about.high));
    const QString words = own ? qs(unit.text) : qs(show.unit(unit.quantity));
    if (!words.isEmpty())
        box->setSuffix(QStringLiteral("\u00a0") + words);
    if (field.about.zeroIsUnstated)
        box->setSpecialValueText(tr("not stated"));
    box->setValue(shown(value));
    box->setToolTip(helpOf(field));
    box->setMinimumWidth(58);
    box->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed); // as wide as its row leaves it
    connect(box, &QDoubleSpinBox::valueChanged, this,
            [show, unit, put](double v) { put(show.stored(unit.quantity, v) / unit.factor); });
    connect(box, &NumberBox::refused, this, &StructForm::refused);
    return box;
}

void StructForm::addNumbers(const core::FieldOutline& field) {
    const std::string key = field.about.key;
    const bool whole = field.holds == Holds::Whole;
    const Json now = held(field);
    const auto stored = [whole](double v) { return whole ? Json(static_cast<int>(std::lround(v))) : Json(v); };
    if (field.items.empty() && !field.required && field.otherwise.empty())
        return addOptional(field);
    if (field.items.empty())
        return put(field, number(field, QString::fromUtf8(field.about.key), whole, numberOf(now),
                                 [this, key, stored](double v) { set(key, stored(v)); }));
    auto* row = new QWidget(this);
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(4);
    const int count = field.items.front();
    for (int i = 0; i < count; ++i) {
        const auto at = static_cast<std::size_t>(i);
        line->addWidget(number(
            field, QString::fromUtf8(field.about.key) + QString::number(i), whole,
            now.is_array() && now.size() > at ? numberOf(now[at]) : 0.0, [this, key, at, count, stored](double v) {
                Json all = m_value.contains(key) && m_value[key].is_array() ? m_value[key] : Json::array();
                while (static_cast<int>(all.size()) < count)
                    all.push_back(stored(0));
                all[at] = stored(v);
                set(key, all);
            }));
    }
    put(field, row);
}

/// A number that may be left out: below its range it says so.
void StructForm::addOptional(const core::FieldOutline& field) {
    const std::string key = field.about.key;
    auto* box = number(field, QString::fromUtf8(field.about.key), false, 0, {});
    box->disconnect(this);
    const core::Show show = m_context.show();
    const core::Unit unit = field.about.unit;
    box->setMinimum(box->minimum() - box->singleStep());
    box->setSpecialValueText(tr("not stated"));
    box->setValue(m_value.contains(key) && m_value[key].is_number()
                      ? show.value(unit.quantity, m_value[key].get<double>() * unit.factor)
                      : box->minimum());
    connect(box, &QDoubleSpinBox::valueChanged, this, [this, key, box, show, unit](double v) {
        if (v > box->minimum())
            return set(key, show.stored(unit.quantity, v) / unit.factor);
        m_value.erase(key);
        Q_EMIT edited();
    });
    connect(box, &NumberBox::refused, this, &StructForm::refused);
    put(field, box);
}

/// Points of a route.
void StructForm::addPoints(const core::FieldOutline& field) {
    const std::string key = field.about.key;
    auto* edit = new PointsEdit(m_context, field.about, field.items.back(), this);
    PointsEdit::Points now;
    for (const Json& point : held(field)) {
        now.emplace_back();
        for (const Json& n : point)
            now.back().push_back(numberOf(n));
    }
    edit->show(now);
    connect(edit, &PointsEdit::refused, this, &StructForm::refused);
    connect(edit, &QPlainTextEdit::textChanged, this, [this, key, edit] {
        const auto points = edit->points();
        Q_EMIT refused(points ? QString() : tr("%1; not taken yet").arg(qs(points.error().text())));
        if (points)
            set(key, Json(*points));
    });
    put(field, edit);
}

/// A list whose rows are numbers and nothing else.
bool StructForm::isTable(const core::FieldOutline& field) {
    const core::StructOutline* outline = outlineOf(field.structName);
    return outline && outline->fields.size() > 1 &&
           std::all_of(outline->fields.begin(), outline->fields.end(), [](const core::FieldOutline& column) {
               return column.holds == Holds::Number && column.items.empty() && column.required;
           });
}

void StructForm::addTable(const core::FieldOutline& field) {
    const std::string key = field.about.key;
    const core::StructOutline& outline = *outlineOf(field.structName);
    std::vector<core::NumberField> columns;
    for (const core::FieldOutline& column : outline.fields)
        columns.push_back(column.about);
    auto* edit = new PointsEdit(m_context, columns, this);
    PointsEdit::Points now;
    for (const Json& row : held(field)) {
        now.emplace_back();
        for (const core::NumberField& column : columns)
            now.back().push_back(row.contains(column.key) ? numberOf(row[column.key]) : 0.0);
    }
    edit->show(now);
    connect(edit, &PointsEdit::refused, this, &StructForm::refused);
    connect(edit, &QPlainTextEdit::textChanged, this, [this, key, edit, columns] {
        const auto points = edit->points();
        Q_EMIT refused(points ? QString() : tr("%1; not taken yet").arg(qs(points.error().text())));
        if (!points)
            return;
        Json rows = Json::array();
        for (const auto& point : *points) {
            Json row = Json::object();
            for (std::size_t c = 0; c < columns.size(); ++c)
                row[columns[c].key] = point[c];
            rows.push_back(std::move(row));
        }
        set(key, rows);
    });
    put(field, edit);
}

} // namespace app

#include "moc_struct_form.cpp"
