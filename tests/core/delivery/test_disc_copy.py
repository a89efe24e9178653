"""Whole discs, copied and verified, and everything that may go wrong on the way."""

from __future__ import annotations

import hashlib
import itertools
import shutil
from pathlib import Path

import pytest

from rheon.core.delivery import DiscOrder, copy_disc, copy_progress, disc_copy
from rheon.core.encoding import Hooks, Progress
from rheon.core.engine import WorkClock
from rheon.core.errors import CheckFailed, SourceMissing, Stopped, TargetError, TargetFull
from rheon.core.wording import fact_text


def order(source: Path, folder: Path, name: str = "Copy") -> DiscOrder:
    folder.mkdir(exist_ok=True)
    return DiscOrder(source=source, folder=folder, name=name, token="t1")


@pytest.fixture
def disc(tmp_path: Path) -> Path:
    """A small disc folder of its own."""
    folder = tmp_path / "DISC"
    (folder / "VIDEO_TS").mkdir(parents=True)
    for name, size in (("VIDEO_TS.IFO", 4096), ("VTS_01_1.VOB", 9_000_000), ("VTS_01_2.VOB", 1)):
        (folder / "VIDEO_TS" / name).write_bytes(bytes(range(256)) * (size // 256) + b"x" * (size % 256))
    return folder


def test_a_folder_is_the_same_file_by_file_and_its_sums_can_be_checked(disc: Path, tmp_path: Path) -> None:
    steps: list[Progress] = []
    done = copy_disc(order(disc, tmp_path / "out"), Hooks(on_progress=steps.append))
    for path in (disc / "VIDEO_TS").iterdir():
        assert (done.path / "VIDEO_TS" / path.name).read_bytes() == path.read_bytes()
    lines = [line.split("  ") for line in done.sums.read_text().splitlines()]
    listed = {name: said for said, name in lines}
    assert set(listed) == {f"Copy/VIDEO_TS/{path.name}" for path in (disc / "VIDEO_TS").iterdir()}
    for name, said in listed.items():
        assert hashlib.sha256((tmp_path / "out" / name).read_bytes()).hexdigest() == said
    fractions = [step.fraction for step in steps]
    assert fractions == sorted(fractions)
    assert fractions[-1] == pytest.approx(1.0)
    assert fact_text(done.checks[0].results[0].measured) == "3 files, every SHA-256 the same"


def test_an_image_keeps_its_suffix_and_a_taken_name_gets_a_number(disc: Path, tmp_path: Path) -> None:
    image = tmp_path / "disc.iso"
    image.write_bytes(b"sector" * 9999)
    paths = [copy_disc(order(image, tmp_path / "out")).path.name for _ in range(2)]
    assert paths == ["Copy.iso", "Copy (2).iso"]
    folders = [copy_disc(order(disc, tmp_path / "out")).path.name for _ in range(2)]
    assert folders == ["Copy", "Copy (2)"]


def test_stopping_leaves_nothing(disc: Path, tmp_path: Path) -> None:
    asked = iter([False, False, True, True, True, True])
    with pytest.raises(Stopped):
        copy_disc(order(disc, tmp_path / "out"), Hooks(should_stop=lambda: next(asked)))
    assert list((tmp_path / "out").iterdir()) == []


def test_a_copy_that_is_paused_goes_on_where_it_was(
    disc: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(copy_progress, "PAUSE_POLL_S", 0.01)
    asked = itertools.cycle([True, True, False])
    clock = WorkClock(lambda: next(asked))
    plain, paused = copy_disc(order(disc, tmp_path / "a")), copy_disc(order(disc, tmp_path / "b"), Hooks(clock=clock))
    assert paused.sums.read_bytes() == plain.sums.read_bytes() and clock.paused_s >= 0.02


def test_a_copy_that_reads_differently_is_not_kept(disc: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(disc_copy, "_read_anew", lambda path: iter([b"something else"]))
    with pytest.raises(CheckFailed, match="reads differently"):
        copy_disc(order(disc, tmp_path / "out"))
    assert list((tmp_path / "out").iterdir()) == []


def test_too_little_room_is_noticed_before_anything_is_written(
    disc: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    usage = shutil.disk_usage(tmp_path)
    monkeypatch.setattr(disc_copy.shutil, "disk_usage", lambda path: usage._replace(free=1_000_000))  # type: ignore[attr-defined]
    with pytest.raises(TargetFull):
        copy_disc(order(disc, tmp_path / "out"))


def test_a_source_that_goes_away_and_a_folder_that_is_not_there_say_so(disc: Path, tmp_path: Path) -> None:
    with pytest.raises(TargetError):
        copy_disc(DiscOrder(source=disc, folder=tmp_path / "nowhere", name="x", token="t"))

    def vanish() -> bool:
        shutil.rmtree(disc, ignore_errors=True)
        return False

    with pytest.raises(SourceMissing):
        copy_disc(order(disc, tmp_path / "out"), Hooks(should_stop=vanish))
    assert list((tmp_path / "out").iterdir()) == []
