"""Joining titles: each track of the whole is made of those of its parts that belong together. Pure."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import TypeVar

from ..errors import CantJoin
from .joined import of_parts
from .kept import cut_times, first_picture_s, steady_rate
from .source import Chapter, FileData, Title
from .streams import AudioStream, Purpose, SubtitlePurpose, SubtitleStream

Track = TypeVar("Track", bound=AudioStream | SubtitleStream)

MOST_PARTS = 100
UNNAMED = "und"
PICTURE_FORMATS = frozenset({"dvd_subtitle", "hdmv_pgs_subtitle", "dvb_subtitle", "xsub"})
BEGINS_S = 0.5
"""A part's own first chapter may begin so much behind its first moment, and is named by the part all the same."""
HEAD_S, TAIL_S = 0.25, 0.5
"""So much sound before a part's first picture and behind its last one is left out: no picture has to stand there."""


@dataclass(frozen=True, slots=True, kw_only=True)
class PartWanted:
    """A title that is to be joined, and what its chapter is called."""

    title: Title
    name: str


def join_titles(wanted: Sequence[PartWanted], number: int, key: str = "") -> Title:
    """One title of several, in their order. Raises ``CantJoin``.

    Every part holds a track for each of the whole, in its order: one that it has not is marked ``absent``. Chapters
    are named by the parts; a part's own chapters stand between them. The data are those of the first part: what is
    made is made of ``joined``.
    """
    _check(wanted)
    titles = [_on_its_pictures(one.title) for one in wanted]
    sounds = _aligned([title.audio for title in titles], _sound_mark, fill_first=True)
    lines = _aligned([title.subtitles for title in titles], _line_mark)
    parts = tuple(
        replace(
            title,
            audio=tuple(sounds[place]),
            subtitles=tuple(lines[place]),
            chapters=_named(title, wanted[place].name),
        )
        for place, title in enumerate(titles)
    )
    tags = {key: text for key, text in titles[0].tags.items() if all(one.tags.get(key) == text for one in titles)}
    whole = replace(titles[0], number=number, key=key, part_of=None, name=None, tags=tags, artwork=None, shares=())
    return of_parts(whole, parts)


def _check(wanted: Sequence[PartWanted]) -> None:
    if not 2 <= len(wanted) <= MOST_PARTS:
        raise CantJoin("A join is made of 2 to {most} titles.", most=MOST_PARTS)
    for one in wanted:
        if one.title.joined:
            raise CantJoin("{name} is a join itself: join its parts.", name=one.name)
        if one.title.fault is not None or one.title.duration_s <= 0:
            raise CantJoin("{name} can't be read, so it can't be joined.", name=one.name)
    seen = [one.name for one in wanted if one.title.video is not None]
    heard = [one.name for one in wanted if one.title.video is None]
    if seen and heard:
        raise CantJoin(
            "{heard} is only sound and {seen} has a picture: they can't be joined.", heard=heard[0], seen=seen[0]
        )
    if not any(one.title.video or one.title.audio for one in wanted):
        raise CantJoin("There is neither a picture nor sound to join.")


def _sound_mark(track: AudioStream) -> tuple[object, ...]:
    purpose = Purpose.MAIN if track.purpose is Purpose.UNKNOWN else track.purpose
    return (track.language, purpose, track.is_core)


def _line_mark(track: SubtitleStream) -> tuple[object, ...]:
    purpose = SubtitlePurpose.MAIN if track.purpose is SubtitlePurpose.UNKNOWN else track.purpose
    return (track.language, purpose, track.forced.value == "all")


def _aligned(
    parts: Sequence[Sequence[Track]], mark: Callable[[Track], object], *, fill_first: bool = False
) -> list[list[Track]]:
    """For each part its track in every slot; one that is ``absent`` where it has none that belongs there.

    A track without a language belongs to any; with ``fill_first`` the first slot takes what a part has rather than
    nothing, so that nobody hears silence for a wrong label.
    """
    slots: list[Track] = []
    rows: list[list[Track | None]] = []
    for tracks in parts:
        left = list(tracks)
        row = [_taken(left, _same(left, slot, mark)) for slot in slots]
        row = [found or _taken(left, _may_be(left, slot)) for found, slot in zip(row, slots, strict=True)]
        if fill_first and slots and row[0] is None:
            row[0] = _taken(left, sorted(left, key=_aside))
        slots += left
        rows.append([*row, *left])
    return [
        [_in_slot(row[place] if place < len(row) else None, slot, place) for place, slot in enumerate(slots)]
        for row in rows
    ]


