"""Quality, average or target size; peak rate, buffer, level and reference frames."""

from __future__ import annotations

import math
from dataclasses import dataclass
from fractions import Fraction

from ...devices import VideoEntry
from ...devices.bounds import highest_level, rate_bounds
from ...devices.rules import better_profiles
from ...formats import VIDEO_CODECS, Level, VideoEncoder, levels_of, most_references, video_encoder
from ...media import Balance, Fields

USUAL_PIXELS = 720 * 480
GROWTH_PER_STEP = (0.50, 0.71, 1.0, 1.26, 1.6)
TYPICAL_PEAK = 6  # peaks of a constant-quality stream against its mean
PEAK_BEND = 4  # a mean of half the peak is hardly held down, one of the peak itself by a sixth
SAFETY = Fraction(9, 10)
KEYFRAME_S = 5.0
SMALLEST_PEAK_BPS = 64_000
LEAST_WANTED_PEAK_BPS = 3_000_000
PEAK_STEP_BPS = 500_000
LEAST_BPS = 32_000
PIXEL_POWER = 0.75
"""Rates grow with this power of the pixels, from experience."""
FLOOR_SHARE = 0.30
"""The share of the usual bits for a pixel under which fewer pixels look better."""
DOUBLED_SHARE = Fraction(13, 20)
"""How much a picture of a single field counts (measured: 1.23 to 1.40 times the bits for twice as many)."""
MUXING_SHARE, MUXING_BPS = 0.01, 8000.0
"""What a container adds, at least: about 16 bytes for a picture and 8 for a packet of sound."""


@dataclass(frozen=True, slots=True, kw_only=True)
class RateChoice:
    """Level, peak and buffer that hold for a picture, and the frames that may refer to each other."""

    profile: str | None
    level: str | None
    peak_bps: int
    buffer_bits: int
    reference_frames: int
    b_frames: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Wanted:
    """The picture that rates are sought for: its size in pixels, frames a second, and the mean rate expected.

    ``of_fields``: it is coded as two fields.
    """

    width: int
    height: int
    frame_rate: Fraction
    expected_bps: float
    of_fields: bool = False


def best_profile(entry: VideoEntry, bit_depth: int) -> str | None:
    """The most capable profile of the entry that Rheon encodes at this bit depth."""
    encoder = video_encoder(entry.codec)
    if bit_depth > 8:
        return encoder.ten_bit_profile
    if not entry.profiles:
        return encoder.profiles[-1] if encoder.profiles else None
    usable = [name for name in entry.profiles if name in encoder.profiles]
    return next(iter(better_profiles(entry.codec, usable)), None)


def usual_bits_per_pixel(codec: str, pixels: int, balance: Balance) -> float:
    """Larger pictures need fewer bits for each pixel."""
    size = float((pixels / USUAL_PIXELS) ** (PIXEL_POWER - 1))
    return video_encoder(codec).bits_per_pixel * size * GROWTH_PER_STEP[balance.step]


def expected_bitrate(codec: str, pixels: int, rate: Fraction, balance: Balance, complexity: float) -> float:
    """Bits a second at a balance."""
    return usual_bits_per_pixel(codec, pixels, balance) * pixels * float(rate) * complexity


def counted_rate(rate: Fraction, fields: Fields) -> Fraction:
    """Frames a second as they count for bits: made of single fields, neighbours are so near that they take fewer."""
    return rate * DOUBLED_SHARE if fields is Fields.DOUBLE else rate


def at_quality(expected_bps: float, encoder: VideoEncoder, balance: Balance, quality: int) -> float:
    """The rate at another value of the quality scale than the balance's."""
    usual = encoder.quality_at(balance)
    if usual is None:
        return expected_bps
    return expected_bps * float(2 ** ((usual - quality) / encoder.halving))


def under_peak(expected_bps: float, peak_bps: float) -> float:
    """The mean rate that comes out under a peak: far below it as expected, and the peak where much more is wanted."""
    return expected_bps / math.pow(1 + math.pow(expected_bps / peak_bps, PEAK_BEND), 1 / PEAK_BEND)


