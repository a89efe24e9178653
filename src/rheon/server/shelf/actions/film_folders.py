"""Folders of films: everything in them comes onto the Shelf."""

from __future__ import annotations

import itertools
import logging
import os
import time
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import platformdirs
from django.conf import settings
from django.db import transaction
from django.utils import timezone

from rheon.core.errors import SourceError, SourceMissing
from rheon.core.sources import find_sources, is_disc_folder
from rheon.core.system import mounts, path_text, shown, text_path
from rheon.server.home.queries import output_folders

from ..folders import inside
from ..models import FilmFolder
from ..tasks import look_through_task
from .sources import add_source

log = logging.getLogger("rheon")
MOUNTED = ("/media/", "/mnt/", "/run/media/", "/srv/")
USUAL_NAMES = ("Videos", "Movies", "Films", "Video")
MOST_COUNTED, COUNTING_S = 60, 0.4


@dataclass(frozen=True, slots=True, kw_only=True)
class Proposal:
    """A folder in which ``found`` sources were counted; ``more`` where it holds further ones."""

    path: str
    name: str
    mounted: bool
    found: int
    more: bool


def add_film_folder(text: str) -> FilmFolder:
    """Take everything in a folder onto the Shelf, in the background. Raises ``OutsideFolders`` or ``SourceMissing``."""
    folder = inside(text)
    if not os.path.isdir(folder):  # noqa: PTH112 - Path.is_dir raises for over-long names
        raise SourceMissing("There is no folder {name} any more.", name=shown(folder.name))
    with transaction.atomic():
        row, _ = FilmFolder.objects.update_or_create(path=path_text(str(folder)), defaults={"looked": None})
        transaction.on_commit(lambda: look_through_task.enqueue(row.pk))
    return row


def look_through(row: FilmFolder) -> int:
    """Add what is in the folder and not on the Shelf yet; returns how many sources lie in it."""
    found = 0
    for path in find_sources(Path(text_path(row.path)), leave_out=output_folders()):
        try:
            add_source(path_text(str(path)), only_new=True)
        except SourceError as error:
            log.info("%s: %s", shown(path.name), error)
            continue
        found += 1
        if found % 20 == 0:
            FilmFolder.objects.filter(pk=row.pk).update(found=found)
    FilmFolder.objects.filter(pk=row.pk).update(found=found, looked=timezone.now())
    return found


def proposed_folders() -> list[Proposal]:
    """Where films seem to lie: folders with the usual names, what is mounted, and what the settings name."""
    taken = [Path(text_path(path)) for path in FilmFolder.objects.values_list("path", flat=True)]
    until = time.monotonic() + COUNTING_S * 5
    proposals = []
    for path, mounted in _candidates():
        # what lies in a folder that is taken or proposed comes with it
        if any(map(path.is_relative_to, taken)) or time.monotonic() > until:
            continue
        found, more = _count(path)
        if found:
            text = path_text(str(path))
            proposals.append(Proposal(path=text, name=shown(path.name), mounted=mounted, found=found, more=more))
            taken.append(path)
    return proposals


def _candidates() -> Iterator[tuple[Path, bool]]:
    roots = settings.RHEON_MEDIA_FOLDERS
    usual = [platformdirs.user_videos_path(), *(Path.home() / name for name in USUAL_NAMES)]
    points = [one.folder for one in mounts() if str(one.folder).startswith(MOUNTED)]
    # a home folder as a whole is no folder of films; one that the settings name is
    named = [root for root in roots if root != Path.home() and root not in map(Path, ("/media", "/mnt", "/run/media"))]
    seen = set()
    for path, mounted in [*((p, False) for p in usual), *((p, True) for p in points), *((p, False) for p in named)]:
        real = Path(os.path.realpath(path))
        if real not in seen and real.is_dir() and any(map(real.is_relative_to, roots)):
            seen.add(real)
            yield real, mounted or is_disc_folder(real)


def _count(folder: Path) -> tuple[int, bool]:
    until = time.monotonic() + COUNTING_S
    found = 0
    for _ in itertools.islice(find_sources(folder, leave_out=output_folders()), MOST_COUNTED + 1):
        found += 1
        if time.monotonic() > until:
            return found, True
    return min(found, MOST_COUNTED), found > MOST_COUNTED
