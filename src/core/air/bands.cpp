// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/air/bands.h"

#include "core/air/compiler.h"

namespace core::air {
namespace {

// Standard deviations, as a share: engineering judgement, all of them. What each is of is said where it is moved.
constexpr double dieOfProcessor = 0.20, dieOfCard = 0.15, finsOfProcessor = 0.25, finsOfCard = 0.20, finsOfOther = 0.25,
                 panelArea = 0.15, edgeArea = 0.20, fanFlow = 0.10, coolerLoss = 0.25, surface = 0.20, walls = 0.25,
                 outlets = 0.30, mesh = 0.25, board = 0.40, roomK = 1.0;

double factor(double sigma, double sigmas) { return std::exp(sigma * sigmas); }

void widen(Branch& branch, double f) { branch.resistance = ofShare(branch.resistance, f); }

bool begins(const std::string& id, std::string_view with) { return id.starts_with(with); }

class Inputs {
public:
    Inputs(const Build& build, const Compiled& compiled) : m_build(build), m_compiled(compiled) {}

    std::vector<Input> run() {
        add("room", say("room"), roomK, [](Network& net, double z) { net.roomC += roomK * z; });
        for (std::size_t i = 0; i < m_compiled.network.parts.size(); ++i)
            ofPart(i);
        for (std::size_t i = 0; i < m_compiled.network.passive.size(); ++i)
            ofPassive(i);
        for (const auto& opening : m_compiled.openings)
            ofOpening(opening);
        ofEdges();
        for (const auto& fan : m_compiled.fans)
            ofFan(fan);
        add("walls", say("walls"), walls, [](Network& net, double z) {
            for (Zone& zone : net.zones)
                zone.uaWk *= factor(walls, z);
        });
        return std::move(m_all);
    }

private:
    void add(std::string id, Sentence what, double sigma, std::function<void(Network&, double)> move) {
        m_all.push_back({std::move(id), std::move(what), sigma, std::move(move)});
    }
    void ofPart(std::size_t i) {
        const CooledPart& part = m_compiled.network.parts[i];
        if (part.dieResistance > 0) {
            const double sigma = part.isProcessor ? dieOfProcessor : dieOfCard;
            const Placed* p = m_build.at(part.id);
            add("die " + part.id + " " + (p ? p->part->id : ""), say("{}, die to sink", part.name), sigma,
                [i, sigma](Network& net, double z) { net.parts[i].dieResistance *= factor(sigma, z); });
        }
        ofBoard(i);
        if (part.sinkOf)
            return;
        const double sigma = part.isProcessor ? finsOfProcessor : part.isSupply ? finsOfOther : finsOfCard;
        add("fins " + part.id + " " + part.sink, say("{}, its fins and flow", part.name), sigma,
            [i, sigma](Network& net, double z) {
                net.parts[i].gRefWk *= factor(sigma, z);
                for (CooledPart::Stream& stream : net.parts[i].streams)
                    stream.gRefWk *= factor(sigma, z);
            });
        add("loss " + part.id + " " + part.sink, say("{}, what its fins resist", part.name), coolerLoss,
            [i](Network& net, double z) {
                const auto change = [&](Branch& branch) { branch.resistance.b *= factor(coolerLoss, z); };
                const CooledPart& p = net.parts[i];
                if (p.streams.empty())
                    change(net.branches[p.branch]);
                for (const CooledPart::Stream& stream : p.streams)
                    change(net.branches[stream.branch]);
            });
        if (!part.isProcessor && !part.isSupply && part.streams.empty())
            add("outlets " + part.id + " " + part.sink, say("{}, where its air leaves", part.name), outlets,
                [id = part.id](Network& net, double z) {
                    for (Branch& branch : net.branches)
                        if (branch.id == "bracket " + id)
                            widen(branch, factor(outlets, z));
                        else if (begins(branch.id, "jet " + id + " "))
                            widen(branch, factor(outlets, -z));
                });
    }
    /// What of the heat of a part under a block goes into its board.
    void ofBoard(std::size_t i) {
        const CooledPart& part = m_compiled.network.parts[i];
        if (part.boardShare > 0)
            add("board " + part.id, say("{}, what goes into its board", part.name), board,
                [i](Network& net, double z) { net.parts[i].boardShare *= factor(board, z); });
    }
    void ofPassive(std::size_t i) {
        const PassivePart& part = m_compiled.network.passive[i];
        add("surface " + part.id, say("{}, what its surface gives off", part.name), surface,
            [i](Network& net, double z) {
                net.passive[i].h0 *= factor(surface, z);
                net.passive[i].h1 *= factor(surface, z);
                net.passive[i].insideResistance *= factor(surface, -z);
            });
    }
    void ofOpening(const Compiled::OpeningBranches& opening) {
        if (opening.branches.empty())
            return;
        const Opening* o = m_build.opening(opening.opening);
        if (o && o->screen != Screen::None)
            ofScreen(*o, opening.branches);
        add("opening " + opening.opening, say("{}, how open it is", o ? o->name : opening.opening), panelArea,
            [branches = opening.branches](Network& net, double z) {
                for (const std::size_t b : branches)
                    widen(net.branches[b], factor(panelArea, z));
            });
    }
    /// The law of a dust screen: of what covers the opening the share that is the screen's.
    void ofScreen(const Opening& o, const std::vector<std::size_t>& branches) {
        Opening bare = o;
        bare.screen = Screen::None;
        const Resistance all = coverOf(o, 1).resistance, panel = coverOf(bare, 1).resistance;
        const double a = 1 - panel.a / all.a, b = 1 - panel.b / all.b;
        add("screen " + o.id + (o.screen == Screen::Fine ? " fine" : " coarse"), say("{}, its dust screen", o.name),
            mesh, [branches, a, b](Network& net, double z) {
                for (const std::size_t at : branches) {
                    Resistance& r = net.branches[at].resistance;
                    // There and back again is the same: each way by the share at hand.
                    r.a *= z > 0 ? 1 + a * (factor(mesh, z) - 1) : 1 / (1 + a * (factor(mesh, -z) - 1));
                    r.b *= z > 0 ? 1 + b * (factor(mesh, z) - 1) : 1 / (1 + b * (factor(mesh, -z) - 1));
                }
            });
    }
    /// What is free before an intake: cross-section and width of the gap.
    void ofEdges() {
        for (std::size_t x = 0; x < m_compiled.network.exchanges.size(); ++x) {
            const std::size_t b = m_compiled.network.exchanges[x].branch;
            const std::string& id = m_compiled.network.branches[b].id;
            if (!begins(id, "edge "))
                continue;
            const Placed* p = m_build.at(id.substr(5));
            add(id, say("gap before {}", p ? p->name : id), edgeArea, [x, b](Network& net, double z) {
                const double f = factor(edgeArea, z);
                net.branches[b].resistance.a /= f * f * f;
                net.branches[b].resistance.b /= f * f;
                net.exchanges[x].areaM2 *= f;
            });
        }
    }
    void ofFan(const Compiled::FanBranch& fan) {
        const Placed* p = m_build.at(fan.mount);
        if (m_compiled.network.fans[fan.fan].ownFan && p && p->part->kind == PartKind::Card)
            return; // a card's fan is what its fins were worked out from
        add("fan " + fan.mount + " " + (p ? p->part->id : ""), say("{}, what it moves", p ? p->name : fan.mount),
            fanFlow, [branches = fan.branches](Network& net, double z) {
                const double f = factor(fanFlow, z);
                for (const std::size_t b : branches) {
                    net.branches[b].curve.freeFlowM3s *= f;
                    net.branches[b].curve.shutoffPa *= f * f;
                }
            });
    }

