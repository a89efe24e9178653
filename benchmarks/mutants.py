"""Which small faults the tests would not notice: ``make mutants`` (``MUTANTS=20`` for fewer, ``SEED=7`` for others,
``ROOMS=readers,page`` for some).

One place of the code is changed at a time, in a copy; the tests that run its line run until the first that fails. A
mutant that survives is an assertion that is missing, or code that does nothing. Each line of the report can be made
again. Which tests run which line is found out once and kept in ``.mutants``; throw that folder away to see it anew.
"""

from __future__ import annotations

import os
import random
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from line_tests import LineTests, line_tests
from mutating import ROOT, Mutant, sample

CORE = "src/rheon/core"
ROOMS = {
    "devices": (f"{CORE}/devices",),
    "levels": (f"{CORE}/formats", f"{CORE}/planning/picture/rates.py", f"{CORE}/planning/picture/geometry.py"),
    "planning": (f"{CORE}/planning",),
    "readers": (f"{CORE}/sources",),
    "encoding": (f"{CORE}/commands", f"{CORE}/encoding", f"{CORE}/engine"),
    "delivery": (f"{CORE}/delivery", f"{CORE}/handover", f"{CORE}/tagging"),
    "checking": (f"{CORE}/checking",),
    "analysis": (f"{CORE}/analysis",),
    "naming": (f"{CORE}/naming", f"{CORE}/chapters", f"{CORE}/subtitles", f"{CORE}/look_up"),
    "basics": (f"{CORE}/media", f"{CORE}/system", f"{CORE}/wording"),
    "server": ("src/rheon/server",),
    "shell": ("src/rheon/cli",),
    "page": ("web/src",),
}
PATIENCE_S = 300
MOST_S = 100
"""A line that everything runs is not tried with everything."""


def modules(place: str) -> list[Path]:
    """What can be changed: of the page, what computes; how it draws is for the tests in a browser."""
    path = ROOT / place
    if path.is_file():
        return [path]
    if place.startswith("web"):
        return sorted(one for one in path.rglob("*.ts") if ".test." not in one.name and not one.name.endswith(".d.ts"))
    return sorted(one for one in path.rglob("*.py") if "migrations" not in one.parts)


def page_killed(mutant: Mutant, folder: Path) -> bool | None:
    """Whether a test of the page fails."""
    argv = ["npx", "vitest", "related", "--run", "--passWithNoTests", str(mutant.path.relative_to("web"))]
    return _fails(argv, folder / "web", {})


def python_killed(mutant: Mutant, folder: Path, known: LineTests) -> bool | None:
    """Whether a test that runs the line fails; none does where none runs it."""
    tests = known.of(mutant.path, mutant.lines, MOST_S)
    argv = [sys.executable, "-m", "pytest", "-x", "-o", f"pythonpath={folder / 'src'} {ROOT}", *tests]
    return bool(tests) and _fails(argv, ROOT, {"MEDIA_AS_IT_IS": "1", "PYTHONPATH": str(folder / "src")})


def _fails(argv: list[str], cwd: Path, more: dict[str, str]) -> bool | None:
    """Whether what is run fails; ``None`` where it had not ended in time."""
    try:
        own = {**os.environ, **more}
        done = subprocess.run(argv, cwd=cwd, env=own, capture_output=True, timeout=PATIENCE_S, check=False)
    except subprocess.TimeoutExpired:
        return None
    return done.returncode != 0


def tried(mutant: Mutant, folder: Path, killed: Callable[[Mutant, Path], bool | None]) -> bool | None:
    """Whether a change is noticed; what was changed is put back."""
    target = folder / mutant.path
    kept = target.read_text(encoding="utf-8")
    target.write_text(mutant.text, encoding="utf-8")
    try:
        return killed(mutant, folder)
    finally:
        target.write_text(kept, encoding="utf-8")


def copy(folder: Path) -> None:
    """What is changed, and what the page's tests need beside it."""
    unwanted = shutil.ignore_patterns("__pycache__", "node_modules", "dist")
    shutil.copytree(ROOT / "src", folder / "src", ignore=unwanted)
    shutil.copytree(ROOT / "web", folder / "web", ignore=unwanted)
    (folder / "web" / "node_modules").symlink_to(ROOT / "web" / "node_modules")


def main() -> None:
    rng = random.Random(int(os.environ.get("SEED", "1")))
    rooms = os.environ.get("ROOMS", ",".join(ROOMS)).split(",")
    each = max(1, int(os.environ.get("MUTANTS", "130")) // len(rooms))
    found = [
        mutant
        for room in rooms
        for mutant in sample(room, [one for place in ROOMS[room] for one in modules(place)], each, rng)
    ]
    known = line_tests(ROOT / ".mutants") if rooms != ["page"] else None
    noticed: dict[str, list[bool | None]] = {room: [] for room in rooms}

    def killed(mutant: Mutant, folder: Path) -> bool | None:
        return python_killed(mutant, folder, known) if known and mutant.room != "page" else page_killed(mutant, folder)

    def run(folder: Path, own: list[Mutant]) -> None:
        copy(folder)
        for mutant in own:
            verdict = tried(mutant, folder, killed)
            noticed[mutant.room].append(verdict)
            place = f"{str(mutant.path).removeprefix('src/rheon/')}:{mutant.line}"
            said = "out of time" if verdict is None else "killed" if verdict else "SURVIVED"
            print(f"{said:<12}{mutant.room:<10}{place:<44} {mutant.what[:110]}", flush=True)

    with tempfile.TemporaryDirectory(prefix="rheon-mutants-") as name, ThreadPoolExecutor(2) as pool:
        for work in [pool.submit(run, Path(name) / str(at), found[at::2]) for at in range(2)]:
            work.result()
    for room in [*rooms, "all"]:
        verdicts = noticed[room] if room in noticed else [one for each in noticed.values() for one in each]
        late = verdicts.count(None)
        out = f", {late} out of time" if late else ""
        print(f"{room:<10} {verdicts.count(True)} of {len(verdicts)} noticed{out}")


if __name__ == "__main__":
    main()
