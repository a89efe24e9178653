"""What a video stream's own headers promise a decoder."""

from __future__ import annotations

import re

from ..commands import probing
from ..errors import EngineError
from .process import Command, run

TIMEOUT_S = 30
# the syntax elements of ITU-T H.264 7.3.2.1.1 and H.265 7.3.2.2; the latter counts the picture being decoded too
ELEMENTS = {"h264": "max_num_ref_frames", "hevc": r"sps_max_dec_pic_buffering_minus1\[0\]"}


def reference_frames(path: str, codec: str) -> int | None:
    """How many reference frames the sequence header asks for; ``None`` where the codec has no such element."""
    element = ELEMENTS.get(codec)
    if element is None:
        return None
    found: list[int] = []

    def on_complaint(line: str) -> None:
        if match := re.search(rf"\b{element}\s+[01]+ = (\d+)$", line):
            found.append(int(match[1]))

    try:
        run(Command(argv=probing.headers(path), timeout_s=TIMEOUT_S, on_complaint=on_complaint))
    except EngineError:
        return None
    return max(found, default=None)
