"""The ``rheon`` command: one module for each verb, a thin shell over the core."""

from __future__ import annotations

import typer

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
    app()
