"""Openings, logos and closing credits: what several episodes of a series have in common, in sound and in pictures."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from ...media import Title
from ..scenes import scene_at
from .leaders import Interval
from .small_pictures import RATE, compare, is_text, small_pictures
from .sound_fingerprints import SameSound, SoundFingerprints, same_sounds

AROUND_S, LEADS_S = 3.0, 1.5
"""Pictures are looked at so far around the same sound; an edge of theirs so near to that of the sound is the edge."""
GAP_S = 1.5
"""Unlike pictures for so long (a name, a face that changes) do not end a stretch."""
LEAST_S, LEAST_AT_BEGIN_S, MOST_S, MOST_SHARE = 8.0, 3.5, 300.0, 0.4
LEAST_ALIKE, LEAST_TEXT, MOST_LOOKED_AT = 0.3, 0.5, 8
FRONT, FRONT_OF_TWO, AT_END_SHARE = 0.5, 0.4, 0.65
"""Openings end in the front of an episode, closing credits begin in the last part. Of two episodes one may look back
to the other, so there they have to be further in front.
"""
MOST_HEARD_S = 600.0
MOST_OTHERS = 3
AT_ONCE_S = 1.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Shared:
    """A stretch that so many other titles have too."""

    from_s: float
    until_s: float
    others: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Sibling:
    """Another title of the series, and the fingerprints of its sound."""

    title: Title
    fingerprints: Sequence[SoundFingerprints]


def find_shared(title: Title, fingerprints: Sequence[SoundFingerprints], siblings: Sequence[Sibling]) -> list[Shared]:
    """What a title has in common with most of at most three others, in the order of time.

    Two of several must agree, so that a look back to another episode is not taken for an opening.
    Raises ``EngineError`` or ``OSError``.
    """
    seen = [sibling for sibling in siblings[:MOST_OTHERS] if title.video and sibling.title.video]
    heard = [(sibling, same_sounds(fingerprints, sibling.fingerprints)) for sibling in seen]
    front = FRONT if len(heard) > 1 else FRONT_OF_TWO
    found = [_agreed(title, sibling, sounds, front) for sibling, sounds in heard]
    needed = min(2, len(heard))
    shared = []
    for group in _groups(found):
        if len(group) < needed or not needed:
            continue
        from_s, until_s = (scene_at(title, float(np.median([one[edge] for one in group]))) for edge in (0, 1))
        shared.append(Shared(from_s=from_s, until_s=until_s, others=len(group)))
    return sorted(shared, key=lambda one: one.from_s)


def _groups(found: Sequence[Sequence[Interval]]) -> list[list[Interval]]:
    """Stretches that mean the same one, at most one from each of the others."""
    groups: list[dict[int, Interval]] = []
    for other, stretches in enumerate(found):
        for one in stretches:
            alike = (
                group for group in groups if other not in group and _overlap(next(iter(group.values())), one) > 0.5
            )
            group = next(alike, None)
            if group is None:
                groups.append({other: one})
            else:
                group[other] = one
    return [list(group.values()) for group in groups]


def _agreed(title: Title, sibling: Sibling, sounds: Sequence[SameSound], front: float) -> list[Interval]:
    """What looks and sounds the same in both; nothing that goes on for so long that both are the same programme."""
    longest_s = min(MOST_S, title.duration_s * MOST_SHARE)
    worth = [one for one in sounds if LEAST_AT_BEGIN_S <= one.length_s <= MOST_HEARD_S]
    found: list[Interval] = []
    for sound in worth[:MOST_LOOKED_AT]:
        for one in _seen_too(title, sibling.title, sound):
            placed = _alike_placed(title, sibling.title, one, sound.later_s, front)
            if one[1] - one[0] <= longest_s and placed and all(_overlap(one, other) <= 0.5 for other in found):
                found.append(one)
    return found


def _alike_placed(title: Title, other: Title, one: Interval, later_s: float, front: float) -> bool:
    """Whether a stretch ends in the front of both titles, or begins in the last part of both."""
    ends = (one[1] / title.duration_s, (one[1] + later_s) / other.duration_s)
    begins = (one[0] / title.duration_s, (one[0] + later_s) / other.duration_s)
    return max(ends) <= front or min(begins) >= AT_END_SHARE


def _seen_too(title: Title, other: Title, sound: SameSound) -> list[Interval]:
    """The stretches of a same sound in which the pictures are the same too."""
    begin_s = max(0.0, sound.from_s - AROUND_S, -sound.later_s)
    end_s = min(title.duration_s, other.duration_s - sound.later_s, sound.until_s + AROUND_S)
    length_s = end_s - begin_s
    mine, theirs = small_pictures(title, begin_s, length_s), small_pictures(other, begin_s + sound.later_s, length_s)
    seen = compare(mine, theirs)
    if not len(seen.differ):
        return []
    first, last = ((edge - begin_s) * RATE for edge in (sound.from_s, sound.until_s))
    found = []
    for start, stop in _like_runs(seen.differ, first, last):
        inside = slice(round(start), max(round(start) + 1, round(stop)))
        looks = ~seen.differ[inside] & seen.tells[inside]
        from_s, until_s = begin_s + start / RATE, begin_s + stop / RATE
        at_begin = from_s <= AT_ONCE_S
        if until_s - from_s < (LEAST_AT_BEGIN_S if at_begin else LEAST_S):
            continue
        if np.mean(looks) >= LEAST_ALIKE or _both_text(title, from_s, mine[inside], theirs[inside]):
            found.append((from_s, until_s))
    return found


def _like_runs(differ: npt.NDArray[np.bool_], first: float, last: float) -> list[tuple[float, float]]:
    """Runs without a long difference between two edges, in pictures; an edge moves to where likeness really ends."""
    reach = LEADS_S * RATE
    count = len(differ)
    before = [at + 1 for at in range(max(0, round(first - reach)), min(count, round(first))) if differ[at]]
    after = [at for at in range(max(0, round(last)), min(count, round(last + reach))) if differ[at]]
    start = max(before) if before else first
    stop = min(after) if after else last
    runs: list[tuple[float, float]] = []
    begun, since = start, 0
    for at in range(max(0, round(start)), min(count, round(stop))):
        since = since + 1 if differ[at] else 0
        if since > GAP_S * RATE:
            runs.append((begun, at + 1 - since))
            begun = at + 1
    runs.append((begun, stop))
    return [_trimmed(run, differ) for run in runs if run[1] > run[0]]


def _trimmed(run: tuple[float, float], differ: npt.NDArray[np.bool_]) -> tuple[float, float]:
    start, stop = run
    while start < stop and differ[min(len(differ) - 1, round(start))]:
        start += 1
    while stop > start and differ[min(len(differ) - 1, max(0, round(stop) - 1))]:
        stop -= 1
    return start, stop


def _both_text(title: Title, from_s: float, mine: npt.NDArray[np.uint8], theirs: npt.NDArray[np.uint8]) -> bool:
    """Whether both are text, and at the end of the title: its credits."""
    if from_s < title.duration_s * AT_END_SHARE:
        return False
    return all(np.mean([is_text(one) for one in stretch[:: RATE // 2]]) >= LEAST_TEXT for stretch in (mine, theirs))


def _overlap(one: Interval, other: Interval) -> float:
    common = min(one[1], other[1]) - max(one[0], other[0])
    return common / min(one[1] - one[0], other[1] - other[0])
