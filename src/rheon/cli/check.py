"""``rheon check``: does a file play on a device, rule by rule?"""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer
from rich.table import Table

from rheon.core.checking import CheckRequest, check_file
from rheon.core.errors import SourceMissing
from rheon.core.wording import rule_name, sides

from .common import reported
from .documents import check_document
from .finding_devices import find_device
from .output import FAILED, console, print_json


def check(
    file: Annotated[Path, typer.Argument(help="A media file.")],
    device: Annotated[str, typer.Option(help="A device id, or a profile file (.json).")],
    as_json: Annotated[bool, typer.Option("--json", help="Print one JSON document.")] = False,
) -> None:
    """Hold a file against every rule of a device."""
    with reported(as_json=as_json):
        if not file.is_file():
            raise SourceMissing("There is no file {file}.", file=file)
        profiles = (find_device(device),)
        (found,) = check_file(CheckRequest(path=file.resolve(), profiles=profiles, file_name=file.name))
    if as_json:
        print_json(check_document(found))
    else:
        table = Table()
        for heading in ("", "rule", "measured", "allowed"):
            table.add_column(heading)
        for rule in found.results:
            table.add_row("✓" if rule.ok else "✗", rule_name(rule.rule), *sides(rule.measured, rule.allowed, raw=True))
        console().print(table)
    if not found.ok:
        raise typer.Exit(FAILED)
