"""The UDF file system of disc images: directories and where each file's bytes lie, without mounting anything.

Sources: ECMA-167 (3rd edition), parts 3 and 4, for the descriptors; OSTA UDF 2.50, 2.2.10, for metadata partitions.
Numbers are little-endian; blocks are the sectors of 2048 bytes.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import BinaryIO

from construct import (
    Array,
    Bytes,
    Computed,
    Const,
    Container,
    Int8ul,
    Int16ul,
    Int32ul,
    Int64ul,
    Padding,
    Pointer,
    Struct,
    this,
)

from ...media import SECTOR_BYTES

ANCHOR_AT = 256
MOST_ENTRIES = 20_000
MOST_EXTENTS = 50_000
LARGEST_DIRECTORY_BYTES = 8 << 20
PRIMARY, PARTITION, LOGICAL_VOLUME, TERMINATOR = 1, 5, 6, 8
FILE_ENTRY, EXTENDED_FILE_ENTRY, NAME, MORE_EXTENTS = 261, 266, 257, 258
RECORDED, CONTINUES = 0, 3
IS_FOLDER, IS_DELETED, IS_PARENT = 2, 4, 8

_EXTENT = Struct("length" / Int32ul, "sector" / Int32ul)
_LONG = Struct("length" / Int32ul, "block" / Int32ul, "partition" / Int16ul, Padding(6))
_SHORT = Struct("length" / Int32ul, "block" / Int32ul)
_ANCHOR = Struct("tag" / Const(2, Int16ul), Padding(14), "main" / _EXTENT, "reserve" / _EXTENT)
_PARTITION = Struct("number" / Pointer(22, Int16ul), "start" / Pointer(188, Int32ul))
_VOLUME = Struct(
    "label" / Pointer(84, Bytes(128)),
    "block_bytes" / Pointer(212, Int32ul),
    "root_set" / Pointer(248, _LONG),
    "map_count" / Pointer(268, Int32ul),
    "maps" / Pointer(440, Bytes(512)),
)
_METADATA_MAP = Struct(
    "name" / Pointer(5, Bytes(23)), "partition" / Pointer(38, Int16ul), "file" / Pointer(40, Int32ul)
)
_FILE_SET = Struct("tag" / Const(256, Int16ul), "root" / Pointer(400, _LONG))
_FILE = Struct(
    "tag" / Int16ul,
    "kind" / Pointer(27, Int8ul),
    "flags" / Pointer(34, Int16ul),
    "length" / Pointer(56, Int64ul),
    "extended" / Computed(lambda c: c.tag == EXTENDED_FILE_ENTRY),
    "attributes_length" / Pointer(lambda c: 208 if c.extended else 168, Int32ul),
    "descriptors_length" / Pointer(lambda c: 212 if c.extended else 172, Int32ul),
    "descriptors_at" / Computed(lambda c: (216 if c.extended else 176) + c.attributes_length),
)
_MORE = Struct("tag" / Const(MORE_EXTENTS, Int16ul), Padding(18), "length" / Int32ul)
_NAME = Struct(
    "tag" / Const(NAME, Int16ul),
    Padding(16),
    "flags" / Int8ul,
    "name_length" / Int8ul,
    "place" / _LONG,
    "use_length" / Int16ul,
    Padding(this.use_length),
    "name" / Bytes(this.name_length),
)


class NotUdf(Exception):
    """The image holds no UDF file system, or its directories can't be read."""


@dataclass(frozen=True, slots=True, kw_only=True)
class UdfFile:
    """A file: its bytes as runs of (offset, length) in the image, in order."""

    runs: tuple[tuple[int, int], ...]

    @property
    def length(self) -> int:
        return sum(length for _, length in self.runs)


