"""The Shelf's documents: what its calls take and give."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from rheon.core.chapters import MOST_CHAPTERS
from rheon.core.descriptions import Fact
from rheon.core.media import Chapter, Gap, Role, Shape, Share
from rheon.core.media.joining import MOST_PARTS
from rheon.core.media.tags import LONGEST_TAG
from rheon.core.sources.images.drive import DriveState
from rheon.server.api.documents import Body, Document, Line, Query, RowId, Text

from .actions.film_folders import Proposal
from .folders import Entry
from .models import SourceState

LONGEST_PATH = 4096
MOST_TITLES = 500


class Strip(Document):
    """What a length strip shows of what was read, beside its name, number and role."""

    size_bytes: int
    chapters: list[float]
    reason: str
    taken: str
    taken_together: str
    shares: tuple[Share, ...]
    gaps: tuple[Gap, ...]
    fault: str | None
    part_of: int | None
    part_count: int


class TitleOutline(Strip):
    id: int
    number: int
    name: str
    duration_s: float
    role: Role


class Problem(Document):
    code: str
    message: str
    title: int | None


class FilmFolder(Document):
    id: int
    path: str
    found: int
    looking: bool
    present: bool


class FilmFolders(Document):
    folders: list[FilmFolder]
    proposals: list[Proposal]


class Source(Document):
    id: int
    path: str
    name: str
    label: str
    kind: str
    form: str
    size_bytes: int
    state: SourceState
    at_title: int
    title_count: int
    error_code: str
    error_message: str
    problems: list[Problem]
    drive: int | None
    titles: list[TitleOutline]


class Audio(Document):
    index: int
    language: str
    form: str
    purpose: str
    name: str | None
    heard: str


class Subtitle(Document):
    index: int
    language: str
    form: str
    found: str


class Borders(Document):
    """Shares of the picture's width and height."""

    top: float
    bottom: float
    left: float
    right: float
    sure: float


class JoinedPart(Document):
    """A part of a join, and when in it that begins; ``id`` is ``None`` where it is not on the Shelf any more."""

    id: int | None
    name: str
    source_name: str
    at_s: float
    duration_s: float


class Title(Document):
    id: int
    source_id: int
    source_name: str
    number: int
    name: str
    duration_s: float
    size_bytes: int
    role: Role
    role_by_hand: bool
    reasons: list[str]
    fault: str | None
    gaps: tuple[Gap, ...]
    part_of: int | None
    parts: list[JoinedPart]
    parts_agree: bool
    angle: int
    angles: int
    looked_at: Literal["yes", "waiting", "failed"]
    picture: list[Fact]
    borders: Borders | None
    tags: list[Fact]
    frames: int
    strip: int
    chapters: tuple[Chapter, ...]
    chapters_by_hand: bool
    chapters_alike: list[int]
    audio: list[Audio]
    subtitles: list[Subtitle]


class Folder(Document):
    path: str | None
    parent: str | None
    entries: list[Entry]


class Drive(Document):
    number: int
    name: str
    state: DriveState
    label: str | None
    speed_bytes_s: int | None
    discs: list[str]
    source_id: int | None


class FolderWanted(Query):
    """The media folders themselves where no path is given."""

    path: Text | None = None


class NewSource(Body):
    path: Annotated[Text, Field(min_length=1, max_length=LONGEST_PATH)]


class NewName(Body):
    name: Annotated[Line, Field(max_length=200)]


class TitleChange(Body):
    """What is not named stays as it is; an empty name or a ``null`` role gives back what was read."""

    name: Annotated[Line, Field(max_length=220)] = ""
    role: Role | None = None
    angle: Annotated[int, Field(ge=1)] = 1


class ChapterWanted(Body):
    start_s: Annotated[float, Field(ge=0, le=10_000_000, allow_inf_nan=False)]
    name: Annotated[Line, Field(max_length=LONGEST_TAG)] = ""


