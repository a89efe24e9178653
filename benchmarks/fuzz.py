"""Very many changed inputs for every reader, and odd calls at every address: ``make fuzz``."""

from __future__ import annotations

import os
import sys
import tempfile
import time
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT), str(ROOT / "src")]

from tests.instruments.fuzz import Found, fuzz, media_readers, readers  # noqa: E402

INPUTS, FILES = int(os.environ.get("INPUTS", "100000")), int(os.environ.get("FILES", "500"))
MEDIA = ROOT / "demo-data" / "media"


def main() -> int:
    began = time.monotonic()
    with tempfile.TemporaryDirectory() as one, tempfile.TemporaryDirectory() as other:
        found = (fuzz(readers(MEDIA, Path(one)), INPUTS), fuzz(media_readers(MEDIA, Path(other)), FILES))
    for title, part in zip(("inputs for readers", "media files through scan and plan"), found, strict=True):
        show(title, part)
    print(f"{time.monotonic() - began:.0f} s in all")
    return 1 if any(part.wrong for part in found) else 0


def show(title: str, found: Found) -> None:
    print(f"{title:<36} {sum(found.read.values()):>7}")
    for name, count in sorted(found.read.items()):
        print(f"  {name:<34} {count:>7}, of them refused {found.refused[name]}")
    print(f"  outside the errors of the tree     {len(found.wrong):>7}")
    print(f"  slowest, of our own computing      {found.slowest[0]:>7.2f} s ({found.slowest[1]})")
    print(f"  memory grew by                     {found.growth_bytes / 1e6:>7.0f} MB")
    for wrong in found.wrong[:20]:
        print("   ", wrong[:200])


if __name__ == "__main__":
    sys.exit(main())
