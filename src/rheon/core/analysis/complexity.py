"""How many bits the pictures of a title need, from samples encoded for the purpose."""

from __future__ import annotations

from ..engine import Command, require, run
from ..media import Title
from .excerpts import excerpt
from .frames import frame_times

SAMPLES = 3
SAMPLE_S = 3.0
QUALITY = "21"  # the middle balance
TIMEOUT_S = 60


def sampled_bits_per_pixel(title: Title) -> float | None:
    """Bits for each pixel at the middle balance in H.264; ``None`` where there is nothing to sample.

    Raises ``EngineError``.
    """
    video = title.video
    if video is None or title.duration_s <= 0:
        return None
    require("ffmpeg")
    length_s = min(SAMPLE_S, title.duration_s / SAMPLES)
    bits = sum(_sample_bits(title, at_s, length_s) for at_s in frame_times(title.duration_s, SAMPLES))
    pixels = video.width * video.height * float(video.frame_rate) * length_s * SAMPLES
    return bits / pixels if bits else None


def _sample_bits(title: Title, at_s: float, length_s: float) -> int:
    source = excerpt(title, at_s)
    argv = ["ffmpeg", "-hide_banner", "-loglevel", "error", *source.arguments, "-map", "0:V:0", "-t", f"{length_s:.3f}"]
    argv += ["-pix_fmt", "yuv420p", "-c:v", "libx264", "-preset", "veryfast", "-crf", QUALITY, "-f", "h264", "pipe:1"]
    return len(run(Command(argv=argv, feed=source.feed, timeout_s=TIMEOUT_S)).stdout) * 8
