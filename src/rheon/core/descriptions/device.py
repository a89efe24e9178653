"""A device's abilities in words a person understands, and how sure each is."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ..catalogue import later, say
from ..devices import (
    AudioEntry,
    DeviceProfile,
    Limits,
    Line,
    Screen,
    Sure,
    VideoEntry,
    careful,
    doubtful,
    line_text,
    lines,
    trial,
)
from ..formats import channels_text, codec_name

TOPICS = {
    "screen": later("Screen"),
    "containers": later("Files"),
    "video": later("Picture"),
    "audio": later("Sound"),
    "subtitles": later("Subtitles"),
    "limits": later("Limits"),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Ability:
    """One line of a profile for people. ``why`` says what it rests on, ``point`` names the standard's own point.

    ``test_file`` says that a file can be made that settles a doubt.
    """

    key: str
    topic: str
    text: str
    sure: Sure
    why: str
    point: str
    test_file: bool = False


def summary(profile: DeviceProfile) -> str:
    """The least a person wants to know, of what is sure enough: ``1080p, surround, FAT32``."""
    profile = careful(profile)
    best = max((entry.max_height for entry in profile.video), default=None)
    parts = [f"{best}p" if best else say("sound only")]
    if any(entry.max_channels > 2 for entry in profile.audio):
        parts.append(say("surround"))
    if profile.limits.max_file_bytes:
        parts.append(say("{gigabytes:g} GB a file", gigabytes=profile.limits.max_file_bytes / 1e9))
    elif profile.limits.file_system == "fat32":
        parts.append("FAT32")
    return ", ".join(parts)


def abilities(profile: DeviceProfile) -> list[Ability]:
    """Every line, the surest of each topic first."""
    topics, order = [say(topic) for topic in TOPICS.values()], list(Sure)
    return sorted(_abilities(profile), key=lambda one: (topics.index(one.topic), order.index(one.sure)))


def _abilities(profile: DeviceProfile) -> Iterator[Ability]:
    tried = {line.key for line in doubtful(profile) if trial(profile, line.key)}
    for line in lines(profile):
        ground = line.ground
        yield Ability(
            key=line.key,
            topic=say(TOPICS[line.topic]),
            text=_text(line),
            sure=line.sure,
            why=say(ground.note) if ground and ground.note else say("Written in its profile.") if not ground else "",
            point=ground.point if ground else "",
            test_file=line.key in tried,
        )
    if profile.video:
        why, text = say("Rheon draws them; a device shows them with the picture."), say("drawn into the picture")
        yield Ability(key="drawn", topic=say(TOPICS["subtitles"]), text=text, sure=Sure.KNOWN, why=why, point="")
    else:
        why, text = say("It shows no picture."), say("none: it plays sound only")
        yield Ability(key="video", topic=say(TOPICS["video"]), text=text, sure=Sure.KNOWN, why=why, point="")


def _text(line: Line) -> str:
    match line.entry:
        case Screen() as screen:
            size = say("{width} × {height} pixels", width=screen.width, height=screen.height)
            inches = screen.diagonal_inch
            return say("{size}, {inches:g} inches", size=size, inches=inches) if inches else size
        case VideoEntry() as entry:
            return _video(entry)
        case AudioEntry() as entry:
            sound = say(
                "{codec} in {channels}", codec=codec_name(entry.codec), channels=channels_text(entry.max_channels)
            )
            return say("{sound} surround", sound=sound) if entry.max_channels > 2 else sound
        case Limits() as limits:
            return _limits(limits)
    return line_text(line.entry)


def _video(entry: VideoEntry) -> str:
    codec = codec_name(entry.codec)
    if entry.max_level:
        codec = say("{codec} level {level}", codec=codec, level=entry.max_level)
    size = f"{entry.max_width} × {entry.max_height}"
    if max(entry.bit_depths) > 8:
        size = say("{size}, {depth} bit", size=size, depth=max(entry.bit_depths))
    rate = float(entry.frame_rate_limit)
    text = say("{codec} up to {size} at {rate:g} frames a second", codec=codec, size=size, rate=rate)
    extra = {
        say("interlaced too"): entry.interlaced,
        say("non-square pixels"): entry.non_square_pixels,
        say("changing frame rates"): entry.variable_frame_rate,
        "HDR": bool(entry.dynamic_ranges),
    }
    extras = [said for said, on in extra.items() if on]
    return f"{text} ({', '.join(extras)})" if extras else text


def _limits(limits: Limits) -> str:
    parts = []
    if limits.largest_file_bytes:
        parts.append(say("no file over {gigabytes:.2g} GB", gigabytes=limits.largest_file_bytes / 1e9))
    if limits.storage_bytes:
        parts.append(say("{gigabytes:.0f} GB of storage", gigabytes=limits.storage_bytes / 1e9))
    return ", ".join(parts) or say("none known")
