"""Copies on devices: whole under their name or not there, whatever ends them."""

from __future__ import annotations

import multiprocessing
import os
import random
import shutil
import signal
import subprocess
import time
from collections.abc import Callable, Iterator
from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rheon.core.delivery import PAUSE_POLL_S
from rheon.core.encoding import Hooks, Progress, parts_in
from rheon.core.engine import WorkClock
from rheon.core.errors import (
    CheckFailed,
    DeviceBusy,
    DeviceGone,
    EjectRefused,
    FileTooLarge,
    SourceMissing,
    Stopped,
    TargetError,
    TargetFull,
)
from rheon.core.handover import (
    CopyOrder,
    Listing,
    MountedVolumes,
    Room,
    Volume,
    VolumeKind,
    copy_file,
    transfer,
    what_fits,
)
from rheon.core.system import mounts

KILLS = 25
DATA = random.Random(5).randbytes(9_000_001)


@pytest.fixture
def stick(tmp_path: Path) -> Volume:
    root = tmp_path / "stick"
    root.mkdir()
    return Volume(
        id="1234-ABCD", label="TERN", kind=VolumeKind.REMOVABLE, path=root, file_system="vfat",
        total_bytes=10**9, free_bytes=10**9, unit_bytes=4096, largest_file_bytes=2**32 - 1, writable=True,
    )  # fmt: skip


@pytest.fixture
def film(tmp_path: Path) -> Path:
    path = tmp_path / "film.mp4"
    path.write_bytes(DATA)
    return path


@pytest.fixture(autouse=True)
def small_steps(monkeypatch: pytest.MonkeyPatch) -> None:
    """So that a small file is many steps."""
    monkeypatch.setattr(transfer, "CHUNK_BYTES", 100_000)
    monkeypatch.setattr(transfer, "SETTLED_BYTES", 700_000)


def order(film: Path, stick: Volume, name: str = "Film.mp4", **more: object) -> CopyOrder:
    made = CopyOrder(source=film, folder="VIDEO", name=name, look=lambda: stick)
    return replace(made, **more)  # type: ignore[arg-type]


def named(stick: Volume) -> dict[str, bytes]:
    """Everything on the stick that has a name of its own."""
    found = (path for path in stick.path.rglob("*") if path.is_file() and not path.name.endswith(".part"))
    return {path.relative_to(stick.path).as_posix(): path.read_bytes() for path in found}


def test_a_copy_is_whole_named_as_the_device_can_and_known_again(film: Path, stick: Volume) -> None:
    steps: list[Progress] = []
    name = 'Tide: Watch?/Season 1/1x01 "First" <light>.mp4'
    made = copy_file(order(film, stick, name), Hooks(on_progress=steps.append))
    where = "VIDEO/Tide- Watch-/Season 1/1x01 'First' -light-.mp4"
    assert named(stick) == {where: DATA} and made.path == stick.path / where
    assert [step.done for step in steps] == sorted(step.done for step in steps)
    assert steps[-1].fraction == 1.0 and made.size_bytes == len(DATA)
    assert copy_file(order(film, stick, name)).was_there
    assert copy_file(order(film, stick, name.upper().replace(".MP4", ".mp4"))).was_there, "FAT tells no capitals apart"
    assert len(named(stick)) == 1 and not parts_in(stick.path / "VIDEO")


def test_another_file_of_the_name_is_never_written_over(film: Path, stick: Volume) -> None:
    copy_file(order(film, stick))
    other = film.with_name("other.mp4")
    other.write_bytes(DATA[:-1] + b"!")
    assert copy_file(order(other, stick)).path.name == "Film (2).mp4"
    assert copy_file(order(other, stick)).was_there
    assert named(stick) == {"VIDEO/Film.mp4": DATA, "VIDEO/Film (2).mp4": other.read_bytes()}
    film.write_bytes(DATA + b"once more")
    assert copy_file(order(film, stick, replaces=True)).path.name == "Film.mp4"
    assert named(stick) == {"VIDEO/Film.mp4": film.read_bytes(), "VIDEO/Film (2).mp4": other.read_bytes()}


