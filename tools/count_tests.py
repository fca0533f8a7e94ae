#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""One closing count: adds up the totals that each test program printed in the runs that ./check made, one a locale."""
import pathlib
import re
import sys

passed = failed = skipped = 0
logs = "".join(log.read_text(errors="replace") for log in sorted(pathlib.Path(sys.argv[1]).glob("tests-*.log")))
for p, f, s in re.findall(r"^Totals: (\d+) passed, (\d+) failed, (\d+) skipped", logs, re.M):
    passed, failed, skipped = passed + int(p), failed + int(f), skipped + int(s)
# A program that crashed has no totals.
programs = len(re.findall(r"^Test Failed\.$", logs, re.M))
if programs and not failed:
    print(f"{programs} test programs ended without saying what failed: see the log above")
print(f"{passed} passed, {failed} failed, {skipped} skipped")
