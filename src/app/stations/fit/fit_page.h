// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/stations/fit/lead_drag.h"
#include "app/stations/fit/part_drag.h"
#include "app/stations/station_page.h"

namespace app {

class BoxEditor;

/// Three aligned sections whose cuts can be moved, zoomed and nudged on, and the list of gaps or of answers.
class FitPage : public StationPage {
    Q_OBJECT
public:
    FitPage(Context& context, QWidget* parent = nullptr);
    [[nodiscard]] const Cuts& cuts() const { return m_look.cuts; }
    [[nodiscard]] const FitLook& look() const { return m_look; }
    void chooseCut(core::Axis axis) {
        m_look.cuts.moved = axis;
        update();
    }
    void moveCut(double mm);
    void choose(FitLook::List list);
    void zoomBy(double factor, const QPointF& about);
    void showAll();
    /// Brings the answers of the chosen list up to date; painting asks for it.
    void answer() const;
    void drawFirstWay();
    /// The change of a row of "Change", made on the revision looked at.
    void apply(std::size_t row);
    /// The case on the drawing instead of the sections; key E.
    void editBox(bool on);
    /// Another revision in grey over the sections; the same again: none.
    void layOver(const std::string& revision);
    /// The part that is selected sits another way at its place: the next of its variants.
    void turnPart();
    /// The lead that is selected follows the edges of the case again.
    void straightenLead();
    [[nodiscard]] BoxEditor* boxEditor() const { return m_boxEditor; }

Q_SIGNALS:
    void refused(const core::Problem& problem);
    void fillInWanted();
    void addPartWanted();
    void sheetWanted();
    void cornersWanted(const core::LeadRef& lead, std::size_t end);

protected:
    void clicked(const Hit& hit) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    bool event(QEvent* event) override;

private:
    void dragTo(const Handle& handle, double x);
    void nextSort();
    void nextFilter();
    double& cut(core::Axis axis);
    void moveToNextEdge();
    void nudgePart(core::Axis axis, double mm);
    void makeGhost();
    void takeGhost(const core::Project& trial, const std::vector<core::Change>& changes, const std::string& mount);
    void dragPart(const QPointF& at, bool fine);
    void dropPart(bool take);
    void nextOverlay();
    std::optional<PartDrag> m_partDrag;
    // ---- leads: fit_leads_page.cpp ----
    [[nodiscard]] const core::fit::LeadRoute* selectedLead() const;
    void chooseLeadEnd(const core::LeadRef& lead, const QPointF& at);
    void chooseCorner(int corner);
    void tryWay(const LeadWay& way);
    void takeWay(LeadWay way, int corner);
    bool pressCorner(const Hit& hit, const QPointF& at);
    void dragCorner(const QPointF& at, bool fine);
    void dropCorner(bool take);
    void addCorner(const QPointF* at);
    void removeCorner();
    bool nudgeCorner(core::Axis axis, double mm);
    void nextCorner();
    bool leadKey(int key);
    std::optional<CornerDrag> m_cornerDrag;
    std::optional<core::fit::LeadRoute> m_leadTrial;
    void scrollList(int rows);
    void scrollToTop();
    BoxEditor* m_boxEditor = nullptr; ///< made when it is asked for
    mutable FitLook m_look;
    mutable FitAnswers m_answers;
    bool m_drawFirstWay = false;                ///< as soon as it is known
    mutable const void* m_answeredOf = nullptr; ///< the result they are of
    std::vector<core::fit::PlacedBody> m_ghost;
    QPointF m_press;
    Handle m_drag; ///< what is dragged
};

} // namespace app
