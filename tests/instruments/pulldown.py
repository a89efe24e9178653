"""Film on NTSC discs as it mostly is: 24 pictures stored, 60 fields shown, by flags in each picture's header.

ISO/IEC 13818-2, 6.2.2.1 and 6.2.2.3 (sequence header and extension), 6.2.3 and 6.2.3.1 (picture header and extension).
"""

from __future__ import annotations

SEQUENCE, GROUP, PICTURE, EXTENSION = 0xB3, 0xB8, 0x00, 0xB5
SEQUENCE_EXTENSION, PICTURE_EXTENSION = 1, 8
NTSC_CODE = 4
FLAGS = ((1, 1), (0, 0), (0, 1), (1, 0))
"""(top field first, repeat first field) of four pictures in the order in which they are shown: ten fields."""


def with_pulldown(stream: bytes) -> bytes:
    """An elementary stream of progressive pictures at 24000/1001, flagged to be shown at 30000/1001."""
    made = bytearray(stream)
    group, held, shown, at = 0, 0, 0, 0
    while (at := made.find(b"\0\0\1", at)) >= 0:
        code, kind = made[at + 3], made[at + 4] >> 4
        if code == SEQUENCE:
            made[at + 7] = made[at + 7] & 0xF0 | NTSC_CODE
        elif code == GROUP:
            group, held = group + held, 0
        elif code == PICTURE:
            reference = made[at + 4] << 2 | made[at + 5] >> 6
            shown, held = group + reference, max(held, reference + 1)
        elif code == EXTENSION and kind == SEQUENCE_EXTENSION:
            made[at + 5] &= ~0x08  # not progressive as a sequence
        elif code == EXTENSION and kind == PICTURE_EXTENSION:
            top, again = FLAGS[shown % len(FLAGS)]
            made[at + 7] = made[at + 7] & 0x7D | top << 7 | again << 1 | 0x01
            made[at + 8] |= 0x80  # the picture itself is progressive
        at += 3
    return bytes(made)
