// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/stations/brief/arrangement_grid.h"
#include "app/ui/dialogs/form_dialog.h"
#ifndef Q_MOC_RUN
#include "core/explain/working.h"
#endif

#include <QGridLayout>

class QPushButton;
class QScrollArea;

namespace app {

class StartSheet;

/// A project from nothing: which usual arrangement it is, and how large. Drawing, litres and what does not go in follow
/// while sizes are typed; what nobody typed stays an estimate.
class StartDialog : public FormDialog {
    Q_OBJECT
public:
    StartDialog(Context& context, QWidget* parent);
    /// Begins with a case of that project or parts file; where it holds several it asks which. What is wrong with the
    /// file stands below the fields.
    void takeCaseOf(const QString& path);
    /// Asks for such a file.
    void takeCase();
    /// Stands on a page instead of in a window of its own: the station before there is a project.
    void standOn(QWidget* page);

Q_SIGNALS:
    void created(const core::Project& project);
    /// How the litres of the box that stands there add up; nothing: it does not stand there any more.
    void worked(const std::optional<core::explain::Working>& working);

protected:
    core::Result<void> apply() override;
    bool event(QEvent* event) override;
    void showEvent(QShowEvent* event) override;
    void hideEvent(QHideEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    struct Row {
        QDoubleSpinBox* box;
        QComboBox* source;
        bool typed = false;
        double wasMm = 0; ///< as its field got the focus
    };
    [[nodiscard]] const core::arrange::Arrangement& arrangement() const;
    [[nodiscard]] QString told(std::string_view word) const; ///< in the reader's language
    [[nodiscard]] QWidget* makeForm();
    void choose(int row);
    void makeRows();
    void sizeFields(const Row& row) const;
    void usual();
    void typed(std::size_t row);
    void follow();
    void say(const ArrangedBox& box);
    void sayWhatIsMade(const ArrangedBox& box);
    void sayWhetherItGoesIn(const core::stages::Evaluation& look);
    void work(const core::stages::Evaluation& look);
    void turnWay(int by);
    [[nodiscard]] core::arrange::Sizes sizes() const;
    [[nodiscard]] std::string way() const;
    void beginWith(std::vector<core::Part> parts, const core::Part& chosen);

    std::vector<core::Part> m_standard;
    ArrangementGrid* m_grid;
    StartSheet* m_picture = nullptr;
    QHBoxLayout* m_columns = nullptr;
    QPushButton* m_take = nullptr;
    QScrollArea* m_scroll = nullptr;
    QLabel *m_title = nullptr, *m_litres = nullptr, *m_makes = nullptr, *m_check = nullptr;
    QLineEdit* m_name = nullptr;
    QGridLayout* m_sizes = nullptr;
    QComboBox *m_way = nullptr, *m_material = nullptr;
    QLabel* m_wayLabel = nullptr;
    std::vector<Row> m_rows;
    std::optional<core::explain::Working> m_worked; ///< of the last good sizes
    double m_litresNow = 0;
    double m_litresBefore = 0; ///< as the field that is typed in got the focus; 0: none has
    bool m_showing = false;
    bool m_narrow = false; ///< on a page, beside the rail and Working
};

} // namespace app
