"""The kept range: which stretches of a title go into a file, exact to the picture. Pure."""

from __future__ import annotations

import bisect
import itertools
import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from ..errors import NoSuchTitle
from .joined import of_parts, part_at, places_of
from .source import CellData, Chapter, FileData, Gap, Reason, Title
from .streams import Scan, VideoStream

EARLY = 0.045
"""Of a picture's time: a stretch begins so much before its first picture, whose stored time is rounded."""
MEANT_S, MEANT = 0.0011, 0.3
"""A moment that lies so little behind a picture's time (of which at most so much of a picture) still means it."""
LEAST_S = 0.005
MOST_STRETCHES = 200


@dataclass(frozen=True, slots=True, kw_only=True)
class KeptRange:
    """A stretch of a title: from one moment until another, in seconds of the title."""

    from_s: float
    until_s: float

    @property
    def length_s(self) -> float:
        return self.until_s - self.from_s


def in_order(kept: Iterable[KeptRange]) -> tuple[KeptRange, ...]:
    """Stretches in the order of time; those that touch or overlap are one."""
    joined: list[KeptRange] = []
    for one in sorted(kept, key=lambda kept: kept.from_s):
        if joined and one.from_s <= joined[-1].until_s:
            joined[-1] = KeptRange(from_s=joined[-1].from_s, until_s=max(joined[-1].until_s, one.until_s))
        else:
            joined.append(one)
    return tuple(joined)


def left_of(duration_s: float, out: Iterable[KeptRange]) -> tuple[KeptRange, ...]:
    """What is left of a title without some stretches of it, in the order of time."""
    left: list[KeptRange] = []
    at_s = 0.0
    for one in in_order(out):
        if one.from_s - at_s >= LEAST_S:
            left.append(KeptRange(from_s=at_s, until_s=one.from_s))
        at_s = max(at_s, one.until_s)
    if duration_s - at_s >= LEAST_S:
        left.append(KeptRange(from_s=at_s, until_s=duration_s))
    return tuple(left)


def moments_in(kept: Sequence[KeptRange], count: int) -> list[tuple[float, KeptRange]]:
    """So many moments evenly over stretches, as if these followed each other, each with the stretch that it is in."""
    ends_s = list(itertools.accumulate(one.length_s for one in kept))
    found = []
    for number in range(count):
        moment_s = ends_s[-1] * (number + 0.5) / count
        place = bisect.bisect_right(ends_s, moment_s)
        found.append((kept[place].until_s - (ends_s[place] - moment_s), kept[place]))
    return found


def middle_of(kept: Sequence[KeptRange], length_s: float) -> KeptRange:
    """So many seconds in the middle of the longest of some stretches, which is as long at least."""
    longest = max(kept, key=lambda one: one.length_s)
    begin_s = (longest.from_s + longest.until_s - length_s) / 2
    return KeptRange(from_s=begin_s, until_s=begin_s + length_s)


def on_pictures(title: Title, kept: KeptRange) -> KeptRange:
    """The stretch from its first whole picture to the one that is the first not to be in it.

    Raises ``NoSuchTitle`` where the title has nothing there.
    """
    until_s = min(kept.until_s, title.duration_s)
    if title.joined:
        kept = KeptRange(from_s=_on_picture(title, kept.from_s), until_s=_on_picture(title, until_s))
        until_s = kept.until_s
    if not 0 <= kept.from_s < title.duration_s or until_s - kept.from_s < LEAST_S:
        raise NoSuchTitle(
            "Title {number} has nothing from {from_s:g} s until {end_s:g} s.",
            number=title.number,
            from_s=kept.from_s,
            end_s=until_s,
            advice="It lasts {duration_s} s.",
            duration_s=title.duration_s,
        )
    rate = steady_rate(title.video)
    if title.video is None or rate is None or title.joined:
        return KeptRange(from_s=kept.from_s, until_s=until_s)
    first_s = first_picture_s(title)
    begin = 0 if kept.from_s <= 0 else picture_from(kept.from_s - first_s, rate)
    end = picture_from(until_s - first_s, rate)
    from_s = first_s + begin / rate if kept.from_s > 0 else 0.0
    whole = until_s >= title.duration_s - MEANT_S
    return KeptRange(from_s=from_s, until_s=title.duration_s if whole else max(first_s + end / rate, from_s + 1 / rate))