def bitrate_for_size(size_bytes: float, duration_s: float, sound_bps: float) -> int:
    """The video rate that fills a file of this size: bytes x 8 / duration, without the container's and the sound's."""
    whole_bps = size_bytes * 8 / max(duration_s, 0.1)
    return max(LEAST_BPS, int(whole_bps - muxing_bps(whole_bps) - sound_bps))


def muxing_bps(whole_bps: float) -> float:
    """What a container adds to streams of such a rate."""
    return max(MUXING_SHARE * whole_bps, MUXING_BPS)


def floor_share(codec: str, pixels: int, rate: Fraction, bps: float, complexity: float) -> float:
    """The share of the pixels that leaves each of them enough bits; 1 where there are enough for all."""
    needed = FLOOR_SHARE * expected_bitrate(codec, pixels, rate, Balance.EVEN, complexity)
    return 1.0 if bps >= needed else max(0.05, (bps / needed) ** (1 / PIXEL_POWER))


def choose_rates(
    entry: VideoEntry, profile: str | None, picture: Wanted, forced_level: str | None = None
) -> RateChoice:
    """The lowest level that holds the picture and the peaks to be expected; peak and buffer inside level and device."""
    encoder = video_encoder(entry.codec)
    ceiling = rate_bounds(entry, highest_level(entry, profile)).peak_bps
    wanted = min(ceiling, max(picture.expected_bps * TYPICAL_PEAK, LEAST_WANTED_PEAK_BPS))
    level = _level(entry, profile, picture, wanted, forced_level)
    bounds = rate_bounds(entry, level)
    # no more than the pictures can use, in steps: so that devices of one kind can share a file
    useful = -(-int(wanted) // PEAK_STEP_BPS) * PEAK_STEP_BPS
    peak = max(SMALLEST_PEAK_BPS, min(int(bounds.peak_bps * SAFETY), useful))
    references = encoder.references
    if level:
        references = min(references, most_references(entry.codec, level, picture.width, picture.height))
    references = max(1, min(references, entry.max_reference_frames or references))
    plain = profile in VIDEO_CODECS[entry.codec].plain_profiles or references < 2
    return RateChoice(
        profile=profile,
        level=level.name if level else None,
        peak_bps=peak,
        buffer_bits=min(int(bounds.buffer_bits * SAFETY), 2 * peak),
        reference_frames=references,
        b_frames=0 if plain else encoder.b_frames,
    )


def keyframe_distance(rate: Fraction, seconds: float = KEYFRAME_S) -> int:
    return max(1, round(float(rate) * seconds))


def _level(
    entry: VideoEntry, profile: str | None, picture: Wanted, peak_bps: float, forced: str | None
) -> Level | None:
    """The level by hand, else the lowest that will do, up to the device's; beyond it only for a size set by hand."""
    levels = levels_of(entry.codec, profile)
    if forced is not None:
        return levels.get(forced)
    top = highest_level(entry, profile)
    if picture.of_fields:
        levels = {name: level for name, level in levels.items() if level.of_fields}
        top = field_level(entry.codec, profile, top)
    size = picture.width, picture.height
    beyond = False
    for level in levels.values():
        holds = level.holds_picture(*size, picture.frame_rate)
        if beyond and holds:
            return level
        if level is top:
            if holds:
                return top
            beyond = True
            continue
        if holds and level.bitrate_bps >= peak_bps and _refers(entry.codec, level, size):
            return level
    return top


def field_level(codec: str, profile: str | None, top: Level | None, *, forced: bool = False) -> Level | None:
    """The highest level up to ``top`` with pictures of two fields; none but ``top`` where it is forced."""
    levels = list(levels_of(codec, profile).values())
    below = levels[: levels.index(top) + 1] if top in levels else levels
    return next((level for level in reversed(below[-1:] if forced else below) if level.of_fields), None)


def _refers(codec: str, level: Level, size: tuple[int, int]) -> bool:
    return most_references(codec, level, *size) >= video_encoder(codec).references
