"""How this installation is set up."""

from __future__ import annotations

import os
from pathlib import Path

import platformdirs
from django.conf import settings
from django.contrib.sessions.models import Session
from django.utils import timezone

from rheon.core.system import mounts, path_text, place_of, text_path
from rheon.settings import lines, load_settings

from . import documents
from .models import Home

OUTER = ("/media", "/mnt", "/run/media")
FOLDER_NAME = "Rheon"


def home() -> Home:
    return Home.objects.filter(pk=1).first() or Home(pk=1)


def output_folders() -> tuple[Path, ...]:
    """Every folder that files went to; the last is where they go now."""
    return (settings.RHEON_OUTPUT_FOLDER, *map(Path, home().outputs))


def is_locked() -> bool:
    """Whether a passphrase has to be given."""
    return bool(home().passphrase)


def signed_in_elsewhere(own: str | None) -> int:
    """How many other browsers are signed in."""
    return Session.objects.filter(expire_date__gt=timezone.now()).exclude(session_key=own).count()


def proposed_outputs() -> list[str]:
    """Folders that files could go to: the one of the settings, and one on each mounted disk that takes them."""
    found = [settings.RHEON_OUTPUT_FOLDER]
    usual = platformdirs.user_videos_path() / FOLDER_NAME
    below = tuple(f"{outer}/" for outer in OUTER)
    mounted = [one.folder / FOLDER_NAME for one in mounts() if str(one.folder).startswith(below)]
    for path in (usual, *mounted):
        inside = any(map(path.is_relative_to, settings.RHEON_MEDIA_FOLDERS))
        if path not in found and inside and os.access(path.parent, os.W_OK):
            found.append(path)
    return [path_text(str(path)) for path in found]


def home_document(session_key: str | None) -> documents.Home:
    row = home()
    return documents.Home(
        set_up=row.set_up is not None,
        output=place_document(path_text(str(output_folders()[-1]))),
        proposed_outputs=[place_document(path) for path in proposed_outputs()],
        has_passphrase=bool(row.passphrase),
        signed_in_elsewhere=signed_in_elsewhere(session_key) if row.passphrase else 0,
        settings=list(lines(load_settings())),
    )


def look_up_choice() -> documents.LookUpChoice:
    return documents.LookUpChoice(service=settings.RHEON_LOOK_UP, allowed=home().looks_up)


def place_document(text: str) -> documents.Place:
    place = place_of(Path(text_path(text)))
    return documents.Place(
        path=text,
        exists=bool(place and place.exists),
        writable=bool(place and place.writable),
        free_bytes=place.free_bytes if place else None,
        file_system=place.file_system if place else "",
        largest_file_bytes=place.largest_file_bytes if place else None,
    )
