// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/context.h"
#ifndef Q_MOC_RUN
#include "core/arrange/arrangement.h"
#endif

#include <QListView>

namespace app {

/// An arrangement with the parts it is meant for, ready to be drawn. The project stays where it is: the build looks
/// into it.
struct ArrangedBox {
    std::shared_ptr<const core::Project> project;
    std::optional<core::Build> build;
    double litres = 0; ///< of the closed block with walls, without feet
};
/// @p standard: parts it is meant for. Errors as makeBox().
[[nodiscard]] core::Result<ArrangedBox> arranged(const core::arrange::Arrangement& arrangement,
                                                 const core::arrange::Sizes& sizes, std::string_view way,
                                                 const std::vector<core::Part>& standard);

/// The usual arrangements as small true drawings, all at one scale a card; chosen by mouse or arrows.
class ArrangementGrid : public QListView {
    Q_OBJECT
public:
    ArrangementGrid(Context& context, const std::vector<core::Part>& standard, QWidget* parent);
    [[nodiscard]] int chosen() const { return currentIndex().row(); }
    void choose(int row) { setCurrentIndex(model()->index(row, 0)); }
    [[nodiscard]] double usualLitres(int row) const; ///< in its usual sizes, outside without feet

Q_SIGNALS:
    void chose(int row);
    void entered(); ///< Enter or a double-click: on to the sizes

protected:
    void currentChanged(const QModelIndex& now, const QModelIndex& before) override;
    void keyPressEvent(QKeyEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
};

} // namespace app
