"""The picture that belongs to a title, for people to see."""

from __future__ import annotations

from pathlib import Path

from ..engine import Command, run, safe_file_input
from ..media import Artwork
from ..system import check_inside

MOST_PIXELS = 40_000_000
TIMEOUT_S = 20


def write_artwork(artwork: Artwork, width: int, target: Path) -> None:
    """Write it as a JPEG of at most ``width`` pixels across.

    Raises ``EngineError``, ``OutsideFolders`` or ``OSError``.
    """
    check_inside(artwork.path)
    run(Command(argv=artwork_arguments(artwork, width, target), timeout_s=TIMEOUT_S))


def artwork_arguments(artwork: Artwork, width: int, target: Path) -> list[str]:
    stream = "0:v:0" if artwork.stream is None else f"0:{artwork.stream}"
    source = (
        ["-f", "image2", "-pattern_type", "none", "-i", f"file:{artwork.path}"]
        if artwork.stream is None
        else safe_file_input(artwork.path)
    )
    argv = ["ffmpeg", "-v", "error", "-nostdin", "-max_pixels", str(MOST_PIXELS)]
    argv += ["-protocol_whitelist", "file", *source, "-map", stream]
    return [*argv, "-frames:v", "1", "-vf", f"scale='min({width},iw)':-2", "-f", "mjpeg", f"file:{target}"]
