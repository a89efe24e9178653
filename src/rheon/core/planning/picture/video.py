"""The picture of an output: copied where the device takes it, else encoded inside every bound."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import partial

from ...devices import DeviceProfile, VideoEntry
from ...devices.bounds import highest_level
from ...formats import CONTAINERS, VIDEO_CODECS, VideoEncoder, codec_name, levels_of, video_encoder
from ...media import Action, Borders, Reason, SubtitleStream, VideoSettings, VideoStream
from ..decisions import PINNED
from ..decisions.form import Unreadable
from ..decisions.picture import (
    BUFFER,
    CODEC,
    COLOUR,
    CROP,
    DEPTH,
    FIELDS,
    FRAME_RATE,
    KEYFRAMES,
    LEVEL,
    PASSES,
    PEAK,
    PRESET,
    PROFILE,
    RATE,
    SIZE,
)
from ..decisions.picture.depth import EIGHT, TEN
from ..decisions.picture.passes import ONE, TWO
from ..decisions.picture.rate import AVERAGE, QUALITY, RatePin, check
from ..request import PlanRequest
from . import rates
from .colour import output_colour
from .complexity import source_complexity
from .crop import crop_for
from .entries import choose_entry, encodable_entries, others
from .frame import met_screen, set_upright
from .frame_rate import FrameRatePlan, plan_frame_rate
from .geometry import Geometry, bounds_for, geometry_for, shrunk
from .joined import PartPicture, colour_change, common_timing, part_crops, size_reason, with_parts

SOUND_BPS = 700_000


@dataclass(frozen=True, slots=True, kw_only=True)
class VideoPlan:
    """``reasons`` say why, by decision; ``options`` are the codecs that were to choose from."""

    settings: VideoSettings
    expected_bps: float
    reasons: Mapping[str, Reason] = field(default_factory=dict)
    options: tuple[str, ...] = ()
    exact: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class _Rated:
    """Size and rates settled together, with the mean rate expected and the reasons that only show then."""

    settings: VideoSettings
    expected_bps: float
    size: Reason
    profile: Reason
    level: Reason


@dataclass(frozen=True, slots=True, kw_only=True)
class _Picture:
    """What is settled before the rates: the entry encoded for, the picture left by the crop, frame rate and depth."""

    request: PlanRequest
    profile: DeviceProfile
    entry: VideoEntry
    encoder: VideoEncoder
    video: VideoStream
    timing: FrameRatePlan
    depth: int
    sound_bps: float


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
        bit_depth=video.bit_depth,
    )
    return VideoPlan(settings=settings, expected_bps=float(video.bitrate_bps or 0))


def encoded(
    request: PlanRequest,
    profile: DeviceProfile,
    container: str,
    *,
    drawn: SubtitleStream | None = None,
    sound_bps: float = 0.0,
) -> VideoPlan:
    """The stream encoded for the device. Raises ``PlanError`` or ``BadPin``."""
    assert request.title.video is not None
    pins = request.pins
    whole_picture = set_upright(request.title.video, pins)
    video, crop = met_screen(whole_picture, crop_for(request, drawn), profile, pins)
    options = encodable_entries(profile, container)
    entry, codec_reason = choose_entry(options, video, pins, container)
    encoder = video_encoder(entry.codec)
    depth, depth_reason = _depth(video, entry, encoder, request)
    own_times = _keeps_times(request, container)
    timed = partial(plan_frame_rate, entry=entry, encoder=encoder, pins=pins, own_times=own_times)
    parts = _parts(request, part_crops(request, crop, drawn), timed)
    picture = _Picture(
        request=request,
        profile=profile,
        entry=entry,
        encoder=encoder,
        video=video,
        timing=common_timing([part.timing for part in parts]) if parts else timed(video),
        depth=depth,
        sound_bps=sound_bps,
    )
    rated = _rated(picture)
    colour, colour_reason = output_colour(video, (rated.settings.width, rated.settings.height), depth, entry, pins)
    settings = replace(
        rated.settings,
        crop=crop.borders,
        rotation=video.rotation,
        rotation_from=request.title.video.rotation,
        colour=colour,
        colour_from=colour_change(video, colour),
    )
    if parts:
        settings = with_parts(settings, parts)
    return VideoPlan(
        settings=settings,
        expected_bps=rated.expected_bps,
        reasons={
            CROP.key: crop.reason,
            SIZE.key: size_reason(rated.size, parts),
            FRAME_RATE.key: picture.timing.rate_reason,
            FIELDS.key: picture.timing.fields_reason,
            CODEC.key: codec_reason,
            PROFILE.key: rated.profile,
            LEVEL.key: rated.level,
            DEPTH.key: depth_reason,
            COLOUR.key: colour_reason,
        },
        options=tuple(dict.fromkeys([*(option.codec for option in options), *others(container)])),
        exact=settings.bitrate_bps is not None and RATE in pins,
    )


def _parts(
    request: PlanRequest, crops: Sequence[Borders], timed: Callable[[VideoStream], FrameRatePlan]
) -> list[PartPicture]:
    """The pictures of a join's parts; none where the title is no join."""
    videos = [part.video for part in request.title.joined if part.video is not None]
    return [
        PartPicture(video=upright, crop=crop, timing=timed(upright), rotation_from=one.rotation)
        for one, crop in zip(videos, crops, strict=True)
        if (upright := set_upright(one, request.pins))
    ]


