"""Still frames of a title."""

from __future__ import annotations

import contextlib
from collections.abc import Callable
from enum import StrEnum
from functools import partial

from ..commands.looking import BRIEFLY, View, frame
from ..engine import Command, require, run
from ..errors import EngineError
from ..media import Title, VideoStream
from ..media.joined import part_at
from .excerpts import exact_excerpt, excerpt
from .scenes import shown_since

TIMEOUT_S = 30
ATTEMPTS: tuple[tuple[tuple[str, ...], float], ...] = ((BRIEFLY, 0.0), ((), 0.0), ((), 2.0))
"""How the engine is started, and how far before the moment: a short look suffices mostly; where no key frame is near it
has to look longer, and behind the last one of a title there is nothing to start from.
"""


def frame_times(duration_s: float, count: int) -> list[float]:
    """``count`` moments spread over a title, none at its very start or end."""
    return [round(duration_s * (index + 0.5) / count, 3) for index in range(count)]


class Care(StrEnum):
    """Roughly: where pictures come unevenly, the next one will do. Fine: to be kept, and never of two moments."""

    ROUGHLY = "roughly"
    USUAL = "usual"
    FINE = "fine"


def frame_jpeg(
    title: Title, at_s: float, height: int, *, care: Care = Care.USUAL, upright: VideoStream | None = None
) -> bytes:
    """A JPEG of the picture shown at ``at_s``, or of one near it where that can't be had, ``height`` lines high with
    square pixels. ``upright``: turned and in the shape that is set there. Raises ``EngineError``.
    """
    require("ffmpeg")
    if title.video is None:
        raise EngineError("This title has no picture.", advice="")
    placed = part_at(title, at_s)
    title, at_s = placed.part, at_s - placed.at_s
    with contextlib.suppress(EngineError, OSError):
        at_s = at_s if care is Care.ROUGHLY else shown_since(title, at_s)
    drawn = partial(frame, height=height, upright=upright, fine=care is Care.FINE)
    for begun in (BRIEFLY, ()):
        with contextlib.suppress(EngineError, OSError):
            source = exact_excerpt(title, at_s)
            argv = drawn(source.view.begun(() if source.looks_long else begun))
            if picture := run(Command(argv=argv, feed=source.feed, timeout_s=TIMEOUT_S)).stdout:
                return picture
    for start, back_s in ATTEMPTS:
        with contextlib.suppress(EngineError):
            if picture := _jpeg(title, max(0.0, at_s - back_s), drawn, start):
                return picture
    raise EngineError("No frame could be read there.", advice="")


def _jpeg(title: Title, at_s: float, drawn: Callable[[View], list[str]], start: tuple[str, ...]) -> bytes:
    source = excerpt(title, at_s)
    return run(Command(argv=drawn(source.view.begun(start)), feed=source.feed, timeout_s=TIMEOUT_S)).stdout
