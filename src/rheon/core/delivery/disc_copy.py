"""A faithful copy of a whole disc: every file as it is, checksummed while it is read, verified by reading it again."""

from __future__ import annotations

import hashlib
import os
import shutil
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from pathlib import Path

from ..checking import Check
from ..devices import RuleResult
from ..encoding import Hooks, check_target, part_path, remove_part
from ..errors import CheckFailed, SourceMissing, TargetError, TargetFull
from ..media.facts import Unit, fact
from ..system import check_inside, open_inside, rename_new
from .copy_progress import CopyProgress
from .place import MOST_NUMBERS

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


def copy_disc(
    order: DiscOrder, hooks: Hooks | None = None, note: Callable[[DiscCopied], None] | None = None
) -> DiscCopied:
    """Copy, verify, and only then name it. Whatever is raised, nothing is left in the folder.

    Raises ``OutsideFolders`` (a link leads out), ``NotASource`` (a pipe or a device lies in it), ``SourceMissing``,
    ``TargetError``, ``CheckFailed`` or ``Stopped``.
    """
    check_target(order.folder)
    files = _files(order.source)
    total = sum(map(check_inside, files))
    if shutil.disk_usage(order.folder).free < total:
        raise TargetFull("The copy takes {needed_mb:.0f} MB, and there is less free space.", needed_mb=total / 1e6)
    part = part_path(order.folder, order.token)
    hooks = hooks or Hooks()
    progress = CopyProgress(total_bytes=total, hooks=hooks, began_s=hooks.clock.worked_s)
    try:
        sums = _copied(order.source, files, part, progress)
        made_s = hooks.clock.worked_s
        check = _verified(part, sums, progress, order.source.is_file())
        done = DiscCopied(
            path=part,
            sums=_list_sums(part, sums),
            size_bytes=total,
            making_s=made_s - progress.began_s,
            checking_s=hooks.clock.worked_s - made_s,
            checks=(check,),
        )
        return _named(order, done, note)
    finally:
        remove_part(part)


def take_up_copy(order: DiscOrder, noted: DiscCopied) -> DiscCopied | None:
    """Bring a naming that was cut short to its end; ``None`` where the copy is neither at its part nor at its name."""
    part = part_path(order.folder, order.token)
    listed = _beside(part)
    if part.exists() and listed.exists():
        return _named(order, replace(noted, path=part, sums=listed), None)
    if not noted.path.exists():
        return None
    if listed.exists():
        _list_named(listed, noted.path)
    return noted


def _files(source: Path) -> list[Path]:
    if source.is_file():
        return [source]
    found = sorted(path for path in source.rglob("*") if not path.is_dir())
    if not found:
        raise SourceMissing("{source} is not there any more.", source=source.name)
    return found


def _copied(source: Path, files: list[Path], part: Path, progress: CopyProgress) -> dict[str, str]:
    """Every file under the part's name; SHA-256 by its place in the copy (empty for an image)."""
    sums = {}
    for path in files:
        inner = "" if source.is_file() else path.relative_to(source).as_posix()
        target = part / inner if inner else part
        target.parent.mkdir(parents=True, exist_ok=True)
        found = hashlib.sha256()
        try:
            with open_inside(path) as reader, target.open("wb") as writer:
                for chunk in iter(lambda: reader.read(CHUNK_BYTES), b""):
                    writer.write(chunk)
                    found.update(chunk)
                    progress.went(len(chunk))
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
        return SourceMissing("{path} is not there any more.", path=path.name)
    return TargetError("{path} could not be copied: {reason}.", path=path.name, reason=error.strerror)


def _verified(part: Path, sums: dict[str, str], progress: CopyProgress, image: bool) -> Check:
    """The copy read again, past what the system still remembers of it where that can be asked for."""
    for inner, wanted in sums.items():
        path = part if image else part / inner
        found = hashlib.sha256()
        for chunk in _read_anew(path):
            found.update(chunk)
            progress.went(len(chunk))
        if found.hexdigest() != wanted:
            raise CheckFailed("{name} reads differently from what was written.", name=inner or "The image", rules=[])
    same = RuleResult(
        rule="same_bytes",
        part="file",
        ok=True,
        measured=fact(Unit.COPIED_FILES, len(sums)),
        allowed=fact(Unit.AS_ON_SOURCE),
    )
    return Check(device_id="faithful-copy", results=(same,))


def _read_anew(path: Path) -> Iterator[bytes]:
    with path.open("rb") as reader:
        os.posix_fadvise(reader.fileno(), 0, 0, os.POSIX_FADV_DONTNEED)
        yield from iter(lambda: reader.read(CHUNK_BYTES), b"")


def _named(order: DiscOrder, done: DiscCopied, note: Callable[[DiscCopied], None] | None) -> DiscCopied:
    """Copy and list under the first name that both can have."""
    part = done.path
    suffix = (order.source.suffix.lower() or ".iso") if part.is_file() else ""
    for number in range(1, MOST_NUMBERS):
        # a folder has no extension that a number would go in front of
        stem = order.name if number == 1 else f"{order.name} ({number})"
        target = order.folder / f"{stem}{suffix}"
        if os.path.lexists(target) or os.path.lexists(_beside(target)):
            continue
        named = replace(done, path=target, sums=_beside(target))
        if note is not None:
            note(named)
        try:
            part.rename(target) if part.is_dir() else rename_new(part, target)
        except FileExistsError:
            continue
        _list_named(done.sums, target)
        return named
    raise TargetError("There are too many copies called {name}.", name=order.name)


def _beside(path: Path) -> Path:
    return path.with_name(path.name + SUMS_SUFFIX)


def _list_sums(part: Path, sums: dict[str, str]) -> Path:
    """The list as ``sha256sum`` writes it, still under the part's name."""
    listed = _beside(part)
    lines = [f"{found}  {part.name}/{inner}" if inner else f"{found}  {part.name}" for inner, found in sums.items()]
    listed.write_text("\n".join(lines) + "\n", encoding="utf-8", errors="surrogateescape")
    return listed


def _list_named(listed: Path, target: Path) -> None:
    """The list with the copy's name in it, and under that name itself."""
    called = listed.name.removesuffix(SUMS_SUFFIX)
    lines = listed.read_text(encoding="utf-8", errors="surrogateescape").splitlines()
    named = [f"{line[:66]}{target.name}{line[66 + len(called) :]}" for line in lines]
    text = "\n".join(named) + "\n"
    listed.write_text(text, encoding="utf-8", errors="surrogateescape")
    listed.rename(_beside(target))
