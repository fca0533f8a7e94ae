// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/bench/live_trace.h"

#include "core/base/text.h"

#include <QTime>

namespace app {
using core::ChannelKind;
using core::Quantity;
using core::TargetKind;

namespace {

struct Cap {
    double value = 0;
    QString name;
};
struct Trace {
    const core::Channel* channel;
    QString name;
};

/// One plot: its values against the minutes since the start, with a scale of its own.
class Plot {
public:
    Plot(Canvas& c, const QRectF& r, const std::vector<double>& timeS)
        : m_c(c), m_in(r.adjusted(44, 8, -96, -20)), m_time(timeS) {
        m_start = timeS.empty() ? 0 : timeS.front();
        m_span = timeS.empty() ? 60 : std::max(60.0, timeS.back() - m_start);
    }
    void hold(double v) {
        if (std::isfinite(v)) {
            m_low = std::min(m_low, v);
            m_high = std::max(m_high, v);
        }
    }
    void frame(const QString& unit, const std::function<QString(double)>& word) {
        if (!(m_high > m_low)) { // nothing, or all the same
            m_low = std::isfinite(m_low) ? m_low - 1 : 0;
            m_high = std::max(m_low + 2, std::isfinite(m_high) ? m_high + 1 : 1);
        }
        const double spare = (m_high - m_low) * 0.08;
        m_low -= spare;
        m_high += spare;
        m_c.box(m_in, m_c.t.field, m_c.t.line, 1);
        for (const double v : {m_low + spare, m_high - spare})
            m_c.text({m_in.left() - 46, y(v) - 9, 40, 18}, word(v), 11.5, Weight::Regular, m_c.t.ink2,
                     Qt::AlignRight | Qt::AlignVCenter);
        m_c.text({m_in.left() - 46, m_in.center().y() - 9, 40, 18}, unit, 11.5, Weight::Regular, m_c.t.ink2,
                 Qt::AlignRight | Qt::AlignVCenter);
        m_c.second({m_in.left(), m_in.bottom() + 2, m_in.width(), 18},
                   QObject::tr("%1 min").arg(digits(m_span / 60, 1)), Qt::AlignRight | Qt::AlignVCenter, 11.5);
    }
    /// Drawn at the grain of the screen: the extremes of what falls into one pixel.
    void trace(const std::vector<double>& values, const std::function<double(double)>& shown) {
        QPainterPath path;
        bool pen = false;
        for (std::size_t i = 0; i < values.size() && i < m_time.size();) {
            const double x = m_in.left() + (m_time[i] - m_start) / m_span * m_in.width();
            double low = 1e300, high = -1e300;
            std::size_t k = i;
            for (; k < values.size() && k < m_time.size() &&
                   m_in.left() + (m_time[k] - m_start) / m_span * m_in.width() < x + 1;
                 ++k)
                if (std::isfinite(values[k])) {
                    low = std::min(low, values[k]);
                    high = std::max(high, values[k]);
                }
            i = std::max(k, i + 1);
            if (low > high) { // lost: a gap is drawn as a gap
                pen = false;
                continue;
            }
            const QPointF top(x, y(shown(high))), bottom(x, y(shown(low)));
            pen ? path.lineTo(top) : path.moveTo(top);
            path.lineTo(bottom);
            pen = true;
        }
        m_c.p.setPen(QPen(m_c.t.ink, 1.4));
        m_c.p.setBrush(Qt::NoBrush);
        m_c.p.drawPath(path);
    }
    void cap(double v, const QString& words) {
        m_c.p.setPen(QPen(m_c.t.block, 1.4, Qt::DashLine));
        m_c.p.drawLine(QPointF(m_in.left(), y(v)), QPointF(m_in.right(), y(v)));
        m_taken.push_back({y(v), words, m_c.t.block});
    }
    void name(double v, const QString& words) {
        if (std::isfinite(v))
            m_taken.push_back({y(v), words, m_c.t.ink});
    }
    /// Names stand at the right, in the order of their values, none over another.
    void names() {
        std::stable_sort(m_taken.begin(), m_taken.end(), [](const auto& a, const auto& b) { return a.y < b.y; });
        double at = m_in.top() - 18;
        for (std::size_t i = 0; i < m_taken.size(); ++i) {
            const double below = 16.0 * static_cast<double>(m_taken.size() - 1 - i); // room for those that follow
            at = std::clamp(m_taken[i].y - 9, at + 16, std::max(at + 16, m_in.bottom() - 12 - below));
            m_c.text({m_in.right() + 6, at, 90, 18}, m_c.elided(m_taken[i].words, 90, 11.5, Weight::Medium), 11.5,
                     Weight::Medium, m_taken[i].colour);
        }
    }

private:
    [[nodiscard]] double y(double v) const { return m_in.bottom() - (v - m_low) / (m_high - m_low) * m_in.height(); }
    struct Name {
        double y;
        QString words;
        QColor colour;
    };
    Canvas& m_c;
    QRectF m_in;
    const std::vector<double>& m_time;
    double m_start = 0, m_span = 60, m_low = 1e300, m_high = -1e300;
    std::vector<Name> m_taken;
};

std::vector<Trace> tracesOf(const View& v, const core::Samples& samples, const std::string& revision,
                            ChannelKind kind) {
    const core::Run live{.revision = revision};
    std::vector<Trace> traces;
    for (const core::Channel& ch : samples.channels)
        if (ch.kind == kind)
            traces.push_back({&ch, channelName(v, live, ch.kind, ch.subject, ch.name)});
    return traces;
}

std::vector<Cap> capsOf(const View& v, const std::vector<Trace>& traces, TargetKind kind) {
    std::vector<Cap> caps;
    for (const core::Target& t : v.project().brief.targets)
        for (const Trace& trace : traces)
            if (t.kind == kind && (kind == TargetKind::Noise || t.subject == trace.channel->subject)) {
                const Quantity q = kind == TargetKind::Noise ? Quantity::Level : Quantity::Temperature;
                caps.push_back({v.show.value(q, t.limit),
                                QObject::tr("cap %1").arg(v.number(q, t.limit)) +
                                    (kind == TargetKind::Noise ? QString() : QStringLiteral(", ") + trace.name)});
                break;
            }
    return caps;
}

void paintPlot(Canvas& c, const QRectF& r, const View& v, const core::Samples& samples,
               const std::vector<Trace>& traces, const std::vector<Cap>& caps, Quantity quantity) {
    Plot plot(c, r, samples.timeS);
    const auto shown = [&](double value) { return v.show.value(quantity, value); };
    for (const Trace& t : traces)
        for (const double value : t.channel->values)
            plot.hold(shown(value));
    for (const Cap& cap : caps)
        plot.hold(cap.value);
    plot.frame(v.unit(quantity), [](double value) { return qs(core::fixed(value, 0)); });
    for (const Trace& t : traces) {
        plot.trace(t.channel->values, shown);
        if (!t.channel->values.empty())
            plot.name(shown(t.channel->values.back()), t.name);
    }
    for (const Cap& cap : caps)
        plot.cap(cap.value, cap.name);
    plot.names();
}

} // namespace

void paintLiveTraces(Canvas& c, const QRectF& r, const View& v, const core::Samples& samples,
                     const std::string& revision) {
    const auto heat = tracesOf(v, samples, revision, ChannelKind::Temperature),
               noise = tracesOf(v, samples, revision, ChannelKind::Level);
    const double share = noise.empty() ? 1.0 : 0.66;
    if (!heat.empty())
        paintPlot(c, {r.left(), r.top(), r.width(), r.height() * share}, v, samples, heat,
                  capsOf(v, heat, TargetKind::Temperature), Quantity::Temperature);
    if (!noise.empty())
        paintPlot(c,
                  {r.left(), r.top() + (heat.empty() ? 0 : r.height() * share), r.width(),
                   heat.empty() ? r.height() : r.height() * (1 - share)},
                  v, samples, noise, capsOf(v, noise, TargetKind::Noise), Quantity::Level);
}

namespace {

/// The newest reading of each of the first channels, large.
void paintLiveNumbers(Canvas& c, const QRectF& r, const View& v, const LiveLook& look) {
    const core::Run live{.revision = look.revision};
    constexpr std::size_t most = 5;
    std::vector<const core::Channel*> shown;
    for (const core::Channel& ch : look.samples.channels)
        if (ch.kind != ChannelKind::Rpm && ch.kind != ChannelKind::Other && shown.size() < most)
            shown.push_back(&ch);
    if (const auto more = look.samples.channels.size() - shown.size(); more > 0)
        c.second({r.right() - 200, r.bottom() + 4, 200, 18},
                 counted(static_cast<qsizetype>(more), QObject::tr("1 more channel is recorded"),
                         QObject::tr("%1 more channels are recorded")),
                 Qt::AlignRight | Qt::AlignVCenter);
    const double w = r.width() / share(shown.size());
    const double large = w < 84 ? 22 : 31; // the unit keeps its place beside the number
    for (std::size_t i = 0; i < shown.size(); ++i) {
        const core::Channel& ch = *shown[i];
        const double x = r.left() + w * static_cast<double>(i) + 10;
        c.second({x, r.top() + 8, w - 14, 18},
                 c.elided(channelName(v, live, ch.kind, ch.subject, ch.name), w - 16, 12));
        const double value = ch.values.empty() ? std::nan("") : ch.values.back();
        if (!std::isfinite(value)) {
            c.text({x, r.top() + 28, w - 14, 38}, QObject::tr("lost"), 20, Weight::SemiBold, c.t.block);
            continue;
        }
        const bool thermal = ch.kind == ChannelKind::Temperature || ch.kind == ChannelKind::Ambient;
        const QString number = thermal                         ? qs(v.show.number(Quantity::Temperature, value))
                               : ch.kind == ChannelKind::Clock ? digits(value / 1000, 2)
                                                               : digits(value, ch.kind == ChannelKind::Level ? 1 : 0);
        c.text({x, r.top() + 26, w, 40}, number, large, Weight::SemiBold, c.t.ink);
        c.second({x + c.width(number, large, Weight::SemiBold) + 5, r.top() + 38, 50, 24},
                 thermal                         ? qs(v.show.unit(Quantity::Temperature))
                 : ch.kind == ChannelKind::Clock ? QStringLiteral("GHz")
                                                 : qs(ch.unit));
    }
}

} // namespace

void paintLiveHead(Canvas& c, const QRectF& r, const View& v, const LiveLook& look) {
    c.box(r, c.t.field, c.t.ink, 1.4);
    const QRectF head(r.left(), r.top(), 112, r.height());
    c.p.fillRect(head, c.t.ink);
    c.p.setPen(Qt::NoPen);
    c.p.setBrush(c.t.paper);
    c.p.drawEllipse(QPointF(head.left() + 18, head.top() + 18), 5, 5);
    c.text({head.left() + 30, head.top() + 8, 80, 20}, QObject::tr("Recording"), 13, Weight::SemiBold, c.t.paper);
    c.text({head.left() + 12, head.top() + 30, 96, 18}, qs(look.revision), 12, Weight::Regular, c.t.paper);
    const double seconds = look.samples.timeS.empty() ? 0 : look.samples.timeS.back() - look.samples.timeS.front();
    c.text(
        {head.left() + 12, head.top() + 48, 96, 22},
        QTime(0, 0).addSecs(static_cast<int>(std::clamp(seconds, 0.0, 86399.0))).toString(QStringLiteral("hh:mm:ss")),
        16, Weight::SemiBold, c.t.paper);
    if (look.simulated)
        c.text({r.left(), r.bottom() + 4, head.width(), 18}, QObject::tr("simulated readings"), 11.5, Weight::SemiBold,
               c.t.ink2);
    if (look.samples.timeS.empty() || !look.note.isEmpty()) // the source said something, or nothing at all yet
        c.second({head.right() + 12, r.bottom() + 4, r.width() - head.width() - 220, 18},
                 c.elided(look.note.isEmpty() ? QObject::tr("waiting for the first reading") : look.note,
                          r.width() - head.width() - 224, 12));
    paintLiveNumbers(c, r.adjusted(head.width(), 0, 0, 0), v, look);
}

} // namespace app
