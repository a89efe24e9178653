"""Titles joined into one, and whether their streams may follow each other as they are."""

from __future__ import annotations

import contextlib
import json
from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction

from ..commands.probing import setups
from ..engine import Command, run
from ..errors import RheonError
from ..media import AudioStream, CellData, FileData, Title, VideoStream
from ..media.joined import frame_of
from ..media.joining import HEAD_S, PartWanted, join_titles
from ..media.kept import steady_rate
from .scenes import pictures_shown

TIMEOUT_S = 30
NEAR_S, MOST_OFF_S = 1.0, 0.25
SAME_RATE = Fraction(1, 2000)


def joined_title(wanted: Sequence[PartWanted], number: int, key: str = "") -> Title:
    """Titles as one, in their order, with what their files say of how they may be put together. Raises ``CantJoin``."""
    measured = [replace(one, title=_to_its_last_picture(one.title)) for one in wanted]
    title = join_titles(measured, number, key)
    return replace(title, parts_agree=_agree(title))


def _to_its_last_picture(title: Title) -> Title:
    """A disc's title as long as its pictures last: tables may count the sound behind them as one picture more."""
    rate = steady_rate(title.video)
    if not isinstance(title.data, CellData) or rate is None or title.fault or title.gaps:
        return title
    times: list[float] = []
    with contextlib.suppress(RheonError, OSError):
        times = pictures_shown(title, max(0.0, title.duration_s - NEAR_S), title.duration_s)
    end_s = max(times, default=0.0) + 1 / rate
    return replace(title, duration_s=round(end_s, 6)) if 0 < title.duration_s - end_s <= MOST_OFF_S else title


def _agree(title: Title) -> bool:
    """Whether a decoder that was set up for the first part's streams takes those of the others too."""
    parts = title.joined
    videos = [part.video for part in parts]
    if title.fault or any(video is None or _coding(video) != _coding(videos[0]) for video in videos):
        return False
    if all(isinstance(part.data, CellData) for part in parts):
        return _discs_agree(title)
    return all(isinstance(part.data, FileData) for part in parts) and _files_agree(parts)


def _coding(video: VideoStream | None) -> object:
    """What a stream says of how it is coded; what was found by looking at it counts for nothing."""
    if video is None:
        return None
    coding = (video.codec, video.profile, video.level, video.bit_depth, video.colour)
    return (*frame_of(video), round(video.frame_rate / SAME_RATE), *coding, video.stream_id, video.place)


def _discs_agree(title: Title) -> bool:
    """Cells of one kind one after the other, whose streams have the same ids and the same form."""
    first, *others = [part.data for part in title.joined]
    assert isinstance(first, CellData)
    for other in others:
        if not isinstance(other, CellData) or (other.stream, other.palette) != (first.stream, first.palette):
            return False
        if other.skip_s or other.start_pts is None:
            return False
    lengths = [(part.duration_s, part.data) for part in title.joined]
    whole = all(
        isinstance(data, CellData)
        and abs(sum(cell.duration_s for cell in data.cells) - data.skip_s - length_s) <= MOST_OFF_S
        for length_s, data in lengths
    )
    return whole and all(_same_tracks(part, title.joined[0]) for part in title.joined)


def _same_tracks(part: Title, first: Title) -> bool:
    sounds = zip(part.audio, first.audio, strict=True)
    lines = zip(part.subtitles, first.subtitles, strict=True)
    return all(_sound_form(one) == _sound_form(other) for one, other in sounds) and all(
        (one.stream_id, one.format, one.absent) == (other.stream_id, other.format, other.absent) for one, other in lines
    )


def _sound_form(track: AudioStream) -> tuple[object, ...]:
    return (track.stream_id, track.codec, track.channels, track.sample_rate, track.absent)


def _files_agree(parts: Sequence[Title]) -> bool:
    """Whole files of one container whose picture lies at the same place and needs the same headers."""
    said: set[str | None] = set()
    for part in parts:
        data = part.data
        assert isinstance(data, FileData)
        # a part that is a range of chapters is less than its file
        if part.part_of not in (None, part.number) or part.container != parts[0].container or data.from_s > HEAD_S:
            return False
        said.add(_picture_setup(part, data))
    return len(said) == 1 and None not in said


def _picture_setup(part: Title, data: FileData) -> str | None:
    """A digest of what the picture's decoder has to know before its first packet; ``None`` where that can't be read."""
    try:
        done = run(Command(argv=setups(data.path), timeout_s=TIMEOUT_S))
    except (RheonError, OSError):
        return None
    place = part.video.place if part.video else None
    streams = json.loads(done.stdout or b"{}").get("streams", [])
    digest = next((stream.get("extradata_hash") for stream in streams if stream.get("index") == place), None)
    return str(digest) if digest else None
