// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/stations/fit/box_changes_sheet.h"
#include "app/stations/fit/box_sheet.h"
#include "app/stations/fit/box_things_grid.h"
#include "app/ui/fields/struct_editor.h"

class QMenu;
class QPushButton;

namespace app {

class NumberBox;

/// Edit the box: the case drawn from three sides, the list of its things, the form of the one selected, and what the
/// last change did to gaps, litres and air.
class BoxEditor : public QWidget {
    Q_OBJECT
public:
    BoxEditor(Context& context, QWidget* parent);

    [[nodiscard]] BoxSheet* sheet() const { return m_sheet; }
    [[nodiscard]] BoxThings* list() const { return m_list; }
    [[nodiscard]] StructEditor* form() const { return m_form; }
    /// The case of the revision that is looked at; null: there is none.
    [[nodiscard]] const core::Part* casePart() const;
    [[nodiscard]] const std::vector<core::box::Item>& items() const { return m_items; }
    void choose(const core::box::Item& item);
    void add(core::box::Kind kind, core::Side side, core::PartKind takes = core::PartKind::Fan);
    void mirror(core::Axis axis);
    void copy();
    void remove();
    void rename();
    void rowOf();
    void split(core::Axis axis);
    /// A cut-out in the inner panel that is chosen, or whose cut-out is.
    void addCutout();
    /// The chamber that is selected and one beside it become one.
    void join(std::size_t other);
    [[nodiscard]] BoxChanges* changes() const { return m_changes; }

Q_SIGNALS:
    void closed();

protected:
    void keyPressEvent(QKeyEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;
    void showEvent(QShowEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    void tellSelection();
    void refresh();
    void fillList();
    [[nodiscard]] BoxThings::Row listed(const core::box::Item& item) const;
    void showForm();
    void enableButtons();
    [[nodiscard]] std::optional<core::box::Item> nearestOf(const core::box::Item& gone) const;
    [[nodiscard]] bool formHolds(const core::Part* part) const;
    void sayWhatRevisionsMade();
    void showEnds();
    void remember();
    [[nodiscard]] QMenu* addMenu();
    void offerJoins(QMenu* menu);
    /// Carries out an edit of the case as one step; those of one drag join.
    bool edit(const QString& text, const std::function<core::Result<void>(core::Part&)>& change, int mergeId = 0);
    /// The same with something that is new, and then chosen.
    void make(const QString& text, const std::function<core::Result<core::box::Item>(core::Part&)>& how);
    bool editWith(const QString& text, const core::Part& base,
                  const std::function<core::Result<void>(core::Part&)>& change, int mergeId);
    /// One end of what is selected to a place along an axis; a made part becomes longer, its place goes along.
    bool pull(const QString& text, const core::Part& base, core::Axis axis, bool high, double mm, int mergeId);
    /// An edit of the panel that is chosen, or whose cut-out is, as one step; @p base: as it stands, or stood when the
    /// drag began.
    bool editPanel(const QString& text, const core::Part& base,
                   const std::function<core::Result<void>(core::Part&, const core::Placed&)>& change, int mergeId = 0);
    [[nodiscard]] const core::Part* panelPart() const;
    void dragTo(const BoxSheet::Grip& grip, double across, double up);
    void endDrag(bool taken);
    void typedEnd(bool fromLow, double mm);
    void nudge(core::Axis axis, double mm);
    void step(int by);

    Context& m_context;
    BoxSheet* m_sheet;
    BoxThings* m_list;
    StructEditor* m_form;
    BoxChanges* m_changes;
    QLabel *m_changed, *m_hint, *m_problem, *m_endLabel, *m_lowLabel, *m_highLabel;
    NumberBox *m_fromLow, *m_fromHigh;
    std::vector<QPushButton*> m_buttons;
    std::vector<core::box::Item> m_items;
    std::optional<core::box::Item> m_item;
    std::optional<core::Build> m_build;
    std::shared_ptr<const core::Project> m_project; ///< m_build looks into it
    std::optional<core::Part> m_base;               ///< the case as the drag began
    std::optional<core::Placed> m_basePanel;        ///< the made part that is dragged, as the drag began
    std::optional<core::Part> m_basePanelPart;
    BoxSheet::Grip m_grip{0, 1, 0}; ///< the end that is typed
    int m_undoIndex = 0;            ///< of the stack, as the drag began
    int m_drag = 1000;              ///< steps of undo that join
    bool m_filling = false, m_forming = false;
};

} // namespace app
