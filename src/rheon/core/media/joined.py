"""Joined titles: what several titles, one after the other, are as one. Pure."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from .source import Cell, CellData, Chapter, Gap, Reason, Title
from .streams import AudioStream, Borders, Span, SubtitleStream, VideoStream


@dataclass(frozen=True, slots=True, kw_only=True)
class Placed:
    """A part of a joined title, and when in that it begins, in seconds."""

    part: Title
    at_s: float

    @property
    def end_s(self) -> float:
        return self.at_s + self.part.duration_s


def of_parts(whole: Title, parts: Sequence[Title]) -> Title:
    """A title made of parts whose tracks are aligned; what else it is comes from ``whole``."""
    placed = list(places_of(parts))
    return replace(
        whole,
        duration_s=round(sum(part.duration_s for part in parts), 6),
        size_bytes=sum(part.size_bytes for part in parts),
        data=parts[0].data,
        container=parts[0].container,
        video=_picture(parts),
        audio=tuple(_sound([part.audio[slot] for part in parts], parts) for slot in range(len(parts[0].audio))),
        subtitles=tuple(_line([part.subtitles[slot] for part in parts]) for slot in range(len(parts[0].subtitles))),
        chapters=tuple(_chapters(placed)),
        angles=1,
        fault=next((part.fault for part in parts if part.fault), None),
        gaps=tuple(Gap(from_s=one.at_s + g.from_s, to_s=one.at_s + g.to_s) for one in placed for g in one.part.gaps),
        promised_s=_promised(parts),
        reasons=(Reason(code="joined", values={"count": len(parts)}),),
        joined=tuple(parts),
    )


def as_one(title: Title) -> Title:
    """A join of disc titles that agree as one title of all their cells, for copying it."""
    cells: list[Cell] = []
    start_s = 0.0
    for part in title.joined:
        assert isinstance(part.data, CellData)
        cells += [replace(cell, start_s=round(start_s + cell.start_s, 6)) for cell in part.data.cells]
        start_s += sum(cell.duration_s for cell in part.data.cells)
    first = title.joined[0].data
    assert isinstance(first, CellData)
    return replace(title, data=replace(first, cells=tuple(cells), other_angles=()), joined=())


def places_of(parts: Sequence[Title]) -> Iterator[Placed]:
    """The parts with the moments at which they begin."""
    at_s = 0.0
    for part in parts:
        yield Placed(part=part, at_s=at_s)
        at_s = round(at_s + part.duration_s, 6)


def part_at(title: Title, moment_s: float) -> Placed:
    """The part that is shown at a moment of a joined title; a title that is no join is its only part."""
    if not title.joined:
        return Placed(part=title, at_s=0.0)
    placed = list(places_of(title.joined))
    return next((one for one in placed if moment_s < one.end_s - 1e-6), placed[-1])


def same_frame(videos: Sequence[VideoStream]) -> bool:
    """Whether pictures have one size and shape, so that none has to be fitted into another's frame."""
    return all(frame_of(one) == frame_of(videos[0]) for one in videos)


def frame_of(video: VideoStream) -> tuple[object, ...]:
    """Size, shape of a pixel and turn of a picture as it is stored."""
    return (video.width, video.height, video.sample_aspect, video.rotation)


def _chapters(placed: Sequence[Placed]) -> Iterator[Chapter]:
    number, last = 0, None
    for one in placed:
        for chapter in one.part.chapters:
            # a stretch that goes on with a part begins no chapter again
            if chapter.start_s == 0 and chapter.name is not None and chapter.name == last:
                continue
            number, last = number + 1, chapter.name
            yield replace(chapter, number=number, start_s=round(one.at_s + chapter.start_s, 3))


def _promised(parts: Sequence[Title]) -> float | None:
    if all(part.promised_s is None for part in parts):
        return None
    return round(sum(part.promised_s or part.duration_s for part in parts), 6)


