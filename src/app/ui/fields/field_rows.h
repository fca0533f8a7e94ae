// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/dialogs/form_dialog.h"
#ifndef Q_MOC_RUN
#include "core/model/fields/project_fields.h"
#endif

#include <set>

class QPlainTextEdit;

namespace app {

/// Rows of a form after the field list of a struct: a number gets a box with its unit and range, a choice a list, a
/// text that names something the list of what there is to name. Lists of structs have no row: they are made on the
/// drawing or in the file. The object name of a widget is the key of its field.
class FieldRows {
public:
    /// What a field that names something can name now.
    struct Offer {
        QString value, words;
    };
    using Offers = std::function<std::vector<Offer>(core::Names)>;
    /// Rows go below @p after, or at the end where it is null.
    explicit FieldRows(FormDialog& form, Offers offers = {}) : m_form(form), m_offers(std::move(offers)) {}

    /// A row for each field of @p value, those named in @p without aside.
    template <class T> void add(const T& value, std::set<std::string_view> without = {}) {
        m_without = std::move(without);
        Adding archive{*this};
        fields(archive, value);
        show(value);
    }
    /// Rows show @p value.
    template <class T> void show(const T& value) {
        Showing archive{*this};
        fields(archive, value);
    }
    /// @p value takes what stands in the rows. What was not touched stays to the last digit.
    template <class T> void take(T& value) const {
        Taking archive{*this};
        fields(archive, value);
    }
    /// What can be named is looked up anew, row by row: @p after each with what stands in the rows above it. True when
    /// a choice had to change.
    void offerAnew();
    void clear();
    /// Rows are added at this row of the form; -1: at its end.
    void startAt(int row) { m_at = row; }
    [[nodiscard]] QWidget* field(std::string_view key) const;
    /// Something was typed or chosen in a row.
    std::function<void()> changed;

private:
    struct Row {
        core::NumberField about;
        bool named = false;
        std::vector<QWidget*> boxes;
        QWidget* widget = nullptr;
    };

    using Points = std::vector<std::array<double, 3>>;
    using Table = std::vector<std::vector<double>>;
    /// Lists whose rows are numbers and nothing else.
    template <class T>
    static constexpr bool IsTable =
        std::same_as<T, std::vector<core::FanPoint>> || std::same_as<T, std::vector<core::CurvePoint>>;
    /// Hands each number of a row of a table to a function.
    template <class F> struct EachNumber {
        F visit;
        explicit EachNumber(F each) : visit(std::move(each)) {}
        template <class N> void operator()(const core::NumberField& field, N& number) { visit(field, number); }
    };
    template <class S> static std::vector<core::NumberField> columnsOf() {
        std::vector<core::NumberField> columns;
        const S none{};
        EachNumber each{[&](const core::NumberField& field, double) { columns.push_back(field); }};
        fields(each, none);
        return columns;
    }
    template <class S> static Table numbersOf(const std::vector<S>& rows) {
        Table table;
        for (const S& row : rows) {
            table.emplace_back();
            EachNumber each{[&](const core::NumberField&, double n) { table.back().push_back(n); }};
            fields(each, row);
        }
        return table;
    }
    template <class T> static T rowsFrom(const std::optional<Table>& table, const T& otherwise) {
        if (!table)
            return otherwise;
        T rows;
        for (const auto& numbers : *table) {
            rows.emplace_back();
            std::size_t i = 0;
            EachNumber each{[&](const core::NumberField&, double& n) { n = numbers[i++]; }};
            fields(each, rows.back());
        }
        return rows;
    }

