// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/painted_panel.h"

#include <QPushButton>
#include <QScrollArea>

namespace app {

/// The cards of the revisions with their line of descent.
class RevisionCards : public PaintedPanel {
    Q_OBJECT
public:
    explicit RevisionCards(Context& context, QWidget* parent = nullptr);
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QRect cardRect(int index) const;

protected:
    void paintContent(Canvas& canvas) override;
    void clicked(const Hit& hit) override;
    void keyPressEvent(QKeyEvent* event) override;
};

/// Rail at the left: heads, cards, the comparison with the baseline, New revision.
class RevisionRail : public QWidget {
    Q_OBJECT
public:
    explicit RevisionRail(Context& context, QWidget* parent = nullptr);
    [[nodiscard]] RevisionCards* cards() const { return m_cards; }

Q_SIGNALS:
    void newRevision();

private:
    void refresh();
    void showSelected();
    Context& m_context;
    RevisionCards* m_cards;
    QScrollArea* m_scroll;
    QPushButton* m_button;
    PaintedPanel* m_head;
    PaintedPanel* m_foot;
};

} // namespace app
