"""Whether the stretches of a disc's title follow each other in the data."""

from __future__ import annotations

import itertools

from .source import Cell, CellData, StreamKind


def has_seams(data: CellData) -> bool:
    """Whether a DVD title has stretches whose data do not follow each other."""
    pairs = itertools.pairwise(data.cells)
    return data.stream is StreamKind.PROGRAM and any(not touches(one, other) for one, other in pairs)


def touches(before: Cell, cell: Cell) -> bool:
    """Whether a cell's data follow those of the one before it, or are interleaved with others, as angles are."""
    if not before.extents or not cell.extents or cell.pts is None:
        return True
    last, first = before.extents[-1], cell.extents[0]
    follows = [(last.path, last.offset_bytes + last.length_bytes)]
    follows += [(lap.path, lap.offset_bytes) for lap in before.lap[:1]]
    interleaved = any(not one.lap and not one.lead for one in (before, cell))
    return interleaved or (first.path, first.offset_bytes) in follows
