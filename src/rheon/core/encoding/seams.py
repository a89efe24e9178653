"""Where sound goes on over the seam of two parts, as that of one recording in several files does."""

from __future__ import annotations

import numpy as np

from ..analysis.excerpts import stretch
from ..commands.making import Job
from ..commands.making.concat import to_the_sample
from ..commands.measuring import sound_samples
from ..engine import Command, run
from ..errors import RheonError
from ..media import Title

HEARD_S, JUDGED = 0.06, 960
"""So much is listened to on either side, in seconds, and so many samples of it are looked at."""
RATE = 48_000
STEP = 1.25
"""A step over the seam that is so much higher than the highest near it is a break."""
HUSH = 0.002
TIMEOUT_S = 30


def smooth_seams(job: Job) -> frozenset[int]:
    """The seams, by the number of the piece before them, over which the sound goes on: a fade would only be heard."""
    if not job.title.joined or not job.settings.audio:
        return frozenset()
    track = job.settings.audio[0].track
    pairs = zip(job.each, job.pieces[1:], strict=False)
    return frozenset(number for number, (one, other) in enumerate(pairs) if _goes_on(one, other, track))


def _goes_on(piece: Job, after: Title, track: int) -> bool:
    before = piece.title
    if before.audio[track].absent or after.audio[track].absent:
        return False
    try:
        one = _heard(before, track, max(0.0, before.duration_s - HEARD_S), before.duration_s)[-JUDGED:]
        if not to_the_sample(piece) and len(one) < JUDGED:
            # what is missing is silence
            return False
        other = _heard(after, track, 0.0, min(HEARD_S, after.duration_s))[:JUDGED]
    except (RheonError, OSError):
        return False
    return is_smooth(one, other)


def is_smooth(before: np.ndarray, after: np.ndarray) -> bool:
    """Whether samples of shape (n,) go on in others: the step between them is no higher than those within them."""
    if not len(before) or not len(after):
        return False
    near = max(float(np.abs(np.diff(one)).max(initial=0.0)) for one in (before, after))
    return abs(float(after[0]) - float(before[-1])) <= max(HUSH, STEP * near)


def _heard(title: Title, track: int, from_s: float, until_s: float) -> np.ndarray:
    """Samples between -1 and 1 of all channels together."""
    source = stretch(title, from_s, until_s)
    argv = sound_samples(source.view, track, until_s - from_s, RATE)
    return np.frombuffer(run(Command(argv=argv, feed=source.feed, timeout_s=TIMEOUT_S)).stdout, np.float32)
