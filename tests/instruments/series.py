"""Episodes made of scenes: scenes of one seed look and sound the same wherever they come, and no others do."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path

import numpy as np
import numpy.typing as npt
from PIL import Image, ImageDraw

from .authored import SAMPLE_RATE, write_sound
from .engine import output_of

PAINTED, RATE = 12.5, 25
"""Pictures painted in a second, each of which is coded twice; scenes last a whole number of them."""
SIZE = (192, 108)
LETTERS = "abcdefghijklmnoprstuvwz"

Pixels = npt.NDArray[np.uint8]


@dataclass(frozen=True, slots=True, kw_only=True)
class Scene:
    """So many seconds of pictures (``shots``, ``night``, ``dots``, ``text``, ``logo``, ``black``) and sound (``talk``,
    ``music``, ``silence``), each by a seed; ``under`` is the seed of music that plays under the sound. ``name`` says
    what it is.
    """

    seconds: float
    pictures: tuple[str, int]
    sound: tuple[str, int]
    under: int | None = None
    name: str = "programme"


@dataclass(frozen=True, slots=True, kw_only=True)
class Episode:
    scenes: Sequence[Scene]
    coding: Sequence[str] = ("-c:v", "libx264", "-preset", "ultrafast", "-crf", "23", "-g", "60", "-c:a", "aac")
    noise: float = 3.0
    """How much grain lies over the pictures, as another copy of them has."""
    seed: int = 0
    size: tuple[int, int] = SIZE

    def stretches(self, name: str) -> list[tuple[float, float]]:
        """When the scenes of a name begin and end."""
        found, at_s = [], 0.0
        for scene in self.scenes:
            if scene.name == name:
                found.append((at_s, at_s + scene.seconds))
            at_s += scene.seconds
        return found

    @property
    def duration_s(self) -> float:
        return sum(scene.seconds for scene in self.scenes)

    def make(self, target: Path) -> Path:
        sound = write_sound(self._sound(), target.with_suffix(".wav"))
        width, height = self.size
        argv = ["ffmpeg", "-v", "error", "-y", "-f", "rawvideo", "-pix_fmt", "gray", "-s", f"{width}x{height}"]
        argv += [
            "-r",
            str(PAINTED),
            "-i",
            "pipe:0",
            "-i",
            str(sound),
            "-map",
            "0:v",
            "-map",
            "1:a",
            "-pix_fmt",
            "yuv420p",
        ]
        argv += ["-r", str(RATE)]
        output_of([*argv, *self.coding, str(target)], feed=self._feed)
        sound.unlink()
        return target

    def _feed(self) -> Iterator[bytes]:
        random = np.random.default_rng(self.seed)
        grains = [random.normal(0, self.noise, (self.size[1], self.size[0])) for _ in range(7)]
        for scene in self.scenes:
            for number, picture in enumerate(pictures(scene, self.size)):
                yield np.clip(picture + grains[number * number % 7], 0, 255).astype(np.uint8).tobytes()

    def _sound(self) -> npt.NDArray[np.int16]:
        parts = [sounds(scene) for scene in self.scenes]
        mono = np.clip(np.concatenate(parts), -1, 1) * 20000
        return np.repeat(mono.astype(np.int16)[:, None], 2, axis=1)


def pictures(scene: Scene, size: tuple[int, int]) -> Iterator[Pixels]:
    kind, seed = scene.pictures
    count = round(scene.seconds * PAINTED)
    if kind == "black":
        return iter([np.full((size[1], size[0]), 16, np.uint8)] * count)
    if kind == "text":
        return _rolling(seed, count, size)
    if kind == "dots":
        return _dots(seed, count, size)
    if kind == "logo":
        return iter([_logo(seed, size)] * count)
    return _shots(seed, count, size, dark=kind == "night")


def _shots(seed: int, count: int, size: tuple[int, int], *, dark: bool) -> Iterator[Pixels]:
    """Shots of one to five seconds, each of soft shapes that move; by night dark, with some lights in it."""
    random = np.random.default_rng(seed)
    x, y = np.meshgrid(np.linspace(0, 1, size[0] // 4), np.linspace(0, 1, size[1] // 4))
    left = 0
    for number in range(count):
        if not left:
            left = int(random.uniform(1, 5) * PAINTED)
            waves = [(random.uniform(1, 9, 2), random.uniform(0, 6.28), random.uniform(-2, 2)) for _ in range(4)]
            lights = random.uniform(0, 1, (6, 2))
            level = random.uniform(90, 150)
        left -= 1
        t = number / PAINTED
        shapes = [np.sin(6.28 * (f[0] * x + f[1] * y) / 2 + phase + speed * t) for f, phase, speed in waves]
        picture = level + 26 * np.sum(shapes, axis=0)
        if dark:
            picture = 22 + 0.12 * picture
            for at in lights:
                picture += 160 * np.exp(-((x - at[0]) ** 2 + (y - at[1]) ** 2) * 900)
        small = Image.fromarray(np.clip(picture, 16, 235).astype(np.uint8))
        yield np.asarray(small.resize(size, Image.Resampling.BICUBIC), np.uint8)


def _rolling(seed: int, count: int, size: tuple[int, int]) -> Iterator[Pixels]:
    """Lines of made-up names that roll upwards over black."""
    random = np.random.default_rng(seed)
    lines = count // 6 + 12
    sheet = Image.new("L", (size[0], lines * 12 + size[1]), 16)
    draw = ImageDraw.Draw(sheet)
    for line in range(lines):
        if line % 7 == 6:
            continue
        words = ["".join(random.choice(list(LETTERS), random.integers(4, 9))).title() for _ in range(4)]
        draw.text((size[0] * 0.1, line * 12), f"{words[0]}  {words[1]} {words[2]}", fill=225)
    whole = np.asarray(sheet, np.uint8)
    for number in range(count):
        yield whole[2 * number : 2 * number + size[1]]


def _dots(seed: int, count: int, size: tuple[int, int]) -> Iterator[Pixels]:
    """Bright specks all over a black picture, a few of which come and go: a starry sky, or snow by night."""
    random = np.random.default_rng(seed)
    picture = np.where(random.uniform(size=(size[1], size[0])) < 0.06, 200, 16).astype(np.uint8)
    for _ in range(count):
        picture = picture.copy()
        picture[random.integers(0, size[1], 40), random.integers(0, size[0], 40)] = random.choice([16, 16, 16, 200], 40)
        yield picture


def _logo(seed: int, size: tuple[int, int]) -> Pixels:
    random = np.random.default_rng(seed)
    sheet = Image.new("L", size, 30)
    draw = ImageDraw.Draw(sheet)
    for _ in range(5):
        at = random.uniform(0.2, 0.7, 2) * size
        draw.ellipse((*at, *(at + random.uniform(10, 40, 2))), fill=int(random.integers(120, 230)))
    return np.asarray(sheet, np.uint8)


def sounds(scene: Scene) -> npt.NDArray[np.float64]:
    """Mono samples between -1 and 1."""
    kind, seed = scene.sound
    count = round(scene.seconds * SAMPLE_RATE)
    made = np.zeros(count) if kind == "silence" else _talk(seed, count) if kind == "talk" else _music(seed, count)
    return made if scene.under is None else 0.7 * made + 0.5 * _music(scene.under, count)


def _music(seed: int, count: int) -> npt.NDArray[np.float64]:
    """Notes of a scale, with overtones, one or two at a time."""
    random = np.random.default_rng(seed)
    made = np.zeros(count + SAMPLE_RATE)
    at = 0
    while at < count:
        length = int(random.choice([0.2, 0.3, 0.45]) * SAMPLE_RATE)
        t = np.arange(int(length * 1.3)) / SAMPLE_RATE
        for _ in range(int(random.integers(1, 3))):
            tone = 220 * 2 ** (random.choice([0, 2, 4, 5, 7, 9, 11, 12, 14, 16]) / 12)
            shape = np.exp(-t * 5) * np.minimum(1, t * 200)
            note = sum(np.sin(6.283 * tone * n * t) / n**1.4 for n in (1, 2, 3, 4)) * shape * 0.3
            made[at : at + len(t)] += note
        at += length
    return made[:count]


def _talk(seed: int, count: int) -> npt.NDArray[np.float64]:
    """Noise in bands that change with each syllable, with pauses."""
    random = np.random.default_rng(seed)
    made = np.zeros(count + SAMPLE_RATE)
    at = 0
    while at < count:
        length = int(random.uniform(0.08, 0.3) * SAMPLE_RATE)
        if random.uniform() < 0.8:
            spectrum = np.fft.rfft(random.normal(0, 1, length))
            hz = np.fft.rfftfreq(length, 1 / SAMPLE_RATE)
            shape = sum(np.exp(-(((hz - f) / 120) ** 2)) for f in random.uniform(200, 3000, 3))
            voice = np.fft.irfft(spectrum * shape, length) * np.hanning(length)
            made[at : at + length] += voice / (np.abs(voice).max() + 1e-9) * 0.5
        at += length
    return made[:count]
