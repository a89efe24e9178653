"""``rheon settings``: what is set, and where that comes from."""

from __future__ import annotations

from typing import Annotated

import typer
from rich.table import Table

from rheon.settings import lines, settings_file

from .installation import loaded, told, with_flags
from .output import print_json, standard


@with_flags
def settings(
    flags: dict[str, object], as_json: Annotated[bool, typer.Option("--json", help="One JSON document.")] = False
) -> None:
    """Show every setting and where its value comes from."""
    with told():
        shown = list(lines(loaded(flags)))
        if as_json:
            print_json([line.model_dump() for line in shown])
            return
        table = Table("setting", "value", "from", box=None, pad_edge=False)
        for line in shown:
            table.add_row(line.name, line.value or "–", line.origin)
        out = standard()
        out.print(table)
        out.print(f"\nThe file would be {settings_file()}.", highlight=False)
