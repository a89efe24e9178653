"""Names on real file systems: each made, written, and read back, on images of what people's sticks and disks have.

Needs root, loop devices and the systems' own tools (mtools, exfat-fuse, exfatprogs, ntfs-3g, e2fsprogs); what is not
there is left out and said. ``python benchmarks/file_systems.py [COUNT]``.
"""

from __future__ import annotations

import contextlib
import random
import shutil
import subprocess
import sys
import tempfile
import unicodedata
from collections.abc import Callable, Iterator
from pathlib import Path

from rheon.core.media import ContentKind, Tags
from rheon.core.naming.patterns import PRESETS, file_path

ODD = (
    "Marram Nights", "con", "Aux.txt", "nul", "a/b\\c", 'say "no"?', "*<|>:*", "dots...", " spaces ", ".hidden", "-rf",
    "終わり" * 40,
    "é" * 200, "e\u0301lan", "ليل", "\u202egpj.mp4", "🌊" * 60, "x" * 400, "tab\there", "COM1", "LPT¹.old", "~",
    "per%cent", "a;b$c`d'e", "ſtraße", "İstanbul", "ﬁne", "Ω≈ç√", "\ufeffmark", "Ünïcödé – dash…",
)  # fmt: skip
SIZE = "128M"


def tags(count: int) -> list[Tags]:
    """Authored names as titles and series, and as many drawn of any letters."""
    random.seed(7)
    drawn = ["".join(chr(random.choice([*range(32, 127), *range(160, 0x2FF), *range(0x370, 0xD7FF)]))
                     for _ in range(random.randint(1, 90))) for _ in range(count)]  # fmt: skip
    films = [Tags(title=name, year=1994, edition="uncut") for name in (*ODD, *drawn)]
    shows = [
        Tags(kind=ContentKind.EPISODE, title=name, show=name[::-1], season=1, episode=number)
        for number, name in enumerate((*ODD, *drawn), start=1)
    ]
    return [*films, *shows]


def said(*argv: str | Path) -> None:
    subprocess.run([str(one) for one in argv], check=True, capture_output=True)


@contextlib.contextmanager
def looped(image: Path) -> Iterator[str]:
    device = subprocess.run(["losetup", "-f", "--show", image], check=True, capture_output=True, text=True).stdout
    try:
        yield device.strip()
    finally:
        said("losetup", "-d", device.strip())


@contextlib.contextmanager
def mounted(image: Path, make: tuple[str, ...], mount: tuple[str, ...]) -> Iterator[Path]:
    said(*make, image)
    folder = image.with_suffix(".mnt")
    folder.mkdir()
    with looped(image) as device:
        said(*mount, device, folder)
        try:
            yield folder
        finally:
            said("umount", folder)


def on_mount(folder: Path, names: list[str]) -> list[str]:
    """The names that are not there as they were written."""
    wrong = []
    for name in names:
        target = folder / f"{name}.mp4"
        try:
            target.parent.mkdir(parents=True, exist_ok=True)
            target.write_bytes(b"x")
            there = [one.name for one in target.parent.iterdir()]
            wrong += [] if target.name in there else [name]
            target.unlink()
        except OSError as error:
            wrong.append(f"{name}: {error.strerror}")
    return wrong


def on_fat(image: Path, names: list[str]) -> list[str]:
    """The same through mtools, which know FAT by themselves."""
    said("mformat", "-F", "-i", image, "::")
    source = image.with_suffix(".src")
    source.write_bytes(b"x")
    wrong = []
    for name in names:
        *folders, own = f"{name}.mp4".split("/")
        at = "::"
        for folder in folders:
            at = f"{at}/{folder}"
            subprocess.run(["mmd", "-D", "s", "-i", image, at], check=False, capture_output=True)
        run = subprocess.run(["mcopy", "-D", "o", "-i", image, source, f"{at}/{own}"], check=False, capture_output=True)
        listed = subprocess.run(["mdir", "-b", "-i", image, f"{at}/"], check=False, capture_output=True).stdout.decode()
        if run.returncode or f"{at}/{own}" not in listed.splitlines():
            wrong.append(f"{name}: {run.stderr.decode().strip()}")
        subprocess.run(["mdel", "-i", image, f"{at}/{own}"], check=False, capture_output=True)
    return wrong


def through(make: tuple[str, ...], mount: tuple[str, ...]) -> Callable[[Path, list[str]], list[str]]:
    def write(image: Path, names: list[str]) -> list[str]:
        with mounted(image, make, mount) as folder:
            return on_mount(folder, names)

    return write


SYSTEMS: dict[str, tuple[str, str, Callable[[Path, list[str]], list[str]]]] = {
    "FAT32": ("fat32", "mformat", on_fat),
    "exFAT": ("exfat", "mount.exfat-fuse", through(("mkfs.exfat",), ("mount.exfat-fuse",))),
    "NTFS": ("ntfs", "ntfs-3g", through(("mkfs.ntfs", "-F", "-Q"), ("ntfs-3g", "-o", "windows_names"))),
    "ext4": ("posix", "mkfs.ext4", through(("mkfs.ext4", "-q"), ("mount",))),
}


def main() -> None:
    known = tags(int(sys.argv[1]) if len(sys.argv) > 1 else 60)
    for system, (rules, tool, write) in SYSTEMS.items():
        if shutil.which(tool) is None:
            print(f"{system:6} left out: no {tool} here")
            continue
        names = sorted({file_path(preset.of(one.kind), one, {}, rules) for one in known for preset in PRESETS.values()})
        assert all(unicodedata.is_normalized("NFC", name) for name in names)
        with tempfile.TemporaryDirectory(prefix="rheon-") as work:
            image = Path(work) / "image"
            said("truncate", "-s", SIZE, image)
            wrong = write(image, names)
        print(f"{system:6} {len(names)} names written, {len(wrong)} not read back as written", *wrong[:5], sep="\n  ")


if __name__ == "__main__":
    main()
