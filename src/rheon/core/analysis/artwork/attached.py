"""A picture that came with a title: beside it, or attached inside its file."""

from __future__ import annotations

from pathlib import Path

from ...commands import looking
from ...engine import Command, probe, run
from ...media import Artwork
from ...system import check_inside

TIMEOUT_S = 20


def attached_jpeg(artwork: Artwork, width: int) -> bytes:
    """It as a JPEG of at most ``width`` pixels across. Raises ``EngineError``, ``OutsideFolders`` or ``OSError``."""
    check_inside(artwork.path)
    return _jpeg(artwork, width)


def jpeg_in_file(path: Path, width: int) -> bytes | None:
    """The picture inside a finished file; ``None`` where it has none. Raises ``EngineError`` or ``SourceError``."""
    stream = probe(str(path)).attached_picture
    return None if stream is None else _jpeg(Artwork(path=str(path), stream=stream), width)


def _jpeg(artwork: Artwork, width: int) -> bytes:
    return run(Command(argv=looking.artwork(artwork, width), timeout_s=TIMEOUT_S)).stdout
