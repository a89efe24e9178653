"""What is odd about a profile that its schema allows: warnings for whoever writes one. Pure."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction

from ..catalogue import say
from ..formats import AUDIO_CODECS, CONTAINERS, ENCODABLE_AUDIO, ENCODABLE_VIDEO, VIDEO_CODECS, codec_name, profiles_of
from .bounds import highest_level
from .profile import DeviceProfile, VideoEntry


@dataclass(frozen=True, slots=True, kw_only=True)
class Oddity:
    """A field (``video.0.max_level``) and what is odd about it, in a sentence."""

    field: str
    text: str


def oddities(profile: DeviceProfile) -> tuple[Oddity, ...]:
    """Everything odd, in the order of the form."""
    return (
        *_whole(profile),
        *(found for place, entry in enumerate(profile.video) for found in _video(place, entry)),
        *_sounds(profile),
    )


def _whole(profile: DeviceProfile) -> Iterator[Oddity]:
    screen = profile.screen
    if screen and screen.height > screen.width and profile.video:
        yield Oddity(field="screen", text=say("The screen is higher than wide; say it as it is held for films."))
    if not any(_makes(profile, entry.format) for entry in profile.containers):
        yield Oddity(
            field="containers", text=say("No container here holds both a picture and a sound that Rheon makes.")
        )
    storage, largest = profile.limits.storage_bytes, profile.limits.max_file_bytes
    if storage and largest and largest > storage:
        yield Oddity(field="limits.max_file_bytes", text=say("One file may be larger than the whole storage."))


def _makes(profile: DeviceProfile, container: str) -> bool:
    holds = CONTAINERS[container]
    pictures = {entry.codec for entry in profile.video} & holds.video & ENCODABLE_VIDEO
    sounds = {entry.codec for entry in profile.audio} & holds.audio & ENCODABLE_AUDIO
    return bool(sounds and (pictures or not profile.video))


def _video(place: int, entry: VideoEntry) -> Iterator[Oddity]:
    at = f"video.{place}"
    name = codec_name(entry.codec)
    if entry.codec not in VIDEO_CODECS:
        yield Oddity(field=f"{at}.codec", text=say("Rheon knows no codec called {codec}.", codec=entry.codec))
    strange = [p for p in entry.profiles if p not in profiles_of(entry.codec)]
    if strange:
        yield Oddity(
            field=f"{at}.profiles",
            text=say("{codec} has no profile {profiles}.", codec=name, profiles=", ".join(strange)),
        )
    level = highest_level(entry, entry.profiles[-1] if entry.profiles else None)
    if level is None:
        return
    size = f"{entry.max_width} × {entry.max_height}"
    if not level.holds_picture(entry.max_width, entry.max_height, Fraction(1)):
        yield Oddity(
            field=f"{at}.max_level",
            text=say("Level {level} holds no {size}; pictures will be smaller.", level=level.name, size=size),
        )
    elif not level.holds_picture(entry.max_width, entry.max_height, entry.frame_rate_limit):
        rate = f"{float(entry.frame_rate_limit):g}"
        yield Oddity(
            field=f"{at}.max_frame_rate",
            text=say(
                "Level {level} holds {size}, but not at {rate} frames a second.", level=level.name, size=size, rate=rate
            ),
        )
    if entry.max_bitrate_bps and entry.max_bitrate_bps > level.bitrate_bps:
        most = f"{level.bitrate_bps / 1e6:g}"
        yield Oddity(
            field=f"{at}.max_bitrate_bps",
            text=say("Level {level} allows {most} Mb/s; that will hold.", level=level.name, most=most),
        )


def _sounds(profile: DeviceProfile) -> Iterator[Oddity]:
    for place, entry in enumerate(profile.audio):
        if entry.codec not in AUDIO_CODECS:
            yield Oddity(
                field=f"audio.{place}.codec", text=say("Rheon knows no codec called {codec}.", codec=entry.codec)
            )
        if entry.codec == "opus" and 48000 not in entry.sample_rates:
            yield Oddity(field=f"audio.{place}.sample_rates", text=say("Opus is always decoded at 48 kHz."))
