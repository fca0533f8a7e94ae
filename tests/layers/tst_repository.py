#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""What stands around the code: links of the pages, options in the man pages, desktop files, pictures, packages."""
import pathlib
import re
import subprocess
import sys
import xml.etree.ElementTree as xml

ROOT, BIN = pathlib.Path(sys.argv[1]), pathlib.Path(sys.argv[2])
passed = failed = 0


def check(what, ok, detail=""):
    global passed, failed
    passed, failed = passed + bool(ok), failed + (not ok)
    if not ok:
        print("FAIL!  :", what, detail)


pages = [ROOT / "README.md", ROOT / "CONTRIBUTING.md", *sorted((ROOT / "docs").rglob("*.md"))]
check("pages", len(pages) >= 10)
for page in pages:
    for link in re.findall(r"\]\(([^)#]+)", page.read_text()):
        check(f"{page.name}: {link}", (page.parent / link).exists())

# Every option of the programs is in its man page, and none more.
for program, commands in (("mini-draft-cli", ["fit", "air", "bench", "verdict", "report", "import", "export", "sections", "capture", "start"]), ("mini-draft-rig", [""])):
    man = (ROOT / f"packaging/man/{program}.1").read_text().replace("\\-", "-")
    for command in commands:
        help_text = subprocess.run([BIN / program, *([command] if command else []), "--help"], capture_output=True, text=True).stdout
        for option in set(re.findall(r"--[a-z][a-z-]+", help_text)) - {"--help", "--json", "--help-all", "--output", "--revision"}:
            check(f"{program} {command} {option} in its man page", option in man)
    for option in set(re.findall(r"--[a-z][a-z-]+", man)):
        shown = "".join(subprocess.run([BIN / program, *([c] if c else []), "--help"], capture_output=True, text=True).stdout for c in commands)
        check(f"{program}: man page names {option}", option in shown)

check("desktop entry", subprocess.run(["desktop-file-validate", ROOT / "packaging/mini-draft.desktop"]).returncode == 0)
check("AppStream", subprocess.run(["appstreamcli", "validate", "--no-net", ROOT / "packaging/io.minidraft.MiniDraft.metainfo.xml"], stdout=subprocess.DEVNULL).returncode == 0)
for file in ("packaging/mini-draft.xml", "data/icons/mini-draft.svg"):
    try:
        xml.parse(ROOT / file)
        check(file, True)
    except xml.ParseError as e:
        check(file, False, e)
shots = sorted((ROOT / "docs/screenshots").glob("*.png"))
check("one picture of each station", {"brief", "fit", "air", "make", "bench", "verdict"} <= {p.stem for p in shots})
check("fewer than 20 pictures", len(shots) < 20)
packages = [p for p in (ROOT / "packaging/debian-packages.txt").read_text().split("\n") if p and not p.startswith("#")]
check("packages are listed once", len(packages) == len(set(packages)))
for package in packages:
    status = subprocess.run(["dpkg-query", "-W", "-f=${Status}", package], capture_output=True, text=True).stdout
    check(f"{package} is what is installed", status == "install ok installed", status)
print(f"Totals: {passed} passed, {failed} failed, 0 skipped")
sys.exit(failed > 0)
