"""Setting the installation up: where files go, and that somebody has seen to it."""

from __future__ import annotations

import os
import tempfile
from pathlib import Path

import platformdirs
from django.conf import settings
from django.utils import timezone

from rheon.core.errors import OutsideFolders, TargetError, TargetReadOnly
from rheon.core.system import mounts, path_text, real_path, text_path

from ..models import Home
from ..queries import home, output_folders

OUTER = ("/media", "/mnt", "/run/media")
FOLDER_NAME = "Rheon"


def choose_output(text: str) -> None:
    """Put files into this folder from now on; it is made where it is missing.

    Raises ``OutsideFolders``, ``TargetReadOnly`` or ``TargetError``.
    """
    folder = real_path(text_path(text))
    allowed = (*settings.RHEON_MEDIA_FOLDERS, settings.RHEON_OUTPUT_FOLDER)
    if not any(map(folder.is_relative_to, allowed)):
        raise OutsideFolders("This folder is outside those that the settings allow.")
    _try_out(folder)
    row = home()
    if folder != output_folders()[-1]:
        row.outputs = [path for path in row.outputs if path != str(folder)] + [str(folder)]
    row.save()


def _try_out(folder: Path) -> None:
    """Make the folder and a file in it, once."""
    try:
        folder.mkdir(exist_ok=True)
        with tempfile.TemporaryFile(dir=folder):
            pass
    except FileNotFoundError as error:
        raise TargetError(f"There is no folder {folder.parent.name} any more.") from error
    except OSError as error:
        raise TargetReadOnly(f"{folder.name} can't be written to: {error.strerror}.") from error


def mark_set_up() -> None:
    """Do not greet anybody with the first page again."""
    if not Home.objects.filter(pk=1, set_up__isnull=False).exists():
        row = home()
        row.set_up = timezone.now()
        row.save()


def proposed_outputs() -> list[str]:
    """Folders that files could go to: the one of the settings, and one on each mounted disk that takes them."""
    found = [settings.RHEON_OUTPUT_FOLDER]
    usual = platformdirs.user_videos_path() / FOLDER_NAME
    mounted = [point / FOLDER_NAME for point, _ in mounts() if str(point).startswith(tuple(f"{o}/" for o in OUTER))]
    for path in (usual, *mounted):
        inside = any(map(path.is_relative_to, settings.RHEON_MEDIA_FOLDERS))
        if path not in found and inside and os.access(path.parent, os.W_OK):
            found.append(path)
    return [path_text(str(path)) for path in found]
