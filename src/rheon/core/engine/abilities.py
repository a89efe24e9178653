"""What the engine on this machine was built with."""

from __future__ import annotations

import re

from ..commands import probing
from .process import Command, run

FILTERS = (
    "aformat", "alimiter", "aresample", "bwdif", "crop", "ebur128", "fieldmatch", "fps", "framestep", "overlay", "pan",
    "scale", "select", "subtitles", "tonemap", "volume", "w3fdif", "zscale",
)  # fmt: skip
"""Every filter without which some plan can't be carried out."""


def engine_encoders() -> frozenset[str]:
    """Names of its encoders. Raises ``ToolMissing`` or ``EngineError``."""
    return _names("-encoders", r"^ [VAS][.A-Z]{5} (\S+)")


def engine_filters(program: str = "ffmpeg") -> frozenset[str]:
    """Names of its filters. Raises ``ToolMissing`` or ``EngineError``."""
    return _names("-filters", r"^ [.TSC]{2,3} (\S+)", program)


def _names(listing: str, line: str, program: str = "ffmpeg") -> frozenset[str]:
    said = run(Command(argv=probing.listing(listing, program), timeout_s=20)).stdout.decode(errors="replace")
    return frozenset(re.findall(line, said, re.MULTILINE))
