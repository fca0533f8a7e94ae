// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/rules/wiring.h"

#include "core/base/text.h"
#include "core/base/words.h"

namespace core::rules {
namespace {

constexpr WordTable<LeadState, 4> leadWords{{{LeadState::Fits, "fits"},
                                             {LeadState::Tight, "tight"},
                                             {LeadState::Short, "too short"},
                                             {LeadState::Long, "long"}}};

const BoardSpec* boardOf(const Build& build) {
    const Placed* p = build.firstOf(PartKind::Board);
    return p ? &std::get<BoardSpec>(p->part->spec) : nullptr;
}

/// The n-th slot of that kind on the board.
const BoardSlot* slotOf(const BoardSpec& board, const std::string& kind, int number) {
    for (const BoardSlot& slot : board.laneSlots)
        if (slot.kind == kind && number-- == 0)
            return &slot;
    return nullptr;
}

class Links {
public:
    Links(const Build& build, const PortMap& map) : m_build(build), m_map(map), m_board(boardOf(build)) {}

    std::vector<LinkResult> run() {
        std::vector<LinkResult> all;
        for (std::size_t n = 0; n < m_map.needs.size(); ++n) {
            const Need& need = m_map.needs[n];
            if (!need.taker.isLead && need.taker.part->link && need.socket >= 0 && isLane(need.kind))
                all.push_back(follow(static_cast<int>(n)));
        }
        return all;
    }

private:
    [[nodiscard]] static bool isLane(const std::string& kind) {
        return kind.starts_with("slot-") || kind.starts_with("m.2") || kind == "sata";
    }
    [[nodiscard]] bool groupInUse(const BoardSlot& slot) const {
        if (slot.group.empty() || !m_board)
            return false;
        for (const Socket& s : m_map.sockets) {
            if (s.takenBy < 0 || s.giver.isLead || s.giver.part->kind != PartKind::Board)
                continue;
            const BoardSlot* other = slotOf(*m_board, s.kind, s.number);
            if (other && other != &slot && other->group == slot.group)
                return true;
        }
        return false;
    }
    static void narrow(LinkResult& link, int generation, int lanes, const Sentence& by) {
        link.stages.insert(link.stages.begin(), {by, generation, lanes});
        if (generation < link.generation || lanes < link.lanes)
            link.narrowest = by;
        link.generation = std::min(link.generation, generation);
        link.lanes = std::min(link.lanes, lanes);
    }
    [[nodiscard]] LinkResult follow(int need) const;

