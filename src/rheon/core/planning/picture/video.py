"""The picture of an output: copied where the device takes it, else encoded inside every bound."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from fractions import Fraction
from functools import partial

from ...devices import DeviceProfile, VideoEntry
from ...formats import CONTAINERS, VIDEO_CODECS, VideoEncoder, codec_name, video_encoder
from ...media import Action, Borders, Fields, Reason, Scan, SubtitleStream, VideoSettings, VideoStream
from ...media.joined import same_frame
from ..decisions import PINNED
from ..decisions.picture import (
    BUFFER,
    CODEC,
    COLOUR,
    CROP,
    DEPTH,
    ENCODER,
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
from ..decisions.picture.rate import QUALITY, RatePin
from ..request import PlanRequest
from . import rates
from .colour import output_colour
from .complexity import source_complexity
from .crop import Crop, crop_for
from .encoder import EncoderChoice, choose_encoder
from .entries import choose_entry, encodable_entries, others
from .fields import Receiver, of_interlaced
from .frame import met_screen, set_upright
from .frame_rate import JOINED, FrameRatePlan, keeps_fields, plan_frame_rate
from .geometry import Geometry, geometry_for, shrunk
from .held_rate import STARVED, HeldRate, SoundRates, wished_rate
from .joined import PartPicture, colour_change, common_timing, part_crops, size_reason, with_parts
from .profile_level import ProfileLevel, profile_level
from .smoothing import deband_for, denoise_for, left_to_code


@dataclass(frozen=True, slots=True, kw_only=True)
class VideoPlan:
    """``reasons`` say why, by decision; ``options`` are the codecs, ``hardware`` the families of encoders that were to
    choose from. ``pixels_per_s`` is how quick the encoder was here, where that was measured, as on a usual
    machine: all else is told for one.
    """

    settings: VideoSettings
    expected_bps: float
    reasons: Mapping[str, Reason] = field(default_factory=dict)
    options: tuple[str, ...] = ()
    hardware: tuple[str, ...] = ()
    pixels_per_s: float | None = None
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
    made_by: EncoderChoice
    video: VideoStream
    crop: Crop
    parts: Sequence[PartPicture]
    timing: FrameRatePlan
    depth: int
    coding: ProfileLevel
    held: HeldRate
    reasons: Mapping[str, Reason]

    @property
    def encoder(self) -> VideoEncoder:
        return self.made_by.encoder


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
    drawn: SubtitleStream | None,
    sound: SoundRates,
) -> VideoPlan:
    """The stream encoded for the device. Raises ``PlanError`` or ``BadPin``."""
    assert request.title.video is not None
    picture = _settled(request, profile, container, drawn, sound)
    pins, video, parts = request.pins, picture.video, picture.parts
    rated = _rated(picture)
    size = (rated.settings.width, rated.settings.height)
    colour, colour_reason = output_colour(video, size, picture.depth, picture.entry, pins)
    settings = replace(
        rated.settings,
        crop=picture.crop.borders,
        rotation=video.rotation,
        rotation_from=request.title.video.rotation,
        colour=colour,
        colour_from=colour_change(video, colour),
        bit_depth_from=video.bit_depth,
        whole_planes_from=request.title.video.in_whole_planes(picture.crop.borders),
        denoise=denoise_for(video, pins),
        deband=deband_for(pins),
    )
    if parts:
        settings = with_parts(settings, parts, pins)
    options = encodable_entries(profile, container)
    return VideoPlan(
        settings=settings,
        expected_bps=rated.expected_bps,
        reasons={
            **picture.reasons,
            CROP.key: picture.crop.reason,
            SIZE.key: size_reason(rated.size, parts),
            FRAME_RATE.key: picture.timing.rate_reason,
            FIELDS.key: picture.timing.fields_reason,
            PROFILE.key: rated.profile,
            LEVEL.key: rated.level,
            COLOUR.key: colour_reason,
        },
        hardware=picture.made_by.offered,
        pixels_per_s=picture.made_by.hardware.pixels_per_s * request.machine.pace if picture.made_by.hardware else None,
        options=tuple(dict.fromkeys([*(option.codec for option in options), *others(container)])),
        exact=settings.bitrate_bps is not None and RATE in pins,
    )


def _settled(
    request: PlanRequest, profile: DeviceProfile, container: str, drawn: SubtitleStream | None, sound: SoundRates
) -> _Picture:
    """Everything but size and rates, each of which needs the ones before."""
    assert request.title.video is not None
    pins = request.pins
    video, crop = _framed(request, profile, drawn, of_fields=keeps_fields(request.title.video, pins))
    entry, codec_reason = choose_entry(encodable_entries(profile, container), video, pins, container)
    depth, depth_reason = _depth(video, entry, video_encoder(entry.codec), request)
    coding = profile_level(profile, entry, depth, pins)
    made_by = choose_encoder(request, entry.codec, depth, coding.profile)
    wish = wished_rate(pins, made_by.encoder)
    room = CONTAINERS[container].tags_room
    held = HeldRate(request=request, device=profile, codec=entry.codec, wish=wish, sound=sound, tags_room=room)
    interlaced = JOINED
    if video.scan is Scan.INTERLACED and FIELDS not in pins and _alike(request):
        receiver = Receiver(device=profile, entry=entry, coding=coding, held=held)
        in_fields = _framed(request, profile, drawn, of_fields=True)
        interlaced = of_interlaced(video, in_fields[0], receiver, pins)
        if interlaced.fields is Fields.KEEP:
            video, crop = in_fields
    own_times = _keeps_times(request, container)
    timed = partial(plan_frame_rate, entry=entry, pins=pins, own_times=own_times, interlaced=interlaced)
    parts = _parts(request, part_crops(request, crop, drawn), timed)
    timing = common_timing([part.timing for part in parts]) if parts else timed(video)
    if timing.fields is Fields.KEEP and made_by.hardware:
        made_by = made_by.by_software(entry.codec, "encoder_of_fields")
    return _Picture(
        request=request,
        profile=profile,
        entry=entry,
        made_by=made_by,
        video=video,
        crop=crop,
        parts=parts,
        timing=timing,
        depth=depth,
        coding=coding,
        held=held,
        reasons={CODEC.key: codec_reason, DEPTH.key: depth_reason, ENCODER.key: made_by.reason},
    )


def _framed(
    request: PlanRequest, profile: DeviceProfile, drawn: SubtitleStream | None, *, of_fields: bool
) -> tuple[VideoStream, Crop]:
    """The picture that is left and what is cut away; ``of_fields`` where fields stay where they lie."""
    assert request.title.video is not None
    crop = crop_for(request, drawn, of_fields=of_fields)
    return met_screen(set_upright(request.title.video, request.pins), crop, profile, request.pins, of_fields=of_fields)


def _alike(request: PlanRequest) -> bool:
    """Whether fields can be treated alike everywhere: in all parts of a join, where the title is one."""
    videos = [part.video for part in request.title.joined if part.video is not None]
    return same_frame(videos) and len({(one.scan, one.frame_rate) for one in videos}) < 2


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
    entry, timing, coding, wish = picture.entry, picture.timing, picture.coding, picture.held.wish
    geometry = geometry_for(picture.video, timing.frame_rate, coding.bounds, entry, picture.request.pins)
    geometry, expected = _balanced(picture, geometry)
    wanted = rates.Wanted(
        width=geometry.width,
        height=geometry.height,
        frame_rate=timing.frame_rate,
        expected_bps=expected,
        of_fields=timing.fields is Fields.KEEP,
    )
    chosen = rates.choose_rates(entry, coding.profile, wanted, coding.level)
    chosen = _peaks(picture, chosen)
    if wish is None or wish.mode == QUALITY:
        plain = coding.profile in VIDEO_CODECS[entry.codec].plain_profiles
        expected *= picture.encoder.plain_share if plain else 1
    settings = _settings(picture, geometry, chosen, (wish, expected))
    if settings.bitrate_bps is None:
        expected = rates.under_peak(expected, chosen.peak_bps)
    elif wish is None:
        expected = float(settings.bitrate_bps)
    return _Rated(
        settings=settings,
        expected_bps=expected,
        size=geometry.reason,
        profile=Reason(code="best_profile"),
        level=Reason(code="lowest_level"),
    )


def _balanced(picture: _Picture, geometry: Geometry) -> tuple[Geometry, float]:
    """The size with the mean rate expected at it, fewer pixels where an average or a limit would starve them."""
    held, rate = picture.held, rates.counted_rate(picture.timing.frame_rate, picture.timing.fields)
    usual, most = _usual(picture, geometry, rate), held.most_bps
    if most is None or (held.mean_bps is None and usual <= most):
        return geometry, usual
    share = held.enough_for(geometry, rate)
    if share < STARVED and SIZE not in picture.request.pins:
        fewer = shrunk(geometry, share)
        values: dict[str, object] = {"source": f"{geometry.width}×{geometry.height}", "kbps": round(most / 1000)}
        geometry = replace(fewer, reason=Reason(code="fewer_pixels", values=values))
    return geometry, most if held.mean_bps is not None else min(most, _usual(picture, geometry, rate))


def _usual(picture: _Picture, geometry: Geometry, rate: Fraction) -> float:
    """The mean rate expected where nothing holds it down."""
    request, wish = picture.request, picture.held.wish
    complexity = source_complexity(request) * left_to_code(picture.video, request.pins)
    pixels = geometry.width * geometry.height
    usual = rates.expected_bitrate(picture.entry.codec, pixels, rate, request.balance, complexity)
    usual *= picture.made_by.size_share
    if wish is None or wish.mode != QUALITY:
        return usual
    return rates.at_quality(usual, picture.encoder, request.balance, wish.value)


def _peaks(picture: _Picture, chosen: rates.RateChoice) -> rates.RateChoice:
    """Peak and buffer by hand, else what level, device and the limit for one file leave."""
    pins = picture.request.pins
    peak_kbps, buffer_kbit = pins.of(PEAK), pins.of(BUFFER)
    bound = picture.held.file_bound_bps
    usual = chosen.peak_bps if bound is None else min(chosen.peak_bps, bound)
    peak = usual if peak_kbps is None else peak_kbps * 1000
    buffer = buffer_kbit * 1000 if buffer_kbit is not None else min(chosen.buffer_bits, 2 * peak)
    return replace(chosen, peak_bps=peak, buffer_bits=buffer)


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
        comb_limit=timing.comb_limit,
        combed=timing.combed,
        top_field_first=picture.video.top_field_first,
        encoder=encoder.name,
        device=picture.made_by.hardware.device if picture.made_by.hardware else "",
        quality=quality,
        bitrate_bps=bitrate,
        passes=passes if bitrate is not None else 1,
        peak_bps=max(chosen.peak_bps, bitrate or 0),
        buffer_bits=chosen.buffer_bits,
        reference_frames=chosen.reference_frames,
        b_frames=min(chosen.b_frames, encoder.b_frames),
        keyframe_frames=rates.keyframe_distance(timing.frame_rate, seconds or rates.KEYFRAME_S),
        preset=preset or encoder.preset[request.balance.step],
    )
