"""Where sound goes on over the seam of two parts, as that of one recording in several files does."""

from __future__ import annotations

import itertools

import numpy as np

from ..analysis.excerpts import ROUNDED_S, stretch
from ..commands.making import Job
from ..commands.making.concat import to_the_sample
from ..commands.measuring import sound_samples
from ..engine import Command, run
from ..errors import RheonError

HEARD_S, JUDGED = 0.06, 960
"""So much is listened to on either side, in seconds, and so many samples of it are looked at."""
RATE = 48_000
STEP = 2.5
"""A step over the seam that is so much higher than the highest near it is a break: places are sure to a sample."""
HUSH = 0.002
TIMEOUT_S = 30


def smooth_seams(job: Job) -> frozenset[int]:
    """The seams, by the number of the piece before them, over which the sound goes on: a fade would only be heard."""
    if not job.title.joined or not job.settings.audio:
        return frozenset()
    pairs = itertools.pairwise(job.each)
    return frozenset(number for number, (one, other) in enumerate(pairs) if _goes_on(one, other))


def _goes_on(before: Job, after: Job) -> bool:
    track, length_s = before.settings.audio[0].track, before.title.duration_s
    if any(one.title.audio[track].absent for one in (before, after)):
        return False
    # where sound is joined to the sample, it may end a little later than its rounded length
    longer_s = HEARD_S if to_the_sample(before) else 0.0
    try:
        one = _heard(before, track, length_s - HEARD_S, length_s + longer_s)[-JUDGED:]
        other = _heard(after, track, 0.0, HEARD_S)[:JUDGED]
    except (RheonError, OSError):
        return False
    # what is missing is silence
    return (len(one) == JUDGED or longer_s > 0) and is_smooth(one, other)


def is_smooth(before: np.ndarray, after: np.ndarray) -> bool:
    """Whether samples of shape (n,) go on in others: the step between them is no higher than those within them."""
    if not len(before) or not len(after):
        return False
    near = max(float(np.abs(np.diff(one)).max(initial=0.0)) for one in (before, after))
    return abs(float(after[0]) - float(before[-1])) <= max(HUSH, STEP * near)


def _heard(piece: Job, track: int, from_s: float, until_s: float) -> np.ndarray:
    """Samples between -1 and 1 of all channels together, between moments counted from the piece's first picture."""
    begins_s = max(0.0, from_s) + max(0.0, piece.phase_s)
    length_s = until_s - max(0.0, from_s)
    # such places are read from a little before: here every sample counts
    exact_s = ROUNDED_S if begins_s > 0 else 0.0
    source = stretch(piece.title, begins_s + exact_s, begins_s + length_s)
    argv = sound_samples(source.view, track, length_s, RATE)
    return np.frombuffer(run(Command(argv=argv, feed=source.feed, timeout_s=TIMEOUT_S)).stdout, np.float32)
