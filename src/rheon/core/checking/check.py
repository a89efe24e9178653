"""Does a file keep its device's rules and its plan? Probed, measured and decoded from end to end."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from pathlib import Path

from ..commands.probing import decode
from ..devices import DeviceProfile, MediaFacts, RuleResult, careful, judge
from ..devices.peaks import peak_bounds, peak_rule
from ..engine import Command, ProbedFile, WorkClock, probe, run
from ..engine.packets import Packets, read_packets
from ..engine.steering import Steering, steering
from ..errors import EngineError, EngineTimedOut
from ..formats import VIDEO_CODECS
from ..media import Action, AudioSettings, AudioStream, OutputSettings, SubtitleForm, VideoSettings, VideoStream
from ..media.facts import Fact, Unit, at_most, fact, near
from .boxes import index_in_front
from .buffer import least_rate_bps
from .whole import Ends, damage_rule, shown_rule, whole_rules

LENGTH_TOLERANCE_S = 0.5
RATE_TOLERANCE = 0.05
LAST_LINE_S = 10.0
"""How long a subtitle that begins before the end of a part may stand after it."""
SILENT_S = 1800.0
"""So long without a single picture or sound, decoding hangs: in a disk that never answers, or in a decoder."""
SAME_MATRIX = frozenset({"smpte170m", "bt470bg"})
"""Two names for the one matrix of ITU-R BT.601."""


def _unheard(_: float) -> None:
    return None


@dataclass(frozen=True, slots=True, kw_only=True)
class CheckRequest:
    """A file to check for each of some devices. ``settings`` are its plan's, ``None`` for a file of others.

    ``file_name`` is the name it will have where it still lies under a temporary one. ``ends`` are when its streams must
    end, ``damage`` what the engine complained of while it read the source: (second of the title, what it said).
    ``on_read`` hears to which second the file has been decoded.
    """

    path: Path
    profiles: Sequence[DeviceProfile]
    settings: OutputSettings | None = None
    file_name: str | None = None
    should_stop: Callable[[], bool] | None = None
    is_paused: Callable[[], bool] | None = None
    on_read: Callable[[float], None] = _unheard
    ends: Ends | None = None
    damage: tuple[tuple[float, str], ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Check:
    """Every rule with measured and allowed value, for one device."""

    device_id: str
    results: tuple[RuleResult, ...]

    @property
    def ok(self) -> bool:
        return all(result.ok for result in self.results)


@dataclass(frozen=True, slots=True, kw_only=True)
class _Decoded:
    frames: int
    errors: tuple[str, ...]


def check_file(request: CheckRequest) -> tuple[Check, ...]:
    """Check a file against what each device can do for sure; it is read and decoded once for all of them.

    Raises ``SourceError`` where it is no media at all, ``Stopped`` where that was asked for, ``EngineTimedOut`` where
    reading it hangs.
    """
    found = probe(str(request.path))
    packets = read_packets(str(request.path))
    decoded = _decode(request)
    whole = [
        *(whole_rules(request.ends, found, packets) if request.ends else ()),
        *damage_rule(request.damage),
        *(_plan_rules(request.settings, found) if request.settings else ()),
        *shown_rule(request.ends, decoded.frames),
        _read_rule(decoded),
    ]

    def check(profile: DeviceProfile) -> Check:
        device = [*judge(_facts(request, profile, found), profile), *_rate_rule(profile, found, packets)]
        return Check(device_id=profile.id, results=(*device, *whole))

    return tuple(check(careful(profile)) for profile in request.profiles)


def read_facts(path: Path, file_name: str = "") -> MediaFacts:
    """What a device meets in a file. Raises ``SourceError`` where it is no media at all."""
    return _read_facts(path, file_name or path.name, probe(str(path)))


def _facts(request: CheckRequest, profile: DeviceProfile, found: ProbedFile) -> MediaFacts:
    facts = _read_facts(request.path, request.file_name or request.path.name, found)
    # a picture in a file that is for the ears only is its artwork
    return replace(facts, video=None) if request.settings and not profile.video else facts


def _read_facts(path: Path, name: str, found: ProbedFile) -> MediaFacts:
    return MediaFacts(
        container=found.container,
        size_bytes=found.size_bytes,
        duration_s=found.duration_s,
        video=found.video,
        audio=found.audio[0] if found.audio else None,
        extension=name.rpartition(".")[2].lower() if "." in name else "",
        index_in_front=index_in_front(path) if found.container == "mp4" else None,
    )


def _rate_rule(profile: DeviceProfile, found: ProbedFile, packets: Mapping[int, Packets]) -> list[RuleResult]:
    """The peak rate, where the device or its level bounds it."""
    video, bounds = found.video, peak_bounds(found.video, profile)
    if video is None or bounds is None:
        return []
    stream = packets.get(-1 if video.place is None else video.place, Packets())
    peak = least_rate_bps(_decoded(stream, video), bounds.buffer_bits)
    return [peak_rule(peak, bounds, fact(Unit.THROUGH_A_BUFFER, peak, bounds.buffer_bits))]


def _decoded(stream: Packets, video: VideoStream) -> list[tuple[float, int]]:
    """(decoding time, size) of every video packet; where the container stores no time, by the frame rate."""
    step = 1 / float(video.frame_rate)
    made: list[tuple[float, int]] = []
    for at, size in zip(stream.decoded, stream.sizes, strict=True):
        before = made[-1][0] if made else None
        known = at if not math.isnan(at) else (0.0 if before is None else before + step)
        made.append((known if before is None else max(known, before), size))
    return made


def _plan_rules(settings: OutputSettings, found: ProbedFile) -> list[RuleResult]:
    """What was planned against what came out."""
    off = found.duration_s - settings.duration_s
    switched = sum(subtitle.form is SubtitleForm.TRACK for subtitle in settings.subtitles)
    after = LAST_LINE_S if switched else LENGTH_TOLERANCE_S
    rules = [
        RuleResult(
            rule="length",
            part="file",
            ok=-LENGTH_TOLERANCE_S <= off <= after,
            measured=fact(Unit.SECONDS, found.duration_s),
            allowed=near(Unit.SECONDS, settings.duration_s, after),
        )
    ]
    if settings.video:
        rules += _picture_rules(settings.video, found.video)
    rules.append(_same("planned_sound", "audio", _sounds(found.audio), _sounds(settings.audio)))
    if switched:
        count = len(found.subtitles)
        rules.append(_same("planned_words", "file", fact(Unit.TRACKS, count), fact(Unit.TRACKS, switched)))
    return rules


def _picture_rules(wanted: VideoSettings, made: VideoStream | None) -> list[RuleResult]:
    seen = fact(Unit.PICTURE, made.width, made.height, made.codec) if made else fact(Unit.PICTURE)
    rules = [_same("planned_picture", "video", seen, fact(Unit.PICTURE, wanted.width, wanted.height, wanted.codec))]
    if made is None or wanted.action is not Action.ENCODE:
        return rules
    over = float(made.frame_rate - wanted.frame_rate)
    rate = RuleResult(
        rule="planned_rate",
        part="video",
        ok=over < RATE_TOLERANCE if wanted.variable_rate else abs(over) < RATE_TOLERANCE,
        measured=fact(Unit.PICTURES_A_SECOND, float(made.frame_rate)),
        allowed=(at_most if wanted.variable_rate else fact)(Unit.PICTURES_A_SECOND, float(wanted.frame_rate)),
    )
    return [*rules, rate, *_colour_rule(wanted, made)]


def _same(rule: str, part: str, measured: Fact, allowed: Fact) -> RuleResult:
    """What has to be exactly what was planned."""
    return RuleResult(rule=rule, part=part, ok=measured == allowed, measured=measured, allowed=allowed)


def _sounds(tracks: Sequence[AudioStream] | Sequence[AudioSettings]) -> Fact:
    return fact(Unit.SOUNDS, *(value for track in tracks for value in (track.codec, track.channels)))


def _colour_rule(wanted: VideoSettings, made: VideoStream) -> list[RuleResult]:
    """The matrix that the stream names, where the codec has a place for it."""
    if wanted.colour is None or not VIDEO_CODECS[wanted.codec].names_colour:
        return []
    seen, plan = made.colour.matrix if made.colour else None, wanted.colour.matrix
    same = seen == plan or {seen, plan} <= SAME_MATRIX
    measured = fact(Unit.WORD, *([seen] if seen else []))
    return [RuleResult(rule="planned_colour", part="video", ok=same, measured=measured, allowed=fact(Unit.WORD, plan))]


def _decode(request: CheckRequest) -> _Decoded:
    """Decode every stream of the file and count frames and complaints. Raises ``EngineTimedOut`` where it hangs."""
    frames, reached_us, moved_s = 0, 0, 0.0
    around = steering()
    by = Steering(request.should_stop or around.should_stop, request.is_paused or around.is_paused)
    clock = WorkClock(by.is_paused)

    def on_line(text: str) -> None:
        nonlocal frames, reached_us, moved_s
        key, _, value = text.partition("=")
        if key == "frame" and value.strip().isdigit() and int(value) != frames:
            frames, moved_s = int(value), clock.worked_s
        elif key == "out_time_us" and value.strip().isdigit() and int(value) != reached_us:
            reached_us, moved_s = int(value), clock.worked_s
            request.on_read(reached_us / 1e6)

    def should_stop() -> bool:
        clock.is_paused()
        if clock.worked_s - moved_s > SILENT_S:
            raise EngineTimedOut(
                "Nothing more could be read of the file for {minutes:.0f} minutes.", minutes=SILENT_S / 60
            )
        return by.should_stop()

    # how long it may take is up to the file: what counts is that it comes on
    command = Command(
        argv=decode(str(request.path)),
        timeout_s=None,
        gentle=True,
        on_line=on_line,
        should_stop=should_stop,
        is_paused=by.is_paused,
    )
    try:
        done = run(command)
    except EngineTimedOut:
        raise
    except EngineError as error:
        return _Decoded(frames=frames, errors=(error.what,))
    return _Decoded(frames=frames, errors=_complaints(done.tail))


def _complaints(tail: Sequence[str]) -> tuple[str, ...]:
    # the null muxer complains about time stamps that no player minds
    return tuple(line for line in tail if "non monotonically increasing dts" not in line)


def _read_rule(decoded: _Decoded) -> RuleResult:
    first = [error[:80] for error in decoded.errors[:1]]
    measured = fact(Unit.DECODED, decoded.frames, len(decoded.errors), *first)
    return RuleResult(
        rule="read_through", part="file", ok=not decoded.errors, measured=measured, allowed=fact(Unit.DECODED)
    )
