// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/brief/arrangement_grid.h"

#include "app/stations/brief/box_drawing.h"

#include <QAbstractListModel>
#include <QKeyEvent>
#include <QStyledItemDelegate>

namespace app {

core::Result<ArrangedBox> arranged(const core::arrange::Arrangement& arrangement, const core::arrange::Sizes& sizes,
                                   std::string_view way, const std::vector<core::Part>& standard) {
    auto box = core::arrange::makeBox(arrangement, sizes, way);
    if (!box)
        return tl::make_unexpected(box.error());
    auto project = core::arrange::meantProject(arrangement, std::move(*box), standard);
    if (!project)
        return tl::make_unexpected(project.error());
    ArrangedBox all{std::make_shared<core::Project>(std::move(*project)), {}, 1e-6};
    auto build = core::resolve(*all.project, "R1");
    if (!build)
        return tl::make_unexpected(build.error());
    const double walls = 2 * build->caseSpec().wall.value.mm();
    for (const core::Length& side : build->insideAt)
        all.litres *= side.mm() + walls;
    all.build = std::move(*build);
    return all;
}

namespace {

/// A word of the core in the reader's language.
QString told(std::string_view word) { return qs(readerFor({}).text(core::term(word))); }

QString outsideOf(const core::Build& build) {
    QStringList sides;
    for (const core::Length& side : build.insideAt)
        sides << digits(side.mm(), 0);
    return sides.join(QStringLiteral(" \u00d7 "));
}

constexpr int litresRole = Qt::UserRole;

/// The cards, with what they show.
class Cards : public QAbstractListModel {
public:
    Cards(const std::vector<core::Part>& standard, QObject* parent) : QAbstractListModel(parent) {
        for (const auto& a : core::arrange::arrangements())
            m_boxes.push_back(arranged(a, core::arrange::usualSizes(a), {}, standard).value_or(ArrangedBox{}));
    }
    [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override {
        return parent.isValid() ? 0 : static_cast<int>(m_boxes.size());
    }
    [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override {
        const auto& a = core::arrange::arrangements()[static_cast<std::size_t>(index.row())];
        const QString ways = a.ways.size() > 1 ? QObject::tr("%1 ways").arg(a.ways.size()) : QString();
        if (role == Qt::DisplayRole)
            return told(a.name);
        if (role == litresRole)
            return box(index.row()).litres;
        if (role == Qt::ToolTipRole)
            return QObject::tr("%1\n%2\n%3").arg(told(a.name), told(a.takes), ways).trimmed();
        if (role == Qt::AccessibleTextRole)
            return QObject::tr("%1, %2 litres, %3, %4")
                .arg(told(a.name), digits(box(index.row()).litres, 2), told(a.takes), ways);
        return {};
    }
    [[nodiscard]] const ArrangedBox& box(int row) const { return m_boxes[static_cast<std::size_t>(row)]; }

private:
    std::vector<ArrangedBox> m_boxes;
};

class CardPainter : public QStyledItemDelegate {
public:
    CardPainter(Context& context, const Cards& cards, QObject* parent)
        : QStyledItemDelegate(parent), m_context(context), m_cards(cards) {}
    [[nodiscard]] QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex&) const override {
        const auto* view = qobject_cast<const QListView*>(option.widget);
        return view ? view->gridSize() : QSize(136, 176);
    }
    void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const PaintingNow painting;
        p->save();
        p->setRenderHint(QPainter::Antialiasing);
        Canvas c(*p, m_context.theme);
        const bool chosen = option.state.testFlag(QStyle::State_Selected);
        const QRectF r = QRectF(option.rect).adjusted(4, 4, -4, -4);
        c.box(r, chosen ? c.t.marker : c.t.sheet, chosen ? c.t.medge : c.t.line, chosen ? 2 : 1.2);
        if (chosen && option.state.testFlag(QStyle::State_HasFocus))
            c.box(r.adjusted(-3, -3, 3, 3), {}, c.t.ink, 2);
        const auto& a = core::arrange::arrangements()[static_cast<std::size_t>(index.row())];
        const ArrangedBox& box = m_cards.box(index.row());
        const double words = r.bottom() - 58;
        if (box.build)
            paintViews(c, QRectF(r.left() + 8, r.top() + 8, r.width() - 16, words - r.top() - 12), *box.build);
        c.hline(r.left() + 1, r.right() - 1, words, c.t.hair);
        const double w = r.width() - 14, x = r.left() + 7;
        c.text({x, words + 3, w, 18}, c.elided(told(a.name), w, 12.5, Weight::SemiBold), 12.5, Weight::SemiBold);
        const QString litres = m_context.view().text(core::Quantity::Volume, box.litres);
        c.text({x, words + 20, w, 17}, litres, 12, Weight::Medium);
        if (box.build)
            c.second({x, words + 20, w, 17},
                     c.elided(outsideOf(*box.build), w - c.width(litres, 12, Weight::Medium) - 5, 11),
                     Qt::AlignRight | Qt::AlignVCenter, 11);
        const QString ways = a.ways.size() > 1 ? QObject::tr("%1 ways").arg(a.ways.size()) : QString();
        const double room = w - (ways.isEmpty() ? 0 : c.width(ways, 11.5, Weight::Medium) + 6);
        c.second({x, words + 37, room, 17}, c.elided(told(a.takes), room, 11.5), Qt::AlignLeft | Qt::AlignVCenter,
                 11.5);
        c.text({x, words + 37, w, 17}, ways, 11.5, Weight::Medium, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
        p->restore();
    }

private:
    /// Front and side at one scale: beside each other, or one over the other where that is clearly larger. A bar of
    /// 100 mm above.
    static void paintViews(Canvas& c, const QRectF& r, const core::Build& build) {
        const BoxView front = frontView(build), side = sideView(build);
        const QSizeF a = front.sizeMm(), b = side.sizeMm();
        const QRectF room = r.adjusted(0, 10, 0, 0);
        const double beside =
            std::min((room.width() - 12) / (a.width() + b.width()), room.height() / std::max(a.height(), b.height()));
        const double over =
            std::min(room.width() / std::max(a.width(), b.width()), (room.height() - 10) / (a.height() + b.height()));
        const bool stacked = over > 1.15 * beside;
        const double scale = std::min(stacked ? over : beside, 0.6);
        c.hline(r.left(), r.left() + 100 * scale, r.top() + 3, c.t.ink, 1);
        for (const double x : {r.left(), r.left() + 100 * scale})
            c.vline(x, r.top(), r.top() + 6, c.t.ink, 1);
        if (stacked) {
            const double h = (a.height() + b.height()) * scale + 10, top = room.center().y() - h / 2;
            paintBox(c, front, {room.center().x() - a.width() * scale / 2, top + a.height() * scale}, scale);
            paintBox(c, side, {room.center().x() - b.width() * scale / 2, top + h}, scale);
        } else {
            const double w = (a.width() + b.width()) * scale + 12, left = room.center().x() - w / 2;
            const double foot = room.center().y() + std::max(a.height(), b.height()) * scale / 2;
            paintBox(c, front, {left, foot}, scale);
            paintBox(c, side, {left + a.width() * scale + 12, foot}, scale);
        }
    }
    Context& m_context;
    const Cards& m_cards;
};
} // namespace

ArrangementGrid::ArrangementGrid(Context& context, const std::vector<core::Part>& standard, QWidget* parent)
    : QListView(parent) {
    setObjectName(QStringLiteral("arrangements"));
    setAccessibleName(tr("Usual arrangements"));
    auto* cards = new Cards(standard, this);
    setModel(cards);
    setViewMode(QListView::IconMode);
    setMovement(QListView::Static);
    setResizeMode(QListView::Adjust);
    setUniformItemSizes(true);
    setFrameShape(QFrame::NoFrame);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff); // nine cards find room in any window
    viewport()->setAutoFillBackground(false);
    setItemDelegate(new CardPainter(context, *cards, this));
    connect(this, &QListView::activated, this, &ArrangementGrid::entered);
}

double ArrangementGrid::usualLitres(int row) const { return model()->index(row, 0).data(litresRole).toDouble(); }

void ArrangementGrid::currentChanged(const QModelIndex& now, const QModelIndex& before) {
    QListView::currentChanged(now, before);
    if (now.isValid())
        Q_EMIT chose(now.row());
}

void ArrangementGrid::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter)
        return Q_EMIT entered();
    QListView::keyPressEvent(event);
}

/// Three cards in a row, three rows in sight.
void ArrangementGrid::resizeEvent(QResizeEvent* event) {
    const int w = std::max(120, (width() - 8) / 3), h = std::clamp((height() - 6) / 3, 124, 196);
    if (gridSize() != QSize(w, h))
        setGridSize({w, h});
    QListView::resizeEvent(event);
}

} // namespace app

#include "moc_arrangement_grid.cpp"
