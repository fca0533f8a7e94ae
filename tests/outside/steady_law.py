# SPDX-License-Identifier: GPL-3.0-or-later
"""The settled state of a whole box (flows, heat, regulated fans) as equations for a root finder, from what
`mini-draft-cli air --network --json` prints: for whoever solves our networks with other programs."""
import numpy as np
from scipy import optimize

CP, GRAVITY = 1006.0, 9.80665
BY_LOAD = ([0, .25, .35, .6, 1], [0, 0, .28, .45, 1])
BY_INLET = ([25, 35, 45, 60], [0, 0, .35, 1])


def density(absolute_pa, celsius):
    return absolute_pa / (287.05 * (celsius + 273.15))


def viscosity(celsius):
    return 1.716e-5 * ((celsius + 273.15) / 273.15) ** 1.5 * (273.15 + 110.4) / (celsius + 273.15 + 110.4)


class Steady:
    """Unknown: pressures and temperatures of the inner zones, temperatures of the sinks, speeds of regulated fans, the loss of
    the supply. A fan that stands still in our state is left standing, and whether it should is told by `starts`."""

    def __init__(self, network):
        self.net = network
        zone = {z["id"]: i for i, z in enumerate(network["zones"])}
        self.room, self.absolute = network["room_c"], network["absolute_pa"]
        self.n = len(zone)
        self.wall = np.array([z["wall_wk"] for z in network["zones"]])
        self.heat = np.array([z["heat_w"] for z in network["zones"]])
        self.cross = np.array([z["cross_m2"] for z in network["zones"]])
        ways = network["branches"]
        way = {b["id"]: i for i, b in enumerate(ways)}
        self.i, self.j = (np.array([zone[b[end]] for b in ways]) for end in ("from", "to"))
        self.a, self.b, self.height = (np.array([b[k] for b in ways]) for k in ("a_per_m3", "b_per_m4", "height_m"))
        fan = {f["id"]: k for k, f in enumerate(network["fans"])}
        self.fan = np.array([-1 if b["fan"] is None else fan[b["fan"]] for b in ways])
        self.free, self.off, self.linear = (np.array([b[k] or d for b in ways]) for k, d in (("free_flow_m3s", 1), ("shutoff_pa", 0), ("curve_linear", 0)))
        self.parts, self.passive, self.fans = network["parts"], network["passive"], network["fans"]
        index = {p["id"]: k for k, p in enumerate(self.parts)}
        self.home = [zone[p["home"]] for p in self.parts]
        self.board = [zone[p["board_zone"]] for p in self.parts]
        self.owner = [index[p["sink_of"]] if p["sink_of"] else k for k, p in enumerate(self.parts)]
        self.owners = sorted(set(self.owner))
        self.streams = [[(way[s["branch"]], s["wk"], s["at_m3s"], s["exponent"]) for s in p["streams"]] for p in self.parts]
        self.exchanges = [(way[x["branch"]], x["area_m2"], x["k"], x["buoyant"], x["length_m"], x["level"], x["from_is_below"]) for x in network["exchanges"]]
        self.zone_of = [(zone[p["zone"]], zone[p["in_air_of"]]) for p in self.passive]
        self.index, self.shares = index, np.array([f["share"] for f in self.fans])
        self.regulated = [k for k, f in enumerate(self.fans) if f["follows"] and f["share"] > 0]
        self.supply = next((k for k, p in enumerate(self.parts) if p["supply"]), None)

    def flows(self, p, t, speed):
        rho, mu = density(self.absolute, t), viscosity((t[self.i] + t[self.j]) / 2)
        mean, share = (rho[self.i] + rho[self.j]) / 2, np.where(self.fan >= 0, speed[self.fan], 0)
        k = mean / 1.2
        A = np.maximum(mu * self.a + self.linear * k * self.off * share / self.free, 1e-9)
        B = mean * self.b + np.where(self.fan >= 0, (1 - self.linear) * k * self.off / self.free**2, 0)
        x = p[self.i] - p[self.j] + (rho[self.j] - rho[self.i]) * GRAVITY * self.height + k * self.off * share**2
        return 2 * x / (A + np.sqrt(A**2 + 4 * B * np.abs(x))), rho

    def state(self, x):
        inner = self.n - 1
        p, t = np.concatenate(([0], x[:inner])), np.concatenate(([self.room], x[inner:2 * inner]))
        sink = dict(zip(self.owners, x[2 * inner:2 * inner + len(self.owners)]))
        speed = self.shares.copy()
        speed[self.regulated] = x[2 * inner + len(self.owners):2 * inner + len(self.owners) + len(self.regulated)]
        return p, t, sink, speed, x[-1]

    def books(self, x):
        """What is left over in each equation, and what comes of the state: temperatures of the parts, their powers."""
        p, t, sink, speed, loss = self.state(x)
        q, rho = self.flows(p, t, speed)
        up, down = np.where(q >= 0, self.i, self.j), np.where(q >= 0, self.j, self.i)
        real = up != down
        mass = rho[up] * np.abs(q)
        left = np.bincount(up[real], mass[real], self.n) - np.bincount(down[real], mass[real], self.n)
        warm = np.bincount(down[real], CP * (mass * (t[up] - t[down]))[real], self.n) + self.wall * (self.room - t) + self.heat
        air = 0.5 * (np.bincount(self.i, np.abs(q), self.n) + np.bincount(self.j, np.abs(q), self.n)) / self.cross
        air[0] = 0
        for w, area, k, c, length, level, below in self.exchanges:
            f, g = self.i[w], self.j[w]
            dT = t[f] - t[g]
            buoyant = 0 if level and (dT < 0 if below else dT > 0) else c * area * np.sqrt(GRAVITY * length * abs(dT) / 300)
            both = max(0, buoyant + 0.15 * max(air[f], air[g]) * area / np.sqrt(k) - 0.5 * abs(q[w]))
            wk = density(self.absolute, (t[f] + t[g]) / 2) * CP * both
            warm[f] += wk * (t[g] - t[f])
            warm[g] += wk * (t[f] - t[g])
        power, die, into = [], [], dict.fromkeys(self.owners, 0.0)
        for k, part in enumerate(self.parts):
            at, past = sink[self.owner[k]], part["board_share"]
            full = loss if part["supply"] else part["power_w"]
            held = np.inf if part["supply"] or part["die_kw"] <= 0 else max(0, (part["limit_c"] - at) / part["die_kw"] / (1 - past))
            power.append(min(full, held))
            die.append(at + power[-1] * (1 - past) * part["die_kw"])
            into[self.owner[k]] += power[-1] * (1 - past) + part["pump_w"]
            warm[self.board[k]] += past * power[-1]
        inlet = {}
        for k in self.owners:
            taken, weight, towards = 0.0, 0.0, 0.0
            for w, wk, at_flow, n in self.streams[k]:
                carried = mass[w] * CP
                forced = -carried * np.expm1(-wk * (abs(q[w]) / at_flow) ** n / carried) if carried > 1e-12 else 0.0
                watts = forced * (sink[k] - t[up[w]])
                warm[down[w]] += watts
                taken, weight, towards = taken + watts, weight + forced, towards + forced * t[up[w]]
            natural = self.parts[k]["natural_wk"] * (sink[k] - t[self.home[k]])
            warm[self.home[k]] += natural
            into[k] -= taken + natural
            inlet[k] = towards / weight if weight > 1e-12 else t[self.home[k]]
        processor = sum(w for w, part in zip(power, self.parts) if part["processor"])
        body = []
        for part, (home, about) in zip(self.passive, self.zone_of):
            watts = 0.1 * processor if part["power_w"] is None else part["power_w"]
            body.append(t[about] + watts * (1 / (part["surface_m2"] * (part["h0_wm2k"] + part["h1_wm2k"] * np.sqrt(air[home]))) + part["inside_kw"]))
            warm[home] += watts
        drawn = self.net["supply"]["other_w"] + sum(w for w, part in zip(power, self.parts) if not part["supply"])
        names = {part["id"]: c for part, c in zip(self.parts, die)} | {part["id"]: c for part, c in zip(self.passive, body)}
        wanted = [self.wants(self.fans[k], names, drawn, inlet) - speed[k] for k in self.regulated]
        lost = drawn * (1 / self.net["supply"]["efficiency"] - 1) - loss
        # hundredths of grams a second, watts, hundredths of a share: of one size
        return np.concatenate((left[1:] * 1e5, warm[1:], list(into.values()), np.array(wanted) * 100, [lost])), names, dict(zip(self.index, power)), t

    def wants(self, fan, celsius, drawn, inlet):
        if fan["by_load"]:
            duty = max(np.interp(drawn / self.net["supply"]["rated_w"], *BY_LOAD), np.interp(inlet[self.supply], *BY_INLET))
            return float(np.clip(duty, fan["least_share"], 1))
        duty = np.interp(celsius[fan["follows"]], *zip(*fan["curve"]))
        return 0.0 if duty <= 0 and fan["starts_c"] is None else float(np.clip(duty, fan["least_share"], 1))

    def solve(self):
        """From a box at rest; the answer of the root finder."""
        inner = self.n - 1
        start = np.concatenate((np.full(inner, 0.1), np.full(inner, self.room + 8), np.full(len(self.owners), self.room + 25), np.full(len(self.regulated), 0.5), [20.0]))
        found = optimize.root(lambda x: self.books(x)[0], start, method="hybr", tol=1e-10)
        if not found.success or np.abs(found.fun).max() > 1e-4:
            found = optimize.root(lambda x: self.books(x)[0], start, method="lm", tol=1e-12)
        return found
