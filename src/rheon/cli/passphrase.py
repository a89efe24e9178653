"""``rheon passphrase``: who may open the page."""

from __future__ import annotations

import asyncio
import os
import sys
from typing import Annotated

import typer

from rheon.server.keeper import DJANGO, bring_forward

from .installation import loaded, told, use_django, with_flags


@with_flags
def passphrase(
    flags: dict[str, object],
    remove: Annotated[bool, typer.Option("--remove", help="Ask for none any more.")] = False,
) -> None:
    """Set or change the passphrase of the page, typed or from standard input. All browsers are signed out."""
    with told():
        found = loaded(flags)
        settings = found.settings
        settings.state.mkdir(mode=0o700, parents=True, exist_ok=True)
        asyncio.run(bring_forward(settings, {**os.environ, **found.environment(), **DJANGO}))
        use_django(found)
        from rheon.server.home.actions.passphrase import set_passphrase, take_passphrase_away  # noqa: PLC0415

        if remove:
            take_passphrase_away()
            typer.echo("The page asks for no passphrase any more.")
            return
        typed = sys.stdin.isatty()
        text = typer.prompt("Passphrase", hide_input=True, confirmation_prompt=True) if typed else _line()
        set_passphrase(text)
        typer.echo("The page asks for it from now on; all browsers are signed out.")


def _line() -> str:
    return sys.stdin.readline().rstrip("\n")
