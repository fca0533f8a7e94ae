// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/painted_panel.h"

namespace app {

/// What the last edit of the box did: the gaps it changed with their margin on one axis, worst first, and air, noise
/// and litres before and now. Before any edit: the tightest gaps as they are.
class BoxChanges : public PaintedPanel {
    Q_OBJECT
public:
    BoxChanges(Context& context, QWidget* parent);

    /// What is compared with from now on: the box as it is.
    void remember();
    void forget() { m_before.reset(); }
    void refresh();
    /// Height for so many rows.
    void showRows(int rows);
    /// The same in words, for who does not see it.
    [[nodiscard]] QString words() const;
    /// Rows that have room.
    [[nodiscard]] std::size_t room() const;

protected:
    void paintContent(Canvas& canvas) override;
    void refreshKept() override;

private:
    struct Before {
        std::map<core::GapRef, double> marginsMm; ///< at worst
        std::map<std::string, double> partsC;     ///< by mount
        double litres = 0, dba = 0;
    };
    struct Row {
        core::GapRef ref;
        QString name;
        double nowMm = 0, bandMm = 0, needMm = 0; ///< margin at worst, half band, what is needed
        std::optional<double> beforeMm;
        core::Mark mark = core::Mark::None;
    };
    struct Figure {
        QString name, unit;
        QString before, now; ///< before: empty where it is the same
    };
    void paintRow(Canvas& c, double y, const Row& row, double axis, double scale);
    void paintFigures(Canvas& c, double y);

    std::optional<Before> m_before;
    std::vector<Row> m_rows;
    std::vector<Figure> m_figures;
    bool m_pending = false;
};

} // namespace app
