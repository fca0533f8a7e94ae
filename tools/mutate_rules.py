#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""Shows that the tests see each rule: flips one comparison at a time, builds, and expects a test to fail.

Usage: tools/mutate_rules.py [BUILD_DIR] [WORDS]      (default build/release; WORDS: only mutants whose name has them)
Works on the sources in place and puts every file back, also when interrupted. Ends with 1 when a mutant survives.
"""
import pathlib
import subprocess
import sys

ROOT = pathlib.Path(__file__).resolve().parent.parent
BUILD = pathlib.Path(sys.argv[1] if len(sys.argv) > 1 else ROOT / "build/release").resolve()
ONLY = sys.argv[2] if len(sys.argv) > 2 else ""
RULES, FIT, COMPAT = "src/core/rules", "src/core/fit", "tst_compat_cases"

# What is flipped: name, file, text as it is, text as it becomes, test that must fail.
MUTANTS = [
    ("gap clear at its need", f"{FIT}/fit.cpp", "if (g >= gap.requiredMm)", "if (g > gap.requiredMm)", "tst_fit_cases"),
    ("blades never bulge", f"{FIT}/fit.cpp", "else if (!blades && -g <= m_options.bulgeMm && gap.flexible)", "else if (-g <= m_options.bulgeMm && gap.flexible)", "tst_fit_cases"),
    ("bulge up to 2 mm", f"{FIT}/fit.cpp", "-g <= m_options.bulgeMm", "-g < m_options.bulgeMm", "tst_fit_cases"),
    ("need of blades", f"{FIT}/clearance_rules.cpp", '{"blades-solid", Face::Blades, Face::Solid, 3.0', '{"blades-solid", Face::Blades, Face::Solid, 2.0', "tst_fit_cases"),
    ("plugs of the carrier count", f"{FIT}/gap_search.cpp", "return keepA && !keepB;", "return false;", "tst_fit_cases"),
    ("two plugs cannot share a space", f"{FIT}/gap_search.cpp", "a.use == Use::Plug && b.use == Use::Plug", "a.use != Use::Plug && b.use == Use::Plug", "tst_fit_cases"),
    ("drives without air", f"{FIT}/fit.cpp", "fanInChamberOf(p) ? Face::Drive : Face::StillDrive", "!fanInChamberOf(p) ? Face::Drive : Face::StillDrive", "tst_fit_cases"),
    ("socket of the processor", f"{RULES}/checks_parts.cpp", "board->socket != cpu->socket", "board->socket == cpu->socket", COMPAT),
    ("kit of the cooler", f"{RULES}/checks_parts.cpp", "!contains(cooler->sockets, cpu->socket)", "contains(cooler->sockets, cpu->socket)", COMPAT),
    ("form of the board", f"{RULES}/checks_parts.cpp", "!contains(forms, board->form)", "contains(forms, board->form)", COMPAT),
    ("picture", f"{RULES}/checks_parts.cpp", "if (!cpu->graphics ||", "if (cpu->graphics ||", COMPAT),
    ("kind of memory", f"{RULES}/checks_parts.cpp", "memory.memoryKind != board->memoryKind", "memory.memoryKind == board->memoryKind", COMPAT),
    ("memory slots", f"{RULES}/checks_parts.cpp", "if (modules > board->memorySlots)", "if (modules >= board->memorySlots)", COMPAT),
    ("slots to fill first", f"{RULES}/checks_parts.cpp", "board->memorySlots == 2 * board->memoryChannels", "board->memorySlots != 2 * board->memoryChannels", COMPAT),
    ("plugs short", f"{RULES}/checks_plugs.cpp", "if (row.needed <= row.given)", "if (row.needed < row.given)", COMPAT),
    ("current of a fan header", f"{RULES}/checks_plugs.cpp", "load.amperes > load.limitA + 1e-9", "load.amperes > 1.1 * load.limitA", COMPAT),
    ("families of leads", f"{RULES}/checks_plugs.cpp", "if (cable->family != family)", "if (cable->family == family)", COMPAT),
    ("moulded adapters", f"{RULES}/checks_plugs.cpp", "adapter && adapter->moulded", "adapter && !adapter->moulded", COMPAT),
    ("share of the supply", f"{RULES}/checks_power.cpp", "if (power.share > 1.0 ||", "if (power.share > 1.2 ||", COMPAT),
    ("brick over 90 %", f"{RULES}/checks_power.cpp", "power.brick && power.share > 0.9", "power.brick && power.share > 0.95", COMPAT),
    ("preferred share", f"{RULES}/checks_power.cpp", "else if (power.share > 0.8)", "else if (power.share > 0.85)", COMPAT),
    ("peaks of the card", f"{RULES}/checks_power.cpp", "spec.peakW > 0 && peak > spec.peakW", "spec.peakW > 0 && peak < spec.peakW", COMPAT),
    ("12 V rail", f"{RULES}/checks_power.cpp", "amperes > limit ? Severity::Blocker", "amperes < limit ? Severity::Blocker", COMPAT),
    ("plugs of the card", f"{RULES}/checks_power.cpp", "feed.known && p.powerW() > feed.capacityW", "feed.known && p.powerW() >= feed.capacityW", COMPAT),
    ("sense wires", f"{RULES}/checks_power.cpp", "card->powerW() > others.capacityW + sureW", "card->powerW() >= others.capacityW + sureW", COMPAT),
    ("plugs of the processor", f"{RULES}/checks_power.cpp", "feed.known && cpu->powerW() > feed.capacityW", "feed.known && cpu->powerW() >= feed.capacityW", COMPAT),
    ("splitter adds no capacity", f"{RULES}/port_map.cpp", "return known ? least(limit, fed) : limit;", "return limit;", COMPAT),
    ("SATA rail", f"{RULES}/checks_power.cpp", "load.first / railVolts > sataRailA", "load.first / railVolts >= sataRailA", COMPAT),
    ("need of a link", f"{RULES}/wiring.cpp", "link.usableGbs >= link.needGbs", "link.usableGbs <= link.needGbs", COMPAT),
    ("shared lanes", f"{RULES}/wiring.cpp", "shared ? slot->lanesShared : slot->lanes", "shared ? slot->lanes : slot->lanes", COMPAT),
    ("lane budget", f"{RULES}/checks_wiring.cpp", "b.used <= b.given", "b.used < b.given", COMPAT),
    ("metals of a loop", f"{RULES}/checks_liquid.cpp", 'is("aluminium", "copper")', 'is("copper", "copper")', COMPAT),
    ("height of the pump", f"{RULES}/checks_liquid.cpp", "topOf(c.build, *pump) >= topOf(c.build, *other)", "topOf(c.build, *pump) < topOf(c.build, *other)", COMPAT),
    ("screw pierces", f"{RULES}/checks_liquid.cpp", "length > thickness + radiator->plateMm + 5", "length >= thickness + radiator->plateMm + 5", COMPAT),
    ("screw holds", f"{RULES}/checks_liquid.cpp", "length < thickness + 2)", "length <= thickness + 2)", COMPAT),
    ("bend radius", f"{RULES}/checks_liquid.cpp", "room + 1e-9 < body.bendMm", "room > body.bendMm", COMPAT),
    ("lead too short", f"{RULES}/wiring.cpp", "c.slackMm < 0 ? LeadState::Short", "c.slackMm < -5 ? LeadState::Short", COMPAT),
    ("lead to stow", f"{RULES}/wiring.cpp", "c.slackMm > stowMm ? LeadState::Long", "c.slackMm > stowMm + 5 ? LeadState::Long", COMPAT),
    ("ledger stays open", f"{RULES}/wiring.cpp", "!loss.replace.empty() && row.by.empty()", "!loss.replace.empty() && !row.by.empty()", COMPAT),
]
MUTANTS = [m for m in MUTANTS if ONLY in m[0]]


def run(target):
    built = subprocess.run(["cmake", "--build", BUILD, "--target", target], capture_output=True, text=True)
    if built.returncode:
        return "does not build: " + built.stdout[-400:]
    return "fails" if subprocess.run([BUILD / "bin" / target], capture_output=True, env={"QT_QPA_PLATFORM": "offscreen", "PATH": "/usr/bin:/bin"}).returncode else "passes"


def main():
    survived = 0
    for target in sorted({m[4] for m in MUTANTS}):
        if run(target) != "passes":
            sys.exit(f"{target} does not pass before anything is changed")
    for name, file, before, after, target in MUTANTS:
        path = ROOT / file
        text = path.read_text()
        if text.count(before) < 1:
            print(f"GONE      {name}: \"{before}\" is no longer in {file}")
            survived += 1
            continue
        try:
            path.write_text(text.replace(before, after, 1))
            result = run(target)
        finally:
            path.write_text(text)
        survived += result != "fails"
        print(f"{'killed   ' if result == 'fails' else 'SURVIVED '} {name} ({target} {result})", flush=True)
    for target in sorted({m[4] for m in MUTANTS}):
        run(target)  # leaves the tree built from the sources as they are
    print(f"{len(MUTANTS) - survived} of {len(MUTANTS)} mutants were seen")
    return 1 if survived else 0


sys.exit(main())
