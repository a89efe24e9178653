"""Pictures copied between encoded edges: every piece as a transport stream, one after the other on one pipe."""

from __future__ import annotations

import functools
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

from ..commands.making import Job, Placed, edge_command, edge_job, middle_command, middle_job
from ..commands.making.concat import begins_s
from ..commands.making.edges import REORDERED_ONCE
from ..commands.making.inputs import BASE_S
from ..engine import Command, Feed, run, stream
from ..errors import EngineError
from ..media import PTS_HZ, Title
from ..media.kept import LEAST_S, cut_times, reading_begins_s
from .parameter_sets import begins_anew, free_id, headers_of
from .transport import PACKET_BYTES, FirstPicture, count_pictures, first_picture, with_headers

FIRST_TIMEOUT_S = 120
READ_BYTES = PACKET_BYTES << 13


@dataclass(frozen=True, slots=True, kw_only=True)
class EdgedPictures:
    """The pictures of a file, and when the first one of them comes."""

    first_s: float
    feed: Feed


@dataclass(frozen=True, slots=True, kw_only=True)
class _Piece:
    """A stretch of the title, and when its own zero comes in the output."""

    title: Title
    at_s: float
    is_middle: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Splicing:
    """What all pieces share: the job, where encoded edges lie until they are read, what feeds the engine, who may stop
    it and who hears its complaints.
    """

    job: Job
    folder: Path
    feed: Callable[[Job], Feed | None]
    should_stop: Callable[[], bool]
    is_paused: Callable[[], bool]
    on_complaint: Callable[[str], None]


def edged_pictures(whole: Title, splicing: Splicing) -> EdgedPictures:
    """The pictures of a job whose settings name what is copied of each kept stretch of the ``whole`` title.

    Raises ``EngineError`` where they can't be put together, what ``run`` raises else.
    """
    job = splicing.job
    pieces = _pieces(whole, job)
    firsts = [_first_of(splicing, piece) for piece in pieces if piece.is_middle]
    delay_s = max((one.pts - one.dts) / PTS_HZ for one in firsts)
    headers, number = b"", 0
    assert job.settings.video is not None
    if job.settings.video.codec == "h264":
        headers, number = _headers(firsts)
    edges = [_edge(splicing, piece, delay_s, number) for piece in pieces if not piece.is_middle]
    encoded = first_picture(next(_read(edges[0]), b"")) if edges else None
    first, other = (firsts[0], encoded) if pieces[0].is_middle or encoded is None else (encoded, firsts[0])
    # each coder's headers have to be known from the beginning: those of the one that does not begin are put before
    before = headers_of(other.data) if headers and other else b""
    made = functools.partial(_follow, splicing, pieces, edges)
    return EdgedPictures(first_s=first.pts / PTS_HZ - BASE_S, feed=lambda: with_headers(made(), before))


def _pieces(whole: Title, job: Job) -> list[_Piece]:
    found: list[_Piece] = []
    for number, (kept, middle) in enumerate(zip(job.settings.kept, job.settings.middles, strict=True)):
        zero_s = (begins_s(job, number) if job.pieces else 0.0) - reading_begins_s(whole, kept.from_s)
        for from_s, until_s in (
            (kept.from_s, middle.from_s), (middle.from_s, middle.until_s), (middle.until_s, kept.until_s),
        ):  # fmt: skip
            if until_s - from_s >= LEAST_S:
                stretch = cut_times(whole, from_s, until_s, whole.number)
                at_s = zero_s + reading_begins_s(whole, from_s)
                found.append(_Piece(title=stretch, at_s=at_s, is_middle=from_s == middle.from_s))
    return found


def _first_of(splicing: Splicing, piece: _Piece) -> FirstPicture:
    job = middle_job(splicing.job, piece.title)
    argv = middle_command(job, piece.at_s, only_first=True)
    command = Command(argv=argv, feed=splicing.feed(job), timeout_s=FIRST_TIMEOUT_S, should_stop=splicing.should_stop)
    found = first_picture(run(command).stdout)
    if found is None:
        raise EngineError("The source has no picture where its copied pictures begin.")
    return found


def _headers(firsts: list[FirstPicture]) -> tuple[bytes, int]:
    """The source's headers, and a number that they leave free."""
    found = {headers_of(first.data) for first in firsts}
    headers = next(iter(found))
    number = free_id(headers)
    if len(found) > 1 or not headers or number is None or not all(begins_anew(first.data) for first in firsts):
        raise EngineError("The source's pictures can't follow encoded ones.")
    return headers, number


def _edge(splicing: Splicing, piece: _Piece, delay_s: float, number: int) -> Path:
    target = splicing.folder / f"edge-{piece.at_s:.3f}.ts"
    job = edge_job(splicing.job, piece.title, str(target))
    made = job.settings.video
    assert made is not None
    delay_s = min(delay_s, float(1 / made.frame_rate)) if made.codec in REORDERED_ONCE else delay_s
    placed = Placed(at_s=piece.at_s, count=_count(piece.title, made.frame_rate), delay_s=delay_s)
    run(
        Command(
            argv=edge_command(job, placed, number),
            timeout_s=None,
            gentle=True,
            feed=splicing.feed(job.each[0]),
            should_stop=splicing.should_stop,
            is_paused=splicing.is_paused,
            on_complaint=splicing.on_complaint,
        )
    )
    if sum(map(count_pictures, _read(target))) != placed.count:
        raise EngineError("The engine did not make every picture of an edge.")
    return target


def _count(title: Title, rate: Fraction) -> int:
    return round(title.duration_s * rate)


def _read(path: Path) -> Iterator[bytes]:
    with path.open("rb") as handle:
        while chunk := handle.read(READ_BYTES):
            yield chunk


def _follow(splicing: Splicing, pieces: list[_Piece], edges: list[Path]) -> Iterator[bytes]:
    left = iter(edges)
    for piece in pieces:
        if not piece.is_middle:
            yield from _read(next(left))
            continue
        job = middle_job(splicing.job, piece.title)
        yield from stream(
            Command(
                argv=middle_command(job, piece.at_s),
                timeout_s=None,
                gentle=True,
                feed=splicing.feed(job),
                on_complaint=splicing.on_complaint,
            )
        )
