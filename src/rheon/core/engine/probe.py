"""What ffprobe says of a file, as values."""

from __future__ import annotations

import contextlib
import json
import re
from dataclasses import dataclass, field, replace
from fractions import Fraction
from typing import Any

from ..commands import probing
from ..commands.demuxers import POINTS_ELSEWHERE
from ..errors import CutOffFile, EngineError, ForbiddenFormat, NotASource, SourceError
from ..formats import AUDIO_CODECS, READ_AS, VIDEO_CODECS
from ..media import (
    HDR_TRANSFERS,
    AudioStream,
    Chapter,
    Colour,
    Forced,
    Purpose,
    Scan,
    SubtitleStream,
    VideoStream,
    parse_fraction,
    to_bcp47,
)
from ..media.tags import LONGEST_TEXT
from .headers import reference_frames
from .mastering import with_mastering
from .probe_values import LONGEST_S, decimal, entries, mapping, seconds, whole, words
from .process import Command, run
from .tools import require
from .written import written_tags

PROBE_TIMEOUT_S = 30
VARIES = 0.02
UNTOLD = (None, "unknown", "reserved", "gbr")
PLANAR = re.compile(r"yuvj?4(20|22|44)p((10|12)le)?")
"""Formats, by the engine's names, that hold luma and chroma apart."""
RUN_THROUGH_TIMEOUT_S = 120
HEADER_BYTES = 128
DOCTYPE_WEBM = b"\x42\x82\x84webm"

GUESSES_LENGTH = frozenset(
    {"mp3", "aac", "ac3", "eac3", "dts", "dtshd", "truehd", "h264", "hevc", "m4v", "mpegvideo", "mpeg", "mpegts", "amr"}
)
"""Formats without a header that says how long they last."""

MOST_LINES, MOST_CHANNELS, MOST_STREAMS, MOST_LEVEL, MOST_SAMPLE_RATE = 65_535, 255, 10_000, 10_000, 12_300_000
SLOWEST, QUICKEST = Fraction(1, 100), Fraction(1000)
"""Pictures a second; rates beyond are units of time that a header took for a rate."""


@dataclass(frozen=True, slots=True, kw_only=True)
class ProbedFile:
    """A file as ffprobe sees it. ``container`` is our name for its format; durations in seconds.

    ``pictures`` are its video streams, of which the first is ``video``; covers are not among them, and
    ``attached_picture`` is the place of one. ``start_s`` is the container's time of the first moment, ``promised_s``
    how long its headers say that picture and sound last (``None`` where that is only guessed).
    """

    container: str
    duration_s: float
    size_bytes: int
    pictures: tuple[VideoStream, ...]
    audio: tuple[AudioStream, ...]
    subtitles: tuple[SubtitleStream, ...]
    chapters: tuple[Chapter, ...]
    title: str | None
    tags: dict[str, str] = field(default_factory=dict)
    attached_picture: int | None = None
    start_s: float = 0.0
    promised_s: float | None = None

    @property
    def video(self) -> VideoStream | None:
        return self.pictures[0] if self.pictures else None


def probe(path: str) -> ProbedFile:
    """Probe a file by name.

    Raises ``ForbiddenFormat`` where its content is a playlist or script, ``NotASource`` where it is no media at all.
    """
    require("ffprobe")
    try:
        done = run(Command(argv=probing.streams(path), timeout_s=PROBE_TIMEOUT_S))
    except EngineError as error:
        raise _refused(error) from error
    found = read_probe(json.loads(done.stdout or b"{}"))
    if found.container == "matroska" and _is_webm(path):
        found = replace(found, container="webm")
    if not found.duration_s:
        found = replace(found, duration_s=_run_through(path))
    if found.video is None:
        return found
    # the decoder's own figure is only known once it has decoded; the headers promise it
    references = reference_frames(path, found.video.codec)
    first, *others = found.pictures
    first = replace(first, reference_frames=references, colour=with_mastering(path, first))
    return replace(found, pictures=(first, *others))


def _refused(error: EngineError) -> SourceError:
    """Why a file was not opened: it points elsewhere, is of an unknown kind, or is no media."""
    for line in _tail(error):
        if "moov atom not found" in line:
            return CutOffFile("This file is cut off: the index at its end is missing, and nothing is found without it.")
        if "not on whitelist" in line:
            kind = line.removeprefix("[").partition(" ")[0]
            if kind in POINTS_ELSEWHERE:
                return ForbiddenFormat(
                    "This file is a list or a script ({kind}): what it plays lies elsewhere.", kind=kind
                )
            return NotASource(
                "This file is of a kind that Rheon does not know ({kind}).",
                kind=kind,
                advice="Choose a file of another kind, or turn it into Matroska first.",
            )
    return NotASource("This file holds no video or sound that the engine can read.")


def _is_webm(path: str) -> bool:
    """Whether the header names the document type ``webm`` (RFC 8794, element 0x4282); the demuxer does not tell."""
    try:
        with open(path, "rb") as handle:  # noqa: PTH123 - a name from outside, not a path of ours
            head = handle.read(HEADER_BYTES)
    except OSError:
        return False
    return DOCTYPE_WEBM in head


