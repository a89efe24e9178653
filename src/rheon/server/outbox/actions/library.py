"""Looking through the library: what is in it is read in the background, once for each file, and kept."""

from __future__ import annotations

import logging
import time
from collections.abc import Sequence
from pathlib import Path

from django.db import transaction
from django.utils import timezone

from rheon.core.catalogue import say
from rheon.core.devices import MediaFacts
from rheon.core.errors import DeviceGone
from rheon.core.handover import Holding, alike_by_sample, hold, same_content
from rheon.core.media.documents import dump, load
from rheon.core.sources.files.library import find_files
from rheon.core.system import path_text, text_path

from ..models import LibraryFile, LibraryLook, Storage
from ..tasks import look_through_library_task
from ..volumes import volume_here

log = logging.getLogger("rheon")
TELL_EVERY_S = 0.5
ENDED = "The worker was ended each time that it looked through the library. Its log says at which file."


def library_look() -> LibraryLook:
    row, _ = LibraryLook.objects.get_or_create(pk=1)
    return row


def library_place() -> str:
    """Which volume and folder is the library, wherever it is mounted; empty where nobody has said it."""
    storage = Storage.objects.filter(device=None).first()
    return f"{storage.volume_id}:{storage.folder}" if storage else ""


def library_folder() -> Path | None:
    """Where the library lies now; ``None`` where nobody has said it, or its volume is not there."""
    storage = Storage.objects.filter(device=None).first()
    volume = volume_here(storage.volume_id) if storage else None
    return volume.path / storage.folder if storage and volume else None


def want_look() -> None:
    """Have it looked through. Raises ``DeviceGone``."""
    if library_folder() is None:
        raise DeviceGone("The library is not there.", advice="Choose its folder, or plug its disk in.")
    library_look()
    LibraryLook.objects.filter(pk=1, wanted=False).update(wanted=True, done=0, total=0, problem="")
    transaction.on_commit(look_through_library_task.enqueue)


def stop_look() -> None:
    """What was read stays known."""
    LibraryLook.objects.filter(pk=1).update(wanted=False)


def give_up_look() -> None:
    LibraryLook.objects.filter(pk=1).update(wanted=False, problem=say(ENDED))


def look_now() -> None:
    """Read what is new or has changed, forget what is gone, and see what is there twice."""
    if not library_look().wanted:
        return
    root = library_folder()
    if root is None:
        LibraryLook.objects.filter(pk=1).update(wanted=False, problem=say("The library went away meanwhile."))
        return
    if LibraryLook.objects.filter(pk=1).exclude(place=library_place()).update(place=library_place(), looked=None):
        LibraryFile.objects.all().delete()
    if _read(root) and _see_doubles(root):
        LibraryLook.objects.filter(pk=1, wanted=True).update(wanted=False, looked=timezone.now())


def holding_of(row: LibraryFile) -> Holding:
    return Holding(
        path=row.path,
        size_bytes=row.size_bytes,
        mtime_ns=row.mtime_ns,
        sample=row.sample,
        facts=load(MediaFacts, row.facts) if row.facts else None,
        trouble=row.trouble,
    )


def _read(root: Path) -> bool:
    """Whether it came to its end; each file is kept as soon as it was read, so that another try goes on there."""
    known = {row.path: row for row in LibraryFile.objects.all()}
    paths = list(find_files(root))
    seen: set[str] = set()
    told_s = 0.0
    for done, path in enumerate(paths):
        if time.monotonic() - told_s >= TELL_EVERY_S:
            told_s = time.monotonic()
            if not LibraryLook.objects.filter(pk=1, wanted=True).update(done=done, total=len(paths)):
                return False
        row = known.get(_text(path, root))
        found = hold(root, path, holding_of(row) if row else None)
        if found is None:
            continue
        seen.add(found.path)
        if row is None or found.mtime_ns != row.mtime_ns or found.size_bytes != row.size_bytes:
            _keep(found)
    # a disk that was pulled out meanwhile says of all of its files that they are gone
    if library_folder() != root:
        LibraryLook.objects.filter(pk=1).update(wanted=False, problem=say("The library went away meanwhile."))
        return False
    gone = [row.pk for path, row in known.items() if path not in seen]
    for start in range(0, len(gone), 500):
        LibraryFile.objects.filter(pk__in=gone[start : start + 500]).delete()
    LibraryLook.objects.filter(pk=1).update(done=len(paths), total=len(paths))
    return True


def _keep(found: Holding) -> None:
    LibraryFile.objects.update_or_create(
        path=found.path,
        defaults={
            "size_bytes": found.size_bytes,
            "mtime_ns": found.mtime_ns,
            "sample": found.sample,
            "facts": dump(found.facts) if found.facts else None,
            "trouble": found.trouble,
            "same_as": "",
        },
    )


def _see_doubles(root: Path) -> bool:
    """Which files have the same content; only what seems so is read to its end, and only once."""
    held = [holding_of(row) for row in LibraryFile.objects.all()]
    before = dict(LibraryFile.objects.exclude(same_as="").values_list("path", "same_as"))
    same: dict[str, str] = {}
    for group in alike_by_sample(held):
        if not LibraryLook.objects.filter(pk=1, wanted=True).exists():
            return False
        same |= _same([one.path for one in group], root, before)
    for path in {**before, **same}:
        LibraryFile.objects.filter(path=path).update(same_as=same.get(path, ""))
    return True


def _same(paths: Sequence[str], root: Path, before: dict[str, str]) -> dict[str, str]:
    if {before.get(path) for path in paths} == {paths[0]}:
        return dict.fromkeys(paths, paths[0])
    groups = same_content([root / text_path(path) for path in paths])
    return {_text(path, root): _text(group[0], root) for group in groups for path in group}


def _text(path: Path, root: Path) -> str:
    return path_text(str(path.relative_to(root)))