    const Build& m_build;
    const Compiled& m_compiled;
    std::vector<Input> m_all;
};

/// What the method is known to be weak at, with the half width it is then good for: engineering judgement, after flow
/// solutions in three dimensions of one build.
class Weakness {
public:
    Weakness(const Build& build, const Compiled& compiled, const Solution& s)
        : m_build(build), m_net(compiled.network), m_compiled(compiled), m_s(s) {}

    double of(const PassivePart& part, Sentences& why) const {
        constexpr double plumeK = 5; // layers and plumes are not modelled
        if (!part.blownBy)
            return 0;
        why.push_back(say("it stands in what a card blows out, which is told as the air in the card's fins"));
        return plumeK;
    }
    double of(const CooledPart& part, Sentences& why) const {
        double wide = 0;
        const auto weak = [&](double kelvin, Sentence words) {
            wide = std::max(wide, kelvin);
            why.push_back(std::move(words));
        };
        if (closed())
            weak(7, say("the box is as good as closed: what little passes decides"));
        if (m_build.down != Side::Bottom && part.isProcessor)
            weak(5, say("the case lies on its side: warm air layers, which is not modelled"));
        if (part.isSupply || part.isProcessor || !part.streams.empty() || part.sinkOf)
            return wide; // what follows is of a card that draws through a panel
        double inflow = 0, moved = std::abs(m_s.flowM3s[part.branch]);
        for (std::size_t b = 0; b < m_net.branches.size(); ++b)
            if (m_net.branches[b].id == "edge " + part.id)
                inflow += std::max(0.0, m_s.flowM3s[b]);
        if (moved > 1e-6 && inflow > 0.3 * moved)
            weak(7, say("{} of its air comes round its edges from the warm chamber, and more may",
                        figure::percent(inflow / moved)));
        if (exhaustBeside(part))
            weak(7, say("a fan blows out of the panel it draws through: some of that air may come back"));
        return wide;
    }

private:
    [[nodiscard]] bool closed() const {
        return std::all_of(m_compiled.openings.begin(), m_compiled.openings.end(), [&](const auto& o) {
            return std::all_of(o.branches.begin(), o.branches.end(),
                               [&](std::size_t b) { return m_net.branches[b].from != 0 && m_net.branches[b].to != 0; });
        });
    }
    [[nodiscard]] bool exhaustBeside(const CooledPart& part) const {
        const Placed* card = m_build.at(part.id);
        return card && std::any_of(m_compiled.fans.begin(), m_compiled.fans.end(), [&](const auto& fan) {
                   const Placed* p = m_build.at(fan.mount);
                   return p && fan.direction == FanDirection::Out && p->part->kind == PartKind::Fan &&
                          panelOfFan(m_build, *p) == sideOf(card->facing());
               });
    }

