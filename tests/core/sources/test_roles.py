"""Roles from lengths and shared material, on titles made for the purpose."""

from __future__ import annotations

import pytest

from rheon.core.media import Cell, CellData, Extent, Role, Title
from rheon.core.sources import with_roles


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
