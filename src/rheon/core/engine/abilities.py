"""What the engine on this machine was built with."""

from __future__ import annotations

import functools
import importlib.util
import re
from pathlib import Path

from ..commands import probing
from .process import Command, run

FILTERS = (
    "aformat", "alimiter", "aresample", "bwdif", "crop", "ebur128", "fieldmatch", "fps", "framestep", "overlay", "pan",
    "scale", "select", "subtitles", "tonemap", "volume", "w3fdif", "zscale",
)  # fmt: skip
"""Every filter without which some plan can't be carried out."""
VMAF = "libvmaf"


def engine_encoders() -> frozenset[str]:
    """Names of its encoders. Raises ``ToolMissing`` or ``EngineError``."""
    return _names("-encoders", r"^ [VAS][.A-Z]{5} (\S+)")


def engine_filters(program: str = "ffmpeg") -> frozenset[str]:
    """Names of its filters. Raises ``ToolMissing`` or ``EngineError``."""
    return _names("-filters", r"^ [.TSC]{2,3} (\S+)", program)


@functools.lru_cache(maxsize=1)
def vmaf_engine() -> str | None:
    """An engine on this machine that measures by VMAF (Video Multimethod Assessment Fusion); ``None`` where none does.

    The system's own, else the one that the optional package ``imageio-ffmpeg`` brings. Raises ``ToolMissing`` or
    ``EngineError``.
    """
    return next((program for program in ("ffmpeg", *_packaged_engines()) if VMAF in engine_filters(program)), None)


def _packaged_engines() -> list[str]:
    found = importlib.util.find_spec("imageio_ffmpeg")
    binaries = Path(found.origin).parent / "binaries" if found and found.origin else None
    return sorted(map(str, binaries.glob("ffmpeg-*"))) if binaries else []


def _names(listing: str, line: str, program: str = "ffmpeg") -> frozenset[str]:
    said = run(Command(argv=probing.listing(listing, program), timeout_s=20)).stdout.decode(errors="replace")
    return frozenset(re.findall(line, said, re.MULTILINE))
