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

void checkLeads(const Checks& c) {
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
