"""What the engine will be told, free of reasons: the settings of one output."""

from __future__ import annotations

from dataclasses import dataclass, field
from enum import StrEnum
from fractions import Fraction

from ..media import Borders


class Action(StrEnum):
    COPY = "copy"
    ENCODE = "encode"


@dataclass(frozen=True, slots=True, kw_only=True)
class VideoSettings:
    """The picture of an output.

    Exactly one of ``quality`` (constant quality, in the encoder's own scale) and ``bitrate_bps`` is set where the
    picture is encoded. ``crop`` is cut from the stored picture. ``frame_rate`` is what comes out; ``deinterlace``
    makes one frame of each pair of fields; ``restore_film`` takes the repeated fields out again: by their flags, or
    ``film_in_fields`` by looking at them.
    """

    action: Action
    codec: str
    width: int
    height: int
    sample_aspect: Fraction
    frame_rate: Fraction
    profile: str | None = None
    level: str | None = None
    bit_depth: int = 8
    crop: Borders = field(default_factory=Borders)
    deinterlace: bool = False
    restore_film: bool = False
    film_in_fields: bool = False
    top_field_first: bool = True
    quality: int | None = None
    bitrate_bps: int | None = None
    peak_bps: int | None = None
    buffer_bits: int | None = None
    reference_frames: int | None = None
    b_frames: int = 0
    keyframe_frames: int = 250
    effort: str = "medium"


@dataclass(frozen=True, slots=True, kw_only=True)
class AudioSettings:
    """The sound of an output, made of the title's audio track ``track``."""

    action: Action
    track: int
    codec: str
    channels: int
    sample_rate: int
    source_channels: int
    bitrate_bps: int | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class SubtitleSettings:
    """The subtitle track that is drawn into the picture."""

    track: int
    is_text: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class OutputSettings:
    """One output. ``video``, ``audio`` and ``subtitle`` are ``None`` where it has none."""

    container: str
    file_name: str
    video: VideoSettings | None
    audio: AudioSettings | None
    subtitle: SubtitleSettings | None
    name: str
    duration_s: float
    language: str = "und"
