"""The ``rheon`` command: one module for each verb, loaded only when it is asked for; a thin shell over the core."""

from __future__ import annotations

import signal
import sys
import tempfile
from collections.abc import Callable, Sequence
from importlib import import_module
from importlib.metadata import version as version_of
from pathlib import Path
from typing import Annotated

import typer

from rheon.core.system.scratch import use_scratch

VERBS = {
    "scan": "Say which titles a source has.",
    "devices": "List the devices and goals that files can be made for.",
    "verdicts": "Say which devices play a title as it is, rule by rule.",
    "plan": "Say how a file would be made, and why.",
    "decisions": "List what a plan decides and what can be set by hand.",
    "convert": "Make a file for a device.",
    "check": "Check a file against a device.",
    "tag": "Say what is written in a file, and write other tags.",
    "volumes": "List the sticks, cards and network folders that are there.",
    "copy": "Copy files onto a stick, a card or a folder, and verify them.",
    "serve": "Start Rheon: its page and its workers.",
    "settings": "Show every setting and where its value comes from.",
    "doctor": "Say whether everything is well, and what to do.",
    "backup": "Copy the database and pictures, also while Rheon runs.",
    "restore": "Put a copy in the place of the database.",
    "passphrase": "Set, change or take away the passphrase of the page.",
}
"""Every verb with its line in the list."""


def build(arguments: Sequence[str]) -> typer.Typer:
    """The command, with only the verb loaded that the arguments name."""
    app = typer.Typer(
        help="Turn disc titles into files that play on your devices.",
        no_args_is_help=True,
        add_completion=False,
        rich_markup_mode=None,
        pretty_exceptions_enable=False,
    )
    app.callback()(_program)
    asked = next((word for word in arguments if not word.startswith("-")), None)
    for name, line in VERBS.items():
        app.command(name, help=None if name == asked else line)(_load(name) if name == asked else _unloaded)
    return app


def _say_version(asked: bool) -> None:
    if asked:
        typer.echo(f"rheon {version_of('rheon')}")
        raise typer.Exit


def _program(
    version: Annotated[
        bool, typer.Option("--version", callback=_say_version, is_eager=True, help="Say which version this is.")
    ] = False,
) -> None:
    """What stands before a verb."""


def _load(name: str) -> Callable[..., None]:
    verb: Callable[..., None] = getattr(import_module(f"rheon.cli.{name}"), name)
    return verb


def _unloaded() -> None:
    """Stands for a verb in the list of them."""


def main() -> None:
    use_scratch(Path(tempfile.gettempdir()))
    # ended by another program or by a closing terminal, a verb clears up as it does on Ctrl-C
    for sign in (signal.SIGTERM, signal.SIGHUP):
        signal.signal(sign, _interrupt)
    build(sys.argv[1:])()


def _interrupt(sign: int, frame: object) -> None:
    raise KeyboardInterrupt
