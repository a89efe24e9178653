"""Builds title-set tables byte by byte, for cases that authoring tools do not make."""

from __future__ import annotations

from dataclasses import dataclass, field

SECTOR = 2048


@dataclass
class BuiltCell:
    bcd_time: str
    first: int
    last: int
    block: int = 0
    still: int = 0


@dataclass
class BuiltChain:
    """``audio`` and ``subpictures`` map a declared slot to its control word."""

    cells: list[BuiltCell]
    programs: list[int] = field(default_factory=lambda: [1])
    audio: dict[int, int] = field(default_factory=dict)
    subpictures: dict[int, int] = field(default_factory=dict)


@dataclass
class BuiltSet:
    """``titles`` lists (chain, program) marks for each title."""

    chains: list[BuiltChain]
    titles: list[list[tuple[int, int]]]
    video: int = 0b01_00_00_00
    audio: list[bytes] = field(default_factory=list)
    subpictures: list[bytes] = field(default_factory=list)

    def data(self) -> bytes:
        head = bytearray(SECTOR)
        head[:12] = b"DVDVIDEO-VTS"
        head[0xC8:0xCC] = (1).to_bytes(4)
        head[0xCC:0xD0] = (2).to_bytes(4)
        head[0x200] = self.video
        head[0x202:0x204] = len(self.audio).to_bytes(2)
        for slot, attributes in enumerate(self.audio):
            head[0x204 + 8 * slot : 0x20C + 8 * slot] = attributes.ljust(8, b"\0")
        head[0x254:0x256] = len(self.subpictures).to_bytes(2)
        for slot, attributes in enumerate(self.subpictures):
            head[0x256 + 6 * slot : 0x25C + 6 * slot] = attributes.ljust(6, b"\0")
        return bytes(head) + _padded(self._chapter_table()) + self._chain_table()

    def _chapter_table(self) -> bytes:
        lists = [b"".join(c.to_bytes(2) + p.to_bytes(2) for c, p in marks) for marks in self.titles]
        at = 8 + 4 * len(lists)
        offsets = []
        for entry in lists:
            offsets.append(at.to_bytes(4))
            at += len(entry)
        return len(lists).to_bytes(2) + b"\0\0" + (at - 1).to_bytes(4) + b"".join(offsets) + b"".join(lists)

    def _chain_table(self) -> bytes:
        chains = [_chain(chain) for chain in self.chains]
        at = 8 + 8 * len(chains)
        entries = []
        for chain in chains:
            entries.append(b"\x81\0\0\0" + at.to_bytes(4))
            at += len(chain)
        return len(chains).to_bytes(2) + b"\0\0" + (at - 1).to_bytes(4) + b"".join(entries) + b"".join(chains)


def audio(coding: int, channels: int, language: str = "", purpose: int = 0) -> bytes:
    kind = 1 if language else 0
    return bytes([coding << 5 | kind << 2, channels - 1]) + language.encode().ljust(2, b"\0") + bytes([0, purpose])


def subpicture(language: str, purpose: int = 0) -> bytes:
    return bytes([1, 0]) + language.encode() + bytes([0, purpose])


def _chain(chain: BuiltChain) -> bytes:
    head = bytearray(0xEC)
    head[2], head[3] = len(chain.programs), len(chain.cells)
    for slot, word in chain.audio.items():
        head[0x0C + 2 * slot : 0x0E + 2 * slot] = word.to_bytes(2)
    for slot, word in chain.subpictures.items():
        head[0x1C + 4 * slot : 0x20 + 4 * slot] = word.to_bytes(4)
    programs = bytes(chain.programs)
    head[0xE6:0xE8] = (0xEC).to_bytes(2)
    head[0xE8:0xEA] = (0xEC + len(programs)).to_bytes(2)
    cells = b"".join(
        bytes([cell.block, 0, cell.still, 0])
        + bytes.fromhex(cell.bcd_time)
        + cell.first.to_bytes(4)
        + bytes(8)
        + cell.last.to_bytes(4)
        for cell in chain.cells
    )
    return bytes(head) + programs + cells


def _padded(data: bytes) -> bytes:
    return data + bytes(-len(data) % SECTOR)