    // ---- what the field list is handed to ----
    template <class Self> struct Archive {
        template <class F, class T> void operator()(const F& field, T& value) { self().one(field, value); }
        template <class F, class T>
        void operator()(const F& field, T& value, const std::type_identity_t<std::remove_const_t<T>>&) {
            self().one(field, value);
        }
        template <class F, class T> void optional(const F&, T&) {}
        template <class T> void measure(const core::NumberField& field, T& value, core::Source) {
            self().one(field, value);
        }
        template <class T>
        void measures(const core::NumberField& field, T& values, core::Source, core::SheetKind kind = {}) {
            self().sizes(field, values, kind);
        }
        template <class T> void place(T&) {}
        template <class T> void spec(T&) {}
        template <class T> void oneOf(T&) {}
        Self& self() { return static_cast<Self&>(*this); }
    };
    struct Adding : Archive<Adding> {
        FieldRows& rows;
        explicit Adding(FieldRows& r) : rows(r) {}
        template <class F, class T> void one(const F& field, const T&) {
            if (rows.m_without.contains(field.key))
                return;
            if constexpr (std::same_as<T, bool>)
                rows.addFlag(field);
            else if constexpr (std::same_as<F, core::NumberField> &&
                               (std::is_arithmetic_v<T> || std::same_as<T, core::Length>))
                rows.addNumbers(field, 1, std::integral<T>);
            else if constexpr (std::same_as<T, std::array<double, 3>> || std::same_as<T, std::array<double, 2>>)
                rows.addNumbers(field, std::tuple_size_v<T>, false);
            else if constexpr (std::same_as<T, Points>)
                rows.addPoints(field);
            else if constexpr (IsTable<T>)
                rows.addTable(field, columnsOf<typename T::value_type>());
            else if constexpr (core::Chosen<T>)
                rows.offers(field) ? rows.addText(field, false) : rows.addChoice(field, labelsOf<T>());
            else if constexpr (std::same_as<T, std::string> || std::same_as<T, std::vector<std::string>> ||
                               std::same_as<T, std::map<std::string, int>>)
                rows.addText(field, !std::same_as<T, std::string>);
        }
        template <class T> void sizes(const core::NumberField& field, const T&, core::SheetKind) {
            if (!rows.m_without.contains(field.key))
                rows.addSizes(field);
        }
    };
    struct Showing : Archive<Showing> {
        FieldRows& rows;
        explicit Showing(FieldRows& r) : rows(r) {}
        template <class F, class T> void one(const F& field, const T& value) {
            Row* row = rows.row(field.key);
            if (!row)
                return;
            if constexpr (std::same_as<T, bool>)
                rows.showFlag(*row, value);
            else if constexpr (std::is_arithmetic_v<T>)
                rows.showNumber(*row, 0, static_cast<double>(value));
            else if constexpr (std::same_as<T, core::Length>)
                rows.showNumber(*row, 0, value.mm());
            else if constexpr (std::same_as<T, std::array<double, 3>> || std::same_as<T, std::array<double, 2>>)
                for (std::size_t i = 0; i < value.size(); ++i)
                    rows.showNumber(*row, i, value[i]);
            else if constexpr (std::same_as<T, Points>)
                rows.showPoints(*row, value);
            else if constexpr (IsTable<T>)
                rows.showTable(*row, numbersOf(value));
            else if constexpr (core::Chosen<T>)
                row->named ? rows.showText(*row, qs(core::choiceWord(value))) : rows.showChoice(*row, indexOf(value));
            else if constexpr (std::same_as<T, std::string>)
                rows.showText(*row, qs(value));
            else if constexpr (std::same_as<T, std::vector<std::string>>)
                rows.showText(*row, joined(value));
            else if constexpr (std::same_as<T, std::map<std::string, int>>)
                rows.showText(*row, countsText(value));
        }
        template <class T> void sizes(const core::NumberField& field, const T& values, core::SheetKind) {
            if (Row* row = rows.row(field.key))
                rows.showSizes(*row, values);
        }
    };
    struct Taking : Archive<Taking> {
        const FieldRows& rows;
        explicit Taking(const FieldRows& r) : rows(r) {}
        template <class F, class T> void one(const F& field, T& value) {
            const Row* row = rows.row(field.key);
            if (!row)
                return;
            if constexpr (std::same_as<T, bool>)
                value = rows.flag(*row);
            else if constexpr (std::integral<T>)
                value = static_cast<T>(std::lround(rows.number(*row, 0).value_or(static_cast<double>(value))));
            else if constexpr (std::floating_point<T>)
                value = rows.number(*row, 0).value_or(value);
            else if constexpr (std::same_as<T, core::Length>)
                value = core::Length::fromMm(rows.number(*row, 0).value_or(value.mm()));
            else if constexpr (std::same_as<T, std::array<double, 3>> || std::same_as<T, std::array<double, 2>>)
                for (std::size_t i = 0; i < value.size(); ++i)
                    value[i] = rows.number(*row, i).value_or(value[i]);
            else if constexpr (std::same_as<T, Points>)
                value = rows.points(*row).value_or(value);
            else if constexpr (IsTable<T>)
                value = rowsFrom<T>(rows.table(*row), value);
            else if constexpr (core::Chosen<T>)
                value = row->named
                            ? core::choiceFrom<T>(rows.text(*row).value_or(QString()).toStdString()).value_or(value)
                            : core::ChoicesOf<T>::all[rows.chosen(*row)].value;
            else if constexpr (std::same_as<T, std::string>)
                value = rows.text(*row).value_or(qs(value)).toStdString();
            else if constexpr (std::same_as<T, std::vector<std::string>>)
                value = split(rows.text(*row).value_or(joined(value)));
            else if constexpr (std::same_as<T, std::map<std::string, int>>)
                value = countsOf(rows.text(*row).value_or(countsText(value)));
        }
        template <class T> void sizes(const core::NumberField& field, T& values, core::SheetKind kind) {
            if (const Row* row = rows.row(field.key))
                rows.takeSizes(*row, values, kind);
        }
    };
    template <class E> static QStringList labelsOf() {
        QStringList labels;
        for (const auto& choice : core::ChoicesOf<E>::all)
            labels << said(choice.text());
        return labels;
    }
    template <class E> static int indexOf(const E& value) {
        for (std::size_t i = 0; i < core::ChoicesOf<E>::all.size(); ++i)
            if (core::ChoicesOf<E>::all[i].value == value)
                return static_cast<int>(i);
        return 0;
    }

