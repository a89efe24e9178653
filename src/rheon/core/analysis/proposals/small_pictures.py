"""Small grey pictures of a stretch, to be told apart and to be recognised as text on a dark ground."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from ...commands.measuring import small_grey
from ...engine import Command, run
from ...media import Title
from ..excerpts import stretch

WIDTH, HEIGHT = 128, 72
COARSE = 4
RATE = 8
TIMEOUT_S = 120
DARK, EVEN = 40.0, 4.0
UNLIKE, UNLIKE_EVEN = 0.3, 12.0
"""Of a picture's contrast, and in steps of luma where it has none: other pictures differ by about their contrast."""
FLAT, FLAT_SHARE = 12, 0.6
BRIGHT, LEAST_BRIGHT, MOST_BRIGHT = 50, 0.004, 0.3
LEAST_CHANGES, MOST_WRITTEN, MARGIN = 4.0, 0.92, 3

Pictures = npt.NDArray[np.uint8]
Levels = npt.NDArray[np.float64]


def small_pictures(title: Title, from_s: float, length_s: float, rate: float = RATE) -> Pictures:
    """Luma of shape (n, 72, 128), ``rate`` pictures a second. Raises ``EngineError`` or ``OSError``."""
    source = stretch(title, from_s, from_s + length_s)
    argv = small_grey(source.view, (WIDTH, HEIGHT), rate, length_s)
    made = run(Command(argv=argv, feed=source.feed, timeout_s=TIMEOUT_S, gentle=True)).stdout
    count = len(made) // (WIDTH * HEIGHT)
    return np.frombuffer(made[: count * WIDTH * HEIGHT], np.uint8).reshape(count, HEIGHT, WIDTH)


@dataclass(frozen=True, slots=True, kw_only=True)
class Compared:
    """Pictures held against those of another stretch: where they ``differ``, and where likeness ``tells`` something.

    Even pictures look alike whatever they are of, and names that roll over black are others in each episode.
    """

    differ: npt.NDArray[np.bool_]
    tells: npt.NDArray[np.bool_]


def compare(one: Pictures, other: Pictures) -> Compared:
    """Each picture against the nearest in time of the other stretch; the shorter one counts."""
    count = min(len(one), len(other))
    mine, theirs = one[:count], other[:count]
    rough, fine = _held(_coarse(mine), _coarse(theirs)), _held(mine.astype(float), theirs.astype(float))
    # what is even at a distance may still have a texture of its own
    away, contrast = np.where(rough[1] < EVEN, fine, rough)
    text = np.array([is_text(a) and is_text(b) for a, b in zip(mine, theirs, strict=True)], bool)
    even = contrast < EVEN
    differ = np.where(even, away > UNLIKE_EVEN, away > UNLIKE * contrast) & ~text
    return Compared(differ=differ, tells=~even & ~text)


def _held(mine: Levels, theirs: Levels) -> tuple[Levels, Levels]:
    """How far each picture is from the nearest in time of the other ones, and the contrast of both."""
    away: Levels = np.abs(mine - theirs).mean(axis=(1, 2))
    for by in (-1, 1):
        moved = np.abs(mine - np.roll(theirs, by, axis=0)).mean(axis=(1, 2))
        moved[:1] = moved[-1:] = np.inf
        away = np.minimum(away, moved)
    return away, (mine.std(axis=(1, 2)) + theirs.std(axis=(1, 2))) / 2


def black(picture: Pictures) -> bool:
    return bool(np.percentile(picture, 99.5) < DARK)


def is_text(picture: Pictures) -> bool:
    """Whether a picture (72, 128) is text on a dark, even ground: bright bits with many edges along a line, lines with
    room between them, and nothing at the margins.
    """
    ground = float(np.median(picture))
    if ground > DARK or np.mean(np.abs(picture - ground) <= FLAT) < FLAT_SHARE:
        return False
    bright = picture > ground + BRIGHT
    if not LEAST_BRIGHT <= bright.mean() <= MOST_BRIGHT:
        return False
    written = bright.any(axis=1)
    if written.mean() > MOST_WRITTEN or bright[:, :MARGIN].any() or bright[:, -MARGIN:].any():
        return False
    lines = np.count_nonzero(np.diff(bright, axis=1), axis=1)[written]
    return bool(np.mean(lines) >= LEAST_CHANGES)


def _coarse(pictures: Pictures) -> Levels:
    height, width = HEIGHT // COARSE, WIDTH // COARSE
    return np.asarray(pictures.reshape(-1, height, COARSE, width, COARSE).mean(axis=(2, 4)))
