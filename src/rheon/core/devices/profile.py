"""Device profiles: what a device can play, as data with a published schema (see ``docs/device-profile.md``)."""

from __future__ import annotations

from enum import StrEnum
from fractions import Fraction
from functools import cached_property
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

from ..formats import level_rank, levels_of
from ..media import parse_fraction

Positive = Annotated[int, Field(gt=0)]


class _Part(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid")


class DeviceKind(StrEnum):
    PHONE = "phone"
    TABLET = "tablet"
    TV = "tv"
    PLAYER = "player"
    DISC_PLAYER = "disc_player"
    CONSOLE = "console"
    COMPUTER = "computer"
    POCKET = "pocket"
    CAR = "car"
    PROJECTOR = "projector"
    FRAME = "frame"
    BROWSER = "browser"
    SOUND = "sound"
    GOAL = "goal"

    @property
    def is_seen_large(self) -> bool:
        """Whether pictures are so large that half the movement is missed; elsewhere more would only cost room."""
        return self.shows_fields or self in (DeviceKind.CONSOLE, DeviceKind.COMPUTER, DeviceKind.PROJECTOR)

    @property
    def shows_fields(self) -> bool:
        """Whether it was made for broadcasts and discs, and makes good frames of their fields."""
        return self in (DeviceKind.TV, DeviceKind.PLAYER, DeviceKind.DISC_PLAYER)


class Sure(StrEnum):
    """How sure a line of a profile is: seen on this very device, said by a standard or a person, usual, or neither."""

    PROVEN = "proven"
    KNOWN = "known"
    SUPPOSED = "supposed"
    DOUBTFUL = "doubtful"


class Ground(_Part):
    """What a line rests on, and how sure it is. What is doubtful is not planned with.

    ``point`` is the conformance point of a standard that the line names, ``settled_by`` the question that a person
    can answer to settle the doubt (``questions.py``).
    """

    sure: Sure
    rests_on: Literal["standard", "class", "person", "said", "played", "failed"]
    point: Annotated[str, Field(max_length=200)] = ""
    note: Annotated[str, Field(max_length=400)] = ""
    settled_by: Annotated[str, Field(pattern=r"^[a-z0-9_]{2,40}$")] | None = None


class _Line(_Part):
    """Something a device can or cannot do. Without a ground it is what somebody wrote, and counts as known."""

    ground: Ground | None = None

    @property
    def sure(self) -> Sure:
        return self.ground.sure if self.ground else Sure.KNOWN


class Screen(_Line):
    """The device's own screen, in pixels, held the way films are watched."""

    width: Positive
    height: Positive
    diagonal_inch: Annotated[float, Field(gt=0)] | None = None


class ContainerEntry(_Line):
    """A container the device opens, and the extension by which it knows such files. The best comes first."""

    format: Literal["mp4", "matroska", "webm", "avi", "asf", "mp3", "flac", "ogg", "mpeg_ts", "mpeg_ps"]
    extension: Annotated[str, Field(pattern=r"^[a-z0-9]{2,4}$")]


class VideoEntry(_Line):
    """A kind of picture the device decodes. Every bound holds at once; ``None`` means that only the level bounds it."""

    codec: str
    profiles: tuple[str, ...] = ()
    max_level: str | None = None
    max_width: Positive
    max_height: Positive
    max_frame_rate: Annotated[str, Field(pattern=r"^\d+(/\d+)?$")] = "60"
    max_bitrate_bps: Positive | None = None
    max_buffer_bits: Positive | None = None
    max_reference_frames: Positive | None = None
    bit_depths: tuple[int, ...] = (8,)
    dynamic_ranges: tuple[Literal["hdr10", "hlg"], ...] = ()
    interlaced: bool = False
    non_square_pixels: bool = False
    variable_frame_rate: bool = False

    @cached_property
    def frame_rate_limit(self) -> Fraction:
        return parse_fraction(self.max_frame_rate) or Fraction(60)

    @model_validator(mode="after")
    def _level_is_known(self) -> VideoEntry:
        best = self.profiles[-1] if self.profiles else None
        if self.max_level is not None and level_rank(self.codec, best, self.max_level) < 0:
            known = ", ".join(levels_of(self.codec, best)) or "none"
            raise ValueError(f"level {self.max_level} is not one of {self.codec}'s: {known}")
        return self


class AudioEntry(_Line):
    """A kind of sound the device decodes."""

    codec: str
    max_channels: Positive = 2
    sample_rates: Annotated[tuple[int, ...], Field(min_length=1)] = (44100, 48000)
    max_bitrate_bps: Positive | None = None


class SubtitleEntry(_Line):
    """A form of subtitles the device can switch on: a track in the file, or a text file beside it."""

    form: Literal["text_track", "picture_track", "text_file"]
    format: str


FileSystem = Literal["fat32", "exfat", "ntfs", "posix"]


class WiderLimits(_Part):
    """What may hold instead of the careful limits, if somebody says yes to the question."""

    file_system: FileSystem
    max_file_bytes: Positive | None = None
    settled_by: Annotated[str, Field(pattern=r"^[a-z0-9_]{2,40}$")]


class Limits(_Line):
    """Limits of the place the file goes to; ``perhaps`` are wider ones that are not sure."""

    max_file_bytes: Positive | None = None
    file_system: FileSystem = "posix"
    storage_bytes: Positive | None = None
    perhaps: WiderLimits | None = None

    @cached_property
    def largest_file_bytes(self) -> int | None:
        """The file limit, FAT32's 4 GiB minus one byte included."""
        bounds = [self.max_file_bytes, (4 << 30) - 1 if self.file_system == "fat32" else None]
        return min((bound for bound in bounds if bound), default=None)


Entry = Screen | ContainerEntry | VideoEntry | AudioEntry | SubtitleEntry | Limits
"""A line of a profile."""


LISTS = ("containers", "video", "audio", "subtitles")
"""The lists of a profile, each of lines in order of preference."""


class Evidence(_Part):
    """Something that was seen or said of a device: a clip or file that played or did not, an answer, an assumption."""

    line: Annotated[str, Field(max_length=200)]
    rests_on: Literal["played", "failed", "said", "answered", "assumed"]
    note: Annotated[str, Field(max_length=400)] = ""


class DeviceProfile(_Part):
    """What a device can play. Lists stand in order of preference.

    ``year`` to ``until`` is when such devices were new, ``version`` counts the catalogue's revisions of it.
    ``faithful`` marks the goal of keeping every track as it is; ``evidence`` is what was seen and said of this device.
    """

    id: Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9+-]{1,80}$")]
    name: Annotated[str, Field(min_length=1, max_length=80)]
    kind: DeviceKind
    version: Annotated[int, Field(ge=1, le=10_000)] = 1
    year: Annotated[int, Field(ge=1995, le=2100)] | None = None
    until: Annotated[int, Field(ge=1995, le=2100)] | None = None
    generic: bool = False
    about: str = ""
    screen: Screen | None = None
    containers: Annotated[tuple[ContainerEntry, ...], Field(min_length=1)]
    video: tuple[VideoEntry, ...] = ()
    audio: Annotated[tuple[AudioEntry, ...], Field(min_length=1)]
    subtitles: tuple[SubtitleEntry, ...] = ()
    limits: Limits = Limits()
    tags: bool = True
    artwork_px: Positive | None = None
    faithful: bool = False
    evidence: tuple[Evidence, ...] = ()

    def video_entries(self, codec: str) -> list[VideoEntry]:
        return [entry for entry in self.video if entry.codec == codec]

    def audio_entries(self, codec: str) -> list[AudioEntry]:
        return [entry for entry in self.audio if entry.codec == codec]
