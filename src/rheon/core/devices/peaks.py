"""The peak rate of a stream against what its level and device allow: one rule for plans and for checks."""

from __future__ import annotations

from ..media import VideoStream
from ..media.facts import Fact, Unit, at_most
from .bounds import RateBounds, highest_level, rate_bounds
from .profile import DeviceProfile
from .rules import RuleResult, video_entry_for


def peak_bounds(video: VideoStream | None, profile: DeviceProfile) -> RateBounds | None:
    """What bounds the stream there; ``None`` where nothing does."""
    entry = video_entry_for(video, profile) if video else None
    if video is None or entry is None or (entry.max_bitrate_bps is None and entry.max_level is None):
        return None
    last = entry.profiles[-1] if entry.profiles else None
    return rate_bounds(entry, highest_level(entry, video.profile if video.profile in entry.profiles else last))


def peak_rule(peak_bps: int, bounds: RateBounds, measured: Fact) -> RuleResult:
    allowed = at_most(Unit.BITS_A_SECOND, bounds.peak_bps)
    return RuleResult(
        rule="peak_rate", part="video", ok=peak_bps <= bounds.peak_bps, measured=measured, allowed=allowed
    )
