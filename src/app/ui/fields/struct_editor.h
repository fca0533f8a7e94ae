// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/fields/struct_form.h"

namespace app {

/// A struct with all that is inside it: one page a level, with the way back above.
class StructEditor : public QWidget {
    Q_OBJECT
public:
    struct Step {
        std::string key;
        int index = -1; ///< of a list; -1: the one struct of that key
        friend bool operator==(const Step&, const Step&) = default;
    };
    StructEditor(Context& context, QWidget* parent);
    void start(const std::string& name, const QString& title, store::Json value, std::set<std::string> without = {});
    [[nodiscard]] const store::Json& value() const { return m_root; }
    /// Another value on the same page, e.g. after something was moved on a drawing.
    void set(store::Json value);
    [[nodiscard]] const std::vector<Step>& path() const { return m_path; }
    /// Opens a page; a path that is not there leads as far as there is something.
    void go(const std::vector<Step>& path);
    [[nodiscard]] StructForm* form() const { return m_form; }

Q_SIGNALS:
    void edited();
    void went(); ///< to another page
    void refused(const QString& why);

private:
    [[nodiscard]] store::Json* at(std::size_t depth);
    [[nodiscard]] std::string structAt(std::size_t depth) const;
    void showPage();

    StructForm* m_form;
    QLabel* m_way;
    std::string m_name;
    QString m_title;
    store::Json m_root;
    std::set<std::string> m_without; ///< of the first page
    std::vector<Step> m_path;
};

} // namespace app
