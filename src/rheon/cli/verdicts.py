"""``rheon verdicts``: which devices play a title as it is, and what stands against the others."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer
from rich.table import Table

from rheon.core.devices import catalogue, judge_title
from rheon.core.wording import sentence

from .common import find_title, read, reported
from .documents import verdict_document
from .finding_devices import find_device
from .output import console, print_json


def verdicts(
    source: Annotated[Path, typer.Argument(help="A disc folder, an image or a file.")],
    title: Annotated[int, typer.Option(help="The title's number.")] = 1,
    device: Annotated[list[str] | None, typer.Option(help="A device id; every one of the catalogue if none.")] = None,
    as_json: Annotated[bool, typer.Option("--json", help="Print one JSON document.")] = False,
) -> None:
    """Hold a title against devices, rule by rule."""
    with reported(as_json=as_json):
        profiles = [find_device(name) for name in device] if device else list(catalogue().values())
        wanted = find_title(read(source), title)
        judged = [judge_title(wanted, profile, ("en",)) for profile in profiles]
    if as_json:
        print_json([verdict_document(entry) for entry in judged])
        return
    table = Table()
    for heading in ("device", "verdict", "why"):
        table.add_column(heading)
    for entry in judged:
        table.add_row(entry.profile.id, entry.verdict.value, sentence(entry.reason))
    console().print(table)
