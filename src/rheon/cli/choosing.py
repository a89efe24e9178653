"""What of a source is meant, and how it is planned: the same options for ``plan`` and ``convert``."""

from __future__ import annotations

import contextlib
import re
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from pathlib import Path

from rheon.core.analysis import CutPlaces, cut_places, read_picture, sample_pictures, survey_title, with_findings
from rheon.core.chapters import clock_s, placed, read_list
from rheon.core.devices import DeviceProfile
from rheon.core.encoding import try_hardware, working
from rheon.core.errors import BadChapters, BadPicture, BadPin, RheonError
from rheon.core.media import USUAL_MACHINE, Cover, FileData, Machine, ProposedTags, Samples, Shape, Source, Title
from rheon.core.naming.names import join_name
from rheon.core.naming.proposing import joined_tags, propose
from rheon.core.naming.titles import title_names
from rheon.core.planning import CALLED_NOW, Balance, Plan, PlanRequest, plan, read_pins
from rheon.core.planning.decisions import Pins
from rheon.core.planning.decisions.picture import ENCODER
from rheon.core.planning.decisions.picture.encoder import SOFTWARE
from rheon.core.planning.decisions.range import KEEP
from rheon.core.planning.decisions.range.keep import kept_of
from rheon.core.sources.roles.parts import ChapterRange, cut, other_angle
from rheon.core.wording import sentence
from rheon.settings import load_settings

from .common import find_title
from .joining import joined_with
from .output import console


@dataclass(frozen=True, slots=True, kw_only=True)
class Stretch:
    """Which of a title: its number, angle, chapters (``2-3``), and moments (``1:02:03.5``), as they were typed.

    ``chapter_list`` is a file with chapters that it gets first, ``artwork`` a picture file or a moment.
    """

    title: int
    angle: int = 1
    chapter_list: Path | None = None
    artwork: str | None = None
    chapters: str | None = None
    from_time: str | None = None
    until_time: str | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Wanted:
    """A title to make a file of, what is known of its pictures, how it is called, and which stretch is kept."""

    title: Title
    name: str
    samples: Samples | None = None
    kept: str | None = None
    tags: ProposedTags = field(default_factory=ProposedTags)
    set_by_hand: bool = False


def chosen(source: Source, stretch: Stretch, follow: Sequence[tuple[Source, Title]] = (), *, analyse: bool) -> Wanted:
    """The title, with what is to follow it, cut as asked for and looked at.

    Raises ``NoSuchTitle``, ``CantJoin``, ``BadChapters``, ``BadPin`` or ``SourceError``.
    """
    title = other_angle(find_title(source, stretch.title), stretch.angle)
    name, tags = _name(source, title), _tags(source, title)
    if follow:
        named = [(_name(of, one), one) for of, one in follow]
        title = joined_with(title, name, named)
        name = join_name([name, *(called for called, _ in named)])
        tags = joined_tags(name, [tags, *(_tags(of, one) for of, one in follow)])
    if stretch.chapter_list is not None:
        title = _with_chapters(title, stretch.chapter_list)
    if stretch.artwork is not None:
        title = with_artwork(title, stretch.artwork)
    set_by_hand = stretch.chapter_list is not None or stretch.artwork is not None
    wanted = Wanted(title=title, name=name, tags=tags, set_by_hand=set_by_hand)
    return _cut(wanted, stretch, analyse=analyse)


def _with_chapters(title: Title, path: Path) -> Title:
    """With the chapters of a list; what of it can't be used is told. Raises ``BadChapters``."""
    try:
        found = read_list(path.read_text(encoding="utf-8-sig"))
    except (OSError, UnicodeDecodeError) as error:
        raise BadChapters("{name} can't be read as text.", name=path.name) from error
    made = placed(found, title.chapters, title.duration_s)
    for reason in made.told:
        console().print(sentence(reason), highlight=False)
    return replace(title, chapters=made.chapters)


def with_artwork(title: Title, said: str) -> Title:
    """With a frame at a moment, or a picture file. Raises ``BadPicture``."""
    shape = Shape.of(pictures=title.video is not None)
    if (at_s := clock_s(said)) is not None:
        if title.video is None or at_s > title.duration_s:
            raise BadPicture("The title has no frame at {moment}.", moment=said, advice="Choose another moment.")
        return replace(title, cover=Cover(at_s=at_s, shape=shape))
    path = Path(said)
    if not path.is_file():
        raise BadPicture("There is no picture {file}.", file=said, advice="Name a file, or a moment as 0:12:30.")
    read_picture(path.read_bytes())
    return replace(title, cover=Cover(path=str(path.resolve()), shape=shape))


def _cut(wanted: Wanted, stretch: Stretch, *, analyse: bool) -> Wanted:
    """What is wanted of the title, which is looked at first if so wished."""
    title, samples = wanted.title, None
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
            return replace(wanted, title=title, samples=samples, kept=f"c{first}-c{last}")
        title = cut(title, ChapterRange(first=first, last=last), title.number)
    return replace(wanted, title=title, samples=samples, kept=_kept(stretch))


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
            tags=wanted.tags,
            set_by_hand=wanted.set_by_hand,
            machine=_machine() if read.of(ENCODER) not in (None, SOFTWARE) else USUAL_MACHINE,
        )
    )


def _machine() -> Machine:
    """This one, with its encoders in hardware, which are tried now: only where somebody asks for them."""
    place = load_settings().settings.hardware_place
    return Machine(encoders=working(try_hardware(place))) if place else USUAL_MACHINE


def _cut_places(title: Title, pins: Pins) -> CutPlaces:
    """Where what is kept could be cut without encoding all of it, if anything is cut."""
    said = pins.of(KEEP)
    return cut_places(title, kept_of(title, said)) if said else CutPlaces()


def _name(source: Source, title: Title) -> str:
    return title_names(source.label, source.titles)[title.number]


def _tags(source: Source, title: Title) -> ProposedTags:
    return propose(source)[title.number]


__all__ = ["Stretch", "Wanted", "chosen", "make_plan"]
