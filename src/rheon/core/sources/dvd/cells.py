"""Where the cells of a DVD title lie, and which stretches of them can't be read."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from ...media import PTS_HZ, SECTOR_BYTES, Cell, Extent, Gap
from ..faults import joined
from ..images.disc_files import DiscFiles, pieces
from .ifo import ChainCell
from .navigation import NavigationPack, read_navigation

MOST_CHECKS = 400
MOST_INTERLEAVED_UNITS = 20_000
LEAD_SECTORS, LAP_SECTORS = 2000, 1500
"""A VOBU lasts a second at most, and sound comes that much later than its pictures: at 10 Mb/s about 600 sectors."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Located:
    """A title's cells with their places; ``cut_s`` is where the data end too early, ``gaps`` are holes before that."""

    cells: tuple[Cell, ...]
    gaps: tuple[Gap, ...]
    cut_s: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class TitleSetData:
    """The data of one title set: its parts in order, and the sectors at which its video object units (VOBUs) start."""

    files: DiscFiles
    parts: tuple[Extent, ...]
    vobus: tuple[int, ...] = ()

    def navigation(self, sector: int) -> NavigationPack | None:
        """The navigation pack at a sector; ``None`` where there is none or it can't be read."""
        data = b"".join(self.files.read_extent(extent) for extent in self.extents(sector, sector))
        return read_navigation(data)

    def extents(self, first: int, last: int) -> tuple[Extent, ...]:
        return sector_extents(self.parts, first, last)


def vob_parts(files: DiscFiles, title_set: int) -> tuple[Extent, ...]:
    """The parts of a title set's data in order; ``VTS_xx_0.VOB`` is the menu and not among them."""
    names = (f"VTS_{title_set:02}_{part}.VOB" for part in range(1, 10))
    return tuple(extent for name in names if files.has(name) for extent in files.runs[name])


def sector_extents(parts: Sequence[Extent], first: int, last: int) -> tuple[Extent, ...]:
    """Where sectors ``first`` to ``last`` (both included) lie in the parts; short where the parts end early."""
    return pieces(parts, first * SECTOR_BYTES, (last + 1) * SECTOR_BYTES)


