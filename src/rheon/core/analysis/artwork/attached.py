"""A picture that came with a title: beside it, or attached inside its file."""

from __future__ import annotations

from ...commands import looking
from ...engine import Command, run
from ...media import Artwork
from ...system import check_inside

TIMEOUT_S = 20


def attached_jpeg(artwork: Artwork, width: int) -> bytes:
    """It as a JPEG of at most ``width`` pixels across. Raises ``EngineError``, ``OutsideFolders`` or ``OSError``."""
    check_inside(artwork.path)
    return run(Command(argv=looking.artwork(artwork, width), timeout_s=TIMEOUT_S)).stdout
