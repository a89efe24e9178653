"""How many bits the pictures of a title need, from samples encoded for the purpose."""

from __future__ import annotations

from ..engine import Command, require, run
from ..engine.arguments import video_pad
from ..errors import EngineError
from ..media import Samples, Title
from .excerpts import excerpt
from .frames import frame_times

PLACES = 3
PLACE_S = 3.0
COARSE, FINE = (27, "veryfast"), (17, "slow")  # quality and effort of H.264 at the ends of the balance
TIMEOUT_S = 60


def sample_pictures(title: Title) -> Samples | None:
    """Encode a few seconds at three places, coarsely and finely; ``None`` where there is nothing to sample.

    Raises ``EngineError``.
    """
    video = title.video
    if video is None or title.duration_s <= 0:
        return None
    require("ffmpeg")
    length_s = min(PLACE_S, title.duration_s / PLACES)
    pixels = video.width * video.height * float(video.frame_rate) * length_s * PLACES
    coarse, fine = (
        sum(_bits(title, at_s, length_s, coding) for at_s in frame_times(title.duration_s, PLACES)) / pixels
        for coding in (COARSE, FINE)
    )
    if not coarse or not fine:
        raise EngineError("No picture could be read where samples were taken.", advice="")
    return Samples(coarse_quality=COARSE[0], coarse_bits=coarse, fine_quality=FINE[0], fine_bits=fine)


def _bits(title: Title, at_s: float, length_s: float, coding: tuple[int, str]) -> int:
    source = excerpt(title, at_s)
    argv = [
        "ffmpeg",
        "-hide_banner",
        "-loglevel",
        "error",
        *source.arguments,
        "-map",
        video_pad(title),
        "-t",
        f"{length_s:.3f}",
    ]
    argv += ["-pix_fmt", "yuv420p", "-c:v", "libx264", "-preset", coding[1], "-crf", str(coding[0])]
    command = Command(argv=[*argv, "-f", "h264", "pipe:1"], feed=source.feed, timeout_s=TIMEOUT_S, gentle=True)
    return len(run(command).stdout) * 8
