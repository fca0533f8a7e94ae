// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/stations/brief/box_drawing.h"
#include "app/ui/context.h"
#ifndef Q_MOC_RUN
#include "core/model/box_snaps.h"
#include "core/model/vent_on_fan.h"
#endif

#include <QPixmap>
#include <QWidget>

namespace app {

/// The case from three sides, with handles on the thing that is selected: ends to be pulled, a middle to be moved.
class BoxSheet : public QWidget {
    Q_OBJECT
public:
    BoxSheet(Context& context, QWidget* parent);

    /// One of the three views: which axes of the case lie across and up the sheet.
    struct Side {
        core::Axis across, up;
        QRectF inside; ///< px
        double scale = 1;
        [[nodiscard]] QPointF at(double a, double u) const {
            return {inside.left() + a * scale, inside.bottom() - u * scale};
        }
        [[nodiscard]] core::Axis through() const {
            return static_cast<core::Axis>(3 - static_cast<int>(across) - static_cast<int>(up));
        }
    };
    /// An end or the middle of the thing selected, in one view; -1 low end, 1 high end, 0 not along this axis. The feet
    /// belong to the walls: their lower end lies below the low one.
    struct Grip {
        static constexpr int feet = -2;
        int view = -1, across = 0, up = 0;
        [[nodiscard]] bool isFeet() const { return view >= 0 && up == feet; }
        [[nodiscard]] bool isMiddle() const { return view >= 0 && across == 0 && up == 0; }
        friend bool operator==(const Grip&, const Grip&) = default;
    };
    /// Paints this build; @p base is the case that is being edited.
    void show(const core::Build* build, const core::Part* casePart);
    void select(const std::optional<core::box::Item>& item);
    [[nodiscard]] const std::optional<core::box::Item>& selected() const { return m_item; }
    [[nodiscard]] core::box::Extent extentOf(const core::box::Item& item) const;
    /// The made part at a place, whose ends can be pulled; null: none.
    [[nodiscard]] const core::Placed* panelAt(const core::box::Item& item) const;
    /// The same, and of a cut-out the made part that it is cut in.
    [[nodiscard]] const core::Placed* panelOf(const core::box::Item& item) const;
    /// What a thing is called here: its name, or whose cut-out it is.
    [[nodiscard]] QString nameOf(const core::box::Item& item) const;
    /// The axes along which a thing can be moved: a vent and a cut-out in their plane.
    [[nodiscard]] std::vector<core::Axis> freeAxes(const core::box::Item& item) const;
    /// Whether an end of the thing selected can be pulled along an axis.
    [[nodiscard]] bool canPull(core::Axis axis) const;
    [[nodiscard]] const std::array<Side, 3>& sides();
    [[nodiscard]] QPointF gripAt(const Grip& grip);

Q_SIGNALS:
    void chose(const core::box::Item& item);
    void dragBegan();
    /// A grip lies at these places along the across and up axes of its view, snapped.
    void dragged(const app::BoxSheet::Grip& grip, double across, double up);
    void dragEnded(bool taken); ///< false: dropped with Esc
    void hinted(const QString& words);

protected:
    bool event(QEvent* event) override;
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    static constexpr double gripPx = 8;
    void layOut();
    [[nodiscard]] QRectF rectOf(const core::box::Extent& extent, const Side& side) const;
    [[nodiscard]] std::vector<Grip> grips() const;
    [[nodiscard]] Grip gripUnder(const QPointF& at);
    [[nodiscard]] std::optional<core::box::Item> itemUnder(const QPointF& at);
    /// A place near @p mm with a reason for it; nothing: none is within reach.
    struct Snapped {
        double mm = 0;
        QString why;
    };
    [[nodiscard]] std::optional<Snapped> snapped(core::Axis axis, double mm, double reachMm) const;
    /// What the picture of the parts was painted from.
    struct PartsPicture {
        struct PartPlace {
            core::PartKind kind;
            std::array<core::Length, 3> low, high;
            friend bool operator==(const PartPlace&, const PartPlace&) = default;
        };
        QSize size;
        double ratio = 1;
        QColor ink;
        std::vector<PartPlace> parts;
        std::vector<QRectF> insides;
        QPixmap picture;
        [[nodiscard]] bool isAs(const PartsPicture& other) const {
            return size == other.size && ratio == other.ratio && ink == other.ink && parts == other.parts &&
                   insides == other.insides;
        }
    };
    void paintStandingParts(Canvas& c, const std::array<BoxView, 3>& views);
    void paintThings(Canvas& c, const Side& side);
    void paintNames(Canvas& c, int view);
    void paintSelected(Canvas& c, int view);
    void paintCovers(Canvas& c, int view);
    [[nodiscard]] bool overCover(const QPointF& at);
    [[nodiscard]] QString coversHint() const;
    void paintDetail(Canvas& c);
    [[nodiscard]] std::vector<core::box::Item> things() const;
    [[nodiscard]] std::vector<core::box::Extent> extents() const;
    /// Drawn as an ellipse where one looks through it.
    [[nodiscard]] bool isRound(const core::box::Item& item) const;
    /// A cut-out is drawn and taken where one looks through it.
    [[nodiscard]] bool isSeen(const core::box::Item& item, const Side& side) const;
    [[nodiscard]] std::optional<core::box::VentOnFan> ventOnFan() const;
    void say(const QString& words);
    friend class BoxEditor;

    Context& m_context;
    const core::Build* m_build = nullptr;
    const core::Part* m_case = nullptr;
    std::optional<core::box::Item> m_item;
    std::array<Side, 3> m_sides;
    PartsPicture m_partsPicture;
    Grip m_grip, m_hovered;
    QPointF m_grabbed; ///< where in the grip it was taken, mm from its place
    std::optional<core::box::Extent> m_before;
    std::optional<core::box::VentOnFan> m_onFanBefore;
    std::array<std::optional<double>, 3> m_snap;
    QString m_hint;
};

} // namespace app
