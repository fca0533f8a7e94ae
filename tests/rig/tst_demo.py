#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""The demo can be made again by anyone: tools/make_demo.py gives the committed project, runs and truths once more.
Numbers may differ by a step of the sensor where another compiler rounds otherwise."""
import csv
import json
import pathlib
import subprocess
import sys
import tempfile

ROOT, BIN = pathlib.Path(sys.argv[1]), pathlib.Path(sys.argv[2])
committed = ROOT / "data/demo/dig-tent"
passed = failed = 0


def check(what, ok, detail=""):
    global passed, failed
    passed, failed = passed + bool(ok), failed + (not ok)
    if not ok:
        print("FAIL!  :", what, detail)


def rows(path):
    with open(path, newline="") as f:
        return list(csv.reader(f))


def near(a, b):
    if a == b:
        return True
    return a != "" and b != "" and abs(float(a) - float(b)) <= max(0.6, 0.002 * abs(float(b)))


with tempfile.TemporaryDirectory() as folder:
    again = pathlib.Path(folder) / "demo"
    subprocess.run([sys.executable, ROOT / "tools/make_demo.py", BIN, again], check=True, timeout=300)
    names = sorted(p.relative_to(committed).as_posix() for p in committed.rglob("*") if p.is_file())
    check("the same files", names == sorted(p.relative_to(again).as_posix() for p in again.rglob("*") if p.is_file()))
    check("the same project", (again / "project.json").read_text() == (committed / "project.json").read_text())
    for path in sorted(committed.glob("runs/*.csv")):
        old, new = rows(path), rows(again / "runs" / path.name)
        check(f"{path.name}: header and length", old[0] == new[0] and len(old) == len(new))
        odd = [(i, o, n) for i, (a, b) in enumerate(zip(old[1:], new[1:])) for o, n in zip(a, b) if not near(o, n)]
        check(f"{path.name}: readings", not odd, odd[:2])
    for path in sorted(committed.glob("truth/*.json")):
        old, new = json.loads(path.read_text())["settled"], json.loads((again / "truth" / path.name).read_text())["settled"]
        check(f"{path.name}", all(abs(old[k] - new[k]) < 0.01 for k in old))

project = json.loads((committed / "project.json").read_text())
check("at least six revisions", len(project["revisions"]) >= 6)
check("a dozen runs", len(project["runs"]) >= 12)
kinds = {c["do"] for r in project["revisions"] for c in r["changes"]}
check("real trade-offs", {"swap", "flip-fan", "set-screen", "set-opening", "lay", "case"} <= kinds, kinds)
print(f"Totals: {passed} passed, {failed} failed, 0 skipped")
sys.exit(failed > 0)
