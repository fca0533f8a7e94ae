// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <span>
#include <vector>

namespace core::bench {

[[nodiscard]] double median(std::vector<double> values);
/// Of each reading with those up to @p half places before and after it: their median. NaN are left out; NaN where
/// nothing is left.
[[nodiscard]] std::vector<double> runningMedian(std::span<const double> values, std::size_t half);
/// Quantile of type 7. Source: Hyndman & Fan, American Statistician 50 (1996). @p p in 0..1; NaN left out.
[[nodiscard]] double percentile(std::span<const double> values, double p);
/// Two-sided 95 % and other quantiles of Student's t for real degrees of freedom >= 2.
/// Source: Abramowitz & Stegun 26.7.5; error below 1 % for p up to 0.975 (4 % at p 0.995 and nu 2).
[[nodiscard]] double tQuantile(double p, double nu);
[[nodiscard]] double normalQuantile(double p);
[[nodiscard]] double normalCdf(double x);
[[nodiscard]] double normalDensity(double x);

/// Mean of correlated readings with its standard uncertainty.
struct MeanResult {
    double mean = 0;
    double u = 0;          ///< standard uncertainty with autocorrelation
    double nEff = 0;       ///< effective number of readings
    double nu = 0;         ///< degrees of freedom
    double expanded = 0;   ///< 95 %
    bool tooShort = false; ///< window too short for its noise (fewer than 8 effective readings)
};
/// Source: C. J. Geyer, Statistical Science 7 (1992) for the cut of the autocorrelation sum.
[[nodiscard]] MeanResult meanWithUncertainty(std::span<const double> values);

/// Largest level that was held for @p seconds: max over t of min over [t, t + seconds].
[[nodiscard]] double sustainedMaximum(std::span<const double> timeS, std::span<const double> values, double seconds);

/// Uncertainty left by a quantiser of step @p q on readings with standard deviation @p sd.
/// Source: after Widrow & Kollár, Quantization Noise (2008).
[[nodiscard]] double quantiserUncertainty(double q, double sd);

/// Temperature brought to a reference room temperature.
struct Normalised {
    double value = 0;
    double u = 0;
};
/// T + s (Tref - Ta); u² = uT² + s² ua² + (Tref - Ta)² us². Source: JCGM 100 (propagation of uncertainty).
[[nodiscard]] Normalised normalise(double t, double uT, double room, double uRoom, double reference, double s,
                                   double uS);

} // namespace core::bench
