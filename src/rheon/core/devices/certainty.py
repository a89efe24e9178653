"""How sure a profile is of its lines, and the careful profile that plans rest on. Pure."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from ..catalogue import later, say
from ..formats import CONTAINERS, channels_text, codec_name
from .profile import (
    LISTS,
    AudioEntry,
    ContainerEntry,
    DeviceProfile,
    Entry,
    Ground,
    Limits,
    Screen,
    SubtitleEntry,
    Sure,
    VideoEntry,
)
from .questions import QUESTIONS

WEIGHT = ("screen", "video", "limits", "containers", "audio", "subtitles")
"""How much a doubt about it costs, the most first."""
Topic = Literal["screen", "containers", "video", "audio", "subtitles", "limits"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Line:
    """One line of a profile under a key that stays: ``video.hevc``, ``video.hevc#2`` for the second of its codec."""

    key: str
    topic: Topic
    entry: Entry

    @property
    def sure(self) -> Sure:
        return self.entry.sure

    @property
    def ground(self) -> Ground | None:
        return self.entry.ground


def lines(profile: DeviceProfile) -> tuple[Line, ...]:
    """Every line, as the profile lists them."""
    return tuple(_lines(profile))


def careful(profile: DeviceProfile) -> DeviceProfile:
    """The profile without what is doubtful. What no device can do without stays: a container and a sound."""
    known = _careful.get(id(profile))
    if known is not None and known[0] is profile:
        return known[1]
    if len(_careful) >= MOST_KEPT:
        _careful.clear()
    made = _without_doubts(profile)
    # kept with the profile itself, so that its id is nobody else's meanwhile
    _careful[id(profile)] = profile, made
    return made


MOST_KEPT = 256
_careful: dict[int, tuple[DeviceProfile, DeviceProfile]] = {}


def _without_doubts(profile: DeviceProfile) -> DeviceProfile:
    found = {
        "containers": _certain(profile.containers) or profile.containers,
        "video": _certain(profile.video),
        "audio": _certain(profile.audio) or profile.audio,
        "subtitles": _certain(profile.subtitles),
    }
    if not found["video"] and profile.video:
        found["video"] = profile.video
    changed = {key: entries for key, entries in found.items() if len(entries) != len(getattr(profile, key))}
    return profile.model_copy(update=changed) if changed else profile


def doubtful(profile: DeviceProfile) -> tuple[Line, ...]:
    """The lines that are not planned with, in the order of the profile."""
    return tuple(line for line in _lines(profile) if line.sure is Sure.DOUBTFUL)


def open_questions(profile: DeviceProfile) -> tuple[str, ...]:
    """The ids of the questions whose answers would settle something, each once, the weightiest first."""
    doubts = [(line.topic, line.ground) for line in doubtful(profile)]
    asked = [(topic, ground.settled_by) for topic, ground in doubts if ground and ground.settled_by]
    if profile.limits.perhaps:
        asked.append(("limits", profile.limits.perhaps.settled_by))
    weighed = sorted(asked, key=lambda one: WEIGHT.index(one[0]))
    # a profile that somebody shared may name a question that this catalogue does not know
    return tuple(dict.fromkeys(name for _, name in weighed if name in QUESTIONS))


def line_key(entry: Entry) -> str:
    """What an entry is about, whatever its bounds: the first part of a line's key."""
    match entry:
        case ContainerEntry():
            return f"containers.{entry.format}.{entry.extension}"
        case VideoEntry():
            return f"video.{entry.codec}"
        case AudioEntry():
            return f"audio.{entry.codec}"
        case SubtitleEntry():
            return f"subtitles.{entry.form}.{entry.format}"
        case Screen():
            return "screen"
        case Limits():
            return "limits"
    raise TypeError(f"{type(entry).__name__} is no line of a profile")


def line_text(entry: Entry) -> str:
    """A line in a few words: ``HEVC up to 1920 × 1080``."""
    match entry:
        case ContainerEntry():
            return f"{CONTAINERS[entry.format].label} (.{entry.extension})"
        case VideoEntry():
            fine = f", {max(entry.bit_depths)} bit" if max(entry.bit_depths) > 8 else ""
            fine += ", HDR" if entry.dynamic_ranges else ""
            return f"{codec_name(entry.codec)} up to {entry.max_width} × {entry.max_height}{fine}"
        case AudioEntry():
            return f"{codec_name(entry.codec)} in {channels_text(entry.max_channels)}"
        case SubtitleEntry():
            return say(SUBTITLE_FORMS[entry.form])
        case Screen():
            return say("a screen of {width} × {height}", width=entry.width, height=entry.height)
        case Limits():
            most = entry.largest_file_bytes
            return say("no file over {gigabytes:.2g} GB", gigabytes=most / 1e9) if most else say("files of any size")
    raise TypeError(f"{type(entry).__name__} is no line of a profile")


SUBTITLE_FORMS = {
    "text_track": later("text that can be switched on"),
    "picture_track": later("pictures as on the disc, that can be switched on"),
    "text_file": later("a text file beside the film"),
}


def _certain(entries: tuple[Entry, ...]) -> tuple[Entry, ...]:
    return tuple(entry for entry in entries if entry.sure is not Sure.DOUBTFUL)


def _lines(profile: DeviceProfile) -> Iterator[Line]:
    if profile.screen:
        yield Line(key="screen", topic="screen", entry=profile.screen)
    for topic in LISTS:
        seen: dict[str, int] = {}
        for entry in getattr(profile, topic):
            key = line_key(entry)
            seen[key] = seen.get(key, 0) + 1
            yield Line(key=key if seen[key] == 1 else f"{key}#{seen[key]}", topic=topic, entry=entry)  # type: ignore[arg-type]
    yield Line(key="limits", topic="limits", entry=profile.limits)
