"""The drives that the settings name."""

from __future__ import annotations

from collections.abc import Callable
from functools import cache
from typing import Any

from django.conf import settings

from rheon.core.errors import SourceError
from rheon.core.sources.images.drive import Drive, open_drive

from .models import Source


@cache
def drives() -> tuple[Drive, ...]:
    return tuple(open_drive(where) for where in settings.RHEON_DRIVES)


def drive_at(number: int) -> Drive:
    """Raises ``SourceError`` where there is no such drive."""
    if not 0 <= number < len(drives()):
        raise SourceError("There is no such drive.", advice="Load the page again.")
    return drives()[number]


def pace_of(source: Source) -> Callable[[int, float], None]:
    """How fast a source may be read: as fast as it goes, unless it lies in a drive that takes its time."""
    number = source.drive
    if number is None or not 0 <= number < len(drives()):
        return lambda bytes_read, seconds: None
    return drives()[number].pace


def drives_document() -> list[dict[str, Any]]:
    """Every drive with its state; absent ones are left out."""
    found = []
    known = {source.path: source for source in Source.objects.filter(drive__isnull=False)}
    for number, drive in enumerate(drives()):
        status = drive.status()
        if status.state == "absent":
            continue
        source = known.get(status.path or "")
        found.append(
            {
                "number": number,
                "name": drive.name,
                "state": status.state.value,
                "label": status.label,
                "speed_bytes_s": status.speed_bytes_s,
                "discs": list(drive.discs()),
                "source_id": source.pk if source else None,
            }
        )
    return found
