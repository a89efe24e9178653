"""What the streams of a file really hold, and how far: looked at instead of believed."""

from __future__ import annotations

import itertools
import math
import statistics
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from pathlib import Path

from ...engine.packets import Packets, Window, holes, picture_times, read_packets
from ...engine.probe import ProbedFile
from ...errors import EngineTimedOut, NotASource
from ...media import AudioStream, Gap, Span, SubtitleStream, VideoStream
from ...media.timing import find_timing
from ..faults import joined
from .promises import header_promise

WHOLE_BYTES = 96 << 20
"""Files up to this size are read through at once; of larger ones only the head and the tail."""
HEAD_S, TAIL_S, BRIEF_S = 12.0, 12.0, 2.0
HEAD_PICTURES = 40
ROUNDS = 24
MISSING_S = 0.75
"""So much may be missing at a file's end before that is told: containers round, and tracks end at different times."""
FIELD_PACKETS = 0.7
LEAST_HOLE_S = 0.15

Read = Mapping[int, Packets]


@dataclass(frozen=True, slots=True, kw_only=True)
class Measured:
    """A probed file with what its packets say.

    ``ends_s`` is where its data end, ``promised_s`` how long it says it is; ``empty`` are the places of picture and
    sound streams that are declared and hold nothing; ``gaps`` are holes in the middle, looked for in files that were
    read through.
    """

    found: ProbedFile
    ends_s: float
    promised_s: float
    empty: tuple[int, ...] = ()
    gaps: tuple[Gap, ...] = ()

    @property
    def cut_off(self) -> bool:
        """Whether data that the file promises are missing at its end."""
        return self.promised_s - self.ends_s > MISSING_S


def measure(path: str, found: ProbedFile) -> Measured:
    """Look at a file's packets: all of a small one, else its head and its tail.

    Where looking takes too long the headers are believed. Raises ``NotASource`` where no stream holds anything.
    """
    try:
        if Path(path).stat().st_size <= WHOLE_BYTES:
            return _judged(path, found, read_packets(path), {}, whole=True)
        head = read_packets(path, Window(from_s=found.start_s, length_s=HEAD_S))
        return _judged(path, found, head, _tail(path, found), whole=False)
    except EngineTimedOut:
        return Measured(found=found, ends_s=found.duration_s, promised_s=found.duration_s)


def _tail(path: str, found: ProbedFile) -> Read:
    """The last packets there are: those near the promised end, else the last moment that has some, by halving."""
    start, end = found.start_s, found.start_s + found.duration_s
    tail = read_packets(path, Window(from_s=end - TAIL_S))
    if any(stream.sizes for stream in tail.values()):
        return tail
    low, high = start, end
    for _ in range(ROUNDS):
        if high - low <= BRIEF_S:
            break
        middle = (low + high) / 2
        if any(s.sizes for s in read_packets(path, Window(from_s=middle, length_s=BRIEF_S)).values()):
            low = middle
        else:
            high = middle
    return read_packets(path, Window(from_s=low))


def _judged(path: str, found: ProbedFile, head: Read, tail: Read, *, whole: bool) -> Measured:
    held = {place for place, stream in (*head.items(), *tail.items()) if stream.sizes}
    declared: list[VideoStream | AudioStream] = [*found.pictures, *found.audio]
    empty = {s.place for s in declared if whole and s.place not in held}
    pictures = [picture for picture in found.pictures if picture.place in held] or list(found.pictures[: not whole])
    sounds = [sound for sound in found.audio if sound.place not in empty]
    if not pictures and not sounds:
        raise NotASource("This file declares streams, but none of them holds anything.")
    spans = {place: span for place in held if (span := _span(place, head, tail, found.start_s, whole=whole))}
    made = replace(
        found,
        pictures=tuple(_timed(path, replace(p, span=spans.get(_place(p))), head, found.start_s) for p in pictures[:1]),
        audio=tuple(replace(s, index=at, span=spans.get(_place(s))) for at, s in enumerate(sounds)),
        subtitles=tuple(replace(s, span=spans.get(_place(s))) for s in found.subtitles),
    )
    streams: list[VideoStream | AudioStream] = [*made.pictures, *made.audio]
    played = [s.span.end_s for s in streams if s.span is not None]
    ends_s = max(played, default=found.duration_s)
    # a subtitle may stand longer than the film, and keeps the container long
    last_s = max((ends_s, *(s.span.end_s for s in made.subtitles if s.span is not None)))
    said_s = max(found.promised_s or 0.0, header_promise(Path(path)) or 0.0)
    promised_s = said_s if said_s > last_s + MISSING_S else ends_s
    return Measured(
        found=replace(made, duration_s=round(ends_s, 3)),
        ends_s=ends_s,
        promised_s=promised_s,
        empty=tuple(sorted(place for place in empty if place is not None)),
        gaps=_gaps(made, head) if whole else (),
    )


def _gaps(found: ProbedFile, read: Read) -> tuple[Gap, ...]:
    """Holes in the sound, and in pictures that come at a steady rate: what is not there can't be told from silence."""
    steady = [video for video in found.pictures if not video.variable_rate]
    least = [(_place(video), max(LEAST_HOLE_S, 4 / float(video.frame_rate))) for video in steady]
    least += [(_place(sound), LEAST_HOLE_S) for sound in found.audio]
    seen = [hole for place, least_s in least if place in read for hole in holes(read[place], least_s)]
    return joined([Gap(from_s=one - found.start_s, to_s=other - found.start_s) for one, other in sorted(seen)])


def _place(stream: VideoStream | AudioStream | SubtitleStream) -> int:
    return -1 if stream.place is None else stream.place


def _span(place: int, head: Read, tail: Read, origin: float, *, whole: bool) -> Span | None:
    first, last = head.get(place) or tail.get(place), tail.get(place) or head.get(place)
    starts = [at for at in (first.times if first else ()) if not math.isnan(at)]
    end_s = last.end_s if last else None
    if not starts or end_s is None or first is None:
        return None
    return Span(
        start_s=round(min(starts) - origin, 6),
        end_s=round(end_s - origin, 6),
        packets=len(first.sizes),
        size_bytes=sum(first.sizes),
        whole=whole,
    )


def _timed(path: str, video: VideoStream, head: Read, origin: float) -> VideoStream:
    """The stream with the rate its pictures come at, and the moment of the first one that can be decoded."""
    shown = picture_times(path, _place(video), HEAD_PICTURES)
    packets = head.get(_place(video))
    if packets is None or not shown:
        return video
    if video.span is not None:
        video = replace(video, span=replace(video.span, start_s=round(shown[0] - origin, 6)))
    if _by_field(packets.steady, shown):
        return video
    timing = find_timing(packets.steady, [rate for rate in (video.frame_rate, video.holding_rate) if rate])
    return video if timing is None else replace(video, frame_rate=timing.rate, variable_rate=timing.variable)


def _by_field(packets: Sequence[float], shown: Sequence[float]) -> bool:
    """Whether each field is a packet of its own, so that packets say nothing of pictures."""
    stored, decoded = (_usual_gap(sorted(at for at in times if not math.isnan(at))) for times in (packets, shown[:-2]))
    return stored is not None and decoded is not None and stored < FIELD_PACKETS * decoded


def _usual_gap(times: Sequence[float]) -> float | None:
    gaps = [other - one for one, other in itertools.pairwise(times)]
    return statistics.median(gaps) if len(gaps) > 3 else None
