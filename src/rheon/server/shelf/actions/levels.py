"""How loud a title is along its time, listened to in the background; where its pictures change, looked up at once."""

from __future__ import annotations

import threading

from rheon.core.analysis import levels_of, scene_after, scene_before
from rheon.core.errors import SourceMissing

from ..models import Title
from ..tasks import hear_levels_task
from .finding_out import find_out, found_out, mark_for

LEVELS = "levels"
_at_once = threading.Semaphore(2)


def sound_levels(title: Title) -> tuple[list[int], bool]:
    """The levels (dBFS) along a title, and whether they are still listened for."""
    found = found_out(mark_for(LEVELS, (title,)), lambda: hear_levels_task.enqueue(title.pk))
    return ([], True) if found is None else (found.get("levels", []), False)


def hear_levels(title_id: int) -> None:
    title = Title.objects.select_related("source").filter(pk=title_id).first()
    if title is not None:
        find_out(mark_for(LEVELS, (title,)), lambda: {"levels": levels_of(title.readable_title())})


def scene_near(title: Title, at_s: float, *, before: bool) -> float | None:
    """The next change of scene, or the one before; ``None`` where none is near. Raises ``RheonError``."""
    core = title.readable_title()
    with _at_once:
        try:
            return (scene_before if before else scene_after)(core, at_s)
        except OSError as error:
            raise SourceMissing("{title} can't be read there.", title=title.name) from error
