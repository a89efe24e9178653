"""Parts of titles, joins and drawn subtitles on authored discs: every stretch begins and ends where it belongs."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import pytest
from tests.instruments.discs import PAL, SECOND_ANGLE_FIRST, author_angles
from tests.instruments.readback import Together, hear, lit, measure, see
from tests.thorough import thorough

from rheon.core.delivery import Order, convert
from rheon.core.media import CellData, Title
from rheon.core.planning import PlanRequest, plan, read_pins
from rheon.core.sources import read_source
from rheon.core.sources.roles.parts import ChapterRange, cut, other_angle
from rheon.demo.models import device

PICTURE_S = 0.041
DRAWN = {"subtitles.track": "0", "subtitles.form": "drawn"}


@dataclass(frozen=True, slots=True, kw_only=True)
class Wanted:
    """What a file must show: its pictures, and which second of the counting its first one is."""

    pictures: range
    rate: Fraction
    first_s: float


@pytest.fixture(scope="module")
def dvd(programmes: Path) -> dict[int, Title]:
    return {title.number: title for title in read_source(programmes).titles}


@pytest.fixture(scope="module")
def bluray(clips: Path) -> Title:
    return read_source(clips).titles[0]


def converted(title: Title, device_id: str, folder: Path, pins: dict[str, str] | None = None) -> Path:
    profile = device(device_id)
    wanted = plan(PlanRequest(title=title, devices=(profile,), name="made", pins=read_pins(pins or {})))
    order = Order(title=title, plan=wanted, devices=[profile], folder=folder, token=uuid.uuid4().hex)
    return convert(order).path


def held(path: Path, wanted: Wanted) -> Together:
    found = measure(path, wanted.rate, wanted.pictures, first_s=wanted.first_s)
    numbers = see(path).numbers
    assert (numbers[0], numbers[-1]) == (wanted.pictures.start, wanted.pictures.stop - 1)
    assert (found.lost, found.doubled, found.disordered) == (0, 0, 0)
    assert found.worst_s <= 0.020 and abs(found.median_s) <= 0.008
    assert abs(found.picture_start_s) < 0.005
    return found


@pytest.mark.parametrize("device_id", ["curlew-2", thorough("cormorant-box")])
def test_a_title_and_its_parts_begin_and_end_where_they_belong(
    device_id: str, dvd: dict[int, Title], tmp_path: Path
) -> None:
    whole = dvd[1]
    held(converted(whole, device_id, tmp_path, DRAWN), Wanted(pictures=range(600), rate=PAL, first_s=0))
    part = cut(whole, ChapterRange(first=2, last=4), 901)
    begins = round(whole.chapters[1].start_s * 25)
    wanted = Wanted(pictures=range(begins, 600), rate=PAL, first_s=begins / 25)
    held(converted(part, device_id, tmp_path, DRAWN), wanted)


def test_a_title_from_inside_a_programme_has_its_own_pictures_and_sound(dvd: dict[int, Title], tmp_path: Path) -> None:
    first = round(dvd[1].chapters[1].start_s * 25)
    last = round(dvd[1].chapters[2].start_s * 25)
    found = held(
        converted(dvd[2], "curlew-2", tmp_path), Wanted(pictures=range(first, last), rate=PAL, first_s=first / 25)
    )
    assert found.clicks >= 11


def test_an_interleaved_angle_comes_out_whole_with_its_own_sound(tmp_path: Path) -> None:
    seconds = 4
    title = read_source(author_angles(tmp_path, seconds)).titles[0]
    for angle, first in ((1, 0), (2, SECOND_ANGLE_FIRST)):
        wanted = Wanted(pictures=range(first, first + 25 * seconds), rate=PAL, first_s=first / 25)
        assert held(converted(other_angle(title, angle), "curlew-2", tmp_path), wanted).clicks >= 2 * seconds - 1


def test_cells_that_do_not_touch_are_joined_without_a_hole(dvd: dict[int, Title], tmp_path: Path) -> None:
    title = dvd[3]
    assert isinstance(title.data, CellData)
    first, again = round(title.data.cells[0].duration_s * 25), round(dvd[1].chapters[2].start_s * 25)
    path = converted(title, "curlew-2", tmp_path)
    assert list(see(path).numbers) == [*range(first), *range(again, 450)]
    sound = hear(path)
    early = [off for click, off in zip(sound.clicks, sound.offsets, strict=True) if click * 0.5 + 0.3 < first / 25]
    later = hear(path, first_s=(again - first) / 25)
    late = [off for click, off in zip(later.clicks, later.offsets, strict=True) if click * 0.5 > again / 25]
    assert len(early) >= 11 and len(late) >= 10
    assert max(map(abs, (*early, *late))) <= 0.020
    # copied, no frame of sound is torn at the join: the check decodes all of them
    copied = converted(title, "faithful-copy", tmp_path)
    assert len(see(copied).numbers) == len(see(path).numbers)


@pytest.mark.parametrize(("first", "last"), [(1, 4), thorough(2, 3), thorough(3, 4)])
def test_sound_stays_with_the_picture_over_clips(first: int, last: int, bluray: Title, tmp_path: Path) -> None:
    title = bluray
    part = title if (first, last) == (1, 4) else cut(title, ChapterRange(first=first, last=last), 901)
    ends = [*(round(chapter.start_s * 24) for chapter in title.chapters), 396]
    wanted = Wanted(pictures=range(ends[first - 1], ends[last]), rate=Fraction(24), first_s=ends[first - 1] / 24)
    held(converted(part, "curlew-2", tmp_path, {"picture.size": "360"}), wanted)


@pytest.mark.parametrize("device_id", ["curlew-2", thorough("cormorant-box")])
def test_drawn_subtitles_begin_and_end_within_a_picture(device_id: str, dvd: dict[int, Title], tmp_path: Path) -> None:
    lines = [(2, 5), (7, 8), (13, 14.5), (19, 21)]
    found = [
        (round(a, 2), round(b, 2)) for a, b in joined(lit(converted(dvd[1], device_id, tmp_path, DRAWN)), gap_s=0.05)
    ]
    assert len(found) == len(lines)
    for seen, line in zip(found, lines, strict=True):
        assert abs(seen[0] - line[0]) <= PICTURE_S and abs(seen[1] - line[1]) <= PICTURE_S


def test_a_line_that_began_before_a_part_ends_in_its_time(dvd: dict[int, Title], tmp_path: Path) -> None:
    """The part begins in the middle of nothing, or of a line: what is left of it stands, and nothing is moved."""
    part = cut(dvd[1], ChapterRange(first=2, last=3), 901)
    starts = dvd[1].chapters[1].start_s
    found = lit(converted(part, "curlew-2", tmp_path, DRAWN))
    wanted = [(7 - starts, 8 - starts), (13 - starts, 14.5 - starts)]
    assert all(
        abs(seen[0] - line[0]) <= PICTURE_S and abs(seen[1] - line[1]) <= PICTURE_S
        for seen, line in zip(found, wanted, strict=True)
    )


def test_presentation_graphics_over_clips_keep_their_times(bluray: Title, tmp_path: Path) -> None:
    found = lit(converted(bluray, "curlew-2", tmp_path, {**DRAWN, "picture.size": "360"}))
    wanted = [(1, 2.5), (6, 7.5)]
    assert len(found) == 2
    for seen, line in zip(found, wanted, strict=True):
        assert abs(seen[0] - line[0]) <= 1 / 24 + 0.001 and abs(seen[1] - line[1]) <= 1 / 24 + 0.001


def joined(found: list[tuple[float, float]], gap_s: float) -> list[tuple[float, float]]:
    """Runs with so little between them as one."""
    made: list[tuple[float, float]] = []
    for run in found:
        if made and run[0] - made[-1][1] <= gap_s:
            made[-1] = (made[-1][0], run[1])
        else:
            made.append(run)
    return made
