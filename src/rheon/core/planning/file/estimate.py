"""How large and how long: what is expected of a plan, and how unsure that is."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from ...formats import AUDIO_CODECS, CONTAINERS, video_encoder
from ...media import Action, AudioSettings, Fields, MeasuredRate, OutputSettings, Title, VideoSettings, VideoStream
from ..picture.rates import MUXING_SHARE, muxing_bps
from ..plan import Estimate
from ..sound.usual import plain_bps, usual_audio_bps

SOURCE_PIXELS_PER_S = 150e6  # decoding and scaling
CHECK_PIXELS_PER_S = 900e6
COPY_BYTES_PER_S = 120e6
SOUND_REAL_TIMES = 40
START_S, EDGES_START_S = 0.8, 0.6
OVERHEAD = 1 + MUXING_SHARE
DISC_PACKING = 0.955  # pack and packet headers, navigation, padding
UNSURE_COPY = 0.1
COVER_BYTES, COVER_BOUNDS = 90e3, (0.15, 3.0)
"""A picture of 600 pixels the shorter way, from flat to full of detail."""
EDGES_MORE, EDGES_MOST = 1.0, 4.0
"""How much more than its share of a copied stream an encoded edge takes, usually and at most."""
UNSURE_GUESSED = 0.45
GUESSED = (0.25, 4.0)
"""Before anybody has looked: textured pictures come out up to four times larger than their source's rate suggests."""
UNSURE_COUNTED = 0.03
UNSURE_SOUND = 0.06
PLAIN_BITS = 24
LOSSLESS_SHARE, LOSSLESS_BOUNDS = 0.5, (0.2, 2.1)
"""Of uncompressed samples of 24 bits, which is what decoders of lossy sound give; speech takes least, noise all."""
UNSURE_LOSSLESS = 0.25
UNSURE_SET = 0.06
FIRST_PASS = 0.7  # of the second's time
SMOOTHING = 0.5  # of decoding and scaling
UNSURE_MEASURED = 0.22
UNSURE_SMOOTHED = 0.75  # how much of the bits was noise, nobody knows before
UNSURE_PER_HALVING = 0.10  # samples are taken at the stored size; the smaller the output, the less they say of it


@dataclass(frozen=True, slots=True, kw_only=True)
class Basis:
    """What an estimate rests on: rates in bits a second, and whether samples of the title were measured.

    ``exact`` says that the rate was set by hand as an average or a size. ``pixels_per_s`` is how quick the encoder is
    beside a usual machine; ``None`` where nobody measured. ``measured_rate`` is what seconds of this picture took.
    """

    video_bps: float
    audio_bps: float
    sampled: bool
    exact: bool = False
    pixels_per_s: float | None = None
    measured_rate: MeasuredRate | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class _Size:
    """Bytes expected, and the bounds that should hold in four of five files."""

    expected: float
    low: float
    high: float

    def __add__(self, other: _Size) -> _Size:
        return _Size(expected=self.expected + other.expected, low=self.low + other.low, high=self.high + other.high)


def _between(expected: float, low: float, high: float) -> _Size:
    """``low`` and ``high`` as shares of what is expected."""
    return _Size(expected=expected, low=expected * low, high=expected * high)


def estimate(title: Title, settings: OutputSettings, basis: Basis) -> Estimate:
    """Size from the rates, or from the bytes of streams that stay as they are; time from the pixels."""
    video = settings.video
    if video and video.action is Action.COPY:
        size = _with_edges(_copied(title, settings), title, settings)
    else:
        pictures = _pictures(title, settings, basis) if video else _Size(expected=0, low=0, high=0)
        size = sum((_sound(title, sound, basis) for sound in settings.audio), pictures)
    size += _between(CONTAINERS[settings.container].tags_room, 1, 1)
    if settings.cover_place.inside:
        size += _between(COVER_BYTES, *COVER_BOUNDS)
    seconds = _work_s(title, settings, basis.pixels_per_s)
    return Estimate(
        size_bytes=round(size.expected),
        size_low_bytes=round(size.low),
        size_high_bytes=round(size.high),
        time_s=round(seconds, 1),
        time_low_s=round(seconds * 0.7, 1),
        time_high_s=round(seconds * 1.5, 1),
        checking_s=round(_check_s(title, settings), 1),
        from_seconds=basis.measured_rate is not None,
    )