def locate(data: TitleSetData, listed: Sequence[ChainCell]) -> Located:
    """Find the cells in the data, and the holes in them by asking at the starts of video object units (VOBUs)."""
    cells: list[Cell] = []
    gaps: list[Gap] = []
    at = 0.0
    checks = max(8, MOST_CHECKS // max(1, len(listed)))
    for entry in listed:
        pack = data.navigation(entry.first_sector)
        cell = Cell(
            start_s=at,
            duration_s=entry.duration_s,
            extents=_extents(data, entry),
            pts=pack.start_pts if pack else None,
            still_s=entry.still_s,
            lap=_lap(data, entry, pack),
            lead=_lead(data, entry, pack),
        )
        cells.append(cell)
        gaps += _gaps(data, entry, cell, checks)
        at += entry.duration_s
    return _ending(tuple(cells), joined(gaps), at)


def _lead(data: TitleSetData, entry: ChainCell, pack: NavigationPack | None) -> tuple[Extent, ...]:
    """The VOBU before a cell: a cell's first pictures may refer to the last ones there."""
    before = [vobu for vobu in data.vobus if vobu < entry.first_sector]
    if not before or entry.interleaved or entry.first_sector - before[-1] > LEAD_SECTORS:
        return ()
    if not _goes_on(data.navigation(before[-1]), pack):
        return ()
    return data.extents(before[-1], entry.first_sector - 1)


def _goes_on(one: NavigationPack | None, other: NavigationPack | None) -> bool:
    """Whether two VOBUs are of one video object, whose clock runs through."""
    return one is not None and other is not None and one.vob == other.vob and one.start_pts < other.start_pts


def _lap(data: TitleSetData, entry: ChainCell, pack: NavigationPack | None) -> tuple[Extent, ...]:
    """What follows a cell: pictures run ahead of their sound in the data, by up to a second."""
    if entry.interleaved or not _goes_on(pack, data.navigation(entry.last_sector + 1)):
        return ()
    return data.extents(entry.last_sector + 1, entry.last_sector + LAP_SECTORS)


def _extents(data: TitleSetData, entry: ChainCell) -> tuple[Extent, ...]:
    if not entry.interleaved:
        return data.extents(entry.first_sector, entry.last_sector)
    runs = list(_interleaved(data, entry))
    return tuple(extent for first, last in runs for extent in data.extents(first, last))


def _interleaved(data: TitleSetData, entry: ChainCell) -> Iterator[tuple[int, int]]:
    """The units of one angle, each as first and last sector: every unit's navigation pack says where the next lies."""
    sector = entry.first_sector
    for _ in range(MOST_INTERLEAVED_UNITS):
        pack = data.navigation(sector)
        if pack is None or pack.unit_end_sector is None:
            yield sector, entry.last_sector  # not interleaved after all, or damaged: the rest as it lies
            return
        yield sector, min(sector + pack.unit_end_sector, entry.last_sector)
        if pack.next_unit_sector is None or sector + pack.next_unit_sector > entry.last_sector:
            return
        sector += pack.next_unit_sector


def _gaps(data: TitleSetData, entry: ChainCell, cell: Cell, checks: int) -> Iterator[Gap]:
    """Stretches of a cell without navigation packs where the address map promises some."""
    vobus = [vobu for vobu in data.vobus if entry.first_sector <= vobu <= entry.last_sector]
    if not vobus or entry.interleaved:
        available = cell.size_bytes // SECTOR_BYTES
        wanted = entry.last_sector - entry.first_sector + 1
        if not entry.interleaved and available < wanted:
            yield Gap(from_s=cell.start_s + cell.duration_s * available / wanted, to_s=cell.start_s + cell.duration_s)
        return
    packs = _looked_up(data, vobus, checks)
    missing_from: float | None = None
    last_end = cell.start_s
    for pack in packs:
        if pack is None:
            missing_from = last_end if missing_from is None else missing_from
            continue
        starts = cell.start_s + min(pack.elapsed_s or 0.0, cell.duration_s)
        if missing_from is not None and starts > missing_from:
            yield Gap(from_s=missing_from, to_s=starts)
        missing_from = None
        last_end = starts + max(0, pack.end_pts - pack.start_pts) / PTS_HZ
    if missing_from is not None:
        yield Gap(from_s=missing_from, to_s=cell.start_s + cell.duration_s)


def _looked_up(data: TitleSetData, vobus: Sequence[int], checks: int) -> list[NavigationPack | None]:
    """The navigation packs of some VOBUs, and of all around those that are missing."""
    step = max(1, len(vobus) // checks)
    wanted = {*range(0, len(vobus), step), len(vobus) - 1}
    found = {at: data.navigation(vobus[at]) for at in sorted(wanted)}
    if step > 1:
        for at in [at for at, pack in found.items() if pack is None]:
            for near in range(max(0, at - step), min(len(vobus), at + step + 1)):
                if near not in found:
                    found[near] = data.navigation(vobus[near])
    return [found[at] for at in sorted(found)]


def _ending(cells: tuple[Cell, ...], gaps: tuple[Gap, ...], end_s: float) -> Located:
    """A gap that reaches to the end is no hole: the title ends there."""
    if not gaps or gaps[-1].to_s < end_s - 0.05:
        return Located(cells=cells, gaps=gaps, cut_s=None)
    cut_s = gaps[-1].from_s
    kept = [cell for cell in cells if cell.start_s < cut_s and cell.extents]
    if not kept:
        return Located(cells=cells, gaps=(), cut_s=0.0)
    last = kept[-1]
    kept[-1] = replace(last, duration_s=round(min(last.duration_s, cut_s - last.start_s), 3))
    return Located(cells=tuple(kept), gaps=gaps[:-1], cut_s=cut_s)
