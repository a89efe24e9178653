"""The engine's input for a moment of a title: near enough to it to start decoding there."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ..engine import PIPE_INPUT, Feed, safe_file_input
from ..media import SECTOR_BYTES, Cell, CellData, Extent, Title
from ..sources.feed import feed_extents

EXCERPT_BYTES = 6 << 20


@dataclass(frozen=True, slots=True, kw_only=True)
class Excerpt:
    """Input arguments, and the feed where the input is standard input."""

    arguments: list[str]
    feed: Feed | None


def excerpt(title: Title, at_s: float) -> Excerpt:
    """Where to read to see the title at ``at_s`` seconds; for disc titles within a second or so."""
    if not isinstance(title.data, CellData):
        return Excerpt(
            arguments=["-nostdin", "-ss", f"{max(0.0, at_s):.3f}", *safe_file_input(title.data.path)], feed=None
        )
    extents = list(_from(title.data.cells, at_s))
    return Excerpt(arguments=[*PIPE_INPUT, "-i", "pipe:0"], feed=lambda: feed_extents(extents))


def _from(cells: tuple[Cell, ...], at_s: float) -> Iterator[Extent]:
    """Up to ``EXCERPT_BYTES`` from the place in the cells that plays at ``at_s``, by proportion within the cell."""
    left = EXCERPT_BYTES
    for cell in cells:
        if cell.start_s + cell.duration_s <= at_s and cell is not cells[-1]:
            continue
        part = max(0.0, at_s - cell.start_s) / cell.duration_s if cell.duration_s else 0.0
        skip = int(cell.size_bytes * min(part, 0.98)) // SECTOR_BYTES * SECTOR_BYTES
        for piece in cell.extents:
            if skip >= piece.length_bytes:
                skip -= piece.length_bytes
                continue
            length = min(left, piece.length_bytes - skip)
            yield Extent(path=piece.path, offset_bytes=piece.offset_bytes + skip, length_bytes=length)
            left -= length
            skip = 0
            if left <= 0:
                return
