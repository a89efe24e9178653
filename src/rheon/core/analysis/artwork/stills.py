"""Which frames of a title would make a good picture of it: sharp, light, with something in the middle, without text.

A frame is measured in luma of 216 lines. What is said of it are numbers between 0 and 1; what can't be a picture of a
film at all (black, empty, blurred, combed, with lines of text drawn in) is left out before any are compared.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from concurrent.futures import Future, ThreadPoolExecutor
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
from PIL import Image

from ...engine import stand_by
from ...errors import EngineError
from ...media import Title
from .faces import face_share
from .faults import Grey, has_text, is_combed, is_empty, is_night
from .framed import frame_picture, without_borders

LINES = 216
AT_ONCE, MOST_STILLS = 2, 6
PLACES, FEW = 24, 8
"""How many frames are looked at, and in a title of seconds."""
EACH_S = 2.0
FROM_SHARE, UNTIL_SHARE = 0.06, 0.9
"""What lies before and behind are openings and credits."""
LEAST_SHARP = 0.10
"""Of the sharpness of a title's sharpest frames; below it a frame is blurred, whatever it shows."""
LEAST_EDGE, HALF = 2.2, 0.5
APART_SHARE = 0.01
LOOK, ALIKE = (12, 8), 14.0
"""Cells by which two frames are held against each other, and how near on average they are where they look alike."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Still:
    """A frame at a moment, and how good a picture of the title it makes, beside its others (0 to 1)."""

    at_s: float
    score: float


@dataclass(frozen=True, slots=True, kw_only=True)
class _Measured:
    at_s: float
    sharp: float
    light: float
    spread: float
    colour: float
    middle: float
    faces: float
    look: npt.NDArray[np.float32]
    night: bool


def propose_stills(title: Title, count: int = MOST_STILLS) -> tuple[Still, ...]:
    """The frames that make the best pictures, the best of each look first; empty where none does.

    Raises ``EngineError`` where no frame can be read at all.
    """
    if title.video is None:
        return ()
    found: list[_Measured] = []
    fault: Exception | None = None
    read = 0
    for look in _looks(title):
        try:
            measured = look.result()
        except EngineError as error:
            fault = error
            continue
        read += 1
        found += [measured] if measured else []
    if not read and fault is not None:
        raise EngineError("No frame of this title could be read.") from fault
    by_day = [one for one in found if not one.night]
    return tuple(_chosen(title, _ranked(by_day or found), count))


def _looks(title: Title) -> Iterator[Future[_Measured | None]]:
    """Some at once; whoever steers this is asked between them, in this thread alone."""
    places = moments(title.duration_s)
    with ThreadPoolExecutor(AT_ONCE) as pool:
        for first in range(0, len(places), AT_ONCE):
            stand_by()
            yield from [pool.submit(_look, title, at_s) for at_s in places[first : first + AT_ONCE]]


def _look(title: Title, at_s: float) -> _Measured | None:
    return _measure(without_borders(frame_picture(title, at_s, LINES), title.video), at_s)


def _combed(title: Title, at_s: float) -> bool:
    try:
        return is_combed(np.asarray(frame_picture(title, at_s).convert("L"), dtype=np.float32))
    except EngineError:
        return True


def moments(duration_s: float) -> list[float]:
    """Where frames are looked at: evenly, without openings and credits."""
    count = max(FEW, min(PLACES, int(duration_s / EACH_S)))
    first, length = FROM_SHARE * duration_s, (UNTIL_SHARE - FROM_SHARE) * duration_s
    return [round(first + length * (place + 0.5) / count, 3) for place in range(count)]


def _measure(picture: Image.Image, at_s: float) -> _Measured | None:
    """``None`` where a frame can be no picture of a title."""
    grey = np.asarray(picture.convert("L"), dtype=np.float32)
    if min(grey.shape) < 32 or is_empty(grey) or has_text(grey):
        return None
    edges = _edges(grey)
    sharp = float(np.percentile(edges, 98))
    if sharp < LEAST_EDGE:
        return None
    return _Measured(
        at_s=at_s,
        sharp=sharp,
        light=1 - min(1.0, abs(float(grey.mean()) - 120) / 120),
        spread=min(1.0, float(grey.std()) / 64),
        colour=_colour(picture),
        middle=_middle(edges),
        faces=face_share(picture),
        look=np.asarray(picture.resize(LOOK, Image.Resampling.BOX), dtype=np.float32),
        night=is_night(grey),
    )


def _edges(grey: Grey) -> Grey:
    """How much each pixel differs from those around it."""
    around = grey[:-2, 1:-1] + grey[2:, 1:-1] + grey[1:-1, :-2] + grey[1:-1, 2:]
    return np.asarray(np.abs(4 * grey[1:-1, 1:-1] - around) / 4, dtype=np.float32)


def _middle(edges: Grey) -> float:
    """How much of what is to be seen lies in the middle; 1 where it is twice as dense there as all over."""
    high, wide = edges.shape
    inner = edges[high // 5 : -(high // 5), wide // 4 : -(wide // 4)]
    return min(1.0, float(inner.mean()) / (2 * float(edges.mean()) + 1e-6))


def _colour(picture: Image.Image) -> float:
    chroma = np.asarray(picture.convert("YCbCr"), dtype=np.float32)[..., 1:] - 128
    return min(1.0, float(np.hypot(chroma[..., 0], chroma[..., 1]).mean()) / 30)


def _ranked(found: Sequence[_Measured]) -> list[tuple[Still, _Measured]]:
    """The best first; a frame that is blurred beside the title's others is left out."""
    if not found:
        return []
    sharpest = float(np.percentile([one.sharp for one in found], 90))
    least = max(LEAST_SHARP * sharpest, HALF * float(np.median([one.sharp for one in found])))
    scored = [(Still(at_s=one.at_s, score=round(_score(one, sharpest), 4)), one) for one in found if one.sharp >= least]
    return sorted(scored, key=lambda pair: -pair[0].score)


def _score(one: _Measured, sharpest: float) -> float:
    sharp = min(1.0, one.sharp / sharpest)
    return 0.3 * sharp + 0.2 * one.light + 0.15 * one.spread + 0.1 * one.colour + 0.1 * one.middle + 0.15 * one.faces


def _chosen(title: Title, ranked: Sequence[tuple[Still, _Measured]], count: int) -> Iterator[Still]:
    """The best of each look first; those that look like one of them only where there are too few."""
    taken: list[tuple[Still, _Measured]] = []
    near = APART_SHARE * title.duration_s
    for least in (ALIKE, 0.0):
        for still, seen in ranked:
            if len(taken) == count:
                break
            apart = all(abs(still.at_s - one.at_s) > near and _differ(seen, other) >= least for one, other in taken)
            if apart and not _combed(title, still.at_s):
                taken.append((still, seen))
    yield from (still for still, _ in taken)


def _differ(one: _Measured, other: _Measured) -> float:
    return float(np.abs(one.look - other.look).mean())
