// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/fit/distance.h"

#include <QtTest>

#include <random>

using namespace core;
using namespace core::fit;

namespace {

using V = Point;
V plus(const V& a, const V& b) { return {a[0] + b[0], a[1] + b[1], a[2] + b[2]}; }
V minus(const V& a, const V& b) { return {a[0] - b[0], a[1] - b[1], a[2] - b[2]}; }
V times(const V& a, double f) { return {a[0] * f, a[1] * f, a[2] * f}; }
double dot(const V& a, const V& b) { return a[0] * b[0] + a[1] * b[1] + a[2] * b[2]; }
double norm(const V& a) { return std::sqrt(dot(a, a)); }

V toOwn(const Primitive& p, const V& at) {
    const V d = minus(at, p.centre);
    return {dot(d, p.turn[0]), dot(d, p.turn[1]), dot(d, p.turn[2])};
}
V toCase(const Primitive& p, const V& own) {
    return plus(p.centre, plus(times(p.turn[0], own[0]), plus(times(p.turn[1], own[1]), times(p.turn[2], own[2]))));
}

/// Nearest point of a piece: a box and a cylinder are products of intervals and a disc, so it is exact.
V nearest(const Primitive& p, const V& at) {
    V q = toOwn(p, at);
    if (p.shape == Shape::Cylinder) {
        const double r = std::hypot(q[0], q[1]);
        if (r > p.half[0]) {
            q[0] *= p.half[0] / r;
            q[1] *= p.half[0] / r;
        }
    } else {
        q[0] = std::clamp(q[0], -p.half[0], p.half[0]);
        q[1] = std::clamp(q[1], -p.half[1], p.half[1]);
    }
    q[2] = std::clamp(q[2], -p.half[2], p.half[2]);
    return toCase(p, q);
}

/// How far a piece reaches along a direction.
double support(const Primitive& p, const V& way) {
    const V d{dot(way, p.turn[0]), dot(way, p.turn[1]), dot(way, p.turn[2])};
    const double side = p.shape == Shape::Cylinder ? p.half[0] * std::hypot(d[0], d[1])
                                                   : p.half[0] * std::abs(d[0]) + p.half[1] * std::abs(d[1]);
    return dot(p.centre, way) + side + p.half[2] * std::abs(d[2]);
}

/// The distance lies between what a separating plane proves and the distance of two points of the pieces.
struct Bracket {
    double least = -1e9, most = 1e9;
};
/// Alternating projections (von Neumann): each piece's nearest point to the other's last one.
Bracket bracket(const Primitive& a, const Primitive& b) {
    Bracket out;
    V p = a.centre, q = b.centre;
    for (int i = 0; i < 20000; ++i) {
        p = nearest(a, q);
        q = nearest(b, p);
        const V between = minus(q, p);
        const double d = norm(between);
        out.most = std::min(out.most, d);
        if (d > 1e-9) {
            const V way = times(between, 1 / d);
            out.least = std::max(out.least, -support(b, times(way, -1)) - support(a, way));
        }
        if (out.most - out.least < 1e-5 || out.most < 1e-6)
            break;
    }
    return out;
}

Primitive random(std::mt19937& g) {
    std::uniform_real_distribution<double> size(1, 60), place(-90, 90), angle(-3.2, 3.2);
    Primitive p{.shape = g() % 2 ? Shape::Box : Shape::Cylinder,
                .centre = {place(g), place(g), place(g)},
                .half = {size(g), size(g), size(g)}};
    if (p.shape == Shape::Cylinder)
        p.half[1] = p.half[0];
    if (g() % 4 == 0)
        return p; // as drawn
    const double x = angle(g), y = angle(g), z = angle(g), cx = std::cos(x), sx = std::sin(x), cy = std::cos(y),
                 sy = std::sin(y), cz = std::cos(z), sz = std::sin(z);
    p.turn = {{{cz * cy, sz * cy, -sy},
               {cz * sy * sx - sz * cx, sz * sy * sx + cz * cx, cy * sx},
               {cz * sy * cx + sz * sx, sz * sy * cx - cz * sx, cy * cx}}};
    return p;
}

/// Depth of two overlapping boxes by the separating axis theorem: the shortest way out along the 15 axes.
double boxDepth(const Primitive& a, const Primitive& b) {
    double depth = 1e9;
    const auto along = [&](V way) {
        const double n = norm(way);
        if (n < 1e-6)
            return;
        way = times(way, 1 / n);
        depth = std::min(
            {depth, support(a, way) + support(b, times(way, -1)), support(b, way) + support(a, times(way, -1))});
    };
    for (const auto& x : a.turn)
        along(x);
    for (const auto& x : b.turn)
        along(x);
    for (const auto& x : a.turn)
        for (const auto& y : b.turn)
            along({x[1] * y[2] - x[2] * y[1], x[2] * y[0] - x[0] * y[2], x[0] * y[1] - x[1] * y[0]});
    return depth;
}

} // namespace

