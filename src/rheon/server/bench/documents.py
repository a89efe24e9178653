"""The Bench's documents: what its calls give."""

from __future__ import annotations

from rheon.core.devices import DeviceKind, Verdict
from rheon.core.media import KeptRange, Role
from rheon.core.planning import Balance, Choice, Estimate, Range
from rheon.core.planning.decisions.decision import Group
from rheon.server.api.documents import Document

from .models import TargetKind


class Row(Document):
    id: int
    name: str
    role: Role
    duration_s: float
    size_bytes: int
    detail: str


class Target(Document):
    """A column: ``model`` and ``detail`` say more of the device, or of those that share a file."""

    id: int
    kind: TargetKind
    device_id: int | None
    name: str
    device_kind: DeviceKind
    model: str
    detail: str
    free_bytes: int | None
    largest_file_bytes: int | None
    used: int


class Cell(Document):
    """``broken`` counts the rules that the file will break, ``too_large`` says that it is larger than what is free."""

    title_id: int
    target_id: int
    verdict: Verdict
    reason: str
    estimate: Estimate | None
    surround: bool
    same_as: int | None
    by_hand: bool
    broken: int
    too_large: bool


class Table(Document):
    balance: Balance
    titles: list[Row]
    targets: list[Target]


class Picks(Document):
    title_ids: list[int]


class Breach(Document):
    device: str
    rule: str
    measured: str
    allowed: str
    consequence: str


class Decision(Document):
    key: str
    group: Group
    label: str
    help: str
    value: str
    text: str
    reason: str
    pinned: bool
    fine: bool
    choices: tuple[Choice, ...]
    ranges: tuple[Range, ...]
    broken: list[Breach]


class DecisionChange(Document):
    label: str
    before: str | None
    after: str | None
    reason: str


class Step(Document):
    balance: Balance
    estimate: Estimate | None


class Score(Document):
    """What was measured of a balance (``None``: of a rate by hand): the mean, and that of the worst twentieth of the
    pictures; and how large the file is expected to be.
    """

    balance: Balance | None
    mean: float
    worst: float
    size_bytes: int


class SmallerPicture(Document):
    """Fewer lines that keep more at a balance's size (``None``: at the rate by hand), and the pins that make them."""

    balance: Balance | None
    lines: int
    mean: float
    worst: float
    size_bytes: int
    pins: dict[str, str]


class TradeOff(Document):
    """What was measured so far, from so many seconds. ``measure`` and ``seen`` say by what and for which eye; ``unit``
    goes behind a figure. ``scores`` are those of the balances without a rate by hand. So many ways to make the file are
    ``missing``, of so many ``more`` seconds would say it surer;
    ``by_hand`` is that of the rate that was set, ``smaller`` has pictures that look better for it.
    ``possible`` is false where the picture is not made anew.
    """

    possible: bool
    measuring: bool
    failed: bool
    measure: str
    seen: str
    unit: str
    seconds: float
    missing: int
    more: int
    scores: list[Score]
    by_hand: Score | None
    smaller: list[SmallerPicture]


class Size(Document):
    width: int
    height: int


class Sides(Document):
    """Lines above and below, columns left and right."""

    top: int
    bottom: int
    left: int
    right: int


class Framing(Document):
    """The whole picture before anything is cut: its stored pixels and ``aspect`` as they lie when it is turned by
    ``rotation`` (degrees clockwise); and sides of the stored picture, not turned: what is ``cut``, what was ``found``
    black in all pictures, ``often`` in part of them. At ``widest_at_s`` as much picture is at the edges as anywhere.
    ``shaping`` are the decisions about its shape.
    """

    width: int
    height: int
    aspect: float
    rotation: int
    cut: Sides
    found: Sides | None
    often: Sides | None
    widest_at_s: float | None
    shaping: list[Decision]


class Rule(Document):
    rule: str
    ok: bool
    measured: str
    allowed: str


class PinSet(Document):
    id: int
    name: str
    pins: int


class PlayedTrack(Document):
    """A track of the file that somebody who plays it can choose; ``place`` is which of its kind, from 0."""

    place: int
    text: str


class Sheet(Document):
    """``kept`` is empty where all of the title is; ``picture_s`` is how long each picture stands, ``None`` where there
    is none or where that changes; ``strip`` is how many small frames there are of the title, ``scrub``
    how many while somebody scrubs over it. ``subtitles`` are those that can be switched on. ``has_minute``: so much is
    made that a minute of it is worth a try.
    """

    title_id: int
    title_name: str
    source_name: str
    target_id: int
    target_name: str
    device_kind: DeviceKind
    screen: Size | None
    duration_s: float
    chapters: list[float]
    kept: tuple[KeptRange, ...]
    first_picture_s: float
    picture_s: float | None
    strip: int
    scrub: int
    sound_track: int | None
    sounds: list[PlayedTrack]
    subtitles: list[PlayedTrack]
    balance: Balance
    own_balance: bool
    treatment: Verdict
    reason: str
    decisions: list[Decision]
    breaches: list[Breach]
    missing: list[str]
    changed: list[DecisionChange]
    pins: list[str]
    estimate: Estimate | None
    sampled: bool
    steps: list[Step]
    limit_bytes: int | None
    free_bytes: int | None
    has_minute: bool
    frame: Size | None
    framing: Framing | None
    look: str
    settings_mark: str
    rules: list[Rule]
    siblings: int
    picked: int
    sets: list[PinSet]


class DeviceVerdict(Document):
    device_id: int
    target_id: int
    name: str
    kind: DeviceKind
    verdict: Verdict
    reason: str
    rules: list[Rule]


class Verdicts(Document):
    title_id: int
    title_name: str
    devices: list[DeviceVerdict]


class SharedFile(Document):
    device_ids: list[int]
    summary: str
    estimate: Estimate | None
    costs: list[str]


class Sharing(Document):
    title_id: int
    files: list[SharedFile]
    as_it_is: list[int]
    impossible: list[int]


class Goal(Document):
    id: str
    name: str
    about: str
    on_bench: bool


class SeriesCut(Document):
    """How many episodes are cut now, are still looked at, have nothing proposed, and could not be read or planned."""

    cut: int
    looking: int
    nothing: int
    failed: int


class Transferred(Document):
    count: int
    left: list[str]
