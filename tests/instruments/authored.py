"""Sources whose every picture carries its number and whose every half second carries a click with its own tone."""

from __future__ import annotations

import wave
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import numpy as np
import numpy.typing as npt

from .engine import output_of

BITS = 12
CLICK_EVERY_S = 0.5
CLICK_AT_S = 0.25
CLICK_S = 0.03
SAMPLE_RATE = 48000
DARK, LIGHT, GROUND = 30, 220, 110


@dataclass(frozen=True, slots=True, kw_only=True)
class Pictures:
    """How many numbered pictures, how large, and how fast they are counted."""

    count: int
    rate: Fraction
    size: tuple[int, int] = (320, 240)
    first: int = 0

    @property
    def duration_s(self) -> float:
        return float(self.count / self.rate)


def tone_hz(click: int) -> float:
    """The tone of a click, counted from 0: neighbours are far apart."""
    return 500.0 + 110.0 * (click * 7 % 20)


def numbered(number: int, size: tuple[int, int]) -> npt.NDArray[np.uint8]:
    """One luma picture: tall blocks say the number in binary, their complement stands below; a bar moves along
    above them, and the lower part is left for subtitles.

    The blocks are tall, so that either field and any size shows them.
    """
    width, height = size
    picture = np.full((height, width), GROUND, np.uint8)
    for bit in range(BITS):
        left, right = round(width * (bit + 1) / (BITS + 2)), round(width * (bit + 2) / (BITS + 2))
        on = number >> bit & 1
        picture[round(height * 0.25) : round(height * 0.5), left:right] = LIGHT if on else DARK
        picture[round(height * 0.5) : round(height * 0.75), left:right] = DARK if on else LIGHT
    at = number * 5 % width
    picture[round(height * 0.12) : round(height * 0.2), at : at + max(2, width // 20)] = LIGHT
    # the edges are lit, so that nobody takes them for borders
    picture[: height // 12] = picture[-height // 24 :] = LIGHT - 40
    picture[:, : width // 24] = picture[:, -width // 24 :] = LIGHT - 40
    return picture


def feed(pictures: Pictures) -> Iterator[bytes]:
    """The pictures as planar 4:2:0 without colour."""
    grey = bytes([128]) * (pictures.size[0] * pictures.size[1] // 2)
    for number in range(pictures.first, pictures.first + pictures.count):
        yield numbered(number, pictures.size).tobytes() + grey


def clicks(duration_s: float, channels: int = 2, *, first_s: float = 0.0, pitch: float = 1.0) -> npt.NDArray[np.int16]:
    """Samples of shape (n, channels): quiet noise, and clicks at their own times counted from ``first_s``."""
    count = round(duration_s * SAMPLE_RATE)
    made = np.random.default_rng(5).normal(0, 20, count)
    length = round(CLICK_S * SAMPLE_RATE)
    shape = np.hanning(length) * 12000
    for click in range(int((first_s + duration_s) / CLICK_EVERY_S) + 1):
        at = round((CLICK_AT_S + click * CLICK_EVERY_S - first_s) * SAMPLE_RATE)
        if at < 0 or at + length > count:
            continue
        made[at : at + length] += shape * np.sin(2 * np.pi * tone_hz(click) * pitch * np.arange(length) / SAMPLE_RATE)
    return np.repeat(made.clip(-32000, 32000).astype(np.int16)[:, None], channels, axis=1)


def write_sound(samples: npt.NDArray[np.int16], path: Path) -> Path:
    """Samples as a WAV file."""
    with wave.open(str(path), "wb") as target:
        target.setnchannels(samples.shape[1])
        target.setsampwidth(2)
        target.setframerate(SAMPLE_RATE)
        target.writeframes(samples.astype("<i2").tobytes())
    return path


def author(
    target: Path,
    pictures: Pictures,
    coding: Sequence[str],
    *,
    sounds: Sequence[Path] = (),
    filters: str = "null",
    inputs: Sequence[str] = (),
) -> Path:
    """Encode numbered pictures, and sound files beside them, into ``target`` with the engine's arguments ``coding``."""
    argv = ["ffmpeg", "-v", "error", "-y", "-f", "rawvideo", "-pix_fmt", "yuv420p"]
    argv += ["-s", f"{pictures.size[0]}x{pictures.size[1]}", "-r", str(pictures.rate), "-i", "pipe:0"]
    for path in sounds:
        argv += ["-i", str(path)]
    argv += [*inputs, "-filter_complex", f"[0:v]{filters}[seen]", "-map", "[seen]"]
    for place in range(len(sounds)):
        argv += ["-map", f"{place + 1}:a"]
    output_of([*argv, *coding, str(target)], feed=lambda: feed(pictures))
    return target


def plain(target: Path, pictures: Pictures, coding: Sequence[str], *, channels: int = 2, filters: str = "null") -> Path:
    """A file with one sound of clicks beside its pictures."""
    sound = write_sound(clicks(pictures.duration_s, channels), target.with_name(target.name + ".wav"))
    try:
        return author(target, pictures, coding, sounds=[sound], filters=filters)
    finally:
        sound.unlink()
