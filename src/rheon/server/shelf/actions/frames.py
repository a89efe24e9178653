"""Still frames of titles, made when first asked for and kept."""

from __future__ import annotations

import threading
from pathlib import Path

from rheon.core.analysis import frame_jpeg, frame_times, write_artwork
from rheon.core.errors import EngineError

from ..models import Title
from .cache import cached, material_mark

FRAMES = 6
STRIP = 24
SCRUB_OF_ONE, LEAST_APART_S = 9, 0.4
"""Scrubbing shows up to so many small frames for each of the strip's, an odd number so that those are among them."""
HEIGHT, STRIP_HEIGHT, ARTWORK_WIDTH = 270, 90, 600
_at_once = threading.Semaphore(2)


def frame_file(title: Title, number: int) -> Path:
    """The JPEG of frame ``number`` (from 0) of a title. Raises ``EngineError`` or ``SourceMissing``."""
    return _frame(title, frame_times(title.duration_s, FRAMES)[number], HEIGHT)


def strip_file(title: Title, number: int) -> Path:
    """The same for the small frames of the film strip."""
    return _frame(title, frame_times(title.duration_s, STRIP)[number], STRIP_HEIGHT, roughly=True)


def scrub_count(duration_s: float) -> int:
    """How many small frames a title has for scrubbing over it."""
    each = min(SCRUB_OF_ONE, max(1, int(duration_s / STRIP / LEAST_APART_S)))
    return STRIP * (each - (each + 1) % 2)


def scrub_file(title: Title, number: int) -> Path:
    """The same for the small frames that are shown while somebody scrubs."""
    return _frame(
        title, frame_times(title.duration_s, scrub_count(title.duration_s))[number], STRIP_HEIGHT, roughly=True
    )


def moment_file(title: Title, at_ms: int) -> Path:
    """The picture shown at a moment."""
    return _frame(title, min(title.duration_s, at_ms / 1000), HEIGHT)


def artwork_file(title: Title) -> Path:
    """The picture that belongs to a title, as a JPEG. Raises ``EngineError`` where it has none."""
    artwork = title.readable_title().artwork
    if artwork is None:
        raise EngineError("This title has no picture of its own.", advice="")

    def make(target: Path) -> None:
        with _at_once:
            write_artwork(artwork, ARTWORK_WIDTH, target)

    return cached("artwork", f"{material_mark(title)}.jpg", make)


def _frame(title: Title, at_s: float, height: int, *, roughly: bool = False) -> Path:
    def make(target: Path) -> None:
        with _at_once:
            target.write_bytes(frame_jpeg(title.readable_title(), at_s, height, roughly=roughly))

    return cached("frames", f"{material_mark(title)}-{round(at_s * 1000)}-{height}.jpg", make)
