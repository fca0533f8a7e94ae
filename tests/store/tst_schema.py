#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""The published JSON Schemas against what the program writes and ships, and against what it must refuse."""
import copy
import json
import pathlib
import subprocess
import sys
import tempfile

import jsonschema

ROOT, BIN = pathlib.Path(sys.argv[1]), pathlib.Path(sys.argv[2])
project = jsonschema.Draft202012Validator(json.loads((ROOT / "docs/project.schema.json").read_text()))
shelf = jsonschema.Draft202012Validator(json.loads((ROOT / "docs/shelf.schema.json").read_text()))
passed = failed = 0


def check(what, ok, detail=""):
    global passed, failed
    passed, failed = passed + bool(ok), failed + (not ok)
    if not ok:
        print("FAIL!  :", what, detail)


def problems(validator, document):
    return [f"{'/'.join(map(str, e.absolute_path))}: {e.message[:160]}" for e in validator.iter_errors(document)]


demo = json.loads((ROOT / "data/demo/dig-tent/project.json").read_text())
hand = json.loads((ROOT / "examples/hand-written/project.json").read_text())
for name, document in (("demo", demo), ("hand-written", hand)):
    found = problems(project, document)
    check(name, not found, found[:3])
found = problems(shelf, json.loads((ROOT / "data/shelf/standard.json").read_text()))
check("standard shelf", not found, found[:3])

# Schemas and tables are what the field lists say.
done = subprocess.run([sys.executable, ROOT / "tools/write_format.py", BIN, "--check"], capture_output=True, text=True)
check("docs say what the field lists say", done.returncode == 0, done.stdout)
for each in (project, shelf):
    jsonschema.Draft202012Validator.check_schema(each.schema)

# A field that a published standard lays down names it, for whoever reads the schema.
said = project.schema["$defs"]["board"]["properties"]["form"].get("description", "")
check("the form of a board names its standard", "standard: Mini-ITX" in said, said)
check("a kind of memory has none", "standard" not in json.dumps(project.schema["$defs"]["memory"]))

# What the program writes follows the schema too.
with tempfile.TemporaryDirectory() as folder:
    for source in ("data/demo/dig-tent", "examples/hand-written"):
        out = pathlib.Path(folder) / source.replace("/", "-")
        subprocess.run([BIN / "mini-draft-cli", "export", ROOT / source, "-o", out], check=True, stdout=subprocess.DEVNULL)
        found = problems(project, json.loads((out / "project.json").read_text()))
        check(f"export of {source}", not found, found[:3])


def broken(change):
    document = copy.deepcopy(hand)
    change(document)
    return document


# The schema and the program refuse the same things.
for what, change in {
    "wrong type": lambda d: d["brief"].update(room_c="warm"),
    "unknown kind": lambda d: d["shelf"][0].update(kind="crate"),
    "unknown change": lambda d: d["revisions"][1]["changes"].append({"do": "paint"}),
    "missing size": lambda d: d["shelf"][0].pop("size_mm"),
    "two sizes": lambda d: d["shelf"][0].update(size_mm=[1, 2]),
    "duty above one": lambda d: d["revisions"][1]["changes"][1].update(duty=1.5),
    "newer version": lambda d: d.update(version=2),
    "run outside the folder": lambda d: d["runs"][0].update(file="../x.csv"),
    "unknown source": lambda d: d["shelf"][0]["size_mm"][0].update(source="guess"),
    "generation nine": lambda d: d["shelf"][-1].update(link={"generation": 9, "lanes": 4}),
    "seventeen lanes": lambda d: d["shelf"][-1].update(link={"generation": 3, "lanes": 17}),
    "a port without a place": lambda d: d["shelf"][-1].update(ports=[{"id": "p"}]),
    "unknown use of a keep-out": lambda d: d["shelf"][-1].update(bodies=[{"name": "b", "use": "garden", "at_mm": [0, 0, 0], "size_mm": [1, 1, 1]}]),
    "a fan of 99999 rpm": lambda d: d["shelf"].append({"id": "f", "kind": "fan", "name": "f", "size_mm": [92, 92, 15], "fan": {"rpm": 99999}}),
    "a board without a socket": lambda d: d["shelf"].append({"id": "b", "kind": "board", "name": "b", "size_mm": [170, 170, 2]}),
    "a wall of -1": lambda d: d["shelf"][0]["case"].update(wall_mm=-1),
    "an offset of 9 m": lambda d: d["shelf"][0]["mounts"][0].update(x={"low": 9000}),
    "a thousand screws too many": lambda d: d["shelf"][0].update(fasteners=[{"kind": "M3", "count": 2000}]),
    "two tolerances": lambda d: d["shelf"][0]["size_mm"].__setitem__(0, {"mm": 100, "tol_mm": 500}),
    "feet of 300": lambda d: d["revisions"][1]["changes"].append({"do": "feet", "feet_mm": 300}),
    "cable of nothing": lambda d: d["shelf"].append({"id": "c", "kind": "cable", "name": "c", "size_mm": [0, 0, 0], "cable": {"length_mm": 0}}),
    "a carry box of two sizes": lambda d: d["brief"].update(carry_box_mm=[300, 200]),
    "no chamber": lambda d: d["shelf"][0]["case"].update(chambers=[]),
}.items():
    document = broken(change)
    check(f"schema refuses: {what}", problems(project, document))
    with tempfile.TemporaryDirectory() as folder:
        path = pathlib.Path(folder)
        (path / "runs").mkdir()
        (path / "runs/first.csv").write_bytes((ROOT / "examples/hand-written/runs/first.csv").read_bytes())
        (path / "project.json").write_text(json.dumps(document, indent=1))
        done = subprocess.run([BIN / "mini-draft-cli", "fit", path], capture_output=True, text=True)
        check(f"program refuses: {what}", done.returncode == 2 and "project.json" in done.stderr, f"exit {done.returncode}: {done.stderr[:200]}")

print(f"Totals: {passed} passed, {failed} failed, 0 skipped")
sys.exit(failed > 0)
