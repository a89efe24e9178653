"""The peak rate and buffer that bound an entry's streams: the device's own, its level's, whichever is tighter."""

from __future__ import annotations

from dataclasses import dataclass

from .levels import Level, levels_of
from .profile import VideoEntry

MOST_BPS = 60_000_000
DEFAULT_LEVELS = {"h264": "5.1", "hevc": "5.1", "mpeg4": "5", "mpeg2video": "high", "vp9": "6.1", "av1": "6.1"}


@dataclass(frozen=True, slots=True, kw_only=True)
class RateBounds:
    """Bits a second, and bits of buffer. Where neither device nor level names a buffer, it holds one second."""

    peak_bps: int
    buffer_bits: int


def highest_level(entry: VideoEntry, profile: str | None) -> Level | None:
    """The level that bounds the entry; the usual highest one where it names none."""
    levels = levels_of(entry.codec, profile)
    name = entry.max_level or DEFAULT_LEVELS.get(entry.codec, "")
    return levels.get(name) or next(reversed(levels.values()), None)


def rate_bounds(entry: VideoEntry, level: Level | None) -> RateBounds:
    peak = min(bps for bps in (entry.max_bitrate_bps, level.bitrate_bps if level else None, MOST_BPS) if bps)
    buffers = (entry.max_buffer_bits, level.buffer_bits if level else None, peak)
    return RateBounds(peak_bps=peak, buffer_bits=min(bits for bits in buffers if bits))
