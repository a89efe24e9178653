"""How large and how long: what is expected of a plan, and how unsure that is."""

from __future__ import annotations

import math

from ..media import AudioStream, Title
from .plan import Estimate
from .settings import Action, OutputSettings

# pixels a second on the two-core machines Rheon is made for; the server corrects them by what jobs really took
SPEEDS = {
    ("h264", "veryfast"): 150e6,
    ("h264", "fast"): 105e6,
    ("h264", "medium"): 85e6,
    ("h264", "slow"): 45e6,
    ("hevc", "ultrafast"): 60e6,
    ("hevc", "superfast"): 45e6,
    ("hevc", "fast"): 22e6,
    ("hevc", "medium"): 14e6,
    ("mpeg4", "medium"): 200e6,
}
SOURCE_PIXELS_PER_S = 150e6  # decoding and scaling
CHECK_PIXELS_PER_S = 900e6
COPY_BYTES_PER_S = 120e6
SOUND_REAL_TIMES = 40
START_S = 0.8
OVERHEAD = 1.01
DISC_PACKING = 0.955  # pack and packet headers, navigation, padding
UNSURE_COPY = 0.1
UNSURE_GUESSED = 0.45
UNSURE_MEASURED = 0.20
UNSURE_PER_HALVING = 0.05  # samples are taken at the stored size; the smaller the output, the less they say of it


def estimate(title: Title, settings: OutputSettings, video_bps: float, audio_bps: float, measured: bool) -> Estimate:
    """Size from the rates, time from the pixels; ``measured`` says that the rate rests on samples of the title."""
    video = settings.video
    if video and video.action is Action.COPY and not settings.subtitle:
        size = _copied_bytes(title, settings, audio_bps)
        unsure = UNSURE_COPY
    else:
        size = title.duration_s * (video_bps + audio_bps) / 8 * OVERHEAD
        unsure = _unsure(title, settings) if measured else UNSURE_GUESSED
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


def _unsure(title: Title, settings: OutputSettings) -> float:
    """How far an estimate from samples may be off, as a share."""
    made, source = settings.video, title.video
    if made is None or source is None:
        return UNSURE_MEASURED
    shrunk = max(1.0, source.width * source.height / (made.width * made.height))
    return min(UNSURE_GUESSED, UNSURE_MEASURED + UNSURE_PER_HALVING * math.log2(shrunk))


def _copied_bytes(title: Title, settings: OutputSettings, audio_bps: float) -> float:
    """A title's bytes without the tracks that stay behind and the packing of disc sectors."""
    kept = settings.audio.track if settings.audio and settings.audio.action is Action.COPY else None
    left_bps = sum(track.bitrate_bps or usual_audio_bps(track) for track in title.audio if track.index != kept)
    added_bps = audio_bps if kept is None else 0.0
    packing = DISC_PACKING if title.container == "dvd" else 1.0
    return max(1.0, title.size_bytes * packing - (left_bps - added_bps) * title.duration_s / 8)


def usual_audio_bps(track: AudioStream) -> float:
    """What a track of this kind usually takes."""
    if track.codec in ("pcm_dvd", "pcm_s16le"):
        return float(16 * track.sample_rate * track.channels)
    return 448_000.0 if track.channels > 2 else 192_000.0


def _work_s(title: Title, settings: OutputSettings) -> float:
    """Making and checking, in seconds."""
    made, source = settings.video, title.video
    encodes_sound = settings.audio is not None and settings.audio.action is Action.ENCODE
    sound = title.duration_s / SOUND_REAL_TIMES if encodes_sound else 0.0
    if made is None or source is None:
        return START_S + 1.3 * sound
    read = source.width * source.height * float(source.frame_rate) * title.duration_s
    written = made.width * made.height * float(made.frame_rate) * title.duration_s
    check = written / CHECK_PIXELS_PER_S
    if made.action is Action.COPY:
        return START_S + title.size_bytes / COPY_BYTES_PER_S + sound + check
    work = 1.5 if made.deinterlace else 1.0
    return START_S + work * read / SOURCE_PIXELS_PER_S + written / SPEEDS[(made.codec, made.effort)] + sound + check