def _keeps_times(request: PlanRequest, container: str) -> bool:
    """Whether each picture may have a time of its own: concatenated stretches come at one rate."""
    return CONTAINERS[container].own_times and len(request.range.kept) < 2 and not request.title.joined


def _depth(video: VideoStream, entry: VideoEntry, encoder: VideoEncoder, request: PlanRequest) -> tuple[int, Reason]:
    depths = (EIGHT, TEN) if encoder.ten_bit_profile else (EIGHT,)
    pinned = request.pins.among(DEPTH, depths, f"bit depth that {codec_name(entry.codec)} is made in")
    if pinned is not None:
        return pinned, PINNED
    deep = video.bit_depth > 8
    able = deep and 10 in entry.bit_depths and encoder.ten_bit_profile is not None
    if able and (not entry.profiles or encoder.ten_bit_profile in entry.profiles):
        return 10, Reason(code="depth_kept")
    return 8, Reason(code="depth_lowered" if deep else "depth_of_source")


def _rated(picture: _Picture) -> _Rated:
    """Size and rates together: a rate that is too low for the pixels takes some of them away."""
    entry, timing, request = picture.entry, picture.timing, picture.request
    pinned_profile = request.pins.among(PROFILE, picture.encoder.written_profiles, "profile that Rheon makes")
    codec_profile = pinned_profile or rates.best_profile(entry, picture.depth)
    levels = levels_of(entry.codec, codec_profile)
    pinned_level = request.pins.among(LEVEL, levels, "level of this codec")
    bounds = bounds_for(picture.profile, entry, levels.get(pinned_level or "") or highest_level(entry, codec_profile))
    geometry = geometry_for(picture.video, timing.frame_rate, bounds, entry, request.pins)
    wish = _rate_wish(picture)
    geometry, expected = _balanced(picture, geometry, wish)
    wanted = rates.Wanted(
        width=geometry.width, height=geometry.height, frame_rate=timing.frame_rate, expected_bps=expected
    )
    chosen = rates.choose_rates(entry, codec_profile, wanted, pinned_level)
    chosen = _peaks(picture, chosen)
    if wish is None or wish.mode == QUALITY:
        plain = codec_profile in VIDEO_CODECS[entry.codec].plain_profiles
        expected = min(expected * (picture.encoder.plain_share if plain else 1), chosen.peak_bps * 0.9)
    settings = _settings(picture, geometry, chosen, (wish, expected))
    return _Rated(
        settings=settings,
        expected_bps=expected,
        size=geometry.reason,
        profile=Reason(code="best_profile"),
        level=Reason(code="lowest_level"),
    )


def _rate_wish(picture: _Picture) -> RatePin | None:
    """The rate by hand, inside what this encoder's scale holds. Raises ``BadPin``."""
    wish, encoder = picture.request.pins.of(RATE), picture.encoder
    if wish is None or wish.mode != QUALITY:
        return wish
    if not encoder.quality:
        raise RATE.refuse("This codec is made at an average rate or for a size, not at constant quality.")
    try:
        check(wish, encoder.scale)
    except Unreadable as error:
        raise RATE.refuse(error.what, **error.facts) from None
    return wish


