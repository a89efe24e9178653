"""The cache of frames and snippets: written whole, and the longest unused go when it grows too large."""

from __future__ import annotations

import contextlib
import hashlib
import os
import shutil
import tempfile
import threading
from collections.abc import Callable, Iterator
from pathlib import Path

from django.conf import settings

from ..models import Title

_making: dict[Path, tuple[threading.Lock, int]] = {}
_making_lock = threading.Lock()


def material_mark(title: Title) -> str:
    """The same for the same material: where it lies, how long and how large it is, and which angle is shown."""
    source = title.source
    text = (
        f"{source.path}|{source.stamp}|{title.key}|{title.duration_s}|{title.outline.get('size_bytes')}|{title.angle}"
        f"|{title.outline.get('material', '')}"
    )
    return hashlib.sha256(text.encode()).hexdigest()[:24]


def cached(kind: str, name: str, make: Callable[[Path], None]) -> Path:
    """The file of this name, made where it is not there. ``make`` writes it to the path it is given."""
    target = settings.RHEON_CACHE / kind / name
    if target.exists():
        with contextlib.suppress(OSError):
            os.utime(target)
        return target
    with _one_of_a_name(target):
        return target if target.exists() else _made(target, make)


def _made(target: Path, make: Callable[[Path], None]) -> Path:
    target.parent.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as folder:
        part = Path(folder) / target.name
        make(part)
        shutil.move(part, target)
    clean_up()
    return target


@contextlib.contextmanager
def _one_of_a_name(target: Path) -> Iterator[None]:
    """Whoever wants the same file meanwhile waits for it instead of making it too."""
    with _making_lock:
        lock, count = _making.get(target, (threading.Lock(), 0))
        _making[target] = lock, count + 1
    try:
        with lock:
            yield
    finally:
        with _making_lock:
            lock, count = _making.pop(target)
            if count > 1:
                _making[target] = lock, count - 1


def clean_up() -> int:
    """Remove what was not used for longest until the cache is within its bounds; returns how many files went."""
    files = []
    # others make and remove folders here all the time; what is gone when it is looked at is passed over
    for folder, _, names in os.walk(settings.RHEON_CACHE):
        for path in (Path(folder) / name for name in names):
            with contextlib.suppress(OSError):
                said = path.stat()
                files.append((said.st_mtime, said.st_size, path))
    total = sum(size for _, size, _ in files)
    removed = 0
    for _, size, path in sorted(files):
        if total <= settings.RHEON_CACHE_BYTES:
            break
        path.unlink(missing_ok=True)
        total -= size
        removed += 1
    return removed
