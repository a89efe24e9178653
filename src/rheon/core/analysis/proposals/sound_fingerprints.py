"""What of a title sounds like another one: fingerprints of their sound, laid over each other at every distance.

A fingerprint says in 32 bits what about two seconds of sound are like (the engine's ``chromaprint`` muxer); they follow
each other every 0.124 s. The same sound gives nearly the same bits, however it was coded.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from ...commands.measuring import sound_fingerprints
from ...engine import Command, require, run
from ...media import Title
from ..excerpts import stretch

RATE = 11025
STEP_S = 1365 / RATE
CENTRE_S = (4096 + 15 * 1365) / RATE / 2
"""What a fingerprint says is of so long before and behind the middle of what it covers."""
WHOLE_S, FRONT_S, END_S = 1200.0, 720.0, 360.0
"""Titles up to the first are listened to as a whole, longer ones at their beginning and their end."""
TIMEOUT_S = 900
ALIKE_BITS, ALIKE_ON_AVERAGE, SMOOTH = 7, 9.0, 8
"""Of 32: fingerprints of the same sound differ by less, those of other sounds by about 16."""
LEAST_ALIKE = 16
MOST_DISTANCES, APART_S = 3, 1.0

Array = npt.NDArray[np.uint32]


@dataclass(frozen=True, slots=True, kw_only=True)
class SoundFingerprints:
    """The fingerprints of a stretch of a title that begins at ``from_s``."""

    from_s: float
    values: Array


@dataclass(frozen=True, slots=True, kw_only=True)
class SameSound:
    """A stretch of a title, in its seconds, and how much later the same is heard in another title.

    ``unlike`` is how many of 32 bits differ on average.
    """

    from_s: float
    until_s: float
    later_s: float
    unlike: float

    @property
    def length_s(self) -> float:
        return self.until_s - self.from_s


def sound_fingerprints_of(title: Title) -> tuple[SoundFingerprints, ...]:
    """Listen to a title where openings and credits are. Raises ``EngineError`` or ``OSError``."""
    require("ffmpeg")
    if not title.audio:
        return ()
    whole = title.duration_s <= WHOLE_S
    stretches = [(0.0, title.duration_s)] if whole else [(0.0, FRONT_S), (title.duration_s - END_S, END_S)]
    return tuple(
        SoundFingerprints(from_s=from_s, values=_heard(title, from_s, length_s)) for from_s, length_s in stretches
    )


def same_sounds(one: Sequence[SoundFingerprints], other: Sequence[SoundFingerprints]) -> list[SameSound]:
    """The stretches of one title that are heard in another too, the longest first.

    Where a sound comes again and again, the same stretch is given with up to three distances.
    """
    found = [same for mine in one for theirs in other for same in _same(mine, theirs)]
    kept: list[SameSound] = []
    for same in sorted(found, key=lambda same: same.length_s * (16 - same.unlike), reverse=True):
        over = [taken for taken in kept if _overlap_s(same, taken) > same.length_s / 2]
        if len(over) < MOST_DISTANCES and all(abs(same.later_s - taken.later_s) > APART_S for taken in over):
            kept.append(same)
    return kept


def _overlap_s(one: SameSound, other: SameSound) -> float:
    return min(one.until_s, other.until_s) - max(one.from_s, other.from_s)


def _heard(title: Title, from_s: float, length_s: float) -> Array:
    source = stretch(title, from_s, from_s + length_s)
    argv = sound_fingerprints(source.view, length_s, RATE)
    made = run(Command(argv=argv, feed=source.feed, timeout_s=TIMEOUT_S, gentle=True)).stdout
    return np.frombuffer(made[: len(made) // 4 * 4], "<u4")


@dataclass(frozen=True, slots=True, kw_only=True)
class _Laid:
    """Fingerprints laid over others ``later`` places behind, from place ``begin`` on: how many bits of each differ, and
    which of them are surely the same.
    """

    one: SoundFingerprints
    other: SoundFingerprints
    later: int
    begin: int
    unlike: npt.NDArray[np.uint8]
    clear: npt.NDArray[np.bool_]


def _same(one: SoundFingerprints, other: SoundFingerprints) -> list[SameSound]:
    count, others = len(one.values), len(other.values)
    told, told_there = _telling(one.values), _telling(other.values)
    found: list[SameSound] = []
    for later in range(LEAST_ALIKE - count, others - LEAST_ALIKE):
        begin, end = max(0, -later), min(count, others - later)
        unlike = np.bitwise_count(one.values[begin:end] ^ other.values[begin + later : end + later])
        clear = (unlike <= ALIKE_BITS) & told[begin:end] & told_there[begin + later : end + later]
        if np.count_nonzero(clear) >= LEAST_ALIKE:
            found += _runs(_Laid(one=one, other=other, later=later, begin=begin, unlike=unlike, clear=clear))
    return found


def _runs(laid: _Laid) -> list[SameSound]:
    near = min(SMOOTH, len(laid.unlike))
    smooth = np.convolve(laid.unlike, np.ones(near) / near, "same") < ALIKE_ON_AVERAGE
    edges = np.flatnonzero(np.diff(np.concatenate(([False], smooth, [False]))))
    found = []
    for begin, end in zip(edges[::2], edges[1::2], strict=True):
        if np.count_nonzero(laid.clear[begin:end]) < LEAST_ALIKE:
            continue
        first, last = laid.begin + begin, laid.begin + end
        # what goes on to an end of what was heard fills its fingerprint
        at_begin = first == 0 or first + laid.later == 0
        at_end = last == len(laid.one.values) or last + laid.later == len(laid.other.values)
        found.append(
            SameSound(
                from_s=float(laid.one.from_s + first * STEP_S + (0.0 if at_begin else CENTRE_S)),
                until_s=float(laid.one.from_s + last * STEP_S + CENTRE_S * (2 if at_end else 1)),
                later_s=laid.other.from_s - laid.one.from_s + laid.later * STEP_S,
                unlike=float(laid.unlike[begin:end].mean()),
            )
        )
    return found


def _telling(values: Array) -> npt.NDArray[np.bool_]:
    """Where fingerprints change: silence and steady tones give the same one again and again, wherever they come."""
    changes = np.ones(len(values), bool)
    changes[1:] = values[1:] != values[:-1]
    return changes
