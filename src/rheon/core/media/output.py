"""What the engine will be told, free of reasons: the settings of one output."""

from __future__ import annotations

from dataclasses import dataclass, field
from enum import StrEnum
from fractions import Fraction

from .cover import Cover, CoverPlace
from .kept import KeptRange
from .marks import mark_of
from .streams import COMB_LIMIT, Borders, Colour
from .tags import Tags


class Action(StrEnum):
    COPY = "copy"
    ENCODE = "encode"


class Fields(StrEnum):
    """What is done to the fields of a picture: nothing, coded as fields, a frame of each pair, a frame of each, film
    restored, or film restored where there is film and the rest joined in pairs.
    """

    LEAVE = "leave"
    KEEP = "keep"
    JOIN = "join"
    DOUBLE = "double"
    RESTORE = "restore"
    MATCH = "match"


class SubtitleForm(StrEnum):
    """How subtitles go along: drawn into the picture, a track that can be switched on, or a text file beside it."""

    DRAWN = "drawn"
    TRACK = "track"
    FILE = "file"


@dataclass(frozen=True, slots=True, kw_only=True)
class VideoSettings:
    """The picture of an output.

    ``encoder`` is the engine's name for the one of the codec's encoders that makes it, ``device`` the node of the
    hardware that has it, where one does. Exactly one of ``quality``
    (constant quality, in the encoder's own scale) and ``bitrate_bps`` is set where the
    picture is encoded. ``crop`` is cut from the stored picture, which is then turned by ``rotation`` (degrees
    anticlockwise); ``rotation_from`` is what the source says of it, which the engine does by itself. ``frame_rate`` is
    what comes out, at most where each picture keeps its own time (``variable_rate``); of the source's pictures every
    ``every``-th is taken.
    ``film_in_fields`` says that repeated fields are taken out by looking at them instead of by their flags; a picture
    is combed whose lines differ by more than ``comb_limit``, in steps of eight bits.
    ``colour_from`` is the source's where it has to be turned into ``colour``. The source's pictures have
    ``bit_depth_from`` bits; where ``whole_planes_from``, what is left by the crop consists of planes of luma and
    chroma, each a whole number of pixels wide and high. ``pad`` is black around the picture, inside its size.
    Differences up to ``denoise`` are smoothed, and steps up to ``deband``, both in steps of eight bits. ``parts`` are
    the settings of each part of a joined title where not all are treated alike. ``edges`` are those of the pictures at
    both ends of a copied stretch that is cut to the picture.
    """

    action: Action
    codec: str
    width: int
    height: int
    sample_aspect: Fraction
    frame_rate: Fraction
    variable_rate: bool = False
    every: int = 1
    profile: str | None = None
    level: str | None = None
    bit_depth: int = 8
    crop: Borders = field(default_factory=Borders)
    rotation: int = 0
    rotation_from: int = 0
    fields: Fields = Fields.LEAVE
    deinterlacer: str = "bwdif"
    film_in_fields: bool = False
    comb_limit: int = COMB_LIMIT
    top_field_first: bool = True
    combed: bool = False
    colour: Colour | None = None
    colour_from: Colour | None = None
    bit_depth_from: int = 8
    whole_planes_from: bool = False
    encoder: str | None = None
    device: str = ""
    quality: int | None = None
    bitrate_bps: int | None = None
    passes: int = 1
    peak_bps: int | None = None
    buffer_bits: int | None = None
    reference_frames: int | None = None
    b_frames: int = 0
    keyframe_frames: int = 250
    preset: str = "medium"
    pad: Borders = field(default_factory=Borders)
    denoise: float = 0.0
    deband: float = 0.0
    parts: tuple[VideoSettings, ...] = ()
    edges: VideoSettings | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class AudioSettings:
    """One audio track of an output, made of the title's audio track ``track``. ``gain_db`` raises or lowers it;
    ``part_gains_db`` does so for each part of a join by itself.
    """

    action: Action
    track: int
    codec: str
    channels: int
    sample_rate: int
    source_channels: int
    bitrate_bps: int | None = None
    gain_db: float = 0.0
    part_gains_db: tuple[float, ...] = ()
    language: str = "und"


@dataclass(frozen=True, slots=True, kw_only=True)
class SubtitleSettings:
    """A subtitle track of the title and what becomes of it; ``format`` is what a track or file is written as."""

    track: int
    is_text: bool
    form: SubtitleForm = SubtitleForm.DRAWN
    format: str = ""
    only_forced: bool = False
    language: str = "und"


@dataclass(frozen=True, slots=True, kw_only=True)
class OutputSettings:
    """One output. ``file_name`` has its folders before it, with ``/`` between them. ``video`` is ``None`` where it has
    none; the first audio track is the one that is played.

    ``kept`` are the stretches of the title that go into it, in their order; the whole title where there are none.
    ``cut_as_copy`` says that they begin where copied streams can begin. ``middles`` are, for each of them, what of it
    is copied where only the pictures before and behind that are encoded. ``cover_place`` says where ``cover`` goes.
    ``asked_bytes`` is the size that somebody asked for.
    """

    container: str
    file_name: str
    video: VideoSettings | None
    audio: tuple[AudioSettings, ...]
    subtitles: tuple[SubtitleSettings, ...]
    duration_s: float
    tags: Tags = field(default_factory=Tags)
    cover: Cover | None = None
    cover_place: CoverPlace = CoverPlace.NONE
    chapters: bool = True
    kept: tuple[KeptRange, ...] = ()
    cut_as_copy: bool = False
    middles: tuple[KeptRange, ...] = ()
    asked_bytes: int | None = None

    @property
    def picture_mark(self) -> str:
        """The same for pictures that are made alike."""
        return mark_of(self.video, self.kept)

    @property
    def drawn(self) -> SubtitleSettings | None:
        """The subtitle track that is drawn into the picture."""
        return next((subtitle for subtitle in self.subtitles if subtitle.form is SubtitleForm.DRAWN), None)

    @property
    def sound(self) -> AudioSettings | None:
        """The track that is played when nobody chooses."""
        return self.audio[0] if self.audio else None
