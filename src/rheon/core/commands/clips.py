"""Tiny files of a test picture, a tone, or both."""

from __future__ import annotations

from dataclasses import dataclass

from ..formats import CONTAINERS
from ..media import AudioSettings, VideoSettings
from .making.encoders import Placing, audio_arguments, handed_over, opened_hardware, video_arguments
from .making.filters import PIXEL_FORMATS
from .start import QUIET


@dataclass(frozen=True, slots=True, kw_only=True)
class ClipFile:
    """Where a clip goes, and in which container."""

    container: str
    target: str


def clip(picture: VideoSettings | None, sound: AudioSettings | None, length_s: float, file: ClipFile) -> list[str]:
    """The picture, the tone, or both."""
    argv = [*QUIET, "-nostdin", "-y", *opened_hardware(picture)]
    argv += [*(_pictures(picture, length_s) if picture else ()), *(_tone(sound, length_s) if sound else ())]
    if picture is not None:
        shape = (f"format={PIXEL_FORMATS[picture.bit_depth]}", *handed_over(picture))
        argv += ["-vf", ",".join(shape), *video_arguments(picture, file.container, 0)]
    if sound is not None:
        argv += audio_arguments(sound, Placing(place=0, container=file.container, filtered=False))
    held = CONTAINERS[file.container]
    return [*argv, *held.muxing, "-f", held.muxer, f"file:{file.target}"]


def _pictures(made: VideoSettings, length_s: float) -> list[str]:
    return ["-f", "lavfi", "-i", f"testsrc2=size={made.width}x{made.height}:rate={made.frame_rate}:duration={length_s}"]


def _tone(made: AudioSettings, length_s: float) -> list[str]:
    tones = "|".join(["0.2*sin(440*2*PI*t)"] * made.channels)
    layout = "5.1" if made.channels == 6 else "stereo"
    return ["-f", "lavfi", "-i", f"aevalsrc={tones}:s={made.sample_rate}:d={length_s}:c={layout}"]
