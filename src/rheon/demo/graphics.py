"""Presentation graphics, the subtitle pictures of Blu-ray discs, written from painted lines.

Source of the layout: US patent application 2009/0185789 A1 (segments of the presentation graphics stream), as the
engine reads them back.
"""

from __future__ import annotations

import struct
from collections.abc import Iterator, Sequence
from pathlib import Path

from PIL import Image

from .paint import paint_line
from .scenario import Line

PALETTE, OBJECT, COMPOSITION, WINDOWS, END = 0x14, 0x15, 0x16, 0x17, 0x80
EPOCH_START, NORMAL, FORCED = 0x80, 0x00, 0x40
COLOURS = {0: (16, 128, 128, 0), 1: (235, 128, 128, 255), 2: (30, 128, 128, 230)}


def write_graphics(lines: Sequence[Line], size: tuple[int, int], target: Path, shift_s: float = 0.0) -> None:
    """Write a ``.sup`` file that shows each line on a picture of ``size``; ``shift_s`` is taken from all times."""
    # something at the very start, or the engine would move the first line there
    nothing = struct.pack(">HHBHBBBB", *size, 0x10, 0xFFFF, EPOCH_START, 0, 0, 0)
    made = bytearray(_segment(0, COMPOSITION, nothing) + _segment(0, END, b""))
    for number, line in enumerate(lines):
        picture = target.with_name(f"{target.stem}-{number}.png")
        paint_line(line, size[0], picture)
        shown = _indexed(picture)
        made += _shown(number * 2, line, size, shown, shift_s)
        made += _cleared(number * 2 + 1, line, size, shown, shift_s)
    target.write_bytes(made)


def _indexed(path: Path) -> Image.Image:
    """The painted line as 0 for nothing, 1 for letters, 2 for their edge."""
    painted = Image.open(path).convert("RGBA")
    alpha, bright = painted.getchannel("A"), painted.convert("L")
    letters = bright.point(lambda v: 1 if v > 128 else 2)
    indexed = Image.new("L", painted.size, 0)
    indexed.paste(letters, mask=alpha.point(lambda v: 255 if v > 100 else 0))
    return indexed.crop(indexed.getbbox() or (0, 0, 8, 8))


def _shown(number: int, line: Line, size: tuple[int, int], picture: Image.Image, shift_s: float) -> bytes:
    at = round((line.start_s - shift_s) * 90_000)
    x, y = (size[0] - picture.width) // 2, size[1] - picture.height - size[1] // 12
    flags = FORCED if line.forced else 0
    composition = struct.pack(">HHBHBBBB", *size, 0x10, number, EPOCH_START, 0, 0, 1)
    composition += struct.pack(">HBBHH", 0, 0, flags, x, y)
    rows = b"".join(_row(picture, row) for row in range(picture.height))
    item = struct.pack(">HBB", 0, 0, 0xC0) + (len(rows) + 4).to_bytes(3)
    item += struct.pack(">HH", picture.width, picture.height) + rows
    colours = b"".join(bytes([index, *values]) for index, values in COLOURS.items())
    return b"".join(
        (
            _segment(at, COMPOSITION, composition),
            _segment(at, WINDOWS, _window(picture, x, y)),
            _segment(at, PALETTE, b"\0\0" + colours),
            _segment(at, OBJECT, item),
            _segment(at, END, b""),
        )
    )


def _cleared(number: int, line: Line, size: tuple[int, int], picture: Image.Image, shift_s: float) -> bytes:
    at = round((line.end_s - shift_s) * 90_000)
    x, y = (size[0] - picture.width) // 2, size[1] - picture.height - size[1] // 12
    composition = struct.pack(">HHBHBBBB", *size, 0x10, number, NORMAL, 0, 0, 0)
    return (
        _segment(at, COMPOSITION, composition) + _segment(at, WINDOWS, _window(picture, x, y)) + _segment(at, END, b"")
    )


def _window(picture: Image.Image, x: int, y: int) -> bytes:
    return struct.pack(">BBHHHH", 1, 0, x, y, picture.width, picture.height)


def _segment(at: int, kind: int, body: bytes) -> bytes:
    return b"PG" + struct.pack(">IIBH", at, 0, kind, len(body)) + body


def _row(picture: Image.Image, row: int) -> bytes:
    """One line of the picture, run-length coded."""
    made = bytearray()
    for colour, length in _runs(list(picture.crop((0, row, picture.width, row + 1)).tobytes())):
        if colour == 0:
            made += bytes([0, length]) if length < 64 else bytes([0, 0x40 | length >> 8, length & 255])
        elif length < 3:
            made += bytes([colour]) * length
        elif length < 64:
            made += bytes([0, 0x80 | length, colour])
        else:
            made += bytes([0, 0xC0 | length >> 8, length & 255, colour])
    return bytes(made) + b"\0\0"


def _runs(pixels: Sequence[int]) -> Iterator[tuple[int, int]]:
    start = 0
    for at in range(1, len(pixels) + 1):
        if at == len(pixels) or pixels[at] != pixels[start]:
            yield pixels[start], at - start
            start = at
