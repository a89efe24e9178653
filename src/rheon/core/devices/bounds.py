"""The peak rate and buffer that bound an entry's streams: the device's own, its level's, whichever is tighter."""

from __future__ import annotations

from dataclasses import dataclass

from ..formats import VIDEO_CODECS, Level, levels_of
from .profile import VideoEntry

MOST_BPS = 60_000_000


@dataclass(frozen=True, slots=True, kw_only=True)
class RateBounds:
    """Bits a second, and bits of buffer. Where neither device nor level names a buffer, it holds one second."""

    peak_bps: int
    buffer_bits: int


def highest_level(entry: VideoEntry, profile: str | None) -> Level | None:
    """The level that bounds the entry; the usual highest one where it names none."""
    levels = levels_of(entry.codec, profile)
    known = VIDEO_CODECS.get(entry.codec)
    name = entry.max_level or (known.usual_level if known else "")
    return levels.get(name) or (list(levels.values())[-1] if levels else None)


def rate_bounds(entry: VideoEntry, level: Level | None) -> RateBounds:
    peak = min(bps for bps in (entry.max_bitrate_bps, level.bitrate_bps if level else None, MOST_BPS) if bps)
    buffers = (entry.max_buffer_bits, level.buffer_bits if level else None, peak)
    return RateBounds(peak_bps=peak, buffer_bits=min(bits for bits in buffers if bits))
