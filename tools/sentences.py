#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""Lists what the core says, for translators.

    tools/sentences.py                   every sentence and word, one a line, with where it stands
    tools/sentences.py --noop FILE       the same as QT_TRANSLATE_NOOP("core", ...) for lupdate
    tools/sentences.py --update LANGUAGE translations/mini-draft_LANGUAGE.ts, made or brought up to date with lupdate

The core has no Qt: its sentences, and those that the window and the report build of them, are literals in say(),
sayCounted(), because(), term() and word(), and the words of its tables of choices. The window looks them up in the context "core" (src/app/paint/reader.cpp)."""
import json
import pathlib
import re
import subprocess
import sys
import tempfile

ROOT = pathlib.Path(__file__).resolve().parent.parent
LITERALS = r'(?:"(?:[^"\\]|\\.)*"\s*)+'
CALLS = re.compile(r'\b(?:say|because|term|word)\(\s*(' + LITERALS + ')')
COUNTED = re.compile(r'\bsayCounted\(')
CHOICE = re.compile(r'\{\s*\w+::\w+,\s*("(?:[^"\\]|\\.)*")\s*[,}]')


def joined(literals: str) -> str:
    """Adjacent literals as the one text they make."""
    return "".join(json.loads(part) for part in re.findall(r'"(?:[^"\\]|\\.)*"', literals))


def counted(text: str, at: int):
    """The two texts of a sayCounted(condition, one, many, ...) that begins at @p at: past its condition."""
    depth, i = 0, at
    while text[i] != "," or depth > 0:
        depth += text[i] in "([{"
        depth -= text[i] in ")]}"
        i += 1
    return re.match(r',\s*(' + LITERALS + r'),\s*(' + LITERALS + ')', text[i:])


def sentences():
    for path in sorted(p for room in ("core", "report", "app") for p in (ROOT / "src" / room).rglob("*.[ch]*")):
        text = path.read_text(encoding="utf-8")
        at = lambda position: f"{path.relative_to(ROOT)}:{text.count(chr(10), 0, position) + 1}"
        for match in CALLS.finditer(text):
            yield joined(match.group(1)), at(match.start())
        for match in COUNTED.finditer(text):
            pair = counted(text, match.end())
            for group in (1, 2) if pair else ():
                yield joined(pair.group(group)), at(match.start())
        for match in CHOICE.finditer(text) if path.is_relative_to(ROOT / "src/core") else ():
            yield joined(match.group(1)), at(match.start())


def write_noop(path: pathlib.Path) -> int:
    said = {}
    for text, where in sentences():
        said.setdefault(text, where)
    lines = [f'/* {where} */ QT_TRANSLATE_NOOP("core", {json.dumps(text, ensure_ascii=False)})'
             for text, where in said.items()]
    path.write_text("\n".join(lines) + "\n", encoding="utf-8")
    return len(said)


def update(language: str) -> int:
    target = ROOT / "translations" / f"mini-draft_{language}.ts"
    target.parent.mkdir(exist_ok=True)
    with tempfile.TemporaryDirectory() as folder:
        noop = pathlib.Path(folder) / "core.cpp"
        write_noop(noop)
        return subprocess.run(["/usr/lib/qt6/bin/lupdate", "-silent", "-locations", "none", "-I", str(ROOT / "src"),
                               str(ROOT / "src/app"), str(noop), "-ts",
                               str(target), "-target-language", language]).returncode


if __name__ == "__main__":
    if sys.argv[1:2] == ["--noop"]:
        print(write_noop(pathlib.Path(sys.argv[2])), "sentences")
    elif sys.argv[1:2] == ["--update"]:
        sys.exit(update(sys.argv[2]))
    else:
        for text, where in sentences():
            print(f"{where}: {text}")
