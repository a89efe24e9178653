"""Sources and their titles: what a scan finds."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum

from .cover import Cover
from .facts import as_fact
from .streams import AudioStream, SubtitleStream, VideoStream

SECTOR_BYTES = 2048
PTS_HZ = 90_000
"""Time stamps of program and transport streams (ISO/IEC 13818-1, 2.4.3.7)."""


class Role(StrEnum):
    """What a title seems to be."""

    FEATURE = "feature"
    EPISODE = "episode"
    PLAY_ALL = "play_all"
    EXTRA = "extra"
    MENU = "menu"
    DUPLICATE = "duplicate"


class SourceKind(StrEnum):
    DVD = "dvd"
    BLURAY = "bluray"
    FILES = "files"


class SourceForm(StrEnum):
    FOLDER = "folder"
    IMAGE = "image"
    FILE = "file"


@dataclass(frozen=True, slots=True, kw_only=True)
class Reason:
    """Why something was decided, as data: a code and the values its sentence needs.

    Facts among the values are facts again where they come out of a document.
    """

    code: str
    values: dict[str, object] = field(default_factory=dict)

    def __post_init__(self) -> None:
        if any(isinstance(value, Mapping) for value in self.values.values()):
            found = {key: as_fact(v) if isinstance(v, Mapping) else v for key, v in self.values.items()}
            object.__setattr__(self, "values", found)


@dataclass(frozen=True, slots=True, kw_only=True)
class Extent:
    """A run of bytes in a file: where a piece of a title lies."""

    path: str
    offset_bytes: int
    length_bytes: int


class StreamKind(StrEnum):
    """How a disc's bytes are laid out (ISO/IEC 13818-1): DVD-Video holds program, Blu-ray transport streams."""

    PROGRAM = "program"
    TRANSPORT = "transport"


@dataclass(frozen=True, slots=True, kw_only=True)
class Cell:
    """A piece of a title as its disc lists it: when it starts, how long it lasts, which bytes hold it.

    ``pts`` is the 90 kHz time stamp that its start has in the data; ``None`` where only the data tell.
    ``still_s`` is how long its last picture stands (255: until somebody goes on). ``lead`` are the bytes before it from
    which its first pictures can be decoded, ``lap`` those behind it that still carry its sound.
    """

    start_s: float
    duration_s: float
    extents: tuple[Extent, ...]
    pts: int | None = None
    still_s: int = 0
    lap: tuple[Extent, ...] = ()
    lead: tuple[Extent, ...] = ()

    @property
    def size_bytes(self) -> int:
        return sum(extent.length_bytes for extent in self.extents)


@dataclass(frozen=True, slots=True, kw_only=True)
class FileData:
    """The title is a file that the engine opens by name, whole or from ``from_s`` for the title's length."""

    path: str
    from_s: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class CellData:
    """The title is the cells of a disc, fed to the engine in their order.

    ``skip_s`` is how far into the first cell the title begins. ``palette`` holds sixteen ``rrggbb`` colours for
    subpictures. ``other_angles`` are the cells of angles 2, 3 ….
    """

    cells: tuple[Cell, ...]
    palette: tuple[str, ...] = ()
    skip_s: float = 0.0
    stream: StreamKind = StreamKind.PROGRAM
    other_angles: tuple[tuple[Cell, ...], ...] = ()

    @property
    def start_pts(self) -> int | None:
        """The 90 kHz time stamp of the title's first moment; ``None`` where only the data tell."""
        pts = self.cells[0].pts if self.cells else None
        return None if pts is None else pts + round(self.skip_s * PTS_HZ)

    @property
    def extents(self) -> tuple[Extent, ...]:
        """Every run of bytes in playing order, neighbours joined."""
        joined: list[Extent] = []
        for extent in (piece for cell in self.cells for piece in cell.extents):
            last = joined[-1] if joined else None
            if last and last.path == extent.path and last.offset_bytes + last.length_bytes == extent.offset_bytes:
                joined[-1] = Extent(
                    path=last.path,
                    offset_bytes=last.offset_bytes,
                    length_bytes=last.length_bytes + extent.length_bytes,
                )
            else:
                joined.append(extent)
        return tuple(joined)


@dataclass(frozen=True, slots=True, kw_only=True)
class Chapter:
    """A chapter, counted from 1. ``name`` is ``None`` where the source has none."""

    number: int
    start_s: float
    name: str | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Beside:
    """What a document beside a file, called ``name``, says of the work, by the names of tags."""

    name: str
    tags: dict[str, str | int]


@dataclass(frozen=True, slots=True, kw_only=True)
class Share:
    """Material a title has in common with another: from when to when in this title, in seconds."""

    title: int
    from_s: float
    to_s: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Artwork:
    """A picture that belongs to a title: a file beside it, or (``stream`` set) one attached inside ``path``."""

    path: str
    stream: int | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Gap:
    """A stretch of a title whose data can't be read, in seconds."""

    from_s: float
    to_s: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Title:
    """One playable programme of a source.

    ``fault`` names what keeps it from being converted, by problem code; ``gaps`` are what is missing of one that can,
    and ``promised_s`` is how long it says it lasts where its data end before that.
    ``name`` is what its file calls it, ``tags`` what is written in it, ``beside`` what documents say that lie by it,
    the surest last. ``artwork`` is a picture that belongs to it, ``cover`` the one that its files are to have.
    ``key`` is the same at every scan of the source. ``part_of`` is the title of which it is a range of chapters,
    ``joined`` are the titles of which it is made, one after the other (``media.joining``), and ``parts_agree`` says
    that their streams may follow each other without being encoded.
    """

    number: int
    duration_s: float
    size_bytes: int
    data: FileData | CellData
    container: str
    video: VideoStream | None = None
    audio: tuple[AudioStream, ...] = ()
    subtitles: tuple[SubtitleStream, ...] = ()
    chapters: tuple[Chapter, ...] = ()
    angles: int = 1
    fault: str | None = None
    gaps: tuple[Gap, ...] = ()
    promised_s: float | None = None
    key: str = ""
    name: str | None = None
    part_of: int | None = None
    joined: tuple[Title, ...] = ()
    parts_agree: bool = False
    tags: dict[str, str] = field(default_factory=dict)
    artwork: Artwork | None = None
    cover: Cover | None = None
    beside: tuple[Beside, ...] = ()
    role: Role = Role.EXTRA
    reasons: tuple[Reason, ...] = ()
    shares: tuple[Share, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Problem:
    """Something wrong with a source that did not stop the rest from being read.

    ``code`` is for programs and stays what it is; ``reason`` is what a sentence is made of (``wording.problem_text``).
    """

    code: str
    reason: Reason
    title: int | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Source:
    """Something to read from, with what a scan found. ``bytes_read`` says how much the scan itself read."""

    kind: SourceKind
    form: SourceForm
    label: str
    path: str
    size_bytes: int
    titles: tuple[Title, ...]
    problems: tuple[Problem, ...] = ()
    bytes_read: int = 0
