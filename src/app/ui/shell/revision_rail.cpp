// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/shell/revision_rail.h"

#include "app/ui/shell/begin_elsewhere.h"
#include "app/ui/style.h"
#include "core/base/text.h"
#include "core/verdict/compare.h"

#include <QCoreApplication>
#include <QKeyEvent>
#include <QPainterPath>
#include <QScrollBar>
#include <QVBoxLayout>

namespace app {
namespace {

constexpr int oneLine = 62, twoLines = 77, between = 6;

/// Middle of the three marks of a card, from its right edge: closer together on a narrow rail.
double markX(double right, double cardWidth, int which) {
    return right - 16 - (2 - which) * (cardWidth < 116 ? 23.0 : 32.5);
}

class RailHead : public PaintedPanel {
    Q_DECLARE_TR_FUNCTIONS(app::RailHead)
public:
    using PaintedPanel::PaintedPanel;

protected:
    void paintContent(Canvas& c) override {
        c.p.fillRect(rect(), c.t.tray);
        c.text({12, 8, 90, 22}, tr("Revisions"), 14, Weight::SemiBold);
        const double right = width() - 8 - scrollBarExtent;
        const std::array words{tr("fit"), tr("heat"), tr("noise")};
        const double apart = width() - 56 < 116 ? 3 : 0; // on a narrow rail the words would run together
        for (int k = 0; k < 3; ++k)
            c.text({markX(right, width() - 56, k) - 20 + (k == 2 ? apart : -apart), 8, 40, 22},
                   words[static_cast<std::size_t>(k)], 11, Weight::Regular, c.t.ink2, Qt::AlignCenter);
    }
};

/// The selected revision against the baseline, three numbers.
class RailFoot : public PaintedPanel {
    Q_DECLARE_TR_FUNCTIONS(app::RailFoot)
public:
    using PaintedPanel::PaintedPanel;

protected:
    void paintContent(Canvas& c) override {
        c.p.fillRect(rect(), c.t.tray);
        c.hline(12, width() - 12, 2, c.t.line);
        const View v = m_context.view();
        const std::string& base = v.project().baseline;
        if (v.project().revisions.empty()) {
            c.paragraph({12, 10, width() - 24.0, 70},
                        tr("Nothing to compare yet: a project has one revision at first."), 12, Weight::Regular,
                        c.t.ink2, 3);
            return;
        }
        if (base.empty() || !v.project().revision(base)) {
            c.paragraph({12, 10, width() - 24.0, 70}, tr("No baseline. Press P to pin the selected revision."), 12,
                        Weight::Regular, c.t.ink2, 3);
            return;
        }
        c.text({12, 8, width() - 24.0, 20}, tr("%1 against %2").arg(qs(v.document.revision()), qs(base)), 12.5,
               Weight::SemiBold);
        const auto& now = v.result();
        const auto& then = v.document.shown(base);
        double y = 30;
        const auto row = [&](const QString& name, core::TargetKind kind, core::Quantity difference) {
            const auto* a = targetOf(now, kind);
            const auto* b = targetOf(then, kind);
            c.text({12, y, 90, 18}, name, 12, Weight::Regular, c.t.ink);
            const bool known = a && b && std::isfinite(a->value) && std::isfinite(b->value);
            c.number(width() - 40.0, y + 9,
                     known ? v.signedNumber(difference, a->value - b->value) : QStringLiteral("–"), v.unit(difference),
                     12.5);
            y += 19;
        };
        row(tr("CPU"), core::TargetKind::Temperature, core::Quantity::TemperatureDifference);
        row(tr("Noise"), core::TargetKind::Noise, core::Quantity::Level);
        row(tr("Tightest gap"), core::TargetKind::Gap, core::Quantity::Length);
        if (!now.evaluation || !then.evaluation)
            return;
        // What it costs more or less, in number and per cent, where the window is high enough.
        for (const auto& d : core::verdict::against(*now.evaluation, *then.evaluation)) {
            if (y + 19 > height())
                break; // a low window keeps the first three; the report and the command line tell all
            c.hit({12, y, width() - 24.0, 18}, Handle{.act = Act::Compare},
                  v.words(core::say("{}: {}", d.name, core::verdict::textOf(d))));
            const QString unit =
                d.quantity == core::Quantity::None ? QString() : QStringLiteral(", ") + v.unit(d.quantity);
            c.text({12, y, 90, 18}, v.words(d.name) + unit, 12, Weight::Regular, c.t.ink);
            const QString by =
                d.quantity == core::Quantity::None ? qs(core::withSign(d.by(), 0)) : v.signedNumber(d.quantity, d.by());
            c.text({80, y, width() - 92.0, 18},
                   d.then != 0 ? tr("%1 (%2 %)").arg(by, qs(core::withSign(d.percent(), 0))) : by, 12, Weight::Medium,
                   c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
            y += 19;
        }
    }
};

} // namespace

namespace {
QPainterPath foldedCorner(const QRectF& card) {
    QPainterPath corner(card.bottomRight());
    corner.lineTo(card.right() - 12, card.bottom());
    corner.lineTo(card.right(), card.bottom() - 12);
    corner.closeSubpath();
    return corner;
}
} // namespace

RevisionCards::RevisionCards(Context& context, QWidget* parent) : PaintedPanel(context, parent) {
    setAside();
    setAccessibleName(tr("Revisions"));
    setObjectName(QStringLiteral("revisionCards"));
}

QSize RevisionCards::sizeHint() const { return {164, (m_tops.empty() ? 0 : m_tops.back()) + 26}; }

QRect RevisionCards::cardRect(int index) const {
    const auto i = static_cast<std::size_t>(std::clamp(index, 0, std::max(0, static_cast<int>(m_tops.size()) - 2)));
    if (m_tops.size() < 2)
        return {};
    return {34, m_tops[i], width() - 40, m_tops[i + 1] - m_tops[i] - between};
}

QString RevisionCards::wordsOf(const core::Revision& r) const {
    const QString words = m_context.view().words(m_context.document.words(r.id));
    return words.isEmpty() ? tr("no change yet") : r.parent.empty() ? tr("First: ") + words : words;
}

void RevisionCards::measure() {
    const QFontMetricsF metrics(m_context.theme.font(12, Weight::Medium));
    m_tops = {4};
    for (const core::Revision& r : m_context.document.project().revisions)
        m_tops.push_back(m_tops.back() + (metrics.horizontalAdvance(wordsOf(r)) > width() - 60 ? twoLines : oneLine) +
                         between);
    setMinimumHeight(sizeHint().height());
}

void RevisionCards::resizeEvent(QResizeEvent*) { measure(); }

void RevisionCards::clicked(const Hit& hit) {
    if (const auto* revision = std::get_if<core::RevisionRef>(&hit.thing))
        m_context.document.selectRevision(core::RevisionRef(*revision).id);
}

void RevisionCards::keyPressEvent(QKeyEvent* event) {
    const auto& revisions = m_context.document.project().revisions;
    const auto it = std::find_if(revisions.begin(), revisions.end(),
                                 [&](const core::Revision& r) { return r.id == m_context.document.revision(); });
    if (it == revisions.end())
        return QWidget::keyPressEvent(event);
    if (event->key() == Qt::Key_Down && it + 1 != revisions.end())
        m_context.document.selectRevision((it + 1)->id);
    else if (event->key() == Qt::Key_Up && it != revisions.begin())
        m_context.document.selectRevision((it - 1)->id);
    else
        QWidget::keyPressEvent(event);
}

/// The first temperature and the noise of the brief, each with the stamp of what it is; answers the same in words.
QString paintFigures(Canvas& c, const QRectF& r, const View& v, const Document::Result& result) {
    if (!result.evaluation) {
        c.second(r, c.elided(qs(result.problem), r.width(), 12));
        return qs(result.problem);
    }
    struct Figure {
        QString text, words;
        core::explain::Stamp stamp;
    };
    std::vector<Figure> figures;
    for (const auto kind : {core::TargetKind::Temperature, core::TargetKind::Noise})
        if (const auto* t = targetOf(result, kind); t && std::isfinite(t->value)) {
            const core::Quantity q = core::quantityOf(kind);
            const QString text =
                kind == core::TargetKind::Noise ? v.number(q, t->value) + QStringLiteral(" dB") : v.text(q, t->value);
            figures.push_back({text,
                               QObject::tr("%1 %2, %3").arg(qs(t->name), text, v.words(core::verdict::basisText(*t))),
                               core::explain::stampOf(t->basis, t->simulated)});
        }
    if (figures.empty()) {
        const QString litres = v.text(core::Quantity::Volume, result.evaluation->fit.volumeL);
        figures.push_back({litres, QObject::tr("Volume %1, computed").arg(litres), core::explain::Stamp::Computed});
    }
    double x = r.left();
    QStringList words;
    for (const Figure& f : figures) {
        words << f.words;
        const double w = c.width(f.text, 12) + 3;
        if (x + w + 13 > r.right() + 1)
            continue; // it is in the words
        c.second({x, r.top(), w, r.height()}, f.text);
        c.stamp({x + w, r.center().y() - 6.5}, f.stamp);
        x += w + 22;
    }
    return words.join(QStringLiteral("; "));
}

void RevisionCards::paintCard(Canvas& c, const QRectF& card, const View& v, const core::Revision& r) {
    const auto& result = v.document.shown(r.id);
    const bool selected = r.id == v.document.revision();
    c.box(card, selected ? c.t.marker : c.t.sheet, selected ? c.t.medge : c.t.line, selected ? 1.6 : 1);
    if (selected)
        c.p.fillRect(QRectF(card.left(), card.top(), 3, card.height()), c.t.medge);
    if (r.id == v.project().baseline)
        c.p.fillPath(foldedCorner(card), c.t.ink);
    c.text({card.left() + 9, card.top() + 2, 60, 20}, qs(r.id), 13, Weight::SemiBold);
    if (result.verdict.validated)
        c.text({card.right() - 60, card.top() + card.height() - 21, 52, 18}, tr("validated"), 11, Weight::SemiBold,
               c.t.ok, Qt::AlignRight | Qt::AlignVCenter);
    const auto marks = railMarks(result);
    for (int k = 0; k < 3; ++k)
        c.mark({markX(card.right(), card.width(), k) - 7, card.top() + 7}, marks[static_cast<std::size_t>(k)]);
    const QString words = wordsOf(r);
    c.paragraph({card.left() + 9, card.top() + 22, card.width() - 16, 34}, words, 12, Weight::Medium, c.t.ink,
                card.height() > oneLine + 4 ? 2 : 1);
    // "validated" stands at the end of the same line.
    const double lineRoom = card.width() - 18 - (result.verdict.validated ? 56 : 0);
    const QString figures = paintFigures(c, {card.left() + 9, card.bottom() - 22, lineRoom, 18}, v, result);
    c.hit(card, Hit{{},
                    core::RevisionRef{r.id},
                    {.act = Act::LookAt},
                    tr("%1: %2. Fit %3, heat %4, noise %5. %6")
                        .arg(qs(r.id), words, qs(core::markWord(marks[0])), qs(core::markWord(marks[1])),
                             qs(core::markWord(marks[2])), figures)});
}

void RevisionCards::paintContent(Canvas& c) {
    c.p.fillRect(rect(), c.t.tray);
    const View v = m_context.view();
    const auto& revisions = v.project().revisions;
    const QRect shown = visibleRegion().boundingRect().adjusted(0, -twoLines, 0, twoLines);
    std::vector<std::string> trunk;
    if (const auto line = core::lineage(v.project(), v.document.revision()))
        for (const core::Revision* r : *line)
            trunk.push_back(r->id);
    const auto indexOf = [&](const std::string& id) {
        return std::find_if(revisions.begin(), revisions.end(), [&](const core::Revision& r) { return r.id == id; }) -
               revisions.begin();
    };
    const auto onTrunk = [&](const std::string& id) {
        return std::find(trunk.begin(), trunk.end(), id) != trunk.end();
    };
    // Lines of descent: the trunk straight, side branches short.
    if (trunk.size() > 1)
        c.vline(17, cardRect(static_cast<int>(indexOf(trunk.front()))).top() + 12,
                cardRect(static_cast<int>(indexOf(trunk.back()))).top() + 12, c.t.ink, 1.6);
    for (std::size_t i = 0; i < revisions.size(); ++i) {
        const core::Revision& r = revisions[i];
        // What is scrolled out of sight is found by its name, and computed when it comes into sight.
        if (const QRect place = cardRect(static_cast<int>(i));
            revisions.size() > 20 && !place.intersects(shown) && r.id != v.document.revision()) {
            c.hit(QRectF(place),
                  Hit{{}, core::RevisionRef{r.id}, {.act = Act::LookAt}, tr("%1: %2").arg(qs(r.id), wordsOf(r))});
            continue;
        }
        const bool straight = onTrunk(r.id), selected = r.id == v.document.revision();
        QRectF card = QRectF(cardRect(static_cast<int>(i)));
        if (!straight)
            card.setLeft(card.left() + 8);
        const double y = card.top() + 12;
        if (straight) {
            c.hline(17, card.left(), y, c.t.ink, 1.2);
        } else if (!r.parent.empty()) {
            const double from = cardRect(static_cast<int>(indexOf(r.parent))).top() + 12.0;
            c.p.setPen(QPen(c.t.line, 1));
            c.p.drawPolyline(QPolygonF{{17, std::min(from + 10, y - 8)}, {17, y - 8}, {25, y}, {card.left(), y}});
        }
        if (r.id == v.project().baseline)
            c.baselineSign({17, y});
        else {
            c.p.setPen(QPen(c.t.ink, 1.4));
            c.p.setBrush(selected ? c.t.mdot : straight ? c.t.sheet : c.t.tray);
            const double at = straight ? 17 : 27;
            c.p.drawEllipse(QPointF(at, y), selected ? 5 : 3.5, selected ? 5 : 3.5);
        }
        if (!visibleRegion().isEmpty() &&
            !shown.intersects(card.toRect())) { // its line of descent runs on, its words are not seen
            c.hit(card,
                  Hit{{}, core::RevisionRef{r.id}, {.act = Act::LookAt}, qs(r.id) + QStringLiteral(": ") + wordsOf(r)});
            continue;
        }
        paintCard(c, card, v, r);
    }
    if (!v.project().baseline.empty() && !m_tops.empty()) {
        const double y = m_tops.back() + 10;
        c.baselineSign({17, y});
        c.second({34, y - 10, width() - 40.0, 20}, tr("%1 is the baseline").arg(qs(v.project().baseline)));
    }
}

RevisionRail::RevisionRail(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 12);
    layout->setSpacing(0);
    m_head = new RailHead(context, this);
    m_head->setFixedHeight(34);
    m_head->setFocusPolicy(Qt::NoFocus);
    m_cards = new RevisionCards(context);
    m_scroll = new QScrollArea(this);
    m_scroll->setWidget(m_cards);
    m_scroll->setWidgetResizable(true);
    m_scroll->setFrameShape(QFrame::NoFrame);
    m_scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_scroll->setFocusPolicy(Qt::NoFocus);
    m_elsewhere = new BeginElsewhere(context, this);
    m_foot = new RailFoot(context, this);
    m_foot->setFixedHeight(96);
    m_foot->setFocusPolicy(Qt::NoFocus);
    m_button = new QPushButton(this);
    m_button->setObjectName(QStringLiteral("newRevision"));
    layout->addWidget(m_head);
    layout->addWidget(m_scroll, 1);
    layout->addWidget(m_elsewhere, 1);
    layout->addWidget(m_foot);
    auto* row = new QHBoxLayout;
    row->setContentsMargins(12, 0, 12, 0);
    row->addWidget(m_button);
    layout->addLayout(row);
    connect(m_button, &QPushButton::clicked, this, &RevisionRail::newRevision);
    m_nextFrame.setSingleShot(true);
    connect(&m_nextFrame, &QTimer::timeout, this, &RevisionRail::refresh);
    const auto follow = [this] {
        m_context.document.stages().pace() == StageStore::Pace::Beside ? m_nextFrame.start(0) : refresh();
    }; // the sheet is painted first
    connect(&context.document, &Document::changed, this, follow);
    connect(&context.document, &Document::revisionSelected, this, follow);
    refresh();
}

void RevisionRail::resizeEvent(QResizeEvent*) {
    constexpr int three = 96, seven = three + 4 * 19, roomFor = 620;
    m_foot->setFixedHeight(height() >= roomFor ? seven : three);
}

void RevisionRail::paintEvent(QPaintEvent*) { QPainter(this).fillRect(rect(), m_context.theme.tray); }

void RevisionRail::refresh() {
    m_cards->measure();
    const bool none = m_context.document.project().revisions.empty();
    if (none)
        m_elsewhere->refresh();
    m_elsewhere->setVisible(none);
    m_scroll->setVisible(!none);
    const QString id = qs(m_context.document.revision());
    m_button->setText(id.isEmpty() ? tr("Start the first revision") : tr("New revision from %1").arg(id));
    m_button->setToolTip(none ? tr("Which box it is, and how big (Ctrl+N)")
                              : tr("State one change; the revision gets its words from it (Ctrl+N)"));
    QMetaObject::invokeMethod(
        this, [this] { showSelected(); }, Qt::QueuedConnection);
}

void RevisionRail::showSelected() {
    const auto& revisions = m_context.document.project().revisions;
    for (std::size_t i = 0; i < revisions.size(); ++i)
        if (revisions[i].id == m_context.document.revision()) {
            const QRect r = m_cards->cardRect(static_cast<int>(i));
            m_scroll->ensureVisible(r.center().x(), r.center().y(), 10, r.height());
        }
    // The first card in sight is a whole one.
    constexpr int above = 6;
    QScrollBar* bar = m_scroll->verticalScrollBar();
    for (std::size_t i = 0; i < revisions.size() && bar->value() > 0; ++i)
        if (const int top = m_cards->cardRect(static_cast<int>(i)).top(); top >= bar->value())
            return bar->setValue(top - above);
}

} // namespace app

#include "moc_revision_rail.cpp"
