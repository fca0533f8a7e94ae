#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""How long the flows of a thousand random networks and the settled state of the demo take, ours and scipy's root finder on the same
networks, in one run."""
import json
import pathlib
import subprocess
import sys
import time

import numpy as np
from scipy import optimize

sys.path.append(str(pathlib.Path(__file__).resolve().parent.parent / "tests" / "outside"))
from branch_law import Flows  # noqa: E402
from steady_law import Steady  # noqa: E402

BIN = pathlib.Path(sys.argv[1])
networks = json.loads(subprocess.run([BIN / "outside_values"], capture_output=True, text=True, check=True).stdout)["random"]
ours = float(subprocess.run([BIN / "outside_values", "--time"], capture_output=True, text=True, check=True).stdout)


problems = [Flows(network) for network in networks]
begin = time.perf_counter()
for law in problems:
    optimize.root(law.leaving, np.full(len(law.celsius) - 1, 0.1), method="hybr", tol=1e-13)
scipy = (time.perf_counter() - begin) / len(problems) * 1e6
print(f"flows of a network of up to six zones: ours {ours:.2f} us, scipy {scipy:.0f} us, {scipy / ours:.0f} times as long")

DEMO = pathlib.Path(__file__).resolve().parent.parent / "data/demo/dig-tent"
network = json.loads(subprocess.run([BIN / "mini-draft-cli", "air", DEMO, "-r", "R10", "--network", "--json"], capture_output=True, text=True).stdout)["network"]
told = json.loads(subprocess.run([BIN / "bench_core", "--benchmark_filter=airSolveAlone", "--benchmark_repetitions=5", "--benchmark_format=json"], capture_output=True, text=True, check=True).stdout)
ours = min(run["real_time"] for run in told["benchmarks"] if run["run_type"] == "iteration")
law, took = Steady(network), []
for _ in range(5):
    begin = time.perf_counter()
    found = law.solve()
    took.append((time.perf_counter() - begin) * 1e6)
left = np.abs(law.books(found.x)[0]).max()
print(f"demo settled (flow, heat, control): ours {ours:.0f} us, scipy {min(took):.0f} us, {min(took) / ours:.0f} times as long; scipy's largest remainder {left:.1e}")
