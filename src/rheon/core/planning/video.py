"""The picture of an output: copied where the device takes it, else encoded inside every bound."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..devices import ENCODABLE_VIDEO, DeviceProfile, VideoEntry
from ..devices.bounds import highest_level
from ..errors import BadPin, PlanError
from ..media import Reason, SubtitleStream, VideoStream, aspect_text
from ..media.codecs import codec_name
from ..media.containers import CONTAINERS
from .cadence import Cadence, cadence_for
from .crop import crop_decision, crop_for
from .geometry import Geometry, bounds_for, fit
from .plan import Choice, Decision, PlanRequest
from .rates import (
    EFFORT,
    QUALITY,
    RateChoice,
    Wanted,
    best_profile,
    choose_rates,
    expected_bitrate,
    keyframe_distance,
    usual_bits_per_pixel,
)
from .settings import Action, VideoSettings

LARGE_PIXELS = 1920 * 1088
PROFILE_NAMES = {
    "baseline": "Baseline", "main": "Main", "high": "High", "main10": "Main 10",
    "simple": "Simple", "advanced_simple": "Advanced Simple",
}  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class VideoPlan:
    settings: VideoSettings
    decisions: tuple[Decision, ...]
    expected_bps: float


def encodable_entries(profile: DeviceProfile, container: str) -> list[VideoEntry]:
    """Entries that Rheon can encode for, inside this container."""
    held = CONTAINERS[container].video
    return [entry for entry in profile.video if entry.codec in ENCODABLE_VIDEO and entry.codec in held]


def copied(video: VideoStream) -> VideoPlan:
    """The stream left as it is."""
    settings = VideoSettings(
        action=Action.COPY,
        codec=video.codec,
        width=video.width,
        height=video.height,
        sample_aspect=video.sample_aspect,
        frame_rate=video.frame_rate,
        profile=video.profile,
        level=video.level,
    )
    untouched = Reason(code="stream_untouched")
    decisions = (
        Decision(
            key="picture.size",
            value=str(video.height),
            text=f"{video.width} × {video.height}",
            reason=untouched,
        ),
        Decision(key="picture.codec", value=video.codec, text=codec_name(video.codec), reason=untouched),
    )
    return VideoPlan(settings=settings, decisions=decisions, expected_bps=float(video.bitrate_bps or 0))


def encoded(
    request: PlanRequest, profile: DeviceProfile, container: str, drawn: SubtitleStream | None = None
) -> VideoPlan:
    """The stream encoded for the device. Raises ``PlanError`` or ``BadPin``."""
    assert request.title.video is not None
    crop = crop_for(request, drawn)
    video = crop.applied(request.title.video)
    options = encodable_entries(profile, container)
    entry, why = _choose_entry(options, video, request.pins.get("picture.codec"))
    cadence = cadence_for(video, entry)
    depth = 10 if video.bit_depth > 8 and 10 in entry.bit_depths and entry.codec == "hevc" else 8
    codec_profile = best_profile(entry, depth)
    geometry = _geometry(request, video, profile, entry, cadence)
    complexity = source_complexity(request)
    pixels = geometry.width * geometry.height
    expected = expected_bitrate(entry.codec, pixels, cadence.frame_rate, request.balance, complexity)
    picture = Wanted(width=geometry.width, height=geometry.height, frame_rate=cadence.frame_rate, expected_bps=expected)
    rates = choose_rates(entry, codec_profile, picture)
    rates = replace(rates, peak_bps=min(rates.peak_bps, _file_bound(request, profile) or rates.peak_bps))
    expected = min(expected, rates.peak_bps * 0.9)
    settings = _settings(request, entry, geometry, cadence, rates)
    settings = replace(settings, bit_depth=depth, crop=crop.borders)
    if entry.codec == "mpeg4":
        settings = replace(settings, bitrate_bps=max(32_000, int(min(expected, rates.peak_bps * 0.8))))
    return VideoPlan(
        settings=settings,
        decisions=(
            crop_decision(request, crop),
            *_decisions(request, settings, (geometry.reason, cadence.reason, why), options),
        ),
        expected_bps=expected,
    )


def source_complexity(request: PlanRequest) -> float:
    """How hard the pictures are to code, 1 for usual: as sampled, else guessed from the source's own rate."""
    video, title = request.title.video, request.title
    assert video is not None
    if request.samples is not None:
        sampled = request.samples.bits_at(QUALITY["h264"][request.balance.step])
        return sampled / usual_bits_per_pixel("h264", video.width * video.height, request.balance)
    usual = {"mpeg2video": 0.30, "mpeg1video": 0.30, "h264": 0.085, "hevc": 0.06, "mjpeg": 2.0}.get(video.codec, 0.2)
    rate = video.bitrate_bps or (title.size_bytes * 8 / title.duration_s if title.duration_s else 0)
    per_pixel = rate / max(1.0, video.width * video.height * float(video.frame_rate))
    return max(0.25, min(1.8, (per_pixel / usual) ** 0.7)) if per_pixel else 1.0


