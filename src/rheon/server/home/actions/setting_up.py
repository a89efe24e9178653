"""Setting the installation up: where files go, and that somebody has seen to it."""

from __future__ import annotations

import tempfile
from pathlib import Path

from django.conf import settings
from django.utils import timezone

from rheon.core.errors import OutsideFolders, TargetError, TargetReadOnly
from rheon.core.system import real_path, text_path

from ..models import Home
from ..queries import home, output_folders
from .row import change_home

SAME_PACE = 0.05
"""What differs by less is as quick as before."""


def choose_output(text: str) -> None:
    """Put files into this folder from now on; it is made where it is missing.

    Raises ``OutsideFolders``, ``TargetReadOnly`` or ``TargetError``.
    """
    folder = real_path(text_path(text))
    allowed = (*settings.RHEON_MEDIA_FOLDERS, settings.RHEON_OUTPUT_FOLDER)
    if not any(map(folder.is_relative_to, allowed)):
        raise OutsideFolders("This folder is outside those that the settings allow.")
    _try_out(folder)
    if folder != output_folders()[-1]:
        change_home(outputs=[path for path in home().outputs if path != str(folder)] + [str(folder)])


def _try_out(folder: Path) -> None:
    """Make the folder and a file in it, once."""
    try:
        folder.mkdir(exist_ok=True)
        with tempfile.TemporaryFile(dir=folder):
            pass
    except FileNotFoundError as error:
        raise TargetError("There is no folder {folder} any more.", folder=folder.parent.name) from error
    except OSError as error:
        raise TargetReadOnly(
            "{folder} can't be written to: {reason}.", folder=folder.name, reason=error.strerror
        ) from error


def mark_set_up() -> None:
    """Do not greet anybody with the first page again."""
    if not Home.objects.filter(pk=1, set_up__isnull=False).exists():
        change_home(set_up=timezone.now())


def keep_pace(pace: float) -> None:
    """Note how long files take here; what hardly changed stays, since every plan is told anew by it."""
    if abs(pace / home().pace - 1) > SAME_PACE:
        change_home(pace=round(pace, 2))