@dataclass(slots=True)
class UdfImage:
    """An opened UDF file system. Raises ``NotUdf`` from its constructor and from ``files``."""

    handle: BinaryIO
    label: str = ""
    bytes_read: int = 0
    _starts: dict[int, int] = field(default_factory=dict)
    _maps: list[_Map] = field(default_factory=list)
    _root: Container | None = None

    def __post_init__(self) -> None:
        try:
            self._mount()
        except NotUdf:
            raise
        except Exception as error:  # whatever a damaged descriptor makes its parser throw
            raise NotUdf("its descriptors can't be read") from error

    def files(self, folders: tuple[str, ...]) -> Iterator[tuple[str, UdfFile]]:
        """The files in the named folders of the root and one level below, as ``FOLDER/…/NAME`` in capitals."""
        try:
            yield from self._files(folders)
        except NotUdf:
            raise
        except Exception as error:
            raise NotUdf("its directories can't be read") from error

    def folders(self) -> list[str]:
        """The names of the folders in the root."""
        try:
            return [name for name, entry in self._listed(self._root_entry()) if entry.flags & IS_FOLDER]
        except Exception as error:
            raise NotUdf("its root can't be read") from error

    def _files(self, folders: tuple[str, ...]) -> Iterator[tuple[str, UdfFile]]:
        for name, entry in self._listed(self._root_entry()):
            if entry.flags & IS_FOLDER and name.upper() in folders:
                for inner, below in self._listed(self._entry(entry.place)):
                    path = f"{name}/{inner}".upper()
                    if not below.flags & IS_FOLDER:
                        yield path, self._file(below.place)
                        continue
                    for leaf, last in self._listed(self._entry(below.place)):
                        if not last.flags & IS_FOLDER:
                            yield f"{path}/{leaf}".upper(), self._file(last.place)

    def _mount(self) -> None:
        anchor = self._anchor()
        volume = None
        for sector in range(anchor.main.sector, anchor.main.sector + min(64, anchor.main.length // SECTOR_BYTES)):
            data = self._read(sector * SECTOR_BYTES, SECTOR_BYTES)
            tag = int.from_bytes(data[:2], "little")
            if tag == PARTITION:
                found = _PARTITION.parse(data)
                self._starts[found.number] = found.start
            elif tag == LOGICAL_VOLUME:
                volume = _VOLUME.parse(data)
            elif tag == TERMINATOR:
                break
        if volume is None or not self._starts or volume.block_bytes != SECTOR_BYTES:
            raise NotUdf("it lists no volume")
        self.label = _dstring(volume.label)
        self._read_maps(volume)
        root_set = self._read(self._place(volume.root_set.block, volume.root_set.partition), SECTOR_BYTES)
        self._root = _FILE_SET.parse(root_set).root

    def _anchor(self) -> Container:
        size = self.handle.seek(0, 2)
        for sector in (ANCHOR_AT, size // SECTOR_BYTES - 1, size // SECTOR_BYTES - 257):
            data = self._read(sector * SECTOR_BYTES, SECTOR_BYTES) if sector > 0 else b""
            if data[:2] == b"\x02\x00":
                return _ANCHOR.parse(data)
        raise NotUdf("it has no anchor")

    def _read_maps(self, volume: Container) -> None:
        at = 0
        for _ in range(min(8, volume.map_count)):
            kind, length = volume.maps[at], volume.maps[at + 1]
            raw = volume.maps[at : at + length]
            if kind == 1:
                self._maps.append(_Map(start=self._starts[int.from_bytes(raw[4:6], "little")]))
            else:
                found = _METADATA_MAP.parse(raw)
                if not found.name.startswith(b"*UDF Metadata Partition"):
                    raise NotUdf("it uses a kind of partition that discs do not have")
                start = self._starts[found.partition]
                self._maps.append(_Map(start=start))
                inner = self._entry_at((start + found.file) * SECTOR_BYTES)
                self._maps[-1] = _Map(start=start, runs=tuple(self._runs(inner, len(self._maps) - 1)))
            at += length

    def _place(self, block: int, partition: int) -> int:
        """The byte in the image at which a block of a partition starts."""
        return self._maps[partition].byte(block)

    def _root_entry(self) -> _Entry:
        assert self._root
        return self._entry(self._root)

    def _entry(self, place: Container) -> _Entry:
        return self._entry_at(self._place(place.block, place.partition), place.partition)

    def _entry_at(self, offset: int, partition: int = 0) -> _Entry:
        data = self._read(offset, SECTOR_BYTES)
        head = _FILE.parse(data)
        if head.tag not in (FILE_ENTRY, EXTENDED_FILE_ENTRY):
            raise NotUdf("a file's entry is missing")
        return _Entry(head=head, data=data, offset=offset, partition=partition)

    def _file(self, place: Container) -> UdfFile:
        entry = self._entry(place)
        return UdfFile(runs=_cut(list(self._runs(entry, entry.partition)), entry.head.length))

    def _listed(self, folder: _Entry) -> Iterator[tuple[str, Container]]:
        length = min(folder.head.length, LARGEST_DIRECTORY_BYTES)
        runs = _cut(list(self._runs(folder, folder.partition)), length)
        data = b"".join(self._read(offset, size) for offset, size in runs)
        at = 0
        for _ in range(MOST_ENTRIES):
            if at + 38 > len(data):
                return
            entry = _NAME.parse(data[at:])
            at += (38 + entry.use_length + entry.name_length + 3) // 4 * 4
            if not entry.flags & (IS_DELETED | IS_PARENT):
                yield _name(entry.name), entry

    def _runs(self, entry: _Entry, partition: int) -> Iterator[tuple[int, int]]:
        """Where a file's bytes lie: (offset, length) in the image."""
        head = entry.head
        raw = entry.data[head.descriptors_at : head.descriptors_at + head.descriptors_length]
        kind = head.flags & 7
        if kind == 3:
            yield entry.offset + head.descriptors_at, head.length
            return
        form, size = (_LONG, 16) if kind == 1 else (_SHORT, 8)
        left = MOST_EXTENTS
        while raw and left:
            listed, raw = list(Array(len(raw) // size, form).parse(raw)), b""
            for extent in listed:
                left -= 1
                length, how = extent.length & 0x3FFFFFFF, extent.length >> 30
                where = extent.partition if kind == 1 else partition
                if not length or left <= 0:
                    break
                if how == CONTINUES:
                    more = self._read(self._place(extent.block, where), SECTOR_BYTES)
                    raw = more[24 : 24 + _MORE.parse(more).length]
                    break
                if how == RECORDED:
                    yield self._place(extent.block, where), length

    def _read(self, offset: int, length: int) -> bytes:
        self.handle.seek(offset)
        data = self.handle.read(length)
        self.bytes_read += len(data)
        return data


@dataclass(frozen=True, slots=True, kw_only=True)
class _Entry:
    """A file entry, its sector and where that lies."""

    head: Container
    data: bytes
    offset: int
    partition: int


@dataclass(frozen=True, slots=True, kw_only=True)
class _Map:
    """How blocks of a partition become bytes: straight from its first sector, or through the metadata file's runs."""

    start: int
    runs: tuple[tuple[int, int], ...] = ()

    def byte(self, block: int) -> int:
        at = block * SECTOR_BYTES
        if not self.runs:
            return self.start * SECTOR_BYTES + at
        for offset, length in self.runs:
            if at < length:
                return offset + at
            at -= length
        raise NotUdf("a block lies outside the metadata")


def _cut(runs: list[tuple[int, int]], length: int) -> tuple[tuple[int, int], ...]:
    """The runs up to the file's length, neighbours joined."""
    joined: list[tuple[int, int]] = []
    for offset, size in runs:
        if (size := min(size, length)) <= 0:
            break
        length -= size
        if joined and sum(joined[-1]) == offset:
            joined[-1] = (joined[-1][0], joined[-1][1] + size)
        else:
            joined.append((offset, size))
    return tuple(joined)


def _name(raw: bytes) -> str:
    """A name in OSTA compressed Unicode: the first byte says how many bits each character has."""
    if not raw:
        return ""
    return raw[1:].decode("utf-16-be" if raw[0] == 16 else "latin-1", errors="replace")


def _dstring(raw: bytes) -> str:
    return _name(raw[: raw[-1]] if 0 < raw[-1] < len(raw) else raw).strip("\0 ")