def _choose_entry(options: list[VideoEntry], video: VideoStream, pinned: str | None) -> tuple[VideoEntry, Reason]:
    if not options:
        raise PlanError("The device takes no kind of picture that Rheon can make.")
    if pinned is not None:
        chosen = next((entry for entry in options if entry.codec == pinned), None)
        if chosen is None:
            known = ", ".join(dict.fromkeys(entry.codec for entry in options))
            raise BadPin(f"This device can't be given {codec_name(pinned)}; it takes {known}.", pin="picture.codec")
        return chosen, Reason(code="pinned")
    large = video.width * video.height > LARGE_PIXELS
    order = ("hevc", "h264", "mpeg4") if large else ("h264", "hevc", "mpeg4")
    chosen = min(options, key=lambda entry: order.index(entry.codec))
    if len({entry.codec for entry in options}) == 1:
        code = "only_codec"
    else:
        code = "small_for_large_pictures" if large and chosen.codec == "hevc" else "plays_most_widely"
    return chosen, Reason(code=code, values={"codec": codec_name(chosen.codec)})


def _geometry(
    request: PlanRequest, video: VideoStream, profile: DeviceProfile, entry: VideoEntry, cadence: Cadence
) -> Geometry:
    lines = request.pins.get("picture.height")
    if lines is not None and (not lines.isdigit() or int(lines) < 16):
        raise BadPin(f"“{lines}” is no number of lines.", pin="picture.height")
    level = highest_level(entry, best_profile(entry, 8))
    bounds = bounds_for(profile, entry, level, int(lines) if lines else None)
    if entry.non_square_pixels and video.sample_aspect != 1 and not video.rotation:
        whole = fit(video, cadence.frame_rate, bounds, square=False)
        if (whole.width, whole.height) == (video.width, video.height):
            return replace(whole, reason=Reason(code="kept_shape", values=whole.reason.values))
    return fit(video, cadence.frame_rate, bounds, square=True)


def _file_bound(request: PlanRequest, profile: DeviceProfile) -> int | None:
    """The video rate at which even a file that is all peaks stays inside the limit for one file."""
    limit = profile.limits.largest_file_bytes
    if limit is None or request.title.duration_s <= 0:
        return None
    sound_bps = 700_000
    return max(48_000, int(limit * 8 * 0.97 / request.title.duration_s - sound_bps))


def _settings(
    request: PlanRequest, entry: VideoEntry, geometry: Geometry, cadence: Cadence, rates: RateChoice
) -> VideoSettings:
    quality = QUALITY.get(entry.codec)
    step = request.balance.step
    video = request.title.video
    return VideoSettings(
        action=Action.ENCODE,
        codec=entry.codec,
        width=geometry.width,
        height=geometry.height,
        sample_aspect=geometry.sample_aspect,
        frame_rate=cadence.frame_rate,
        profile=rates.profile,
        level=rates.level,
        deinterlace=cadence.deinterlace,
        restore_film=cadence.restore_film,
        film_in_fields=cadence.film_in_fields,
        top_field_first=video.top_field_first if video else True,
        quality=quality[step] if quality else None,
        peak_bps=rates.peak_bps,
        buffer_bits=min(rates.buffer_bits, 2 * rates.peak_bps),
        reference_frames=rates.reference_frames,
        b_frames=rates.b_frames,
        keyframe_frames=keyframe_distance(cadence.frame_rate),
        effort=EFFORT[entry.codec][step],
    )


def _decisions(
    request: PlanRequest, made: VideoSettings, why: tuple[Reason, Reason, Reason], options: list[VideoEntry]
) -> tuple[Decision, ...]:
    size_reason, cadence_reason, codec_reason = why
    shape = "" if made.sample_aspect == 1 else f", shown {_shown(made)}"
    level = f" @ {made.level}" if made.level else ""
    name = f"{codec_name(made.codec)} {PROFILE_NAMES.get(made.profile or '', '')}{level}".strip()
    codecs = dict.fromkeys(entry.codec for entry in options)
    return (
        Decision(
            key="picture.size",
            value=str(made.height),
            text=f"{made.width} × {made.height}{shape}",
            reason=size_reason,
            pinned="picture.height" in request.pins,
        ),
        Decision(
            key="picture.cadence",
            value=f"{float(made.frame_rate):.3f}",
            text=f"{float(made.frame_rate):.3f}".rstrip("0").rstrip(".") + " frames a second",
            reason=cadence_reason,
        ),
        Decision(
            key="picture.codec",
            value=made.codec,
            text=name,
            reason=codec_reason,
            pinned="picture.codec" in request.pins,
            choices=tuple(Choice(value=codec, text=codec_name(codec)) for codec in codecs),
        ),
        _rate_decision(made, request),
    )


def _rate_decision(made: VideoSettings, request: PlanRequest) -> Decision:
    values: dict[str, object] = {
        "balance": request.balance.value,
        "peak_bps": made.peak_bps,
        "buffer_bits": made.buffer_bits,
    }
    if made.quality is not None:
        text = f"constant quality {made.quality}"
    else:
        text = f"{(made.bitrate_bps or 0) / 1000:.0f} kb/s on average"
    return Decision(
        key="picture.rate",
        value=str(made.quality if made.quality is not None else made.bitrate_bps),
        text=text,
        reason=Reason(code="balance_rate", values=values),
    )


def _shown(made: VideoSettings) -> str:
    return aspect_text(made.sample_aspect * made.width / made.height)
