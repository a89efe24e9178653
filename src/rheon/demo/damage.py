"""What goes wrong with discs: a stretch that could not be read, and data that are scrambled."""

from __future__ import annotations

from pathlib import Path

from rheon.core.media import PTS_HZ
from rheon.core.sources.dvd.navigation import is_navigation, read_navigation

SECTOR = 2048
SCRAMBLED_IDS = (0xE0, 0xBD)


def blank(path: Path, from_s: float, to_s: float) -> None:
    """Leave zeros where the data between two moments lie, as copying programs do over scratches."""
    data = bytearray(path.read_bytes())
    origin: int | None = None
    dead = False
    for at in range(0, len(data), SECTOR):
        if is_navigation(data, at) and (pack := read_navigation(data, at)) is not None:
            origin = pack.start_pts if origin is None else origin
            dead = from_s <= (pack.start_pts - origin) / PTS_HZ < to_s
        if dead:
            data[at : at + SECTOR] = bytes(SECTOR)
    path.write_bytes(data)


def mark_scrambled(path: Path) -> None:
    """Set the scrambling bits of all packets but those at the start, which are often clear."""
    data = bytearray(path.read_bytes())
    for start in range(len(data) // 5 // SECTOR * SECTOR, len(data), SECTOR):
        packet = start + 14 + (data[start + 13] & 7)
        if data[packet + 3] in SCRAMBLED_IDS:
            data[packet + 6] |= 0x30
    path.write_bytes(data)
