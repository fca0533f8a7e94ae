// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/text.h"
#include "core/rules/checks.h"

namespace core::rules {

void checkLinks(const Checks& c) {
    for (const LinkResult& link : c.wiring.links) {
        if (link.stopped)
            c.add("link-lanes", Severity::Blocker, link.mount, link.text,
                  {say("another slot"), say("leave the slot that shares its lanes empty")});
        else if (!link.enough)
            c.add("link-need", Severity::Caution, link.mount, link.text,
                  {say("a slot with more lanes"), say("fewer adapters on the way")});
        else if (const Placed* p = c.build.at(link.mount);
                 p && p->part->link &&
                 (link.lanes < p->part->link->lanes || link.generation < p->part->link->generation))
            c.add("link-narrow", Severity::Note, link.mount, link.text, {});
    }
    const auto budget = [&](const LaneBudget& b, std::string_view of) {
        if (b.given <= 0 || b.used <= b.given)
            return;
        c.add("lane-budget", Severity::Blocker, TopicRef{std::string(of)},
              say("The {} has {} lanes, {} are wanted: {}", term(of), b.given, b.used, joined(b.users)),
              {of == "processor" ? say("a slot of the chipset") : say("a slot of the processor"),
               say("drop one of them")});
    };
    budget(c.wiring.lanes.processor, word("processor"));
    budget(c.wiring.lanes.chipset, word("chipset"));
}

namespace {

/// What a lead comes too near to on its stated way.
void leadMeets(const Checks& c, const fit::LeadRoute& route, const std::string& name) {
    for (const fit::LeadMeeting& m : route.meets) {
        const Sentence what = m.mount.empty() ? say("a wall of the case") : named(m.name);
        if (m.mm < 0)
            c.add("lead-through", Severity::Caution, route.ref,
                  -m.mm <= route.body.thicknessMm ? say("{} lies {} deep in {}", name, figure::mm(-m.mm, 1), what)
                                                  : say("{} is led through {}", name, what),
                  {say("corners that go round it"), say("state its corners anew")}, Station::Fit);
        else
            c.add("lead-near", Severity::Caution, route.ref,
                  m.blades ? say("{} passes {} from the blades of {}, {} are needed", name, figure::mm(m.mm, 1), what,
                                 figure::mm(m.needMm, 0))
                           : say("{} passes {} from {}, {} are needed", name, figure::mm(m.mm, 1), what,
                                 figure::mm(m.needMm, 0)),
                  {say("corners further away"), say("a tie that holds it off")}, Station::Fit);
    }
}

/// Soft leads that cross lie on each other; through a riser nothing goes.
void leadCrosses(const Checks& c, const fit::LeadRoute& route, const std::string& name) {
    for (const fit::LeadCrossing& x : route.crosses) {
        const Sentence other = named(c.build.joined[c.wiring.routes[x.other].joined].part->name);
        if (x.stiff)
            c.add("lead-through", Severity::Caution, route.ref,
                  say("{} lies {} deep in {}", name, figure::mm(x.deepMm, 1), other),
                  {say("corners that go round it"), say("state its corners anew")}, Station::Fit);
        else
            c.add("lead-cross", Severity::Note, route.ref,
                  say("{} and {} cross: where they lie on each other they take {}", name, other,
                      figure::mm(x.thickMm, 1)),
                  {say("corners further apart")}, Station::Fit);
    }
}

void leadWays(const Checks& c) {
    for (const fit::LeadRoute& route : c.wiring.routes) {
        const std::string& name = c.build.joined[route.joined].part->name;
        leadMeets(c, route, name);
        leadCrosses(c, route, name);
        if (route.bendsTooTight())
            c.add("lead-bend", Severity::Caution, route.ref,
                  say("{} bends round {} at the tightest of its corners, {} are needed", name,
                      figure::mm(route.tightestMm, 1), figure::mm(route.body.bendMm, 1)) +
                      (route.body.assumed ? say(" (assumed)") : Sentence{}),
                  {say("corners further apart"), say("state the bend radius of the lead")}, Station::Fit);
        if (route.leavesCase)
            c.add("lead-outside", Severity::Note, route.ref,
                  say("The way of {} leaves the case: what it passes outside is not looked at", name), {},
                  Station::Fit);
    }
}

} // namespace

void checkLeads(const Checks& c) {
    leadWays(c);
    for (const CableResult& cable : c.wiring.cables) {
        if (cable.state == LeadState::Short)
            c.add("lead-short", Severity::Blocker, cable.subject, cable.text,
                  {say("a lead of {} or more", figure::mm(1.1 * cable.wayMm, 0)), say("an extension")}, Station::Fit);
        else if (cable.state == LeadState::Tight)
            c.add("lead-tight", Severity::Caution, cable.subject,
                  say("{}: less than the 10 % that bends take (engineering judgement)", cable.text),
                  {say("a lead of {} or more", figure::mm(1.1 * cable.wayMm, 0))}, Station::Fit);
        else if (cable.state == LeadState::Long)
            c.add("lead-long", Severity::Note, cable.subject, cable.text, {say("a shorter lead")}, Station::Fit);
    }
    for (const LedgerRow& row : c.wiring.ledger) {
        if (!row.homeless.empty())
            c.add("modified", Severity::Blocker, row.homeless.front(), row.text,
                  {say("take the part out"), say("another place for it")}, Station::Fit);
        else if (row.open)
            c.add("modified", Severity::Caution, TopicRef{row.what}, row.text, {named(row.replace)}, Station::Fit);
        else
            c.add("modified", Severity::Note, TopicRef{row.what}, row.text, {}, Station::Fit);
    }
}

} // namespace core::rules
