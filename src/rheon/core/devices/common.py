"""The common ground of several devices: a profile that every one of them obeys."""

from __future__ import annotations

from collections.abc import Sequence
from functools import reduce

from ..catalogue import say
from ..errors import PlanError
from ..formats import level_rank
from .profile import AudioEntry, DeviceKind, DeviceProfile, Limits, Screen, VideoEntry


def common_ground(profiles: Sequence[DeviceProfile], *, picture: bool = True, sound: bool = True) -> DeviceProfile:
    """One profile that bounds a file for all of them; ``picture`` and ``sound`` say what the file would hold.

    Raises ``PlanError`` where they have nothing in common.
    """
    if len(profiles) == 1:
        return profiles[0]
    return reduce(lambda one, other: _both(one, other, picture=picture, sound=sound), profiles)


def _both(one: DeviceProfile, other: DeviceProfile, *, picture: bool, sound: bool) -> DeviceProfile:
    known = {(entry.format, entry.extension) for entry in other.containers}
    shown = {(entry.form, entry.format) for entry in other.subtitles}
    containers = tuple(entry for entry in one.containers if (entry.format, entry.extension) in known)
    pictures = [_video(mine, theirs) for mine in one.video for theirs in other.video_entries(mine.codec)]
    sounds = [_audio(ours, yours) for ours in one.audio for yours in other.audio_entries(ours.codec)]
    video = tuple(entry for entry in pictures if entry)
    audio = tuple(entry for entry in sounds if entry)
    deaf = sound and not audio
    blind = picture and (bool(one.video) != bool(other.video) or (one.video and not video))
    if not containers or deaf or blind:
        raise PlanError(
            "No one file can serve both {one} and {other}.",
            one=one.name,
            other=other.name,
            advice="Make one file for each of them.",
        )
    return DeviceProfile(
        id=f"{one.id}+{other.id}"[:80],
        name=say("{one} and {other}", one=one.name, other=other.name)[:80],
        kind=_kind(one.kind, other.kind),
        screen=_screen(one.screen, other.screen),
        containers=containers,
        video=video,
        audio=audio or one.audio,
        subtitles=tuple(entry for entry in one.subtitles if (entry.form, entry.format) in shown),
        limits=_limits(one.limits, other.limits),
        tags=one.tags and other.tags,
        artwork_px=_least(one.artwork_px, other.artwork_px),
    )


def _kind(one: DeviceKind, other: DeviceKind) -> DeviceKind:
    """That on which more is seen; of two such, one that takes whole frames alone."""
    return min(one, other, key=lambda kind: (not kind.is_seen_large, kind.shows_fields))


def _least(one: int | None, other: int | None) -> int | None:
    return min((bound for bound in (one, other) if bound is not None), default=None)


def _video(one: VideoEntry, other: VideoEntry) -> VideoEntry | None:
    profiles = tuple(name for name in one.profiles if name in other.profiles)
    depths = tuple(depth for depth in one.bit_depths if depth in other.bit_depths)
    if not depths or (one.profiles and other.profiles and not profiles):
        return None
    profiles = profiles or one.profiles or other.profiles
    best = profiles[-1] if profiles else None
    levels = [name for name in (one.max_level, other.max_level) if name is not None]
    return VideoEntry(
        codec=one.codec,
        profiles=profiles,
        max_level=min(levels, key=lambda name: level_rank(one.codec, best, name), default=None),
        max_width=min(one.max_width, other.max_width),
        max_height=min(one.max_height, other.max_height),
        max_frame_rate=min(one, other, key=lambda entry: entry.frame_rate_limit).max_frame_rate,
        max_bitrate_bps=_least(one.max_bitrate_bps, other.max_bitrate_bps),
        max_buffer_bits=_least(one.max_buffer_bits, other.max_buffer_bits),
        max_reference_frames=_least(one.max_reference_frames, other.max_reference_frames),
        bit_depths=depths,
        dynamic_ranges=tuple(name for name in one.dynamic_ranges if name in other.dynamic_ranges),
        interlaced=one.interlaced and other.interlaced,
        non_square_pixels=one.non_square_pixels and other.non_square_pixels,
        variable_frame_rate=one.variable_frame_rate and other.variable_frame_rate,
    )


def _audio(one: AudioEntry, other: AudioEntry) -> AudioEntry | None:
    rates = tuple(rate for rate in one.sample_rates if rate in other.sample_rates)
    if not rates:
        return None
    return AudioEntry(
        codec=one.codec,
        max_channels=min(one.max_channels, other.max_channels),
        sample_rates=rates,
        max_bitrate_bps=_least(one.max_bitrate_bps, other.max_bitrate_bps),
    )


def _screen(one: Screen | None, other: Screen | None) -> Screen | None:
    """The larger screen: the file should still look well there, and the decoders' bounds hold for both."""
    return max((screen for screen in (one, other) if screen), key=lambda screen: screen.width, default=None)


def _limits(one: Limits, other: Limits) -> Limits:
    strict = ("fat32", "exfat", "ntfs", "posix")
    return Limits(
        max_file_bytes=_least(one.max_file_bytes, other.max_file_bytes),
        file_system=min(one.file_system, other.file_system, key=strict.index),
        storage_bytes=_least(one.storage_bytes, other.storage_bytes),
    )
