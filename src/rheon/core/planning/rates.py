"""Quality, peak rate, buffer, level and reference frames."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from ..devices import VideoEntry
from ..devices.bounds import highest_level, rate_bounds
from ..devices.levels import Level, levels_of, most_references
from ..devices.rules import better_profiles
from .plan import Balance

QUALITY = {"h264": (27, 24, 21, 19, 17), "hevc": (30, 27, 24, 22, 20)}
EFFORT = {
    "h264": ("veryfast", "fast", "medium", "medium", "slow"),
    "hevc": ("ultrafast", "superfast", "fast", "fast", "medium"),
    "mpeg4": ("medium",) * 5,
}
USUAL_BITS_PER_PIXEL = {"h264": 0.085, "hevc": 0.060, "mpeg4": 0.155}
USUAL_PIXELS = 720 * 480
GROWTH_PER_STEP = (0.50, 0.71, 1.0, 1.26, 1.6)
TYPICAL_PEAK = 6  # peaks of a constant-quality stream against its mean
SAFETY = Fraction(9, 10)
WANTED_REFERENCES = 3
KEYFRAME_S = 5
SMALLEST_PEAK_BPS = 64_000
LEAST_WANTED_PEAK_BPS = 3_000_000
PEAK_STEP_BPS = 500_000
MOST_B_FRAMES = 2


@dataclass(frozen=True, slots=True, kw_only=True)
class RateChoice:
    """Level, peak and buffer that hold for a picture, and the frames that may refer to each other."""

    profile: str | None
    level: str | None
    peak_bps: int
    buffer_bits: int
    reference_frames: int
    b_frames: int


def best_profile(entry: VideoEntry, bit_depth: int) -> str | None:
    """The most capable profile of the entry that Rheon encodes at this bit depth."""
    ten_bit = {"main10"} if bit_depth > 8 else set()
    usable = [name for name in entry.profiles if name in {"baseline", "main", "high", *ten_bit}]
    if entry.codec == "mpeg4":
        usable = list(entry.profiles)
    return next(iter(better_profiles(entry.codec, usable)), None)


def usual_bits_per_pixel(codec: str, pixels: int, balance: Balance) -> float:
    """Larger pictures need fewer bits for each pixel (power -0.25, from experience)."""
    size = float((pixels / USUAL_PIXELS) ** -0.25)
    return USUAL_BITS_PER_PIXEL[codec] * size * GROWTH_PER_STEP[balance.step]


def expected_bitrate(codec: str, pixels: int, rate: Fraction, balance: Balance, complexity: float) -> float:
    """Bits a second at a balance."""
    return usual_bits_per_pixel(codec, pixels, balance) * pixels * float(rate) * complexity


@dataclass(frozen=True, slots=True, kw_only=True)
class Wanted:
    """The picture that rates are sought for: its size in pixels, frames a second, and the mean rate expected."""

    width: int
    height: int
    frame_rate: Fraction
    expected_bps: float


def choose_rates(entry: VideoEntry, profile: str | None, picture: Wanted) -> RateChoice:
    """The lowest level that holds the picture and the peaks to be expected; peak and buffer inside level and device."""
    ceiling = rate_bounds(entry, highest_level(entry, profile)).peak_bps
    wanted = min(ceiling, max(picture.expected_bps * TYPICAL_PEAK, LEAST_WANTED_PEAK_BPS))
    level = _lowest_level(entry, profile, picture, wanted)
    bounds = rate_bounds(entry, level)
    # no more than the pictures can use, in steps: so that devices of one kind can share a file
    useful = -(-int(wanted) // PEAK_STEP_BPS) * PEAK_STEP_BPS
    peak = max(SMALLEST_PEAK_BPS, min(int(bounds.peak_bps * SAFETY), useful))
    references = most_references(entry.codec, level, picture.width, picture.height) if level else WANTED_REFERENCES
    references = max(1, min(WANTED_REFERENCES, references, entry.max_reference_frames or WANTED_REFERENCES))
    plain = profile in ("baseline", "simple") or entry.codec == "mpeg4" or references < 2
    return RateChoice(
        profile=profile,
        level=level.name if level else None,
        peak_bps=peak,
        buffer_bits=min(int(bounds.buffer_bits * SAFETY), 2 * peak),
        reference_frames=references,
        b_frames=0 if plain else MOST_B_FRAMES,
    )


def keyframe_distance(rate: Fraction) -> int:
    return max(1, round(float(rate) * KEYFRAME_S))


def _lowest_level(entry: VideoEntry, profile: str | None, picture: Wanted, peak_bps: float) -> Level | None:
    top = highest_level(entry, profile)
    size = picture.width, picture.height
    for level in levels_of(entry.codec, profile).values():
        if level is top:
            break
        roomy = level.bitrate_bps >= peak_bps and level.holds_picture(*size, picture.frame_rate)
        if roomy and (entry.codec == "mpeg4" or most_references(entry.codec, level, *size) >= WANTED_REFERENCES):
            return level
    return top
