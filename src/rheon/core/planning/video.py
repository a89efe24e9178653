"""The picture of an output: copied where the device takes it, else encoded inside every bound."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..devices import DeviceProfile, VideoEntry
from ..devices.bounds import highest_level
from ..errors import PlanError
from ..formats import (
    CONTAINERS,
    ENCODABLE_VIDEO,
    PLAYED_MOST,
    SMALLEST_FIRST,
    VIDEO_CODECS,
    VideoEncoder,
    codec_name,
    levels_of,
    video_encoder,
)
from ..media import Action, Borders, Reason, SubtitleStream, VideoSettings, VideoStream
from . import rates
from .cadence import Cadence, cadence_for
from .colour import family, output_colour, source_colour
from .crop import crop_for
from .geometry import Geometry, bounds_for, geometry_for, shrunk, size_pin
from .pins import AVERAGE, QUALITY, RatePin, fraction, number, one_of, whole
from .pins import rate as rate_pin
from .plan import PlanRequest

UNKNOWN_BITS = 0.2
"""For a pixel of a source whose codec nobody knows."""
LARGE_PIXELS = 1920 * 1088
FREE_BPS = 40_000_000
SOUND_BPS = 700_000


@dataclass(frozen=True, slots=True, kw_only=True)
class Why:
    """The reasons of a picture that is encoded."""

    crop: Reason
    size: Reason
    cadence: Reason
    fields: Reason
    codec: Reason
    profile: Reason
    level: Reason
    depth: Reason
    colour: Reason


@dataclass(frozen=True, slots=True, kw_only=True)
class VideoPlan:
    """``why`` is ``None`` where the picture is copied; ``options`` are the codecs that were to choose from."""

    settings: VideoSettings
    expected_bps: float
    why: Why | None = None
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
    """What is settled before the rates: the entry encoded for, the picture left by the crop, cadence and depth."""

    request: PlanRequest
    profile: DeviceProfile
    entry: VideoEntry
    encoder: VideoEncoder
    video: VideoStream
    cadence: Cadence
    depth: int
    sound_bps: float


def encodable_entries(profile: DeviceProfile, container: str) -> list[VideoEntry]:
    """Entries that Rheon can encode for, inside this container."""
    held = CONTAINERS[container].video
    return [
        entry
        for entry in profile.video
        if entry.codec in ENCODABLE_VIDEO and entry.codec in held and 8 in entry.bit_depths and _writable(entry)
    ]


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
    whole_picture = _with_aspect(request, request.title.video)
    crop = crop_for(request, drawn)
    video = crop.applied(whole_picture)
    options = encodable_entries(profile, container)
    entry, codec_reason = _choose_entry(options, video, request, container)
    encoder = video_encoder(entry.codec)
    depth, depth_reason = _depth(video, entry, encoder, request)
    picture = _Picture(
        request=request,
        profile=profile,
        entry=entry,
        encoder=encoder,
        video=video,
        cadence=cadence_for(video, entry, encoder, pins, own_times=CONTAINERS[container].own_times),
        depth=depth,
        sound_bps=sound_bps,
    )
    rated = _rated(picture)
    colour, colour_reason = output_colour(video, (rated.settings.width, rated.settings.height), depth, pins)
    source = source_colour(video)
    changed = family(source) != family(colour) or source.full_range
    settings = replace(rated.settings, crop=crop.borders, colour=colour, colour_from=source if changed else None)
    return VideoPlan(
        settings=settings,
        expected_bps=rated.expected_bps,
        why=Why(
            crop=crop.reason,
            size=rated.size,
            cadence=picture.cadence.rate_reason,
            fields=picture.cadence.fields_reason,
            codec=codec_reason,
            profile=rated.profile,
            level=rated.level,
            depth=depth_reason,
            colour=colour_reason,
        ),
        options=tuple(dict.fromkeys([*(option.codec for option in options), *others(container)])),
        exact=settings.bitrate_bps is not None and "picture.rate" in pins,
    )


def source_complexity(request: PlanRequest) -> float:
    """How hard the pictures are to code, 1 for usual: as sampled, else guessed from the source's own rate."""
    video, title = request.title.video, request.title
    assert video is not None
    if request.samples is not None:
        quality = video_encoder("h264").quality[request.balance.step]
        # black borders take nothing: what the samples took went into the picture inside them
        stored, inside = video.width * video.height, _inside(video)
        sampled = request.samples.bits_at(quality) * stored / inside
        return sampled / rates.usual_bits_per_pixel("h264", inside, request.balance)
    usual = VIDEO_CODECS[video.codec].source_bits if video.codec in VIDEO_CODECS else UNKNOWN_BITS
    rate = video.bitrate_bps or (title.size_bytes * 8 / title.duration_s if title.duration_s else 0)
    per_pixel = rate / max(1.0, video.width * video.height * float(video.frame_rate))
    return max(0.25, min(1.8, (per_pixel / usual) ** 0.7)) if per_pixel else 1.0


