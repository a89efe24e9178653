"""Two depths of testing: what each change runs, and every variant of it (``--thorough``, ``make thorough``).

A class of sources, devices or containers is stood for by a few of its kind in each run; the rest of the kind is marked
here, and runs before what it is about is changed.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import Any

import pytest


def thorough(*values: object) -> Any:
    """A row of parameters for thorough runs only."""
    return pytest.param(*values, marks=pytest.mark.thorough)


def always(shown: Sequence[object], *, of: Iterable[object]) -> list[Any]:
    """All rows of a kind, each a value or a tuple of values: ``shown`` in each run, the others in thorough ones."""
    rows = list(of)
    assert all(row in rows for row in shown), "one that is shown is not among them"
    return [row if row in shown else thorough(*(row if isinstance(row, tuple) else (row,))) for row in rows]


def pytest_addoption(parser: pytest.Parser) -> None:
    parser.addoption("--thorough", action="store_true", help="run every variant, not only one of each kind")


@pytest.hookimpl(tryfirst=True)
def pytest_collection_modifyitems(config: pytest.Config, items: list[pytest.Item]) -> None:
    if config.getoption("--thorough"):
        return
    config.hook.pytest_deselected(items=[item for item in items if item.get_closest_marker("thorough")])
    items[:] = [item for item in items if not item.get_closest_marker("thorough")]
