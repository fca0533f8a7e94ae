// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/paint/labels.h"
#include "app/paint/stations.h"

#include "core/base/text.h"
#include "core/verdict/marks.h"

namespace app {
using core::Mark;
using core::Quantity;
using core::verdict::Basis;

namespace {

/// A target of a revision; of the one that is looked at it is named without.
core::Thing targetThing(const View& v, const std::string& target, const std::string& revision) {
    return core::TargetRef{target, revision == v.document.revision() ? std::string() : revision};
}

/// The revisions that fit across: the lineage of the chosen one, newest last.
std::vector<std::string> shownRevisions(const View& v, std::size_t most) {
    std::vector<std::string> ids;
    if (const auto line = core::lineage(v.project(), v.document.revision()))
        for (const core::Revision* r : *line)
            ids.push_back(r->id);
    // The first and the baseline stay for comparison; of the others the oldest go.
    while (ids.size() > most) {
        const auto oldest = std::find_if(ids.begin() + 1, ids.end() - 1,
                                         [&](const std::string& id) { return id != v.project().baseline; });
        ids.erase(oldest);
    }
    return ids;
}

double barScale(core::TargetKind kind) {
    switch (kind) { // full bar: 16 K, 5 dB, 0.3 GHz, 5 mm, 0.3 L, 1 kg, 250 money, 100 W
    case core::TargetKind::Temperature:
        return 16;
    case core::TargetKind::Noise:
        return 5;
    case core::TargetKind::Clock:
        return 300;
    case core::TargetKind::Gap:
        return 5;
    case core::TargetKind::Volume:
        return 0.3;
    case core::TargetKind::Mass:
        return 1000;
    case core::TargetKind::Cost:
        return 250;
    case core::TargetKind::Power:
        return 100;
    }
    return 1;
}

/// Put on by hand, so it looks like it.
void stampOfValidation(Canvas& c, const QPointF& centre) {
    c.p.save();
    c.p.translate(centre);
    c.p.rotate(-6);
    const QRectF r(-48, -14, 96, 28);
    c.box(r, {}, c.t.ok, 2);
    c.box(r.adjusted(3, 3, -3, -3), {}, c.t.ok, 1);
    c.text(r, QObject::tr("VALIDATED"), 14, Weight::SemiBold, c.t.ok, Qt::AlignCenter);
    c.p.restore();
}

void banner(Canvas& c, const QRectF& r, const View& v) {
    const auto& verdict = v.result().verdict;
    const Mark mark = core::verdict::markOfStation(*v.evaluation(), verdict, core::rules::Station::Verdict);
    c.box(r, c.t.sheet, c.t.ink, 1.4);
    c.p.fillRect(QRectF(r.left(), r.top(), 4, r.height()), c.markColor(mark));
    c.p.save();
    c.p.translate(r.left() + 20, r.center().y() - 10);
    c.p.scale(1.8, 1.8);
    c.mark({0, 0}, mark);
    c.p.restore();
    const QString id = qs(v.document.revision());
    const QString head =
        verdict.validated
            ? QObject::tr("%1: %2 of %3 targets proven").arg(id).arg(verdict.proven).arg(verdict.targets.size())
        : verdict.canBeValidated
            ? QObject::tr("Ready to validate: %1 proves %2 of %3 targets")
                  .arg(id)
                  .arg(verdict.proven)
                  .arg(verdict.targets.size())
            : QObject::tr("%1 proves %2 of %3 targets").arg(id).arg(verdict.proven).arg(verdict.targets.size());
    c.text({r.left() + 60, r.top() + 8, r.width() - 320, 20}, head, 14, Weight::SemiBold);
    QString next =
        verdict.before.empty() ? QObject::tr("Nothing stands in the way.") : v.words(verdict.before.front().text);
    if (v.document.project().simulation) // here simulated readings prove, and the verdict they carry says so
        next = QObject::tr("A simulation: simulated readings count. %1").arg(next);
    const double room = r.width() - 340 - (verdict.validated ? 104 : 0);
    c.second({r.left() + 60, r.top() + 28, room, 20}, c.elided(next, room, 12));
    if (verdict.validated)
        stampOfValidation(c, {r.right() - 372, r.center().y()});
}

/// @p lines: of what a revision changed, in its head.
double board(Canvas& c, const QRectF& r, const View& v, int lines) {
    c.heading(r.left(), r.top(), r.width(), QObject::tr("Target board"),
              QObject::tr("bar = headroom, whisker = band, left of the line = over; all at %1 room")
                  .arg(v.text(Quantity::Temperature, v.project().brief.roomC)));
    const auto ids = shownRevisions(v, r.width() > 900 ? 6 : 5);
    const double nameW = 136, limitW = 78, column = (r.width() - nameW - limitW) / share(ids.size());
    double y = r.top() + 26;
    const double headH = 18 + 14 * lines;
    c.second({r.left(), y + headH - 24, nameW, 24}, QObject::tr("target"));
    c.second({r.left() + nameW, y + headH - 24, limitW, 24}, QObject::tr("limit"), Qt::AlignRight | Qt::AlignVCenter);
    for (std::size_t k = 0; k < ids.size(); ++k) {
        const QRectF head(r.left() + nameW + limitW + column * static_cast<double>(k), y, column, headH);
        if (ids[k] == v.document.revision())
            c.box({head.left() + 4, head.top(), column - 4,
                   headH + 22.0 * static_cast<double>(v.project().brief.targets.size())},
                  c.t.marker, c.t.medge, 1.5);
        if (ids[k] == v.project().baseline)
            c.baselineSign({head.left() + 24 + c.width(qs(ids[k]), 12.5, Weight::SemiBold), head.top() + 9});
        c.text({head.left() + 12, head.top(), 60, 18}, qs(ids[k]), 12.5, Weight::SemiBold, c.t.ink);
        const QString words = v.words(v.document.words(ids[k]));
        c.paragraph({head.left() + 12, y + 17, column - 16, headH - 18}, words, 11, Weight::Regular, c.t.ink2, lines);
        c.hit(head.adjusted(4, 0, 0, 0), Hit{{},
                                             core::RevisionRef{ids[k]},
                                             {.act = Act::LookAt},
                                             QObject::tr("%1: %2. Click to look at it").arg(qs(ids[k]), words)});
    }
    y += headH;
    for (const core::Target& target : v.project().brief.targets) {
        const Quantity q = core::quantityOf(target.kind);
        c.hline(r.left(), r.right(), y, c.t.hair);
        c.text({r.left(), y, nameW, 22}, c.elided(qs(target.name), nameW - 4, 12.5), 12.5, Weight::Regular);
        c.text({r.left() + nameW, y, limitW, 22}, v.text(q, target.limit), 12.5, Weight::SemiBold, c.t.ink,
               Qt::AlignRight | Qt::AlignVCenter);
        for (std::size_t k = 0; k < ids.size(); ++k) {
            const auto& result = v.document.shown(ids[k]);
            const double x = r.left() + nameW + limitW + column * static_cast<double>(k);
            const auto it = std::find_if(result.verdict.targets.begin(), result.verdict.targets.end(),
                                         [&](const auto& t) { return t.id == target.id; });
            if (it == result.verdict.targets.end() || it->basis == Basis::Missing) {
                c.second({x + 24, y, column - 30, 22}, QObject::tr("missing"), Qt::AlignCenter);
                continue;
            }
            const core::Thing key = targetThing(v, target.id, ids[k]);
            const double zero = x + column * 0.26, unit = column * 0.24 / barScale(target.kind);
            const auto at = [&](double h) { return std::clamp(zero + h * unit, x + 8, x + column * 0.52); };
            const QRectF bar = QRectF(QPointF(zero, y + 6), QPointF(at(it->headroom), y + 16)).normalized();
            c.p.fillRect(bar, c.t.sheet);
            c.pattern(bar, it->headroom >= 0 ? Canvas::Pattern::Holds : Canvas::Pattern::Over);
            c.box(bar, {}, c.markColor(it->state), 1.2);
            const double half = 0.5 * (it->high - it->low);
            if (half > 0) {
                c.hline(at(it->headroom - half), at(it->headroom + half), y + 11, c.t.ink, 1);
                c.vline(at(it->headroom - half), y + 8, y + 15, c.t.ink, 1);
                c.vline(at(it->headroom + half), y + 8, y + 15, c.t.ink, 1);
            }
            c.vline(zero, y, y + 22, c.t.ink, 1);
            // Predicted values stand in second ink: they prove nothing.
            c.text({x + column * 0.5, y, column * 0.5 - 28, 22}, v.number(q, it->value), 12.5,
                   it->basis == Basis::Predicted ? Weight::Regular : Weight::SemiBold,
                   it->basis == Basis::Predicted ? c.t.ink2 : c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
            c.mark({x + column - 22, y + 6}, it->state);
            const QRectF cell(x + 4, y, column - 6, 22);
            if (c.isSelected(key))
                c.box(cell, {}, c.t.medge, 2);
            c.hit(cell, key,
                  QObject::tr("%1, %2, %3, %4")
                      .arg(qs(target.name), qs(ids[k]), v.text(q, it->value), qs(core::markWord(it->state))));
        }
        y += 22;
    }
    c.hline(r.left(), r.right(), y, c.t.ink, 1);
    c.second({r.left(), y + 2, r.width(), 16},
             QObject::tr("dark figures: measured or computed; light figures: predicted, they prove nothing"),
             Qt::AlignRight | Qt::AlignVCenter, 11.5);
    return y + 18;
}

/// What was changed on the way from one revision to a later one of its line; several at once cannot be told apart.
QString wordsBetween(const View& v, const std::string& from, const std::string& to) {
    QStringList words;
    int revisions = 0;
    if (const auto line = core::lineage(v.project(), to))
        for (auto it = line->rbegin(); it != line->rend() && (*it)->id != from; ++it, ++revisions)
            words.prepend(v.words(v.document.words((*it)->id)));
    return revisions > 1 ? QObject::tr("%1 revisions together: %2").arg(revisions).arg(words.join(QStringLiteral("; ")))
                         : words.join(QString());
}

/// The temperature of each revision, and what each change between two did to it.
class Steps {
public:
    Steps(Canvas& c, const QRectF& r, const View& v)
        : m_c(c), m_r(r), m_v(v), m_plot(r.left() + 34, r.top() + 60, r.width() - 40, r.height() - 90),
          m_labels(QRectF(r.left(), m_plot.top() - 2, r.width(), m_plot.height() + 6)) {}
    void paint() {
        m_c.heading(m_r.left(), m_r.top(), m_r.width(), QObject::tr("What each change did"),
                    QObject::tr("CPU, %1").arg(m_v.unit(Quantity::Temperature)));
        look();
        if (m_points.size() < 2)
            return m_c.second({m_r.left(), m_r.top() + 30, m_r.width(), 20},
                              QObject::tr("Two revisions with a temperature make a chart."));
        m_slot = m_plot.width() / static_cast<double>(m_points.size() * 2 - 1);
        scale();
        // Lines first, words last: each stands where no line runs.
        for (std::size_t i = 0; i < m_points.size(); ++i) {
            level(i);
            if (i + 1 < m_points.size())
                change(i);
        }
        if (m_cap) {
            m_labels.keepOff(QRectF(m_plot.left(), y(m_cap->limit) - 2, m_plot.width(), 4));
            m_values.push_back(
                {QObject::tr("cap %1").arg(qs(core::fixed(m_v.show.value(Quantity::Temperature, m_cap->limit), 0))),
                 {m_plot.right() - 26, y(m_cap->limit) - 11},
                 11.5,
                 Weight::SemiBold});
        }
        for (const Word& word : m_values)
            if (const auto at = m_labels.place({m_c.width(word.text, word.px, word.weight) + 6, 15}, word.near, 120)) {
                m_c.text(*at, word.text, word.px, word.weight, m_c.t.ink, Qt::AlignCenter);
                m_c.label(*at);
            }
    }

private:
    struct Point {
        std::string id;
        double value, half;
        bool predicted;
    };
    struct Word {
        QString text;
        QPointF near;
        double px;
        Weight weight;
    };

    void look() {
        for (const std::string& id : shownRevisions(m_v, 6)) {
            const auto* t = targetOf(m_v.document.shown(id), core::TargetKind::Temperature);
            if (!t || t->basis == Basis::Missing)
                continue;
            m_points.push_back({id, t->value, 0.5 * (t->high - t->low), t->basis == Basis::Predicted});
            if (id == m_v.document.revision())
                m_cap = t;
        }
    }
    void scale() {
        m_low = m_cap ? m_cap->limit : 1e9;
        m_high = m_cap ? m_cap->limit : -1e9;
        for (const Point& p : m_points) {
            m_low = std::min(m_low, p.value - std::min(p.half, 3.0));
            m_high = std::max(m_high, p.value + std::min(p.half, 3.0));
        }
        m_low -= 3;
        m_high += 3;
        for (double tick = std::ceil(m_low / 5) * 5; tick < m_high; tick += 5) {
            m_c.hline(m_plot.left(), m_plot.right(), y(tick), m_c.t.hair);
            m_c.text({m_r.left(), y(tick) - 8, 28, 16}, qs(core::fixed(m_v.show.value(Quantity::Temperature, tick), 0)),
                     11, Weight::Regular, m_c.t.ink2, Qt::AlignRight | Qt::AlignVCenter);
        }
        if (m_cap)
            m_c.hline(m_plot.left(), m_plot.right(), y(m_cap->limit), m_c.t.ink, 1.6, Qt::DashLine);
    }
    [[nodiscard]] double y(double celsius) const {
        return m_plot.bottom() - (celsius - m_low) / (m_high - m_low) * m_plot.height();
    }
    [[nodiscard]] double x(std::size_t i) const { return m_plot.left() + m_slot * 2 * static_cast<double>(i); }
    [[nodiscard]] core::Thing thing(const Point& p) const {
        return targetThing(m_v, targetOf(m_v.document.shown(p.id), core::TargetKind::Temperature)->id, p.id);
    }

    /// The value of one revision, and its name below.
    void level(std::size_t i) {
        const Point& p = m_points[i];
        const double left = x(i), at = y(p.value);
        m_c.hline(left, left + m_slot, at, p.predicted ? m_c.t.line : m_c.t.ink, 3);
        m_labels.keepOff(QRectF(left, at - 3, m_slot, 6));
        m_values.push_back(
            {m_v.number(Quantity::Temperature, p.value), {left + m_slot / 2, at - 12}, 12, Weight::SemiBold});
        if (p.id == m_v.document.revision())
            m_c.box({left + m_slot / 2 - 22, m_plot.bottom() + 6, 44, 18}, m_c.t.marker, m_c.t.medge, 1.5);
        if (p.id == m_v.project().baseline)
            m_c.baselineSign({left + m_slot / 2 - 22, m_plot.bottom() + 15});
        m_c.text({left, m_plot.bottom() + 6, m_slot, 18}, qs(p.id), 12, Weight::SemiBold, m_c.t.ink, Qt::AlignCenter);
        m_c.hit({left, at - 18, m_slot, 24}, thing(p),
                QObject::tr("%1, CPU %2").arg(qs(p.id), m_v.text(Quantity::Temperature, p.value)));
    }
    /// What lies between a revision and the next: the difference with its band, and the words of all that was changed.
    void change(std::size_t i) {
        const Point &p = m_points[i], &n = m_points[i + 1];
        const double left = x(i), at = y(p.value), d = n.value - p.value, u = std::hypot(p.half, n.half);
        QRectF bar = QRectF(QPointF(left + m_slot * 1.25, at), QPointF(left + m_slot * 1.75, y(n.value))).normalized();
        bar.setHeight(std::max(2.0, bar.height()));
        m_c.p.fillRect(bar, m_c.t.sheet);
        m_c.pattern(bar, d <= 0 ? Canvas::Pattern::LevelLines : Canvas::Pattern::Diagonal);
        m_c.box(bar, {}, d <= 0 ? m_c.t.cool : m_c.t.warm, 1.4);
        const double mid = bar.center().x(), upper = y(n.value + std::min(u, 4.0)),
                     lower = y(n.value - std::min(u, 4.0));
        m_c.vline(mid, std::max(m_plot.top(), upper), std::min(m_plot.bottom(), lower), m_c.t.ink, 1.4);
        m_labels.keepOff(bar.adjusted(-1, -1, 1, 1));
        m_labels.keepOff(QRectF(QPointF(mid - 1, upper), QPointF(mid + 1, lower)));
        m_values.push_back({m_v.signedNumber(Quantity::TemperatureDifference, d) + QStringLiteral(" ±") +
                                m_v.number(Quantity::TemperatureDifference, u),
                            {mid, bar.bottom() + 14},
                            11.5,
                            Weight::Medium});
        // In a row of their own above the plot.
        const QString words = wordsBetween(m_v, p.id, n.id);
        const double wordsY = m_plot.top() - 30 + (i % 2 ? 15 : 0);
        m_c.text({left + m_slot * 0.25, wordsY, m_slot * 2.5, 15}, m_c.elided(words, m_slot * 2.5, 11), 11,
                 Weight::Regular, m_c.t.ink2, Qt::AlignCenter);
        m_c.vline(mid, wordsY + 15, std::max(wordsY + 15, bar.top() - 4), m_c.t.hair, 1);
        m_c.hit({left + m_slot, wordsY, m_slot, 16}, thing(p), words);
        m_labels.keepOff(QRectF(QPointF(mid - 0.5, wordsY + 15), QPointF(mid + 0.5, bar.top() - 4)).normalized());
    }

    Canvas& m_c;
    QRectF m_r;
    const View& m_v;
    QRectF m_plot;
    Labels m_labels;
    std::vector<Point> m_points;
    std::vector<Word> m_values;
    const core::verdict::TargetResult* m_cap = nullptr;
    double m_low = 0, m_high = 1, m_slot = 1;
};

void beforeList(Canvas& c, const QRectF& r, const View& v) {
    const auto& verdict = v.result().verdict;
    const QString id = qs(v.document.revision());
    c.heading(r.left(), r.top(), r.width(),
              verdict.validated ? QObject::tr("Why %1 is validated").arg(id)
                                : QObject::tr("Before %1 can be validated").arg(id));
    struct Line {
        Mark mark;
        QString text;
    };
    std::vector<Line> lines;
    for (const auto& reason : verdict.before)
        lines.push_back({reason.mark, v.words(reason.text)});
    if (lines.empty())
        for (const auto& t : verdict.targets)
            lines.push_back({t.state, qs(t.name) + QStringLiteral(": ") + v.words(core::verdict::basisText(t)) +
                                          (t.run.empty() ? QString() : QStringLiteral(", ") + qs(t.run))});
    PaintedList list(c, QStringLiteral("before"), r.adjusted(0, 28, 0, 0), lines.size(), 36);
    list.paint([&](std::size_t i, const QRectF& row) {
        c.mark({row.left(), row.top() + 5}, lines[i].mark);
        c.paragraph({row.left() + 24, row.top() + 2, row.width() - 24, 34}, lines[i].text, 12.5, Weight::Regular,
                    c.t.ink, 2);
        c.hline(row.left(), row.right(), row.bottom() - 1, c.t.hair); // lines of one and of two rows alike
    });
}

} // namespace

void paintVerdict(Canvas& c, const QRectF& r, const View& v) {
    stageHead(c, r, question::verdict);
    if (!v.evaluation())
        return emptyStage(c, r,
                          v.project().revisions.empty()
                              ? QObject::tr("No revisions yet. The verdict compares revisions with the brief.")
                              : qs(v.result().problem));
    banner(c, {r.left(), r.top() + 32, r.width(), 56}, v);
    const double y = board(c, {r.left(), r.top() + 98, r.width(), 300}, v, r.height() < 620 ? 1 : 2) + 10;
    const double list = std::clamp(r.width() * 0.33, 230.0, 340.0);
    Steps(c, {r.left(), y, r.width() - list - 26, r.bottom() - y}, v).paint();
    c.vline(r.right() - list - 13, y, r.bottom(), c.t.line);
    beforeList(c, {r.right() - list, y, list, r.bottom() - y}, v);
}

} // namespace app
