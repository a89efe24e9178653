"""Names that the trade has better ones for, and that have gone: ``make check`` finds them where they come back.

What reads documents of older versions says them still: migrations, and the tables called ``CALLED_NOW``.
"""

from __future__ import annotations

import re
import sys
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
PLACES = ("src", "tests", "web/src", "scripts", "benchmarks", "Makefile", "pyproject.toml")
KINDS = {".py", ".ts", ".tsx", ".json", ".toml", ".html", ".js", ""}
CORE = r"src/rheon/core/|tests/core/"
SOURCES = r"src/rheon/core/(sources|media)/|tests/core/sources/"

OLD: tuple[tuple[str, str, str], ...] = (
    (r"Words(Form|Wish|Purpose|Found)|words_(form|subtitle|lines|file)|WORDS_WISHES", "subtitles", ""),
    (r"(wish|wishes|request|survey|row|liked)\.words\b", "subtitles", ""),
    (r"\bfind_home\b|file\.home\b", "container_choice", ""),
    (r"\b[Ss]erving\b(?!,? the)|\bserve\(request", "sharing", r"src/rheon/core/planning/|server/bench/"),
    (r"class Moves?\b|\bmoves\(", "plan_diff, Timing", r"src/rheon/core/(planning|commands)/|server/bench/"),
    (r"\bcarr(y|ied)_(over|tracks)\b|carryPins|\bCarried\b|useCarry", "transfer", ""),
    (r"[Cc]adence", "frame_rate, scan_type", r"src/rheon/core/|src/rheon/server/|web/src/"),
    (r"\befforts?\b|clip_effort", "preset", CORE),
    (r"CLOCK_(HZ|BITS)|\b(start|end)_clock\b|\.clock\b", "pts", SOURCES),
    (r"\b\w+_stamp\b|(?<!time )\bstamp\b(?!s)", "pts", r"src/rheon/core/sources/"),
    (r"\b(MOST_|NO_)UNITS?\b|\bnext_unit\b|\bunit_(end|map|commands)\b|\bunits_of\b", "vobu", SOURCES),
    (r"\b(video|audio|subtitle|words)_pad\b", "stream_specifier", ""),
    (r"\bAsking\b(?! (a|the)\b)|\b(open|close|ask)_door\b|\bknock\b|[dD]oor_?[pP]ort|DOOR_(HOST|PORT)", "pairing", ""),
    (r"devices[./]asking|\bstored_setting\b|class Setting\(", "capability_probe, CellOverride", ""),
    (r"_depth\.py", "a test is named after what it tests", r"^tests/"),
)
SAYS_THEM = re.compile(
    r"/migrations/|scripts/old_names\.py$|src/rheon/settings\.py$|planning/decisions/__init__\.py$"
    r"|tests/cli/test_(settings|commands)\.py$|tests/core/planning/test_pins\.py$|schema\.d\.ts$"
)


def files() -> Iterator[Path]:
    for place in PLACES:
        path = ROOT / place
        for found in [path] if path.is_file() else sorted(path.rglob("*")):
            if found.is_file() and found.suffix in KINDS and not SAYS_THEM.search(found.as_posix()):
                yield found


def old_names() -> Iterator[str]:
    """A line for each old name: where it stands, and what it is called."""
    rules = [(re.compile(old), now, re.compile(where)) for old, now, where in OLD]
    for path in files():
        name = path.relative_to(ROOT).as_posix()
        ours = [(old, now) for old, now, where in rules if where.search(name)]
        for number, line in enumerate([name, *path.read_text(encoding="utf-8", errors="replace").splitlines()]):
            yield from (f"{name}:{number}: {hit[0]} is called {now}" for old, now in ours if (hit := old.search(line)))


if __name__ == "__main__":
    found = list(old_names())
    print("\n".join(found) or "0 old names")
    sys.exit(bool(found))
