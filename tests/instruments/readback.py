"""What a file really shows and sounds, read with the engine's own tools and none of Rheon's readers."""

from __future__ import annotations

import io
import json
from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache
from pathlib import Path

import numpy as np
import numpy.typing as npt
from PIL import Image

from .authored import BITS, CLICK_AT_S, CLICK_EVERY_S, CLICK_S, SAMPLE_RATE, tone_hz
from .engine import output_of

GRID = (BITS + 2, 8)
SCALE = 8
NEAR_S = 0.24
LEAST_CLICK = 0.25
LIT = 150


@dataclass(frozen=True, slots=True, kw_only=True)
class Seen:
    """The pictures of a file: each one's number (-1 where it can't be read) and time in seconds."""

    numbers: tuple[int, ...]
    times: tuple[float, ...]

    @property
    def doubled(self) -> int:
        return sum(one == other for one, other in zip(self.numbers, self.numbers[1:], strict=False))

    @property
    def disordered(self) -> int:
        return sum(other < one for one, other in zip(self.numbers, self.numbers[1:], strict=False))

    def lost(self, first: int, last: int) -> int:
        """How many of the pictures ``first`` to ``last`` (both included) never come."""
        return len(set(range(first, last + 1)) - set(self.numbers))

    def offsets(self, rate: Fraction | float, first: int = 0) -> npt.NDArray[np.float64]:
        """For each readable picture, how much later it first comes than its number says."""
        known: dict[int, float] = {}
        for number, at in zip(self.numbers, self.times, strict=True):
            known.setdefault(number, at)
        return np.array([at - (n - first) / float(rate) for n, at in known.items() if n >= 0])


@dataclass(frozen=True, slots=True, kw_only=True)
class Heard:
    """Clicks of one track: their numbers, and how much later than its number says each comes, in seconds."""

    clicks: tuple[int, ...]
    offsets: tuple[float, ...]


def state_of(path: Path) -> tuple[int, int]:
    """What changes when a file does: nothing is read twice that is still the same."""
    found = path.stat()
    return found.st_size, found.st_mtime_ns


def see(path: Path, only: str = "null") -> Seen:
    """Every picture that a decoder gives, with its time since the file's first moment; ``only`` part of each."""
    return _see(path, only, state_of(path))


@lru_cache(maxsize=8)
def _see(path: Path, only: str, state: tuple[int, int]) -> Seen:
    width, height = GRID[0] * SCALE, GRID[1] * SCALE
    argv = ["ffmpeg", "-v", "error", "-nostdin", "-i", str(path), "-map", "0:V:0", "-fps_mode", "passthrough"]
    argv += ["-vf", f"{only},scale={width}:{height}:flags=area,format=gray", "-f", "rawvideo", "pipe:1"]
    data = output_of(argv)
    pictures = np.frombuffer(data, np.uint8).reshape(-1, height, width).astype(float)
    start_s = _start_time(path)
    times = [at - start_s for at in _frame_times(path, "V:0")]
    # the tool gives the last picture of some streams no time
    while len(times) < len(pictures) and len(times) > 1:
        times.append(times[-1] + times[1] - times[0])
    count = min(len(times), len(pictures))
    return Seen(numbers=tuple(_number(p) for p in pictures[:count]), times=tuple(times[:count]))


def _number(picture: npt.NDArray[np.float64]) -> int:
    upper, lower = picture[2 * SCALE + 3 : 4 * SCALE - 3], picture[4 * SCALE + 3 : 6 * SCALE - 3]
    number = 0
    for bit in range(BITS):
        columns = slice((bit + 1) * SCALE + 2, (bit + 2) * SCALE - 2)
        apart = upper[:, columns].mean() - lower[:, columns].mean()
        if abs(apart) < 40:
            return -1
        number |= int(apart > 0) << bit
    return number


def number_of(jpeg: bytes) -> int:
    """The number that a single picture carries, -1 where it can't be read."""
    size = (GRID[0] * SCALE, GRID[1] * SCALE)
    grey = Image.open(io.BytesIO(jpeg)).convert("L").resize(size, Image.Resampling.BOX)
    return _number(np.array(grey).astype(float))


def lit(path: Path) -> list[tuple[float, float]]:
    """From when to when something bright stands in the part that numbered pictures leave for subtitles.

    Times count from the first picture.
    """
    width, height = 64, 24
    argv = ["ffmpeg", "-v", "error", "-nostdin", "-i", str(path), "-map", "0:V:0", "-fps_mode", "passthrough"]
    argv += ["-vf", f"crop=iw*0.7:ih*0.16:iw*0.15:ih*0.78,scale={width}:{height}:flags=area,format=gray"]
    data = output_of([*argv, "-f", "rawvideo", "pipe:1"])
    pictures = np.frombuffer(data, np.uint8).reshape(-1, height, width)
    shown = _frame_times(path, "V:0")
    times = [at - shown[0] for at in shown]
    bright = [float(np.sort(picture, axis=None)[-8:].mean()) > LIT for picture in pictures[: len(times)]]
    found: list[tuple[float, float]] = []
    began: float | None = None
    for at, on in zip(times, bright, strict=False):
        if on and began is None:
            began = at
        elif not on and began is not None:
            found.append((began, at))
            began = None
    return [*found, *([(began, times[-1])] if began is not None else [])]


def _frame_times(path: Path, stream: str) -> list[float]:
    return list(_times_of(path, stream, state_of(path)))


