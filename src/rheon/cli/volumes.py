"""``rheon volumes``: what is plugged in or mounted that files can be copied to."""

from __future__ import annotations

from typing import Annotated

import typer

from rheon.core.handover import Volume, open_volumes
from rheon.core.wording import size_text
from rheon.settings import load_settings

from .common import reported
from .output import print_json, standard


def volumes(
    as_json: Annotated[bool, typer.Option("--json", help="Print one JSON document.")] = False,
) -> None:
    """List the sticks, cards and network folders that are there, with what is free on them."""
    with reported(as_json=as_json):
        found = all_volumes()
    if as_json:
        print_json([_document(one) for one in found])
        return
    for one in found:
        free = "" if one.free_bytes is None else f", {size_text(one.free_bytes)} free"
        standard().print(f"{one.label}: {one.path} ({one.file_system}{free})", highlight=False, markup=False)
    if not found:
        standard().print("Nothing is plugged in or mounted.", highlight=False)


def all_volumes() -> tuple[Volume, ...]:
    """What the settings' finders know. Raises ``TargetError`` or ``SettingsRefused``."""
    return tuple(one for where in load_settings().settings.volumes for one in open_volumes(where).volumes())


def _document(volume: Volume) -> dict[str, object]:
    return {
        "id": volume.id,
        "label": volume.label,
        "kind": volume.kind.value,
        "path": str(volume.path),
        "file_system": volume.file_system,
        "total_bytes": volume.total_bytes,
        "free_bytes": volume.free_bytes,
        "largest_file_bytes": volume.largest_file_bytes,
        "writable": volume.writable,
    }
