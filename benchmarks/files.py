"""What comes out against what was built: numbered pictures and clicks through whole conversions.

The reference is the authored truth (which picture is shown when), never what Rheon's own readers say of a source.
"""

from __future__ import annotations

import uuid
from collections.abc import Iterator
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

from points import Case, Result, points
from tests.instruments.authored import Pictures
from tests.instruments.discs import (
    CLIP_COUNTS,
    CLIP_LINES,
    CLIP_RATE,
    PAL,
    PROGRAMME_LINES,
    SECOND_ANGLE_FIRST,
    Chain,
    Vob,
    author_angles,
    author_clips,
    author_dvd,
    author_programmes,
)
from tests.instruments.readback import measure, see
from tests.instruments.sources import LOOSE

from rheon.core.analysis import survey_title, with_findings
from rheon.core.delivery import Order, convert
from rheon.core.errors import RheonError
from rheon.core.media import Title
from rheon.core.media.kept import cut_times
from rheon.core.planning import PlanRequest, plan, read_pins
from rheon.core.sources import read_source
from rheon.core.sources.roles.parts import ChapterRange, cut, other_angle
from rheon.demo.damage import blank
from rheon.demo.models import device

LOOSE_DEVICES = ("curlew-2", "petrel-24", "curlew-9", "mpeg2-main-main")
DISC_DEVICES = ("curlew-2", "cormorant-box", "petrel-24")
DRAWN = {"subtitles.track": "0", "subtitles.form": "drawn"}


def cases(work: Path) -> Iterator[Case]:
    yield from _loose(work)
    yield from _dvd(work)
    yield from _bluray(work)
    yield from _angles(work)
    yield from _damaged(work)


def _loose(work: Path) -> Iterator[Case]:
    for source in LOOSE:
        path = source.make(work)
        title = read_source(path).titles[0]
        title = with_findings(title, survey_title(title))
        apart_s = measure(path, source.rate, range(source.pictures.count)).median_s
        for device_id in LOOSE_DEVICES:
            yield Case(
                name=f"{path.name} for {device_id}",
                title=title,
                device_id=device_id,
                pictures=frozenset(see(path).numbers),
                rate=source.rate,
                source_s=apart_s,
                doubles=title.video is not None and title.video.variable_rate,
            )


def _dvd(work: Path) -> Iterator[Case]:
    titles = {title.number: title for title in read_source(author_programmes(work / "DVD")).titles}
    whole = titles[1]
    # the tool begins a chapter with a unit; which one is seen by the number of the first picture there
    second, third = (round(whole.chapters[n].start_s * 25) for n in (1, 2))
    for device_id in DISC_DEVICES:
        yield _stretch(("DVD title", whole), device_id, (0, 600), PAL, PROGRAMME_LINES)
        yield _stretch(("DVD title from inside", titles[2]), device_id, (second, third), PAL, PROGRAMME_LINES)
        part = cut(whole, ChapterRange(first=2, last=4), 901)
        yield _stretch(("DVD chapters 2-4", part), device_id, (second, 600), PAL, PROGRAMME_LINES)
        timed = cut_times(whole, 3.0, 15.0, 902)
        yield _stretch(("DVD 0:03 to 0:15", timed), device_id, (75, 375), PAL, PROGRAMME_LINES)


def _bluray(work: Path) -> Iterator[Case]:
    whole = read_source(author_clips(work / "BLURAY")).titles[0]
    marks, count = [round(chapter.start_s * 24) for chapter in whole.chapters], sum(CLIP_COUNTS)
    for device_id in DISC_DEVICES:
        yield _stretch(("Blu-ray title over three clips", whole), device_id, (0, count), CLIP_RATE, CLIP_LINES)
        part = cut(whole, ChapterRange(first=3, last=4), 901)
        yield _stretch(("Blu-ray chapters 3-4", part), device_id, (marks[2], count), CLIP_RATE, CLIP_LINES)


def _angles(work: Path) -> Iterator[Case]:
    seconds = 8
    title = read_source(author_angles(work, seconds)).titles[0]
    for device_id in DISC_DEVICES:
        for angle, first in ((1, 0), (2, SECOND_ANGLE_FIRST)):
            seen = other_angle(title, angle)
            yield _stretch((f"DVD angle {angle}", seen), device_id, (first, first + 25 * seconds), PAL, ())


def _damaged(work: Path) -> Iterator[Case]:
    """A DVD with a scratch, and a recording with zeros in its middle: the stretch is lost, told, and nothing else."""
    vob = Vob(pictures=Pictures(count=400, rate=PAL, size=(720, 576)))
    disc = author_dvd([vob], [Chain(parts=((0, 0, 0),))], work / "SCRATCHED")
    blank(disc / "VIDEO_TS" / "VTS_01_1.VOB", 6.0, 8.0)
    scratched = read_source(disc).titles[0]
    source = next(one for one in LOOSE if one.suffix == "ts")
    recording = work / f"damaged.{source.suffix}"
    data = bytearray((work / f"{source.name}.{source.suffix}").read_bytes())
    middle = len(data) // 2 // 188 * 188
    data[middle : middle + 188 * 40] = bytes(188 * 40)
    recording.write_bytes(data)
    for device_id in DISC_DEVICES:
        made = _stretch(("DVD with a scratch", scratched), device_id, (0, 400), PAL, ())
        yield replace(made, hole_s=(6.0, 8.0), doubles=True)
        title = read_source(recording).titles[0]
        made = _stretch(("recording with zeros", title), device_id, (0, source.pictures.count), source.rate, ())
        middle_s = source.pictures.duration_s / 2
        yield replace(made, hole_s=(middle_s - 1.0, middle_s + 1.0), doubles=True, accept_loss=True)


def _stretch(
    named: tuple[str, Title],
    device_id: str,
    span: tuple[int, int],
    rate: Fraction,
    lines: tuple[tuple[float, float], ...],
) -> Case:
    name, title = named
    first_s, last_s = span[0] / float(rate), span[1] / float(rate)
    # a line that has begun before the first picture is left out with the one that follows it without a gap
    early = [b for a, b in lines if a < first_s < b]
    inside = tuple(
        (a - first_s, b - first_s)
        for a, b in lines
        if a >= first_s and b <= last_s and not any(0 <= a - end < 2 / float(rate) for end in early)
    )
    return Case(
        name=f"{name} for {device_id}",
        title=title,
        device_id=device_id,
        pictures=frozenset(range(*span)),
        rate=rate,
        first=span[0],
        lines=inside,
        chapters_s=tuple(chapter.start_s for chapter in title.chapters),
    )


def judged(case: Case, folder: Path) -> Result | None:
    """Convert and measure; ``None`` where nothing has to be made."""
    profile = device(case.device_id)
    pins = DRAWN if case.lines else {}
    try:
        made = plan(PlanRequest(title=case.title, devices=(profile,), name="made", pins=read_pins(pins)))
        if made.settings is None or made.settings.video is None:
            return None
        order = Order(
            title=case.title,
            plan=made,
            devices=[profile],
            folder=folder,
            token=uuid.uuid4().hex,
            accept_loss=case.accept_loss,
        )
        done = convert(order)
    except RheonError as error:
        return Result(name=case.name, points={"made": (False, error.message)})
    try:
        return Result(name=case.name, points={"made": (True, ""), **points(case, done, made.settings)})
    finally:
        done.path.unlink()