def _inside(video: VideoStream) -> int:
    """The pixels of the picture without its borders."""
    borders = video.borders or Borders()
    return (video.width - borders.left - borders.right) * (video.height - borders.top - borders.bottom)


def _writable(entry: VideoEntry) -> bool:
    return not entry.profiles or bool(set(entry.profiles) & set(video_encoder(entry.codec).profiles))


def others(container: str) -> list[str]:
    """Codecs that the container holds and Rheon makes, whatever the device says."""
    return [codec for codec in PLAYED_MOST if codec in CONTAINERS[container].video]


def _with_aspect(request: PlanRequest, video: VideoStream) -> VideoStream:
    """A wrong aspect put right by hand: the whole picture, before anything is cut away."""
    wanted = fraction(request.pins, "picture.aspect", (0.25, 4), "aspect")
    if wanted is None:
        return video
    width, height = (video.height, video.width) if video.rotation % 180 else (video.width, video.height)
    shape = wanted * height / width
    return replace(video, sample_aspect=1 / shape if video.rotation % 180 else shape)


def _choose_entry(
    options: list[VideoEntry], video: VideoStream, request: PlanRequest, container: str
) -> tuple[VideoEntry, Reason]:
    known = others(container)
    pinned = one_of(request.pins, "picture.codec", known, f"codec that {CONTAINERS[container].label} holds")
    if pinned is not None:
        chosen = next((entry for entry in options if entry.codec == pinned), None)
        return chosen or _free_entry(pinned, options), Reason(code="pinned")
    if not options:
        if not known:
            raise PlanError("The device takes no kind of picture that Rheon can make.")
        return _free_entry(known[0], options), Reason(code="held_by_container")
    large = video.width * video.height > LARGE_PIXELS
    order = SMALLEST_FIRST if large else PLAYED_MOST
    chosen = min(options, key=lambda entry: order.index(entry.codec))
    if len({entry.codec for entry in options}) == 1:
        code = "only_codec"
    else:
        code = "small_for_large_pictures" if large and chosen.codec == "hevc" else "plays_most_widely"
    return chosen, Reason(code=code, values={"codec": codec_name(chosen.codec)})


def _free_entry(codec: str, options: list[VideoEntry]) -> VideoEntry:
    """An entry for a codec that the device does not name: as large and fast as what it does name."""
    return VideoEntry(
        codec=codec,
        max_width=max((entry.max_width for entry in options), default=1920),
        max_height=max((entry.max_height for entry in options), default=1080),
        max_frame_rate=max(options, key=lambda e: e.frame_rate_limit).max_frame_rate if options else "60",
        max_bitrate_bps=FREE_BPS,
        bit_depths=(8, 10) if video_encoder(codec).ten_bit_profile else (8,),
    )


def _depth(video: VideoStream, entry: VideoEntry, encoder: VideoEncoder, request: PlanRequest) -> tuple[int, Reason]:
    depths = ("8", "10") if encoder.ten_bit_profile else ("8",)
    pinned = one_of(request.pins, "picture.depth", depths, f"bit depth that {codec_name(entry.codec)} is made in")
    if pinned is not None:
        return int(pinned), Reason(code="pinned")
    deep = video.bit_depth > 8
    able = deep and 10 in entry.bit_depths and encoder.ten_bit_profile is not None
    if able and (not entry.profiles or encoder.ten_bit_profile in entry.profiles):
        return 10, Reason(code="depth_kept")
    return 8, Reason(code="depth_lowered" if deep else "depth_of_source")


