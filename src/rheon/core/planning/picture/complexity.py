"""How hard a title's pictures are to code."""

from __future__ import annotations

from ...formats import VIDEO_CODECS, video_encoder
from ...media import Borders, VideoStream
from ..request import PlanRequest
from .rates import usual_bits_per_pixel

UNKNOWN_BITS = 0.2
"""For a pixel of a source whose codec nobody knows."""


def source_complexity(request: PlanRequest) -> float:
    """How hard the pictures are to code, 1 for usual: as sampled, else guessed from the source's own rate."""
    video, title = request.title.video, request.title
    assert video is not None
    if request.samples is not None:
        quality = video_encoder("h264").quality[request.balance.step]
        # black borders take nothing: what the samples took went into the picture inside them
        stored, inside = video.width * video.height, _inside(video)
        sampled = request.samples.bits_at(quality) * stored / inside
        return sampled / usual_bits_per_pixel("h264", inside, request.balance)
    usual = VIDEO_CODECS[video.codec].source_bits if video.codec in VIDEO_CODECS else UNKNOWN_BITS
    rate = video.bitrate_bps or (title.size_bytes * 8 / title.duration_s if title.duration_s else 0)
    per_pixel = rate / max(1.0, video.width * video.height * float(video.frame_rate))
    return max(0.25, min(1.8, (per_pixel / usual) ** 0.7)) if per_pixel else 1.0


def _inside(video: VideoStream) -> int:
    """The pixels of the picture without its borders."""
    borders = video.borders or Borders()
    return (video.width - borders.left - borders.right) * (video.height - borders.top - borders.bottom)