def _balanced(picture: _Picture, geometry: Geometry, wish: RatePin | None) -> tuple[Geometry, float]:
    """The size with the mean rate expected at it, fewer pixels where an average would starve them."""
    request, codec, rate = picture.request, picture.entry.codec, picture.timing.frame_rate
    complexity = source_complexity(request)
    pixels = geometry.width * geometry.height
    if wish is None or wish.mode == QUALITY:
        usual = rates.expected_bitrate(codec, pixels, rate, request.balance, complexity)
        return geometry, usual if wish is None else rates.at_quality(
            usual, picture.encoder, request.balance, wish.value
        )
    if wish.mode == AVERAGE:
        bps = float(wish.value * 1000)
    else:
        bps = float(rates.bitrate_for_size(wish.value * 1e6, request.title.duration_s, picture.sound_bps))
    share = rates.floor_share(codec, pixels, rate, bps, complexity)
    if share < 0.95 and SIZE not in request.pins:
        fewer = shrunk(geometry, share)
        values: dict[str, object] = {"source": f"{geometry.width}×{geometry.height}", "kbps": round(bps / 1000)}
        geometry = replace(fewer, reason=Reason(code="fewer_pixels", values=values))
    return geometry, bps


def _peaks(picture: _Picture, chosen: rates.RateChoice) -> rates.RateChoice:
    """Peak and buffer by hand, else what level, device and the limit for one file leave."""
    pins = picture.request.pins
    peak_kbps, buffer_kbit = pins.of(PEAK), pins.of(BUFFER)
    usual = min(chosen.peak_bps, _file_bound(picture) or chosen.peak_bps)
    peak = usual if peak_kbps is None else peak_kbps * 1000
    buffer = buffer_kbit * 1000 if buffer_kbit is not None else min(chosen.buffer_bits, 2 * peak)
    return replace(chosen, peak_bps=peak, buffer_bits=buffer)


def _file_bound(picture: _Picture) -> int | None:
    """The video rate at which even a file that is all peaks stays inside the limit for one file."""
    limit, duration_s = picture.profile.limits.largest_file_bytes, picture.request.title.duration_s
    if limit is None or duration_s <= 0:
        return None
    return max(48_000, int(limit * 8 * 0.97 / duration_s - max(SOUND_BPS, picture.sound_bps)))


def _settings(
    picture: _Picture, geometry: Geometry, chosen: rates.RateChoice, rated: tuple[RatePin | None, float]
) -> VideoSettings:
    wish, expected = rated
    request, encoder, timing = picture.request, picture.encoder, picture.timing
    if wish is not None and wish.mode != QUALITY:
        quality: int | None = None
        bitrate: int | None = int(expected)
    else:
        quality = wish.value if wish else encoder.quality_at(request.balance)
        bitrate = None if quality is not None else max(rates.LEAST_BPS, int(min(expected, chosen.peak_bps * 0.8)))
    by_hand = request.pins.among(PASSES, (ONE, TWO) if encoder.two_passes else (ONE,), "number of passes")
    averaged = bitrate is not None and RATE in request.pins
    passes = by_hand or (TWO if averaged and encoder.two_passes else ONE)
    seconds = request.pins.of(KEYFRAMES)
    preset = request.pins.among(PRESET, encoder.presets, "preset of this encoder")
    return VideoSettings(
        action=Action.ENCODE,
        codec=picture.entry.codec,
        width=geometry.width,
        height=geometry.height,
        sample_aspect=geometry.sample_aspect,
        frame_rate=timing.frame_rate,
        variable_rate=timing.variable_rate,
        every=timing.every,
        profile=chosen.profile,
        level=chosen.level,
        bit_depth=picture.depth,
        fields=timing.fields,
        deinterlacer=timing.deinterlacer,
        film_in_fields=timing.film_in_fields,
        combed=timing.combed,
        top_field_first=picture.video.top_field_first,
        encoder=encoder.name,
        quality=quality,
        bitrate_bps=bitrate,
        passes=passes if bitrate is not None else 1,
        peak_bps=max(chosen.peak_bps, bitrate or 0),
        buffer_bits=chosen.buffer_bits,
        reference_frames=chosen.reference_frames,
        b_frames=chosen.b_frames,
        keyframe_frames=rates.keyframe_distance(timing.frame_rate, seconds or rates.KEYFRAME_S),
        preset=preset or encoder.preset[request.balance.step],
    )
