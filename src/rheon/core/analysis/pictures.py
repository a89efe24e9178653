"""A few consecutive pictures of a title, as they are stored."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from ..engine import Command, run
from ..media import Title
from .excerpts import excerpt

Luma = npt.NDArray[np.uint8]
TIMEOUT_S = 30


def stored_pictures(title: Title, at_s: float, count: int) -> Luma:
    """Luma of up to ``count`` pictures near ``at_s``, shape (pictures, lines, columns), in the source's own range.

    Raises ``EngineError``.
    """
    video = title.video
    assert video is not None
    source = excerpt(title, at_s)
    argv = ["ffmpeg", "-hide_banner", "-loglevel", "error", "-noautorotate", *source.arguments, "-map", "0:V:0"]
    argv += ["-frames:v", str(count), "-vf", "format=yuv420p,extractplanes=y", "-fps_mode", "passthrough"]
    command = Command(argv=[*argv, "-f", "rawvideo", "pipe:1"], feed=source.feed, timeout_s=TIMEOUT_S, gentle=True)
    data = run(command).stdout
    size = video.width * video.height
    whole = len(data) // size
    return np.frombuffer(data[: whole * size], dtype=np.uint8).reshape(whole, video.height, video.width)
