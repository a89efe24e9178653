"""Which stretches of a disc's titles are the same bytes. Pure."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ...media import Cell, CellData, Share, Title

WHOLE = 0.98
NEAR = 0.90


@dataclass(frozen=True, slots=True, kw_only=True)
class Material:
    """What titles have in common: ``shares[n]`` are title ``n``'s stretches that others use as well."""

    shares: dict[int, tuple[Share, ...]]
    lengths: dict[int, float]

    def common_s(self, one: int, other: int) -> float:
        """How many seconds of title ``one`` are also in title ``other``."""
        return sum(share.to_s - share.from_s for share in self.shares[one] if share.title == other)

    def holds(self, one: int, other: int) -> bool:
        """Whether all of ``other`` lies in ``one``."""
        return self.lengths[other] > 0 and self.common_s(other, one) >= self.lengths[other] * WHOLE

    def parts_of(self, number: int) -> list[int]:
        """Shorter titles whose whole material lies in this one, without those that lie in another of them."""
        inside = [
            other
            for other in self.lengths
            if other != number and self.holds(number, other) and self.lengths[other] < self.lengths[number] * WHOLE
        ]
        return [one for one in inside if not any(other != one and self._covers(other, one, inside) for other in inside)]

    def _covers(self, other: int, one: int, inside: list[int]) -> bool:
        """Whether ``one`` is only a piece or a later copy of ``other``."""
        if not self.holds(other, one):
            return False
        return not self.holds(one, other) or inside.index(other) < inside.index(one)

    def near_copy(self, one: int, other: int) -> bool:
        """Whether either is nearly all of the other."""
        alike = self.common_s(one, other) >= NEAR * self.lengths[one]
        return alike and self.common_s(other, one) >= NEAR * self.lengths[other]


def compare(titles: Sequence[Title]) -> Material:
    """Compare the bytes of all titles with each other."""
    spans = {title.number: _spans(title) for title in titles}
    found = {
        title.number: tuple(
            share
            for other in titles
            if other.number != title.number and spans[other.number]
            for share in _shares(title, other.number, spans[other.number])
        )
        for title in titles
    }
    return Material(shares=found, lengths={title.number: title.duration_s for title in titles})


Spans = dict[str, list[tuple[int, int]]]


def _spans(title: Title) -> Spans:
    spans: Spans = {}
    if isinstance(title.data, CellData):
        for extent in title.data.extents:
            end = extent.offset_bytes + extent.length_bytes
            spans.setdefault(extent.path, []).append((extent.offset_bytes, end))
    return spans


def _shares(title: Title, other: int, theirs: Spans) -> list[Share]:
    """Runs of this title's cells whose bytes the other uses as well."""
    assert isinstance(title.data, CellData)
    runs: list[Share] = []
    for cell in title.data.cells:
        if cell.size_bytes == 0 or _covered(cell, theirs) < WHOLE:
            continue
        start, end = round(cell.start_s, 3), round(cell.start_s + cell.duration_s, 3)
        if runs and start - runs[-1].to_s < 0.01:
            start = runs.pop().from_s
        runs.append(Share(title=other, from_s=start, to_s=end))
    return runs


def _covered(cell: Cell, theirs: Spans) -> float:
    """The part of a cell's bytes that lies in the spans."""
    common = 0
    for extent in cell.extents:
        end = extent.offset_bytes + extent.length_bytes
        for low, high in theirs.get(extent.path, ()):
            common += max(0, min(end, high) - max(extent.offset_bytes, low))
    return min(1.0, common / cell.size_bytes)
