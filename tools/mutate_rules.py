#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""Shows that the tests see each rule: flips one comparison at a time, builds, and expects a test to fail.

Usage: tools/mutate_rules.py [BUILD_DIR] [WORDS]      (default build/release; WORDS: only mutants whose name has them)
Works on the sources in place and puts every file back, also when interrupted. Ends with 1 when a mutant survives.
"""
import pathlib
import re
import subprocess
import sys

ROOT = pathlib.Path(__file__).resolve().parent.parent
BUILD = pathlib.Path(sys.argv[1] if len(sys.argv) > 1 else ROOT / "build/release").resolve()
ONLY = sys.argv[2] if len(sys.argv) > 2 else ""
RULES, FIT, AIR, BENCH, MODEL = "src/core/rules", "src/core/fit", "src/core/air", "src/core/bench", "src/core/model"
COMPAT, CASES = "tst_compat_cases", "tst_fit_cases"

# What is flipped: name, file, text as it is, text as it becomes, test that must fail.
MUTANTS = [
    # ---- fit ----
    ("gap clear at its need", f"{FIT}/fit.cpp", "if (g >= gap.requiredMm)", "if (g > gap.requiredMm)", CASES),
    ("blades never bulge", f"{FIT}/fit.cpp", "return !blades && !gap.breathing && -g", "return !gap.breathing && -g", CASES),
    ("an intake never bulges", f"{FIT}/fit.cpp", "return !blades && !gap.breathing && -g", "return !blades && -g", CASES),
    ("bulge up to 2 mm", f"{FIT}/fit.cpp", "-g <= options.bulgeMm", "-g < options.bulgeMm", CASES),
    ("blades stop at 0", f"{FIT}/fit.cpp", "if (g <= 0 && blades)", "if (g < 0 && blades)", CASES),
    ("blocked below a third", f"{FIT}/fit.cpp", "g < blockedShare * gap.requiredMm", "g < 0.5 * gap.requiredMm", CASES),
    ("only intakes are blocked", f"{FIT}/fit.cpp", "if (gap.intake && g", "if (g", CASES),
    ("a corner only touches", f"{FIT}/fit.cpp", "m_faces.covered(lower, upper, axis) < coverShare", "m_faces.covered(lower, upper, axis) <= coverShare", CASES),
    ("only what rests is joined", f"{FIT}/fit.cpp", 'if (d.rule->id != "solid")', 'if (d.rule->id == "solid")', CASES),
    ("every plug has its gap", f"{FIT}/fit.cpp", "m_bodies[body].role == BodyRole::KeepOut ? body", "m_bodies[body].role != BodyRole::KeepOut ? body", CASES),
    ("need of a fan", f"{FIT}/clearance_rules.cpp", '{"blades-face", Face::Blades, Face::AnyClosed, 10.0', '{"blades-face", Face::Blades, Face::AnyClosed, 9.0', CASES),
    ("need of a supply", f"{FIT}/clearance_rules.cpp", '{"supply-face", Face::SupplyIntake, Face::AnyClosed, 15.0', '{"supply-face", Face::SupplyIntake, Face::AnyClosed, 14.0', CASES),
    ("a panel open enough", f"{FIT}/faces.cpp", "over.perforation >= openFaceShare - 1e-9", "over.perforation >= openFaceShare - 0.02", CASES),
    ("over enough of the face", f"{FIT}/faces.cpp", "over.share >= openFaceShare &&", "over.share >= 0.44 &&", CASES),
    ("intake side of a fan", f"{FIT}/faces.cpp", "towardsPanel == (p.flow == FanFlow::In)", "towardsPanel != (p.flow == FanFlow::In)", CASES),
    ("shroud that reaches farthest", f"{FIT}/faces.cpp", "reach(other) > reach(b)", "reach(other) < reach(b)", CASES),
    ("fins of a tower", f"{FIT}/faces.cpp", "look.axis == p.frame.axis[1].axis", "look.axis == p.frame.axis[0].axis", CASES),
    ("plugs of the carrier count", f"{FIT}/gap_search.cpp", "return keepA && !keepB;", "return false;", CASES),
    ("two plugs cannot share a space", f"{FIT}/gap_search.cpp", "a.use == Use::Plug && b.use == Use::Plug", "a.use != Use::Plug && b.use == Use::Plug", CASES),
    ("drives without air", f"{FIT}/faces.cpp", "fanInChamberOf(p) ? Face::Drive : Face::StillDrive", "!fanInChamberOf(p) ? Face::Drive : Face::StillDrive", CASES),
    ("a brick takes no room", f"{FIT}/bodies.cpp", "supply && supply->brick && p.part->bodies.empty()", "supply && !supply->brick && p.part->bodies.empty()", CASES),
    ("round vents", f"{FIT}/openings.cpp", "if (!face.round)", "if (face.round)", COMPAT),
    ("edge in plastic", f"{FIT}/cutouts.cpp", "WallMaterial::Plastic ? 2.0 : 1.5", "WallMaterial::Plastic ? 1.5 : 1.5", COMPAT),
    # ---- compatibility ----
    ("socket of the processor", f"{RULES}/checks_parts.cpp", "board->socket != cpu->socket", "board->socket == cpu->socket", COMPAT),
    ("kit of the cooler", f"{RULES}/checks_parts.cpp", "!contains(cooler->sockets, cpu->socket)", "contains(cooler->sockets, cpu->socket)", COMPAT),
    ("form of the board", f"{RULES}/checks_parts.cpp", "!contains(forms, board->form)", "contains(forms, board->form)", COMPAT),
    ("picture", f"{RULES}/checks_parts.cpp", "if (!cpu->graphics ||", "if (cpu->graphics ||", COMPAT),
    ("kind of memory", f"{RULES}/checks_parts.cpp", "memory.memoryKind != board->memoryKind", "memory.memoryKind == board->memoryKind", COMPAT),
    ("memory slots", f"{RULES}/checks_parts.cpp", "modules > board->memorySlots &&", "modules >= board->memorySlots &&", COMPAT),
    ("slots to fill first", f"{RULES}/checks_parts.cpp", "board->memorySlots == 2 * board->memoryChannels", "board->memorySlots != 2 * board->memoryChannels", COMPAT),
    ("plugs short", f"{RULES}/checks_plugs.cpp", "if (s.missing == 0)", "if (s.missing <= 1)", COMPAT),
    ("3-pin headers", f"{MODEL}/plug_fits.cpp", '{"fan-4", "fan-3", PlugFit::Narrow}', '{"fan-4", "fan-3", PlugFit::Not}', COMPAT),
    ("wide cards", f"{MODEL}/plug_fits.cpp", "wants <= has ?", "wants >= has ?", COMPAT),
    ("4-pin in an 8-pin", f"{MODEL}/plug_fits.cpp", '{"eps-8", "eps-4", PlugFit::Narrow}', '{"eps-8", "eps-4", PlugFit::Not}', COMPAT),
    ("a fifth in reserve", f"{RULES}/port_map.cpp", "fourPinReserve = 0.2", "fourPinReserve = 0.1", COMPAT),
    ("current of a fan header", f"{RULES}/checks_plugs.cpp", "load.amperes > load.limitA + 1e-9", "load.amperes > 1.1 * load.limitA", COMPAT),
    ("families of leads", f"{RULES}/checks_plugs.cpp", "if (cable->family != family)", "if (cable->family == family)", COMPAT),
    ("moulded adapters", f"{RULES}/checks_plugs.cpp", "adapter && adapter->moulded", "adapter && !adapter->moulded", COMPAT),
    ("share of the supply", f"{RULES}/checks_power.cpp", "if (power.share > 1.0 ||", "if (power.share > 1.2 ||", COMPAT),
    ("brick over 90 %", f"{RULES}/checks_power.cpp", "power.brick && power.share > 0.9", "power.brick && power.share > 0.95", COMPAT),
    ("preferred share", f"{RULES}/checks_power.cpp", "else if (power.share > 0.8)", "else if (power.share > 0.85)", COMPAT),
    ("peaks of the machine", f"{RULES}/checks_power.cpp", "spec.peakW > 0 && peak > spec.peakW", "spec.peakW > 0 && peak < spec.peakW", COMPAT),
    ("peak of the processor", f"{RULES}/checks_power.cpp", "cpu->peakW - p.powerW()", "0 * cpu->peakW", COMPAT),
    ("12 V rail", f"{RULES}/checks_power.cpp", "amperes > limit ? Severity::Blocker", "amperes < limit ? Severity::Blocker", COMPAT),
    ("drives that start", f"{RULES}/checks_power.cpp", "if (total > limit)", "if (total > limit + 1)", COMPAT),
    ("plugs of the card", f"{RULES}/checks_power.cpp", "feed.known && p.powerW() > feed.capacityW", "feed.known && p.powerW() >= feed.capacityW", COMPAT),
    ("sense wires", f"{RULES}/checks_power.cpp", "card->powerW() > others.capacityW + sureW", "card->powerW() >= others.capacityW + sureW", COMPAT),
    ("plugs of the processor", f"{RULES}/checks_power.cpp", "feed.known && cpu->powerW() > feed.capacityW", "feed.known && cpu->powerW() >= feed.capacityW", COMPAT),
    ("splitter adds no capacity", f"{RULES}/port_map.cpp", "return known ? least(limit, fed) : limit;", "return limit;", COMPAT),
    ("SATA rail", f"{RULES}/checks_power.cpp", "load.first / railVolts > sataRailA", "load.first / railVolts >= sataRailA", COMPAT),
    ("need of a link", f"{RULES}/wiring.cpp", "link.usableGbs >= link.needGbs", "link.usableGbs <= link.needGbs", COMPAT),
    ("shared lanes", f"{RULES}/wiring.cpp", "shared ? slot->lanesShared : slot->lanes", "shared ? slot->lanes : slot->lanes", COMPAT),
    ("lane budget", f"{RULES}/checks_wiring.cpp", "b.used <= b.given", "b.used < b.given", COMPAT),
    ("metals of a loop", f"{RULES}/checks_liquid.cpp", 'is("aluminium", "copper")', 'is("copper", "copper")', COMPAT),
    ("sealed loops", f"{RULES}/checks_liquid.cpp", "if (mixed && sealed)", "if (mixed && !sealed)", COMPAT),
    ("height of the pump", f"{RULES}/checks_liquid.cpp", "topOf(c.build, *pump) >= topOf(c.build, *other)", "topOf(c.build, *pump) < topOf(c.build, *other)", COMPAT),
    ("screw pierces", f"{RULES}/checks_liquid.cpp", "length > thickness + radiator->plateMm + 5", "length >= thickness + radiator->plateMm + 5", COMPAT),
    ("screw holds", f"{RULES}/checks_liquid.cpp", "length < thickness + 2)", "length <= thickness + 2)", COMPAT),
    ("bend radius", f"{RULES}/checks_liquid.cpp", "room + 1e-9 < body.bendMm", "room > body.bendMm", COMPAT),
    ("lead too short", f"{RULES}/wiring.cpp", "c.slackMm < 0 ? LeadState::Short", "c.slackMm < -5 ? LeadState::Short", COMPAT),
    ("lead to stow", f"{RULES}/wiring.cpp", "c.slackMm > stowMm ? LeadState::Long", "c.slackMm > stowMm + 5 ? LeadState::Long", COMPAT),
    ("ledger stays open", f"{RULES}/wiring.cpp", "!loss.replace.empty() && row.by.empty()", "!loss.replace.empty() && !row.by.empty()", COMPAT),
    ("form of the supply", f"{RULES}/checks_case.cpp", "supply->form) == forms.end()", "supply->form) != forms.end()", COMPAT),
    ("slot covers", f"{RULES}/checks_case.cpp", "there > 0 && wanted > there", "there > 0 && wanted >= there", COMPAT),
    ("riser missing", f"{RULES}/checks_case.cpp", "away > reachMm)", "away > reachMm + 1000)", COMPAT),
    ("riser too long", f"{RULES}/checks_case.cpp", "cable->lengthMm <= longMm", "cable->lengthMm < longMm", COMPAT),
    ("rating of the cooler", f"{RULES}/checks_case.cpp", "cpu->powerW() <= cooler->ratedTdpW)", "cpu->powerW() < cooler->ratedTdpW)", COMPAT),
    ("much over the rating", f"{RULES}/checks_case.cpp", "cpu->powerW() > muchShare *", "cpu->powerW() >= muchShare *", COMPAT),
    ("feet below the rear", f"{RULES}/checks_case.cpp", "feet < plugMm ? Severity::Caution", "feet <= plugMm ? Severity::Caution", COMPAT),
    ("observed link", f"{RULES}/checks_case.cpp", "seen.generation >= link->generation && seen.lanes", "seen.generation > link->generation && seen.lanes", COMPAT),
    ("card from the slot alone", f"{RULES}/checks_missing.cpp", "p.powerW() > slotW", "p.powerW() >= slotW", COMPAT),
    ("uncovered share", f"{RULES}/checks_cutouts.cpp", "s.uncoveredShare < 0.75", "s.uncoveredShare < 0.8", COMPAT),
    ("edge of a hole", f"{RULES}/checks_cutouts.cpp", "s.edgeMm + 1e-9 < s.needEdgeMm", "s.edgeMm < 0", COMPAT),
    ("beyond the radiator", f"{RULES}/checks_cutouts.cpp", "if (least < 0)", "if (least <= 0)", COMPAT),
    # ---- resolve ----
    ("outside is said", f"{MODEL}/place_parts.cpp", "m_build.insideAt[a] + wall)", "m_build.insideAt[a] + Length::fromMm(5000))", CASES),
    ("feet of each side", f"{MODEL}/apply_change.cpp", "m_feet[m_build.down] =", "m_feet[Side::Bottom] =", CASES),
    ("equal names", f"{MODEL}/place_parts.cpp", "count[p.part->name] > 1", "count[p.part->name] > 2", CASES),
    ("a limit goes with its part", f"{MODEL}/apply_change.cpp", "if (o->part != part)", "if (o->part == part)", "tst_resolve"),
    ("a limit never raises", f"{MODEL}/build.h", "std::min(*powerLimitW, part->powerW)", "*powerLimitW", "tst_resolve"),
    ("a fan turned round", f"{MODEL}/apply_change.cpp", "o->flow == FanFlow::In ? FanFlow::Out : FanFlow::In", "o->flow == FanFlow::In ? FanFlow::In : FanFlow::Out", "tst_resolve"),
    ("taken mounts", f"{MODEL}/apply_change.cpp", "if (order(c.mount))", "if (false && order(c.mount))", "tst_resolve"),
    ("centred parts", f"{MODEL}/place_parts.cpp", "low.add(size, -1);", "low.add(size, -2);", "tst_resolve"),
    # ---- air ----
    ("density of air", f"{AIR}/elements.cpp", "287.05", "288.05", "tst_air_elements"),
    ("viscosity of air", f"{AIR}/elements.cpp", "(273.15 + 110.4)", "(273.15 + 120.4)", "tst_air_elements"),
    ("loss of a grille", f"{AIR}/elements.cpp", "0.707 *", "0.800 *", "tst_air_elements"),
    ("fouling of a screen", f"{AIR}/elements.cpp", "(openShare * openShare) * fouling", "(openShare * openShare) / fouling", "tst_air_elements"),
    ("slots", f"{AIR}/elements.cpp", "{12.0 * lengthM", "{10.0 * lengthM", "tst_air_elements"),
    ("class of a fan", f"{AIR}/elements.cpp", "std::abs(row.thickness - thicknessMm) < 2.5", "std::abs(row.thickness - thicknessMm) < 12.5", "tst_air_elements"),
    ("between two points", f"{AIR}/elements.cpp", "y0 + (y1 - y0)", "y1 + (y1 - y0)", "tst_air_elements"),
    ("heat into a stream", f"{AIR}/elements.cpp", "std::expm1(-conductanceWk / streamWk)", "std::expm1(-conductanceWk / streamWk / 2)", "tst_air_elements"),
    # ---- bench ----
    ("median of an even number", f"{BENCH}/stats.cpp", "0.5 * (*middle +", "0.4 * (*middle +", "tst_stats"),
    ("percentile between readings", f"{BENCH}/stats.cpp", "(at - static_cast<double>(low)) *", "(at - static_cast<double>(low) + 0.5) *", "tst_stats"),
    ("held for so long", f"{BENCH}/stats.cpp", "< seconds - 1e-9", "< seconds / 2 - 1e-9", "tst_stats"),
    ("step of a sensor", f"{BENCH}/stats.cpp", "q / std::sqrt(12.0)", "q / std::sqrt(10.0)", "tst_stats"),
    ("doubt of the room", f"{BENCH}/stats.cpp", "s * s * uRoom * uRoom", "s * uRoom * uRoom", "tst_stats"),
    ("frozen sensors", f"{BENCH}/analyse.cpp", "if (range(channel.values) > 0)", "if (range(channel.values) >= 0)", "tst_doubtful_logs"),
    ("a room at 0", f"{BENCH}/analyse.cpp", "!std::isfinite(v) || v == 0; });", "!std::isfinite(v) || v == 1; });", "tst_doubtful_logs"),
    ("throttling of its part", f"{BENCH}/analyse.cpp", "t.subject.empty() || t.subject == temperature.subject", "t.subject.empty() || t.subject != temperature.subject", "tst_doubtful_logs"),
    ("stopped early", f"{BENCH}/analyse.cpp", "c.state != SettleState::Settled && c.moreMinutes", "c.state == SettleState::Settled && c.moreMinutes", "tst_doubtful_logs"),
    # ---- verdict and noise ----
    ("simulated proves nothing", "src/core/verdict/judge.cpp", "run.simulated && !m_project.simulation", "run.simulated && m_project.simulation", "tst_trust"),
    ("a guess proves nothing", "src/core/verdict/judge.cpp", "if (c.assumed) {", "if (false) {", "tst_trust"),
    ("refuted by a refused run", "src/core/verdict/judge.cpp", "passed > target.limit)", "passed > target.limit + 5)", "tst_trust"),
    ("scatter of the runs", "src/core/verdict/judge.cpp", "squares / (n - 1)", "squares / n", "tst_trust"),
    ("noise of a Flex supply", f"{MODEL}/facts.h", "92, 15, 32, 45", "92, 15, 30, 45", "tst_noise"),
    ("panel under a drive", "src/core/acoustics/noise.cpp", "Inch35 && p.parent < 0 ?", "Inch35 && p.parent >= 0 ?", "tst_noise"),
]
MUTANTS = [m for m in MUTANTS if ONLY in m[0]]


def found(before, text):
    """Where the text stands, however it is laid out: any blanks stand for blanks."""
    return re.search(r"\s+".join(re.escape(word) for word in before.split()), text)


def run(test):
    built = subprocess.run(["cmake", "--build", BUILD, "--target", "tests_core"], capture_output=True, text=True)
    if built.returncode:
        return "does not build: " + built.stdout[-400:]
    return "fails" if subprocess.run([BUILD / "bin/tests_core", test], capture_output=True, env={"QT_QPA_PLATFORM": "offscreen", "PATH": "/usr/bin:/bin"}).returncode else "passes"


def main():
    survived = 0
    for target in sorted({m[4] for m in MUTANTS}):
        if run(target) != "passes":
            sys.exit(f"{target} does not pass before anything is changed")
    for name, file, before, after, target in MUTANTS:
        path = ROOT / file
        text = path.read_text()
        at = found(before, text)
        if not at:
            print(f"GONE      {name}: \"{before}\" is no longer in {file}")
            survived += 1
            continue
        try:
            path.write_text(text[:at.start()] + after + text[at.end():])
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
