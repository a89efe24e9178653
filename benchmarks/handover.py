"""Copies onto real file systems: how quick they are beside ``cp`` and ``cmp``, and what is left when they are cut off.

Needs root, loop devices, exfatprogs and exfat-fuse; without them a folder of this disk stands in, and nothing is pulled
out. ``python benchmarks/handover.py [CUTS]``.
"""

from __future__ import annotations

import contextlib
import multiprocessing
import os
import random
import shutil
import signal
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from pathlib import Path

from rheon.core.encoding import Hooks
from rheon.core.errors import RheonError, TargetFull
from rheon.core.handover import CopyOrder, MountedVolumes, Volume, copy_file, folder_as_volume

MEGABYTES, ROUNDS = 120, 5
NAME = "Film.mp4"
Look = Callable[[], Volume | None]


def said(*argv: str | Path) -> str:
    return subprocess.run([str(one) for one in argv], check=True, capture_output=True, text=True).stdout.strip()


class Stick:
    """An exFAT image that can be mounted, pulled out and mounted again; or a folder where that can't be."""

    def __init__(self, work: Path, megabytes: int) -> None:
        self.folder = work / "mnt" / "TERN"
        self.folder.mkdir(parents=True)
        self.device = ""
        self._look: Look = lambda: folder_as_volume(self.folder)
        with contextlib.suppress(OSError, subprocess.CalledProcessError):
            image = work / "image"
            image.touch()
            os.truncate(image, megabytes << 20)
            said("mkfs.exfat", image)
            self.device = said("losetup", "-f", "--show", image)
            self.plug_in()
            finder = MountedVolumes(under=(self.folder.parent,))
            self._look = lambda: next(iter(finder.volumes()), None)

    def look(self) -> Volume | None:
        return self._look()

    def plug_in(self) -> None:
        if self.device:
            said("mount.exfat-fuse", self.device, self.folder)

    def make_anew(self) -> None:
        """What was being written when it was pulled out is lost to the file system until it is checked."""
        if self.device:
            self.pull_out()
            said("mkfs.exfat", self.device)
            self.plug_in()

    def pull_out(self) -> None:
        """The driver dies as if the device under it were gone."""
        found = subprocess.run(
            ["pgrep", "-f", f"exfat-fuse.*{self.folder}"], capture_output=True, text=True, check=False
        )
        for driver in found.stdout.split():
            with contextlib.suppress(ProcessLookupError):
                os.kill(int(driver), signal.SIGKILL)
        subprocess.run(["umount", "-l", self.folder], check=False, capture_output=True)

    def close(self) -> None:
        subprocess.run(["umount", "-l", self.folder], check=False, capture_output=True)
        if self.device:
            said("losetup", "-d", self.device)


@contextlib.contextmanager
def stick(megabytes: int) -> Iterator[tuple[Stick, Path]]:
    with tempfile.TemporaryDirectory(prefix="rheon-") as work:
        made = Stick(Path(work), megabytes)
        try:
            yield made, Path(work) / "source.mp4"
        finally:
            made.close()


def forget_files() -> None:
    """Have the system read from the device again."""
    os.sync()
    with contextlib.suppress(OSError):
        Path("/proc/sys/vm/drop_caches").write_text("1\n", encoding="ascii")


def by_hand(source: Path, target: Path) -> float:
    """``cp``, brought onto the device, and ``cmp`` that reads it from there."""
    began = time.monotonic()
    said("cp", source, target)
    said("sync", "-f", target)
    spent = time.monotonic() - began
    forget_files()
    source.read_bytes()  # the source was read a moment ago in both
    began = time.monotonic()
    said("cmp", source, target)
    return spent + time.monotonic() - began


def ours(source: Path, at: Stick) -> float:
    began = time.monotonic()
    copy_file(CopyOrder(source=source, folder="", name=NAME, look=at.look))
    return time.monotonic() - began


def speed() -> None:
    with stick(4 * MEGABYTES) as (at, source):
        source.write_bytes(random.Random(1).randbytes(MEGABYTES << 20))
        pairs = []
        for _ in range(ROUNDS):
            one = by_hand(source, at.folder / "by hand.mp4")
            (at.folder / "by hand.mp4").unlink()
            forget_files()
            source.read_bytes()
            pairs.append((one, ours(source, at)))
            (at.folder / NAME).unlink()
    where = "exFAT" if at.device else "this disk"
    print(f"{where}, {MEGABYTES} MiB: cp + cmp {statistics.median(one for one, _ in pairs):.2f} s, "
          f"Rheon {statistics.median(two for _, two in pairs):.2f} s, "
          f"speed {statistics.median(one / two for one, two in pairs):.2f} of by hand")  # fmt: skip


def copy_in_child(source: Path, at: Stick) -> None:
    with contextlib.suppress(RheonError):
        slowly = Hooks(on_progress=lambda step: time.sleep(0.03))
        copy_file(CopyOrder(source=source, folder="", name=NAME, look=at.look), slowly)


def cuts(count: int) -> None:
    """Processes killed, devices pulled out and space taken away at random moments; each once more then."""
    drawn, fork = random.Random(18), multiprocessing.get_context("fork")
    ways = {"killed": 0, "pulled out": 0, "space gone": 0}
    wrong = whole = resumed = after = 0
    with stick(96) as (at, source):
        source.write_bytes(data := random.Random(2).randbytes(40 << 20))
        for number in range(count):
            way = list(ways)[number % len(ways)] if at.device else "killed"
            ways[way] += 1
            process = fork.Process(target=copy_in_child, args=(source, at))
            filler = at.folder / "filler.bin"
            process.start()
            time.sleep(drawn.uniform(0.0, 0.8))
            if way == "killed":
                process.kill()
            elif way == "pulled out":
                at.pull_out()
            else:
                with contextlib.suppress(OSError):
                    filler.write_bytes(bytes(90 << 20))
            process.join()
            if way == "pulled out":
                at.plug_in()
            with contextlib.suppress(OSError):
                filler.unlink()
            for path in at.folder.glob("*.mp4"):
                same = path.read_bytes() == data
                wrong, whole = wrong + (not same), whole + same
                path.unlink()
            with contextlib.suppress(TargetFull):
                again = copy_file(CopyOrder(source=source, folder="", name=NAME, look=at.look))
                after, resumed = after + 1, resumed + (again.resumed_bytes > 0)
                wrong += again.path.read_bytes() != data
                again.path.unlink()
            if way == "pulled out":
                at.make_anew()
    told = ", ".join(f"{times} {way}" for way, times in ways.items())
    print(f"{count} copies cut off ({told}): {wrong} wrong files under a good name, {whole} had come to their end; "
          f"{after} were made at the next try, {resumed} of them behind what was there")  # fmt: skip


if __name__ == "__main__":
    if shutil.which("mkfs.exfat") is None:
        print("no mkfs.exfat here: a folder stands in")
    speed()
    cuts(int(sys.argv[1]) if len(sys.argv) > 1 else 100)
