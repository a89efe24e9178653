"""``rheon backup``: a copy of the database, taken while it is in use."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from rheon.server.care.database import PICTURES, back_up, copy_name, database_of

from .installation import loaded, told, with_flags


@with_flags
def backup(
    flags: dict[str, object],
    to: Annotated[
        Path | None, typer.Argument(help="File or folder of the copy; the state folder where none is named.")
    ] = None,
) -> None:
    """Copy the database and the pictures that people brought, also while Rheon runs. The copy is opened and checked
    before it gets its name.
    """
    with told():
        state = loaded(flags).settings.state
        target = to or copy_name(state, "rheon-")
        if target.is_dir():
            target = target / copy_name(state, "rheon-").name
        back_up(database_of(state), target, state / PICTURES)
        typer.echo(str(target))
