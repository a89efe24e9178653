"""``rheon devices``: what there is to make files for."""

from __future__ import annotations

from typing import Annotated

import typer
from rich.table import Table

from rheon.core.devices import catalogue, goals

from .documents import device_document
from .output import console, print_json


def devices(as_json: Annotated[bool, typer.Option("--json", help="Print one JSON document.")] = False) -> None:
    """List the devices of the catalogue, and the goals a file can have without one."""
    profiles = [*catalogue().values(), *goals().values()]
    if as_json:
        print_json({"devices": [device_document(profile) for profile in profiles]})
        return
    table = Table()
    for heading in ("id", "name", "kind", "containers", "video", "audio"):
        table.add_column(heading)
    for profile in profiles:
        table.add_row(
            profile.id,
            profile.name,
            profile.kind.value,
            " ".join(entry.extension for entry in profile.containers),
            " ".join(dict.fromkeys(f"{entry.codec}≤{entry.max_height}" for entry in profile.video)),
            " ".join(f"{entry.codec}/{entry.max_channels}" for entry in profile.audio),
        )
    console().print(table)
