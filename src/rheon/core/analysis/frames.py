"""Still frames of a title."""

from __future__ import annotations

import contextlib

from ..commands.looking import BRIEFLY, frame
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


def frame_jpeg(
    title: Title, at_s: float, height: int, *, roughly: bool = False, upright: VideoStream | None = None
) -> bytes:
    """A JPEG of the picture shown at ``at_s``, or of one near it where that can't be had, ``height`` lines high with
    square pixels. ``roughly``: where pictures come unevenly, the next one will do. ``upright``: turned and in the shape
    that is set there. Raises ``EngineError``.
    """
    require("ffmpeg")
    if title.video is None:
        raise EngineError("This title has no picture.", advice="")
    placed = part_at(title, at_s)
    title, at_s = placed.part, at_s - placed.at_s
    with contextlib.suppress(EngineError, OSError):
        at_s = at_s if roughly else shown_since(title, at_s)
    for begun in (BRIEFLY, ()):
        with contextlib.suppress(EngineError, OSError):
            source = exact_excerpt(title, at_s)
            argv = frame(source.view.begun(() if source.looks_long else begun), height, upright)
            if picture := run(Command(argv=argv, feed=source.feed, timeout_s=TIMEOUT_S)).stdout:
                return picture
    for start, back_s in ATTEMPTS:
        with contextlib.suppress(EngineError):
            if picture := _jpeg(title, max(0.0, at_s - back_s), (height, upright), start):
                return picture
    raise EngineError("No frame could be read there.", advice="")


def _jpeg(title: Title, at_s: float, shape: tuple[int, VideoStream | None], start: tuple[str, ...]) -> bytes:
    source = excerpt(title, at_s)
    return run(Command(argv=frame(source.view.begun(start), *shape), feed=source.feed, timeout_s=TIMEOUT_S)).stdout
