"""Every message of the catalogue, as they stand in the code: what ``docs/messages.pot`` is made of."""

from __future__ import annotations

import ast
import io
from collections.abc import Iterator
from pathlib import Path

from babel.messages.catalog import Catalog
from babel.messages.pofile import write_po

SOURCE = Path(__file__).resolve().parents[1] / "src" / "rheon"
TABLES = frozenset({"SENTENCES", "WORKS", "TOGETHER", "PROBLEMS", "RULE_NAMES", "CONSEQUENCES"})
"""Tables of which every text is a message."""
FORMS = frozenset({"Number", "Whole", "Ratio", "OneOf", "OneNumber", "Enumerated", "Name", "Tracks"})
"""Forms of decisions: the last text says what is meant."""
DESCRIBED = {"DecisionKind": ("label", "help"), "Question": ("text", "help")}
Message = str | tuple[str, str]


def template() -> str:
    """All messages as a PO template."""
    errors = _error_names()
    catalog = Catalog()
    for path in sorted(SOURCE.rglob("*.py")):
        place = str(path.relative_to(SOURCE.parent))
        for message in _messages(ast.parse(path.read_text(encoding="utf-8")), errors):
            catalog.add(message, locations=[(place, 0)])
    text = io.BytesIO()
    write_po(text, catalog, omit_header=True, sort_output=True, width=120)
    return text.getvalue().decode()


def _error_names() -> frozenset[str]:
    tree = ast.parse((SOURCE / "core" / "errors.py").read_text(encoding="utf-8"))
    return frozenset(node.name for node in tree.body if isinstance(node, ast.ClassDef)) | {"Unreadable", "refuse"}


def _messages(tree: ast.Module, errors: frozenset[str]) -> Iterator[Message]:
    for node in ast.walk(tree):
        if isinstance(node, ast.Call):
            yield from _of_call(node, errors)
        elif isinstance(node, ast.AnnAssign) and isinstance(node.target, ast.Name):
            if node.target.id == "advice" and node.value is not None:
                yield from _texts(node.value)
            elif node.target.id in TABLES and isinstance(node.value, ast.Dict):
                for value in node.value.values:
                    yield from _texts(value)
        elif isinstance(node, ast.Assign) and [getattr(target, "id", "") for target in node.targets] == ["advice"]:
            yield from _texts(node.value)


def _of_call(node: ast.Call, errors: frozenset[str]) -> Iterator[Message]:
    name = node.func.id if isinstance(node.func, ast.Name) else getattr(node.func, "attr", "")
    given = {keyword.arg: keyword.value for keyword in node.keywords}
    if name in ("say", "later") and node.args:
        yield from _texts(node.args[0])
    elif name == "say_count":
        one, many = (text for argument in node.args[:2] for text in _texts(argument))
        yield one, many
    elif name in errors and node.args:
        yield from _texts(node.args[0])
        if "advice" in given:
            yield from _texts(given["advice"])
    elif name in DESCRIBED:
        for key in DESCRIBED[name]:
            yield from _texts(given[key])
    elif name in FORMS and node.args:
        yield from _texts(node.args[-1])


def _texts(node: ast.expr) -> Iterator[str]:
    if isinstance(node, ast.Constant) and isinstance(node.value, str) and node.value:
        yield node.value
