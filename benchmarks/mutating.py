"""Small faults for ``mutants.py``: one place of a module changed by one step, in Python or in the page's code."""

from __future__ import annotations

import ast
import json
import random
import subprocess
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
SWAPS: dict[type[ast.AST], type[ast.AST]] = {
    ast.Lt: ast.LtE, ast.LtE: ast.Lt, ast.Gt: ast.GtE, ast.GtE: ast.Gt, ast.Eq: ast.NotEq, ast.NotEq: ast.Eq,
    ast.Is: ast.IsNot, ast.IsNot: ast.Is, ast.In: ast.NotIn, ast.NotIn: ast.In, ast.And: ast.Or, ast.Or: ast.And,
    ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.FloorDiv, ast.FloorDiv: ast.Mult, ast.Div: ast.Mult,
}  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class Mutant:
    """A module with one place changed. ``path`` is relative to the project; ``text`` is the whole module. ``lines`` are
    those of the statement that it is in, as it stands.
    """

    room: str
    path: Path
    line: int
    lines: range
    what: str
    text: str


def sample(room: str, paths: list[Path], count: int, rng: random.Random) -> list[Mutant]:
    """As many mutants of modules, from all over them: of a page's code as of Python."""
    if paths[0].suffix != ".py":
        of_page = _of_page(room, paths)
        return rng.sample(of_page, min(len(of_page), count))
    found = [(path, at) for path in paths for at in range(_count(path))]
    return [_of_python(room, path, at) for path, at in rng.sample(found, min(len(found), count))]


def _places(tree: ast.Module) -> Iterator[tuple[ast.AST, str]]:
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


def _changed(node: ast.AST, field: str) -> str:
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


def _count(path: Path) -> int:
    return len(list(_places(_tree(path))))


def _of_python(room: str, path: Path, at: int) -> Mutant:
    tree = _tree(path)
    node, field = list(_places(tree))[at]
    line = getattr(node, "lineno", 0)
    lines = _statement(tree, line)
    what = _changed(node, field)
    return Mutant(room=room, path=path.relative_to(ROOT), line=line, lines=lines, what=what, text=ast.unparse(tree))


def _statement(tree: ast.Module, line: int) -> range:
    """The lines of the innermost statement at a line; of one with statements inside, those before them."""
    around = range(line, line + 1)
    for node in ast.walk(tree):
        if isinstance(node, ast.stmt):
            body = getattr(node, "body", None)
            ends = body[0].lineno if body else (node.end_lineno or node.lineno) + 1
            if node.lineno <= line < max(ends, node.lineno + 1):
                around = range(node.lineno, max(ends, node.lineno + 1))
    return around


def _tree(path: Path) -> ast.Module:
    return ast.parse(path.read_text(encoding="utf-8"))


def _of_page(room: str, paths: list[Path]) -> list[Mutant]:
    """All that can be changed in modules of the page: TypeScript's own parser says where."""
    names = [str(path.relative_to(ROOT)) for path in paths]
    argv = ["node", "benchmarks/page_mutants.mjs", *names]
    said = subprocess.run(argv, cwd=ROOT, capture_output=True, text=True, check=True).stdout
    found = []
    for one in map(json.loads, said.splitlines()):
        path = Path(one["path"])
        before = (ROOT / path).read_text(encoding="utf-8")
        # the parser counts UTF-16 units
        units = before.encode("utf-16-le")
        put = one["put"].encode("utf-16-le")
        text = (units[: 2 * one["start"]] + put + units[2 * one["end"] :]).decode("utf-16-le")
        line, what = one["line"], " ".join(one["what"].split())
        found.append(Mutant(room=room, path=path, line=line, lines=range(line, line + 1), what=what, text=text))
    return found
