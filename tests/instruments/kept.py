"""Sources that are authored once: for all tests, both processes that run them, and the next run too."""

from __future__ import annotations

import fcntl
import hashlib
import shutil
import tempfile
from collections.abc import Callable
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
PLACE = ROOT / "demo-data" / "authored"


def once(name: str, make: Callable[[Path], Path]) -> Path:
    """What ``make`` makes under the path that it is given, made there unless it is there already. Only to be read."""
    folder = PLACE / _recipe()
    folder.mkdir(parents=True, exist_ok=True)
    path = folder / name
    with (folder / f".{name}.lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        if not path.exists():
            with tempfile.TemporaryDirectory(dir=folder) as work:
                make(Path(work) / name).rename(path)
    return path


def _recipe() -> str:
    """A mark of the code that authors; what older code made is thrown away."""
    code = sorted([*Path(__file__).parent.glob("*.py"), *(ROOT / "src" / "rheon" / "demo").glob("*.py")])
    mark = hashlib.sha256(b"".join(path.read_bytes() for path in code)).hexdigest()[:16]
    if PLACE.exists():
        for old in PLACE.iterdir():
            if old.name != mark:
                shutil.rmtree(old, ignore_errors=True)
    return mark
