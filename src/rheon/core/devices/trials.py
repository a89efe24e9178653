"""A test file for one doubtful line: everything in it is sure to play but that, so that it settles the doubt. Pure."""

from __future__ import annotations

from ..catalogue import say
from ..formats import CONTAINERS, ENCODABLE_AUDIO, ENCODABLE_VIDEO, can_hold
from .capability_probe import Clip
from .certainty import Line, careful, doubtful, line_text
from .profile import AudioEntry, ContainerEntry, DeviceProfile, VideoEntry

MOST_RATE = 30
"""Films come no faster, and nobody wants to wait for a test file."""


def trial(profile: DeviceProfile, key: str) -> Clip | None:
    """The clip that tries the doubtful line of this key; ``None`` where Rheon cannot make one."""
    line = next((line for line in doubtful(profile) if line.key == key), None)
    return _clip(profile, line) if line else None


def trial_name(profile: DeviceProfile, key: str) -> str:
    """What the file is called, with the extension that is tried."""
    line = next(line for line in doubtful(profile) if line.key == key)
    sure = careful(profile)
    clip = _clip(profile, line)
    entry = line.entry
    extension = (
        entry.extension if isinstance(entry, ContainerEntry) else _extension(sure, clip.container if clip else "")
    )
    words = "".join(sign if sign.isalnum() or sign in " -." else " " for sign in line_text(entry))
    return say("Test of {line}", line=" ".join(words.split())) + f".{extension}"


def _clip(profile: DeviceProfile, line: Line) -> Clip | None:
    """With what is sure; where that does not go together with the line, with another doubt."""
    return _with(careful(profile), line) or _with(profile, line)


def _with(sure: DeviceProfile, line: Line) -> Clip | None:
    entry = line.entry
    videos = [entry] if isinstance(entry, VideoEntry) else list(reversed(sure.video))
    sounds = [entry] if isinstance(entry, AudioEntry) else list(sure.audio)
    containers = [entry] if isinstance(entry, ContainerEntry) else list(sure.containers)
    if not isinstance(entry, VideoEntry | AudioEntry | ContainerEntry):
        return None
    pictures: list[VideoEntry | None] = [*videos] or [None]
    for container in containers:
        for video in pictures:
            for sound in sounds:
                if _can_make(container, video, sound):
                    return _made(line.key, container, video, sound)
    return None


def _can_make(container: ContainerEntry, video: VideoEntry | None, sound: AudioEntry) -> bool:
    makes = (video is None or video.codec in ENCODABLE_VIDEO) and sound.codec in ENCODABLE_AUDIO
    return makes and can_hold(container.format, video.codec if video else None, sound.codec)


def _made(key: str, container: ContainerEntry, video: VideoEntry | None, sound: AudioEntry) -> Clip:
    if video is None:
        return Clip(id=key, container=container.format, mime="", audio=sound.codec, channels=sound.max_channels)
    return Clip(
        id=key,
        container=container.format,
        mime="",
        video=video.codec,
        profile=video.profiles[-1] if video.profiles else None,
        level=video.max_level,
        width=video.max_width,
        height=video.max_height,
        rate=int(min(float(video.frame_rate_limit), MOST_RATE)),
        depth=max(video.bit_depths),
        audio=sound.codec,
        channels=sound.max_channels,
    )


def _extension(sure: DeviceProfile, container: str) -> str:
    own = next((entry.extension for entry in sure.containers if entry.format == container), None)
    return own or CONTAINERS[container].extension
