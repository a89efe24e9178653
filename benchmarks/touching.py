"""Which tests run a line, and how long each takes: what ``mutants.py`` has to run for a change there."""

from __future__ import annotations

import os
import subprocess
import sys
from dataclasses import dataclass
from itertools import accumulate
from pathlib import Path
from xml.etree import ElementTree

from coverage import CoverageData

ROOT = Path(__file__).resolve().parents[1]
TESTED = ("tests/core", "tests/server", "tests/cli")
RC = "[run]\nsource = rheon.core, rheon.server, rheon.cli\nparallel = true\n[report]\nfail_under = 0\n"


@dataclass(frozen=True, slots=True)
class Touching:
    """What was seen in one run of all the tests. ``seconds`` by the name of a test, as pytest takes it."""

    data: CoverageData
    root: Path
    seconds: dict[str, float]

    def tests(self, path: Path, line: int, most_s: float) -> list[str]:
        """The tests that run a line of a module (``path`` relative to the project): those of its room first, the
        quickest of each first, as many as end within ``most_s`` (seconds).
        """
        lines = self.data.contexts_by_lineno(str(self.root / path))
        found = {context.partition("|")[0] for context in lines.get(line, []) if context.endswith("|run")}
        room = f"tests/core/{path.parts[3]}/" if "core" in path.parts else "tests/server/"
        ordered = sorted(found, key=lambda name: (not name.startswith(room), self.seconds.get(name, 1.0), name))
        ends = accumulate(self.seconds.get(name, 1.0) for name in ordered)
        return [name for at, (name, end) in enumerate(zip(ordered, ends, strict=True)) if not at or end <= most_s]


def touching(folder: Path) -> Touching:
    """What runs what: as kept in a folder, or found out now, which takes as long as the tests do."""
    kept = folder / "touched"
    if not kept.exists():
        _find_out(folder)
    data = CoverageData(str(kept))
    data.read()
    module = next(path for path in sorted(data.measured_files()) if path.endswith("src/rheon/core/__init__.py"))
    return Touching(data, Path(module).parents[3], _seconds(folder / "times.xml"))


def _find_out(folder: Path) -> None:
    """Run all tests that run in one process with their lines, and keep what was seen."""
    folder.mkdir(parents=True, exist_ok=True)
    (folder / "rc").write_text(RC)
    own = {**os.environ, "COVERAGE_FILE": str(folder / "touched")}
    cov = ["--cov", f"--cov-config={folder / 'rc'}", "--cov-context=test", "--cov-report="]
    argv = [sys.executable, "-m", "pytest", "--numprocesses", "2", "--dist", "worksteal"]
    subprocess.run([*argv, *cov, f"--junitxml={folder / 'times.xml'}", *TESTED], cwd=ROOT, env=own, check=True)


def _seconds(report: Path) -> dict[str, float]:
    """How long each test took, as pytest reported it (JUnit's XML)."""
    found = {}
    for case in ElementTree.parse(report).iter("testcase"):
        module = case.get("classname", "").replace(".", "/") + ".py"
        found[f"{module}::{case.get('name')}"] = float(case.get("time", 0))
    return found
