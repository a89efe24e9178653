"""The pictures by which people know what is made: proposed from a title's frames, or brought by them."""

from __future__ import annotations

import base64
import binascii
import hashlib
import io
import threading
import time
from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path

from django.conf import settings
from django.db import transaction

from rheon.core.analysis import cover_jpeg, propose_stills, read_picture
from rheon.core.errors import BadPicture
from rheon.core.media import Cover, mark_of
from rheon.core.media import Title as CoreTitle
from rheon.core.media.documents import dump

from ..models import Title
from ..tasks import find_stills_task
from .cache import cached, material_mark
from .finding_out import find_out, found_out, mark_for
from .titles import save_title

STILLS = "stills"
KEPT_QUALITY = 92
KEPT_FOR_S = 30 * 24 * 3600
"""A picture that nothing uses any more stays so long: a job may wait with it, or somebody may take it back."""
_at_once = threading.Semaphore(2)


def stills_of(title: Title) -> list[float] | None:
    """The moments of the frames that make the best pictures, the best first; ``None`` while they are looked for."""
    if not title.core_title().video or title.outline.get("fault"):
        return []
    found = found_out(mark_for(STILLS, (title,)), lambda: find_stills_task.enqueue(title.pk))
    return None if found is None else found.get("moments", [])


def find_stills(title_id: int) -> None:
    title = Title.objects.select_related("source").filter(pk=title_id).first()
    if title is not None:
        find_out(mark_for(STILLS, (title,)), lambda: {"moments": _best(title)})


def with_best_frame(title: Title, core: CoreTitle) -> CoreTitle:
    """The title with the frame that its artwork means where that is only said to be the best; looked for once."""
    if core.cover is None or core.cover.chosen:
        return core
    find_stills(title.pk)
    best = stills_of(title)
    return replace(core, cover=replace(core.cover, at_s=best[0])) if best else core


def _best(title: Title) -> list[float]:
    return [still.at_s for still in propose_stills(title.readable_title())]


def set_cover(title: Title, cover: Cover | None, alike: Sequence[Title] = ()) -> None:
    """Give a title's files a picture; ``None`` gives back what they have without being asked. A picture that is no
    frame can be given to others too. Raises ``BadPicture``.
    """
    if cover is not None and cover.at_s is not None and alike:
        raise BadPicture("A frame of one title is none of another.", advice="Give each its own.")
    if cover is not None and cover.at_s is not None and cover.at_s > title.duration_s:
        raise BadPicture("This moment is not in the title.", advice="Choose another one.")
    with transaction.atomic():
        for one in (title, *alike):
            one.cover_by_hand = None if cover is None else dump(cover)
            save_title(one, "cover_by_hand")


def keep_picture(data: str) -> str:
    """Keep a picture that somebody brought, in base64; the answer is its name. Raises ``BadPicture``."""
    try:
        picture = read_picture(base64.b64decode(data, validate=True))
    except (binascii.Error, ValueError) as error:
        raise BadPicture("This is no picture that Rheon reads.") from error
    written = io.BytesIO()
    picture.save(written, "JPEG", quality=KEPT_QUALITY)
    name = hashlib.sha256(written.getvalue()).hexdigest()[:40]
    settings.RHEON_PICTURES.mkdir(parents=True, exist_ok=True)
    target = picture_path(name)
    if not target.exists():
        part = target.with_suffix(".part")
        part.write_bytes(written.getvalue())
        part.replace(target)
    return name


def forget_pictures() -> int:
    """Pictures that nothing has used for so long; returns how many."""
    old = time.time() - KEPT_FOR_S
    lying = [path for path in settings.RHEON_PICTURES.glob("*") if path.stat().st_mtime < old]
    if not lying:
        return 0
    covers = Title.objects.filter(cover_by_hand__isnull=False).values_list("cover_by_hand", flat=True)
    used = {Path(str(cover.get("path") or "")).name for cover in covers if cover}
    gone = [path for path in lying if path.name not in used]
    for path in gone:
        path.unlink(missing_ok=True)
    return len(gone)


def picture_path(name: str) -> Path:
    """Where a kept picture lies. Raises ``BadPicture`` where the name can be none."""
    if not (len(name) == 40 and set(name) <= set("0123456789abcdef")):
        raise BadPicture("There is no such picture.", advice="Bring it again.")
    path: Path = settings.RHEON_PICTURES / f"{name}.jpg"
    return path


def cover_file(title: Title, cover: Cover) -> Path:
    """A picture as it would go into a file. Raises ``BadPicture``, ``EngineError`` or ``SourceError``."""

    def make(target: Path) -> None:
        with _at_once:
            target.write_bytes(cover_jpeg(title.readable_title(), cover))

    return cached("artwork", f"{material_mark(title)}-{mark_of(cover)}.jpg", make)
