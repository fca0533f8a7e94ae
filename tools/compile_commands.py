# SPDX-License-Identifier: GPL-3.0-or-later
"""Compile commands of a build tree that clang-tidy can read: precompiled headers are another compiler's, so their plain
text is included instead."""
import json
import pathlib
import re
import shutil

ROOT = pathlib.Path(__file__).resolve().parent.parent
GCC_ONLY = re.compile(r"-Winvalid-pch|-fpch-preprocess|-Werror|-Wno-tsan|\S*ccache |\S*cmake -E env \S+ ")


PCH = re.compile(r"-include (\S*cmake_pch\.hxx)")


def plain_copy(header, folder):
    """Away from the binary of the other compiler that stands beside it."""
    copy = pathlib.Path(folder) / (re.sub(r"\W", "_", header) + ".h")
    if not copy.exists():
        shutil.copy(header, copy)
    return f"-include {copy}"


def write(tree, folder, paths=()):
    """Writes them into @p folder; answers the files of src/ to look at: those at or below @p paths, or all. Ends with
    words where a path has none, as in a tree that takes several sources together."""
    kept = []
    for entry in json.loads((pathlib.Path(tree) / "compile_commands.json").read_text()):
        if entry["file"].startswith(str(ROOT / "src")) and entry["file"].endswith(".cpp"):
            entry["command"] = PCH.sub(lambda m: plain_copy(m[1], folder), GCC_ONLY.sub("", entry["command"]))
            kept.append(entry)
    (pathlib.Path(folder) / "compile_commands.json").write_text(json.dumps(kept))
    files = {pathlib.Path(e["file"]) for e in kept}
    found = set()
    for path in [pathlib.Path(p).resolve() for p in paths] or [ROOT / "src"]:
        here = {f for f in files if f == path or path in f.parents}
        if not here:
            raise SystemExit(f"{path}: no source of it is compiled by itself in {tree}: configure one with -DMD_UNITY=OFF")
        found |= here
    return sorted(map(str, found))
