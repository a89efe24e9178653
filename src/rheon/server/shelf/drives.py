"""The drives that the settings name."""

from __future__ import annotations

from functools import cache

from django.conf import settings

from rheon.core.errors import SourceError
from rheon.core.sources.images.drive import Changer, Drive, open_drive

from .documents import Drive as DriveDocument
from .models import Source


@cache
def drives() -> tuple[Drive, ...]:
    return tuple(open_drive(where) for where in settings.RHEON_DRIVES)


def drive_at(number: int) -> Drive:
    """Raises ``SourceError`` where there is no such drive."""
    if not 0 <= number < len(drives()):
        raise SourceError("There is no such drive.", advice="Load the page again.")
    return drives()[number]


def drives_document() -> list[DriveDocument]:
    """Every drive with its state; absent ones are left out."""
    found = []
    known = {source.path: source for source in Source.objects.filter(drive__isnull=False)}
    for number, drive in enumerate(drives()):
        status = drive.status()
        if status.state == "absent":
            continue
        source = known.get(status.path or "")
        found.append(
            DriveDocument(
                number=number,
                name=drive.name,
                state=status.state,
                label=status.label,
                speed_bytes_s=status.speed_bytes_s,
                discs=list(drive.discs()) if isinstance(drive, Changer) else [],
                source_id=source.pk if source else None,
            )
        )
    return found