def _run_through(path: str) -> float:
    """How long a file is that does not say so, as recordings without an index: by reading it to its end."""
    reached = 0.0

    def on_line(text: str) -> None:
        nonlocal reached
        key, _, value = text.partition("=")
        if key == "out_time_us" and value.strip().isdigit():
            reached = max(reached, int(value) / 1e6)

    with contextlib.suppress(EngineError):
        run(Command(argv=probing.run_through(path), timeout_s=RUN_THROUGH_TIMEOUT_S, on_line=on_line))
    return round(reached, 3)


def read_probe(said: dict[str, Any]) -> ProbedFile:
    """Turn ffprobe's JSON into values; attached pictures are not taken for video."""
    streams, form = entries(said.get("streams")), mapping(said.get("format"))
    covers = [stream for stream in streams if mapping(stream.get("disposition")).get("attached_pic")]
    pictures = [s for s in streams if s.get("codec_type") == "video" and s not in covers and _has_size(s)]
    sounds = [s for s in streams if s.get("codec_type") == "audio" and whole(s.get("channels"), MOST_CHANNELS)]
    lines = [stream for stream in streams if stream.get("codec_type") == "subtitle"]
    if not pictures and not sounds:
        raise NotASource("This file holds neither video nor sound.")
    name = str(form.get("format_name", ""))
    return ProbedFile(
        container=READ_AS.get(name, name.split(",", maxsplit=1)[0]),
        duration_s=_duration(form, streams),
        size_bytes=whole(form.get("size")) or 0,
        pictures=tuple(map(_video, pictures)),
        audio=tuple(_audio(index, stream) for index, stream in enumerate(sounds)),
        subtitles=tuple(_subtitle(index, stream) for index, stream in enumerate(lines)),
        chapters=tuple(
            Chapter(
                number=number,
                start_s=round(seconds(entry.get("start_time")) or 0.0, 3),
                name=words(mapping(entry.get("tags")).get("title")),
            )
            for number, entry in enumerate(entries(said.get("chapters")), start=1)
        ),
        title=(_tags(form) if pictures else _tags(form) or _tags(sounds[0])).get("title"),
        tags=_tags(form) or _tags((sounds or pictures)[0]),
        attached_picture=next((place for stream in covers if (place := _index(stream)) is not None), None),
        start_s=_start(form.get("start_time")),
        promised_s=None if name in GUESSES_LENGTH else _promised(form, [*pictures, *sounds]),
    )


def _tags(form: dict[str, Any]) -> dict[str, str]:
    """The tags that people write; values cut to a sensible length."""
    said = {str(key).lower(): words(value, LONGEST_TEXT) or "" for key, value in mapping(form.get("tags")).items()}
    return written_tags(said)


def _tail(error: EngineError) -> list[str]:
    tail = error.facts.get("tail")
    return [str(line) for line in tail] if isinstance(tail, list) else []


def _promised(form: dict[str, Any], streams: list[dict[str, Any]]) -> float | None:
    """How long picture and sound are said to last: by each stream where each says so, else by the container."""
    said = [seconds(s.get("duration")) or _timecode(mapping(s.get("tags")).get("DURATION")) for s in streams]
    known = [length for length in said if length is not None]
    return max(known) if known and len(known) == len(said) else seconds(form.get("duration"))


def _timecode(text: object) -> float | None:
    """``00:01:02.345000000``, as Matroska's statistics tags say it."""
    found = re.fullmatch(r"(\d{1,6}):(\d\d):(\d\d(?:\.\d+)?)", str(text))
    return seconds(int(found[1]) * 3600 + int(found[2]) * 60 + float(found[3])) if found else None


def _start(value: object) -> float:
    """The container's time of its first moment, which may lie before zero."""
    said = decimal(value)
    return said if said is not None and abs(said) < LONGEST_S else 0.0


def _duration(form: dict[str, Any], streams: list[dict[str, Any]]) -> float:
    for entry in (form, *streams):
        if (said := seconds(entry.get("duration"))) is not None:
            return round(said, 3)
    return 0.0


def _has_size(stream: dict[str, Any]) -> bool:
    return bool(whole(stream.get("width"), MOST_LINES) and whole(stream.get("height"), MOST_LINES))


def _video(stream: dict[str, Any]) -> VideoStream:
    codec = str(stream.get("codec_name", "unknown"))
    order = stream.get("field_order", "unknown")
    return VideoStream(
        codec=codec,
        width=whole(stream.get("width"), MOST_LINES) or 0,
        height=whole(stream.get("height"), MOST_LINES) or 0,
        frame_rate=_frame_rate(stream),
        variable_rate=_varies(stream),
        holding_rate=_rate(stream.get("r_frame_rate")),
        sample_aspect=_sensible_aspect(parse_fraction(stream.get("sample_aspect_ratio"))),
        scan=_scan(str(order)),
        top_field_first=order not in ("bb", "bt"),
        bit_depth=_bit_depth(str(stream.get("pix_fmt", ""))),
        planar=PLANAR.fullmatch(str(stream.get("pix_fmt", ""))) is not None,
        profile=_profile(codec, stream.get("profile")),
        level=_level(codec, stream.get("level")),
        bitrate_bps=whole(stream.get("bit_rate")) or None,
        rotation=_rotation(stream),
        codec_tag=words(stream.get("codec_tag_string")),
        colour=_colour(stream),
        place=_index(stream),
    )


