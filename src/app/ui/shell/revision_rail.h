// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/painted_panel.h"

#include <QTimer>

#include <QPushButton>
#include <QScrollArea>

namespace app {

class BeginElsewhere;

/// The cards of the revisions with their line of descent.
class RevisionCards : public PaintedPanel {
    Q_OBJECT
public:
    explicit RevisionCards(Context& context, QWidget* parent = nullptr);
    [[nodiscard]] QSize sizeHint() const override;
    /// Cards are as high as their words need: one line or two.
    [[nodiscard]] QRect cardRect(int index) const;
    void measure();

protected:
    void paintContent(Canvas& canvas) override;
    void paintCard(Canvas& c, const QRectF& card, const View& v, const core::Revision& r);
    void clicked(const Hit& hit) override;
    void keyPressEvent(QKeyEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    [[nodiscard]] QString wordsOf(const core::Revision& revision) const;
    std::vector<int> m_tops; ///< one more than there are cards
};

/// Rail at the left: heads, cards, the comparison with the baseline, New revision.
class RevisionRail : public QWidget {
    Q_OBJECT
public:
    explicit RevisionRail(Context& context, QWidget* parent = nullptr);
    [[nodiscard]] RevisionCards* cards() const { return m_cards; }
    [[nodiscard]] BeginElsewhere* elsewhere() const { return m_elsewhere; } ///< while there is no revision

Q_SIGNALS:
    void newRevision();

protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    void refresh();
    void showSelected();
    Context& m_context;
    RevisionCards* m_cards;
    QScrollArea* m_scroll;
    BeginElsewhere* m_elsewhere;
    QPushButton* m_button;
    PaintedPanel* m_head;
    PaintedPanel* m_foot;
    QTimer m_nextFrame;
};

} // namespace app
