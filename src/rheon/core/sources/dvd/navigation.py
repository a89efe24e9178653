"""Navigation packs: what the data themselves say of time and of the way through interleaved angles.

Source: DVD Specifications for Read-Only Disc, part 3 (PCI and DSI packets), as found by reading authored discs.
"""

from __future__ import annotations

from dataclasses import dataclass

from ...media import SECTOR_BYTES
from .ifo import cell_time

SYSTEM_HEADER = b"\x00\x00\x01\xbb"
PRIVATE_2 = b"\x00\x00\x01\xbf"
PRESENTATION_AT, SEARCH_AT = 0x26, 0x400
NO_VOBU = (0, 0xFFFFFFFF, 0x7FFFFFFF)


@dataclass(frozen=True, slots=True, kw_only=True)
class NavigationPack:
    """The first sector of a video object unit. Times are 90 kHz time stamps, sectors count from this one.

    ``elapsed_s`` is the time since the cell began. ``unit_end_sector`` is the last sector of the interleaved unit that
    it lies in and ``next_unit_sector`` where the same angle goes on; both are ``None`` outside interleaved blocks.
    """

    start_pts: int
    end_pts: int
    vob: int
    cell: int
    elapsed_s: float | None
    unit_end_sector: int | None
    next_unit_sector: int | None


def is_navigation(data: bytes | bytearray, at: int = 0) -> bool:
    """Whether a navigation pack starts at ``at``."""
    return (
        data[at + 14 : at + 18] == SYSTEM_HEADER
        and data[at + PRESENTATION_AT : at + PRESENTATION_AT + 4] == PRIVATE_2
        and data[at + SEARCH_AT : at + SEARCH_AT + 4] == PRIVATE_2
    )


def read_navigation(data: bytes | bytearray, at: int = 0) -> NavigationPack | None:
    """The navigation pack at ``at``; ``None`` where there is none."""
    if len(data) - at < SECTOR_BYTES or not is_navigation(data, at):
        return None

    def word(offset: int, length: int = 4) -> int:
        return int.from_bytes(data[at + offset : at + offset + length])

    try:
        elapsed: float | None = cell_time(data[at + 0x423 : at + 0x427])
    except ValueError:
        elapsed = None
    unit_end_sector, next_unit_sector = word(0x429), word(0x42D)
    return NavigationPack(
        start_pts=word(0x39),
        end_pts=word(0x3D),
        vob=word(0x41F, 2),
        cell=word(0x422, 1),
        elapsed_s=elapsed,
        unit_end_sector=None if unit_end_sector in NO_VOBU else unit_end_sector,
        next_unit_sector=None if next_unit_sector in NO_VOBU else next_unit_sector,
    )
