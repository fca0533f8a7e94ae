// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/air/network.h"

#include <Eigen/Dense>

namespace core::air {
namespace {

/// The branch law with its coefficients worked out for given temperatures and speeds.
struct Law {
    double linear, square, drive;
    [[nodiscard]] double flow(double dp) const {
        const double x = dp + drive;
        return 2.0 * x / (linear + std::sqrt(linear * linear + 4.0 * square * std::abs(x)));
    }
    [[nodiscard]] double slope(double q) const { return 1.0 / (linear + 2.0 * square * std::abs(q)); }
};

Law lawOf(const Branch& branch, const Solution& s, const std::vector<double>& rho) {
    const double meanRho = 0.5 * (rho[branch.from] + rho[branch.to]);
    const double mu = viscosity(0.5 * (s.temperatureC[branch.from] + s.temperatureC[branch.to]));
    Law law{mu * branch.resistance.a, meanRho * branch.resistance.b,
            (rho[branch.to] - rho[branch.from]) * gravity * branch.heightM};
    if (branch.fan) {
        const double speed = s.speed[*branch.fan];
        const double k = meanRho / fanDensity;
        const FanCurve& curve = branch.curve;
        law.linear += curve.linear * k * curve.shutoffPa * speed / curve.freeFlowM3s;
        law.square += (1 - curve.linear) * k * curve.shutoffPa / (curve.freeFlowM3s * curve.freeFlowM3s);
        law.drive += k * branch.curve.shutoffPa * speed * speed;
    }
    law.linear = std::max(law.linear, 1e-9); // a purely quadratic branch has no slope at rest
    return law;
}

/// @p Most zones are kept without asking for memory in each step; Eigen::Dynamic: any number.
template <int Most> void solveFlowsOf(const Network& net, Solution& s, double residualKgs) {
    using Matrix = Eigen::Matrix<double, Eigen::Dynamic, Eigen::Dynamic, Eigen::ColMajor, Most, Most>;
    using Vector = Eigen::Matrix<double, Eigen::Dynamic, 1, Eigen::ColMajor, Most, 1>;
    const auto n = static_cast<Eigen::Index>(net.zones.size()) - 1;
    std::vector<double> rho(net.zones.size());
    for (std::size_t i = 0; i < rho.size(); ++i)
        rho[i] = density(net.pressurePa, s.temperatureC[i]);
    std::vector<Law> laws;
    laws.reserve(net.branches.size());
    for (const Branch& branch : net.branches)
        laws.push_back(lawOf(branch, s, rho));
    s.flowM3s.resize(net.branches.size());

    // Mass leaving each inner zone; it is the gradient of a convex function of the pressures, so a line search on its
    // directional derivative always ends.
    const auto residual = [&](const Vector& p, Vector& r) {
        r.setZero(n);
        for (std::size_t b = 0; b < net.branches.size(); ++b) {
            const Branch& branch = net.branches[b];
            const double pi = branch.from ? p[static_cast<Eigen::Index>(branch.from) - 1] : 0.0;
            const double pj = branch.to ? p[static_cast<Eigen::Index>(branch.to) - 1] : 0.0;
            const double q = laws[b].flow(pi - pj);
            s.flowM3s[b] = q;
            if (branch.from == branch.to)
                continue;
            const double m = (q >= 0 ? rho[branch.from] : rho[branch.to]) * q;
            if (branch.from)
                r[static_cast<Eigen::Index>(branch.from) - 1] += m;
            if (branch.to)
                r[static_cast<Eigen::Index>(branch.to) - 1] -= m;
        }
    };

    Vector p(n), r(n), next(n), d(n);
    Matrix h(n, n);
    for (Eigen::Index i = 0; i < n; ++i)
        p[i] = s.pressurePa[static_cast<std::size_t>(i) + 1];
    residual(p, r);
    for (int step = 0; step < 60 && n > 0 && r.cwiseAbs().maxCoeff() > residualKgs; ++step) {
        h.setZero();
        for (std::size_t b = 0; b < net.branches.size(); ++b) {
            const Branch& branch = net.branches[b];
            if (branch.from == branch.to)
                continue;
            const double q = s.flowM3s[b];
            const double w = (q >= 0 ? rho[branch.from] : rho[branch.to]) * laws[b].slope(q);
            const auto i = static_cast<Eigen::Index>(branch.from) - 1;
            const auto j = static_cast<Eigen::Index>(branch.to) - 1;
            if (branch.from)
                h(i, i) += w;
            if (branch.to)
                h(j, j) += w;
            if (branch.from && branch.to) {
                h(std::max(i, j), std::min(i, j)) -= w;
            }
        }
        d = h.template selfadjointView<Eigen::Lower>().llt().solve(-r);
        const double start = std::abs(d.dot(r));
        ++s.newtonSteps;
        double t = 1.0;
        for (int halving = 0; halving < 40; ++halving, t *= 0.5) {
            next = p + t * d;
            residual(next, r);
            if (d.dot(r) <= 0.9 * start)
                break;
        }
        if (start < 1e-22 || (next - p).cwiseAbs().maxCoeff() < 1e-14) {
            p = next;
            break;
        }
        p = next;
    }
    s.massResidual = n > 0 ? r.cwiseAbs().maxCoeff() : 0.0;
    for (Eigen::Index i = 0; i < n; ++i)
        s.pressurePa[static_cast<std::size_t>(i) + 1] = p[i];
}

} // namespace

void solveFlows(const Network& net, Solution& s, double residualKgs) {
    constexpr int usual = 16;
    net.zones.size() <= usual ? solveFlowsOf<usual>(net, s, residualKgs)
                              : solveFlowsOf<Eigen::Dynamic>(net, s, residualKgs);
}

std::vector<double> airSpeeds(const Network& net, const Solution& s) {
    std::vector<double> sum(net.zones.size(), 0.0);
    for (std::size_t b = 0; b < net.branches.size(); ++b) {
        sum[net.branches[b].from] += std::abs(s.flowM3s[b]);
        sum[net.branches[b].to] += std::abs(s.flowM3s[b]);
    }
    for (std::size_t i = 1; i < sum.size(); ++i)
        sum[i] = 0.5 * sum[i] / net.zones[i].crossSectionM2;
    sum[0] = 0.0; // the room is still
    return sum;
}

std::vector<double> exchangeConductance(const Network& net, const Solution& s, const std::vector<double>& speeds) {
    std::vector<double> g;
    g.reserve(net.exchanges.size());
    for (const Exchange& x : net.exchanges) {
        const Branch& branch = net.branches[x.branch];
        const double dT = s.temperatureC[branch.from] - s.temperatureC[branch.to];
        double c = x.c;
        if (x.level && (x.fromIsBelow ? dT < 0 : dT > 0))
            c = 0.0;
        const double stir = 0.15 * std::max(speeds[branch.from], speeds[branch.to]) * x.areaM2 / std::sqrt(x.k);
        const double q = c * x.areaM2 * std::sqrt(gravity * x.lengthM * std::abs(dT) / 300.0) + stir -
                         0.5 * std::abs(s.flowM3s[x.branch]);
        const double rho = density(net.pressurePa, 0.5 * (s.temperatureC[branch.from] + s.temperatureC[branch.to]));
        g.push_back(rho * airHeat * std::max(0.0, q));
    }
    return g;
}

double clockAt(const CooledPart& part, double powerW, double temperatureC) {
    if (part.clockMhz <= 0 || part.nominalW <= 0 || powerW <= 0)
        return 0.0;
    return part.clockMhz * std::pow(powerW / part.nominalW, 1.0 / part.clockExponent) *
           (1.0 - part.clockPerK * (temperatureC - 70.0));
}

} // namespace core::air
