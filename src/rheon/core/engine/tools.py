"""Finding ffmpeg and ffprobe, and refusing what is too old."""

from __future__ import annotations

import re
from functools import lru_cache

from ..commands import probing
from ..errors import EngineMissing, EngineTooOld, ToolMissing
from .process import Command, run

OLDEST = (5, 0)

MAX_PIXELS = 8192 * 4320


@lru_cache(maxsize=4)
def require(program: str) -> str:
    """The program's version. Raises ``EngineMissing`` or ``EngineTooOld``; a good answer is remembered."""
    try:
        said = run(Command(argv=probing.version(program), timeout_s=20)).stdout.decode(errors="replace")
    except ToolMissing as error:
        raise EngineMissing("The media engine {program} is not on this machine.", program=program) from error
    version = parse_version(said)
    if version is not None and version < OLDEST:
        raise EngineTooOld(
            "The media engine {program} is version {major}.{minor}; that is too old.",
            major=version[0],
            minor=version[1],
            program=program,
        )
    return said.splitlines()[0] if said else program


def parse_version(said: str) -> tuple[int, int] | None:
    """``(5, 1)`` from the first line of ``-version``; ``None`` for a development build without a number."""
    found = re.search(r"version n?(\d+)\.(\d+)", said)
    return (int(found[1]), int(found[2])) if found else None
