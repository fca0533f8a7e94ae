// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/bench/settle.h"

// Least squares of a warm-up on one and on two exponentials: variable projection on a grid of time constants.
namespace core::bench {

constexpr int gridPoints = 36;
constexpr double tauMax = 1800; ///< s; no part of a small case is slower; the room is taken off by the ambient

/// Readings in bins of one width.
struct Binned {
    std::vector<double> t, y;
    std::vector<std::size_t> index; ///< bin number, to tell neighbours
    double width = 5;
};
/// Bins of @p width s of readings every @p dt s; a bin that is less than half full is left out.
[[nodiscard]] Binned makeBins(const std::vector<double>& t, const std::vector<double>& y, double width, double dt);

/// Values about their mean.
struct Centred {
    std::vector<double> y;
    double mean = 0;
    double yy = 0;
    explicit Centred(const Binned& bins);
};

/// Centred exponential columns for a set of time constants, with their sums of products.
class Columns {
public:
    Columns(const Binned& bins, std::vector<double> taus);
    [[nodiscard]] const std::vector<double>& column(std::size_t k) const { return m_columns[k]; }
    [[nodiscard]] double mean(std::size_t k) const { return m_mean[k]; }
    [[nodiscard]] double tau(std::size_t k) const { return m_taus[k]; }
    [[nodiscard]] std::size_t size() const { return m_taus.size(); }
    [[nodiscard]] static double dot(const std::vector<double>& a, const std::vector<double>& b);

private:
    std::vector<double> m_taus;
    std::vector<std::vector<double>> m_columns;
    std::vector<double> m_mean;
};
[[nodiscard]] std::vector<double> logSpaced(double low, double high, int points);

/// The linear part for one or two time constants with a ridge.
struct Linear {
    double b1 = 0, b2 = 0, q = 0, mu = 0, v = 0, determinant = 0;
};
[[nodiscard]] Linear solveTwo(double g11, double g12, double g22, double g1, double g2, double e1, double e2,
                              const Centred& y, double n, double ridge);
[[nodiscard]] Linear solveOne(double g11, double g1, double e1, const Centred& y, double n, double ridge);

struct LeastSquares {
    ExponentialFit one, two;
};
[[nodiscard]] LeastSquares leastSquares(const Binned& bins, const Centred& y);
/// What is left of the bins when two exponentials, averaged over each bin, are taken off.
[[nodiscard]] std::vector<double> residualOf(const Binned& bins, const ExponentialFit& two);

/// Lag-one correlation of neighbouring bins with the allowance for its bias.
[[nodiscard]] double correlation(const Binned& bins, const std::vector<double>& residual);

} // namespace core::bench
