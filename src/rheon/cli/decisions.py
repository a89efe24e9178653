"""``rheon decisions``: what a plan decides and what can be set by hand."""

from __future__ import annotations

from typing import Annotated

import typer
from rich.table import Table

from rheon.core.planning import DECISIONS

from .output import console, print_json


def decisions(
    as_json: Annotated[bool, typer.Option("--json", help="Print one JSON document.")] = False,
) -> None:
    """List every decision that ``plan --set key=value`` takes."""
    if as_json:
        print_json(
            [
                {"key": kind.key, "label": kind.label, "help": kind.help, "says": kind.form.grammar}
                for kind in DECISIONS.values()
            ]
        )
        return
    table = Table()
    for heading in ("key", "meaning", "said"):
        table.add_column(heading)
    for kind in DECISIONS.values():
        table.add_row(kind.key, kind.help, kind.form.grammar)
    console().print(table)
