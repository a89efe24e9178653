"""Which small faults the tests would not notice: ``make mutants`` (``MUTANTS=20`` for fewer, ``SEED=7`` for others).

One place of the code is changed at a time, in a copy; the tests of its room run until the first that fails. A mutant
that survives is an assertion that is missing, or code that does nothing. Each line of the report can be made again.
"""

from __future__ import annotations

import ast
import os
import random
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
CORE = "src/rheon/core"
ROOMS: dict[str, tuple[tuple[str, ...], tuple[str, ...]]] = {
    "rules": (("devices/rules.py", "devices/peaks.py", "devices/common.py", "devices/certainty.py"), ("devices",)),
    "levels": (("formats", "planning/picture/rates.py", "planning/picture/geometry.py"), ("formats", "planning")),
    "planning": (("planning",), ("planning",)),
    "readers": (("sources",), ("sources",)),
    "commands": (("commands",), ("commands", "encoding", "delivery")),
    "checking": (("checking",), ("checking", "delivery")),
    "analysis": (("analysis",), ("analysis",)),
}
PATIENCE_S = 420
SWAPS: dict[type[ast.AST], type[ast.AST]] = {
    ast.Lt: ast.LtE, ast.LtE: ast.Lt, ast.Gt: ast.GtE, ast.GtE: ast.Gt, ast.Eq: ast.NotEq, ast.NotEq: ast.Eq,
    ast.Is: ast.IsNot, ast.IsNot: ast.Is, ast.In: ast.NotIn, ast.NotIn: ast.In, ast.And: ast.Or, ast.Or: ast.And,
    ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.FloorDiv, ast.FloorDiv: ast.Mult, ast.Div: ast.Mult,
}  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class Mutant:
    """A module with one place changed."""

    room: str
    path: Path
    line: int
    what: str
    text: str


def places(tree: ast.Module) -> Iterator[tuple[ast.AST, str]]:
    """Nodes that can be changed, each with the field that is."""
    for node in ast.walk(tree):
        if isinstance(node, ast.Compare) and len(node.ops) == 1 and type(node.ops[0]) in SWAPS:
            yield node, "ops"
        elif isinstance(node, ast.BoolOp | ast.BinOp) and type(node.op) in SWAPS:
            yield node, "op"
        elif isinstance(node, ast.Constant) and type(node.value) is int and abs(node.value) < 100_000:
            yield node, "value"
        elif isinstance(node, ast.If | ast.IfExp):
            yield node, "test"


def changed(node: ast.AST, field: str) -> str:
    """Change a place, and say how."""
    before = ast.unparse(node) if isinstance(node, ast.expr) else f"if {ast.unparse(getattr(node, field))}"
    if field == "value":
        assert isinstance(node, ast.Constant) and isinstance(node.value, int)
        node.value += 1
    elif field == "test":
        assert isinstance(node, ast.If | ast.IfExp)
        node.test = ast.UnaryOp(op=ast.Not(), operand=node.test)
    elif isinstance(node, ast.Compare):
        node.ops = [SWAPS[type(node.ops[0])]()]  # type: ignore[list-item]
    else:
        assert isinstance(node, ast.BoolOp | ast.BinOp)
        node.op = SWAPS[type(node.op)]()  # type: ignore[assignment]
    after = ast.unparse(node) if isinstance(node, ast.expr) else f"if {ast.unparse(getattr(node, field))}"
    return f"{before}  →  {after}".replace("\n", " ")


def sample(count: int, seed: int) -> list[Mutant]:
    """As many of each room, from all over it."""
    rng = random.Random(seed)
    found = []
    for room, (sources, _) in ROOMS.items():
        paths = [ROOT / CORE / source for source in sources]
        modules = sorted(one for path in paths for one in ([path] if path.is_file() else path.rglob("*.py")))
        known = [(path, at) for path in modules for at in range(len(list(places(_tree(path)))))]
        for path, at in rng.sample(known, min(len(known), max(1, count // len(ROOMS)))):
            tree = _tree(path)
            node, field = list(places(tree))[at]
            what = changed(node, field)
            line = getattr(node, "lineno", 0)
            found.append(Mutant(room=room, path=path, line=line, what=what, text=ast.unparse(tree)))
    return found


def _tree(path: Path) -> ast.Module:
    return ast.parse(path.read_text(encoding="utf-8"))


def killed(mutant: Mutant, folder: Path) -> bool | None:
    """Whether a test of the room fails; ``None`` where none had ended in time."""
    target = folder / mutant.path.relative_to(ROOT)
    kept = target.read_text(encoding="utf-8")
    target.write_text(mutant.text, encoding="utf-8")
    tests = [str(ROOT / "tests" / "core" / room) for room in ROOMS[mutant.room][1]]
    argv = [sys.executable, "-m", "pytest", "-x", "-o", f"pythonpath={folder / 'src'} {ROOT}", *tests]
    try:
        env = {**os.environ, "MEDIA_AS_IT_IS": "1"}
        done = subprocess.run(argv, cwd=ROOT, env=env, capture_output=True, timeout=PATIENCE_S, check=False)
    except subprocess.TimeoutExpired:
        return None
    finally:
        target.write_text(kept, encoding="utf-8")
    return done.returncode != 0


def main() -> None:
    mutants = sample(int(os.environ.get("MUTANTS", "70")), int(os.environ.get("SEED", "1")))
    survived: dict[str, list[str]] = {room: [] for room in ROOMS}
    tried = dict.fromkeys(ROOMS, 0)
    with tempfile.TemporaryDirectory(prefix="rheon-mutants-") as name, ThreadPoolExecutor(2) as pool:
        folders = [Path(name) / str(number) for number in range(2)]
        for folder in folders:
            shutil.copytree(ROOT / "src", folder / "src", ignore=shutil.ignore_patterns("__pycache__"))

        def run(folder: Path, own: list[Mutant]) -> None:
            for mutant in own:
                tried[mutant.room] += 1
                verdict = killed(mutant, folder)
                place = f"{mutant.path.relative_to(ROOT / CORE)}:{mutant.line}"
                print(f"{'out of time' if verdict is None else 'killed' if verdict else 'SURVIVED':<12}"
                      f"{mutant.room:<10}{place:<44}{mutant.what[:90]}", flush=True)  # fmt: skip
                if verdict is False:
                    survived[mutant.room].append(place)

        for work in [pool.submit(run, folder, mutants[at::2]) for at, folder in enumerate(folders)]:
            work.result()
    for room in ROOMS:
        print(f"{room:<10} {tried[room] - len(survived[room])} of {tried[room]} noticed")
    print(f"all        {sum(tried.values()) - sum(map(len, survived.values()))} of {sum(tried.values())} noticed")


if __name__ == "__main__":
    main()
