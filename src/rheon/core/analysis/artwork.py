"""The picture that belongs to a title, for people to see."""

from __future__ import annotations

from pathlib import Path

from ..commands import looking
from ..engine import Command, run
from ..media import Artwork
from ..system import check_inside

TIMEOUT_S = 20


def write_artwork(artwork: Artwork, width: int, target: Path) -> None:
    """Write it as a JPEG of at most ``width`` pixels across.

    Raises ``EngineError``, ``OutsideFolders`` or ``OSError``.
    """
    check_inside(artwork.path)
    run(Command(argv=looking.artwork(artwork, width, str(target)), timeout_s=TIMEOUT_S))
