"""The headers of H.264 that pictures refer to by number.

Source: ITU-T H.264 (08/2021), 7.3.1 (units), 7.3.2.1 and 7.3.2.2 (parameter sets), 9.1 (Exp-Golomb).
"""

from __future__ import annotations

import re

SEQUENCE, PICTURE, CLEAN_START = 7, 8, 5
START = b"\0\0\0\1"
MOST_ID = 31
"""Of a sequence's headers; a picture's may count further."""
_STARTS = re.compile(rb"\x00*\x00\x00\x01")


def units(data: bytes) -> list[bytes]:
    """The units of a byte stream (annex B)."""
    return [unit for unit in _STARTS.split(data) if unit]


def kind(unit: bytes) -> int:
    return unit[0] & 0x1F


def headers_of(data: bytes) -> bytes:
    """The parameter sets that stand before a picture, as a byte stream."""
    return b"".join(START + unit for unit in units(data) if kind(unit) in (SEQUENCE, PICTURE))


def free_id(headers: bytes) -> int | None:
    """The lowest number that no parameter set has; ``None`` where all are taken."""
    taken = {_id(unit) for unit in units(headers)}
    return next((number for number in range(MOST_ID + 1) if number not in taken), None)


def begins_anew(data: bytes) -> bool:
    """Whether a picture needs none before it (an IDR picture)."""
    return any(kind(unit) == CLEAN_START for unit in units(data))


def _id(unit: bytes) -> int:
    # a sequence's number comes after profile, constraints and level
    return _exp_golomb(unit[4 if kind(unit) == SEQUENCE else 1 :][:8].replace(b"\0\0\3", b"\0\0"))


def _exp_golomb(data: bytes) -> int:
    bits = "".join(f"{byte:08b}" for byte in data)
    zeros = len(bits) - len(bits.lstrip("0"))
    return int(bits[zeros : 2 * zeros + 1] or "1", 2) - 1
