"""How long the header of a cut-off file says it lasts, where the engine believes the file's size instead.

Sources: AVI RIFF File Reference (main header: microseconds a frame, total frames); Advanced Systems Format, 3.2 (file
properties: play duration in 100 ns, preroll in ms).
"""

from __future__ import annotations

import io
from pathlib import Path

from ...system import open_inside

HEAD_BYTES = 64 << 10
FILE_PROPERTIES = bytes.fromhex("a1dcab8c47a9cf118ee400c00c205365")
SHORTER = 0.98
LONGEST_S = 100 * 3600.0


def header_promise(path: Path) -> float | None:
    """Seconds that an AVI or ASF header promises for a file that is shorter than its header says; else ``None``."""
    with open_inside(path) as handle:
        head = handle.read(HEAD_BYTES)
        size = handle.seek(0, io.SEEK_END)
    promised = _avi(head, size) if head[:4] == b"RIFF" and head[8:12] == b"AVI " else _asf(head, size)
    return promised if promised is not None and 0 < promised < LONGEST_S else None


def _avi(head: bytes, size: int) -> float | None:
    at = head.find(b"avih")
    if at < 0 or len(head) < at + 28 or int.from_bytes(head[4:8], "little") * SHORTER < size:
        return None
    return int.from_bytes(head[at + 8 : at + 12], "little") * int.from_bytes(head[at + 24 : at + 28], "little") / 1e6


def _asf(head: bytes, size: int) -> float | None:
    at = head.find(FILE_PROPERTIES)
    if at < 0 or len(head) < at + 88 or int.from_bytes(head[at + 40 : at + 48], "little") * SHORTER < size:
        return None
    play, preroll = (int.from_bytes(head[at + place : at + place + 8], "little") for place in (64, 80))
    return play / 1e7 - preroll / 1e3
