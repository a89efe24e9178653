from __future__ import annotations

import errno
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rheon.core.delivery import numbered, place, put_in_place
from rheon.core.errors import TargetError, TargetReadOnly
from rheon.core.system import renaming


def part(folder: Path, text: str = "new") -> Path:
    path = folder / ".rheon-x.part"
    path.write_text(text)
    return path


def no_hard_links(source: object, target: object) -> None:
    raise OSError(errno.EPERM, "Operation not permitted")


@pytest.mark.parametrize("ways", [3, 2, 1])
def test_a_file_gets_its_name_or_the_next_number(tmp_path: Path, monkeypatch: pytest.MonkeyPatch, ways: int) -> None:
    """However many ways of renaming the file system knows."""
    if ways < 3:
        monkeypatch.setattr(renaming.os, "link", no_hard_links)  # type: ignore[attr-defined]
    if ways < 2:
        monkeypatch.setattr(renaming, "_renameat2", lambda: None)
    names = [put_in_place(part(tmp_path, text), "Film.mp4").name for text in ("one", "two", "three")]
    assert names == ["Film.mp4", "Film (2).mp4", "Film (3).mp4"]
    assert {path.name: path.read_text() for path in tmp_path.iterdir()} == dict(
        zip(names, ("one", "two", "three"), strict=True)
    )


def test_where_the_name_is_taken_it_says_what_it_is_for_before_it_counts(tmp_path: Path) -> None:
    names = [put_in_place(part(tmp_path), "Film.mp4", made_for="Ada's phone: blue").name for _ in range(3)]
    assert names == ["Film.mp4", "Film (Ada's phone- blue).mp4", "Film (Ada's phone- blue) (2).mp4"]
    assert len(put_in_place(part(tmp_path), "Film.mp4", made_for="ä" * 300).name.encode()) < 80


def test_a_name_taken_by_a_folder_or_a_dangling_link_is_taken(tmp_path: Path) -> None:
    (tmp_path / "Film.mp4").mkdir()
    (tmp_path / "Film (2).mp4").symlink_to(tmp_path / "nothing")
    assert put_in_place(part(tmp_path), "Film.mp4").name == "Film (3).mp4"
    assert not (tmp_path / "nothing").exists()


def test_a_folder_that_refuses_is_named_and_the_file_stays(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    def refused(source: object, target: object) -> None:
        raise PermissionError(errno.EACCES, "Permission denied")

    monkeypatch.setattr(renaming.os, "link", refused)  # type: ignore[attr-defined]
    waiting = part(tmp_path)
    with pytest.raises(TargetReadOnly):
        put_in_place(waiting, "Film.mp4")
    assert waiting.read_text() == "new"


def test_numbers_run_out_at_some_point(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(place, "MOST_NUMBERS", 3)
    for number in (1, 2):
        (tmp_path / numbered("Film.mp4", number)).write_text("mine")
    waiting = part(tmp_path)
    with pytest.raises(TargetError, match="too many files"):
        put_in_place(waiting, "Film.mp4")
    assert waiting.read_text() == "new"


@given(st.text(alphabet="ab. ", min_size=1, max_size=20), st.integers(2, 9998))
def test_numbers_come_before_the_extension(stem: str, number: int) -> None:
    assert numbered(f"{stem}.mp4", number) == f"{stem} ({number}).mp4"
    assert numbered(f"{stem}.mp4", 1) == f"{stem}.mp4"