def _rated(picture: _Picture) -> _Rated:
    """Size and rates together: a rate that is too low for the pixels takes some of them away."""
    entry, cadence, request = picture.entry, picture.cadence, picture.request
    names = video_encoder(entry.codec).profiles
    names = (*names, *([picture.encoder.ten_bit_profile] if picture.encoder.ten_bit_profile else []))
    pinned_profile = one_of(request.pins, "picture.profile", names, "profile that Rheon makes")
    codec_profile = pinned_profile or rates.best_profile(entry, picture.depth)
    levels = levels_of(entry.codec, codec_profile)
    pinned_level = one_of(request.pins, "picture.level", levels, "level of this codec")
    bounds = bounds_for(picture.profile, entry, levels.get(pinned_level or "") or highest_level(entry, codec_profile))
    geometry = geometry_for(picture.video, cadence.frame_rate, bounds, entry, request.pins)
    wish = rate_pin(request.pins, picture.encoder.scale if picture.encoder.quality else None)
    geometry, expected = _balanced(picture, geometry, wish)
    wanted = rates.Wanted(
        width=geometry.width, height=geometry.height, frame_rate=cadence.frame_rate, expected_bps=expected
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
        profile=Reason(code="pinned" if pinned_profile else "best_profile"),
        level=Reason(code="pinned" if pinned_level else "lowest_level"),
    )


def _balanced(picture: _Picture, geometry: Geometry, wish: RatePin | None) -> tuple[Geometry, float]:
    """The size with the mean rate expected at it, fewer pixels where an average would starve them."""
    request, codec, rate = picture.request, picture.entry.codec, picture.cadence.frame_rate
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
    if share < 0.95 and size_pin(request.pins) is None:
        fewer = shrunk(geometry, share)
        values: dict[str, object] = {"source": f"{geometry.width}×{geometry.height}", "kbps": round(bps / 1000)}
        geometry = replace(fewer, reason=Reason(code="fewer_pixels", values=values))
    return geometry, bps


def _peaks(picture: _Picture, chosen: rates.RateChoice) -> rates.RateChoice:
    """Peak and buffer by hand, else what level, device and the limit for one file leave."""
    pins = picture.request.pins
    peak_kbps = whole(pins, "picture.peak", (64, 400_000), "peak rate in kb/s")
    buffer_kbit = whole(pins, "picture.buffer", (16, 800_000), "buffer in kbit")
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
    request, encoder, cadence = picture.request, picture.encoder, picture.cadence
    if wish is not None and wish.mode != QUALITY:
        quality: int | None = None
        bitrate: int | None = int(expected)
    else:
        quality = wish.value if wish else encoder.quality_at(request.balance)
        bitrate = None if quality is not None else max(rates.LEAST_BPS, int(min(expected, chosen.peak_bps * 0.8)))
    by_hand = one_of(request.pins, "picture.passes", ("1", "2") if encoder.two_passes else ("1",), "number of passes")
    averaged = bitrate is not None and "picture.rate" in request.pins
    passes = int(by_hand) if by_hand else 2 if averaged and encoder.two_passes else 1
    seconds = number(request.pins, "picture.keyframes", (0.1, 60), "distance of key frames in seconds")
    effort = one_of(request.pins, "picture.effort", encoder.efforts, "effort of this encoder")
    return VideoSettings(
        action=Action.ENCODE,
        codec=picture.entry.codec,
        width=geometry.width,
        height=geometry.height,
        sample_aspect=geometry.sample_aspect,
        frame_rate=cadence.frame_rate,
        variable_rate=cadence.variable_rate,
        every=cadence.every,
        profile=chosen.profile,
        level=chosen.level,
        bit_depth=picture.depth,
        fields=cadence.fields,
        deinterlacer=cadence.deinterlacer,
        film_in_fields=cadence.film_in_fields,
        combed=cadence.combed,
        top_field_first=picture.video.top_field_first,
        encoder=encoder.name,
        quality=quality,
        bitrate_bps=bitrate,
        passes=passes if bitrate is not None else 1,
        peak_bps=max(chosen.peak_bps, bitrate or 0),
        buffer_bits=chosen.buffer_bits,
        reference_frames=chosen.reference_frames,
        b_frames=chosen.b_frames,
        keyframe_frames=rates.keyframe_distance(cadence.frame_rate, seconds or rates.KEYFRAME_S),
        effort=effort or encoder.effort[request.balance.step],
    )
