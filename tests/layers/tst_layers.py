#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""Dependencies only go down: reads every include of src/ and checks it against the layers; asks ldd that the
command line links no Qt Gui; checks that hex colours stand in one file and that each file carries its licence."""
import pathlib
import re
import subprocess
import sys

ROOT, BIN = pathlib.Path(sys.argv[1]), pathlib.Path(sys.argv[2])
# What each layer may include, by the folder its headers stand in.
MAY = {
    "core/base": {"core/base"}, "core/model": {"core/base", "core/model"}, "core/air": {"core/base", "core/model", "core/air"},
    "core/arrange": {"core/base", "core/model", "core/arrange"}, "core/fit": {"core/base", "core/model", "core/fit"}, "core/acoustics": {"core/base", "core/model", "core/air", "core/acoustics"},
    "core/rules": {"core/base", "core/model", "core/fit", "core/air", "core/rules"}, "core/make": {"core/base", "core/model", "core/make"},
    "core/bench": {"core/base", "core/model", "core/bench"},
    "store": {"core", "store"}, "results": {"core", "results"}, "devices": {"core", "store", "devices"}, "rig": {"core", "store", "devices", "rig"}, "report": {"core", "report"},
    "cli": {"core", "store", "devices", "report", "results", "cli"}, "app/model": {"core", "store", "results", "app/model"}, "app/paint": {"core", "results", "app/model", "app/paint", "app/stations"},
    "app/ui": {"core", "store", "devices", "report", "results", "app/model", "app/paint", "app/ui", "app/stations"},
}
FREE = {"core/stages", "core/verdict", "core/advise", "core/explain"}  # at the top of core: they may use all of core
passed = failed = 0


def check(ok, what):
    global passed, failed
    if ok:
        passed += 1
    else:
        failed += 1
        print("FAIL!  :", what)


# In the folder of a station painters and widgets stand side by side; these are the widgets.
WIDGETS = re.compile(r"app/stations/(registry|station_page|\w+/\w+_(page|dialog|trace|grid|sheet|editor|editor_actions|editor_shown))\.(h|cpp)$")


def is_widget(path):
    return bool(WIDGETS.match(path)) and not re.search(r"(live_trace|fit_sheet)\.(h|cpp)$", path)


def layer_of(path):
    if path.startswith("app/stations/"):
        return "app/ui" if is_widget(path) else "app/paint"
    best = ""
    for name in list(MAY) + list(FREE):
        if path.startswith(name + "/") and len(name) > len(best):
            best = name
    return best


sources = sorted(p for p in (ROOT / "src").rglob("*") if p.suffix in (".h", ".cpp"))
check(len(sources) > 100, "the sources were found")
for file in sources:
    rel = file.relative_to(ROOT / "src").as_posix()
    text = file.read_text()
    check(text.startswith("// SPDX-License-Identifier: GPL-3.0-or-later"), f"{rel}: no licence line")
    layer = layer_of(rel)
    for include in re.findall(r'#include "([^"]+)"', text):
        if rel == "app/main.cpp" or include.endswith(".moc"):
            continue
        if include == f"moc_{file.stem}.cpp":  # what moc made of its own header
            continue
        allowed = {"core"} if layer in FREE else MAY.get(layer, set())
        check(any(include.startswith(a + "/") for a in allowed), f"{rel} includes {include}")
        if layer == "app/paint":
            check(not is_widget(include), f"{rel}, a painter, includes the widget {include}")
    if rel.startswith("core/"):
        check(not re.search(r"#include <Q|std::cout|std::cerr|fopen|ofstream|ifstream|chrono::system_clock", text), f"{rel}: Qt, files or a clock in core")
    if layer == "app/paint":
        check(not re.search(r"#include <Q(Widget|PushButton|Dialog|ToolTip)>", text), f"{rel}: widgets in a painter")
    if rel != "app/paint/theme.cpp":
        check(not re.search(r'"#[0-9A-Fa-f]{6}"', text), f"{rel}: a colour value outside the theme")

# Files of one folder may be compiled together (./check does): a class of a file alone is named once in its layer.
of_its_own = {}
for file in sources:
    rel = file.relative_to(ROOT / "src").as_posix()
    for anonymous in re.findall(r"^namespace \{\n(.*?)^\} // namespace$", file.read_text(), re.S | re.M):
        for name in re.findall(r"^(?:class|struct|enum class) (\w+)[^;\n]*\{", anonymous, re.M):
            other = of_its_own.setdefault((layer_of(rel), name), rel)
            check(other == rel, f"{rel} and {other} both have a {name} of their own: in one layer it is one name")
check(len(of_its_own) > 30, "classes of single files were found")

# What is meant is a typed value: its kinds have their words in one file, and no other builds or cuts such a text.
KINDS = re.findall(r'kindOf<\w+> = "(\w+)"', (ROOT / "src/core/model/thing.cpp").read_text())
check(len(KINDS) >= 20, "the kinds of things were found")
IDENTITY = re.compile(r'"(%s|finding|flip|speed|cut|scroll|list|head)(:|:%%\d[^" ]*)"' % "|".join(KINDS))
for file in sources:
    rel = file.relative_to(ROOT / "src").as_posix()
    code = re.sub(r"//.*", "", file.read_text())
    if rel != "core/model/thing.cpp":
        check(not IDENTITY.search(code), f"{rel}: a string says which thing is meant: {IDENTITY.search(code)}")

# Each kind of thing is pointed at somewhere: one that nothing makes is a promise.
for ref in re.findall(r"^struct (\w+Ref) \{", (ROOT / "src/core/model/thing.h").read_text(), re.M):
    used = [f for f in sources if f.stem not in ("thing", "things") and re.search(r"\b%s\b" % ref, f.read_text())]
    check(used, f"nothing is a {ref}")

# Stations are named, so that one can be put between others.
for file in sources:
    numbered = re.search(r"\b(setStation|page)\(\d\)|m_pages\[\d\]", file.read_text())
    check(not numbered, f"{file.relative_to(ROOT)}: a station by its number: {numbered}")

# Who paints a canvas says so: no stage starts meanwhile.
painters = 0
for file in sources:
    for body in re.findall(r"^ *void (?:\w+::paintEvent\(|paint\(QPainter\* ?\w*, const QStyleOption)[^{;]*\{(.*?)^ *\}$", file.read_text(), re.S | re.M):
        if re.search(r"\bCanvas\b", body):
            painters += 1
            check(re.search(r"\b(PaintingNow|OwnCanvas)\b", body), f"{file.relative_to(ROOT)}: a paint that lets stages start")
check(painters >= 4, f"paints were found: {painters}")

linked = subprocess.run(["ldd", BIN / "mini-draft-cli"], capture_output=True, text=True, check=True).stdout
check("Qt6Core" in linked, "the command line links Qt Core")
for library in ("Qt6Gui", "Qt6Widgets"):
    check(library not in linked, f"the command line links {library}")
print(f"Totals: {passed} passed, {failed} failed, 0 skipped")
sys.exit(failed > 0)
