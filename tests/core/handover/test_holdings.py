"""What a library holds: its files as devices meet them, what is there twice, and what only seems so."""

from __future__ import annotations

import shutil
from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rheon.core.devices import MediaFacts
from rheon.core.handover import Holding, alike_by_sample, doubles, hold, same_content
from rheon.core.handover.holdings import same_work
from rheon.core.sources.files.library import find_files

FACTS = MediaFacts(container="mp4", size_bytes=1, duration_s=5400.0, video=None, audio=None, extension="mp4")


def held(path: str, duration_s: float = 5400.0, sample: str = "") -> Holding:
    facts = replace(FACTS, duration_s=duration_s)
    return Holding(path=path, size_bytes=1, mtime_ns=1, sample=sample or path, facts=facts)


@pytest.mark.parametrize(
    ("one", "other", "alike"),
    [
        ("Marram Nights (1998).mp4", "old/marram.nights.1998.dvdrip.avi", True),
        ("Marram Nights (1998).mp4", "Marram Nights (2021).mp4", False),
        ("Marram Nights.mp4", "Marram Nights (Director's Cut).mp4", False),
        ("Lantern Street/Lantern Street - S01E02.mkv", "Lantern Street/Season 1/lantern.street.s01e02.720p.mp4", True),
        ("Lantern Street/Lantern Street - S01E02.mkv", "Lantern Street/Lantern Street - S01E03.mkv", False),
        ("Lantern Street/Season 1/02.mkv", "Lantern Street/Season 2/02.mkv", False),
        ("a/title00.mkv", "b/title00.mkv", False),
    ],
)
def test_a_work_is_told_by_its_name(one: str, other: str, alike: bool) -> None:
    found = same_work([held(one), held(other)])
    assert [[each.path for each in group] for group in found] == ([[one, other]] if alike else [])


@given(st.lists(st.floats(min_value=60, max_value=20_000), min_size=2, max_size=12))
def test_no_two_of_a_work_are_further_apart_than_a_cut(lengths: list[float]) -> None:
    found = same_work([held(f"{place}/Marram Nights.mp4", length) for place, length in enumerate(lengths)])
    for group in found:
        told = [one.facts.duration_s for one in group if one.facts]
        assert max(told) - min(told) <= max(2.0, 0.01 * min(told))
    together = {one.path for group in found for one in group}
    for place, length in enumerate(lengths):
        if f"{place}/Marram Nights.mp4" not in together:
            assert all(other != length for at, other in enumerate(lengths) if at != place)


def test_a_library_is_read_once_and_what_changed_again(media: Path, tmp_path: Path) -> None:
    film = next((media / "Tide Watch").glob("*.mp4"))
    for name in ("Film.mp4", "again/Film copy.mp4"):
        (tmp_path / name).parent.mkdir(exist_ok=True)
        shutil.copy(film, tmp_path / name)
    other = bytearray(film.read_bytes())
    other[len(other) // 3] ^= 1
    (tmp_path / "Nearly.mp4").write_bytes(other)
    (tmp_path / "Broken.mkv").write_bytes(b"no film")
    (tmp_path / "notes.txt").write_text("no film either")
    (tmp_path / ".hidden.mp4").write_bytes(b"x")
    (tmp_path / "linked.mp4").symlink_to(film)
    (tmp_path / "disc" / "VIDEO_TS").mkdir(parents=True)
    (tmp_path / "disc" / "VIDEO_TS" / "VTS_01_1.VOB").write_bytes(b"x")
    paths = list(find_files(tmp_path))
    assert [path.name for path in paths] == ["Broken.mkv", "Film.mp4", "Nearly.mp4", "Film copy.mp4"]
    first = [one for path in paths if (one := hold(tmp_path, path, None))]
    assert first[0].facts is None and first[0].trouble
    assert first[1].facts is not None and first[1].facts.video is not None
    (group,) = alike_by_sample(first)
    assert len(group) == 3, "one other byte far from the samples is not seen by them"
    same = same_content([tmp_path / one.path for one in group])
    assert same == [(tmp_path / "Film.mp4", tmp_path / "again" / "Film copy.mp4")]
    told = doubles(first, [[path.relative_to(tmp_path).as_posix() for path in each] for each in same])
    assert [(one.same, one.paths) for one in told] == [(True, ("Film.mp4", "again/Film copy.mp4"))]
    assert hold(tmp_path, paths[1], first[1]) is first[1]
    (tmp_path / "Film.mp4").write_bytes(b"another")
    again = hold(tmp_path, paths[1], first[1])
    assert again is not None and again.sample != first[1].sample and again.facts is None
    (tmp_path / "Film.mp4").unlink()
    assert hold(tmp_path, paths[1], first[1]) is None
