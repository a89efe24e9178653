"""The packets and pictures of a file: when each comes, how long it lasts, how large it is."""

from __future__ import annotations

import itertools
import json
import math
from collections.abc import Sequence
from dataclasses import dataclass, field

from ..commands import probing
from ..errors import EngineError, EngineTimedOut
from .process import Command, run

READ_TIMEOUT_S = 900
GLANCE_TIMEOUT_S = 20


@dataclass(slots=True)
class Packets:
    """One stream's packets in stored order. Times are the container's own, in seconds; ``nan`` where it has none."""

    shown: list[float] = field(default_factory=list)
    decoded: list[float] = field(default_factory=list)
    durations: list[float] = field(default_factory=list)
    sizes: list[int] = field(default_factory=list)

    @property
    def steady(self) -> list[float]:
        """The times at which packets are shown where all have one, else at which they are decoded."""
        return self.decoded if any(map(math.isnan, self.shown)) else self.shown

    @property
    def times(self) -> list[float]:
        """The best time of each packet."""
        return [other if math.isnan(one) else one for one, other in zip(self.shown, self.decoded, strict=True)]

    @property
    def end_s(self) -> float | None:
        """When the last packet to be shown or heard ends; ``None`` where no packet has a time."""
        ends = [at + lasting for at, lasting in zip(self.times, self.durations, strict=True) if not math.isnan(at)]
        return max(ends, default=None)


def holes(stream: Packets, least_s: float) -> list[tuple[float, float]]:
    """From when to when no packet of a stream is shown or heard, where that lasts ``least_s`` or longer."""
    timed = zip(stream.steady, stream.durations, strict=True)
    ordered = sorted((at, at + lasting) for at, lasting in timed if not math.isnan(at))
    return [(before[1], after[0]) for before, after in itertools.pairwise(ordered) if after[0] - before[1] >= least_s]


@dataclass(frozen=True, slots=True, kw_only=True)
class Window:
    """A stretch to read: from a moment (seconds of the container), for how many seconds; ``None`` for to the end."""

    from_s: float
    length_s: float | None = None

    @property
    def interval(self) -> str:
        return f"{max(0.0, self.from_s):.3f}%" + ("" if self.length_s is None else f"+{self.length_s:.3f}")


def read_packets(path: str, window: Window | None = None) -> dict[int, Packets]:
    """Every stream's packets by its place, of the whole file or near a window; what can't be read is left out.

    Raises ``EngineTimedOut``.
    """
    argv = probing.packets(path, window.interval if window else None)
    found: dict[int, Packets] = {}

    def on_line(line: str) -> None:
        said = line.split(",")
        if len(said) < 5 or not said[0].isdigit():
            return
        stream = found.setdefault(int(said[0]), Packets())
        stream.shown.append(_number(said[1]))
        stream.decoded.append(_number(said[2]))
        stream.durations.append(_number(said[3], 0.0))
        stream.sizes.append(int(_number(said[4], 0.0)))

    timeout_s = GLANCE_TIMEOUT_S if window else READ_TIMEOUT_S
    try:
        run(Command(argv=argv, timeout_s=timeout_s, gentle=True, on_line=on_line))
    except EngineTimedOut:
        raise
    except EngineError:
        # what it read before it failed counts: a broken end is what this is for
        return found
    return found


def picture_times(path: str, place: int, count: int) -> Sequence[float]:
    """When the first ``count`` decoded pictures of a stream are shown; empty where none can be decoded."""
    argv = probing.picture_times(path, place, count)
    try:
        said = json.loads(run(Command(argv=argv, timeout_s=GLANCE_TIMEOUT_S)).stdout or b"{}")
    except (EngineError, ValueError):
        return ()
    times = [frame.get("best_effort_timestamp_time") for frame in said.get("frames", [])]
    return tuple(float(at) for at in times if at is not None)


def _number(text: str, default: float = float("nan")) -> float:
    try:
        return float(text)
    except ValueError:
        return default
