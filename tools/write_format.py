#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""Writes what the field lists say into docs: both JSON Schemas and the tables of format.md.

usage: tools/write_format.py BIN_DIR [--check]    --check: writes nothing, exits 1 where a file would change
"""
import pathlib
import subprocess
import sys

ROOT, BIN = pathlib.Path(__file__).resolve().parents[1], pathlib.Path(sys.argv[1]).resolve()
BEGIN, END = "<!-- every field: begin -->\n", "<!-- every field: end -->"


def told(what):
    return subprocess.run([BIN / "mini-draft-cli", "schema", what], check=True, capture_output=True, text=True).stdout


def wanted():
    yield ROOT / "docs/project.schema.json", told("project")
    yield ROOT / "docs/shelf.schema.json", told("shelf")
    path = ROOT / "docs/format.md"
    before, rest = path.read_text().split(BEGIN)
    yield path, before + BEGIN + told("tables") + END + rest.split(END)[1]


stale = [path for path, text in wanted() if path.read_text() != text]
if "--check" in sys.argv:
    for path in stale:
        print(f"{path.relative_to(ROOT)} does not say what the field lists say: run tools/write_format.py BIN_DIR")
    sys.exit(bool(stale))
for path, text in wanted():
    path.write_text(text)
