// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/air/calibrate.h"

#include <Eigen/Dense>

namespace core::air {
namespace {

using Matrix = Eigen::MatrixXd;
using Vector = Eigen::VectorXd;

/// The room of a run was measured: it is no input to be learned.
bool isLearned(const Input& input) { return input.id != "room"; }

/// One run, ready to be solved with any values of the inputs.
struct Prepared {
    const Observation* of;
    Compiled compiled;
    std::vector<Input> inputs;
    std::vector<std::size_t> column; ///< of each input among all
    std::vector<std::ptrdiff_t> row; ///< of each reading among parts and passive; -1: the build has no such part
};

class Calibrator {
public:
    Calibrator(const std::vector<Observation>& runs, double readingK) : m_readingK(readingK) {
        for (const Observation& run : runs)
            prepare(run);
    }

    Calibration run() {
        std::vector<bool> used(m_runs.size(), true);
        Vector z = fitted(used);
        // The worst is left out first: it may have bent what the others say.
        for (std::size_t worst = offMost(z, used); worst < m_runs.size(); worst = offMost(z, used)) {
            used[worst] = false;
            m_out.contradicting.push_back(m_runs[worst].of->run);
            z = fitted(used);
        }
        tell(z, used);
        return std::move(m_out);
    }

private:
    void prepare(const Observation& run) {
        Prepared p{&run, compile(run.build, run.conditions), {}, {}, {}};
        for (const auto& [mount, rpm] : run.fanRpm)
            for (const auto& fan : p.compiled.fans)
                if (fan.mount == mount && p.compiled.network.fans[fan.fan].ratedRpm > 0)
                    p.compiled.network.fans[fan.fan].heldShare = rpm / p.compiled.network.fans[fan.fan].ratedRpm;
        for (Input& input : inputsOf(run.build, p.compiled)) {
            if (!isLearned(input))
                continue;
            const auto known = m_columns.try_emplace(input.id, m_columns.size());
            if (known.second)
                m_all.push_back({input.id, input.what, input.sigma});
            p.column.push_back(known.first->second);
            p.inputs.push_back(std::move(input));
        }
        const Network& net = p.compiled.network;
        for (const auto& reading : run.readings) {
            std::ptrdiff_t row = -1;
            for (std::size_t i = 0; i < net.parts.size(); ++i)
                if (net.parts[i].id == reading.mount)
                    row = static_cast<std::ptrdiff_t>(i);
            for (std::size_t i = 0; i < net.passive.size(); ++i)
                if (net.passive[i].id == reading.mount)
                    row = static_cast<std::ptrdiff_t>(net.parts.size() + i);
            p.row.push_back(row);
        }
        m_runs.push_back(std::move(p));
    }
    static double temperatureOf(const Prepared& p, const Solution& s, std::size_t reading) {
        const auto row = static_cast<std::size_t>(p.row[reading]);
        return row < s.parts.size() ? s.parts[row].temperatureC : s.passiveC[row - s.parts.size()];
    }
    static Network moved(const Prepared& p, const Vector& z) {
        Network net = p.compiled.network;
        for (std::size_t i = 0; i < p.inputs.size(); ++i)
            p.inputs[i].move(net, z[static_cast<Eigen::Index>(p.column[i])]);
        return net;
    }
    /// Readings against inputs, by one standard deviation, and what is left of each reading.
    void linearise(const Prepared& p, const Vector& z, Matrix& j, Vector& residual, Eigen::Index first) const {
        Network net = moved(p, z);
        const Solution now = solve(net);
        constexpr double step = 0.2;
        for (std::size_t i = 0; i < p.inputs.size(); ++i) {
            p.inputs[i].move(net, step);
            const Solution then = solveFrom(net, now);
            p.inputs[i].move(net, -step);
            for (std::size_t r = 0; r < p.row.size(); ++r)
                if (p.row[r] >= 0)
                    j(first + static_cast<Eigen::Index>(r), static_cast<Eigen::Index>(p.column[i])) =
                        (temperatureOf(p, then, r) - temperatureOf(p, now, r)) / step;
        }
        for (std::size_t r = 0; r < p.row.size(); ++r)
            residual[first + static_cast<Eigen::Index>(r)] =
                p.row[r] >= 0 ? p.of->readings[r].temperatureC - temperatureOf(p, now, r) : 0;
    }
    Vector fitted(const std::vector<bool>& used) {
        const auto n = static_cast<Eigen::Index>(m_all.size());
        Eigen::Index rows = 0;
        for (std::size_t i = 0; i < m_runs.size(); ++i)
            rows += used[i] ? static_cast<Eigen::Index>(m_runs[i].row.size()) : 0;
        Vector z = Vector::Zero(n);
        constexpr int steps = 5;
        for (int step = 0; step < steps; ++step) {
            Matrix j = Matrix::Zero(rows, n);
            Vector residual = Vector::Zero(rows);
            Eigen::Index first = 0;
            for (std::size_t i = 0; i < m_runs.size(); ++i)
                if (used[i]) {
                    linearise(m_runs[i], z, j, residual, first);
                    first += static_cast<Eigen::Index>(m_runs[i].row.size());
                }
            const double w = 1 / (m_readingK * m_readingK);
            const Matrix left = w * j.transpose() * j + Matrix::Identity(n, n);
            m_covariance = left.ldlt().solve(Matrix::Identity(n, n));
            Vector d = m_covariance * (w * j.transpose() * residual - z);
            if (const double most = d.cwiseAbs().maxCoeff(); most > 2) // standard deviations at a time
                d *= 2 / most;
            z += d;
            if (d.size() == 0 || d.cwiseAbs().maxCoeff() < 1e-4)
                break;
        }
        return z;
    }
    /// Of the runs that are used the one whose reading is off most, if by more than 4 standard deviations.
    std::size_t offMost(const Vector& z, const std::vector<bool>& used) const {
        std::size_t worst = m_runs.size();
        double most = 4 * m_readingK;
        for (std::size_t i = 0; i < m_runs.size(); ++i) {
            if (!used[i])
                continue;
            const Solution s = solve(moved(m_runs[i], z));
            for (std::size_t r = 0; r < m_runs[i].row.size(); ++r)
                if (m_runs[i].row[r] >= 0)
                    if (const double off =
                            std::abs(m_runs[i].of->readings[r].temperatureC - temperatureOf(m_runs[i], s, r));
                        off > most) {
                        most = off;
                        worst = i;
                    }
        }
        return worst;
    }
    void tell(const Vector& z, const std::vector<bool>& used) {
        const auto n = m_all.size();
        m_out.covariance.resize(n * n);
        for (std::size_t i = 0; i < n; ++i) {
            const auto row = static_cast<Eigen::Index>(i);
            m_all[i].sigmas = z[row];
            m_all[i].left = std::sqrt(std::max(0.0, m_covariance(row, row)));
            for (std::size_t k = 0; k < n; ++k)
                m_out.covariance[i * n + k] = m_covariance(row, static_cast<Eigen::Index>(k));
        }
        m_out.inputs = m_all;
        double before = 0, after = 0, count = 0;
        for (std::size_t i = 0; i < m_runs.size(); ++i) {
            const Prepared& p = m_runs[i];
            const Solution raw = solve(p.compiled.network), fit = solve(moved(p, z));
            Prediction prediction = summarise(p.of->build, p.of->conditions, p.compiled, raw);
            prediction.influences = influencesOf(p.of->build, p.compiled, raw);
            std::erase_if(prediction.influences, [](const Influence& x) { return x.id == "room"; });
            const std::vector<double> bands = bandsAfter(prediction, m_out);
            for (std::size_t r = 0; r < p.row.size(); ++r) {
                if (p.row[r] < 0)
                    continue;
                const auto row = static_cast<std::size_t>(p.row[r]);
                double squares = 0;
                for (const Influence& x : prediction.influences)
                    squares += x.kelvin[row] * x.kelvin[row];
                const auto& reading = p.of->readings[r];
                m_out.compared.push_back({p.of->run, p.of->revision, reading.mount, reading.temperatureC,
                                          temperatureOf(p, raw, r), temperatureOf(p, fit, r),
                                          bandOf(std::sqrt(squares)), bands[row]});
                if (!used[i])
                    continue;
                before += std::pow(m_out.compared.back().beforeC - reading.temperatureC, 2);
                after += std::pow(m_out.compared.back().afterC - reading.temperatureC, 2);
                ++count;
            }
        }
        if (count > 0) {
            m_out.rmsBeforeK = std::sqrt(before / count);
            m_out.rmsAfterK = std::sqrt(after / count);
        }
    }

