"""Where copied streams can begin and end: the key pictures near a moment, found without decoding."""

from __future__ import annotations

import contextlib
import json
from collections.abc import Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

from ..commands.probing import AFTER_S, clean_starts, picture_packets
from ..engine import Command, run
from ..errors import EngineError
from ..formats import INDEXED, VIDEO_CODECS
from ..media import CellData, FileData, KeptRange, Title
from ..media.kept import LEAST_S, MEANT_S, first_picture_s, in_order, on_pictures, steady_rate
from ..sources.material.feed import feed_extents
from ..sources.material.seek import find_place

TIMEOUT_S = 30
READ_BYTES = 24 << 20
MOST_SPLICED = 12
"""Of more stretches nobody waits until all their edges are looked at."""
AHEAD_S = (AFTER_S, 15, 60)
"""How far a picture is sought that can begin anew: some recordings have one in ten seconds."""
BACK_S = 6.0


@dataclass(frozen=True, slots=True, kw_only=True)
class CutPlaces:
    """Where kept stretches can be cut without encoding all of them; ``None`` where that can't be, or is not known.

    ``copies`` are the stretches that copied streams can have instead of a single one, ``middles`` what of each can be
    copied where only its edges are encoded.
    """

    copies: tuple[KeptRange, ...] | None = None
    middles: tuple[KeptRange, ...] | None = None


def cut_places(title: Title, kept: Sequence[KeptRange]) -> CutPlaces:
    """Look at the title's packets near the ends of what is kept."""
    return CutPlaces(
        copies=copy_ranges(title, kept) if len(kept) == 1 else None,
        middles=copied_middles(title, kept) if kept else None,
    )


def copy_ranges(title: Title, kept: Sequence[KeptRange]) -> tuple[KeptRange, ...] | None:
    """What is kept as a copy can have it.

    Each begins with the last key picture that is not behind its beginning, and ends where no picture needs a later one.
    ``None`` where that can't be found out.
    """
    if title.video is None:
        return tuple(kept)
    if title.joined:
        return None
    found: list[KeptRange] = []
    for one in kept:
        begin_s = 0.0 if one.from_s <= 0 else _key_before(title, one.from_s)
        end_s = title.duration_s if one.until_s >= title.duration_s - MEANT_S else _end_after(title, one.until_s)
        if begin_s is None or end_s is None:
            return None
        found.append(replace(one, from_s=begin_s, until_s=min(end_s, title.duration_s)))
    return in_order(found)


def copied_middles(title: Title, kept: Sequence[KeptRange]) -> tuple[KeptRange, ...] | None:
    """What of each kept stretch can be copied where the pictures before and behind it are encoded.

    ``None`` where that can't be done, or where it would leave nothing.
    """
    if not _can_be_spliced(title) or len(kept) > MOST_SPLICED:
        return None
    found: list[KeptRange] = []
    for one in kept:
        begin_s = _clean_start(title, one)
        whole = one.until_s >= title.duration_s - MEANT_S
        end_s = title.duration_s if whole else _end_before(title, one.until_s)
        if begin_s is None or end_s is None or end_s - begin_s < LEAST_S:
            return None
        found.append(on_pictures(title, KeptRange(from_s=begin_s, until_s=end_s)))
    return tuple(found)


def _can_be_spliced(title: Title) -> bool:
    """Whether pictures of another encoder could follow the title's: evenly, in the form that is encoded."""
    video, data = title.video, title.data
    if video is None or title.joined or title.gaps or steady_rate(video) is None:
        return False
    known = VIDEO_CODECS.get(video.codec)
    plain = video.bit_depth == 8 and not (video.colour and video.colour.full_range)
    timed = isinstance(data, FileData) or data.start_pts is not None
    return known is not None and bool(known.spliced_in) and plain and timed


def _clean_start(title: Title, kept: KeptRange) -> float | None:
    """The first picture of a stretch that needs none before it and can follow others."""
    first_s = first_picture_s(title)
    wanted_s = max(kept.from_s, first_s)
    for moment_s, length_s in _where_to_look(title, kept.from_s):
        found = [at for at in _clean_starts(title, moment_s, length_s) if wanted_s - MEANT_S <= at < kept.until_s]
        if found:
            # what begins with the title's first picture begins with the title
            return kept.from_s if min(found) <= wanted_s + MEANT_S else min(found)
    return None


