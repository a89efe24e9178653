"""A few consecutive pictures of a title, as they are stored."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from ..commands import looking
from ..commands.looking import BRIEFLY
from ..engine import Command, run
from ..errors import EngineError
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
    data = _stored(title, at_s, count, BRIEFLY) or _stored(title, at_s, count, ())
    size = video.width * video.height
    whole = len(data) // size
    return np.frombuffer(data[: whole * size], dtype=np.uint8).reshape(whole, video.height, video.width)


def _stored(title: Title, at_s: float, count: int, start: tuple[str, ...]) -> bytes:
    """The pictures' bytes; empty where a short look found nothing to start from. Raises ``EngineError``."""
    source = excerpt(title, at_s)
    argv = looking.stored_pictures(source.view.begun(start), count)
    try:
        return run(Command(argv=argv, feed=source.feed, timeout_s=TIMEOUT_S, gentle=True)).stdout
    except EngineError:
        if start:
            return b""
        raise