def _on_picture(title: Title, moment_s: float) -> float:
    """A moment of a joined title on a picture of its part."""
    placed = part_at(title, moment_s)
    into_s, rate = moment_s - placed.at_s, steady_rate(placed.part.video)
    if into_s <= 0 or into_s >= placed.part.duration_s - MEANT_S or rate is None:
        return moment_s
    first_s = first_picture_s(placed.part)
    return min(placed.end_s, placed.at_s + first_s + picture_from(into_s - first_s, rate) / rate)


def picture_from(moment_s: float, rate: float) -> int:
    """The number (from 0) of the first picture that is not before a moment, both counted from the first picture."""
    return max(0, math.ceil(moment_s * rate - min(MEANT, max(EARLY, MEANT_S * rate))))


def steady_rate(video: VideoStream | None) -> float | None:
    """How many pictures a second, where they come evenly; ``None`` where only their own times tell."""
    if video is None or video.variable_rate or video.scan in (Scan.TELECINED, Scan.MIXED) or not video.frame_rate:
        return None
    return float(video.frame_rate)


def first_picture_s(title: Title) -> float:
    """When the title's first picture is shown: a disc's clock begins with it, a file's packets say it."""
    if isinstance(title.data, CellData) or title.video is None or title.video.span is None:
        return 0.0
    return max(0.0, title.video.span.start_s - title.data.from_s)


def cut_times(title: Title, from_s: float, until_s: float | None, number: int) -> Title:
    """The stretch between two moments as a title numbered ``number``. Raises ``NoSuchTitle`` where there is none."""
    wanted = KeptRange(from_s=from_s, until_s=title.duration_s if until_s is None else until_s)
    found = on_pictures(title, wanted)
    if title.joined:
        return replace(kept_title(title, [found]), number=number, reasons=_reasons(title, found))
    begins_s = reading_begins_s(title, found.from_s)
    ends_s = found.until_s if found.until_s >= title.duration_s - MEANT_S else reading_begins_s(title, found.until_s)
    # a stretch of whole pictures is read from a little before the first until a little before the one behind it
    length_s = round(ends_s - begins_s, 6) if found.from_s <= 0 else round(found.length_s, 6)
    return replace(
        title,
        number=number,
        key=f"{title.key}@{found.from_s:.3f}-{found.until_s:.3f}",
        duration_s=length_s,
        size_bytes=share_of(title, length_s),
        data=_timed_data(title.data, begins_s, begins_s + length_s),
        chapters=_chapters_within(title, found),
        gaps=gaps_within(title, found.from_s, found.until_s),
        promised_s=None,
        part_of=title.number,
        reasons=_reasons(title, found),
        shares=(),
    )


def reading_begins_s(title: Title, from_s: float) -> float:
    """The moment of a title from which a stretch that begins with a picture is read, and from which its times count."""
    rate = steady_rate(title.video)
    return max(0.0, from_s - (EARLY / rate if rate and from_s else 0.0))


def _reasons(title: Title, kept: KeptRange) -> tuple[Reason, ...]:
    values: dict[str, object] = {
        "title": title.number,
        "from_s": round(kept.from_s, 3),
        "until_s": round(kept.until_s, 3),
    }
    return (Reason(code="time_range", values=values),)


def stretches_of(title: Title, kept: Sequence[KeptRange]) -> tuple[tuple[Title, KeptRange], ...]:
    """What a file is made of, in its order: stretches of the title, or of the parts of a joined one."""
    wanted = tuple(kept) or (KeptRange(from_s=0.0, until_s=title.duration_s),)
    if not title.joined:
        return tuple((title, one) for one in wanted)
    found: list[tuple[Title, KeptRange]] = []
    for one in wanted:
        for placed in places_of(title.joined):
            from_s, until_s = max(one.from_s - placed.at_s, 0.0), min(one.until_s, placed.end_s) - placed.at_s
            if until_s - from_s >= LEAST_S:
                # as the whole has them: its own may have been changed
                chapters = _chapters_within(title, KeptRange(from_s=placed.at_s, until_s=placed.end_s))
                part = replace(placed.part, chapters=chapters)
                found.append((part, KeptRange(from_s=from_s, until_s=until_s)))
    return tuple(found)