    const Build& m_build;
    const PortMap& m_map;
    const BoardSpec* m_board;
};

LinkResult Links::follow(int index) const {
    const Holder& device = m_map.needs[static_cast<std::size_t>(index)].taker;
    const Link& own = *device.part->link;
    LinkResult link{.mount = device.mount,
                    .name = device.name,
                    .chain = {device.name},
                    .stages = {{named(device.name), own.generation, own.lanes}},
                    .generation = own.generation,
                    .lanes = own.lanes,
                    .needGbs = own.needGbs,
                    .narrowest = named(device.name)};
    for (std::size_t depth = 0; depth < m_map.sockets.size() + 1; ++depth) {
        const Need& need = m_map.needs[static_cast<std::size_t>(index)];
        if (need.socket < 0) {
            link.stopped = true;
            break;
        }
        const Socket& socket = m_map.sockets[static_cast<std::size_t>(need.socket)];
        if (need.cable >= 0) // a riser lets through what it is made for
            if (const Part& lead = *m_build.joined[static_cast<std::size_t>(need.cable)].part; lead.link) {
                link.chain.insert(link.chain.begin(), lead.name);
                narrow(link, lead.link->generation, lead.link->lanes, named(lead.name));
            }
        link.chain.insert(link.chain.begin(), socket.giver.name);
        if (!socket.giver.isLead) {
            const BoardSlot* slot = m_board && socket.giver.part->kind == PartKind::Board
                                        ? slotOf(*m_board, socket.kind, socket.number)
                                        : nullptr;
            if (slot) {
                const bool shared = groupInUse(*slot);
                const int lanes = shared ? slot->lanesShared : slot->lanes;
                link.chipset = slot->chipset;
                link.slotLanes = lanes;
                link.stopped = shared && lanes == 0;
                narrow(link, slot->generation, std::max(lanes, link.stopped ? 0 : 1),
                       shared ? say("the {} of the board, which shares its lanes", slot->kind)
                              : say("the {} of the board", slot->kind));
            }
            break;
        }
        if (socket.giver.part->link)
            narrow(link, socket.giver.part->link->generation, socket.giver.part->link->lanes, named(socket.giver.name));
        const auto further = m_map.needsOf(socket.giver);
        const auto lane = std::find_if(further.begin(), further.end(),
                                       [&](int n) { return isLane(m_map.needs[static_cast<std::size_t>(n)].kind); });
        if (lane == further.end())
            break;
        index = *lane;
    }
    const bool sata = m_map.needs[static_cast<std::size_t>(index)].kind == "sata";
    link.usableGbs = link.stopped ? 0 : sata ? 4.8 : link.lanes * laneGbs(link.generation) * linkEfficiency;
    link.enough = !link.stopped && (link.needGbs <= 0 || link.usableGbs >= link.needGbs);
    const Sentence runs =
        sata ? say("SATA, 4.8 Gb/s")
             : say("{}, {} Gb/s", lanesInWords(link.lanes, link.generation), figure::number(link.usableGbs, 1));
    link.text = link.stopped ? say("{} has no lanes left: {}", link.name, link.narrowest)
                             : say("{} runs at {}, set by {}", link.name, runs, link.narrowest);
    if (link.needGbs > 0)
        link.text += link.enough ? say("; it needs {}", figure::number(link.needGbs, 1))
                                 : say("; that is less than the {} it needs", figure::number(link.needGbs, 1));
    return link;
}

/// What a lead ends at, in words.
Sentence endWords(const Build& build, const std::string& end) {
    const std::string mount = endName(end).mount;
    const Placed* p = build.at(mount);
    return mount == caseMount ? say("the case") : named(p ? p->name : mount);
}

constexpr double slackShare = 0.10, stowMm = 150;

} // namespace

double laneGbs(int generation) {
    constexpr std::array<double, 5> gbs{2.0, 4.0, 7.88, 15.75, 31.5};
    return gbs[static_cast<std::size_t>(std::clamp(generation, 1, 5) - 1)];
}

Sentence lanesInWords(int lanes, int generation) {
    return sayCounted(lanes == 1, "{} lane of generation {}", "{} lanes of generation {}", lanes, generation);
}

std::string_view leadStateWord(LeadState state) { return wordOf(leadWords, state); }

std::vector<LinkResult> links(const Build& build, const PortMap& map) { return Links(build, map).run(); }

LaneBudgets laneBudgets(const Build& build, const std::vector<LinkResult>& all) {
    LaneBudgets budgets;
    if (const Placed* cpu = build.firstOf(PartKind::Processor))
        budgets.processor.given = std::get<ProcessorSpec>(cpu->part->spec).lanes;
    if (const BoardSpec* board = boardOf(build))
        budgets.chipset.given = board->chipsetLanes;
    for (const LinkResult& link : all) {
        LaneBudget& b = link.chipset ? budgets.chipset : budgets.processor;
        b.used += link.slotLanes;
        if (link.slotLanes > 0)
            b.users.push_back(link.name + " " + std::to_string(link.slotLanes));
    }
    return budgets;
}

LeadState leadState(double lengthMm, double wayMm) {
    const double slack = lengthMm - wayMm;
    return slack < 0                    ? LeadState::Short
           : slack < slackShare * wayMm ? LeadState::Tight
           : slack > stowMm             ? LeadState::Long
                                        : LeadState::Fits;
}

std::vector<CableResult> cables(const Build& build, const std::vector<fit::LeadRoute>& routes) {
    std::vector<CableResult> all;
    for (const fit::LeadRoute& route : routes) {
        const Part& part = *build.joined[route.joined].part;
        if (!std::holds_alternative<CableSpec>(part.spec))
            continue;
        CableResult c{.ref = route.ref,
                      .end = route.end,
                      .part = part.id,
                      .name = part.name,
                      .from = endWords(build, route.from),
                      .to = endWords(build, route.to),
                      .subject = endName(route.to).mount,
                      .lengthMm = route.lengthMm,
                      .wayMm = route.wayMm,
                      .slackMm = route.slackMm(),
                      .assumed = route.assumed,
                      .stated = route.stated};
        c.state = leadState(c.lengthMm, c.wayMm);
        const Sentence way = say("{} from {} to {}: {} for a way of {}", c.name, c.from, c.to,
                                 figure::mm(c.lengthMm, 0), figure::mm(c.wayMm, 0));
        c.text = way + (c.state == LeadState::Short  ? say(", {} too short", figure::mm(-c.slackMm, 0))
                        : c.state == LeadState::Long ? say(", {} to stow", figure::mm(c.slackMm, 0))
                                                     : say(", {} slack", figure::mm(c.slackMm, 0)));
        if (c.assumed)
            c.text += say("; the place of a socket is not stated, the middle of its part was taken");
        all.push_back(std::move(c));
    }
    return all;
}

std::vector<LedgerRow> ledger(const Build& build) {
    std::vector<LedgerRow> rows;
    for (const Modification* m : build.modified)
        for (const Loss& loss : m->losses) {
            LedgerRow row{.modification = m->name, .what = loss.what, .replace = loss.replace};
            for (const Placed& p : build.placed)
                if (!loss.mount.empty() && p.mount == loss.mount)
                    row.homeless.push_back(p.mount);
            const auto gives = [&](const Part& part) {
                return !loss.replacedBy.empty() && part.gives.contains(loss.replacedBy);
            };
            for (const Placed& p : build.placed)
                if (gives(*p.part))
                    row.by = p.name;
            for (const Joined& j : build.joined)
                if (gives(*j.part))
                    row.by = j.part->name;
            row.open = (!loss.replace.empty() && row.by.empty()) || !row.homeless.empty();
            row.text = say("{} takes away {}", m->name, loss.what);
            if (!loss.replace.empty())
                row.text +=
                    row.by.empty() ? say("; still to be replaced: {}", loss.replace) : say("; replaced by {}", row.by);
            for (const std::string& mount : row.homeless)
                row.text += say("; {} has no place any more", build.at(mount)->name);
            rows.push_back(std::move(row));
        }
    return rows;
}

std::vector<HeaderLoad> fanHeaders(const Build& build, const PortMap& map) {
    std::map<int, HeaderLoad> loads;
    for (std::size_t n = 0; n < map.needs.size(); ++n) {
        const Need& need = map.needs[n];
        if (need.kind != "fan" || need.taker.isLead)
            continue;
        const int root = map.root(static_cast<int>(n));
        if (root < 0)
            continue;
        const Socket& socket = map.sockets[static_cast<std::size_t>(root)];
        HeaderLoad& load = loads[root];
        load.header = thingOf(build, socket);
        load.board = socket.giver.name;
        load.number = socket.number + 1;
        if (const auto* board = std::get_if<BoardSpec>(&socket.giver.part->spec))
            load.limitA = board->headerA;
        const auto* fan = std::get_if<FanSpec>(&need.taker.part->spec);
        load.amperes += fan && fan->currentA > 0 ? fan->currentA : need.taker.part->powerW / 12;
        load.fans.push_back(need.taker.name);
    }
    std::vector<HeaderLoad> all;
    all.reserve(loads.size());
    for (auto& [root, load] : loads)
        all.push_back(std::move(load));
    return all;
}

Wiring wiring(const Build& build, const Project* project) {
    Wiring w;
    w.ports = portMap(build, project);
    w.links = links(build, w.ports);
    w.lanes = laneBudgets(build, w.links);
    w.routes = fit::leadRoutes(build);
    w.cables = cables(build, w.routes);
    w.ledger = ledger(build);
    w.headers = fanHeaders(build, w.ports);
    return w;
}

} // namespace core::rules