@pytest.mark.parametrize(
    ("change", "error"),
    [
        ({"free_bytes": len(DATA) + 1000}, TargetFull),
        ({"largest_file_bytes": len(DATA) - 1}, FileTooLarge),
        ({"writable": False}, TargetError),
    ],
)
def test_what_cannot_go_there_is_refused_before_anything_is_written(
    film: Path, stick: Volume, change: dict[str, object], error: type[Exception]
) -> None:
    with pytest.raises(error) as told:
        copy_file(order(film, replace(stick, **change)))  # type: ignore[arg-type]
    assert "TERN" in str(told.value)
    assert not list(stick.path.iterdir())


def test_a_device_that_is_pulled_out_costs_nothing_but_the_copy(film: Path, stick: Volume) -> None:
    looks = iter(range(100))
    with pytest.raises(DeviceGone) as told:
        copy_file(order(film, stick, look=lambda: stick if next(looks) < 5 else None))
    assert "Plug it in again" in str(told.value) and not named(stick)
    (left,) = parts_in(stick.path / "VIDEO")
    written = left.stat().st_size
    again = copy_file(order(film, stick))
    assert again.resumed_bytes == written > 1_000_000 and named(stick) == {"VIDEO/Film.mp4": DATA}
    with pytest.raises(DeviceGone):
        copy_file(order(film, stick, look=lambda: None))


def test_what_an_earlier_try_wrote_counts_as_far_as_it_is_right(film: Path, stick: Volume) -> None:
    seen = iter(range(100))
    with pytest.raises(DeviceGone):
        copy_file(order(film, stick, look=lambda: stick if next(seen) < 5 else None))
    (left,) = parts_in(stick.path / "VIDEO")
    with left.open("r+b") as handle:
        handle.seek(1_234_567)
        handle.write(b"\0\0\0\0")
    again = copy_file(order(film, stick))
    assert again.resumed_bytes == 1_200_000 and named(stick) == {"VIDEO/Film.mp4": DATA}


def test_a_copy_that_is_stopped_leaves_nothing(film: Path, stick: Volume) -> None:
    asked = iter(range(1000))
    with pytest.raises(Stopped):
        copy_file(order(film, stick), Hooks(should_stop=lambda: next(asked) > 40))
    assert not named(stick) and not parts_in(stick.path / "VIDEO")


def test_a_device_that_keeps_something_else_is_found_out(
    film: Path, stick: Volume, monkeypatch: pytest.MonkeyPatch
) -> None:
    real = os.write

    def forgetful(handle: int, data: bytes) -> int:
        return real(handle, bytes(data[:-1]) + b"\0")

    monkeypatch.setattr(os, "write", forgetful)
    with pytest.raises(CheckFailed, match="wearing out"):
        copy_file(order(film, stick))
    assert not named(stick) and not parts_in(stick.path / "VIDEO")


def test_two_at_once_do_not_write_into_each_other(film: Path, stick: Volume) -> None:
    def second() -> bool:
        with pytest.raises(DeviceBusy):
            copy_file(order(film, stick))
        return False

    copy_file(order(film, stick), Hooks(should_stop=second))
    assert named(stick) == {"VIDEO/Film.mp4": DATA}


def test_a_file_that_is_gone_or_none_is_said(film: Path, stick: Volume, tmp_path: Path) -> None:
    os.mkfifo(tmp_path / "pipe.mp4")
    (tmp_path / "link.mp4").symlink_to(film)
    for name in ("none.mp4", "pipe.mp4", "link.mp4"):
        with pytest.raises(SourceMissing):
            copy_file(order(tmp_path / name, stick))


def test_a_pause_is_a_pause(film: Path, stick: Volume) -> None:
    paused = iter([True, True])
    made = copy_file(order(film, stick), Hooks(clock=WorkClock(lambda: next(paused, False))))
    assert made.writing_s > 2 * PAUSE_POLL_S and named(stick) == {"VIDEO/Film.mp4": DATA}


def copy_slowly(film: Path, stick: Volume) -> None:
    copy_file(order(film, stick), Hooks(on_progress=lambda step: time.sleep(0.002)))


