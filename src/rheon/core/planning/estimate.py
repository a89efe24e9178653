"""How large and how long: what is expected of a plan, and how unsure that is."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..media import AudioStream, Title
from .encoders import ENCODERS
from .plan import Estimate
from .settings import Action, Fields, OutputSettings, VideoSettings

SOURCE_PIXELS_PER_S = 150e6  # decoding and scaling
CHECK_PIXELS_PER_S = 900e6
COPY_BYTES_PER_S = 120e6
SOUND_REAL_TIMES = 40
START_S = 0.8
OVERHEAD = 1.01
DISC_PACKING = 0.955  # pack and packet headers, navigation, padding
UNSURE_COPY = 0.1
UNSURE_GUESSED = 0.45
UNSURE_SET = 0.06
FIRST_PASS = 0.7  # of the second's time
UNSURE_MEASURED = 0.20
UNSURE_PER_HALVING = 0.05  # samples are taken at the stored size; the smaller the output, the less they say of it


@dataclass(frozen=True, slots=True, kw_only=True)
class Basis:
    """What an estimate rests on: rates in bits a second, and whether samples of the title were measured.

    ``exact`` says that the rate was set by hand as an average or a size.
    """

    video_bps: float
    audio_bps: float
    measured: bool
    exact: bool = False


def estimate(title: Title, settings: OutputSettings, basis: Basis) -> Estimate:
    """Size from the rates, time from the pixels."""
    video = settings.video
    if video and video.action is Action.COPY:
        size = _copied_bytes(title, settings)
        unsure = UNSURE_COPY
    else:
        size = title.duration_s * (basis.video_bps + basis.audio_bps) / 8 * OVERHEAD
        unsure = _unsure(title, settings) if basis.measured else UNSURE_GUESSED
        unsure = UNSURE_SET if basis.exact or not video else unsure
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


def _copied_bytes(title: Title, settings: OutputSettings) -> float:
    """A title's bytes without the tracks that stay behind and the packing of disc sectors, with those that are new."""
    kept = {sound.track for sound in settings.audio if sound.action is Action.COPY}
    left_bps = sum(track.bitrate_bps or usual_audio_bps(track) for track in title.audio if track.index not in kept)
    added_bps = sum(sound.bitrate_bps or 0 for sound in settings.audio if sound.action is Action.ENCODE)
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
    encoded = sum(sound.action is Action.ENCODE for sound in settings.audio)
    sound = encoded * title.duration_s / SOUND_REAL_TIMES
    if made is None or source is None:
        return START_S + 1.3 * sound
    read = source.width * source.height * float(source.frame_rate) * title.duration_s
    check = made.width * made.height * float(made.frame_rate) * title.duration_s / CHECK_PIXELS_PER_S
    if made.action is Action.COPY:
        return START_S + title.size_bytes / COPY_BYTES_PER_S + sound + check
    return START_S + _encoding_s(made, read, title.duration_s) + sound + check


def _encoding_s(made: VideoSettings, read_pixels: float, duration_s: float) -> float:
    written = made.width * made.height * float(made.frame_rate) * duration_s
    work = 1.5 if made.fields is not Fields.LEAVE else 1.0
    once = work * read_pixels / SOURCE_PIXELS_PER_S + written / ENCODERS[made.codec].efforts[made.effort]
    return once * (1 + FIRST_PASS * (made.passes - 1))