def _same(left: Sequence[Track], slot: Track, mark: Callable[[Track], object]) -> list[Track]:
    """The tracks of a slot's language and purpose, those of its form first."""
    fits = [one for one in left if _same_kind(one, slot) and mark(one) == mark(slot)]
    return sorted(fits, key=lambda one: not _same_form(one, slot))


def _may_be(left: Sequence[Track], slot: Track) -> list[Track]:
    """The tracks that may belong into a slot since one of both says no language."""
    return [
        one
        for one in left
        if _same_kind(one, slot) and UNNAMED in (one.language, slot.language) and _aside(one) == _aside(slot)
    ]


def _aside(track: AudioStream | SubtitleStream) -> bool:
    return track.purpose.value not in ("main", "unknown")


def _taken(left: list[Track], fits: Sequence[Track]) -> Track | None:
    """The first of the tracks that fit, out of those that are left."""
    best = next(iter(fits), None)
    if best is not None:
        left.remove(best)
    return best


def _in_slot(track: Track | None, slot: Track, place: int) -> Track:
    if isinstance(track, SubtitleStream):
        return replace(track, index=place, own_index=track.in_file)
    if track is not None:
        return replace(track, index=place)
    missing = replace(slot, index=place, absent=True, span=None, place=None, stream_id=None)
    return replace(missing, silent=True) if isinstance(missing, AudioStream) else replace(missing, path=None)


def _same_kind(one: AudioStream | SubtitleStream, other: AudioStream | SubtitleStream) -> bool:
    """Subtitles as text and subtitles as pictures are never one track."""
    if isinstance(one, AudioStream) or isinstance(other, AudioStream):
        return True
    return (one.format in PICTURE_FORMATS) == (other.format in PICTURE_FORMATS)


def _same_form(one: AudioStream | SubtitleStream, other: AudioStream | SubtitleStream) -> bool:
    if isinstance(one, AudioStream) and isinstance(other, AudioStream):
        return (one.codec, one.channels) == (other.codec, other.channels)
    return isinstance(one, SubtitleStream) and isinstance(other, SubtitleStream) and one.format == other.format


def _named(title: Title, name: str) -> tuple[Chapter, ...]:
    """A part's chapters: the first is the part itself."""
    later = [chapter for chapter in title.chapters if chapter.start_s > BEGINS_S]
    listed = [Chapter(number=1, start_s=0.0, name=name), *later]
    return tuple(replace(chapter, number=number) for number, chapter in enumerate(listed, start=1))


def left_out_s(title: Title, part: Title) -> float:
    """How much of a title's beginning a join leaves out of the part that it became, up to its first picture."""
    if not isinstance(title.data, FileData) or not isinstance(part.data, FileData):
        return 0.0
    return first_picture_s(title) if part.data.from_s > title.data.from_s else 0.0


def _on_its_pictures(title: Title) -> Title:
    """A file from its first picture to the end of its last one, where little else lies around them."""
    video, data = title.video, title.data
    if video is None or video.span is None or not isinstance(data, FileData) or data.from_s > 0:
        return title
    first_s, end_s, rate = first_picture_s(title), video.span.end_s, steady_rate(video)
    whole = title.part_of is None
    if whole and rate is not None and video.span.whole:
        # where times are those of decoding, the last pictures end later
        end_s = max(end_s, first_s + video.span.packets / rate)
        title = replace(title, duration_s=max(title.duration_s, end_s))
    begins_s = first_s if first_s <= HEAD_S else 0.0
    ends_s = end_s if whole and 0 < title.duration_s - end_s <= TAIL_S else title.duration_s
    if not begins_s and ends_s == title.duration_s:
        return title
    cut = cut_times(title, begins_s, ends_s, title.number)
    return replace(cut, key=title.key, size_bytes=title.size_bytes, part_of=cut.part_of if whole else title.part_of)
