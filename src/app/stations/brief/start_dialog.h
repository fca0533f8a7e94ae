// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/stations/brief/arrangement_grid.h"
#include "app/ui/dialogs/form_dialog.h"

#include <QGridLayout>

namespace app {

class BoxPicture;

/// A project from nothing: which usual arrangement it is, and how large. Drawing, litres and what does not go in follow
/// while sizes are typed; what nobody typed stays an estimate.
class StartDialog : public FormDialog {
    Q_OBJECT
public:
    StartDialog(Context& context, QWidget* parent);
    /// Begins with a case of that project or parts file; where it holds several it asks which. What is wrong with the
    /// file stands below the fields.
    void takeCaseOf(const QString& path);

Q_SIGNALS:
    void created(const core::Project& project);

protected:
    core::Result<void> apply() override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    struct Row {
        QDoubleSpinBox* box;
        QComboBox* source;
        bool typed = false;
    };
    [[nodiscard]] const core::arrange::Arrangement& arrangement() const;
    [[nodiscard]] QString told(std::string_view word) const; ///< in the reader's language
    [[nodiscard]] QWidget* makeForm();
    void choose(int row);
    void makeRows();
    void usual();
    void typed(std::size_t row);
    void follow();
    void say(const ArrangedBox& box);
    void turnWay(int by);
    [[nodiscard]] core::arrange::Sizes sizes() const;
    [[nodiscard]] std::string way() const;
    /// Begins with a case that is stated elsewhere.
    void takeCase();
    void beginWith(std::vector<core::Part> parts, const core::Part& chosen);

    std::vector<core::Part> m_standard;
    ArrangementGrid* m_grid;
    BoxPicture* m_picture = nullptr;
    QLabel *m_title = nullptr, *m_litres = nullptr, *m_makes = nullptr, *m_check = nullptr;
    QLineEdit* m_name = nullptr;
    QGridLayout* m_sizes = nullptr;
    QComboBox *m_way = nullptr, *m_material = nullptr;
    QLabel* m_wayLabel = nullptr;
    std::vector<Row> m_rows;
    bool m_showing = false;
};

} // namespace app
