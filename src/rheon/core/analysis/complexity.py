"""How many bits the pictures of a title need, from samples encoded for the purpose."""

from __future__ import annotations

import re
import statistics

from ..commands.looking import sample
from ..engine import Command, require, run
from ..errors import EngineError, EngineTimedOut
from ..media import Samples, Title, VideoStream
from ..media.joined import Placed, part_at
from .excerpts import excerpt
from .frames import frame_times

PLACES = 3
PLACE_S = 3.0
COARSE, FINE = (27, "veryfast"), (17, "slow")  # quality and preset of H.264 at the ends of the balance
LONGER_SHARE = 1.15
"""A slow encoder spends more on what lasts, and in a few seconds nothing lasts (measured on whole titles)."""
TIMEOUT_S = 60
SLICE_START = re.compile(rb"\x00\x00\x01[\x01\x21\x41\x61\x25\x45\x65](.)", re.DOTALL)
"""A coded slice, of a reference picture or not (nal_unit_type 1 and 5, table 7-1), and what follows its header."""


def sample_pictures(title: Title) -> Samples | None:
    """Encode a few seconds at three places, coarsely and finely; ``None`` where there is nothing to sample.

    Raises ``EngineError``.
    """
    video = title.video
    if video is None or title.duration_s <= 0:
        return None
    require("ffmpeg")
    length_s = min(PLACE_S, title.duration_s / PLACES)
    times = frame_times(title.duration_s, PLACES)
    places = [found for at_s in times if (found := _place(part_at(title, at_s), at_s, length_s))]
    if not places:
        raise EngineError("No picture could be read where samples were taken.", advice="")
    coarse, fine = (statistics.fmean(bits) for bits in zip(*places, strict=True))
    fine *= LONGER_SHARE
    return Samples(coarse_quality=COARSE[0], coarse_bits=coarse, fine_quality=FINE[0], fine_bits=fine)


def _place(placed: Placed, at_s: float, length_s: float) -> tuple[float, float] | None:
    """Bits a pixel of a stretch coded coarsely and finely; ``None`` where no picture could be read: others will do."""
    coarse, fine = (_bits(placed, at_s, length_s, coding) for coding in (COARSE, FINE))
    return (coarse, fine) if coarse and fine else None


def coarse_bits_at(title: Title, at_s: float, length_s: float) -> float | None:
    """Bits a pixel of a stretch coded quickly and coarsely; ``None`` where no picture could be read.

    Raises ``EngineTimedOut``.
    """
    return _bits(part_at(title, at_s), at_s, length_s, COARSE)


def _bits(placed: Placed, at_s: float, length_s: float, coding: tuple[int, str]) -> float | None:
    title, video = placed.part, placed.part.video
    try:
        stream = _coded(title, at_s - placed.at_s, length_s, coding)
    except EngineTimedOut:
        raise
    except EngineError:
        return None
    return _bits_per_pixel(video, stream) if video and stream else None


def _bits_per_pixel(video: VideoStream, stream: bytes) -> float:
    """By the pictures that are there: near the end of a title a stretch may be shorter than was asked for."""
    return len(stream) * 8 / (video.width * video.height * max(1, picture_count(stream)))


def picture_count(stream: bytes) -> int:
    """The pictures of an H.264 byte stream: slices that begin with the first macroblock (ITU-T H.264, 7.3.3)."""
    return sum(1 for found in SLICE_START.finditer(stream) if found[1][0] & 0x80)


def _coded(title: Title, at_s: float, length_s: float, coding: tuple[int, str]) -> bytes:
    source = excerpt(title, at_s)
    quality, preset = coding
    argv = sample(source.view, length_s, quality, preset)
    return run(Command(argv=argv, feed=source.feed, timeout_s=TIMEOUT_S, gentle=True)).stdout
