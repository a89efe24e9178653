"""Two depths of testing: what each change runs, and every variant of it (``--thorough``, ``make thorough``).

A class of sources, devices or containers is stood for by a few of its kind in each run; the rest of the kind is marked
here, and runs before what it is about is changed.
"""

from __future__ import annotations

from collections.abc import Collection, Iterable
from typing import Any

import pytest

MARK = pytest.mark.thorough


def thorough(*values: object) -> Any:
    """A row of parameters for thorough runs only."""
    return pytest.param(*values, marks=MARK)


def always(shown: Collection[str], *, of: Iterable[str]) -> list[Any]:
    """All of a kind: those of ``shown`` in each run, the others in thorough ones."""
    names = list(of)
    assert set(shown) <= set(names), "one that is shown is not among them"
    return [name if name in shown else thorough(name) for name in names]


def pytest_addoption(parser: pytest.Parser) -> None:
    parser.addoption("--thorough", action="store_true", help="run every variant, not only one of each kind")


@pytest.hookimpl(tryfirst=True)
def pytest_collection_modifyitems(config: pytest.Config, items: list[pytest.Item]) -> None:
    if config.getoption("--thorough"):
        return
    left = [item for item in items if item.get_closest_marker(MARK.name)]
    config.hook.pytest_deselected(items=left)
    items[:] = [item for item in items if item not in set(left)]
