// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/fields/struct_form.h"

#include "app/ui/fields/number_box.h"
#include "app/ui/fields/sources.h"
#include "core/base/text.h"
#include "core/explain/fit_words.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QScopedValueRollback>

namespace app {
using core::Holds;
using store::Json;

namespace {
QString said(const char* words) { return *words ? QCoreApplication::translate("fields", words) : QString(); }

QString helpOf(const core::FieldOutline& f) {
    QStringList lines;
    if (f.holds == Holds::Number || f.holds == Holds::Whole || f.holds == Holds::Size)
        lines << QObject::tr("%1 to %2 %3")
                     .arg(digits(f.about.low, f.about.low == std::floor(f.about.low) ? 0 : 2), digits(f.about.high, 0),
                          qs(f.about.unit.text))
                     .trimmed();
    if (*f.about.help)
        lines << said(f.about.help);
    if (f.about.zeroIsUnstated)
        lines << QObject::tr("0: not stated");
    if (*f.about.standard)
        lines << QObject::tr("Standard: %1").arg(QString::fromUtf8(f.about.standard));
    lines << QObject::tr("In files: %1").arg(QString::fromUtf8(f.about.key));
    return lines.join(QLatin1Char('\n'));
}

double numberOf(const Json& j) {
    return j.is_number() ? j.get<double>() : j.is_object() && j.contains("mm") ? j["mm"].get<double>() : 0;
}

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

/// Points one a line, numbers apart by blanks, tabs or semicolons, as they come from a table; nothing where a line
/// holds something else.
std::optional<Json> pointsFrom(const QString& text, int count) {
    Json points = Json::array();
    for (const QString& line : text.split(QLatin1Char('\n'), Qt::SkipEmptyParts)) {
        QString plain = line;
        plain.replace(QLatin1Char(','), QLatin1Char('.')).replace(QLatin1Char(';'), QLatin1Char(' '));
        const QStringList words = plain.simplified().split(QLatin1Char(' '), Qt::SkipEmptyParts);
        if (words.isEmpty())
            continue;
        Json point = Json::array();
        for (const QString& word : words) {
            const auto n = core::numberFrom(word.toStdString());
            if (!n)
                return std::nullopt;
            point.push_back(*n);
        }
        if (static_cast<int>(point.size()) != count)
            return std::nullopt;
        points.push_back(point);
    }
    return points;
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
    static const std::vector<core::StructOutline> all = core::outlines();
    const auto it = std::find_if(all.begin(), all.end(), [&](const auto& o) { return o.name == name; });
    return it == all.end() ? nullptr : &*it;
}

QString StructForm::titleOf(const Json& item, std::size_t index) {
    if (item.is_string())
        return qs(item.get<std::string>());
    for (const char* key : {"name", "id", "kind", "side", "what", "axis"})
        if (item.contains(key) && item[key].is_string() && !item[key].get<std::string>().empty())
            return qs(item[key].get<std::string>());
    return QString::number(index + 1);
}

Json StructForm::fresh(const std::string& name, const Json& list) {
    Json item = Json::object();
    const core::StructOutline* outline = outlineOf(name);
    std::set<std::string> ids;
    for (const Json& other : list)
        if (other.is_object() && other.contains("id"))
            ids.insert(other["id"].get<std::string>());
    std::string id = name + "-1";
    for (int n = 2; ids.contains(id); ++n)
        id = name + "-" + std::to_string(n);
    for (const core::FieldOutline& f : outline ? outline->fields : std::vector<core::FieldOutline>{}) {
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
        for (auto level = f.items.rbegin(); level != f.items.rend(); ++level) {
            Json all = Json::array();
            for (int i = 0; i < *level; ++i)
                all.push_back(one);
            one = all;
        }
        item[key] = one;
    }
    return item;
}

void StructForm::show(const std::string& name, const Json& value, std::set<std::string> without) {
    const QScopedValueRollback quiet(m_showing, true);
    while (m_form->rowCount() > 0)
        m_form->removeRow(0);
    m_value = value;
    const core::StructOutline* outline = outlineOf(name);
    for (const core::FieldOutline& field : outline ? outline->fields : std::vector<core::FieldOutline>{})
        if (!without.contains(field.about.key))
            addRow(field);
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
        return field.items.empty() ? addStruct(field) : addStructs(field);
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
    box->setDecimals(whole ? 0
                     : own ? std::max(unit.decimals, 2)
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

/// Points of a route: a line each, so that a table can be pasted.
void StructForm::addPoints(const core::FieldOutline& field) {
    const std::string key = field.about.key;
    auto* edit = new QPlainTextEdit(this);
    edit->setFixedHeight(84);
    edit->setTabChangesFocus(true);
    edit->setPlaceholderText(tr("one point a line: x y z"));
    QStringList lines;
    for (const Json& point : held(field)) {
        QStringList words;
        for (const Json& n : point)
            words << qs(core::shortest(numberOf(n)));
        lines << words.join(QLatin1Char(' '));
    }
    edit->setPlainText(lines.join(QLatin1Char('\n')));
    const int count = field.items.back();
    connect(edit, &QPlainTextEdit::textChanged, this, [this, key, edit, count] {
        const auto points = pointsFrom(edit->toPlainText(), count);
        Q_EMIT refused(points ? QString()
                              : tr("Each line holds %1 numbers: what stands there is not taken yet").arg(count));
        if (points)
            set(key, *points);
    });
    put(field, edit);
}

QWidget* StructForm::size(const core::FieldOutline& field, const QString& name, const Get& get, const Put& put) {
    auto* row = new QWidget(this);
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(4);
    const Json now = get();
    const std::string source =
        now.is_object() && now.contains("source") ? now["source"].get<std::string>() : field.source;
    auto* box = number(field, name, false, numberOf(now), [get, put](double v) {
        Json j = get();
        if (j.is_object())
            j["mm"] = v;
        else
            j = v;
        put(j);
    });
    auto* from = new QComboBox(row);
    from->setObjectName(name + QStringLiteral("-source"));
    from->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    from->setMinimumContentsLength(4);
    from->setMinimumWidth(64);
    from->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    for (const core::Source s : sizeSources) {
        const QString words = m_context.view().words(core::explain::textOf(s)); // "caliper, ±0.1 mm"
        from->addItem(words.section(QLatin1Char(','), 0, 0), qs(core::sourceWord(s)));
        from->setItemData(from->count() - 1, words, Qt::ToolTipRole);
        if (core::sourceWord(s) == source)
            from->setCurrentIndex(from->count() - 1);
    }
    from->setToolTip(tr("What it was measured with, or from"));
    core::FieldOutline tolerance = field;
    tolerance.about.low = 0;
    tolerance.about.high = 100;
    auto* band = number(tolerance, name + QStringLiteral("-tol"), false, -1, {});
    band->disconnect(this);
    band->setRange(-0.01, m_context.show().value(core::Quantity::Length, 100));
    band->setSpecialValueText(tr("± usual"));
    band->setPrefix(QStringLiteral("\u00b1"));
    band->setValue(now.is_object() && now.contains("tol_mm")
                       ? m_context.show().value(core::Quantity::Length, now["tol_mm"].get<double>())
                       : band->minimum());
    band->setToolTip(tr("Own tolerance; at the lower end that of its source holds"));
    const auto state = [this, get, put, from, band] {
        const Json j = get();
        Json said{{"mm", numberOf(j)}, {"source", from->currentData().toString().toStdString()}};
        if (band->value() > band->minimum())
            said["tol_mm"] = m_context.show().stored(core::Quantity::Length, band->value());
        put(said);
    };
    connect(from, &QComboBox::activated, this, state);
    connect(band, &QDoubleSpinBox::valueChanged, this, state);
    line->addWidget(box, 6);
    line->addWidget(from, 6);
    line->addWidget(band, 5);
    return row;
}

void StructForm::addSizes(const core::FieldOutline& field) {
    const std::string key = field.about.key;
    const QString name = QString::fromUtf8(field.about.key);
    if (field.items.empty())
        return put(field, size(
                              field, name, [this, field] { return held(field); },
                              [this, key](Json j) { set(key, std::move(j)); }));
    const std::array<QString, 3> axes{tr("x"), tr("y"), tr("z")};
    for (int i = 0; i < field.items.front(); ++i) {
        const auto at = static_cast<std::size_t>(i);
        const auto get = [this, key, at] {
            return m_value.contains(key) && m_value[key].is_array() && m_value[key].size() > at ? m_value[key][at]
                                                                                                : Json(0.0);
        };
        const int count = field.items.front();
        QWidget* row = size(field, name + QString::number(i), get, [this, key, at, count](Json j) {
            Json all = m_value.contains(key) && m_value[key].is_array() ? m_value[key] : Json::array();
            while (static_cast<int>(all.size()) < count)
                all.push_back(0.0);
            all[at] = std::move(j);
            set(key, all);
        });
        row->setToolTip(helpOf(field));
        m_form->addRow(QStringLiteral("%1, %2").arg(said(field.about.label), axes.at(at)), row);
    }
}

/// From which side of the owner, and how far.
void StructForm::addOffset(const core::FieldOutline& field) {
    const std::string key = field.about.key;
    auto* row = new QWidget(this);
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(4);
    const Json now = m_value.contains(key) ? m_value[key] : Json{{"low", 0.0}};
    auto* ref = new QComboBox(row);
    ref->setObjectName(QString::fromUtf8(field.about.key) + QStringLiteral("-ref"));
    for (const char* word : {"low", "high", "centre", "above", "below"})
        ref->addItem(QString::fromLatin1(word));
    ref->setCurrentText(now.is_object() && !now.empty() ? qs(now.begin().key()) : QStringLiteral("low"));
    ref->setToolTip(tr("low, high: its low or high face from that face of the owner; centre: its middle from the low "
                       "face; above, below: outwards"));
    const auto get = [this, key] {
        const Json j = m_value.contains(key) ? m_value[key] : Json{{"low", 0.0}};
        return j.is_object() && !j.empty() ? Json(j.begin().value()) : Json(0.0);
    };
    const auto set = [this, key, ref](Json j) {
        Json said = Json::object();
        said[ref->currentText().toStdString()] = std::move(j);
        this->set(key, said);
    };
    connect(ref, &QComboBox::activated, this, [get, set] { set(get()); });
    line->addWidget(ref);
    line->addWidget(size(field, QString::fromUtf8(field.about.key), get, set), 1);
    row->setToolTip(helpOf(field));
    m_form->addRow(QStringLiteral("%1, %2").arg(said(field.about.label), QString::fromUtf8(field.about.key)), row);
}

/// A list with what can be done to its items; Enter or a double click opens one.
void StructForm::addStructs(const core::FieldOutline& field) {
    const std::string key = field.about.key;
    auto* box = new QWidget(this);
    auto* column = new QVBoxLayout(box);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(2);
    auto* list = new QListWidget(box);
    list->setObjectName(QString::fromUtf8(field.about.key));
    list->setAccessibleName(said(field.about.label));
    const Json items = m_value.contains(key) ? m_value[key] : Json::array();
    for (std::size_t i = 0; i < items.size(); ++i)
        list->addItem(titleOf(items[i], i));
    list->setFixedHeight(std::clamp(static_cast<int>(items.size()) * 20 + 6, 26, 106));
    column->addWidget(list);
    auto* buttons = new QHBoxLayout;
    buttons->setSpacing(4);
    const auto button = [&](const QString& text, const char* name, const std::function<void(int)>& act) {
        auto* b = new QPushButton(text, box);
        b->setObjectName(QString::fromUtf8(field.about.key) + QLatin1Char('-') + QString::fromLatin1(name));
        b->setAutoDefault(false);
        connect(b, &QPushButton::clicked, this, [list, act] { act(list->currentRow()); });
        buttons->addWidget(b);
    };
    const auto change = [this, key](const std::function<void(Json&)>& with) {
        Json all = m_value.contains(key) && m_value[key].is_array() ? m_value[key] : Json::array();
        with(all);
        set(key, all);
    };
    button(tr("Add"), "add", [this, key, structName = field.structName, change](int) {
        change([&](Json& all) { all.push_back(fresh(structName, all)); });
        Q_EMIT opened(key, static_cast<int>(m_value[key].size()) - 1);
    });
    button(tr("Open"), "open", [this, key](int row) {
        if (row >= 0)
            Q_EMIT opened(key, row);
    });
    button(tr("Copy"), "copy", [this, key, structName = field.structName, change](int row) {
        if (row < 0)
            return;
        change([&](Json& all) {
            Json copy = all[static_cast<std::size_t>(row)];
            if (copy.is_object() && copy.contains("id"))
                copy["id"] = fresh(structName, all)["id"];
            all.push_back(copy);
        });
        Q_EMIT opened(key, static_cast<int>(m_value[key].size()) - 1);
    });
    button(tr("Delete"), "delete", [change, list](int row) {
        if (row < 0)
            return;
        change([&](Json& all) { all.erase(all.begin() + row); });
        delete list->takeItem(row);
    });
    buttons->addStretch(1);
    column->addLayout(buttons);
    connect(list, &QListWidget::itemActivated, this, [this, key, list] { Q_EMIT opened(key, list->currentRow()); });
    box->setToolTip(helpOf(field));
    m_form->addRow(said(field.about.label), box);
}

/// One struct that may be there or not.
void StructForm::addStruct(const core::FieldOutline& field) {
    const std::string key = field.about.key;
    auto* row = new QWidget(this);
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 0, 0, 0);
    const bool there = m_value.contains(key) && m_value[key].is_object();
    auto* open = new QPushButton(there ? tr("Open") : tr("State it"), row);
    open->setObjectName(QString::fromUtf8(field.about.key) + QStringLiteral("-open"));
    open->setAutoDefault(false);
    connect(open, &QPushButton::clicked, this, [this, key, structName = field.structName] {
        if (!m_value.contains(key) || !m_value[key].is_object())
            set(key, fresh(structName, Json::array()));
        Q_EMIT opened(key, -1);
    });
    line->addWidget(open);
    line->addStretch(1);
    row->setToolTip(helpOf(field));
    const QString label =
        *field.about.label ? said(field.about.label) : tr("More of a %1").arg(QString::fromUtf8(field.about.key));
    open->setAccessibleName(label);
    m_form->addRow(label, row);
}

} // namespace app
