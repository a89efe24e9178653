"""``rheon devices``: what there is to make files for."""

from __future__ import annotations

from datetime import date
from typing import Annotated

import typer
from rich.table import Table

from rheon.core.devices import DeviceProfile, careful, catalogue, goals, hear

from .documents import device_document
from .output import console, print_json


def devices(
    words: Annotated[
        list[str] | None, typer.Argument(help="What it is, as you would say it: a tablet, about 2015, small screen.")
    ] = None,
    as_json: Annotated[bool, typer.Option("--json", help="Print one JSON document.")] = False,
) -> None:
    """List the kinds of devices and the goals a file can have without one; with words, the kinds that fit them."""
    profiles = _fitting(" ".join(words)) if words else [*catalogue().values(), *goals().values()]
    if as_json:
        print_json({"devices": [device_document(profile) for profile in profiles]})
        return
    if not profiles:
        console().print("Nothing is called like that. Say what kind of thing it is, and about how old.")
        return
    table = Table()
    table.add_column("id", no_wrap=True)
    for heading in ("name", "containers", "video", "audio"):
        table.add_column(heading)
    for profile in profiles:
        sure = careful(profile)
        table.add_row(
            profile.id,
            profile.name,
            _told([entry.extension for entry in sure.containers], [entry.extension for entry in profile.containers]),
            _told(
                [f"{entry.codec}≤{entry.max_height}" for entry in sure.video],
                [f"{entry.codec}≤{entry.max_height}" for entry in profile.video],
            ),
            _told(
                [f"{entry.codec}/{entry.max_channels}" for entry in sure.audio],
                [f"{entry.codec}/{entry.max_channels}" for entry in profile.audio],
            ),
        )
    console().print(table)


def _fitting(typed: str) -> list[DeviceProfile]:
    """The kinds that fit, the careful choice first, then the others; a standard's points where no kind is named."""
    heard = hear(typed, date.today().year)
    kinds = [profile for found in heard.found for profile in (found.profile, *found.others)]
    return [*kinds, *heard.standards]


def _told(sure: list[str], every: list[str]) -> str:
    """What is sure, and with a question mark what only some of the kind can do."""
    doubts = [f"{text}?" for text in dict.fromkeys(every) if text not in sure]
    return " ".join([*dict.fromkeys(sure), *doubts])
