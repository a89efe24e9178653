"""``rheon restore``: a copy takes the place of the database."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from rheon.server.care.database import restore as put_back

from .installation import loaded, told, with_flags


@with_flags
def restore(
    flags: dict[str, object], copy: Annotated[Path, typer.Argument(help="A copy that 'rheon backup' made.")]
) -> None:
    """Put a copy in the place of the database, while Rheon does not run. The one before is kept."""
    with told():
        kept = put_back(copy, loaded(flags).settings.state)
        typer.echo(f"{copy} is the database now." + (f" The one before is kept at {kept}." if kept else ""))