def _pictures(title: Title, settings: OutputSettings, basis: Basis) -> _Size:
    if basis.exact:
        # the sound's own share of what the container adds is counted with it
        added = muxing_bps(basis.video_bps + basis.audio_bps) - MUXING_SHARE * basis.audio_bps
        set_size = title.duration_s * (basis.video_bps + added) / 8
        return _between(set_size, 1 - UNSURE_SET, 1 + UNSURE_SET)
    bytes_each_bps = title.duration_s / 8 * OVERHEAD
    if (rate := basis.measured_rate) is not None:
        low, high = (bps * bytes_each_bps for bps in (rate.low_bps, rate.high_bps))
        return _Size(expected=rate.bps * bytes_each_bps, low=low, high=high)
    size = basis.video_bps * bytes_each_bps
    unsure = _unsure(title, settings)
    found = _between(size, *((1 - unsure, 1 + unsure) if basis.sampled else GUESSED))
    made = settings.video
    if made is None or made.peak_bps is None:
        return found
    # that is all that the peak lets through, and what its buffer holds at first
    most = (title.duration_s * made.peak_bps + (made.buffer_bits or 0)) / 8 * OVERHEAD
    return replace(found, high=max(found.expected, min(found.high, most)))


def _sound(title: Title, sound: AudioSettings, basis: Basis) -> _Size:
    """One track: counted where it is copied, its rate where that is set, else between what lossless coding takes."""
    track = title.audio[sound.track]
    if sound.action is Action.COPY and track.span is not None and track.span.whole and title.part_of is None:
        return _between(track.span.size_bytes * OVERHEAD, 1 - UNSURE_COUNTED, 1 + UNSURE_COUNTED)
    if AUDIO_CODECS[sound.codec].lossless and not (sound.action is Action.COPY and track.bitrate_bps):
        return _lossless(title, sound)
    bps = sound.bitrate_bps or plain_bps(sound) or track.bitrate_bps or usual_audio_bps(track)
    return _between(title.duration_s * bps / 8 * OVERHEAD, 1 - UNSURE_SOUND, 1 + UNSURE_SOUND)


def _lossless(title: Title, sound: AudioSettings) -> _Size:
    """By stretches that were coded for the purpose; where nobody did, between what speech and noise take."""
    track = title.audio[sound.track]
    plain = sound.sample_rate * sound.channels
    if track.lossless_bps is not None:
        share = plain / (track.sample_rate * track.channels)
        size = title.duration_s * track.lossless_bps * share / 8
        return _between(size, 1 - UNSURE_LOSSLESS, 1 + UNSURE_LOSSLESS)
    return _between(PLAIN_BITS * plain * title.duration_s / 8 * LOSSLESS_SHARE, *LOSSLESS_BOUNDS)


def _unsure(title: Title, settings: OutputSettings) -> float:
    """How far an estimate from samples may be off, as a share."""
    made, source = settings.video, title.video
    if made is None or source is None:
        return UNSURE_MEASURED
    if made.denoise and source.is_noisy:
        return UNSURE_SMOOTHED
    shrunk = max(1.0, source.width * source.height / (made.width * made.height))
    return min(UNSURE_GUESSED, UNSURE_MEASURED + UNSURE_PER_HALVING * math.log2(shrunk))


