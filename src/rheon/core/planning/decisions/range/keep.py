"""Which stretches of the title are kept."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from ....catalogue import say
from ....errors import NoSuchTitle
from ....media import KeptRange, Title
from ....media.kept import MOST_STRETCHES, first_picture_s, in_order, on_pictures, steady_rate
from ....wording.lengths import moment_text, ranges_text
from ..decision import AUTOMATIC, Case, DecisionKind, Shown
from ..form import Choice, Special, Unreadable

LEAST_APART_S = 0.001


@dataclass(frozen=True, slots=True, kw_only=True)
class SaidMoment:
    """A moment of a title as it was said: seconds, and pictures on top of them; or pictures from its first one."""

    seconds: float | None = None
    pictures: int = 0


@dataclass(frozen=True, slots=True, kw_only=True)
class SaidRange:
    """A stretch as it was said: between two moments (``None``: the title's own end), or chapters counted from 1."""

    begin: SaidMoment | None = None
    end: SaidMoment | None = None
    chapters: tuple[int, int] | None = None


def read(said: str) -> tuple[SaidRange, ...]:
    """``0:10-1:20.5``; ``2:00-`` to the end; ``c2-c3`` for chapters; several with commas between."""
    parts = [part.strip() for part in said.split(",") if part.strip()]
    if not parts or len(parts) > MOST_STRETCHES:
        raise _unreadable(said[:40])
    return tuple(_said_range(part) for part in parts)


def _said_range(said: str) -> SaidRange:
    if found := re.fullmatch(r"c(\d{1,4})(?:-c?(\d{1,4}))?", said):
        first = int(found[1])
        return SaidRange(chapters=(first, int(found[2] or first)))
    begin, dash, end = said.partition("-")
    if not dash or not (begin or end):
        raise _unreadable(said)
    return SaidRange(begin=_moment(begin) if begin else None, end=_moment(end) if end else None)


def _moment(said: str) -> SaidMoment:
    if found := re.fullmatch(r"#(\d{1,8})", said):
        return SaidMoment(pictures=int(found[1]))
    if found := re.fullmatch(r"(\d{1,3}):(\d{1,2}):(\d{1,2}):(\d{1,3})", said):
        hours, minutes, seconds, pictures = map(int, found.groups())
        return SaidMoment(seconds=float(hours * 3600 + minutes * 60 + seconds), pictures=pictures)
    if re.fullmatch(r"(\d{1,3}:){0,2}\d{1,6}(\.\d{1,9})?", said):
        total = 0.0
        for part in said.split(":"):
            total = total * 60 + float(part)
        return SaidMoment(seconds=total)
    raise _unreadable(said)


def _unreadable(said: str) -> Unreadable:
    return Unreadable(
        "“{said}” is no stretch of a title: say 0:10-1:20.5, 2:00- for the rest, c2-c3 for chapters.", said=said
    )


def kept_of(title: Title, said: Sequence[SaidRange]) -> tuple[KeptRange, ...]:
    """The stretches of a title, on its pictures and in the order of time; empty where they are all of it.

    Raises ``BadPin`` for chapters that it has not, and for moments that have nothing between them.
    """
    try:
        kept = in_order(on_pictures(title, _wanted(title, one)) for one in said)
    except NoSuchTitle:
        raise KEEP.refuse(
            "There is nothing to keep: the title lasts {end}.", end=moment_text(title.duration_s)
        ) from None
    whole = len(kept) == 1 and kept[0].from_s <= LEAST_APART_S and kept[0].until_s >= title.duration_s - LEAST_APART_S
    return () if whole else kept


def _wanted(title: Title, said: SaidRange) -> KeptRange:
    if said.chapters is None:
        begin_s = 0.0 if said.begin is None else _seconds(title, said.begin)
        return KeptRange(from_s=begin_s, until_s=title.duration_s if said.end is None else _seconds(title, said.end))
    first, last = said.chapters
    listed = title.chapters
    if not 1 <= first <= last <= len(listed):
        raise KEEP.refuse(
            "This title has no chapters {first} to {last}; it has {count}.", first=first, last=last, count=len(listed)
        )
    until_s = listed[last].start_s if last < len(listed) else title.duration_s
    return KeptRange(from_s=listed[first - 1].start_s if first > 1 else 0.0, until_s=until_s)


def _seconds(title: Title, said: SaidMoment) -> float:
    rate = steady_rate(title.video) or (float(title.video.frame_rate) if title.video else 0.0)
    if said.pictures and not rate:
        raise KEEP.refuse("This title has no pictures to count.")
    start_s = first_picture_s(title) if said.seconds is None else said.seconds
    return start_s + (said.pictures / rate if said.pictures else 0.0)


def kept_value(kept: Sequence[KeptRange]) -> str:
    """The stretches as they are set by hand."""
    return ",".join(f"{one.from_s:.3f}-{one.until_s:.3f}" for one in kept)


def _show(case: Case) -> Shown | None:
    kept = case.made.kept
    if not kept:
        return Shown(value=ALL, text=say("the whole title"), reason=case.reasons[KEEP.key], keeps_reason=True)
    text = ranges_text(kept)
    if len(kept) > 1:
        text = say("{stretches}; {length} together", stretches=text, length=moment_text(case.made.duration_s))
    return Shown(
        value=kept_value(kept),
        text=text,
        reason=case.reasons[KEEP.key],
        keeps_reason=True,
        choices=(Choice(value=AUTOMATIC, text=say("the whole title")),),
    )


ALL = "all"
KEEP = DecisionKind(
    key="range.keep",
    label="Kept",
    help="Which stretches of the title go into the file: moments, pictures (#240) or chapters.",
    form=Special(read, "0:10-1:20.5; 2:00-; #240-#480; c2-c3; several with commas"),
    show=_show,
    own=True,
)
