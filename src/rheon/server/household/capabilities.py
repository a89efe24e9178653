"""A device's abilities in words a person understands, and how sure each is."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from rheon.core.devices import (
    AudioEntry,
    DeviceProfile,
    Limits,
    Line,
    Screen,
    Sure,
    VideoEntry,
    careful,
    line_text,
    lines,
)
from rheon.core.formats import channels_text, codec_name

TOPICS = {
    "screen": "Screen",
    "containers": "Files",
    "video": "Picture",
    "audio": "Sound",
    "subtitles": "Subtitles",
    "limits": "Limits",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Ability:
    """One line of a profile for people. ``why`` says what it rests on, ``point`` names the standard's own point."""

    key: str
    topic: str
    text: str
    sure: str
    why: str
    point: str


def summary(profile: DeviceProfile) -> str:
    """The least a person wants to know, of what is sure enough: ``1080p, surround, FAT32``."""
    profile = careful(profile)
    best = max((entry.max_height for entry in profile.video), default=None)
    parts = [f"{best}p" if best else "sound only"]
    if any(entry.max_channels > 2 for entry in profile.audio):
        parts.append("surround")
    if profile.limits.max_file_bytes:
        parts.append(f"{profile.limits.max_file_bytes / 1e9:g} GB a file")
    elif profile.limits.file_system == "fat32":
        parts.append("FAT32")
    return ", ".join(parts)


def abilities(profile: DeviceProfile) -> list[Ability]:
    """Every line, the surest of each topic first."""
    topics, order = list(TOPICS.values()), [sure.value for sure in Sure]
    return sorted(_abilities(profile), key=lambda one: (topics.index(one.topic), order.index(one.sure)))


def _abilities(profile: DeviceProfile) -> Iterator[Ability]:
    for line in lines(profile):
        ground = line.ground
        yield Ability(
            key=line.key,
            topic=TOPICS[line.topic],
            text=_text(line),
            sure=line.sure.value,
            why=ground.note if ground else "Written in its profile.",
            point=ground.point if ground else "",
        )
    if profile.video:
        why = "Rheon draws them; a device shows them with the picture."
        yield Ability(key="drawn", topic="Subtitles", text="drawn into the picture", sure="known", why=why, point="")
    else:
        why = "It shows no picture."
        yield Ability(key="video", topic="Picture", text="none: it plays sound only", sure="known", why=why, point="")


def _text(line: Line) -> str:
    match line.entry:
        case Screen() as screen:
            inches = f", {screen.diagonal_inch:g} inches" if screen.diagonal_inch else ""
            return f"{screen.width} × {screen.height} pixels{inches}"
        case VideoEntry() as entry:
            return _video(entry)
        case AudioEntry() as entry:
            surround = " surround" if entry.max_channels > 2 else ""
            return f"{codec_name(entry.codec)} in {channels_text(entry.max_channels)}{surround}"
        case Limits() as limits:
            return _limits(limits)
    return line_text(line.entry)


def _video(entry: VideoEntry) -> str:
    level = f" level {entry.max_level}" if entry.max_level else ""
    fine = f", {max(entry.bit_depths)} bit" if max(entry.bit_depths) > 8 else ""
    extra = (
        ("interlaced too", entry.interlaced),
        ("non-square pixels", entry.non_square_pixels),
        ("changing frame rates", entry.variable_frame_rate),
    )
    extras = [text for text, on in extra if on]
    rate = f"{float(entry.frame_rate_limit):g} frames a second"
    size = f"up to {entry.max_width} × {entry.max_height}{fine} at {rate}"
    return f"{codec_name(entry.codec)}{level} {size}" + (f" ({', '.join(extras)})" if extras else "")


def _limits(limits: Limits) -> str:
    parts = []
    if limits.largest_file_bytes:
        parts.append(f"no file over {limits.largest_file_bytes / 1e9:.2g} GB")
    if limits.storage_bytes:
        parts.append(f"{limits.storage_bytes / 1e9:.0f} GB of storage")
    return ", ".join(parts) or "none known"
