#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""The core against programs that are not ours: standard atmosphere and viscosity by python3-fluids, a dozen flow networks and a
warm-up by ngspice, a thousand networks, a warm-up with streams, a settling fit and quantiles by scipy, section drawings by python3-ezdxf. All worked out live, nothing is kept."""
import json
import pathlib
import re
import subprocess
import sys
import tempfile

import ezdxf
import fluids
import numpy as np
from scipy import integrate, optimize, stats

from branch_law import Flows
from steady_law import Steady

BIN = pathlib.Path(sys.argv[1])
ours = json.loads(subprocess.run([BIN / "outside_values"], capture_output=True, text=True, check=True).stdout)
passed = failed = 0


def check(what, mine, theirs, tolerance):
    """Absolute tolerance."""
    global passed, failed
    if abs(mine - theirs) <= tolerance:
        passed += 1
    else:
        failed += 1
        print(f"FAIL!  : {what}: ours {mine}, theirs {theirs}, tolerance {tolerance}")


def spice(deck):
    """Runs ngspice in batch mode and returns what it printed."""
    with tempfile.TemporaryDirectory() as folder:
        path = pathlib.Path(folder) / "deck.cir"
        path.write_text(deck)
        done = subprocess.run(["ngspice", "-b", path], capture_output=True, text=True, timeout=120)
        return done.stdout + done.stderr


# ---- the standard atmosphere, and air at a temperature (ISO 2533 by python3-fluids; ideal gas; Sutherland) ----
for row in ours["atmosphere"]:
    atmosphere = fluids.ATMOSPHERE_1976(row["altitude_m"])
    name = f"atmosphere at {row['altitude_m']} m, {row['temperature_c']} °C"
    check(name + ", pressure", row["pressure_pa"] / atmosphere.P, 1, 1e-3)
    check(name + ", density", row["density"], atmosphere.P / (287.05287 * (row["temperature_c"] + 273.15)), 2e-3)
    check(name + ", viscosity", row["viscosity"] / fluids.ATMOSPHERE_1976.viscosity(row["temperature_c"] + 273.15), 1, 5e-3)

# ---- a flow network: pressure is volts, mass flow is amperes; each branch a current that obeys x = A Q + B Q|Q| ----
flow = ours["flow"]


def node(zone):
    return "0" if zone == 0 else f"n{zone}"


def spice_flows(celsius, p0, branches):
    """Flows in L/s and zone pressures in Pa that ngspice finds; branches (from, to, a, b, height, share or -1, free flow, shutoff)."""
    rho = [p0 / (287.05 * (t + 273.15)) for t in celsius]
    mu = [1.716e-5 * ((t + 273.15) / 273.15) ** 1.5 * (273.15 + 110.4) / (t + 273.15 + 110.4) for t in celsius]
    deck = ["flow network", ".options reltol=1e-9 abstol=1e-15 vntol=1e-12 gmin=1e-20 itl1=2000"]
    for k, (i, j, a, b, height, share, free, shutoff) in enumerate(branches):
        i, j = int(i), int(j)
        r, m = (rho[i] + rho[j]) / 2, (mu[i] + mu[j]) / 2
        A, B, X = m * a, r * b, (rho[j] - rho[i]) * 9.80665 * height
        if share >= 0:
            kk = r / 1.2
            A += 0.6 * kk * shutoff * share / free
            B += 0.4 * kk * shutoff / free**2
            X += kk * shutoff * share**2
        # Node qk carries the volume flow in litres a second: it is driven until x - A Q - B Q|Q| vanishes.
        q = f"(v(q{k})/1000)"
        deck.append(f"Bq{k} 0 q{k} I={{v({node(i)}) - v({node(j)}) + {X:.15g} - {A:.15g}*{q} - {B:.15g}*{q}*abs{q}}}")
        deck.append(f"Rq{k} q{k} 0 1e15")
        # Mass leaves the upwind zone at its own density.
        deck.append(f"Bm{k} {node(i)} {node(j)} I={{({q} >= 0 ? {rho[i]:.15g} : {rho[j]:.15g})*{q}*1000}}")
    zones = range(1, len(celsius))
    deck += [".op", ".control", "set numdgt=12", "op"] + [f"print v(q{k})" for k in range(len(branches))] + [f"print v(n{z})" for z in zones] + [".endc", ".end"]
    printed = spice("\n".join(deck))
    values = dict(re.findall(r"v\((\w+)\) = ([-+0-9.eE]+)", printed))
    if any(f"q{k}" not in values for k in range(len(branches))):
        return None
    return [float(values[f"q{k}"]) for k in range(len(branches))], [0.0] + [float(values.get(f"n{z}", "nan")) for z in zones]


rows = [(b["from"], b["to"], b["a"], b["b"], b["height_m"], b["fan"]["share"] if "fan" in b else -1, b["fan"]["free_flow_m3s"] if "fan" in b else 1,
         b["fan"]["shutoff_pa"] if "fan" in b else 0) for b in flow["branches"]]
answer = spice_flows(flow["temperature_c"], flow["absolute_pa"], rows)
check("ngspice solved the flow network", answer is not None, True, 0)
for k, b in enumerate(flow["branches"] if answer else []):
    check(f"flow of branch {k}, L/s", b["flow_m3s"] * 1000, answer[0][k], 2e-4)
for z in range(1, 6 if answer else 0):
    check(f"pressure of zone {z}, Pa", flow["pressure_pa"][z], answer[1][z], 2e-4)

# ---- a dozen random networks by ngspice: those that it finds an operating point of by itself, of the first thirty ----
told = 0
for number, network in enumerate(ours["random"][:30]):
    if told == 12:
        break
    rows = [(r[0], r[1], r[2], r[3], r[4], r[6], max(r[7], 1e-9), r[8]) for r in network["branches"]]
    answer = spice_flows(network["temperature_c"], network["absolute_pa"], rows)
    if answer is None:
        continue
    told += 1
    largest = max(abs(q) for q in answer[0])
    for k, row in enumerate(network["branches"]):
        check(f"random network {number}, branch {k}, share of its largest flow", row[5] * 1000 / largest, answer[0][k] / largest, 1e-3)
check("random networks that ngspice told", told, 12, 0)

# ---- a thousand random networks by scipy: the root of the mass balance, from pressures that are not ours ----
unsolved, worst = 0, 0.0
for network in ours["random"]:
    law = Flows(network)
    # Methods of the library one after another: a root finder without the structure of the problem may stop short.
    answer = None
    for method in ("hybr", "lm", "krylov"):
        try:
            found = optimize.root(law.leaving, np.full(len(law.celsius) - 1, 0.1), method=method, tol=1e-13)
        except Exception:
            continue
        if np.max(np.abs(law.leaving(found.x))) < 1e-7:
            answer = law.volume(found.x)
            break
    if answer is None:
        unsolved += 1
        continue
    # Against the largest flow of the network: what is a thousandth of it decides nothing.
    worst = max(worst, float(np.max(np.abs(answer - law.rows[:, 5]) / np.max(np.abs(answer)))))
check("random networks that scipy does not solve, of 1000", unsolved, 0, 10)
check("random networks: largest difference to scipy, of the largest flow", worst, 0, 1e-3)

# ---- a warm-up: heat is current, temperature is volts; two capacities, a resistance and a conductance ----
w = ours["warm_up"]
start_sink = w["idle_w"] / w["sink_wk"]
start_die = start_sink + w["idle_w"] * w["die_resistance"]
rows = w["rows"]
deck = ["warm up", f"Ip 0 die DC {w['power_w']}", f"Cd die 0 {w['die_jk']} IC={start_die}", f"Rd die sink {w['die_resistance']}", f"Cs sink 0 {w['sink_jk']} IC={start_sink}",
        f"Rs sink 0 {1 / w['sink_wk']}", ".options reltol=1e-7", ".control", "set numdgt=10", f"tran 0.05 {rows[-1][0]} 0 0.05 uic", "linearize v(die) v(sink)"]
deck += [f"meas tran d{r[0]} find v(die) at={max(r[0], 0.001)}" for r in rows] + [f"meas tran s{r[0]} find v(sink) at={max(r[0], 0.001)}" for r in rows] + [".endc", ".end"]
printed = spice("\n".join(deck))
found = dict(re.findall(r"^([ds]\d+)\s*=\s*([-+0-9.eE]+)", printed, re.M))
check("ngspice gave the warm-up", len(found), 2 * len(rows), 0)
for second, die, sink in rows:
    if second == 0 or f"d{second}" not in found:
        continue
    # Steps of one second of backward Euler against a fine trapezoid; the sum of the rise is 30 K.
    check(f"sink at {second} s", sink - w["room_c"], float(found[f"s{second}"]), 0.15)
    check(f"die at {second} s", die - w["room_c"], float(found[f"d{second}"]), 0.25)
check("end of the warm-up", rows[-1][1] - w["room_c"], w["power_w"] * (1 / w["sink_wk"] + w["die_resistance"]), 0.6)

# ---- a box with a fan, a wall and a cooler by a stiff solver of scipy: air without a capacity, its flows and temperature solved in each call ----
box = ours["box"]
(a_in, b_in, s_in, free_in, off_in), (a_out, b_out, *_), (a_c, b_c, s_c, free_c, off_c) = box["branches"]
room, cp = box["room_c"], 1006.0


def rho_at(t):
    return box["absolute_pa"] / (287.05 * (t + 273.15))


def mu_at(t):
    return 1.716e-5 * ((t + 273.15) / 273.15) ** 1.5 * (273.15 + 110.4) / (t + 273.15 + 110.4)


def volume(x, A, B):
    return 2 * x / (A + np.sqrt(A * A + 4 * B * abs(x)))


def air_of_box(sink, wall):
    """Temperature of the air, and what the stream takes from the sink, W/K."""
    t = room + 5
    for _ in range(40):
        mean, m, k = (rho_at(room) + rho_at(t)) / 2, mu_at((room + t) / 2), (rho_at(room) + rho_at(t)) / 2 / 1.2
        A_in, B_in, F = m * a_in + 0.6 * k * off_in * s_in / free_in, mean * b_in + 0.4 * k * off_in / free_in**2, k * off_in * s_in**2

        def leaving(p):
            return rho_at(room) * volume(F - p, A_in, B_in) - rho_at(t) * volume(p, m * a_out, mean * b_out)

        p = optimize.brentq(leaving, 0, F, xtol=1e-13)
        stream = rho_at(room) * volume(F - p, A_in, B_in) * cp
        kc = rho_at(t) / 1.2
        q = volume(kc * off_c * s_c**2, mu_at(t) * a_c + 0.6 * kc * off_c * s_c / free_c, rho_at(t) * b_c + 0.4 * kc * off_c / free_c**2)
        carried = rho_at(t) * cp * q
        taken = carried * -np.expm1(-box["g_ref"] * (q / box["q_ref"]) ** box["n"] / carried) + box["natural_wk"]
        then = (stream * room + box["inside_wk"] * wall + taken * sink) / (stream + box["inside_wk"] + taken)
        if abs(then - t) < 1e-10:
            break
        t = then
    return t, taken


def change(_, y, watts):
    die, sink, wall = y
    t, taken = air_of_box(sink, wall)
    up = (die - sink) / box["die_resistance"]
    return [(watts - up) / box["die_jk"], (up - taken * (sink - t)) / box["sink_jk"],
            (box["inside_wk"] * (t - wall) + box["outside_wk"] * (room - wall)) / box["structure_jk"]]


idle = optimize.fsolve(lambda y: change(0, y, box["idle_w"]), [room + 12, room + 9, room + 3], xtol=1e-12)
times = [r[0] for r in box["rows"]]
played = integrate.solve_ivp(change, (0, times[-1]), idle, method="LSODA", t_eval=times, args=(box["power_w"],), rtol=1e-8, atol=1e-8)
for k, (second, die, sink, air) in enumerate(box["rows"]):
    check(f"box at {second} s, die", die, played.y[0][k], 0.1)
    check(f"box at {second} s, sink", sink, played.y[1][k], 0.1)
    check(f"box at {second} s, air", air, air_of_box(played.y[1][k], played.y[2][k])[0], 0.1)

# ---- whole boxes, settled: flows, heat and regulated fans in one system of equations for a root finder of scipy ----
ROOT = pathlib.Path(__file__).resolve().parent.parent.parent
boxes = [(ROOT / "data/demo/dig-tent", r) for r in ("R1", "R5", "R10")] + [(path.parent, None) for path in sorted((ROOT / "examples").glob("**/project.json"))]
for path, revision in boxes:
    asked = [BIN / "mini-draft-cli", "air", path, "--network", "--json", *(["-r", revision] if revision else [])]
    told = subprocess.run(asked, capture_output=True, text=True)
    network = json.loads(told.stdout)["network"]
    law = Steady(network)
    found = law.solve()
    left, celsius, watts, zones = law.books(found.x)
    name = f"{path.stem} {revision or ''}"
    check(f"{name}: scipy finds an end", float(np.abs(left).max() < 1e-3), 1, 0)
    for part in network["parts"] + network["passive"]:
        check(f"{name}: {part['id']} settled", part["settled_c"], celsius[part["id"]], 0.05)
    for part in network["parts"]:
        check(f"{name}: watts of {part['id']}", part["settled_w"], watts[part["id"]], 0.05)
    for zone, t in zip(network["zones"], zones):
        check(f"{name}: air of {zone['id']}", zone["air_c"], t, 0.05)

# ---- the settling fit: scipy's least squares on the same readings ----
s = ours["settle"]
t, y = np.array(s["t"][15:], float), np.array(s["y"][15:])


def two(p):
    return p[0] + p[1] * np.exp(-t / p[2]) + p[3] * np.exp(-t / p[4]) - y


fit = optimize.least_squares(two, [60, -15, 50, -10, 400], x_scale=[1, 1, 10, 1, 100])
check("settled value by scipy", s["a"], fit.x[0], 0.05)
order = np.argsort([fit.x[2], fit.x[4]])
for mine, k in zip(range(2), order):
    check(f"time constant {mine + 1} by scipy, relative", s["tau"][mine] / fit.x[2 + 2 * k], 1, 0.06)
ours_rss = np.sum((s["a"] + s["b"][0] * np.exp(-t / s["tau"][0]) + s["b"][1] * np.exp(-t / s["tau"][1]) - y) ** 2)
check("residuals as small as scipy's, relative", ours_rss / np.sum(fit.fun**2), 1, 0.002)
check("interval holds scipy's value", float(s["low"] <= fit.x[0] <= s["high"]), 1, 0)

for q in ours["quantiles"]:
    check(f"t {q['p']} at {q['nu']}, relative", q["t"] / stats.t.ppf(q["p"], q["nu"]), 1, 0.01)
    check(f"z {q['p']}", q["z"], stats.norm.ppf(q["p"]), 1e-5)

# ---- section drawings, read by a DXF library (python3-ezdxf) ----
DEMO = pathlib.Path(__file__).resolve().parent.parent.parent / "data/demo/dig-tent"
inside = json.loads((DEMO / "project.json").read_text())["shelf"][0]["size_mm"]
with tempfile.TemporaryDirectory() as folder:
    for arguments, whole in (([], True), (["--fit-page"], False)):
        path = pathlib.Path(folder) / "sections.dxf"
        told = json.loads(subprocess.run([BIN / "mini-draft-cli", "sections", DEMO, "-r", "R10", "-o", path, "--force", "--json", *arguments], capture_output=True, text=True, check=True).stdout)
        drawing = ezdxf.readfile(path)
        problems = drawing.audit().errors
        check(f"DXF is sound {arguments}", len(problems), 0, 0)
        lines = list(drawing.modelspace().query("POLYLINE"))
        check("DXF holds every line", len(lines), told["lines"], 0)
        bars = [[v.dxf.location.x for v in line.vertices] for line in lines if line.dxf.layer == "check"]
        check("DXF check bar", max(max(b) - min(b) for b in bars), 50 * told["scale"], 1e-3)
        walls = [[v.dxf.location for v in line.vertices] for line in lines if line.dxf.layer == "case"]
        check("DXF inner width", max(v.x for v in walls[0]) - min(v.x for v in walls[0]), inside[0]["mm"] * told["scale"], 1e-3)
        check("DXF inner height", max(v.y for v in walls[0]) - min(v.y for v in walls[0]), inside[2]["mm"] * told["scale"], 1e-3)
        check("DXF true size", told["scale"] == 1, whole, 0)

# ---- the same as PDF, read by poppler ----
with tempfile.TemporaryDirectory() as folder:
    path = pathlib.Path(folder) / "sections.pdf"
    for arguments, sheet in (([], None), (["--fit-page"], (297, 210)), (["--sheet", "A3", "--scale", "0.4"], (420, 297))):
        told = json.loads(subprocess.run([BIN / "mini-draft-cli", "sections", DEMO, "-r", "R10", "-o", path, "--force", "--json", *arguments], capture_output=True, text=True, check=True).stdout)
        info = subprocess.run(["pdfinfo", path], capture_output=True, text=True, check=True).stdout
        wide, high = (float(v) * 25.4 / 72 for v in re.search(r"Page size: +([0-9.]+) x ([0-9.]+)", info).groups())
        want = sheet or (told["width_mm"], told["height_mm"])
        check(f"PDF sheet is as wide as said {arguments}, mm", wide, want[0], 0.05)
        check(f"PDF sheet is as high as said {arguments}, mm", high, want[1], 0.05)
        words = subprocess.run(["pdftotext", path, "-"], capture_output=True, text=True, check=True).stdout
        check(f"PDF names its bar of 50 mm {arguments}", float("50 mm" in words), 1, 0)
    small = subprocess.run([BIN / "mini-draft-cli", "sections", DEMO, "-r", "R10", "-o", path, "--force", "--sheet", "A4"], capture_output=True, text=True)
    check("true size on a sheet that is too small is refused", float(small.returncode == 2 and "too small" in small.stderr), 1, 0)

print(f"Totals: {passed} passed, {failed} failed, 0 skipped")
sys.exit(failed > 0)
