"""The ``rheon`` command: one module for each verb, a thin shell over the core."""

from __future__ import annotations

import signal
import tempfile
from pathlib import Path

import typer

from rheon.core.system import use_scratch

from .check import check
from .convert import convert
from .devices import devices
from .plan import plan
from .scan import scan
from .verdicts import verdicts

app = typer.Typer(
    help="Turn disc titles into files that play on your devices.",
    no_args_is_help=True,
    add_completion=False,
    pretty_exceptions_enable=False,
)
for verb in (scan, devices, verdicts, plan, convert, check):
    app.command()(verb)


def main() -> None:
    use_scratch(Path(tempfile.gettempdir()))
    # ended by another program or by a closing terminal, a verb clears up as it does on Ctrl-C
    for sign in (signal.SIGTERM, signal.SIGHUP):
        signal.signal(sign, _interrupt)
    app()


def _interrupt(sign: int, frame: object) -> None:
    raise KeyboardInterrupt
