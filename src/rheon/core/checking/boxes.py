"""Where an MP4 file keeps its index (ISO/IEC 14496-12: top-level boxes)."""

from __future__ import annotations

from pathlib import Path

MOST_BOXES = 1000


def index_in_front(path: Path) -> bool | None:
    """Whether ``moov`` comes before ``mdat``; ``None`` where the file has neither."""
    size = path.stat().st_size
    at = 0
    with path.open("rb") as handle:
        for _ in range(MOST_BOXES):
            handle.seek(at)
            head = handle.read(16)
            if len(head) < 8:
                return None
            name = head[4:8]
            if name in (b"moov", b"mdat"):
                return name == b"moov"
            length = int.from_bytes(head[:4])
            if length == 1:
                length = int.from_bytes(head[8:16])
            if length < 8 or at + length > size:
                return None
            at += length
    return None
