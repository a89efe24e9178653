"""Cutting and joining the demo's discs into cases that no authoring tool makes."""

from __future__ import annotations

import itertools
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

from tests.core.sources.table_builder import BuiltCell, BuiltChain, BuiltSet, audio
from tests.instruments.engine import output_of

from rheon.core.commands import pipe_input
from rheon.core.media import Cell, CellData, StreamKind, Title
from rheon.core.sources.dvd.navigation import is_navigation
from rheon.core.sources.material.feed import feed_extents

SECTOR = 2048
NO_VOBU = 0xFFFFFFFF


def title_bytes(title: Title) -> bytes:
    assert isinstance(title.data, CellData)
    return b"".join(feed_extents(title.data.extents))


def vobus_of(data: bytes) -> list[bytes]:
    """The video object units of a program stream, each starting with its navigation pack."""
    starts = [at for at in range(0, len(data), SECTOR) if is_navigation(data, at)] + [len(data)]
    return [data[one:other] for one, other in itertools.pairwise(starts)]


def one_after_the_other(*titles: Title) -> CellData:
    """The cells of several titles as those of one: their clocks restart at each."""
    cells: list[Cell] = []
    at = 0.0
    for title in titles:
        assert isinstance(title.data, CellData)
        for cell in title.data.cells:
            cells.append(replace(cell, start_s=at))
            at += cell.duration_s
    return CellData(cells=tuple(cells))


def interleaved(one: bytes, other: bytes, each: int = 2) -> tuple[bytes, int, int]:
    """Two angles' data in interleaved units of ``each`` video object units, and the last sector of either.

    The navigation packs are told where their unit ends and where the next of the same angle lies.
    """
    angles = [_groups(one, each), _groups(other, each)]
    count = min(map(len, angles))
    order = [(angle, n) for n in range(count) for angle in (0, 1)]
    starts, at = {}, 0
    for angle, n in order:
        starts[angle, n] = at
        at += len(angles[angle][n]) // SECTOR
    made = bytearray()
    for angle, n in order:
        group = bytearray(angles[angle][n])
        last = len(group) // SECTOR - 1
        following = starts.get((angle, n + 1))
        for place in range(0, len(group), SECTOR):
            if is_navigation(group, place):
                here = starts[angle, n] + place // SECTOR
                group[place + 0x429 : place + 0x42D] = (last - place // SECTOR).to_bytes(4)
                step = NO_VOBU if following is None else following - here
                group[place + 0x42D : place + 0x431] = step.to_bytes(4)
        made += group
    ends = [starts[angle, count - 1] + len(angles[angle][count - 1]) // SECTOR - 1 for angle in (0, 1)]
    return bytes(made), ends[0], ends[1]


def _groups(data: bytes, each: int) -> list[bytes]:
    vobus = vobus_of(data)
    return [b"".join(vobus[at : at + each]) for at in range(0, len(vobus), each)]


def angle_disc(folder: Path, one: bytes, other: bytes, seconds: int) -> Path:
    """A disc folder with one title of two interleaved angles."""
    data, last_one, last_other = interleaved(one, other)
    first, last = 0b01_01_0100, 0b11_01_0100
    start_other = _second_start(data)
    chain = BuiltChain(
        cells=[
            BuiltCell(f"0000{seconds:02}40", 0, last_one, first),
            BuiltCell(f"0000{seconds:02}40", start_other, last_other, last),
        ],
        audio={0: 0x8000},
    )
    built = BuiltSet(chains=[chain], titles=[[(1, 1)]], audio=[audio(0, 2, "en")])
    folder.mkdir(parents=True)
    (folder / "VTS_01_0.IFO").write_bytes(built.data())
    (folder / "VTS_01_1.VOB").write_bytes(data)
    return folder


def _second_start(data: bytes) -> int:
    """The sector after the first interleaved unit."""
    return int.from_bytes(data[0x429:0x42D]) + 1


def pts_of(chunks: Iterator[bytes], kind: str, stream: StreamKind = StreamKind.PROGRAM) -> list[float]:
    """Presentation times of the packets of a kind of stream, as the engine reads them."""
    argv = ["ffprobe", "-v", "error", *pipe_input(stream), "-select_streams", kind]
    argv += ["-show_entries", "packet=pts_time", "-of", "csv=p=0"]
    said = output_of(argv, feed=lambda: chunks).decode()
    return [float(line.strip(",")) for line in said.split() if line.strip(",") not in ("", "N/A")]
