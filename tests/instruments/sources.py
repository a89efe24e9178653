"""Loose files of many containers, rates and codecs, all of numbered pictures and clicks."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

from .authored import Pictures, author, clicks, plain, write_sound

FILM, NTSC, PAL = Fraction(24000, 1001), Fraction(30000, 1001), Fraction(25)
H264 = ("-c:v", "libx264", "-preset", "ultrafast", "-g", "48", "-bf", "2", "-crf", "20")
AAC, MP3, AC3 = ("-c:a", "aac"), ("-c:a", "libmp3lame"), ("-c:a", "ac3", "-b:a", "192k")
ASP = ("-c:v", "mpeg4", "-bf", "2", "-q:v", "3", "-g", "48")
MPEG2 = ("-c:v", "mpeg2video", "-b:v", "3M", "-g", "15", "-bf", "2")
FIELDS = ("-flags", "+ildct+ilme", "-top", "1")


@dataclass(frozen=True, slots=True, kw_only=True)
class Authored:
    """A source to make and its truth: the pictures it holds, counted at ``rate`` from its first moment."""

    name: str
    suffix: str
    pictures: Pictures
    coding: tuple[str, ...]
    filters: str = "null"
    channels: int = 2

    @property
    def rate(self) -> Fraction:
        return self.pictures.rate

    def make(self, folder: Path) -> Path:
        return plain(
            folder / f"{self.name}.{self.suffix}",
            self.pictures,
            self.coding,
            channels=self.channels,
            filters=self.filters,
        )


def _film(seconds: float = 12) -> Pictures:
    return Pictures(count=round(seconds * 24), rate=FILM)


# by turns every picture and every second or sixth, as cameras and screen recorders do
_TURNS = "select='lt(mod(t,4),2)+not(mod(n,2))'"
_SCREEN = "select='lt(mod(t,6),2)+not(mod(n,6))'"
# film pictures that carry the times of two and three fields
_FIELD_TIMES = "settb=1001/60000,setpts='floor(N/2)*5+mod(N,2)*3'"

LOOSE: tuple[Authored, ...] = (
    Authored(name="film", suffix="mkv", pictures=_film(), coding=(*H264, *AAC)),
    Authored(name="film", suffix="mp4", pictures=_film(), coding=(*H264, *AAC)),
    Authored(name="pal", suffix="mov", pictures=Pictures(count=300, rate=PAL), coding=(*H264, *AAC)),
    Authored(name="ntsc", suffix="mkv", pictures=Pictures(count=360, rate=NTSC), coding=(*H264, *AC3)),
    Authored(name="fast", suffix="mkv", pictures=Pictures(count=600, rate=Fraction(60000, 1001)), coding=(*H264, *AAC)),
    Authored(name="asp", suffix="avi", pictures=Pictures(count=300, rate=PAL), coding=(*ASP, *MP3)),
    Authored(name="asp", suffix="mkv", pictures=_film(), coding=(*ASP, *MP3)),
    Authored(name="program", suffix="mpg", pictures=Pictures(count=300, rate=PAL, size=(352, 288)),
             coding=(*MPEG2, "-c:a", "mp2", "-f", "vob")),
    Authored(name="transport", suffix="ts", pictures=Pictures(count=300, rate=PAL), coding=(*H264, *AC3)),
    Authored(name="flash", suffix="flv", pictures=Pictures(count=300, rate=PAL), coding=(*H264, *AAC)),
    Authored(name="windows", suffix="wmv", pictures=Pictures(count=300, rate=PAL),
             coding=("-c:v", "wmv2", "-b:v", "2M", "-c:a", "wmav2")),
    Authored(name="web", suffix="webm", pictures=Pictures(count=240, rate=Fraction(24)),
             coding=("-c:v", "libvpx", "-b:v", "2M", "-deadline", "realtime", "-cpu-used", "8", "-c:a", "libvorbis")),
    Authored(name="turns", suffix="mkv", pictures=Pictures(count=600, rate=Fraction(30)), filters=_TURNS,
             coding=(*H264, *AAC, "-fps_mode", "vfr")),
    Authored(name="turns", suffix="mp4", pictures=Pictures(count=600, rate=Fraction(30)), filters=_TURNS,
             coding=(*H264, *AAC, "-fps_mode", "vfr")),
    Authored(name="screen", suffix="mkv", pictures=Pictures(count=540, rate=Fraction(30)), filters=_SCREEN,
             coding=(*H264, *AAC, "-fps_mode", "vfr")),
    Authored(name="fields", suffix="mkv", pictures=_film(), filters=_FIELD_TIMES,
             coding=(*H264, *AC3, "-fps_mode", "passthrough", "-enc_time_base", "1001/60000")),
)  # fmt: skip


_FINE = ("-c:v", "libx264", "-preset", "medium", "-crf", "20")
_SMALL = Pictures(count=350, rate=PAL, size=(352, 288))
TO_CUT: tuple[Authored, ...] = (
    Authored(name="lines", suffix="ts", pictures=_SMALL,
             coding=(*_FINE, "-flags", "+ildct", "-top", "1", "-g", "50", "-bf", "2", *AC3)),
    Authored(name="late", suffix="mkv", pictures=Pictures(count=420, rate=NTSC),
             coding=(*_FINE, "-g", "75", "-bf", "8", "-b_strategy", "2", *AC3)),
    Authored(name="open", suffix="mkv", pictures=_SMALL,
             coding=(*_FINE, "-g", "50", "-x264-params", "open-gop=1", *AC3)),
    Authored(name="rolling", suffix="mp4", pictures=_SMALL,
             coding=(*_FINE, "-g", "50", "-x264-params", "intra-refresh=1", *AAC)),
    # pictures so small that several of them share a time stamp
    Authored(name="closed", suffix="mpg", pictures=_SMALL,
             coding=(*MPEG2, "-flags", "+cgop", "-sc_threshold", "1000000000", "-c:a", "mp2", "-f", "vob")),
)  # fmt: skip

BY_NAME = {f"{one.name}.{one.suffix}": one for one in (*LOOSE, *TO_CUT)}


def late_sound(target: Path, pictures: Pictures, delay_s: float, coding: tuple[str, ...]) -> Path:
    """A file whose sound starts ``delay_s`` after its pictures, each at its right place."""
    sound = write_sound(clicks(pictures.duration_s - delay_s, first_s=delay_s), target.with_suffix(".wav"))
    made = author(target, pictures, coding, inputs=["-itsoffset", str(delay_s), "-i", str(sound)])
    sound.unlink()
    return made


Maker = Callable[[Path], Path]
