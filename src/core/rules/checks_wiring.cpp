// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/text.h"
#include "core/rules/checks.h"

namespace core::rules {

void checkLinks(const Checks& c) {
    for (const LinkResult& link : c.wiring.links) {
        if (link.stopped)
            c.add("link-lanes", Severity::Blocker, link.mount, link.text,
                  {"another slot", "leave the slot that shares its lanes empty"});
        else if (!link.enough)
            c.add("link-need", Severity::Caution, link.mount, link.text,
                  {"a slot with more lanes", "fewer adapters on the way"});
        else if (const Placed* p = c.build.at(link.mount);
                 p && p->part->link &&
                 (link.lanes < p->part->link->lanes || link.generation < p->part->link->generation))
            c.add("link-narrow", Severity::Note, link.mount, link.text, {});
    }
    const auto budget = [&](const LaneBudget& b, const std::string& of) {
        if (b.given <= 0 || b.used <= b.given)
            return;
        std::string users;
        for (const std::string& user : b.users)
            users += (users.empty() ? "" : ", ") + user;
        c.add("lane-budget", Severity::Blocker, TopicRef{of},
              "The " + of + " has " + std::to_string(b.given) + " lanes, " + std::to_string(b.used) +
                  " are wanted: " + users,
              {"a slot of the " + std::string(of == "processor" ? "chipset" : "processor"), "drop one of them"});
    };
    budget(c.wiring.lanes.processor, "processor");
    budget(c.wiring.lanes.chipset, "chipset");
}

void checkLeads(const Checks& c) {
    for (const CableResult& cable : c.wiring.cables) {
        if (cable.state == LeadState::Short)
            c.add("lead-short", Severity::Blocker, cable.subject, cable.text,
                  {"a lead of " + fixed(1.1 * cable.wayMm, 0) + " mm or more", "an extension"}, Station::Fit);
        else if (cable.state == LeadState::Tight)
            c.add("lead-tight", Severity::Caution, cable.subject,
                  cable.text + ": less than the 10 % that bends take (engineering judgement)",
                  {"a lead of " + fixed(1.1 * cable.wayMm, 0) + " mm or more"}, Station::Fit);
        else if (cable.state == LeadState::Long)
            c.add("lead-long", Severity::Note, cable.subject, cable.text, {"a shorter lead"}, Station::Fit);
    }
    for (const LedgerRow& row : c.wiring.ledger) {
        if (!row.homeless.empty())
            c.add("modified", Severity::Blocker, row.homeless.front(), row.text,
                  {"take the part out", "another place for it"}, Station::Fit);
        else if (row.open)
            c.add("modified", Severity::Caution, TopicRef{row.what}, row.text, {row.replace}, Station::Fit);
        else
            c.add("modified", Severity::Note, TopicRef{row.what}, row.text, {}, Station::Fit);
    }
}

} // namespace core::rules
