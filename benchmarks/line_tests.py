"""Which tests run a line, and how long each takes: what ``mutants.py`` has to run for a change there."""

from __future__ import annotations

import os
import subprocess
import sys
from collections.abc import Iterable
from dataclasses import dataclass
from itertools import accumulate
from pathlib import Path
from xml.etree import ElementTree

from coverage import CoverageData

ROOT = Path(__file__).resolve().parents[1]
TESTED = ("tests/core", "tests/server", "tests/cli")
RC = "[run]\nsource = rheon.core, rheon.server, rheon.cli\nparallel = true\n[report]\nfail_under = 0\n"


@dataclass(frozen=True, slots=True)
class LineTests:
    """What was seen in one run of all the tests. ``seconds`` by the name of a test, as pytest takes it."""

    data: CoverageData
    root: Path
    seconds: dict[str, float]

    def of(self, path: Path, lines: Iterable[int], most_s: float) -> list[str]:
        """The tests that run one of some lines of a module (``path`` relative to the project): those of its room first,
        the quickest of each first, as many as end within ``most_s`` (seconds). What only runs when the module is
        loaded, as its tables do, is for the tests that run anything of it.
        """
        seen = self.data.contexts_by_lineno(str(self.root / path))
        here = [context for line in lines for context in seen.get(line, [])]
        found = _tests(here) or (_tests(one for contexts in seen.values() for one in contexts) if here else set())
        part = path.parts[2]
        room = f"tests/core/{path.parts[3]}/" if part == "core" else f"tests/{part}/"
        ordered = sorted(found, key=lambda name: (not name.startswith(room), self.seconds.get(name, 1.0), name))
        ends = accumulate(self.seconds.get(name, 1.0) for name in ordered)
        return [name for at, (name, end) in enumerate(zip(ordered, ends, strict=True)) if not at or end <= most_s]


def line_tests(folder: Path) -> LineTests:
    """What runs what: as kept in a folder, or found out now, which takes as long as the tests do."""
    kept = folder / "lines"
    if not kept.exists():
        _find_out(folder, kept)
    data = CoverageData(str(kept))
    data.read()
    module = next(path for path in sorted(data.measured_files()) if path.endswith("src/rheon/core/__init__.py"))
    return LineTests(data, Path(module).parents[3], _seconds(folder / "times.xml"))


def _tests(contexts: Iterable[str]) -> set[str]:
    """The tests among contexts, which are empty for what was run outside of any."""
    return {name for name, _, phase in (context.partition("|") for context in contexts) if phase == "run"}


def _find_out(folder: Path, kept: Path) -> None:
    """Run all tests that run in one process with their lines, and keep what was seen where all of them pass."""
    folder.mkdir(parents=True, exist_ok=True)
    (folder / "rc").write_text(RC)
    seen = folder / "seen"
    cov = ["--cov", f"--cov-config={folder / 'rc'}", "--cov-context=test", "--cov-report="]
    argv = [sys.executable, "-m", "pytest", "--numprocesses", "2", "--dist", "worksteal", *cov]
    own = {**os.environ, "COVERAGE_FILE": str(seen)}
    subprocess.run([*argv, f"--junitxml={folder / 'times.xml'}", *TESTED], cwd=ROOT, env=own, check=True)
    seen.rename(kept)


def _seconds(report: Path) -> dict[str, float]:
    """How long each test took, as pytest reported it (JUnit's XML)."""
    found = {}
    for case in ElementTree.parse(report).iter("testcase"):
        module = case.get("classname", "").replace(".", "/") + ".py"
        found[f"{module}::{case.get('name')}"] = float(case.get("time", 0))
    return found