@lru_cache(maxsize=8)
def _times_of(path: Path, stream: str, state: tuple[int, int]) -> tuple[float, ...]:
    argv = ["ffprobe", "-v", "error", "-select_streams", stream, "-show_entries", "frame=best_effort_timestamp_time"]
    said = output_of([*argv, "-of", "json", str(path)])
    frames = json.loads(said).get("frames", [])
    return tuple(
        float(frame["best_effort_timestamp_time"]) for frame in frames if "best_effort_timestamp_time" in frame
    )


def hear(path: Path, track: int = 0, *, pitch: float = 1.0, first_s: float = 0.0) -> Heard:
    """The clicks of an audio track by their tones, each looked for near its own time (minus ``first_s``)."""
    line, start_s = samples(path, track)
    length = round(CLICK_S * SAMPLE_RATE)
    shape = np.hanning(length)
    found: list[tuple[int, float]] = []
    energies: list[float] = []
    for click in range(int((len(line) / SAMPLE_RATE + first_s + 1) / CLICK_EVERY_S) + 1):
        expected = CLICK_AT_S + click * CLICK_EVERY_S - first_s
        low = round((expected - NEAR_S - start_s) * SAMPLE_RATE)
        high = round((expected + NEAR_S - start_s) * SAMPLE_RATE) + length
        if high <= length or low >= len(line) - length:
            continue
        piece = np.zeros(high - low)
        inside = line[max(0, low) : max(0, high)]
        piece[max(0, -low) : max(0, -low) + len(inside)] = inside
        turn = np.exp(-2j * np.pi * tone_hz(click) * pitch * np.arange(length) / SAMPLE_RATE)
        echo = np.abs(np.correlate(piece, np.conj(shape * turn), mode="valid"))
        best = int(echo.argmax())
        energies.append(float(echo[best]))
        found.append((click, (low + best) / SAMPLE_RATE + start_s - expected))
    usual = float(np.median(energies)) if energies else 0.0
    loud = [pair for pair, energy in zip(found, energies, strict=True) if energy > LEAST_CLICK * usual and energy > 1e4]
    return Heard(clicks=tuple(n for n, _ in loud), offsets=tuple(off for _, off in loud))


def samples(path: Path, track: int = 0) -> tuple[npt.NDArray[np.float64], float]:
    """One track as mono at 48 kHz, each decoded frame laid at its own time; and the time of the first sample."""
    # the file's own times: without them the engine lets a track that is read alone begin at zero
    argv = ["ffmpeg", "-v", "error", "-nostdin", "-copyts", "-i", str(path), "-map", f"0:a:{track}", "-ac", "1"]
    argv += ["-af", "ashowinfo", "-ar", str(SAMPLE_RATE), "-f", "s16le", "pipe:1"]
    argv[2] = "info"
    told: list[str] = []
    data = output_of(argv, on_complaint=told.append)
    plain = np.frombuffer(data, np.int16).astype(float)
    shown = [line for line in told if "ashowinfo" in line and " pts_time:" in line]
    if not shown:
        return plain, 0.0
    file_s = _start_time(path)
    line = np.zeros(0)
    first: float | None = None
    at = 0
    for text in shown:
        said = dict(part.split(":", 1) for part in text.split() if ":" in part)
        count = round(int(said["nb_samples"]) * SAMPLE_RATE / int(said["rate"]))
        piece = plain[at : at + count]
        at += count
        when = float(said["pts_time"]) - file_s
        first = when if first is None else first
        place = round((when - first) * SAMPLE_RATE)
        # a rounded time stamp is no hole
        if abs(place - len(line)) <= SAMPLE_RATE * 0.0015:
            place = len(line)
        if place + len(piece) > len(line):
            line = np.concatenate([line, np.zeros(place + len(piece) - len(line))])
        line[place : place + len(piece)] = piece
    return line, first or 0.0


def _start_time(path: Path) -> float:
    """What the engine takes off every time stamp of a file."""
    return _start_of(path, state_of(path))


@lru_cache(maxsize=8)
def _start_of(path: Path, state: tuple[int, int]) -> float:
    argv = ["ffprobe", "-v", "error", "-show_entries", "format=start_time", "-of", "json", str(path)]
    said = json.loads(output_of(argv))
    try:
        return float(said["format"].get("start_time", 0))
    except ValueError:
        return 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Together:
    """Sound against picture over a whole file (distances in seconds), and what is wrong with its pictures."""

    lost: int
    doubled: int
    disordered: int
    unread: int
    clicks: int
    worst_s: float
    median_s: float
    picture_start_s: float
    picture_jitter_s: float


def measure(path: Path, rate: Fraction | float, pictures: range, *, track: int = 0, first_s: float = 0.0) -> Together:
    """Hold a file's clicks against its pictures; ``pictures`` are those it must show, ``first_s`` when they start."""
    seen, heard = see(path), hear(path, track, first_s=first_s)
    off = seen.offsets(rate, pictures.start)
    picture_at = float(np.median(off)) if len(off) else 0.0
    against = np.array(heard.offsets) - picture_at
    return Together(
        lost=seen.lost(pictures.start, pictures.stop - 1),
        doubled=seen.doubled,
        disordered=seen.disordered,
        unread=sum(n < 0 for n in seen.numbers),
        clicks=len(heard.clicks),
        worst_s=float(np.abs(against).max()) if len(against) else 9.9,
        median_s=float(np.median(against)) if len(against) else 9.9,
        picture_start_s=picture_at,
        picture_jitter_s=float(np.abs(off - picture_at).max()) if len(off) else 9.9,
    )
