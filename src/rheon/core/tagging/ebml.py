"""EBML elements (RFC 8794): written, and found in a file without reading what they hold."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import BinaryIO

from ..errors import TagsRefused

VOID = 0xEC
CRC = 0xBF
WIDEST = 8


@dataclass(frozen=True, slots=True)
class Element:
    """An element of a file: where it begins, how long its head and what it holds are, in bytes."""

    id: int
    at: int
    head: int
    size: int

    @property
    def data_at(self) -> int:
        return self.at + self.head

    @property
    def end(self) -> int:
        return self.at + self.head + self.size


def size_bytes(size: int, width: int = 0) -> bytes:
    """A data size (RFC 8794, 4) in the fewest bytes, or in ``width`` of them."""
    width = width or next(n for n in range(1, WIDEST + 1) if size < (1 << 7 * n) - 1)
    return (size | 1 << 7 * width).to_bytes(width, "big")


def id_bytes(element: int) -> bytes:
    return element.to_bytes((element.bit_length() + 7) // 8, "big")


def master(element: int, *children: bytes) -> bytes:
    return binary(element, b"".join(children))


def binary(element: int, data: bytes) -> bytes:
    return id_bytes(element) + size_bytes(len(data)) + data


def text(element: int, said: str) -> bytes:
    return binary(element, said.encode())


def unsigned(element: int, value: int) -> bytes:
    return binary(element, value.to_bytes(max(1, (value.bit_length() + 7) // 8), "big"))


def void(length: int) -> bytes:
    """An empty element of exactly so many bytes in all; at least two."""
    width = 1 if length - 2 < 127 else WIDEST
    return id_bytes(VOID) + size_bytes(length - 1 - width, width) + bytes(length - 1 - width)


def read_element(file: BinaryIO, at: int, end: int) -> Element:
    """The element that begins at a place. Raises ``TagsRefused`` where none does, or of unknown size."""
    file.seek(at)
    head = file.read(12)
    id_width = 9 - head[0].bit_length() if head and head[0] >= 0x10 else 0
    if not id_width or len(head) <= id_width or not head[id_width]:
        raise TagsRefused("This file can't be tagged: its structure breaks off at byte {at}.", at=at)
    width = 9 - head[id_width].bit_length()
    size = int.from_bytes(head[id_width : id_width + width], "big") & ((1 << 7 * width) - 1)
    element = Element(int.from_bytes(head[:id_width], "big"), at, id_width + width, size)
    if size == (1 << 7 * width) - 1 or element.end > end:
        raise TagsRefused("This file can't be tagged: its structure breaks off at byte {at}.", at=at)
    return element


def children(file: BinaryIO, of: Element) -> Iterator[Element]:
    """What an element holds. Raises ``TagsRefused``."""
    at = of.data_at
    while at < of.end:
        found = read_element(file, at, of.end)
        yield found
        at = found.end


def content(file: BinaryIO, element: Element) -> bytes:
    file.seek(element.data_at)
    return file.read(element.size)


def whole(file: BinaryIO, element: Element) -> bytes:
    """The element with its head."""
    file.seek(element.at)
    return file.read(element.head + element.size)