def _picture(parts: Sequence[Title]) -> VideoStream | None:
    """What a plan goes by: the pictures' common form, else the largest at the quickest rate."""
    videos = [part.video for part in parts if part.video is not None]
    if not videos:
        return None
    rates = [(part.video.bitrate_bps, part.duration_s) for part in parts if part.video]
    span = _span([video.span for video in videos], parts)
    largest = max(videos, key=lambda one: one.width * one.height * one.sample_aspect)
    return replace(
        largest,
        frame_rate=max(video.frame_rate for video in videos),
        variable_rate=any(video.variable_rate for video in videos),
        borders=_common_borders(videos) if same_frame(videos) else None,
        bitrate_bps=_mean(rates),
        span=span,
    )


def _common_borders(videos: Sequence[VideoStream]) -> Borders | None:
    """What is black in all parts; ``None`` where not all were looked at."""
    found = [video.borders for video in videos if video.borders is not None]
    if len(found) < len(videos):
        return None
    return Borders(
        top=min(one.top for one in found),
        bottom=min(one.bottom for one in found),
        left=min(one.left for one in found),
        right=min(one.right for one in found),
    )


def _sound(tracks: Sequence[AudioStream], parts: Sequence[Title]) -> AudioStream:
    """A track of the whole: with the most channels that one of its parts has."""
    there = [(track, part) for track, part in zip(tracks, parts, strict=True) if not track.absent]
    if not there:
        return tracks[0]
    widest = max((track for track, _ in there), key=lambda track: (track.channels, track.sample_rate))
    spans = [track.span for track, _ in there] if len(there) == len(parts) else [None]
    levels = [(track.loudness_lufs, part.duration_s) for track, part in there if not track.silent]
    peaks = [track.peak_dbfs for track, _ in there if not track.silent]
    return replace(
        widest,
        language=_language([track for track, _ in there]),
        purpose=there[0][0].purpose,
        name=there[0][0].name,
        absent=len(there) < len(parts),
        silent=all(track.silent for track, _ in there),
        bitrate_bps=_mean([(track.bitrate_bps, part.duration_s) for track, part in there]),
        lossless_bps=_mean([(track.lossless_bps, part.duration_s) for track, part in there]),
        loudness_lufs=_loudness(levels),
        peak_dbfs=None if None in peaks else max((peak for peak in peaks if peak is not None), default=None),
        span=_span(spans, parts),
    )


def _line(tracks: Sequence[SubtitleStream]) -> SubtitleStream:
    there = [track for track in tracks if not track.absent]
    if not there:
        return tracks[0]
    return replace(there[0], language=_language(there), absent=len(there) < len(tracks), span=None)


def _language(tracks: Sequence[AudioStream] | Sequence[SubtitleStream]) -> str:
    """The first one that is named."""
    return next((track.language for track in tracks if track.language != "und"), "und")


def _span(spans: Sequence[Span | None], parts: Sequence[Title]) -> Span | None:
    """What a stream of all parts holds, where every one's packets were counted."""
    counted = [span for span in spans if span is not None and span.whole]
    if len(counted) < len(parts) or any(part.part_of is not None for part in parts):
        return None
    before_s = sum(part.duration_s for part in parts[:-1])
    return Span(
        start_s=counted[0].start_s,
        end_s=before_s + counted[-1].end_s,
        packets=sum(span.packets for span in counted),
        size_bytes=sum(span.size_bytes for span in counted),
    )


def _mean(values: Sequence[tuple[float | None, float]]) -> int | None:
    """The mean of values over lengths of time; ``None`` where one is not known."""
    known = [(value, length_s) for value, length_s in values if value is not None]
    total_s = sum(length_s for _, length_s in known)
    if len(known) < len(values) or not total_s:
        return None
    return round(sum(value * length_s for value, length_s in known) / total_s)


def _loudness(levels: Sequence[tuple[float | None, float]]) -> float | None:
    """Power is what adds up (ITU-R BS.1770)."""
    known = [(level, length_s) for level, length_s in levels if level is not None]
    total_s = sum(length_s for _, length_s in known)
    if len(known) < len(levels) or not total_s:
        return None
    return round(10 * math.log10(sum(10 ** (level / 10) * length_s for level, length_s in known) / total_s), 1)
