// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/context.h"
#ifndef Q_MOC_RUN
#include "core/model/fields/outline.h"
#include "store/json_archive.h"
#endif

#include <QFormLayout>
#include <QLabel>
#include <QListWidget>

#include <functional>
#include <set>

namespace app {

class NumberBox;

/// A row for every field of one struct of a project file, made of its outline: what docs/format.md can say can be said
/// here. Lists of structs are listed; one of them is opened on a page of its own.
class StructForm : public QWidget {
    Q_OBJECT
public:
    StructForm(Context& context, QWidget* parent);
    /// @p name: of the struct in the outlines. @p without: keys that have no row here.
    void show(const std::string& name, const store::Json& value, const std::set<std::string>& without = {});
    [[nodiscard]] const store::Json& value() const { return m_value; }
    /// What a field that names something can name.
    std::function<QStringList(core::Names)> offers;
    [[nodiscard]] static const core::StructOutline* outlineOf(const std::string& name);
    /// What an item of a list is called: its name, id or kind, else its number.
    [[nodiscard]] static QString titleOf(const store::Json& item, std::size_t index);
    /// An item with what must be said of it; ids that @p list has are not used again.
    [[nodiscard]] static store::Json fresh(const std::string& name, const store::Json& list);
    /// In a narrow column an offset takes two lines.
    void setNarrow(bool narrow) { m_narrow = narrow; }

Q_SIGNALS:
    void edited();                                  ///< value() is another
    void opened(const std::string& key, int index); ///< of a list; -1: the one struct of that key
    void refused(const QString& why);               ///< what was typed is no value; empty: it is again

private:
    using Get = std::function<store::Json()>;
    using Put = std::function<void(store::Json)>;
    [[nodiscard]] static store::Json freshOf(const core::StructOutline& outline, const std::string& name,
                                             const store::Json& list);
    const core::StructOutline* addKinds(const core::StructOutline& outline);
    void addRow(const core::FieldOutline& field);
    void put(const core::FieldOutline& field, QWidget* widget, const QString& suffix = {});
    void addText(const core::FieldOutline& field);
    void addTexts(const core::FieldOutline& field);
    void addChoice(const core::FieldOutline& field);
    void addNumbers(const core::FieldOutline& field);
    void addOptional(const core::FieldOutline& field);
    void addPoints(const core::FieldOutline& field);
    void addSizes(const core::FieldOutline& field);
    void addOffset(const core::FieldOutline& field);
    void addStructs(const core::FieldOutline& field);
    [[nodiscard]] static bool isTable(const core::FieldOutline& field);
    void addTable(const core::FieldOutline& field);
    void addStruct(const core::FieldOutline& field);
    [[nodiscard]] NumberBox* number(const core::FieldOutline& field, const QString& name, bool whole, double value,
                                    const std::function<void(double)>& put);
    /// A size with its source and, where one knows better, its own tolerance; @p before it in the row.
    [[nodiscard]] QWidget* size(const core::FieldOutline& field, const QString& name, const Get& get, const Put& put,
                                QWidget* before = nullptr);
    [[nodiscard]] store::Json held(const core::FieldOutline& field) const;
    void set(const std::string& key, store::Json value);

    Context& m_context;
    QFormLayout* m_form;
    store::Json m_value;
    bool m_showing = false;
    bool m_narrow = false;
};

} // namespace app
