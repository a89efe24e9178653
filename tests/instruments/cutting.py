"""Cuts to be made, and whether a file holds just the pictures of them, with the sound where it belongs."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import numpy as np

from .authored import CLICK_AT_S, CLICK_EVERY_S, CLICK_S
from .readback import Seen, hear, see

SOUND_S = 0.020


@dataclass(frozen=True, slots=True, kw_only=True)
class Cut:
    """Stretches that are kept, as they are said, and what that gives of the source's pictures."""

    said: str
    stretches: tuple[tuple[float, float], ...]


ONE = Cut(said="3-9", stretches=((3.0, 9.0),))
TWO = Cut(said="0:02.003-0:04.505,6.1-8.3", stretches=((2.003, 4.505), (6.1, 8.3)))
BOTH_ENDS = Cut(said="-2.5,5.0-7.123,0:09.3-", stretches=((0.0, 2.5), (5.0, 7.123), (9.3, 99.0)))


def held(path: Path, source: Seen, rate: Fraction, cut: Cut, every: int = 1) -> None:
    """Pictures are just those of the source within the stretches; each click lies where its picture is."""
    made = see(path)
    # a picture that stands longer comes again where the rate is made even
    shown = [(n, t) for k, (n, t) in enumerate(zip(made.numbers, made.times, strict=True)) if n != made.numbers[k - 1]]
    at = 0
    wanted: list[int] = []
    for from_s, until_s in cut.stretches:
        there = [
            n for n, t in zip(source.numbers, source.times, strict=True) if from_s - 0.0011 <= t < until_s - 0.0011
        ]
        there = there[::every]
        wanted += there
        sound = hear(path, first_s=there[0] / float(rate) - shown[at][1])
        begins_s, ends_s = there[0] / float(rate), (there[-1] + every) / float(rate)
        inside = [
            off
            for click, off in zip(sound.clicks, sound.offsets, strict=True)
            if begins_s + 0.03 <= CLICK_AT_S + click * CLICK_EVERY_S <= ends_s - CLICK_S - 0.03
        ]
        assert len(inside) >= (ends_s - begins_s) * 2 - 2
        assert max(map(abs, inside)) <= SOUND_S
        at += len(there)
    # of half a picture of a slower rate at the very end nothing need be left
    assert [n for n, _ in shown] in (wanted, wanted[:-1] if every > 1 else wanted)
    assert float(np.diff(made.times).min()) > 0
