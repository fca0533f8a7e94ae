#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""Seeds for the fuzzers, made from the examples, the demo and the test data: small pieces, since small inputs are fast."""
import json
import pathlib
import sqlite3
import subprocess
import sys
import tempfile

ROOT = pathlib.Path(__file__).resolve().parent.parent
OUT = pathlib.Path(sys.argv[1])
HAND = json.loads((ROOT / "examples/hand-written/project.json").read_text())


def put(target, name, data):
    folder = OUT / target
    folder.mkdir(parents=True, exist_ok=True)
    (folder / name).write_bytes(data if isinstance(data, bytes) else data.encode())


def compact(value):
    return json.dumps(value, ensure_ascii=False, separators=(",", ":"))


put("project_json", "hand", compact(HAND))
small = {"format": "mini-draft-project", "version": 1, "name": "x"}
for key in ("brief", "loads", "shelf", "printer"):
    if key in HAND:
        put("project_json", key, compact({**small, key: HAND[key], **({"loads": HAND["loads"]} if key == "brief" and "loads" in HAND else {})}))
demo = json.loads((ROOT / "data/demo/dig-tent/project.json").read_text())
for i, part in enumerate(demo["shelf"]):
    put("project_json", f"part{i}", compact({**small, "shelf": [part]}))
for i, part in enumerate(json.loads((ROOT / "data/shelf/standard.json").read_text())["parts"]):
    put("shelf_json", f"part{i}", compact({"format": "mini-draft-shelf", "version": 1, "parts": [part]}))
for log in sorted((ROOT / "tests/data").glob("*.csv")) + [ROOT / "examples/hand-written/runs/first.csv"]:
    put("csv", log.stem, "".join(log.read_text().splitlines(True)[:8]))
put("csv", "quotes", 'time_s,"a, ""b""\n c","\'=x"\n0,1,\n"1",-2,3\n')
put("csv", "semicolon", "Zeit;time;CPU Temp (°F)\r\n1;00:00:01,5;104,5\r\n2;00:00:02;105\r\n")
put("csv", "utf16", "time,cpu_c\n2026-05-04T18:30:00+02:00,40\n2026-05-04T18:30:01Z,-\n".encode("utf-16"))
put("csv", "latin1", "time_s,Gehäuse °C\n0,40\n".encode("latin-1"))
put("protocol", "rig", "M mini-draft 1 rig\nC cpu_c temperature °C tray/cpu\nC fan rpm - -\nN a note\nD 0 40.5 -\nD 1e0 nan 900\nE done\n")
with tempfile.TemporaryDirectory() as folder:
    # Small pages make a small file; the program reads any page size.
    tiny = {**small, "runs": []}
    for name, project in (("tiny", tiny), ("one", {**small, "shelf": HAND["shelf"][:1], "revisions": [{"id": "R1", "changes": [{"do": "case", "part": HAND["shelf"][0]["id"]}]}],
                                                   "runs": [{"id": "a", "revision": "R1", "file": "a.csv"}]})):
        source = pathlib.Path(folder) / name
        source.mkdir()
        (source / "project.json").write_text(json.dumps(project))
        (source / "a.csv").write_text("time_s,cpu_c\n0,40\n1,41\n2,42\n")
        cli = next(p for p in (ROOT / "build/release/bin/mini-draft-cli", ROOT / "build/dev/bin/mini-draft-cli") if p.exists())
        subprocess.run([cli, "export", source, "-o", source / "x.minidraft"], check=True, stdout=subprocess.DEVNULL)
        with sqlite3.connect(source / "x.minidraft") as db:
            db.execute("PRAGMA page_size = 512")
            db.execute(f"VACUUM INTO '{source / 'small.sqlite'}'")
        put("sqlite", name, (source / "small.sqlite").read_bytes())
