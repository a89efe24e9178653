"""A faithful copy of a whole disc: every file as it is, checksummed while it is read, verified by reading it again."""

from __future__ import annotations

import hashlib
import os
import shutil
import time
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from ..checking import Check
from ..devices import RuleResult
from ..encoding import Hooks, Progress, check_target, part_path, remove
from ..errors import CheckFailed, SourceMissing, Stopped, TargetError, TargetFull
from .place import MOST_NUMBERS, put_in_place

CHUNK_BYTES = 4 << 20
SUMS_SUFFIX = ".sha256"


@dataclass(frozen=True, slots=True, kw_only=True)
class DiscOrder:
    """A disc folder or image, the folder its copy goes to, and the name that the copy gets."""

    source: Path
    folder: Path
    name: str
    token: str


@dataclass(frozen=True, slots=True, kw_only=True)
class DiscCopied:
    """The copy, the list of checksums beside it (as ``sha256sum`` writes it), and how long both readings took."""

    path: Path
    sums: Path
    size_bytes: int
    making_s: float
    checking_s: float
    checks: tuple[Check, ...]


@dataclass(slots=True)
class _Way:
    """How far a copy is, over reading and verifying."""

    total_bytes: int
    hooks: Hooks
    done_bytes: int = 0
    started: float = 0.0

    def went(self, count: int) -> None:
        """Tell how far it is. Raises ``Stopped`` where that was asked for."""
        if self.hooks.should_stop():
            raise Stopped("The copy was stopped.")
        self.done_bytes += count
        passed = max(1e-3, time.monotonic() - self.started)
        rate = self.done_bytes / passed
        self.hooks.on_progress(
            Progress(
                done_s=self.done_bytes,
                total_s=2 * self.total_bytes,
                size_bytes=min(self.done_bytes, self.total_bytes),
                speed=0.0,
                left_s=(2 * self.total_bytes - self.done_bytes) / rate if rate else None,
            )
        )


def copy_disc(order: DiscOrder, hooks: Hooks | None = None) -> DiscCopied:
    """Copy, verify, and only then name it. Whatever is raised, nothing is left in the folder.

    Raises ``SourceMissing``, ``TargetError``, ``CheckFailed`` or ``Stopped``.
    """
    check_target(order.folder)
    files = _files(order.source)
    total = sum(path.stat().st_size for path in files)
    if shutil.disk_usage(order.folder).free < total:
        raise TargetFull(f"The copy takes {total / 1e6:.0f} MB, and there is less free space.")
    part = part_path(order.folder, order.token)
    way = _Way(total_bytes=total, hooks=hooks or Hooks(), started=time.monotonic())
    try:
        sums = _copied(order.source, files, part, way)
        made = time.monotonic()
        check = _verified(part, sums, way, order.source.is_file())
        path = _named(part, order)
        listed = _list_sums(path, sums)
    finally:
        remove_part(part)
    return DiscCopied(
        path=path,
        sums=listed,
        size_bytes=total,
        making_s=made - way.started,
        checking_s=time.monotonic() - made,
        checks=(check,),
    )


def _files(source: Path) -> list[Path]:
    if source.is_file():
        return [source]
    found = sorted(path for path in source.rglob("*") if path.is_file())
    if not found:
        raise SourceMissing(f"{source.name} is not there any more.")
    return found


def _copied(source: Path, files: list[Path], part: Path, way: _Way) -> dict[str, str]:
    """Every file under the part's name; SHA-256 by its place in the copy (empty for an image)."""
    sums = {}
    for path in files:
        inner = "" if source.is_file() else path.relative_to(source).as_posix()
        target = part / inner if inner else part
        target.parent.mkdir(parents=True, exist_ok=True)
        found = hashlib.sha256()
        try:
            with path.open("rb") as reader, target.open("wb") as writer:
                for chunk in iter(lambda: reader.read(CHUNK_BYTES), b""):
                    writer.write(chunk)
                    found.update(chunk)
                    way.went(len(chunk))
                writer.flush()
                os.fsync(writer.fileno())
        except OSError as error:
            raise _explained(error, path) from error
        sums[inner] = found.hexdigest()
    return sums


def _explained(error: OSError, path: Path) -> Exception:
    if error.errno == 28:  # ENOSPC
        return TargetFull("The disk became full while the disc was copied.")
    if not path.exists():
        return SourceMissing(f"{path.name} is not there any more.")
    return TargetError(f"{path.name} could not be copied: {error.strerror}.")


def _verified(part: Path, sums: dict[str, str], way: _Way, image: bool) -> Check:
    """The copy read again, past what the system still remembers of it where that can be asked for."""
    for inner, wanted in sums.items():
        path = part if image else part / inner
        found = hashlib.sha256()
        for chunk in _read_anew(path):
            found.update(chunk)
            way.went(len(chunk))
        if found.hexdigest() != wanted:
            raise CheckFailed(f"{inner or 'The image'} reads differently from what was written.", rules=[])
    count = f"{len(sums)} file" if len(sums) == 1 else f"{len(sums)} files"
    same = RuleResult(
        rule="same_bytes",
        part="file",
        ok=True,
        measured=f"{count}, every SHA-256 the same",
        allowed="as on the source",
    )
    return Check(device_id="faithful-copy", results=(same,))


def _read_anew(path: Path) -> Iterator[bytes]:
    with path.open("rb") as reader:
        os.posix_fadvise(reader.fileno(), 0, 0, os.POSIX_FADV_DONTNEED)
        yield from iter(lambda: reader.read(CHUNK_BYTES), b"")


def _named(part: Path, order: DiscOrder) -> Path:
    if part.is_file():
        return put_in_place(part, f"{order.name}{order.source.suffix.lower() or '.iso'}")
    for number in range(1, MOST_NUMBERS):
        # a folder has no extension that a number would go in front of
        target = order.folder / (order.name if number == 1 else f"{order.name} ({number})")
        if not target.exists():
            part.rename(target)
            return target
    raise TargetError(f"There are too many folders called {order.name}.")


def _list_sums(path: Path, sums: dict[str, str]) -> Path:
    listed = path.with_name(path.name + SUMS_SUFFIX)
    lines = [f"{found}  {path.name}/{inner}" if inner else f"{found}  {path.name}" for inner, found in sums.items()]
    listed.write_text("\n".join(lines) + "\n", encoding="utf-8")
    return listed


def remove_part(part: Path) -> None:
    """Remove what an unfinished job left, a file or a folder."""
    if part.is_dir():
        shutil.rmtree(part, ignore_errors=True)
    else:
        remove(part)