    const Build& m_build;
    const Network& m_net;
    const Compiled& m_compiled;
    const Solution& m_s;
};

double rootOfSquares(const std::vector<Influence>& influences, std::vector<double> Influence::*what, std::size_t row) {
    double squares = 0;
    for (const Influence& i : influences)
        squares += std::pow((i.*what)[row], 2);
    return std::sqrt(squares);
}

std::ptrdiff_t rowOf(const Prediction& p, std::string_view mount) {
    const auto it = std::find_if(p.parts.begin(), p.parts.end(), [&](const PartResult& r) { return r.id == mount; });
    return it == p.parts.end() ? -1 : it - p.parts.begin();
}

} // namespace

std::vector<Input> inputsOf(const Build& build, const Compiled& compiled) { return Inputs(build, compiled).run(); }

std::vector<Influence> influencesOf(const Build& build, const Compiled& compiled, const Solution& solution) {
    std::vector<Influence> all;
    const std::size_t cooled = compiled.network.parts.size(), count = cooled + compiled.network.passive.size();
    Network net = compiled.network;
    for (const Input& input : inputsOf(build, compiled)) {
        Influence influence{.id = input.id,
                            .what = input.what,
                            .kelvin = std::vector<double>(count),
                            .watts = std::vector<double>(count),
                            .megahertz = std::vector<double>(count),
                            .airK = {}};
        // One way, to the larger factor: the other would cost as much again, and moves what is told by little.
        input.move(net, 1);
        const Solution moved = solveFrom(net, solution);
        input.move(net, -1);
        if (input.id == "room")
            net.roomC = compiled.network.roomC;
        for (std::size_t i = 0; i < count; ++i) {
            const bool own = i < cooled;
            influence.kelvin[i] = own ? moved.parts[i].temperatureC - solution.parts[i].temperatureC
                                      : moved.passiveC[i - cooled] - solution.passiveC[i - cooled];
            influence.watts[i] = own ? moved.parts[i].powerW - solution.parts[i].powerW
                                     : moved.passiveW[i - cooled] - solution.passiveW[i - cooled];
            influence.megahertz[i] = own ? moved.parts[i].clockMhz - solution.parts[i].clockMhz : 0;
        }
        for (const std::size_t zone : compiled.chamberZones)
            influence.airK.push_back(moved.temperatureC[zone] - solution.temperatureC[zone]);
        all.push_back(std::move(influence));
    }
    return all;
}

void addBands(const Build& build, const Compiled& compiled, const Solution& solution, Prediction& prediction) {
    prediction.influences = influencesOf(build, compiled, solution);
    for (std::size_t i = 0; i < prediction.chambers.size(); ++i)
        prediction.chambers[i].bandK = bandOf(rootOfSquares(prediction.influences, &Influence::airK, i));
    const Weakness weakness(build, compiled, solution);
    for (std::size_t i = 0; i < prediction.parts.size(); ++i) {
        PartResult& part = prediction.parts[i];
        part.bandK = bandOf(rootOfSquares(prediction.influences, &Influence::kelvin, i));
        part.bandW = bandOf(rootOfSquares(prediction.influences, &Influence::watts, i));
        part.bandMhz = bandOf(rootOfSquares(prediction.influences, &Influence::megahertz, i));
        // A part that gives off nothing, or is held at its limit, cannot be far from what it is.
        const std::size_t cooled = compiled.network.parts.size();
        if (i >= cooled)
            part.bandK = std::max(part.bandK, weakness.of(compiled.network.passive[i - cooled], part.weak));
        else if (part.powerW > 0 && !part.throttled)
            part.bandK = std::max(part.bandK, weakness.of(compiled.network.parts[i], part.weak));
    }
}

std::optional<Difference> differenceOf(const Prediction& before, const Prediction& after, std::string_view mount) {
    const std::ptrdiff_t a = rowOf(before, mount), b = rowOf(after, mount);
    if (a < 0 || b < 0)
        return std::nullopt;
    const auto row = [](const Influence& i, std::ptrdiff_t at) { return i.kelvin[static_cast<std::size_t>(at)]; };
    double squares = 0;
    for (const Influence& then : after.influences) {
        const auto same = std::find_if(before.influences.begin(), before.influences.end(),
                                       [&](const Influence& i) { return i.id == then.id; });
        squares += std::pow(row(then, b) - (same == before.influences.end() ? 0 : row(*same, a)), 2);
    }
    for (const Influence& was : before.influences)
        if (std::none_of(after.influences.begin(), after.influences.end(),
                         [&](const Influence& i) { return i.id == was.id; }))
            squares += std::pow(row(was, a), 2);
    const auto at = [](const Prediction& p, std::ptrdiff_t i) {
        return p.parts[static_cast<std::size_t>(i)].temperatureC;
    };
    return Difference{at(after, b) - at(before, a), bandOf(std::sqrt(squares))};
}

} // namespace core::air