/// The library's distances against an independent computation.
class DistanceTest : public QObject {
    Q_OBJECT
private slots:
    void tenThousandPairs() {
        std::mt19937 g(7);
        int apart = 0, overlapping = 0;
        double worst = 0;
        for (int i = 0; i < 10000; ++i) {
            const Primitive a = random(g), b = random(g);
            const Separation s = separation(a, b);
            const Bracket proof = bracket(a, b);
            if (proof.least > 1e-3) {
                ++apart;
                // 0.01 mm is a tenth of a caliper.
                QVERIFY2(s.mm >= proof.least - 0.01 && s.mm <= proof.most + 0.01,
                         qPrintable(QStringLiteral("pair %1: %2, between %3 and %4")
                                        .arg(i)
                                        .arg(s.mm)
                                        .arg(proof.least)
                                        .arg(proof.most)));
                worst = std::max({worst, proof.least - s.mm, s.mm - proof.most});
                QVERIFY(std::abs(norm(minus(nearest(a, s.from), s.from))) < 0.01); // the points are on the pieces
                QVERIFY(std::abs(norm(minus(nearest(b, s.to), s.to))) < 0.01);
                QVERIFY(!touches(a, b));
            } else if (proof.most < 1e-3) {
                QVERIFY2(s.mm <= 0.01, qPrintable(QStringLiteral("pair %1 overlaps, %2").arg(i).arg(s.mm)));
                ++overlapping;
            }
        }
        qInfo("%d pairs apart, %d overlap, largest difference %g mm", apart, overlapping, worst);
        QVERIFY(apart > 2000 && overlapping > 1000);
        QVERIFY2(apart + overlapping > 9900, qPrintable(QString::number(apart + overlapping)));
    }

    void depthOfBoxes() {
        std::mt19937 g(8);
        int compared = 0;
        for (int i = 0; i < 4000; ++i) {
            Primitive a = random(g), b = random(g);
            a.shape = b.shape = Shape::Box;
            const double depth = boxDepth(a, b);
            if (depth < 0.1)
                continue;
            ++compared;
            const double mm = separation(a, b).mm;
            // The library prefers a face to an edge that is up to 5 % shallower: it never tells less than the way out.
            QVERIFY2(-mm > depth - 0.02 && -mm < 1.06 * depth + 0.02,
                     qPrintable(QStringLiteral("pair %1: %2 against %3").arg(i).arg(-mm).arg(depth)));
        }
        QVERIFY(compared > 500);
    }

    /// Two cases on paper: a cylinder before a plate, and two crossed rods.
    void onPaper() {
        const Primitive plate{.centre = {0, 0, 0}, .half = {50, 50, 1}};
        const Primitive rod{.shape = Shape::Cylinder,
                            .centre = {0, 0, 11},
                            .half = {5, 5, 30},
                            .turn = {{{0, 1, 0}, {0, 0, 1}, {1, 0, 0}}}};
        QCOMPARE_LE(std::abs(separation(plate, rod).mm - 5.0), 1e-4); // 11 - 5 - 1
        Primitive crossed = rod;
        crossed.turn = {{{0, 0, 1}, {1, 0, 0}, {0, 1, 0}}};
        crossed.centre = {0, 0, 25};
        QCOMPARE_LE(std::abs(separation(rod, crossed).mm - 4.0), 1e-4); // 25 - 11 - 5 - 5
        QVERIFY(touches(plate, Primitive{.centre = {0, 0, 1.5}, .half = {1, 1, 1}}));
    }
};
QTEST_APPLESS_MAIN(DistanceTest)
#include "tst_distance.moc"
