"""Lengths, what is missing of them, and the sides of a picture, as people say it."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from ..catalogue import later, say
from ..media import Gap, KeptRange, Title
from .values import Values, number


def duration_text(seconds: float) -> str:
    """``1 h 32 min`` from an hour on, ``4:07`` below."""
    whole = round(seconds)
    if whole >= 3600:
        return say("{hours} h {minutes} min", hours=whole // 3600, minutes=whole % 3600 // 60)
    return f"{whole // 60}:{whole % 60:02}"


def size_text(size_bytes: float) -> str:
    """``712 MB``, ``1.38 GB``: powers of ten, as devices print them, with three figures where they say something."""
    if size_bytes < 1e6:
        return f"{max(1, round(size_bytes / 1e3))} kB"
    unit, value = ("MB", size_bytes / 1e6) if size_bytes < 1e9 else ("GB", size_bytes / 1e9)
    return f"{value:.{0 if value >= 100 else 1 if value >= 10 else 2}f} {unit}"


def in_time(message: str) -> Callable[[Values], str]:
    """A message of which every place is a time."""
    return lambda v: say(message, **{key: duration_text(number(value)) for key, value in v.items()})


def moment_text(seconds: float) -> str:
    """A moment to the thousandth: ``0:09.96``, ``1:02:03.5``."""
    whole, thousandths = divmod(round(seconds * 1000), 1000)
    rest = f".{thousandths:03}".rstrip("0").rstrip(".")
    if whole >= 3600:
        return f"{whole // 3600}:{whole // 60 % 60:02}:{whole % 60:02}{rest}"
    return f"{whole // 60}:{whole % 60:02}{rest}"


def ranges_text(kept: Sequence[KeptRange]) -> str:
    """``0:10 to 1:20.5, 2:00 to 3:00``."""
    return ", ".join(
        say("{begin} to {end}", begin=moment_text(one.from_s), end=moment_text(one.until_s)) for one in kept
    )


def sides_text(top: int, bottom: int, left: int, right: int) -> str:
    """Lines and columns at the sides of a picture: ``60 above, 60 below``; empty where there are none."""
    sides = (
        (later("{count} above"), top),
        (later("{count} below"), bottom),
        (later("{count} left"), left),
        (later("{count} right"), right),
    )
    return ", ".join(say(side, count=count) for side, count in sides if count)


def ends_early_text(ends_s: float, promised_s: float) -> str:
    """``ends at 0:06 of 0:12: the rest of it is missing``."""
    ends, promised = duration_text(ends_s), duration_text(promised_s)
    return say("ends at {ends} of {promised}: the rest of it is missing", ends=ends, promised=promised)


def gap_text(gap: Gap) -> str:
    """``8 s could not be read at 1:20``."""
    lost_s = gap.to_s - gap.from_s
    lost = say("part of a second") if lost_s < 0.5 else f"{lost_s:.0f} s"
    return say("{lost} could not be read at {at}", lost=lost, at=duration_text(gap.from_s))


def missing_sentences(title: Title) -> tuple[str, ...]:
    """What is missing of a title, a sentence each: its end, and stretches that can't be read."""
    said = []
    if title.promised_s is not None:
        lost = ends_early_text(title.duration_s, title.promised_s)
        said.append(say("It {ends_early}, and you will be asked before it is made.", ends_early=lost))
    return (*said, *(f"{gap_text(gap)}." for gap in title.gaps))
