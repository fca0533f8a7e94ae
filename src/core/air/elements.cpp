// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/air/elements.h"

#include <Eigen/Dense>

#include <numbers>

namespace core::air {

double pressureAt(double altitudeM) { return 101325.0 * std::pow(1.0 - 0.0065 * altitudeM / 288.15, 5.2559); }
double density(double pressurePa, double temperatureC) { return pressurePa / (287.05 * (temperatureC + kelvin)); }

double viscosity(double temperatureC) {
    const double t = temperatureC + kelvin, ratio = t / 273.15;
    return 1.716e-5 * ratio * std::sqrt(ratio) * (273.15 + 110.4) / (t + 110.4);
}

double gridLoss(double e) {
    const double root = 1.0 - e + 0.707 * std::sqrt(1.0 - e);
    return root * root / (e * e);
}

double panelLoss(double e) {
    constexpr double hole = 1.5;
    return e >= 0.999 ? hole : std::max(hole, gridLoss(e));
}

Resistance perforated(double areaM2, double e, double holeM, double thicknessM) {
    const bool plain = e >= 0.999;
    const double k = panelLoss(e);
    const double d = plain ? std::sqrt(areaM2) : holeM;
    const double t = plain ? 0.0 : thicknessM;
    return {(6.0 * std::numbers::pi / d + 32.0 * t / (d * d)) / (areaM2 * e), k / (2.0 * areaM2 * areaM2)};
}

Resistance screen(double areaM2, double openShare, double wireM, double fouling) {
    const double x = (1.0 - openShare * openShare) / (openShare * openShare) * fouling;
    return {4.5 * x / (wireM * areaM2), 0.375 * x / (areaM2 * areaM2)};
}

Resistance slot(double areaM2, double hM, double lengthM, double k) {
    return {12.0 * lengthM / (hM * hM * areaM2), k / (2.0 * areaM2 * areaM2)};
}

Resistance fins(double faceM2, double depthM, double spacingM, double sigma, double k) {
    const double open = sigma * faceM2;
    return {12.0 * depthM / (spacingM * spacingM * open), k / (2.0 * open * open)};
}

FittedFan fanThrough(std::span<const std::pair<double, double>> points) {
    // p = x0 - x1 Q - x2 Q², x1 and x2 not below nought: of the three ways to let terms out, the best that is allowed.
    double largest = 0;
    for (const auto& [q, p] : points)
        largest = std::max(largest, q);
    Eigen::Vector3d best = Eigen::Vector3d::Zero();
    double least = 1e300;
    for (const auto& [slope, bend] : {std::pair{true, true}, {true, false}, {false, true}}) {
        if (slope && bend && points.size() < 3)
            continue;
        Eigen::MatrixXd a(static_cast<Eigen::Index>(points.size()), 1 + (slope ? 1 : 0) + (bend ? 1 : 0));
        Eigen::VectorXd b(a.rows());
        for (Eigen::Index i = 0; i < a.rows(); ++i) {
            const auto& [q, p] = points[static_cast<std::size_t>(i)];
            const double share = q / largest;
            a(i, 0) = 1;
            if (slope)
                a(i, 1) = -share;
            if (bend)
                a(i, slope ? 2 : 1) = -share * share;
            b[i] = p;
        }
        const Eigen::VectorXd x = a.colPivHouseholderQr().solve(b);
        const Eigen::Vector3d all(x[0], slope ? x[1] : 0, bend ? x[slope ? 2 : 1] : 0);
        const double off = (a * x - b).squaredNorm();
        if (all[0] > 0 && all[1] >= 0 && all[2] >= 0 && all[1] + all[2] > 0 && off < least) {
            least = off;
            best = all;
        }
    }
    if (least > 1e299) // it only bends the other way: a straight line from its highest to its last point
        best = {points.front().second, points.front().second - points.back().second, 0};
    const double root = 2 * best[0] / (best[1] + std::sqrt(best[1] * best[1] + 4 * best[2] * best[0]));
    FittedFan fitted{{root * largest, best[0], std::min(1.0, best[1] * root / best[0])}, 0};
    for (const auto& [q, p] : points) {
        const double share = q / largest;
        fitted.offPa = std::max(fitted.offPa, std::abs(best[0] - best[1] * share - best[2] * share * share - p));
    }
    return fitted;
}

FanClass fanClass(double frameMm, double thicknessMm) {
    struct Row {
        double frame, thickness;
        FanClass values;
    };
    // Common practice, no source: typical values of each class.
    static constexpr std::array<Row, 10> table{{{40, 20, {5000, {0.0038, 35}, 30}},
                                                {80, 15, {2200, {0.0094, 13}, 24}},
                                                {80, 25, {2000, {0.0132, 17}, 25}},
                                                {92, 15, {2300, {0.0151, 18}, 27}},
                                                {92, 25, {2000, {0.0198, 20}, 26}},
                                                {120, 15, {1600, {0.0198, 12}, 25}},
                                                {120, 25, {1500, {0.0264, 18}, 25}},
                                                {140, 15, {1300, {0.0236, 10}, 25}},
                                                {140, 25, {1200, {0.0330, 14}, 25}},
                                                {200, 30, {700, {0.0609, 9}, 26}}}};
    for (const Row& row : table)
        if (std::abs(row.frame - frameMm) < 1.5 && std::abs(row.thickness - thicknessMm) < 2.5)
            return row.values;
    const double d = frameMm / 1000.0;
    const double rpm = 1500.0 * 120.0 / frameMm;
    const double n = rpm / 60.0;
    const double ratio = std::min(1.0, thicknessMm / frameMm / 0.21);
    return {rpm,
            {0.60 * n * d * d * d * std::pow(ratio, 0.7), 1.65 * 1.2 * n * d * n * d * ratio},
            25.0 + 70.0 * std::log10(frameMm / 120.0) + 50.0 * std::log10(rpm / 1500.0)};
}

FanClass atRpm(const FanClass& fan, double rpm) {
    const double ratio = rpm / fan.rpm;
    return {rpm,
            {fan.curve.freeFlowM3s * ratio, fan.curve.shutoffPa * ratio * ratio},
            fan.levelDba + 50 * std::log10(ratio)};
}

double interpolate(std::span<const std::pair<double, double>> points, double x) {
    if (x <= points.front().first)
        return points.front().second;
    for (std::size_t i = 1; i < points.size(); ++i)
        if (x <= points[i].first) {
            const auto& [x0, y0] = points[i - 1];
            const auto& [x1, y1] = points[i];
            return y0 + (y1 - y0) * (x - x0) / (x1 - x0);
        }
    return points.back().second;
}

double forcedConductance(double streamWk, double conductanceWk) {
    if (streamWk <= 1e-12)
        return 0.0;
    return streamWk * -std::expm1(-conductanceWk / streamWk);
}

} // namespace core::air
