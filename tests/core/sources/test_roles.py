"""Roles from lengths and shared material, on titles made for the purpose."""

from __future__ import annotations

import itertools
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rheon.core.media import Cell, CellData, Chapter, Extent, Role, Title
from rheon.core.sources import with_roles
from rheon.core.sources.roles.parts import ChapterRange, cut, proposed_ranges
from rheon.core.wording import sentence


def title(number: int, *cells: tuple[int, float]) -> Title:
    """A title of (sector, seconds) cells."""
    start = 0.0
    made = []
    for sector, seconds in cells:
        extent = Extent(path="v", offset_bytes=sector * 2048, length_bytes=2048 * 100)
        made.append(Cell(start_s=start, duration_s=seconds, extents=(extent,)))
        start += seconds
    return Title(number=number, duration_s=start, size_bytes=1, data=CellData(cells=tuple(made)), container="dvd")


def roles(*titles: Title) -> list[Role]:
    return [found.role for found in with_roles(titles)]


def test_a_title_that_holds_the_others_is_a_play_all_and_says_where_they_lie() -> None:
    episodes = [title(n + 2, (n * 100, 1500.0 + n)) for n in range(3)]
    whole = title(1, *((n * 100, 1500.0 + n) for n in range(3)))
    found = with_roles([whole, *episodes])
    assert [entry.role for entry in found] == [Role.PLAY_ALL, Role.EPISODE, Role.EPISODE, Role.EPISODE]
    assert [(share.title, share.from_s, share.to_s) for share in found[0].shares] == [
        (2, 0.0, 1500.0),
        (3, 1500.0, 3001.0),
        (4, 3001.0, 4503.0),
    ]


def test_the_same_material_twice_is_one_film_and_a_duplicate() -> None:
    assert roles(title(1, (0, 5400.0)), title(2, (0, 5400.0)), title(3, (900, 60.0))) == [
        Role.FEATURE,
        Role.DUPLICATE,
        Role.EXTRA,
    ]


@pytest.mark.parametrize(
    ("lengths", "expected"),
    [
        ([5400.0, 300.0, 120.0, 1.0], [Role.FEATURE, Role.EXTRA, Role.EXTRA, Role.MENU]),
        ([1500.0, 1480.0, 1520.0, 90.0], [Role.EPISODE, Role.EPISODE, Role.EPISODE, Role.EXTRA]),
        ([5400.0, 5000.0], [Role.FEATURE, Role.EXTRA]),
        ([40.0], [Role.FEATURE]),
    ],
)
def test_lengths_tell_films_from_series(lengths: list[float], expected: list[Role]) -> None:
    assert roles(*(title(n, (n * 1000, seconds)) for n, seconds in enumerate(lengths, start=1))) == expected


def test_a_cut_that_lacks_a_scene_is_a_near_copy_and_says_by_how_much() -> None:
    scenes = [(n * 100, 300.0 if n == 4 else 600.0) for n in range(10)]
    shorter = [scene for n, scene in enumerate(scenes) if n != 4]
    found = with_roles([title(1, *shorter[:3], *shorter[3:]), title(2, *scenes, (5000, 42.0))])
    assert [entry.role for entry in found] == [Role.DUPLICATE, Role.FEATURE]
    assert sentence(found[0].reasons[0]) == "nearly the same as title 2: lacks 5:42 of it"
    assert [(share.from_s, share.to_s) for share in found[1].shares] == [(0.0, 2400.0), (2700.0, 5700.0)]


def with_chapters(number: int, lengths: list[float]) -> Title:
    starts = list(itertools.accumulate([0.0, *lengths]))
    made = title(number, *((n * 100, seconds) for n, seconds in enumerate(lengths)))
    return replace(
        made, chapters=tuple(Chapter(number=n + 1, start_s=at) for n, at in enumerate(starts[:-1])), key=str(number)
    )


def test_a_long_title_whose_chapters_repeat_is_offered_as_episodes() -> None:
    episode = [60.0, 700.0, 640.0, 30.0]
    wobble = [0.0, 14.0, -20.0, 9.0]
    lengths = [seconds + (wobble[n] if at in (1, 2) else 0) for n in range(4) for at, seconds in enumerate(episode)]
    found = with_roles([with_chapters(1, lengths), title(2, (9000, 90.0))])
    assert [(entry.number, entry.role, len(entry.chapters)) for entry in found] == [
        (1, Role.PLAY_ALL, 16),
        (2, Role.EXTRA, 0),
        *((100 + n, Role.EPISODE, 4) for n in (1, 2, 3, 4)),
    ]
    second = found[3]
    assert second.duration_s == pytest.approx(1430 + 28)
    assert isinstance(second.data, CellData)
    assert [cell.start_s for cell in second.data.cells] == [0.0, 60.0, 774.0, 1428.0]
    assert (second.part_of, second.key, sentence(second.reasons[0])) == (1, "1#5-8", "chapters 5 to 8 of title 1")


@given(st.lists(st.floats(200, 900), min_size=2, max_size=30), st.booleans())
def test_a_film_s_chapters_are_no_series(lengths: list[float], even: bool) -> None:
    film = with_chapters(1, [300.0] * len(lengths) if even else lengths)
    parts = proposed_ranges(film)
    for found in parts:
        assert not even, "evenly spaced chapters prove nothing"
        assert found.last > found.first


@given(st.lists(st.floats(5, 900), min_size=1, max_size=12), st.data())
def test_parts_that_follow_each_other_are_the_whole(lengths: list[float], data: st.DataObject) -> None:
    whole = with_chapters(1, lengths)
    at = data.draw(st.integers(1, len(lengths)))
    ranges = [ChapterRange(first=1, last=at)]
    if at < len(lengths):
        ranges.append(ChapterRange(first=at + 1, last=len(lengths)))
    parts = [cut(whole, found, 100 + n) for n, found in enumerate(ranges)]
    assert sum(part.duration_s for part in parts) == pytest.approx(whole.duration_s, abs=0.01)
    assert sum(len(part.chapters) for part in parts) == len(lengths)
    extents = [e for part in parts if isinstance(part.data, CellData) for c in part.data.cells for e in c.extents]
    assert isinstance(whole.data, CellData)
    assert extents == [extent for cell in whole.data.cells for extent in cell.extents]


def test_a_double_episode_stands_beside_its_series_and_trailers_make_none() -> None:
    series = [title(n, (n * 1000, 1500.0 + n)) for n in range(1, 6)]
    double = title(6, (9000, 3000.0))
    assert roles(*series, double) == [Role.EPISODE] * 5 + [Role.EXTRA]
    film = title(1, (0, 6000.0))
    trailers = [title(n, (n * 1000, 100.0 + n)) for n in range(2, 8)]
    assert roles(film, *trailers) == [Role.FEATURE] + [Role.EXTRA] * 6
