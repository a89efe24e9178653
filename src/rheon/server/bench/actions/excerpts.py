"""Seconds of a cell's file before it is made, by the job's own arguments, kept for a while."""

from __future__ import annotations

import tempfile
import threading
from dataclasses import dataclass
from pathlib import Path

from rheon.core.encoding import ExcerptRequest, Hooks, make_excerpt, make_source_excerpt
from rheon.core.errors import EngineError
from rheon.core.media.marks import mark_of
from rheon.core.planning import plan
from rheon.server.shelf.actions.cache import cached, material_mark
from rheon.server.shelf.models import Title

from .. import requests
from ..models import Target
from ..planning import request_for, stored_override

_at_once = threading.Semaphore(2)
_wanted: dict[tuple[int, int, bool], str] = {}
"""What is looked at of each cell, as it will be and as it is on the source: what nobody waits for any more ends."""


@dataclass(frozen=True, slots=True, kw_only=True)
class WantedExcerpt:
    """What is to be made, under which name it is kept, and for which side of which cell."""

    request: ExcerptRequest
    name: str
    side: tuple[int, int, bool]


def wanted_excerpt(
    title: Title, target: Target, at_ms: int, switched: requests.Switched, *, of_source: bool
) -> WantedExcerpt:
    """By the cell's plan. Raises ``RheonError``."""
    made = plan(request_for(title, target, stored_override(title.pk, target.pk)), explained=False).settings
    if made is None:
        raise EngineError("Nothing is made here.", advice="")
    request = ExcerptRequest(
        title=title.readable_title(),
        settings=made,
        from_s=min(title.duration_s, at_ms / 1000),
        sound=switched.sound,
        subtitle=switched.subtitle,
    )
    kind = "source" if of_source else "made"
    name = f"{material_mark(title)}-{at_ms}-{mark_of(made, switched.sound, switched.subtitle)}-{kind}.mp4"
    return WantedExcerpt(request=request, name=name, side=(title.pk, target.pk, of_source))


def excerpt_file(wanted: WantedExcerpt) -> Path:
    """An MP4 file. Raises ``RheonError``; ``Stopped`` where another moment was asked for meanwhile."""
    side, name = wanted.side, wanted.name
    _wanted[side] = name
    make_one = make_source_excerpt if side[2] else make_excerpt

    def make(path: Path) -> None:
        hooks = Hooks(should_stop=lambda: _wanted.get(side) != name)
        with _at_once, tempfile.TemporaryDirectory(prefix="rheon-") as work:
            make_one(wanted.request, path, Path(work), hooks)

    try:
        return cached("excerpts", name, make)
    finally:
        if _wanted.get(side) == name:
            del _wanted[side]
