#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""How long the flows of a thousand random networks take, ours and scipy's root finder on the same networks, in one run."""
import json
import pathlib
import subprocess
import sys
import time

import numpy as np
from scipy import optimize

BIN = pathlib.Path(sys.argv[1])
networks = json.loads(subprocess.run([BIN / "outside_values"], capture_output=True, text=True, check=True).stdout)["random"]
ours = float(subprocess.run([BIN / "outside_values", "--time"], capture_output=True, text=True, check=True).stdout)


def leaving_of(network):
    """Mass that leaves each inner zone, g/s, as a function of their pressures; the branch law with arrays."""
    celsius = np.array(network["temperature_c"])
    density = network["absolute_pa"] / (287.05 * (celsius + 273.15))
    viscosity = 1.716e-5 * ((celsius + 273.15) / 273.15) ** 1.5 * (273.15 + 110.4) / (celsius + 273.15 + 110.4)
    rows = np.array(network["branches"], float)
    i, j = rows[:, 0].astype(int), rows[:, 1].astype(int)
    r, m = (density[i] + density[j]) / 2, (viscosity[i] + viscosity[j]) / 2
    has, share = rows[:, 6] >= 0, np.maximum(rows[:, 6], 0)
    free, off, k = np.where(has, rows[:, 7], 1), np.where(has, rows[:, 8], 0), r / 1.2
    A, B = m * rows[:, 2] + 0.6 * k * off * share / free, r * rows[:, 3] + 0.4 * k * off / free**2
    X = (density[j] - density[i]) * 9.80665 * rows[:, 4] + k * off * share**2

    def leaving(inner):
        p = np.concatenate(([0.0], inner))
        x = p[i] - p[j] + X
        q = 2 * x / (A + np.sqrt(A * A + 4 * B * np.abs(x)))
        mass = q * np.where(q >= 0, density[i], density[j])
        return (np.bincount(i, mass, len(celsius)) - np.bincount(j, mass, len(celsius)))[1:] * 1e3

    return leaving, len(celsius) - 1


problems = [leaving_of(network) for network in networks]
begin = time.perf_counter()
for leaving, zones in problems:
    optimize.root(leaving, np.full(zones, 0.1), method="hybr", tol=1e-13)
scipy = (time.perf_counter() - begin) / len(problems) * 1e6
print(f"flows of a network of up to six zones: ours {ours:.2f} us, scipy {scipy:.0f} us, {scipy / ours:.0f} times as long")
