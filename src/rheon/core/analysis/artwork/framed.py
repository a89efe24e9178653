"""A frame of a title as a picture to be measured or kept."""

from __future__ import annotations

import io

import numpy as np
from PIL import Image

from ...errors import EngineError
from ...media import Title, VideoStream
from ...media.joined import part_at
from ..frames import Care, frame_jpeg

BAR_LUMA, BAR_SHARE = 24, 0.01
"""So dark is a bar, but for so many of its pixels."""
LEAST_LEFT = 0.5
"""Of lines and columns; where less is left, the picture itself is dark."""


def frame_picture(title: Title, at_s: float, lines: int | None = None) -> Image.Image:
    """The frame at a moment, of one moment and in square pixels, ``lines`` high or as high as it is stored.

    Raises ``EngineError``.
    """
    video = part_at(title, at_s).part.video
    if video is None:
        raise EngineError("This title has no picture.", advice="")
    data = frame_jpeg(title, max(0.0, at_s), lines or video.height, care=Care.FINE)
    return Image.open(io.BytesIO(data)).convert("RGB")


def without_borders(picture: Image.Image, video: VideoStream | None) -> Image.Image:
    """The picture without black bars: those that were found, and what is black all along an edge of it."""
    left, top, right, bottom = 0.0, 0.0, float(picture.width), float(picture.height)
    if video is not None and video.borders is not None and not video.rotation:
        across, down = picture.width / video.width, picture.height / video.height
        borders = video.borders
        left, right = borders.left * across, right - borders.right * across
        top, bottom = borders.top * down, bottom - borders.bottom * down
    cut = picture.crop((round(left), round(top), round(right), round(bottom)))
    light = np.asarray(cut.convert("L")) > BAR_LUMA
    rows, columns = light.mean(axis=1) > BAR_SHARE, light.mean(axis=0) > BAR_SHARE
    if not rows.any() or not columns.any() or min(rows.mean(), columns.mean()) < LEAST_LEFT:
        return cut
    first_row, last_row = int(rows.argmax()), len(rows) - int(rows[::-1].argmax())
    first_column, last_column = int(columns.argmax()), len(columns) - int(columns[::-1].argmax())
    return cut.crop((first_column, first_row, last_column, last_row))