    // ---- the widgets ----
    /// Whether what can stand in a field is asked for, and not fixed.
    [[nodiscard]] bool offers(const core::Field& field) const {
        return m_offers && field.names != core::Names::Nothing && field.names != core::Names::Plug;
    }
    void addFlag(const core::Field& field);
    void addNumbers(const core::NumberField& field, std::size_t count, bool whole);
    void addChoice(const core::Field& field, const QStringList& labels);
    void addText(const core::Field& field, bool several);
    void addSizes(const core::NumberField& field);
    void addPoints(const core::NumberField& field);
    void showPoints(Row& row, const Points& points);
    void addTable(const core::Field& field, const std::vector<core::NumberField>& columns);
    void addPointsEdit(const core::Field& field, QPlainTextEdit* edit);
    void showTable(Row& row, const Table& table);
    /// Nothing while something stands there that is no row.
    [[nodiscard]] std::optional<Table> table(const Row& row) const;
    /// Nothing while something stands there that is no point.
    [[nodiscard]] std::optional<Points> points(const Row& row) const;
    void put(const core::Field& field, QWidget* widget, Row row);
    void showFlag(Row& row, bool value);
    void showNumber(Row& row, std::size_t i, double value);
    void showChoice(Row& row, int index);
    void showText(Row& row, const QString& text);
    void showSizes(Row& row, const core::Size3& sizes);
    [[nodiscard]] bool flag(const Row& row) const;
    /// Nothing where it was not touched.
    [[nodiscard]] std::optional<double> number(const Row& row, std::size_t i) const;
    [[nodiscard]] std::size_t chosen(const Row& row) const;
    /// Nothing where there is nothing to choose from.
    [[nodiscard]] std::optional<QString> text(const Row& row) const;
    void takeSizes(const Row& row, core::Size3& sizes, core::SheetKind kind) const;
    Row* row(std::string_view key);
    const Row* row(std::string_view key) const;
    void tell() const {
        if (changed && !m_showing)
            changed();
    }

public:
    /// Words of a field list in the reader's language.
    static QString said(const char* words);
    /// "eps-8, fan 4" and counts by kind.
    static std::map<std::string, int> countsOf(const QString& text);
    static QString countsText(const std::map<std::string, int>& counts);

private:
    static QString joined(const std::vector<std::string>& items);
    static std::vector<std::string> split(const QString& text);

    FormDialog& m_form;
    Offers m_offers;
    std::set<std::string_view> m_without;
    std::vector<Row> m_rows; ///< in the order of the form
    int m_at = -1;
    bool m_showing = false;
};

} // namespace app
