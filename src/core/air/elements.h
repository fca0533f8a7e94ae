// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <span>
#include <utility>

namespace core::air {

/// Flow resistance dp = mu a Q + rho b Q|Q|; elements in series add.
struct Resistance {
    double a = 0; ///< 1/m³
    double b = 0; ///< 1/m⁴
    friend Resistance operator+(Resistance x, Resistance y) { return {x.a + y.a, x.b + y.b}; }
};

/// Of a share of an area that has this resistance as a whole.
[[nodiscard]] constexpr Resistance ofShare(Resistance r, double share) { return {r.a / share, r.b / (share * share)}; }

constexpr double gravity = 9.80665; // m/s²
constexpr double airHeat = 1006.0;  // J/(kg K)
constexpr double fanDensity = 1.2;  // kg/m³ at which fans are rated
constexpr double kelvin = 273.15;

/// Absolute pressure at altitude, Pa. Source: ISO 2533 standard atmosphere, lower layer.
[[nodiscard]] double pressureAt(double altitudeM);
/// Dry air density, kg/m³ (ideal gas, R = 287.05 J/(kg K)).
[[nodiscard]] double density(double pressurePa, double temperatureC);
/// Dynamic viscosity, Pa s. Source: W. Sutherland, Phil. Mag. 36 (1893), constants from memory.
[[nodiscard]] double viscosity(double temperatureC);

/// Loss coefficient of a thin sharp-edged grid of open share @p e on the face velocity.
/// Source: I. E. Idelchik, Handbook of Hydraulic Resistance (from memory).
[[nodiscard]] double gridLoss(double e);
/// Loss coefficient of a panel that is open by share @p e, between two rooms: the grid's, but never less than that of a
/// plain hole, which is what is lost at its entry and exit (1.5).
[[nodiscard]] double panelLoss(double e);
/// Perforated plate of face area m², open share, hole and thickness in m. e >= 0.999 is a plain hole.
[[nodiscard]] Resistance perforated(double areaM2, double e, double holeM, double thicknessM);
/// Woven dust screen on a face area, open share, wire in m; fouling 1 = clean.
/// Fitted to E. Brundrett, J. Fluids Eng. 115 (1993) for Re 2..30 (from memory).
[[nodiscard]] Resistance screen(double areaM2, double openShare, double wireM, double fouling);
/// Gap between plates: cross-section m², width h and length in m, entry and exit K.
[[nodiscard]] Resistance slot(double areaM2, double hM, double lengthM, double k = 1.5);
/// Fin stack: face area m², depth and clear spacing in m, open share sigma.
[[nodiscard]] Resistance fins(double faceM2, double depthM, double spacingM, double sigma, double k);

/// Fan: free flow at rated speed (all units together), shutoff pressure. With q the share of the free flow and s that
/// of the rated speed, dp = shutoff (s² - linear s q - (1 - linear) q|q|): the fan laws hold exactly, and the curve
/// never rises, so that every network has one solution. The dip of a stalled fan is not in it.
struct FanCurve {
    double freeFlowM3s = 0;
    double shutoffPa = 0;
    double linear = 0.6; ///< 0..1; of a fan whose curve is not stated: engineering judgement
};
/// The curve of that law nearest to points of flow m³/s and pressure Pa at rated speed, by least squares; @c offPa:
/// how far the farthest point lies from it. At least two points, the last below the first.
struct FittedFan {
    FanCurve curve;
    double offPa = 0;
};
[[nodiscard]] FittedFan fanThrough(std::span<const std::pair<double, double>> points);
/// The class values of a frame and thickness in mm, or values scaled from the 120 x 25 class for other frames.
struct FanClass {
    double rpm = 0;
    FanCurve curve;
    double levelDba = 0;
};
[[nodiscard]] FanClass fanClass(double frameMm, double thicknessMm);
/// The same at another rated speed, by the fan laws: flow with it, pressure with its square, level with 50 lg.
[[nodiscard]] FanClass atRpm(const FanClass& fan, double rpm);

/// Piecewise-linear through (x, y), flat outside.
[[nodiscard]] double interpolate(std::span<const std::pair<double, double>> points, double x);

/// What a sink hands to the air that passes: C (1 - exp(-G/C)), W/K. Never more than the stream can carry.
[[nodiscard]] double forcedConductance(double streamWk, double conductanceWk);

} // namespace core::air