def piece_shown(title: Title, kept: Sequence[KeptRange], part: Title, at_s: float) -> int:
    """The number of the piece that shows a moment of a part of a joined title; where none does, the part's first."""
    # a part's chapters may have been changed in the whole
    own = [(n, one) for n, (shown, one) in enumerate(stretches_of(title, kept)) if shown.data == part.data]
    return next((n for n, one in own if at_s < one.until_s), own[0][0] if own else 0)


def pieces_of(title: Title, kept: Sequence[KeptRange]) -> tuple[Title, ...]:
    """What a file is made of, in its order: the title itself, each of its stretches, or those of its parts."""
    return tuple(
        one if _is_whole(one, stretch) else cut_times(one, stretch.from_s, stretch.until_s, one.number)
        for one, stretch in stretches_of(title, kept)
    )


def _is_whole(title: Title, kept: KeptRange) -> bool:
    return kept.from_s <= 0 and kept.until_s >= title.duration_s - 1e-6


def kept_title(title: Title, kept: Sequence[KeptRange]) -> Title:
    """The title as its kept stretches make it: its length, size, chapters and gaps.

    Its data are those of the first stretch: what a file is really made of are the pieces. Raises ``NoSuchTitle``.
    """
    pieces = pieces_of(title, kept)
    if title.joined:
        key = f"{title.key}@{'+'.join(piece.key for piece in pieces)}"
        return replace(of_parts(title, pieces), key=key, part_of=title.number) if kept else title
    if len(pieces) == 1:
        return pieces[0]
    return concatenated(title, pieces)


def concatenated(title: Title, pieces: Sequence[Title]) -> Title:
    """Pieces one after the other as one title. A chapter that a later piece goes on with is not begun again."""
    chapters: list[Chapter] = []
    gaps: list[Gap] = []
    at_s = 0.0
    for piece in pieces:
        for chapter in piece.chapters:
            goes_on = chapter.start_s == 0 and chapters and chapter.name == chapters[-1].name and chapter.name
            if not goes_on:
                start_s = round(at_s + chapter.start_s, 3)
                chapters.append(Chapter(number=len(chapters) + 1, start_s=start_s, name=chapter.name))
        gaps += [Gap(from_s=at_s + gap.from_s, to_s=at_s + gap.to_s) for gap in piece.gaps]
        at_s += piece.duration_s
    return replace(
        pieces[0],
        key="+".join(piece.key for piece in pieces),
        duration_s=round(at_s, 6),
        size_bytes=sum(piece.size_bytes for piece in pieces),
        chapters=tuple(chapters),
        gaps=tuple(gaps),
        part_of=title.number,
    )


def share_of(title: Title, length_s: float) -> int:
    """How many of the title's bytes a stretch of it has, by its length."""
    return round(title.size_bytes * length_s / title.duration_s) if title.duration_s else 0


def gaps_within(title: Title, from_s: float, end_s: float) -> tuple[Gap, ...]:
    """The title's gaps that a stretch has, in its own time."""
    return tuple(
        Gap(from_s=max(0.0, gap.from_s - from_s), to_s=min(end_s, gap.to_s) - from_s)
        for gap in title.gaps
        if gap.to_s > from_s and gap.from_s < end_s
    )


def _timed_data(data: CellData | FileData, from_s: float, end_s: float) -> CellData | FileData:
    if isinstance(data, FileData):
        return replace(data, from_s=round(data.from_s + from_s, 6))
    start_s, stop_s = from_s + data.skip_s, end_s + data.skip_s
    kept = [cell for cell in data.cells if cell.start_s < stop_s and cell.start_s + cell.duration_s > start_s]
    if not kept:
        return data
    first_s = kept[0].start_s
    cells = tuple(replace(cell, start_s=round(cell.start_s - first_s, 6)) for cell in kept)
    return replace(data, cells=cells, skip_s=round(start_s - first_s, 6), other_angles=())


def _chapters_within(title: Title, kept: KeptRange) -> tuple[Chapter, ...]:
    """The chapters of a stretch; the one that it begins in begins with it."""
    inside = [chapter for chapter in title.chapters if chapter.start_s < kept.until_s - 0.001]
    current = [chapter for chapter in inside if chapter.start_s <= kept.from_s + 0.001][-1:]
    later = [chapter for chapter in inside if chapter.start_s > kept.from_s + 0.001]
    return tuple(
        Chapter(number=at, start_s=round(max(0.0, chapter.start_s - kept.from_s), 3), name=chapter.name)
        for at, chapter in enumerate([*current, *later], start=1)
    )
