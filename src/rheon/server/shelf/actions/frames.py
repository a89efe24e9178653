"""Still frames of titles, made when first asked for and kept."""

from __future__ import annotations

import threading
from pathlib import Path

from rheon.core.analysis import Care, frame_jpeg, frame_times

from ..models import Title
from .cache import cached, material_mark

FRAMES = 6
STRIP = 24
SCRUB_OF_ONE, LEAST_APART_S = 9, 0.4
"""Scrubbing shows up to so many small frames for each of the strip's, an odd number so that those are among them."""
HEIGHT, STRIP_HEIGHT = 270, 90
_at_once = threading.Semaphore(2)


def frame_file(title: Title, number: int) -> Path:
    """The JPEG of frame ``number`` (from 0) of a title. Raises ``EngineError`` or ``SourceMissing``."""
    return _frame(title, frame_times(title.duration_s, FRAMES)[number], HEIGHT)


def strip_file(title: Title, number: int) -> Path:
    """The same for the small frames of the film strip."""
    return _frame(title, frame_times(title.duration_s, STRIP)[number], STRIP_HEIGHT, care=Care.ROUGHLY)


def scrub_count(duration_s: float) -> int:
    """How many small frames a title has for scrubbing over it."""
    each = min(SCRUB_OF_ONE, max(1, int(duration_s / STRIP / LEAST_APART_S)))
    return STRIP * (each - (each + 1) % 2)


def scrub_file(title: Title, number: int) -> Path:
    """The same for the small frames that are shown while somebody scrubs."""
    return _frame(
        title, frame_times(title.duration_s, scrub_count(title.duration_s))[number], STRIP_HEIGHT, care=Care.ROUGHLY
    )


def moment_file(title: Title, at_ms: int) -> Path:
    """The picture shown at a moment."""
    return _frame(title, min(title.duration_s, at_ms / 1000), HEIGHT)


def _frame(title: Title, at_s: float, height: int, *, care: Care = Care.USUAL) -> Path:
    def make(target: Path) -> None:
        with _at_once:
            target.write_bytes(frame_jpeg(title.readable_title(), at_s, height, care=care))

    return cached("frames", f"{material_mark(title)}-{round(at_s * 1000)}-{height}.jpg", make)