def _where_to_look(title: Title, from_s: float) -> list[tuple[float, float]]:
    """Moments from which to look for a clean start, and how far: a disc's next cell begins with one."""
    if not isinstance(title.data, CellData):
        return [(from_s, length_s) for length_s in AHEAD_S]
    begins = [cell.start_s - title.data.skip_s for cell in title.data.cells]
    return [(moment_s, AFTER_S) for moment_s in (from_s, *[at for at in begins if at > from_s][:1])]


def _clean_starts(title: Title, moment_s: float, length_s: float) -> list[float]:
    assert title.video is not None
    if title.video.codec != "h264":
        return [at for at, is_key in _pictures(title, moment_s, length_s) if is_key]
    with contextlib.suppress(EngineError, OSError, ValueError):
        if not isinstance(title.data, CellData):
            argv = clean_starts(title, title.data.from_s + moment_s, length_s)
            return [moment_s + at for at in _listed(run(Command(argv=argv, timeout_s=TIMEOUT_S)).stdout)]
        place = find_place(title.data, moment_s, READ_BYTES)
        if place is not None:
            argv = clean_starts(title, 0.0, length_s)
            command = Command(argv=argv, feed=lambda: feed_extents(place.parts), timeout_s=TIMEOUT_S)
            return [at - place.zero_s for at in _listed(run(command).stdout)]
    return []


def _listed(said: bytes) -> list[float]:
    """The times of the packets that the engine's list names: after its ticks, a line for each with its pts third."""
    tick = Fraction(0)
    found: list[float] = []
    for line in said.decode(errors="replace").splitlines():
        if line.startswith("#tb 0:"):
            tick = Fraction(line.partition(":")[2].strip())
        elif line[:1].isdigit():
            found.append(float(int(line.split(",")[2]) * tick))
    return found


def _end_before(title: Title, moment_s: float) -> float | None:
    """The last moment until there before which pictures need none that come after it."""
    found = isinstance(title.data, CellData) or title.container in INDEXED
    near_s = moment_s if found else max(0.0, moment_s - BACK_S)
    pictures = _pictures(title, near_s, moment_s - near_s + AFTER_S)
    times = [at for at, _ in pictures]
    boundaries = [min(times[place:]) for place in range(1, len(times)) if max(times[:place]) < min(times[place:])]
    if pictures and pictures[0][1]:
        boundaries.append(min(times))
    return max((at for at in boundaries if at <= moment_s + MEANT_S), default=None)


def _key_before(title: Title, moment_s: float) -> float | None:
    keys = [at for at, is_key in _pictures(title, moment_s) if is_key]
    return max((at for at in keys if -MEANT_S <= at <= moment_s + MEANT_S), default=None)


def _end_after(title: Title, moment_s: float) -> float | None:
    """The first moment from there on before which pictures need none that come after it."""
    times = [at for at, _ in _pictures(title, moment_s)]
    for place in range(1, len(times)):
        boundary = min(times[place:])
        if boundary >= moment_s - MEANT_S and max(times[:place]) < boundary:
            return boundary
    return None


def _pictures(title: Title, moment_s: float, length_s: float = AFTER_S) -> list[tuple[float, bool]]:
    """When pictures near a moment are shown, in the order in which they are stored, and which are key pictures."""
    with contextlib.suppress(EngineError, OSError, ValueError):
        return _of_disc(title, moment_s) if isinstance(title.data, CellData) else _of_file(title, moment_s, length_s)
    return []


def _of_file(title: Title, moment_s: float, length_s: float) -> list[tuple[float, bool]]:
    assert not isinstance(title.data, CellData)
    argv = picture_packets(title, title.data.from_s + moment_s, length_s)
    said = run(Command(argv=argv, timeout_s=TIMEOUT_S)).stdout
    zero_s = float(json.loads(said)["format"].get("start_time", 0)) + title.data.from_s
    return _packets(said, zero_s)


def _of_disc(title: Title, moment_s: float) -> list[tuple[float, bool]]:
    data = title.data
    assert isinstance(data, CellData)
    place = find_place(data, moment_s, READ_BYTES)
    if place is None:
        return []
    command = Command(argv=picture_packets(title, 0.0), feed=lambda: feed_extents(place.parts), timeout_s=TIMEOUT_S)
    return _packets(run(command).stdout, place.zero_s)


def _packets(said: bytes, zero_s: float) -> list[tuple[float, bool]]:
    packets = json.loads(said).get("packets", [])
    return [(float(one["pts_time"]) - zero_s, "K" in one.get("flags", "")) for one in packets if "pts_time" in one]