def test_a_process_that_is_killed_anywhere_leaves_no_wrong_file(film: Path, stick: Volume) -> None:
    drawn = random.Random(18)
    fork = multiprocessing.get_context("fork")
    for _ in range(KILLS):
        process = fork.Process(target=copy_slowly, args=(film, stick))
        process.start()
        time.sleep(drawn.uniform(0.01, 0.6))
        process.kill()
        process.join()
        assert set(named(stick).items()) <= {("VIDEO/Film.mp4", DATA)}
    copy_file(order(film, stick))
    assert named(stick) == {"VIDEO/Film.mp4": DATA}


@given(
    st.lists(st.integers(1, 500), max_size=12), st.integers(0, 2000), st.integers(0, 50), st.integers(1, 64),
    st.one_of(st.none(), st.integers(1, 500)),
)  # fmt: skip
def test_what_fits_fits_together_and_what_does_not_would_not(
    sizes: list[int], free: int, kept: int, unit: int, largest: int | None
) -> None:
    room = Room(free_bytes=free, kept_free_bytes=kept, unit_bytes=unit, largest_file_bytes=largest)
    left = free - kept
    for fit, size in zip(what_fits(list(enumerate(sizes)), room), sizes, strict=True):
        units = -(-size // unit) * unit
        if fit.why_not is None:
            left -= units
            assert left >= 0
        elif fit.why_not.code == "over_file_limit":
            assert largest is not None and size > largest
        else:
            assert units > max(left, 0)


SYSTEMS = {
    "exFAT": ("mkfs.exfat", "mount.exfat-fuse"),
    "FAT32": ("mkfs.vfat", "fusefat"),
    "ext4": ("mkfs.ext4", "mount"),
}


@pytest.fixture
def mounted(request: pytest.FixtureRequest, tmp_path: Path) -> Iterator[Path]:
    """A real file system on an image of its own, mounted as a stick would be."""
    make, mount = SYSTEMS[request.param]
    if os.geteuid() != 0 or not all(map(shutil.which, (make, mount))):
        pytest.skip(f"{request.param} can't be mounted on this machine")
    image, folder = tmp_path / "image", tmp_path / "mnt" / "TERN"
    folder.mkdir(parents=True)
    image.touch()
    os.truncate(image, 48 << 20)
    said(make, *(["-q"] if make == "mkfs.ext4" else []), image)
    # the driver of FAT takes the file itself
    device = image if mount == "fusefat" else Path(said("losetup", "-f", "--show", image))
    said(mount, *(["-o", "rw+"] if mount == "fusefat" else []), device, folder)
    yield folder
    subprocess.run(["umount", "-l", folder], check=False, capture_output=True)
    if device != image:
        said("losetup", "-d", device)


def said(*argv: str | Path) -> str:
    done = subprocess.run([str(one) for one in argv], check=False, capture_output=True, text=True)
    if done.returncode:
        pytest.skip(f"{argv[0]} does not work on this machine: {done.stderr.strip()}")
    return done.stdout.strip()


def found(folder: Path) -> Callable[[], Volume | None]:
    """A look for what is mounted at a folder; FAT's driver here names no device, so it is described by hand."""
    if any(one.folder == folder and one.source.startswith("/dev/") for one in mounts()):
        return lambda: next(iter(MountedVolumes(under=(folder.parent,)).volumes()), None)
    volume = Volume(
        id="FAT", label="TERN", kind=VolumeKind.REMOVABLE, path=folder, file_system="fuse.fusefat",
        total_bytes=None, free_bytes=None, unit_bytes=512, largest_file_bytes=2**32 - 1, writable=True,
    )  # fmt: skip
    return lambda: volume


@pytest.mark.parametrize("mounted", SYSTEMS, indirect=True)
def test_real_file_systems_take_copies(mounted: Path, film: Path) -> None:
    look = found(mounted)
    wanted = CopyOrder(source=film, folder="VIDEO", name="Tide: Watch/First light?.mp4", look=look)
    made = copy_file(wanted)
    assert made.path.read_bytes() == DATA and made.path.is_relative_to(mounted / "VIDEO")
    assert copy_file(wanted).was_there
    larger = film.with_name("larger.mp4")
    larger.write_bytes(DATA * 6)
    with pytest.raises(TargetError):  # FAT's driver here says of a full stick only that it may not
        copy_file(replace(wanted, source=larger))
    assert [path.read_bytes() for path in mounted.rglob("*") if path.is_file()] == [DATA]


@pytest.mark.parametrize("mounted", ["exFAT", "ext4"], indirect=True)
def test_a_volume_is_found_and_let_go_of(mounted: Path, film: Path) -> None:
    finder = MountedVolumes(under=(mounted.parent,))
    (volume,) = finder.volumes()
    assert volume.label == "TERN" and volume.path == mounted
    assert 30_000_000 < (volume.free_bytes or 0) <= (volume.total_bytes or 0) <= 48 << 20
    with (mounted / "open").open("wb"), pytest.raises(EjectRefused, match="still using it"):
        finder.eject(volume)
    finder.eject(volume)
    assert finder.volumes() == ()
    with pytest.raises(DeviceGone):
        copy_file(CopyOrder(source=film, folder="", name="Again.mp4", look=found_again(finder)))
    assert not list(mounted.iterdir()), "nothing is written into the folder that it was mounted at"


def found_again(finder: MountedVolumes) -> Callable[[], Volume | None]:
    return lambda: next(iter(finder.volumes()), None)


@pytest.mark.parametrize("mounted", ["exFAT"], indirect=True)
def test_a_driver_that_dies_in_the_middle_is_a_device_that_is_gone(mounted: Path, film: Path) -> None:
    look = found(mounted)
    volume = look()
    assert volume is not None
    wanted = CopyOrder(source=film, folder="", name="Film.mp4", look=look)
    asked = iter(range(10_000))

    def pull() -> bool:
        if next(asked) == 30:
            for driver in said("pgrep", "-f", f"exfat-fuse.*{mounted}").split():
                os.kill(int(driver), signal.SIGKILL)
        return False

    with pytest.raises(DeviceGone):
        copy_file(wanted, Hooks(should_stop=pull))
    said("umount", "-l", mounted)
    said("mount.exfat-fuse", volume.node, mounted)
    assert not [path for path in mounted.iterdir() if path.suffix == ".mp4"]
    assert copy_file(wanted).path.read_bytes() == DATA


@pytest.mark.parametrize("end", ["stopped", "forgetful"])
def test_what_is_to_be_replaced_stays_until_the_copy_is_verified(
    end: str, film: Path, stick: Volume, monkeypatch: pytest.MonkeyPatch
) -> None:
    (stick.path / "VIDEO").mkdir()
    (stick.path / "VIDEO" / "FILM.mp4").write_bytes(b"old")
    asked = iter(range(1000))
    hooks = Hooks(should_stop=lambda: end == "stopped" and next(asked) > 170)
    if end == "forgetful":
        real = os.write
        monkeypatch.setattr(os, "write", lambda handle, data: real(handle, bytes(data[:-1]) + b"\0"))
    with pytest.raises((Stopped, CheckFailed)):
        copy_file(order(film, stick, replaces=True), hooks)
    assert named(stick) == {"VIDEO/FILM.mp4": b"old"} and not parts_in(stick.path / "VIDEO")
    monkeypatch.undo()
    copy_file(order(film, stick, replaces=True))
    assert named(stick) == {"VIDEO/FILM.mp4": DATA}


def test_a_listing_knows_what_lies_beside_a_file_and_under_its_name(tmp_path: Path) -> None:
    sizes = {
        "Film.mp4": 10,
        "Film.en.srt": 3,
        "Film.en.forced.srt": 2,
        "Film.jpg": 5,
        "Film 2.mp4": 7,
        "film (2).MP4": 1,
    }
    for name, size in sizes.items():
        (tmp_path / name).write_bytes(bytes(size))
    (tmp_path / "Season 1").mkdir()
    (tmp_path / "Season 1" / "One.mp4").write_bytes(b"one")
    listing = Listing()
    assert listing.size_of(tmp_path / "Film.mp4") == 20 and listing.size_of(tmp_path / "Film 2.mp4") == 7
    assert listing.size_of(tmp_path / "Season 1") is None and listing.size_of(tmp_path / "none.mp4") is None
    assert [found.path.name for found in listing.under_name(tmp_path, "FILM.mp4")] == ["Film.mp4", "film (2).MP4"]
    assert [found.size_bytes for found in listing.under_name(tmp_path, "season 1/one.MP4")] == [3]
    assert not list(listing.under_name(tmp_path, "Film.mp4/x.mp4"))
