"""What of a source is meant, and how it is planned: the same options for ``plan`` and ``convert``."""

from __future__ import annotations

import contextlib
import re
from collections.abc import Sequence
from dataclasses import dataclass

from rheon.core.analysis import CutPlaces, cut_places, sample_pictures, survey_title, with_findings
from rheon.core.devices import DeviceProfile
from rheon.core.encoding import try_hardware
from rheon.core.errors import BadPin, RheonError
from rheon.core.media import FileData, HardwareEncoder, Samples, Source, Title
from rheon.core.media.names import display_name, join_name
from rheon.core.planning import CALLED_NOW, Balance, Plan, PlanRequest, plan, read_pins
from rheon.core.planning.decisions import Pins
from rheon.core.planning.decisions.picture import ENCODER
from rheon.core.planning.decisions.picture.encoder import SOFTWARE
from rheon.core.planning.decisions.range import KEEP
from rheon.core.planning.decisions.range.keep import kept_of
from rheon.core.sources.roles.parts import ChapterRange, cut, other_angle
from rheon.settings import load_settings

from .common import find_title
from .joining import joined_with
from .output import console

SET_HELP = "Set a decision by hand: key=value. 'rheon decisions' lists them."


@dataclass(frozen=True, slots=True, kw_only=True)
class Stretch:
    """Which of a title: its number, angle, chapters (``2-3``), and moments (``1:02:03.5``), as they were typed."""

    title: int
    angle: int = 1
    chapters: str | None = None
    from_time: str | None = None
    until_time: str | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Wanted:
    """A title to make a file of, what is known of its pictures, how the file is called, and which stretch is kept."""

    title: Title
    name: str
    samples: Samples | None = None
    kept: str | None = None


def chosen(source: Source, stretch: Stretch, follow: Sequence[tuple[Source, Title]] = (), *, analyse: bool) -> Wanted:
    """The title, with what is to follow it, cut as asked for and looked at.

    Raises ``NoSuchTitle``, ``CantJoin``, ``BadPin`` or ``SourceError``.
    """
    title = other_angle(find_title(source, stretch.title), stretch.angle)
    name = _name(source, title)
    if follow:
        named = [(_name(of, one), one) for of, one in follow]
        title = joined_with(title, name, named)
        name = join_name([name, *(called for called, _ in named)])
    samples = None
    if analyse:
        with contextlib.suppress(RheonError, OSError):
            title = with_findings(title, survey_title(title))
        with contextlib.suppress(RheonError, OSError):
            samples = sample_pictures(title)
    if stretch.chapters is not None:
        found = re.fullmatch(r"(\d{1,4})(?:-(\d{1,4}))?", stretch.chapters)
        if found is None:
            raise BadPin("“{chapters}” names no chapters; say 2 or 2-3.", chapters=stretch.chapters, pin="chapters")
        first, last = int(found[1]), int(found[2] or found[1])
        own = bool(title.joined) or isinstance(title.data, FileData)
        if own and stretch.from_time is None and stretch.until_time is None:
            return Wanted(title=title, name=name, samples=samples, kept=f"c{first}-c{last}")
        title = cut(title, ChapterRange(first=first, last=last), title.number)
    return Wanted(title=title, name=name, samples=samples, kept=_kept(stretch))


def _kept(stretch: Stretch) -> str | None:
    """The moments as the kept range is set by hand."""
    if stretch.from_time is None and stretch.until_time is None:
        return None
    return f"{stretch.from_time or 0}-{stretch.until_time or ''}"


def make_plan(wanted: Wanted, devices: list[DeviceProfile], balance: Balance, pins: list[str]) -> Plan:
    """Plan what is wanted; ``pins`` are ``key=value``."""
    pairs = {} if wanted.kept is None else {KEEP.key: wanted.kept}
    for pin in pins:
        key, equals, value = pin.partition("=")
        if not equals:
            raise BadPin("“{pin}” is not of the form key=value.", pin=pin)
        if key in CALLED_NOW:
            console().print(f"{key} is called {CALLED_NOW[key]} now.", highlight=False)
        pairs[key] = value
    read = read_pins(pairs)
    places = _cut_places(wanted.title, read)
    return plan(
        PlanRequest(
            title=wanted.title,
            copy_ranges=places.copies,
            middles=places.middles,
            devices=tuple(devices),
            name=wanted.name,
            balance=balance,
            pins=read,
            languages=("en",),
            samples=wanted.samples,
            hardware=_hardware() if read.of(ENCODER) not in (None, SOFTWARE) else (),
        )
    )


def _hardware() -> tuple[HardwareEncoder, ...]:
    """What this machine has of it, tried now: only where somebody asks for it."""
    place = load_settings().settings.hardware_place
    return tuple(trial.works for trial in try_hardware(place) if trial.works) if place else ()


def _cut_places(title: Title, pins: Pins) -> CutPlaces:
    """Where what is kept could be cut without encoding all of it, if anything is cut."""
    said = pins.of(KEEP)
    return cut_places(title, kept_of(title, said)) if said else CutPlaces()


def _name(source: Source, title: Title) -> str:
    """A file's own name comes first; a disc's titles are called after it."""
    if title.name:
        return title.name
    return display_name(source.label) + (f" {title.number}" if len(source.titles) > 1 else "")


__all__ = ["SET_HELP", "Stretch", "Wanted", "chosen", "make_plan"]
