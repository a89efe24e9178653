"""Holding facts against a device, rule by rule. Verdicts, plans and checks all rest on these tables."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import Annotated, Generic, TypeVar

from pydantic import BeforeValidator

from ..formats import level_rank, profiles_of
from ..media import OF_FIELDS, AudioStream, DynamicRange, Scan, VideoStream, aspect_text
from ..media.facts import Bound, Fact, Unit, any_of, as_fact, at_most, fact
from .facts import MediaFacts
from .profile import AudioEntry, DeviceProfile, VideoEntry

SQUARE_TOLERANCE = Fraction(1, 100)
BITRATE_TOLERANCE = 1.05  # encoders hold a constant rate only on average

Stream = TypeVar("Stream")
Limit = TypeVar("Limit")


@dataclass(frozen=True, slots=True, kw_only=True)
class RuleResult:
    """One rule of a device: what was measured, what is allowed. ``part`` is ``file``, ``video`` or ``audio``."""

    rule: str
    part: str
    ok: bool
    measured: Annotated[Fact, BeforeValidator(as_fact)]
    allowed: Annotated[Fact, BeforeValidator(as_fact)]


@dataclass(frozen=True, slots=True)
class Rule(Generic[Stream, Limit]):
    """A rule as data: when it applies, whether it holds, and both sides."""

    name: str
    applies: Callable[[Stream, Limit], object]
    holds: Callable[[Stream, Limit], bool]
    measured: Callable[[Stream], Fact]
    allowed: Callable[[Limit], Fact]


def _always(stream: object, bound: object) -> bool:
    return True


ANYTHING = Fact(unit=Unit.WORD, bound=Bound.ANY)

FILE_RULES: tuple[Rule[MediaFacts, DeviceProfile], ...] = (
    Rule(
        "container",
        _always,
        lambda f, p: any(entry.format == f.container for entry in p.containers),
        lambda f: fact(Unit.CONTAINER, f.container),
        lambda p: any_of(Unit.CONTAINER, *(entry.format for entry in p.containers)),
    ),
    Rule(
        "extension",
        lambda f, p: f.extension is not None,
        lambda f, p: any((entry.format, entry.extension) == (f.container, f.extension) for entry in p.containers),
        lambda f: fact(Unit.WORD, f.extension or "none"),
        lambda p: any_of(Unit.WORD, *(entry.extension for entry in p.containers)),
    ),
    Rule(
        "index",
        lambda f, p: f.container == "mp4" and f.index_in_front is not None,
        lambda f, p: bool(f.index_in_front),
        lambda f: fact(Unit.INDEX, "in_front" if f.index_in_front else "at_end"),
        lambda p: fact(Unit.INDEX, "in_front"),
    ),
    Rule(
        "file_size",
        lambda f, p: p.limits.largest_file_bytes is not None,
        lambda f, p: f.size_bytes <= (p.limits.largest_file_bytes or 0),
        lambda f: fact(Unit.BYTES, f.size_bytes),
        lambda p: at_most(Unit.BYTES, p.limits.largest_file_bytes or 0),
    ),
)

VIDEO_RULES: tuple[Rule[VideoStream, VideoEntry], ...] = (
    Rule(
        "profile",
        lambda v, e: e.profiles and v.profile,
        lambda v, e: v.profile in e.profiles,
        lambda v: fact(Unit.WORD, v.profile or ""),
        lambda e: any_of(Unit.WORD, *e.profiles),
    ),
    Rule(
        "level",
        lambda v, e: e.max_level and v.level,
        lambda v, e: level_rank(v.codec, v.profile, v.level or "") <= level_rank(v.codec, v.profile, e.max_level or ""),
        lambda v: fact(Unit.WORD, v.level or ""),
        lambda e: at_most(Unit.WORD, e.max_level or ""),
    ),
    Rule(
        "picture",
        _always,
        lambda v, e: v.width <= e.max_width and v.height <= e.max_height,
        lambda v: fact(Unit.PIXELS, v.width, v.height),
        lambda e: at_most(Unit.PIXELS, e.max_width, e.max_height),
    ),
    Rule(
        "frame_rate",
        _always,
        lambda v, e: v.frame_rate <= e.frame_rate_limit,
        lambda v: fact(Unit.PICTURES_A_SECOND, float(v.frame_rate)),
        lambda e: at_most(Unit.PICTURES_A_SECOND, float(e.frame_rate_limit)),
    ),
    Rule(
        "reference_frames",
        lambda v, e: e.max_reference_frames and v.reference_frames,
        lambda v, e: (v.reference_frames or 0) <= (e.max_reference_frames or 0),
        lambda v: fact(Unit.COUNT, v.reference_frames or 0),
        lambda e: at_most(Unit.COUNT, e.max_reference_frames or 0),
    ),
    Rule(
        "bit_depth",
        _always,
        lambda v, e: v.bit_depth in e.bit_depths,
        lambda v: fact(Unit.BITS, v.bit_depth),
        lambda e: any_of(Unit.BITS, *e.bit_depths),
    ),
    Rule(
        "dynamic_range",
        lambda v, e: v.dynamic_range is not DynamicRange.STANDARD,
        lambda v, e: v.dynamic_range in e.dynamic_ranges,
        lambda v: fact(Unit.DYNAMIC_RANGE, v.dynamic_range.value),
        lambda e: any_of(Unit.DYNAMIC_RANGE, DynamicRange.STANDARD.value, *e.dynamic_ranges),
    ),
    Rule(
        "scan",
        _always,
        lambda v, e: e.interlaced or v.scan not in OF_FIELDS,
        lambda v: fact(Unit.WORD, v.scan.value),
        lambda e: ANYTHING if e.interlaced else fact(Unit.WORD, Scan.PROGRESSIVE.value),
    ),
    Rule(
        "pixel_shape",
        _always,
        lambda v, e: e.non_square_pixels or v.sample_aspect == 1 or abs(v.sample_aspect - 1) <= SQUARE_TOLERANCE,
        lambda v: fact(
            Unit.SHAPE, v.sample_aspect.numerator, v.sample_aspect.denominator, aspect_text(v.display_aspect)
        ),
        lambda e: ANYTHING if e.non_square_pixels else fact(Unit.SHAPE, "square"),
    ),
    Rule(
        "bitrate",
        lambda v, e: e.max_bitrate_bps and v.bitrate_bps,
        lambda v, e: (v.bitrate_bps or 0) <= (e.max_bitrate_bps or 0),
        lambda v: fact(Unit.BITS_A_SECOND, v.bitrate_bps or 0),
        lambda e: at_most(Unit.BITS_A_SECOND, e.max_bitrate_bps or 0),
    ),
)

AUDIO_RULES: tuple[Rule[AudioStream, AudioEntry], ...] = (
    Rule(
        "channels",
        _always,
        lambda a, e: a.channels <= e.max_channels,
        lambda a: fact(Unit.COUNT, a.channels),
        lambda e: at_most(Unit.COUNT, e.max_channels),
    ),
    Rule(
        "sample_rate",
        _always,
        lambda a, e: a.sample_rate in e.sample_rates,
        lambda a: fact(Unit.HERTZ, a.sample_rate),
        lambda e: any_of(Unit.HERTZ, *e.sample_rates),
    ),
    Rule(
        "audio_bitrate",
        lambda a, e: e.max_bitrate_bps and a.bitrate_bps,
        lambda a, e: (a.bitrate_bps or 0) <= (e.max_bitrate_bps or 0) * BITRATE_TOLERANCE,
        lambda a: fact(Unit.AUDIO_BITS_A_SECOND, a.bitrate_bps or 0),
        lambda e: at_most(Unit.AUDIO_BITS_A_SECOND, e.max_bitrate_bps or 0),
    ),
    Rule(
        "audio_profile",
        lambda a, e: a.codec == "aac" and a.profile,
        lambda a, e: a.profile == "lc",
        lambda a: fact(Unit.WORD, a.profile or ""),
        lambda e: fact(Unit.WORD, "lc"),
    ),
)


def judge(facts: MediaFacts, profile: DeviceProfile) -> tuple[RuleResult, ...]:
    """Every rule of the profile that touches these facts, kept or broken."""
    results = _results("file", FILE_RULES, facts, profile)
    if (video := facts.video) is not None:
        entry = _nearest(VIDEO_RULES, video, profile.video_entries(video.codec))
        results.append(_codec("video", video.codec, [item.codec for item in profile.video], entry is not None))
        results += _results("video", VIDEO_RULES, video, entry) if entry else []
    if (audio := facts.audio) is not None:
        sound = _nearest(AUDIO_RULES, audio, profile.audio_entries(audio.codec))
        results.append(_codec("audio", audio.codec, [item.codec for item in profile.audio], sound is not None))
        results += _results("audio", AUDIO_RULES, audio, sound) if sound else []
    return tuple(results)


def broken(facts: MediaFacts, profile: DeviceProfile) -> list[str]:
    """Only the names of the rules that are broken; the same answer as ``judge``, without its words."""
    names = _broken(FILE_RULES, facts, profile)
    if (video := facts.video) is not None:
        entry = _nearest(VIDEO_RULES, video, profile.video_entries(video.codec))
        names += _broken(VIDEO_RULES, video, entry) if entry else ["video_codec"]
    if (audio := facts.audio) is not None:
        sound = _nearest(AUDIO_RULES, audio, profile.audio_entries(audio.codec))
        names += _broken(AUDIO_RULES, audio, sound) if sound else ["audio_codec"]
    return names


def takes_video(video: VideoStream, profile: DeviceProfile) -> bool:
    """Whether the device decodes the stream as it is."""
    return any(not _broken(VIDEO_RULES, video, entry) for entry in profile.video_entries(video.codec))


def takes_audio(audio: AudioStream, profile: DeviceProfile) -> bool:
    """Whether the device decodes the track as it is."""
    return any(not _broken(AUDIO_RULES, audio, entry) for entry in profile.audio_entries(audio.codec))


def video_fits(video: VideoStream, entry: VideoEntry) -> bool:
    """Whether the stream keeps every bound of this one entry."""
    return not _broken(VIDEO_RULES, video, entry)


def audio_fits(audio: AudioStream, entry: AudioEntry) -> bool:
    """Whether the track keeps every bound of this one entry."""
    return not _broken(AUDIO_RULES, audio, entry)


def video_entry_for(video: VideoStream, profile: DeviceProfile) -> VideoEntry | None:
    """The entry of the profile that the stream comes nearest to keeping."""
    return _nearest(VIDEO_RULES, video, profile.video_entries(video.codec))


def better_profiles(codec: str, profiles: Sequence[str]) -> list[str]:
    """Profiles of a codec, the most capable first."""
    order = profiles_of(codec)
    return sorted(profiles, key=lambda name: order.index(name) if name in order else -1, reverse=True)


def _broken(rules: Sequence[Rule[Stream, Limit]], stream: Stream, bound: Limit) -> list[str]:
    return [rule.name for rule in rules if rule.applies(stream, bound) and not rule.holds(stream, bound)]


def _nearest(rules: Sequence[Rule[Stream, Limit]], stream: Stream, bounds: Sequence[Limit]) -> Limit | None:
    if len(bounds) < 2:
        return bounds[0] if bounds else None
    return min(bounds, key=lambda bound: len(_broken(rules, stream, bound)))


def _results(part: str, rules: Sequence[Rule[Stream, Limit]], stream: Stream, bound: Limit) -> list[RuleResult]:
    return [
        RuleResult(
            rule=rule.name,
            part=part,
            ok=rule.holds(stream, bound),
            measured=rule.measured(stream),
            allowed=rule.allowed(bound),
        )
        for rule in rules
        if rule.applies(stream, bound)
    ]


def _codec(part: str, codec: str, known: list[str], ok: bool) -> RuleResult:
    measured, allowed = fact(Unit.CODEC, codec), any_of(Unit.CODEC, *known)
    return RuleResult(rule=f"{part}_codec", part=part, ok=ok, measured=measured, allowed=allowed)
