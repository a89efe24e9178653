"""What goes to standard output, what is said besides, and the exit status."""

from __future__ import annotations

import functools
import json
import sys
from collections.abc import Mapping
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from rich.console import Console


USAGE, REFUSED, FAILED = 2, 3, 4


@functools.cache
def console() -> Console:
    """For what is said besides what was asked for; made only where somebody is to read something."""
    from rich.console import Console  # noqa: PLC0415 - what prints JSON needs none

    return Console(stderr=True)


def standard() -> Console:
    """For what was asked for; what is said besides goes to the error output."""
    from rich.console import Console  # noqa: PLC0415 - what prints JSON needs none

    return Console(file=sys.stdout)


def print_json(document: dict[str, Any] | list[dict[str, Any]]) -> None:
    """One JSON document on standard output, and nothing else there."""
    sys.stdout.write(json.dumps(document, indent=2, ensure_ascii=False) + "\n")
    sys.stdout.flush()


def print_line(document: Mapping[str, Any]) -> None:
    """One JSON document on one line of standard output."""
    sys.stdout.write(json.dumps(document, ensure_ascii=False) + "\n")
    sys.stdout.flush()
