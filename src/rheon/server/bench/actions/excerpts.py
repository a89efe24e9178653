"""Seconds of a cell's file before it is made, by the job's own arguments, kept for a while."""

from __future__ import annotations

import asyncio
import contextlib
import tempfile
import threading
from collections.abc import AsyncIterator
from dataclasses import dataclass, field
from pathlib import Path
from typing import BinaryIO

from rheon.core.encoding import ExcerptRequest, Grown, Hooks, make_excerpt, make_source_excerpt
from rheon.core.engine import awaited
from rheon.core.errors import EngineError, Stopped
from rheon.core.media.marks import mark_of
from rheon.core.planning import plan
from rheon.server.shelf.actions.cache import cached, material_mark
from rheon.server.shelf.models import Title

from .. import requests
from ..models import Target
from ..planning import request_for, stored_override

CHUNK_BYTES = 64 << 10
LOOK_S = 0.1
VERSION = 2
"""Part of every name: raise it when other seconds come out."""

Side = tuple[int, int, bool]
"""Of which title and target, and whether as it is on the source."""

_at_once = threading.Semaphore(2)
_making: dict[Side, _Making] = {}
"""What is looked at of each cell, as it will be and as it is on the source: what nobody waits for any more ends."""
_lock = threading.Lock()


@dataclass(frozen=True, slots=True, kw_only=True)
class WantedExcerpt:
    """What is to be made, under which name it is kept, and for which side of which cell."""

    request: ExcerptRequest
    name: str
    side: Side


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
    made_how = mark_of(made, switched.sound, switched.subtitle, VERSION)
    name = f"{material_mark(title)}-{at_ms}-{made_how}-{kind}.mp4"
    return WantedExcerpt(request=request, name=name, side=(title.pk, target.pk, of_source))


@dataclass(slots=True)
class _Making:
    """Seconds that are being made: ``news`` is set as soon as they can be played or are over."""

    wanted: WantedExcerpt
    news: threading.Event = field(default_factory=threading.Event)
    over: threading.Event = field(default_factory=threading.Event)
    fragments: Path | None = None
    made: Path | None = None
    failed: Exception | None = None


@dataclass(frozen=True, slots=True)
class Growing:
    """Seconds that can be played while the rest of them is made."""

    making: _Making
    handle: BinaryIO

    async def chunks(self) -> AsyncIterator[bytes]:
        """All of it as it comes; broken off where it fails, over where other seconds are wanted instead."""
        with self.handle:
            while True:
                over = self.making.over.is_set()
                if chunk := await asyncio.to_thread(self.handle.read, CHUNK_BYTES):
                    yield chunk
                elif not over:
                    await asyncio.sleep(LOOK_S)
                elif self.making.failed and not isinstance(self.making.failed, Stopped):
                    raise ConnectionAbortedError("What was being played could not be made to its end.")
                else:
                    return


def excerpt_file(wanted: WantedExcerpt) -> Path:
    """An MP4 file. Raises ``RheonError``; ``Stopped`` where another moment was asked for meanwhile."""
    making = _begun(wanted)
    making.over.wait()
    return _result(making)


def growing_excerpt(wanted: WantedExcerpt) -> Path | Growing:
    """The file, or as soon as it can be played without waiting what there is of it. Raises as ``excerpt_file`` does."""
    making = _begun(wanted)
    making.news.wait()
    if making.fragments is not None and not making.over.is_set():
        # they go when all is made
        with contextlib.suppress(FileNotFoundError):
            return Growing(making, making.fragments.open("rb"))
    making.over.wait()
    return _result(making)


def _result(making: _Making) -> Path:
    if making.failed is not None:
        raise making.failed
    assert making.made is not None
    return making.made


def _begun(wanted: WantedExcerpt) -> _Making:
    """What makes it, begun unless it is being made."""
    with _lock:
        making = _making.get(wanted.side)
        if making is None or making.wanted.name != wanted.name:
            making = _making[wanted.side] = _Making(wanted)
            threading.Thread(target=_make, args=(making,), daemon=True).start()
    return making


def _make(making: _Making) -> None:
    wanted = making.wanted
    try:
        making.made = cached("excerpts", wanted.name, lambda path: _write(making, path))
    except Exception as error:
        making.failed = error
    finally:
        with _lock:
            if _making.get(wanted.side) is making:
                del _making[wanted.side]
        making.over.set()
        making.news.set()


def _write(making: _Making, path: Path) -> None:
    side, request = making.wanted.side, making.wanted.request
    hooks = Hooks(should_stop=lambda: _making.get(side) is not making)

    def grown(so_far: Grown) -> None:
        if making.fragments is None and so_far.plays_through:
            making.fragments = so_far.path
            making.news.set()

    if side[2] and (playing := _making.get((*side[:2], False))):
        # what it will be like plays already, and is not kept waiting
        playing.over.wait()
    with _at_once, awaited(), tempfile.TemporaryDirectory(prefix="rheon-") as work:
        if side[2]:
            make_source_excerpt(request, path, Path(work), hooks)
        else:
            make_excerpt(request, path, Path(work), hooks, grown)
