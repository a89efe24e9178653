"""What lies inside a title: its video, audio and subtitle streams."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction


class Scan(StrEnum):
    """How the lines of a picture were taken."""

    PROGRESSIVE = "progressive"
    INTERLACED = "interlaced"
    TELECINED = "telecined"
    MIXED = "mixed"
    """Film or whole frames, and fields, by turns."""
    UNKNOWN = "unknown"


OF_FIELDS = frozenset({Scan.INTERLACED, Scan.TELECINED, Scan.MIXED})
"""Where lines of two moments may lie in one picture."""
COMB_LIMIT = 9
"""In steps of eight bits: lines of two moments differ by more, and hardly any others of smooth pictures do."""
NOISY = 1.5
"""Steps of eight bits."""


class Purpose(StrEnum):
    """What an audio track is for."""

    MAIN = "main"
    COMMENTARY = "commentary"
    DESCRIPTION = "description"
    UNKNOWN = "unknown"


class SubtitlePurpose(StrEnum):
    """What a subtitle track is for."""

    MAIN = "main"
    CAPTIONS = "captions"
    COMMENTARY = "commentary"
    LARGE = "large"
    CHILDREN = "children"
    UNKNOWN = "unknown"


class Forced(StrEnum):
    """Whether a subtitle track holds forced lines."""

    ALL = "all"
    SOME = "some"
    NONE = "none"
    UNKNOWN = "unknown"


@dataclass(frozen=True, slots=True, kw_only=True)
class Borders:
    """Lines around the picture, counted in stored pixels."""

    top: int = 0
    bottom: int = 0
    left: int = 0
    right: int = 0

    @property
    def any(self) -> bool:
        return any((self.top, self.bottom, self.left, self.right))

    def turned(self, rotation: int) -> Borders:
        """Where they lie when the picture is turned anticlockwise by quarters (degrees)."""
        found = self
        for _ in range(rotation % 360 // 90):
            found = Borders(top=found.right, bottom=found.left, left=found.top, right=found.bottom)
        return found


class DynamicRange(StrEnum):
    """How bright a picture's light may be: up to white paper, or beyond it by one of two curves (ITU-R BT.2100)."""

    STANDARD = "standard"
    HDR10 = "hdr10"
    HLG = "hlg"


HDR_TRANSFERS = {"smpte2084": DynamicRange.HDR10, "arib-std-b67": DynamicRange.HLG}


@dataclass(frozen=True, slots=True, kw_only=True)
class Mastering:
    """How light beyond white was made, by which a display with less of it draws it in.

    ``display`` is what the display showed on which that was done (SMPTE ST 2086): x and y of green, blue, red and
    white in 1/50000, the most and the least light in 1/10000 cd/m². ``content`` are the brightest picture element and
    the brightest mean of a picture, in cd/m² (CTA-861.3). ``None`` where nothing says it.
    """

    display: tuple[int, ...] | None = None
    content: tuple[int, int] | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Colour:
    """How a picture's numbers are to be read, in the names of ITU-T H.273 as ffmpeg writes them.

    ``peak_nits`` is the brightest light that the pictures are said to hold, in cd/m²; ``None`` where nothing says it.
    """

    matrix: str
    primaries: str
    transfer: str
    full_range: bool = False
    peak_nits: int | None = None
    mastering: Mastering | None = None

    @property
    def dynamic_range(self) -> DynamicRange:
        return HDR_TRANSFERS.get(self.transfer, DynamicRange.STANDARD)


@dataclass(frozen=True, slots=True, kw_only=True)
class Span:
    """What a stream really holds, as its packets say: from when to when (seconds of the title), how many bytes.

    ``whole`` says that every packet was seen; else ``packets`` and ``size_bytes`` are those of a part.
    """

    start_s: float
    end_s: float
    packets: int
    size_bytes: int
    whole: bool = True