class Chapters(Body):
    """``null`` gives back those that were read. ``alike`` are titles that get the names."""

    chapters: Annotated[list[ChapterWanted], Field(max_length=MOST_CHAPTERS)] | None
    alike: Annotated[list[RowId], Field(max_length=MOST_TITLES)] = []


class ChapterList(Body):
    """A list in any of the forms that are read, or a pattern that names each."""

    text: Annotated[Text, Field(max_length=1_100_000)] = ""
    pattern: Annotated[Line, Field(max_length=300)] = ""


class ChapterLength(Query):
    every_s: Annotated[int, Field(ge=30, le=7200)] = 600


class ProposedChapters(Document):
    """Chapters that nobody has taken yet, and what could not be used; ``looking`` while they are looked for."""

    chapters: tuple[Chapter, ...]
    told: list[str]
    looking: bool = False


class Artwork(Document):
    """What a title's files are known by, and what could be taken.

    ``cover`` is what somebody chose; ``own`` says that a picture came with the title, which its files get without being
    asked. ``frames`` are the moments of the best frames, the best first, ``looking`` while they are looked for.
    ``alike`` are the other titles of its source in the same role.
    """

    cover: Chosen | None
    own: bool
    frames: list[float]
    looking: bool
    alike: list[int]


class Chosen(Document):
    """A frame at ``at_s``, a picture that was brought, by its name, or the one that came with the title (``own``); with
    none of them the frame that seems best. ``across`` and ``down`` say which part of it is kept in its shape.
    """

    at_s: float | None
    picture: str | None
    own: bool
    shape: Shape
    across: float
    down: float


class CoverWanted(Body):
    """As in ``Chosen``."""

    at_s: Annotated[float, Field(ge=0, le=10_000_000, allow_inf_nan=False)] | None = None
    picture: Annotated[Line, Field(max_length=40)] | None = None
    own: bool = False
    shape: Shape = Shape.WIDE
    across: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)] = 0.5
    down: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)] = 0.5


class CoverSeen(CoverWanted, Query):
    """The same, to look at it first."""


class ArtworkChange(Body):
    """``null`` gives back what the title has without being asked. ``alike`` are titles that get it too, where it is no
    frame of this one.
    """

    cover: CoverWanted | None
    alike: Annotated[list[RowId], Field(max_length=MOST_TITLES)] = []


class NewPicture(Body):
    """A JPEG, PNG or WebP in base64."""

    data: Annotated[str, Field(max_length=2_400_000)]


class KeptPicture(Document):
    picture: str


class ChapterRange(Body):
    first: Annotated[int, Field(ge=1)]
    last: Annotated[int, Field(ge=1)]


class Parts(Body):
    ranges: list[ChapterRange]


class Join(Body):
    """Titles in the order in which they are joined; an empty name is made of theirs."""

    titles: Annotated[list[RowId], Field(max_length=MOST_PARTS)]
    name: Annotated[Line, Field(max_length=220)] = ""


class Joined(Document):
    """The title that came of it."""

    id: int


class Disc(Body):
    disc: Annotated[Line, Field(min_length=1, max_length=300)]


class CutProposals(Document):
    """What of a title could be left out; ``looking`` while openings and credits are still looked for.

    ``other_episodes`` are those of its series, for which the same can be done.
    """

    looking: bool
    found: list[CutProposal]
    other_episodes: int


class Levels(Document):
    """How loud a title is along its time: levels in dBFS, in equal steps; ``looking`` while they are listened for."""

    levels: list[int]
    looking: bool


class Scene(Document):
    """When the next picture quite unlike the one before it is shown; ``None`` where none is near."""

    at_s: float | None


class SceneWanted(Query):
    """From which moment, in seconds of the title, and in which direction."""

    at_s: float = Field(ge=0, le=1e6)
    before: bool = False


class CutProposal(Document):
    """A stretch that could be left out, in seconds of the title: what would be done, and why."""

    from_s: float
    until_s: float
    text: str
    reason: str
