"""The Outbox's documents: what its calls take and give."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import Field

from rheon.core.devices import Trouble
from rheon.core.planning import Estimate
from rheon.core.planning.decisions import Choice
from rheon.server.api.documents import Body, Document, Query, RowId, Text
from rheon.server.bench.documents import Rule

from .models import ArtworkWanted

MOST_TITLES = 500


class Check(Document):
    device_name: str
    kept: int
    rules: list[Rule]


class PlayedOn(Document):
    """A device the file is for; ``reported`` says that somebody told how it did there."""

    device_id: int
    device_name: str
    reported: bool
    trouble: Trouble | None


class Report(Body):
    """How a file did on a device: it played, or what the trouble was."""

    device_id: RowId
    trouble: Trouble | None


class OutputTag(Document):
    """A tag of a file as it is typed."""

    name: str
    label: str
    value: str
    choices: tuple[Choice, ...]


class OutputTags(Document):
    """What is written in a file, and what it would be called by that; ``writing`` while other tags are put in.

    ``artwork`` are the ways with its artwork that it has.
    """

    tags: list[OutputTag]
    artwork: tuple[Choice, ...]
    proposed_name: str
    writing: bool
    error: str


class NewTags(Body):
    """Tags as they are to be, by name; those that are not named stay. ``rename``: the file is called by them.
    ``artwork``: that of its title is put in, or what is in it is taken out.
    """

    tags: dict[str, Annotated[Text, Field(max_length=4000)]]
    rename: bool = False
    artwork: ArtworkWanted = ArtworkWanted.KEPT


class OutdatedFile(Document):
    """A file in which something else is written than is known of its title now, and what it would be called by that."""

    output_id: int
    title_name: str
    file_name: str
    becomes: str
    error: str


class OutdatedFiles(Document):
    """``writing`` counts those into which tags are being written."""

    files: list[OutdatedFile]
    writing: int


class TitlesMeant(Query):
    titles: Annotated[list[RowId], Field(max_length=MOST_TITLES)] = []


class FilesToUpdate(Body):
    """Titles whose files get the tags of now; ``rename``: those that a pattern has named are called by them too."""

    titles: Annotated[list[RowId], Field(max_length=MOST_TITLES)]
    rename: bool = True


class Output(Document):
    id: int
    job_id: int | None
    title_id: int | None
    title_name: str
    device_names: list[str]
    summary: str
    is_sample: bool
    file_name: str
    folder: str
    present: bool
    is_folder: bool
    media_type: str | None
    size_bytes: int
    making_s: float
    checking_s: float
    expected: Estimate
    checks: list[Check]
    played_on: list[PlayedOn]
    tags: OutputTags | None
    made: datetime


class Outline(Document):
    id: int
    title_id: int | None
    title_name: str
    device_names: list[str]
    size_bytes: int
    making_s: float
    checking_s: float
    held: bool
    is_sample: bool
    present: bool


class Outbox(Document):
    """How many files there are in all, how many samples besides, and one page of both."""

    count: int
    size_bytes: int
    samples: int
    outputs: list[Outline]