@dataclass(frozen=True, slots=True, kw_only=True)
class VideoStream:
    """One video stream. ``width`` and ``height`` are stored pixels; ``sample_aspect`` is one pixel's shape.

    ``borders`` are black on every picture that was looked at; ``None`` where nobody has looked yet. ``often_black`` are
    those of a part of the pictures, where others show more. ``rotation`` is how the picture is turned to be seen
    upright, in degrees anticlockwise, as the display matrix of ISO/IEC 14496-12 says it. ``colour`` is
    ``None`` where the stream does not say. Where the pictures come at changing distances (``variable_rate``),
    ``frame_rate`` is that of the quick parts; ``holding_rate`` is the container's word for one that
    holds every picture. ``noise`` is its standard deviation in steps of eight bits, where somebody has measured it.
    ``comb_limit`` says, in the same steps, up to where lines of whole pictures differ by themselves.
    ``planar``: luma and chroma are known to lie in planes of their own; recordings of screens may have them in none.
    ``place`` counts a file's streams from 0, as the container lists them.
    """

    codec: str
    width: int
    height: int
    frame_rate: Fraction
    sample_aspect: Fraction = Fraction(1)
    scan: Scan = Scan.UNKNOWN
    top_field_first: bool = True
    bit_depth: int = 8
    planar: bool = False
    profile: str | None = None
    level: str | None = None
    reference_frames: int | None = None
    bitrate_bps: int | None = None
    rotation: int = 0
    codec_tag: str | None = None
    letterboxed: bool = False
    borders: Borders | None = None
    often_black: Borders | None = None
    film_in_fields: bool = False
    comb_limit: int = COMB_LIMIT
    variable_rate: bool = False
    holding_rate: Fraction | None = None
    colour: Colour | None = None
    noise: float | None = None
    stream_id: int | None = None
    place: int | None = None
    span: Span | None = None

    @property
    def dynamic_range(self) -> DynamicRange:
        return self.colour.dynamic_range if self.colour else DynamicRange.STANDARD

    def in_whole_planes(self, cut: Borders) -> bool:
        """Whether each plane of what a crop leaves is a whole number of pixels wide and high."""
        sides = (self.width, self.height, cut.left, cut.right, cut.top, cut.bottom)
        return self.planar and not any(side % 2 for side in sides)

    @property
    def is_combed(self) -> bool:
        """Whether lines of two moments lie in some of the stored pictures."""
        return self.scan in (Scan.INTERLACED, Scan.MIXED) or self.film_in_fields

    @property
    def is_noisy(self) -> bool:
        """Whether noise is seen, and takes a good part of the bits."""
        return self.noise is not None and self.noise >= NOISY

    @property
    def upright_size(self) -> tuple[int, int]:
        """Stored pixels across and down as they lie when the picture is turned to be seen upright."""
        return (self.height, self.width) if self.rotation % 180 else (self.width, self.height)

    @property
    def display_aspect(self) -> Fraction:
        """Width to height as it should be seen, rotation included; 1 where the size is not known."""
        if not self.width or not self.height:
            return Fraction(1)
        aspect = Fraction(self.width, self.height) * self.sample_aspect
        return 1 / aspect if self.rotation % 180 else aspect


@dataclass(frozen=True, slots=True, kw_only=True)
class AudioStream:
    """One audio track. ``index`` counts the title's audio tracks from 0; ``stream_id`` is the MPEG stream id.

    ``is_core`` marks the AC-3 part of the TrueHD track with the same id. Loudness (LUFS), sample peak (dBFS)
    and what the track takes when it is coded without loss are ``None`` where nobody has listened. ``absent``: a part of
    a joined title has not this track of the whole; of the whole itself, not all of its parts have it.
    """

    index: int
    codec: str
    channels: int
    sample_rate: int
    language: str = "und"
    purpose: Purpose = Purpose.UNKNOWN
    profile: str | None = None
    bitrate_bps: int | None = None
    name: str | None = None
    is_core: bool = False
    absent: bool = False
    silent: bool = False
    loudness_lufs: float | None = None
    peak_dbfs: float | None = None
    lossless_bps: float | None = None
    stream_id: int | None = None
    place: int | None = None
    span: Span | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class SubtitleStream:
    """One subtitle track. ``index`` counts the title's subtitle tracks from 0.

    ``path`` is the text file it lies in where it is a file beside the title's own. ``absent`` as
    with sound; ``own_index`` is what a part's track counts as in its own file.
    """

    index: int
    format: str
    language: str = "und"
    purpose: SubtitlePurpose = SubtitlePurpose.UNKNOWN
    forced: Forced = Forced.UNKNOWN
    absent: bool = False
    own_index: int | None = None
    stream_id: int | None = None
    path: str | None = None
    place: int | None = None
    span: Span | None = None

    @property
    def in_file(self) -> int:
        """Which of the subtitle tracks of its file it is, counted from 0."""
        return self.index if self.own_index is None else self.own_index
