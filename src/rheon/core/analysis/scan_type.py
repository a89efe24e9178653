"""How frames were taken, measured from consecutive pictures: whole frames, pairs of fields, or film spread over fields.

Pure. The signs: in a moving picture made of two fields neighbouring lines differ more than every second line; film
spread over fields repeats one upper and one lower field in each five frames. Where some stretches are the one and some
the other, the title is mixed.
"""

from __future__ import annotations

import itertools
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..media import COMB_LIMIT, NOISY, Scan, VideoStream
from .combing import comb_limit
from .findings import ScanTypeFound
from .pictures import Luma

CYCLE = 5
MOVING = 12
LEAST_MOVING_SHARE = 0.0003
COMBED, CLEAN = 1.15, 1.0
REPEATED = 0.25
LESS = 0.6
"""How much less a field that comes twice differs at least from the one before than its neighbours do."""
LEAST_PICTURES = 6
MIXED_SHARE, ALIKE_SHARE, MIXED_VOTES = 0.15, 0.35, 2
"""What the fewer stretches have to be of all, before a title is held to be mixed."""
COLUMNS = 16
"""So many are averaged where there is noise: they belong to one line, so that it is little else that is lost."""
BY_FLAGS = 0.7
"""How sure flags are that tell both."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Vote:
    """What one stretch says; ``top_first`` is ``None`` where it says nothing of field order.

    ``comb_limit``: film's whole pictures look combed up to there.
    """

    scan: Scan
    top_first: bool | None
    comb_limit: int = COMB_LIMIT


def votes_of(stretches: Sequence[Luma], noise: float | None = None) -> list[Vote]:
    """What stretches of consecutive pictures say, of those in which enough moves.

    ``noise``: its standard deviation in steps of eight bits. It changes from picture to picture as movement does.
    """
    columns = COLUMNS if noise is not None and noise >= NOISY else 1
    return [vote for stretch in stretches if (vote := _vote(stretch, columns)) is not None]


def find_scan_type(votes: Sequence[Vote], flagged: VideoStream) -> ScanTypeFound:
    """By what most stretches say; where none does, by the stream's flags, less surely.

    Flags that tell both film and fields are believed whatever a few stretches say.
    """
    if not votes and flagged.scan is not Scan.MIXED:
        sure = 0.5 if flagged.scan is not Scan.UNKNOWN else 0.0
        return ScanTypeFound(scan=flagged.scan, top_field_first=flagged.top_field_first, in_fields=False, sure=sure)
    counts = Counter(vote.scan for vote in votes)
    orders = Counter(vote.top_first for vote in votes if vote.top_first is not None)
    top_first = orders.most_common(1)[0][0] if orders else flagged.top_field_first
    if flagged.scan is Scan.MIXED or _is_mixed(counts):
        sure = max(BY_FLAGS if flagged.scan is Scan.MIXED else 0.0, 1 - 0.5 ** len(votes))
        in_fields = counts[Scan.TELECINED] > 0
        return ScanTypeFound(scan=Scan.MIXED, top_field_first=bool(top_first), in_fields=in_fields, sure=round(sure, 2))
    scan, count = counts.most_common(1)[0]
    share = count / len(votes)
    sure = share * (1 - 0.5 ** len(votes))
    if scan is flagged.scan:
        sure = max(sure, 0.5 + sure / 2)
    elif flagged.scan is Scan.TELECINED and scan is Scan.PROGRESSIVE:
        # repeated by flags only: the stored pictures are whole, as they should be
        return ScanTypeFound(scan=flagged.scan, top_field_first=bool(top_first), in_fields=False, sure=0.9)
    limits = sorted(vote.comb_limit for vote in votes if vote.scan is scan)
    return ScanTypeFound(
        scan=scan,
        top_field_first=bool(top_first),
        in_fields=scan is Scan.TELECINED,
        sure=round(sure, 2),
        comb_limit=limits[len(limits) * 3 // 4],
    )


def _is_mixed(counts: Counter[Scan]) -> bool:
    """Whether pictures of two fields, and film or whole frames, both have their share."""
    of_fields = counts[Scan.INTERLACED]
    others = sum(counts.values()) - of_fields
    if of_fields:
        fewer, share = min(of_fields, others), MIXED_SHARE
    else:
        # film whose fields hardly differ looks like whole frames
        fewer, share = min(counts[Scan.TELECINED], counts[Scan.PROGRESSIVE]), ALIKE_SHARE
    return fewer >= MIXED_VOTES and fewer >= share * sum(counts.values())


def _vote(stretch: Luma, columns: int) -> Vote | None:
    """What a stretch says; ``None`` where too little moves in it."""
    if len(stretch) < LEAST_PICTURES:
        return None
    pictures = _averaged(stretch, columns).astype(np.int16)
    combed = _combing(pictures)
    if len(combed) < LEAST_PICTURES // 2:
        return None
    share = float(np.mean(combed > COMBED))
    # where film is combed only a little, its repeated fields have to come round at least once more
    places = _repeated_fields(pictures, 1 if share >= 0.15 else 2) if share <= 0.75 else None
    if places:
        return _film(stretch, *places)
    if share >= 0.6:
        return Vote(scan=Scan.INTERLACED, top_first=_top_first(pictures))
    return Vote(scan=Scan.PROGRESSIVE, top_first=None) if share <= 0.2 else None


def _averaged(stretch: Luma, columns: int) -> np.ndarray:
    count, lines, width = stretch.shape
    across = width // columns
    each = stretch[:, :, : across * columns].reshape(count, lines, across, columns)
    averaged: np.ndarray = each.mean(axis=3).round()
    return averaged


def _combing(pictures: np.ndarray) -> np.ndarray:
    """For each picture in which something moves: how much rougher neighbouring lines are than every second one."""
    found = []
    for before, picture in itertools.pairwise(pictures):
        moving = np.abs(picture[2:-2] - before[2:-2]) > MOVING
        if moving.mean() < LEAST_MOVING_SHARE:
            continue
        near = np.abs(2 * picture[2:-2] - picture[1:-3] - picture[3:-1])[moving].mean()
        far = np.abs(2 * picture[2:-2] - picture[:-4] - picture[4:])[moving].mean()
        found.append((near + 1) / (far + 1))
    return np.array(found)


def _repeated_fields(pictures: np.ndarray, least: int) -> tuple[int, int] | None:
    """Where in each cycle an upper and a lower field come twice, at least so many times each and never both together;
    ``None`` where they don't.
    """
    steps = [_steps(pictures[:, parity::2]) for parity in (0, 1)]
    usual = [float(np.median(each)) for each in steps]
    if min(usual) < LEAST_MOVING_SHARE:
        return None
    upper, lower = (np.flatnonzero(each < mid * REPEATED) for each, mid in zip(steps, usual, strict=True))
    above: int | None
    below: int | None
    if min(len(upper), len(lower)) >= least and all(len({*found % CYCLE}) == 1 for found in (upper, lower)):
        above, below = int(upper[0]) % CYCLE, int(lower[0]) % CYCLE
    else:
        # grain is coded anew each time: fields that come twice only differ less than those around them
        above, below = map(_comes_round, steps)
    return None if above is None or below is None or above == below else (above, below)


def _film(stretch: Luma, above: int, below: int) -> Vote:
    """``above``, ``below``: where in the cycle an upper and a lower field come twice.

    The one that comes first in a picture comes twice first, and from there to where the other one does pictures have
    fields of two film frames.
    """
    top_first = (below - above) % CYCLE <= CYCLE // 2
    first, other = (above, below) if top_first else (below, above)
    mixed = {(first + n) % CYCLE for n in range(1, (other - first) % CYCLE + 1)}
    whole = [picture for at, picture in enumerate(stretch) if at % CYCLE not in mixed]
    return Vote(scan=Scan.TELECINED, top_first=top_first, comb_limit=comb_limit(whole))


def _steps(fields: np.ndarray) -> np.ndarray:
    """How much of each field is not as in the one before."""
    steps: np.ndarray = (np.abs(np.diff(fields, axis=0)) > MOVING).mean(axis=(1, 2))
    return steps


def _comes_round(steps: np.ndarray) -> int | None:
    """The place in the cycle at which fields differ far less, each time, than just before and after."""
    for place in range(CYCLE):
        found = range(place, len(steps), CYCLE)
        around = [np.delete(steps[max(0, at - 1) : at + 2], min(at, 1)) for at in found]
        if len(found) > 1 and all(steps[at] < LESS * near.min() for at, near in zip(found, around, strict=True)):
            return place
    return None


def _top_first(pictures: np.ndarray) -> bool | None:
    """By which neighbouring field is nearer in time: one field apart, or three."""
    upper, lower = pictures[:, 0::2], pictures[:, 1::2]
    lines = min(upper.shape[1], lower.shape[1])
    low_then_up = np.abs(lower[:-1, :lines] - upper[1:, :lines]).mean()
    up_then_low = np.abs(upper[:-1, :lines] - lower[1:, :lines]).mean()
    apart = abs(low_then_up - up_then_low) / max(low_then_up, up_then_low, 0.01)
    return bool(low_then_up < up_then_low) if apart > 0.02 else None
