"""The engine's input for a moment of a title: near enough to it to start decoding there."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from ..commands import pipe_input, safe_file_input
from ..commands.inputs import begin_at, read_before_s
from ..commands.looking import View
from ..engine import Feed
from ..media import PTS_HZ, SECTOR_BYTES, Cell, CellData, Extent, StreamKind, Title
from ..media.kept import MEANT_S
from ..sources.material.feed import declare, feed_extents, feed_title
from ..sources.material.seek import begun_near, find_place
from ..sources.material.timeline import ProgramTimeline

EXCERPT_BYTES = 6 << 20
ROUNDED_S = 0.0005
MOST_BYTES = 160 << 20
TRANSPORT_EXCERPT_BYTES = 20 << 20  # its rates are several times those of a DVD


@dataclass(frozen=True, slots=True, kw_only=True)
class Excerpt:
    """How the engine is to look there, and the feed where its input is standard input."""

    view: View
    feed: Feed | None

    @property
    def looks_long(self) -> bool:
        """Whether the engine has to look at all streams first: only then it knows where such a file begins."""
        return self.feed is None and self.view.shown_s is not None


def excerpt(title: Title, at_s: float, most_bytes: int | None = None) -> Excerpt:
    """Where to read to see the title at ``at_s`` seconds; for disc titles within a second or so."""
    data = title.data
    if not isinstance(data, CellData):
        source = ("-nostdin", *begin_at(title, data.from_s + max(0.0, at_s)), *safe_file_input(data.path))
        return Excerpt(view=View(title=title, source=source), feed=None)
    found = list(_pieces(data.cells, at_s + data.skip_s, most_bytes or _most(data)))
    return Excerpt(view=View(title=title, source=tuple(pipe_input(data.stream))), feed=lambda: _fed(data, found))


def exact_excerpt(title: Title, at_s: float) -> Excerpt:
    """Where to read to see just the picture that is shown at a moment. Raises ``OSError``."""
    data = title.data
    moment_s = max(0.0, at_s - MEANT_S)
    if not isinstance(data, CellData):
        lead_s = read_before_s(title, data.from_s + moment_s)
        start_s = data.from_s + moment_s - lead_s
        span = title.video.span if title.video else None
        # read alone, pictures that begin later than that begin at zero
        late_s = max(0.0, span.start_s - start_s) if span and lead_s else 0.0
        source = ("-nostdin", *begin_at(title, start_s), *safe_file_input(data.path))
        return Excerpt(view=View(title=title, source=source, shown_s=lead_s - late_s if lead_s else None), feed=None)
    place = find_place(data, moment_s, _most(data))
    if place is None:
        return excerpt(title, at_s)
    source = ("-copyts", *pipe_input(data.stream))
    view = View(title=title, source=source, shown_s=place.zero_s + moment_s - ROUNDED_S)
    return Excerpt(view=view, feed=lambda: feed_extents(place.parts))


def stretch(title: Title, from_s: float, until_s: float) -> Excerpt:
    """Where to read to see all of a stretch, over the ends of cells too. Raises ``OSError``."""
    data = title.data
    if not isinstance(data, CellData):
        return exact_excerpt(title, from_s + MEANT_S - ROUNDED_S)
    cells = _within(data, from_s, until_s)
    first = cells[0] if cells else None
    if first is None or first.pts is None:
        return excerpt(title, from_s, MOST_BYTES)
    into_s = max(0.0, from_s + data.skip_s - first.start_s)
    moved = tuple(replace(one, start_s=one.start_s - first.start_s) for one in cells)
    fed = begun_near(replace(data, cells=moved, skip_s=into_s))
    source = ("-copyts", *pipe_input(data.stream))
    view = View(title=title, source=source, shown_s=first.pts / PTS_HZ + into_s - ROUNDED_S)
    return Excerpt(view=view, feed=lambda: feed_title(fed, leads=True))


def _within(data: CellData, from_s: float, until_s: float) -> list[Cell]:
    begin_s, end_s = from_s + data.skip_s, until_s + data.skip_s
    return [cell for cell in data.cells if cell.start_s < end_s and cell.start_s + cell.duration_s > begin_s]


def with_subtitles(title: Title, track: int | None, feed: Feed | None) -> Feed | None:
    """The excerpt's feed with a DVD's subtitle stream declared at its front, where the engine would miss it."""
    data = title.data
    stream_id = title.subtitles[track].stream_id if track is not None else None
    if feed is None or stream_id is None or not isinstance(data, CellData) or data.stream is StreamKind.TRANSPORT:
        return feed
    plain, wanted = feed, stream_id

    def declared() -> Iterator[bytes]:
        chunks = plain()
        first = next(chunks, b"")
        yield declare(first, (wanted,))
        yield first
        yield from chunks

    return declared


def _most(data: CellData) -> int:
    return TRANSPORT_EXCERPT_BYTES if data.stream is StreamKind.TRANSPORT else EXCERPT_BYTES


def _fed(data: CellData, found: list[tuple[Cell, Extent]]) -> Iterator[bytes]:
    """The pieces; those of a program stream on one time line, so that playing on over a cell's end works."""
    if data.stream is StreamKind.TRANSPORT:
        yield from feed_extents([extent for _, extent in found])
        return
    line = ProgramTimeline()
    last: Cell | None = None
    for cell, extent in found:
        if cell is not last:
            line.begin(cell)
            last = cell
        for chunk in feed_extents([extent]):
            if passed := line.pass_on(chunk):
                yield passed


def _pieces(cells: tuple[Cell, ...], at_s: float, left: int = EXCERPT_BYTES) -> Iterator[tuple[Cell, Extent]]:
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
            yield cell, Extent(path=piece.path, offset_bytes=piece.offset_bytes + skip, length_bytes=length)
            left -= length
            skip = 0
            if left <= 0:
                return