def _index(stream: dict[str, Any]) -> int | None:
    return whole(stream.get("index"), MOST_STREAMS)


def _rate(value: object) -> Fraction | None:
    """A rate at which pictures may come; ``None`` for one that is none."""
    rate = parse_fraction(value)
    return rate if rate is not None and SLOWEST <= rate <= QUICKEST else None


def _sensible_aspect(aspect: Fraction | None) -> Fraction:
    return aspect if aspect is not None and Fraction(1, 50) <= aspect <= 50 else Fraction(1)


def _colour(stream: dict[str, Any]) -> Colour | None:
    """What the stream says of its colours; half an answer counts as the usual rest."""
    matrix, primaries, transfer = (stream.get(key) for key in ("color_space", "color_primaries", "color_transfer"))
    full = stream.get("color_range") == "pc"
    if matrix in UNTOLD and transfer in HDR_TRANSFERS:
        matrix = "bt2020nc"  # the only one that such light is stored with (ITU-R BT.2100, table 6)
    if matrix in UNTOLD:
        return (
            Colour(matrix="smpte170m", primaries="smpte170m", transfer="smpte170m", full_range=True) if full else None
        )
    return Colour(
        matrix=str(matrix),
        primaries=str(primaries) if primaries not in (None, "unknown") else str(matrix),
        transfer=str(transfer) if transfer not in (None, "unknown") else str(matrix),
        full_range=full,
    )


def _frame_rate(stream: dict[str, Any]) -> Fraction:
    average, real = _rate(stream.get("avg_frame_rate")), _rate(stream.get("r_frame_rate"))
    return average or real or Fraction(25)


def _varies(stream: dict[str, Any]) -> bool:
    """Whether frames come at changing distances: then the average differs from the rate that holds them all."""
    average, real = _rate(stream.get("avg_frame_rate")), _rate(stream.get("r_frame_rate"))
    if average is None or real is None:
        return False
    # an interlaced stream may count fields
    return abs(real - average) > average * VARIES and abs(real - 2 * average) > average * VARIES


def _scan(order: str) -> Scan:
    if order == "progressive":
        return Scan.PROGRESSIVE
    return Scan.INTERLACED if order in ("tt", "bb", "tb", "bt") else Scan.UNKNOWN


def _bit_depth(pixel_format: str) -> int:
    for depth in (16, 14, 12, 10, 9):
        if pixel_format.endswith((f"p{depth}le", f"p{depth}be", f"{depth}le", f"{depth}be")):
            return depth
    return 8


def _profile(codec: str, raw: object) -> str | None:
    if not isinstance(raw, str):
        return None
    known = VIDEO_CODECS.get(codec) or AUDIO_CODECS.get(codec)
    return (known.read_profiles if known else {}).get(raw, raw.lower().replace(" ", "_"))


def _level(codec: str, raw: object) -> str | None:
    """The level that the stream's indication means; AV1 alone counts from 0."""
    if not isinstance(raw, int) or not 0 < raw < MOST_LEVEL:
        return "2.0" if codec == "av1" and raw == 0 else None
    known = VIDEO_CODECS.get(codec)
    return known.read_level(raw) if known else str(raw)


def _rotation(stream: dict[str, Any]) -> int:
    for side in entries(stream.get("side_data_list")):
        if (turned := decimal(side.get("rotation"))) is not None:
            return round(turned) % 360
    return 0


def _audio(index: int, stream: dict[str, Any]) -> AudioStream:
    codec = str(stream.get("codec_name", "unknown"))
    flags, tags = mapping(stream.get("disposition")), mapping(stream.get("tags"))
    named = (words(tags.get("title")) or "").lower()
    purpose = Purpose.COMMENTARY if flags.get("comment") or "commentary" in named else Purpose.UNKNOWN
    return AudioStream(
        index=index,
        codec=codec,
        channels=whole(stream.get("channels"), MOST_CHANNELS) or 0,
        sample_rate=whole(stream.get("sample_rate"), MOST_SAMPLE_RATE) or 48_000,
        language=to_bcp47(words(tags.get("language"))),
        purpose=Purpose.DESCRIPTION if flags.get("visual_impaired") else purpose,
        profile=_profile(codec, stream.get("profile")),
        bitrate_bps=whole(stream.get("bit_rate")) or None,
        name=words(tags.get("title")),
        place=_index(stream),
    )


def _subtitle(index: int, stream: dict[str, Any]) -> SubtitleStream:
    flags, tags = mapping(stream.get("disposition")), mapping(stream.get("tags"))
    return SubtitleStream(
        index=index,
        format=str(stream.get("codec_name", "unknown")),
        language=to_bcp47(words(tags.get("language"))),
        forced=Forced.ALL if flags.get("forced") else Forced.UNKNOWN,
        place=_index(stream),
    )