    double m_readingK;
    std::vector<Prepared> m_runs;
    std::map<std::string, std::size_t> m_columns;
    std::vector<Learned> m_all;
    Matrix m_covariance;
    Calibration m_out;
};

} // namespace

const Learned* Calibration::input(std::string_view id) const {
    const auto it = std::find_if(inputs.begin(), inputs.end(), [&](const Learned& i) { return i.id == id; });
    return it == inputs.end() ? nullptr : &*it;
}

Calibration calibrate(const std::vector<Observation>& runs, double readingK) {
    return runs.empty() ? Calibration{} : Calibrator(runs, readingK).run();
}

Network learned(const Build& build, const Compiled& compiled, const Calibration& calibration) {
    Network net = compiled.network;
    for (const Input& input : inputsOf(build, compiled))
        if (const Learned* known = calibration.input(input.id))
            input.move(net, known->sigmas);
    return net;
}

std::vector<double> bandsAfter(const Prediction& prediction, const Calibration& calibration) {
    const std::size_t n = calibration.inputs.size(), parts = prediction.parts.size();
    std::vector<double> bands(parts, 0);
    for (std::size_t part = 0; part < parts; ++part) {
        std::vector<double> along(n, 0);
        double variance = 0;
        for (const Influence& x : prediction.influences) {
            const Learned* known = calibration.input(x.id);
            if (known)
                along[static_cast<std::size_t>(known - calibration.inputs.data())] = x.kelvin[part];
            else
                variance += x.kelvin[part] * x.kelvin[part];
        }
        for (std::size_t i = 0; i < n; ++i)
            for (std::size_t k = 0; k < n; ++k)
                variance += along[i] * calibration.covariance[i * n + k] * along[k];
        bands[part] = bandOf(std::sqrt(std::max(0.0, variance)));
    }
    return bands;
}

} // namespace core::air
