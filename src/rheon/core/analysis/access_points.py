"""Where copied streams can begin: the key pictures near a moment, found without decoding."""

from __future__ import annotations

import contextlib
import json
from collections.abc import Sequence
from dataclasses import replace

from ..commands.probing import picture_packets
from ..engine import Command, run
from ..errors import EngineError
from ..media import CellData, KeptRange, Title
from ..media.kept import MEANT_S, in_order
from ..sources.material.feed import feed_extents
from ..sources.material.seek import find_place

TIMEOUT_S = 30
READ_BYTES = 24 << 20


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


def _pictures(title: Title, moment_s: float) -> list[tuple[float, bool]]:
    """When pictures near a moment are shown, in the order in which they are stored, and which are key pictures."""
    with contextlib.suppress(EngineError, OSError, ValueError):
        return _of_disc(title, moment_s) if isinstance(title.data, CellData) else _of_file(title, moment_s)
    return []


def _of_file(title: Title, moment_s: float) -> list[tuple[float, bool]]:
    assert not isinstance(title.data, CellData)
    said = run(Command(argv=picture_packets(title, title.data.from_s + moment_s), timeout_s=TIMEOUT_S)).stdout
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
