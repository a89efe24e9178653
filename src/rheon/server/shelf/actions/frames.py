"""Still frames of titles, made when first asked for and kept."""

from __future__ import annotations

import threading
from pathlib import Path

from rheon.core.analysis import frame_jpeg, frame_times
from rheon.core.engine import Command, run, safe_file_input
from rheon.core.errors import EngineError
from rheon.core.system import check_inside

from ..models import Title
from .cache import cached, material_mark

FRAMES = 6
STRIP = 24
HEIGHT, STRIP_HEIGHT, ARTWORK_WIDTH = 270, 72, 600
STEP_MS = 200
MOST_ARTWORK_PIXELS = 40_000_000
_at_once = threading.Semaphore(2)


def frame_file(title: Title, number: int) -> Path:
    """The JPEG of frame ``number`` (from 0) of a title. Raises ``EngineError`` or ``SourceMissing``."""
    return _frame(title, frame_times(title.duration_s, FRAMES)[number], HEIGHT)


def strip_file(title: Title, number: int) -> Path:
    """The same for the small frames of the film strip."""
    return _frame(title, frame_times(title.duration_s, STRIP)[number], STRIP_HEIGHT)


def moment_file(title: Title, at_ms: int) -> Path:
    """The frame at a moment, to a fifth of a second."""
    return _frame(title, min(title.duration_s, at_ms // STEP_MS * STEP_MS / 1000), HEIGHT)


def artwork_file(title: Title) -> Path:
    """The picture that belongs to a title, as a JPEG. Raises ``EngineError`` where it has none."""
    artwork = title.readable_title().artwork
    if artwork is None:
        raise EngineError("This title has no picture of its own.", advice="")

    def make(target: Path) -> None:
        stream = "0:v:0" if artwork.stream is None else f"0:{artwork.stream}"
        check_inside(artwork.path)
        source = (
            ["-f", "image2", "-pattern_type", "none", "-i", f"file:{artwork.path}"]
            if artwork.stream is None
            else safe_file_input(artwork.path)
        )
        argv = ["ffmpeg", "-v", "error", "-nostdin", "-max_pixels", str(MOST_ARTWORK_PIXELS)]
        argv += ["-protocol_whitelist", "file", *source, "-map", stream]
        argv += ["-frames:v", "1", "-vf", f"scale='min({ARTWORK_WIDTH},iw)':-2", "-f", "mjpeg", f"file:{target}"]
        with _at_once:
            run(Command(argv=argv, timeout_s=20))

    return cached("artwork", f"{material_mark(title)}.jpg", make)


def _frame(title: Title, at_s: float, height: int) -> Path:
    def make(target: Path) -> None:
        with _at_once:
            target.write_bytes(frame_jpeg(title.readable_title(), at_s, height))

    return cached("frames", f"{material_mark(title)}-{round(at_s * 1000)}-{height}.jpg", make)
