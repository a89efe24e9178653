"""A bar that crosses a textured picture at a steady speed, taken as film, as video, or as both by turns, and how it is
seen in what was made: combs, and pictures that come at another time than what they show.
"""

from __future__ import annotations

import subprocess
from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import numpy as np
import numpy.typing as npt

from .pulldown import with_pulldown

Picture = npt.NDArray[np.uint8]
BAR, START, SPEED = 40, 20, 240.0
"""Width and first place in stored pixels of a 720-pixel picture; pixels a second."""
WIDE = 720
NTSC, PAL = Fraction(30000, 1001), Fraction(25)
FILM = Fraction(24000, 1001)
COMB = 3.0
"""Pixels by which upper and lower lines of the bar differ before somebody sees a comb."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Seen:
    """Pictures of a stretch: their times (s), by how much each comes later than what it shows (s), which are combed."""

    times: npt.NDArray[np.float64]
    late: npt.NDArray[np.float64]
    combed: int

    @property
    def judder(self) -> float:
        """How unevenly the bar moves: the standard deviation of lateness, in seconds."""
        return float(self.late.std())

    def uneven_ms(self, rate: Fraction) -> float:
        """By how much the time between two pictures differs at most from that of a rate."""
        return float(np.abs(np.diff(self.times) - float(1 / rate)).max() * 1000)

    def between(self, from_s: float, until_s: float) -> Seen:
        inside = (self.times > from_s) & (self.times < until_s)
        return Seen(times=self.times[inside], late=self.late[inside], combed=self.combed)


def video(moment: float) -> float:
    return moment


def whole(moment: float) -> float:
    """The moment of a picture of which both fields show the same, 25 a second."""
    return round(moment * 50) // 2 / 25


def film(moment: float) -> float:
    """The moment of the film frame that a field shows, by 2:3 pulldown."""
    field = round(moment * float(2 * NTSC))
    return float((2 * (field // 5) + (field % 5 >= 2)) / FILM)


def by_turns(seconds: float, *kinds: Callable[[float], float]) -> Callable[[float], float]:
    """Each kind for so many seconds, from the first one again."""
    return lambda moment: kinds[int(moment / seconds) % len(kinds)](moment)


@dataclass(frozen=True, slots=True, kw_only=True)
class Taken:
    """How a source was taken: at ``rate`` pictures of two fields a second, the field of a moment as ``kind`` says."""

    rate: Fraction
    lines: int
    seconds: float
    top_first: bool = True
    kind: Callable[[float], float] = video

    def fields(self) -> list[Picture]:
        drawn: dict[float, Picture] = {}
        ground = _ground(self.lines)
        for number in range(int(self.seconds * 2 * self.rate)):
            shown = self.kind(float(number / (2 * self.rate)))
            if shown not in drawn:
                drawn[shown] = _picture(ground, shown)
        return [drawn[self.kind(float(n / (2 * self.rate)))] for n in range(int(self.seconds * 2 * self.rate))]

    def pictures(self) -> list[Picture]:
        """Upper and lower lines of two moments, woven."""
        fields, made = self.fields(), []
        first = 0 if self.top_first else 1
        for one, other in zip(fields[0::2], fields[1::2], strict=False):
            woven = one.copy()
            woven[1 - first :: 2] = other[1 - first :: 2]
            made.append(woven)
        return made


def author(path: Path, taken: Taken, told_top_first: bool | None = None) -> Path:
    """An MPEG-2 file of it, whose stream tells ``told_top_first``; the truth where that is ``None``."""
    top = taken.top_first if told_top_first is None else told_top_first
    path.write_bytes(_coded(taken.pictures(), taken.rate, top_first=top, container="mpeg"))
    return path


def author_flagged(path: Path, seconds: float, turns: int) -> Path:
    """An MPEG-2 file in which film, spread over fields by its flags alone, and video take turns, film first."""
    ground, stream, from_s = _ground(480), b"", 0.0
    for turn in range(turns):
        rate = NTSC if turn % 2 else FILM
        count = round(seconds * float(rate))
        length_s = float(count / rate)
        if turn % 2:
            taken = Taken(rate=NTSC, lines=480, seconds=length_s, kind=lambda moment, since=from_s: since + moment)
            stream += _coded(taken.pictures(), rate, top_first=True)
        else:
            film_frames = [_picture(ground, from_s + float(number / rate)) for number in range(count)]
            stream += with_pulldown(_coded(film_frames, rate))
        from_s += length_s
    argv = ["ffmpeg", "-v", "error", "-y", "-fflags", "+genpts", "-r", str(NTSC), "-i", "pipe:0", "-c", "copy"]
    subprocess.run([*argv, "-f", "vob", str(path)], input=stream, check=True)
    return path


def _coded(
    pictures: list[Picture], rate: Fraction, *, top_first: bool | None = None, container: str = "mpeg2video"
) -> bytes:
    """MPEG-2, as fields where it is said which comes first."""
    order = "" if top_first is None else f",setfield={'tff' if top_first else 'bff'}"
    fields = [] if top_first is None else ["-flags", "+ildct+ilme", "-top", str(int(top_first))]
    argv = ["ffmpeg", "-v", "error", "-f", "rawvideo", "-pix_fmt", "gray", "-s", f"{WIDE}x{len(pictures[0])}"]
    argv += ["-r", str(rate), "-i", "pipe:0", "-vf", f"format=yuv420p{order},setsar=1", "-c:v", "mpeg2video"]
    argv += ["-b:v", "7M", "-maxrate", "9M", "-bufsize", "1835k", *fields, "-f", container, "pipe:1"]
    raw = b"".join(picture.tobytes() for picture in pictures)
    return subprocess.run(argv, input=raw, check=True, capture_output=True).stdout


def seen_in(path: Path, *, as_fields: bool = False) -> Seen:
    """What a player shows of a file; ``as_fields`` one that shows each field at its time, as the file tells."""
    shown = "bwdif=mode=send_field:deint=interlaced" if as_fields else "null"
    graph = f"{shown},scale={WIDE}:ih,format=gray,showinfo=checksum=0"
    argv = ["ffmpeg", "-nostats", "-i", str(path), "-vf", graph, "-fps_mode", "passthrough", "-f", "rawvideo", "pipe:1"]
    done = subprocess.run(argv, check=True, capture_output=True)
    said = [line for line in done.stderr.decode(errors="replace").splitlines() if "pts_time:" in line]
    times = np.array([float(line.split("pts_time:")[1].split()[0]) for line in said])
    lines = len(done.stdout) // WIDE // len(times)
    pictures = np.frombuffer(done.stdout, np.uint8).reshape(len(times), lines, WIDE)
    places, combed = [], 0
    for picture in pictures:
        bar = picture[lines // 8 : lines * 7 // 8] > 185
        combed += _apart(bar) > COMB
        across = np.flatnonzero(bar.mean(axis=0) > 0.5)
        places.append(float(across.mean()) - (BAR - 1) / 2 if len(across) else np.nan)
    round_s = (WIDE - 2 * BAR) / SPEED
    late = (times - (np.array(places) - START) / SPEED + round_s / 2) % round_s - round_s / 2
    at_edge = np.isnan(late) | (np.abs(late) > 0.2)
    return Seen(times=times[~at_edge], late=late[~at_edge], combed=combed)


def _apart(bar: npt.NDArray[np.bool_]) -> float:
    """Pixels in which upper and lower lines differ."""
    return float(np.abs(bar[0::2].mean(axis=0) - bar[1::2].mean(axis=0)).sum())


def _ground(lines: int) -> Picture:
    rough = np.random.default_rng(1).integers(60, 120, (lines // 8, WIDE // 8))
    return rough.repeat(8, 0).repeat(8, 1).astype(np.uint8)


def _picture(ground: Picture, moment: float) -> Picture:
    made = ground.copy()
    at = round(START + SPEED * moment) % (WIDE - 2 * BAR)
    made[len(made) // 12 : len(made) * 11 // 12, at : at + BAR] = 230
    return made
