"""How this installation is set up."""

from __future__ import annotations

from pathlib import Path

from django.conf import settings
from django.contrib.sessions.models import Session
from django.utils import timezone

from .models import Home


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
