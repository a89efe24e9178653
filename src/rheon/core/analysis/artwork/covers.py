"""What a file is known by, made: a frame, or a picture of people's own, in the shape that is wanted."""

from __future__ import annotations

import io
import warnings
from pathlib import Path

from PIL import Image, ImageOps, UnidentifiedImageError

from ...errors import BadPicture
from ...media import Artwork, Cover, Shape, Title
from ...system import read_inside
from .attached import attached_jpeg
from .framed import frame_picture, without_borders
from .stills import propose_stills

SIZES = {Shape.POSTER: (600, 900), Shape.WIDE: (1088, 612), Shape.SQUARE: (600, 600)}
"""Pixels across and down: 600 the shorter way, which every device makes smaller by itself."""
QUALITY = 86
LARGEST_BYTES = 24 << 20
MOST_PIXELS = 50_000_000
LEAST_SIDE = 64
ATTACHED_WIDTH = 1600
KINDS = ("JPEG", "PNG", "WEBP")
BOMBS = (Image.DecompressionBombWarning, Image.DecompressionBombError)
UNREADABLE = (UnidentifiedImageError, OSError, ValueError, SyntaxError, *BOMBS)


def cover_jpeg(title: Title, cover: Cover) -> bytes:
    """The picture as a JPEG. Raises ``EngineError``, ``BadPicture`` where it is none, or ``SourceError``."""
    if cover.path:
        return shaped_jpeg(_from_file(cover), cover)
    at_s = cover.at_s if cover.at_s is not None else _best_moment(title)
    return shaped_jpeg(without_borders(frame_picture(title, at_s), title.video), cover)


def _best_moment(title: Title) -> float:
    best = propose_stills(title, 1)
    if not best:
        raise BadPicture("No frame is light, sharp and without text.", advice="Choose a moment, or bring a picture.")
    return best[0].at_s


def shaped_jpeg(picture: Image.Image, cover: Cover) -> bytes:
    """The part of a picture that is kept, in the size of its shape, as a JPEG without anything else in it."""
    wide, high = picture.size
    aspect = cover.shape.aspect
    kept_wide, kept_high = min(wide, high * aspect), min(high, wide / aspect)
    left, top = cover.across * (wide - kept_wide), cover.down * (high - kept_high)
    box = (left, top, left + kept_wide, top + kept_high)
    made = picture.convert("RGB").resize(SIZES[cover.shape], Image.Resampling.LANCZOS, box=box)
    written = io.BytesIO()
    made.save(written, "JPEG", quality=QUALITY, optimize=True)
    return written.getvalue()


def read_picture(data: bytes) -> Image.Image:
    """A picture that somebody brought, upright and on white. Raises ``BadPicture``."""
    if len(data) > LARGEST_BYTES:
        raise BadPicture("This picture is larger than {most_mb} MB.", most_mb=LARGEST_BYTES >> 20)
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            opened = Image.open(io.BytesIO(data), formats=KINDS)
            if opened.width * opened.height > MOST_PIXELS or min(opened.size) < LEAST_SIDE:
                raise BadPicture(
                    "This picture has {width} × {height} pixels; at least {least} each way, and {most} million in all, "
                    "can be taken.",
                    width=opened.width,
                    height=opened.height,
                    least=LEAST_SIDE,
                    most=MOST_PIXELS // 1_000_000,
                )
            return _on_white(ImageOps.exif_transpose(opened))
    except UNREADABLE as error:
        raise BadPicture("This is no picture that Rheon reads.") from error


def _from_file(cover: Cover) -> Image.Image:
    try:
        if cover.stream is None:
            return read_picture(read_inside(Path(cover.path), LARGEST_BYTES))
        return read_picture(attached_jpeg(Artwork(path=cover.path, stream=cover.stream), ATTACHED_WIDTH))
    except OSError as error:
        raise BadPicture("The picture is not there any more.", advice="Bring it again, or take another.") from error


def _on_white(picture: Image.Image) -> Image.Image:
    seen = picture.convert("RGBA")
    ground = Image.new("RGBA", seen.size, "white")
    return Image.alpha_composite(ground, seen).convert("RGB")
