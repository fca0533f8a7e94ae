#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""One closing count: adds up the totals that each Qt Test program printed in the last CTest run."""
import pathlib
import re
import sys

log = pathlib.Path(sys.argv[1]) / "Testing" / "Temporary" / "LastTest.log"
passed = failed = skipped = 0
for p, f, s in re.findall(r"^Totals: (\d+) passed, (\d+) failed, (\d+) skipped", log.read_text(errors="replace"), re.M):
    passed, failed, skipped = passed + int(p), failed + int(f), skipped + int(s)
print(f"{passed} passed, {failed} failed, {skipped} skipped")
