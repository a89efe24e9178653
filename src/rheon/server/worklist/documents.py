"""The Worklist's documents: what its calls take and give."""

from __future__ import annotations

from datetime import datetime, time
from enum import StrEnum
from typing import Annotated

from pydantic import Field

from rheon.core.encoding import ProgressUnit
from rheon.server.api.documents import Body, Document, PageWanted, RowId

from .machine import Strain
from .models import JobKind, JobState, MachineShare

MOST_CELLS = 10_000


class JobVerb(StrEnum):
    """What can be done to jobs; ``accept_loss`` tries again where what is there of a source's end is enough."""

    STOP = "stop"
    PAUSE = "pause"
    GO_ON = "go_on"
    RETRY = "retry"
    ACCEPT_LOSS = "accept_loss"
    REMOVE = "remove"


class Outcome(StrEnum):
    """Which records of the history are meant."""

    ALL = "all"
    MADE = "made"
    NOT_MADE = "not made"


class Job(Document):
    """``done`` and ``whole`` count in ``unit``; ``left_s`` and its range are what is expected on this machine while it
    waits, and measured as it goes. ``short_bytes`` more have to be free before it can begin. ``expected_s`` of what
    ended is what its plan said. ``in_work``: a worker is at it, if only to stand still. By ``target_id`` it can be
    planned again.
    """

    id: int
    title_id: int | None
    title_name: str
    source_name: str | None
    device_names: list[str]
    summary: str
    state: JobState
    in_work: bool
    target_id: int | None
    stage: str
    fraction: float
    kind: JobKind
    unit: ProgressUnit
    done: float
    whole: float
    duration_s: float
    speed: float
    written_bytes: int
    left_s: float | None
    left_low_s: float | None
    left_high_s: float | None
    expected_bytes: int
    expected_s: float
    made_in_s: float | None
    error_message: str
    note: str
    may_accept_loss: bool
    short_bytes: int
    started: datetime | None
    ended: datetime | None
    added: datetime


class Total(Document):
    count: int
    fraction: float
    left_s: float
    left_low_s: float
    left_high_s: float


class OpenHours(Document):
    """The hours of the day in which things are made; whether it is one now, and when that changes."""

    begins: time
    ends: time
    zone: str
    open: bool
    changes: datetime


class End(Document):
    """What can be done when all is made, what was chosen (or nothing, an empty name), when it will be done once that is
    so, and what went wrong with it, or with telling what was made, the last time.
    """

    choices: list[str]
    chosen: str
    at: datetime | None
    failed: str


class Shortage(Document):
    """A folder on whose disk less is free than what is to be made there takes."""

    folder: str
    needed_bytes: int
    free_bytes: int


class Machine(Document):
    """How much of the machine the making takes, of how much there is; ``used`` cores where room is left, half of them
    unless it is ``chosen``, and whether that is so now; when it is day. ``spared``: everything stands still for that.
    """

    cores: int
    most_at_once: int
    at_once: int
    share: MachineShare
    used: int
    chosen: bool
    leaves_room: bool
    day_begins: time
    day_ends: time
    has_battery: bool
    battery_minded: bool
    others_minded: bool
    spared: Strain | None


class Worklist(Document):
    """``held``: what waits begins only when somebody lets it; ``hours``: only in these."""

    held: bool
    hours: OpenHours | None
    machine: Machine
    shortages: list[Shortage]
    end: End
    jobs: list[Job]
    total: Total


class Added(Document):
    job_ids: list[int]


class CellRef(Body):
    title_id: RowId
    target_id: RowId


class NewJobs(Body):
    cells: Annotated[list[CellRef], Field(min_length=1, max_length=MOST_CELLS)]


class Moved(Body):
    """Jobs that wait, and the one that they are put before; ``None``: behind all others."""

    job_ids: Annotated[list[RowId], Field(min_length=1, max_length=MOST_CELLS)]
    before: RowId | None


class Copy(Body):
    source_id: RowId


class JobsChange(Body):
    """What is done to jobs; to those that it can't be done to, nothing is."""

    job_ids: Annotated[list[RowId], Field(min_length=1, max_length=MOST_CELLS)]
    verb: JobVerb


class Hours(Body):
    """By the clock of a time zone of the IANA's list."""

    begins: time
    ends: time
    zone: Annotated[str, Field(max_length=60)]


class HoursChange(Body):
    """``None``: at any hour."""

    hours: Hours | None


class MachineChoice(Body):
    """``used`` cores where room is left; ``None``: half of them. It is day by the clock of ``zone``."""

    share: MachineShare
    used: int | None = None
    at_once: int
    zone: Annotated[str, Field(max_length=60)]


class BatteryMinded(Body):
    """Whether nothing is made while the machine lives on its battery."""

    minded: bool


class OthersMinded(Body):
    """Whether everything stands still while other programs want the machine."""

    minded: bool


class EndChoice(Body):
    """An empty name: nothing, and not what is about to be done either."""

    name: Annotated[str, Field(max_length=80)]


class ListPace(Body):
    """``held``: let nothing begin; with ``pausing`` what is being made stands still too."""

    held: bool
    pausing: bool = False


class HistoryWanted(PageWanted):
    """Which page of which records: those that hold each of the words ``q``."""

    q: Annotated[str, Field(max_length=200)] = ""
    outcome: Outcome = Outcome.ALL


class Record(Document):
    """What became of a job; ``expected_s`` and ``expected_bytes`` are what its plan said."""

    id: int
    state: JobState
    title_name: str
    source_name: str
    device_names: list[str]
    summary: str
    message: str
    file_name: str
    made_s: float | None
    expected_s: float
    size_bytes: int
    expected_bytes: int
    ended: datetime


class HistoryTotal(Document):
    """``made`` of ``count`` ended with a file. Those of which is known what was expected took ``compared_s``
    and are ``compared_bytes`` large.
    """

    count: int
    made: int
    size_bytes: int
    made_s: float
    compared_s: float
    expected_s: float
    compared_bytes: int
    expected_bytes: int


class History(Document):
    """``recorded``: whether anything was ever."""

    recorded: bool
    total: HistoryTotal
    records: list[Record]
