"""How large and how long: what is expected of a plan, and how unsure that is."""

from __future__ import annotations

from ..media import Title
from .plan import Estimate
from .settings import Action, OutputSettings

# pixels a second on the two-core machines Rheon is made for; corrected by what jobs really took
SPEEDS = {
    ("h264", "veryfast"): 62e6,
    ("h264", "fast"): 38e6,
    ("h264", "medium"): 28e6,
    ("h264", "slow"): 17e6,
    ("hevc", "ultrafast"): 28e6,
    ("hevc", "superfast"): 20e6,
    ("hevc", "fast"): 10e6,
    ("hevc", "medium"): 7e6,
    ("mpeg4", "medium"): 70e6,
}
COPY_BYTES_PER_S = 120e6
SOUND_REAL_TIMES = 60
CHECK_SHARE = 0.15
START_S = 1.0
OVERHEAD = 1.01
UNSURE_GUESSED = 0.45
UNSURE_MEASURED = 0.20


def estimate(title: Title, settings: OutputSettings, video_bps: float, audio_bps: float, measured: bool) -> Estimate:
    """Size from the rates, time from the pixels; ``measured`` says that the rate rests on samples of the title."""
    video = settings.video
    if video and video.action is Action.COPY and not settings.subtitle:
        size = float(title.size_bytes)
        unsure = 0.1
    else:
        size = title.duration_s * (video_bps + audio_bps) / 8 * OVERHEAD
        unsure = UNSURE_MEASURED if measured else UNSURE_GUESSED
        unsure = unsure if video else 0.05
    seconds = _work_s(title, settings)
    return Estimate(
        size_bytes=round(size),
        size_low_bytes=round(size * (1 - unsure)),
        size_high_bytes=round(size * (1 + unsure)),
        time_s=round(seconds, 1),
        time_low_s=round(seconds * 0.7, 1),
        time_high_s=round(seconds * 1.5, 1),
    )


def _work_s(title: Title, settings: OutputSettings) -> float:
    video = settings.video
    if video is None:
        return START_S + title.duration_s / SOUND_REAL_TIMES
    if video.action is Action.COPY:
        return START_S + title.size_bytes / COPY_BYTES_PER_S + title.duration_s / SOUND_REAL_TIMES
    pixels = video.width * video.height * float(video.frame_rate) * title.duration_s
    making = pixels / SPEEDS[(video.codec, video.effort)] * (1.3 if video.deinterlace else 1.0)
    return START_S + making * (1 + CHECK_SHARE)
