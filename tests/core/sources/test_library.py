"""What is found in a folder of films: every source once, and nothing else."""

from __future__ import annotations

import os
from pathlib import Path

from rheon.core.sources import find_sources
from rheon.core.sources.files import library
from rheon.core.system import place_of

FILES = (
    "Film one.mkv", "film two.iso", "notes.txt", ".hidden.mkv", "song.mp3",
    "Discs/MARRAM/VIDEO_TS/VIDEO_TS.IFO", "Discs/MARRAM/VIDEO_TS/VTS_01_1.VOB", "Discs/MARRAM/extra.mkv",
    "Discs/GLASS/BDMV/index.bdmv", "Discs/GLASS/BDMV/PLAYLIST/00001.mpls", "Discs/GLASS/BDMV/STREAM/00001.m2ts",
    "Series/Season 1/Tide Watch S01E01.mkv", "Series/Season 1/Tide Watch S01E02.mkv",
    "Series/Season 2/Tide Watch S02E01.mkv", "Series/Season 2/Tide Watch S02E02.mkv",
    "Two parts/Part 1.avi", "Two parts/Part 2.avi", "Two parts/more/making of.mp4",
    "Made/output.mp4", ".trash/old.mkv", "a/b/c/d/e/f/deep.mkv", "a/b/c/d/e/f/g/too deep.mkv",
)  # fmt: skip
FOUND = [
    "Discs/GLASS", "Discs/MARRAM", "Film one.mkv", "Series/Season 1", "Series/Season 2", "Two parts",
    "Two parts/more/making of.mp4", "a/b/c/d/e/f/deep.mkv", "film two.iso",
]  # fmt: skip


def laid_out(root: Path) -> Path:
    for name in FILES:
        (root / name).parent.mkdir(parents=True, exist_ok=True)
        (root / name).write_bytes(b"x")
    return root


def names(root: Path, **more: object) -> list[str]:
    return sorted(str(path.relative_to(root)) for path in find_sources(root, **more))  # type: ignore[arg-type]


def test_discs_images_films_and_series_are_each_found_once(tmp_path: Path) -> None:
    root = laid_out(tmp_path / "films")
    assert names(root, leave_out=[root / "Made"]) == FOUND


def test_links_out_pipes_and_folders_that_may_not_be_read_are_passed_over(tmp_path: Path) -> None:
    root, outside = laid_out(tmp_path / "films"), tmp_path / "outside"
    outside.mkdir()
    (outside / "secret.mkv").touch()
    (root / "way out").symlink_to(outside)
    (root / "secret.mkv").symlink_to(outside / "secret.mkv")
    (root / "loop").symlink_to(root / "loop")
    (root / "again").symlink_to(root / "Series")
    os.mkfifo(root / "pipe.mkv")
    assert names(root, leave_out=[root / "Made"]) == FOUND
    assert list(find_sources(root / "nothing here")) == []


def test_a_folder_that_holds_only_episodes_is_one_source_and_very_many_are_not_all_taken(
    tmp_path: Path,
) -> None:
    for number in range(30):
        (tmp_path / f"Episode {number}.mkv").touch()
    assert names(tmp_path) == ["."]
    many = tmp_path / "many"
    many.mkdir()
    for number in range(library.MOST_FOUND + 5):
        (many / f"{number} about the sea{', part 1' if number < 2 else ''}.mp4").touch()
    assert len(list(find_sources(many))) == library.MOST_FOUND


def test_a_place_is_known_by_its_disk_also_before_it_is_made(tmp_path: Path) -> None:
    here, later = place_of(tmp_path), place_of(tmp_path / "a" / "b")
    assert here and later
    assert (here.exists, later.exists, later.writable) == (True, False, True)
    assert (here.file_system, here.total_bytes) == (later.file_system, later.total_bytes)
    assert here.file_system and 0 < here.free_bytes <= here.total_bytes
    proc = place_of(Path("/proc/self"))
    assert proc and proc.file_system == "proc"
