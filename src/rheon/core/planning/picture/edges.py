"""How the pictures at both ends of a copied stretch are encoded, so that they can stand beside it. Pure."""

from __future__ import annotations

from dataclasses import replace

from ...devices import DeviceProfile
from ...devices.bounds import rate_bounds
from ...devices.rules import video_entry_for
from ...formats import VIDEO_CODECS, Level, levels_of, most_references
from ...media import Action, Scan, VideoSettings, VideoStream
from . import rates

QUALITY = 17
"""Finer than what is usual, on H.264's scale: nobody should see where copied pictures begin."""
RICHER, LEAST_BITS = 3.0, 0.7
"""Without a scale of quality: so many times the source's own rate, and at least so many bits for a pixel."""
USUAL_SHARE = 0.8


def with_edges(copied: VideoSettings, video: VideoStream, device: DeviceProfile) -> VideoSettings | None:
    """A copied picture's settings with those of its edges; ``None`` where no encoder of ours makes the like of it."""
    known, entry = VIDEO_CODECS.get(video.codec), video_entry_for(video, device)
    encoder = known.encoders[0] if known and known.encoders else None
    if encoder is None or entry is None:
        return None
    # a DVD's tables do not name what is always the same
    profile = video.profile or (encoder.profiles[0] if len(encoder.profiles) == 1 else None)
    level = _level(video, profile)
    if level is None or profile not in encoder.written_profiles:
        return None
    bounds = rate_bounds(entry, level)
    peak = int(bounds.peak_bps * USUAL_SHARE)
    least = LEAST_BITS * video.width * video.height * float(video.frame_rate)
    richer = int(max(least, RICHER * (video.bitrate_bps or 0)))
    held = min(encoder.references, most_references(video.codec, level, video.width, video.height))
    edges = replace(
        copied,
        action=Action.ENCODE,
        profile=profile,
        level=level.name,
        encoder=encoder.name,
        quality=QUALITY if encoder.quality else None,
        bitrate_bps=None if encoder.quality else min(peak, richer),
        peak_bps=peak,
        buffer_bits=int(bounds.buffer_bits * USUAL_SHARE),
        reference_frames=max(1, min(held, video.reference_frames or held)),
        b_frames=0,
        keyframe_frames=rates.keyframe_distance(video.frame_rate),
        preset=encoder.preset[-2],
        combed=_as_fields(video),
        top_field_first=video.top_field_first,
        colour=video.colour,
    )
    return replace(copied, edges=edges)


def _level(video: VideoStream, profile: str | None) -> Level | None:
    """The stream's level; where it says none, the lowest that holds its pictures."""
    levels = levels_of(video.codec, profile)
    if video.level is not None:
        return levels.get(video.level)
    size = video.width, video.height
    return next((level for level in levels.values() if level.holds_picture(*size, video.frame_rate)), None)


def _as_fields(video: VideoStream) -> bool:
    """Whether lines of two moments may lie in one picture: a DVD's stream often does not say."""
    return video.is_combed or (video.codec == "mpeg2video" and video.scan is not Scan.PROGRESSIVE)
