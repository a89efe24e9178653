"""The Outbox's documents: what its calls take and give."""

from __future__ import annotations

from datetime import datetime
from enum import StrEnum
from typing import Annotated

from pydantic import Field

from rheon.core.devices import Trouble
from rheon.core.handover import VolumeKind
from rheon.core.planning import Estimate
from rheon.core.planning.decisions import Choice
from rheon.server.api.documents import Body, Document, Line, Query, RowId, Text
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


class Volume(Document):
    """What is plugged in or mounted that files can be copied to; sizes are null where it does not say them."""

    id: str
    label: str
    kind: VolumeKind
    file_system: str
    total_bytes: int | None
    free_bytes: int | None
    largest_file_bytes: int | None
    writable: bool


class Storage(Document):
    """Where a device's files go. ``here`` says that it is plugged in; else what is told of it is as it was ``seen``.

    Of all there is room for, ``there_bytes`` are taken by files from here, ``coming_bytes`` will be, and
    ``kept_free_bytes`` are left to the device.
    """

    volume_id: str
    label: str
    folder: str
    here: bool
    can_be_ejected: bool
    total_bytes: int | None
    free_bytes: int | None
    there_bytes: int
    coming_bytes: int
    kept_free_bytes: int
    seen: datetime | None


class FileState(StrEnum):
    """How far a file is on its way onto a device; ``gone`` is one that was there and is not any more,
    ``other`` one in whose place another file of its name lies.
    """

    READY = "ready"
    WAITING = "waiting"
    COPYING = "copying"
    VERIFYING = "verifying"
    THERE = "there"
    GONE = "gone"
    OTHER = "other"
    FAILED = "failed"
    LEFT_OUT = "left_out"


class FileForDevice(Document):
    """A file for a device. ``why`` says why it does not fit, waits or failed; ``fits`` that there is room for it.

    ``present``: it lies where it was made.
    """

    output_id: int
    handover_id: int | None
    title_name: str
    file_name: str
    size_bytes: int
    state: FileState
    fraction: float
    fits: bool
    present: bool
    why: str


class NetworkFolder(Document):
    """A device's files as the home network sees them, in the folder ``name``: when somebody last looked into it, and
    when a file was last fetched, by which address.
    """

    name: str
    seen: datetime | None
    fetched: datetime | None
    fetched_by: str


class PlayedQuestion(Document):
    """Whether a file played on the device that it reached."""

    output_id: int
    title_name: str


class DeviceFiles(Document):
    """How far the files for a device are; ``copying`` says it of the one that is being copied. The library is number 0.

    ``network`` is null for one that is not shown to the home network, ``asks`` where it is known whether files play
    there, or none has come there yet. ``files`` are those of the device that is asked
    for, ``more`` of them not listed: in the order in which they are ``wished`` for if one was said, else by names.
    """

    device_id: int
    device_name: str
    storage: Storage | None
    count: int
    there: int
    waiting: int
    failed: int
    copying: float | None
    network: NetworkFolder | None
    asks: PlayedQuestion | None
    wished: bool
    files: list[FileForDevice]
    more: int


class Handovers(Document):
    """Stand-ins that are ``unplugged`` can be plugged in from the page, those that are ``plugged`` pulled out.

    TVs find what is shown to the home network under ``server_name``, unless there is a ``server_problem``.
    """

    volumes: list[Volume]
    unplugged: list[str]
    plugged: list[str]
    server_name: str
    server_problem: str
    devices: list[DeviceFiles]


class HandoversWanted(Query):
    """Of which device the files are listed, the first's if none is ``chosen``; or those of one ``output`` for each.

    Files that are ``left_out`` give their room to others of the chosen device.
    """

    chosen: RowId | None = None
    output: RowId | None = None
    left_out: Annotated[list[RowId], Field(max_length=MOST_TITLES)] = []


class LibraryShown(StrEnum):
    """Of what is in the library: all of it, what is there twice, or what a device does not play as it is."""

    ALL = "all"
    DOUBLE = "double"
    NOT_ON = "not_on"


class LibraryWanted(Query):
    """``device_id`` says which device ``not_on`` means."""

    shown: LibraryShown = LibraryShown.ALL
    device_id: RowId | None = None


class NotOn(Document):
    """A device that does not play a file as it is, and why."""

    device_id: int
    device_name: str
    why: str


class LibraryFile(Document):
    """A file by its ``path`` in the library. ``twice`` are the paths of those with the same content, ``alike`` of those
    of the same work; ``trouble`` says why it can't be read.
    """

    path: str
    about: str
    size_bytes: int
    trouble: str
    not_on: list[NotOn]
    twice: list[str]
    alike: list[str]


class PlayedBy(Document):
    """On how many of the library's files a device has nothing to object to."""

    device_id: int
    device_name: str
    plays: int


class Library(Document):
    """What is in the library, as it was ``looked`` at; ``looking`` says that this goes on, at ``done`` of ``total``.

    ``double`` counts files that another one stands for: of the same content, or of the same work.
    """

    here: bool
    looking: bool
    done: int
    total: int
    looked: datetime | None
    problem: str
    count: int
    size_bytes: int
    double: int
    devices: list[PlayedBy]
    files: list[LibraryFile]
    more: int


class NewHandovers(Body):
    """Outputs that are to be copied onto a device, or into the library (0).

    ``replace``: other files of their names give way to them, once they are verified.
    """

    device_id: RowId
    outputs: Annotated[list[RowId], Field(min_length=1, max_length=MOST_TITLES)]
    replace: bool = False


class NewStorage(Body):
    """Where a device's files go from now on: a volume, or a folder of this machine by its path."""

    volume_id: Annotated[Text, Field(min_length=1, max_length=300)]
    folder: Annotated[Line, Field(max_length=300)] = ""


class WishedFiles(Body):
    """Outputs in the order in which they are wished for on a device; none for the order of their names."""

    outputs: Annotated[list[RowId], Field(max_length=MOST_TITLES)]


class MeantVolume(Body):
    volume_id: Annotated[Line, Field(min_length=1, max_length=300)]


class MeantLabel(Body):
    label: Annotated[Line, Field(min_length=1, max_length=200)]


class PulledOut(Query):
    label: Annotated[Line, Field(min_length=1, max_length=200)]


class PickedUp(Document):
    """A file that can be picked up; ``fetched`` is when its end was given to a device last."""

    output_id: int
    title_name: str
    file_name: str
    size_bytes: int
    fetched: datetime | None


class PickUp(Document):
    """The page for picking files up: where it is and its code while it is open."""

    open: bool
    address: str
    code: str
    until: datetime | None
    qr: Annotated[str, Field(description="An SVG path of dark squares, one unit each")]
    qr_size: int
    device_name: str
    files: list[PickedUp]
    problem: str


class NewPickUp(Body):
    """Files that are to be picked up, and by which device if that is known."""

    outputs: Annotated[list[RowId], Field(min_length=1, max_length=MOST_TITLES)]
    device_id: RowId | None = None