def _copied(title: Title, settings: OutputSettings) -> _Size:
    """The picture's own bytes where they were counted; else the title's, without what stays behind and disc packing."""
    video = title.video
    if video is not None and video.span is not None and video.span.whole and title.part_of is None:
        counted = _between(video.span.size_bytes * OVERHEAD, 1 - UNSURE_COUNTED, 1 + UNSURE_COUNTED)
        basis = Basis(video_bps=0, audio_bps=0, sampled=True)
        return sum((_sound(title, sound, basis) for sound in settings.audio), counted)
    if video is not None and video.bitrate_bps and video.stream_id is not None:
        # a disc whose packets were counted at some places
        counted = _between(title.duration_s * video.bitrate_bps / 8 * OVERHEAD, 1 - UNSURE_COPY, 1 + UNSURE_COPY)
        basis = Basis(video_bps=0, audio_bps=0, sampled=True)
        return sum((_sound(title, sound, basis) for sound in settings.audio), counted)
    kept = {sound.track for sound in settings.audio if sound.action is Action.COPY}
    left_bps = sum(track.bitrate_bps or usual_audio_bps(track) for track in title.audio if track.index not in kept)
    packing = DISC_PACKING if title.container == "dvd" else 1.0
    left = max(1.0, title.size_bytes * packing - left_bps * title.duration_s / 8)
    basis = Basis(video_bps=0, audio_bps=0, sampled=True)
    made = [_sound(title, sound, basis) for sound in settings.audio if sound.action is Action.ENCODE]
    return sum(made, _between(left, 1 - UNSURE_COPY, 1 + UNSURE_COPY))


def _with_edges(size: _Size, title: Title, settings: OutputSettings) -> _Size:
    """Pictures at the ends of copied stretches are encoded finer than the rest, which takes more."""
    if not settings.middles or not title.duration_s:
        return size
    share = _edge_length_s(settings) / title.duration_s
    return _Size(
        expected=size.expected * (1 + EDGES_MORE * share),
        low=size.low,
        high=size.high * (1 + EDGES_MOST * share),
    )


def _edge_length_s(settings: OutputSettings) -> float:
    return sum(one.length_s for one in settings.kept) - sum(one.length_s for one in settings.middles)


def _work_s(title: Title, settings: OutputSettings, pixels_per_s: float | None) -> float:
    """Making and checking, in seconds."""
    made, source = settings.video, title.video
    encoded = sum(sound.action is Action.ENCODE for sound in settings.audio)
    sound = encoded * title.duration_s / SOUND_REAL_TIMES
    if made is None or source is None:
        return START_S + 1.3 * sound
    read = source.width * source.height * float(source.frame_rate) * title.duration_s
    check = _check_s(title, settings)
    if made.action is Action.COPY:
        return START_S + title.size_bytes / COPY_BYTES_PER_S + sound + check + _edges_s(source, settings)
    return START_S + _encoding_s(made, read, title.duration_s, pixels_per_s) + sound + check


def _check_s(title: Title, settings: OutputSettings) -> float:
    """Decoding the picture once more."""
    made = settings.video
    if made is None:
        return 0.0
    return made.width * made.height * float(made.frame_rate) * title.duration_s / CHECK_PIXELS_PER_S


def _edges_s(source: VideoStream, settings: OutputSettings) -> float:
    """What the pictures at the ends of copied stretches take."""
    made = settings.video.edges if settings.video else None
    if made is None or not settings.middles:
        return 0.0
    encoded_s = _edge_length_s(settings)
    read = source.width * source.height * float(source.frame_rate) * encoded_s
    return EDGES_START_S * len(settings.kept) + _encoding_s(made, read, encoded_s)


def _encoding_s(made: VideoSettings, read_pixels: float, duration_s: float, pixels_per_s: float | None = None) -> float:
    written = made.width * made.height * float(made.frame_rate) * duration_s
    work = 1.0 if made.fields in (Fields.LEAVE, Fields.KEEP) else 1.5
    work += SMOOTHING * bool(made.denoise) + SMOOTHING * bool(made.deband)
    pixels_per_s = pixels_per_s or video_encoder(made.codec, made.encoder).presets[made.preset]
    once = work * read_pixels / SOURCE_PIXELS_PER_S + written / pixels_per_s
    return once * (1 + FIRST_PASS * (made.passes - 1))
