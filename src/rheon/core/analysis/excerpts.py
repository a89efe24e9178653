"""The engine's input for a moment of a title: near enough to it to start decoding there."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ..engine import Feed, pipe_input, safe_file_input
from ..media import SECTOR_BYTES, Cell, CellData, Extent, StreamKind, Title
from ..sources.feed import feed_extents

EXCERPT_BYTES = 6 << 20
TRANSPORT_EXCERPT_BYTES = 20 << 20  # its rates are several times those of a DVD


@dataclass(frozen=True, slots=True, kw_only=True)
class Excerpt:
    """Input arguments, and the feed where the input is standard input."""

    arguments: list[str]
    feed: Feed | None


def excerpt(title: Title, at_s: float) -> Excerpt:
    """Where to read to see the title at ``at_s`` seconds; for disc titles within a second or so."""
    if not isinstance(title.data, CellData):
        return Excerpt(
            arguments=[
                "-nostdin",
                "-ss",
                f"{title.data.from_s + max(0.0, at_s):.3f}",
                *safe_file_input(title.data.path),
            ],
            feed=None,
        )
    extents = list(_from(title.data.cells, at_s, _most(title.data)))
    return Excerpt(arguments=pipe_input(title.data.stream), feed=lambda: feed_extents(extents))


def _most(data: CellData) -> int:
    return TRANSPORT_EXCERPT_BYTES if data.stream is StreamKind.TRANSPORT else EXCERPT_BYTES


def _from(cells: tuple[Cell, ...], at_s: float, left: int = EXCERPT_BYTES) -> Iterator[Extent]:
    """Up to ``left`` bytes from the place in the cells that plays at ``at_s``, by proportion within the cell."""
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
