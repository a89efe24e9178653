"""DVD-Video and Blu-ray discs of numbered pictures and clicks, authored with the standard tools.

Every programme counts its pictures on from where the one before it ended, so that what lies where is always known.
"""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass, field
from fractions import Fraction
from pathlib import Path
from xml.sax.saxutils import quoteattr

from PIL import Image

from rheon.core.sources import read_source
from rheon.demo.bluray import PICTURE_ID, SOUND_ID, Clip, Item, Listing, Sound, clip_table, write_playlist
from rheon.demo.graphics import write_graphics
from rheon.demo.scenario import Line
from tests.core.sources.disc_surgery import angle_disc, title_bytes

from .authored import Pictures, author, clicks, write_sound
from .engine import output_of
from .pulldown import with_pulldown

NTSC, PAL = Fraction(30000, 1001), Fraction(25)
SECOND_ANGLE_FIRST = 1000
PULLED_DOWN_LATE_S = 3 * 1001 / 60000
"""The muxer shows the first picture of a flagged stream that much after the first sound."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Vob:
    """A programme stream: its pictures, the seconds at which its chapters begin, and its subtitles.

    ``fields``: coded as fields; ``pulldown``: film, shown at 30000/1001 by flags.
    """

    pictures: Pictures
    chapters_s: Sequence[float] = (0.0,)
    lines: Sequence[tuple[float, float]] = ()
    channels: Sequence[int] = (2,)
    filters: str = "null"
    fields: bool = False
    pulldown: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Chain:
    """A title: stretches of programme streams in playing order, ``(which, from chapter, to chapter)`` from 0."""

    parts: Sequence[tuple[int, int, int]] = field(default_factory=tuple)


def timecode(seconds: float) -> str:
    return f"{int(seconds // 3600)}:{int(seconds % 3600 // 60):02}:{seconds % 60:06.3f}"


def make_vob(vob: Vob, number: int, work: Path) -> Path:
    """A DVD program stream; sound counts its clicks on from where the pictures' numbers begin."""
    work.mkdir(parents=True, exist_ok=True)
    first_s = float(vob.pictures.first / vob.pictures.rate) - (PULLED_DOWN_LATE_S if vob.pulldown else 0.0)
    sounds = [
        write_sound(
            clicks(vob.pictures.duration_s, channels, first_s=first_s, pitch=1 + track / 7),
            work / f"v{number}-{track}.wav",
        )
        for track, channels in enumerate(vob.channels)
    ]
    coding = ["-c:v", "mpeg2video", "-b:v", "3500k", "-maxrate", "7000k", "-bufsize", "1835k", "-g", "15", "-bf", "2"]
    coding += ["-aspect", "4:3", "-c:a", "ac3", "-ar", "48000", "-b:a", "192k", "-f", "dvd"]
    if vob.fields:
        coding += ["-flags", "+ildct+ilme", "-top", "1"]
    target = work / f"v{number}.mpg"
    if vob.pulldown:
        made = _pulled_down(target, vob, coding, sounds)
    else:
        made = author(target, vob.pictures, coding, sounds=sounds, filters=vob.filters)
    return _with_lines(made, vob, work) if vob.lines else made


def _pulled_down(target: Path, vob: Vob, coding: Sequence[str], sounds: Sequence[Path]) -> Path:
    plain = author(target.with_suffix(".m2v"), vob.pictures, [*coding[: coding.index("-c:a")], "-f", "mpeg2video"])
    plain.write_bytes(with_pulldown(plain.read_bytes()))
    argv = ["ffmpeg", "-v", "error", "-y", "-fflags", "+genpts", "-i", str(plain)]
    argv += [part for sound in sounds for part in ("-i", str(sound))]
    argv += [part for place in range(len(sounds) + 1) for part in ("-map", str(place))]
    output_of([*argv, "-c:v", "copy", *coding[coding.index("-c:a") :], str(target)])
    return target


def _with_lines(stream: Path, vob: Vob, work: Path) -> Path:
    width, height = vob.pictures.size
    box = Image.new("RGBA", (width, 40), (0, 0, 0, 0))
    box.paste((255, 255, 255, 255), (width // 4, 4, width * 3 // 4, 36))
    picture = work / "box.png"
    box.save(picture)
    top = round(height * 0.82) // 2 * 2
    units = "".join(
        f'<spu start="{timecode(start)}" end="{timecode(end)}" image={quoteattr(str(picture))}'
        f' xoffset="0" yoffset="{top}"/>'
        for start, end in vob.lines
    )
    standard = "PAL" if vob.pictures.rate == PAL else "NTSC"
    recipe = work / f"{stream.stem}.xml"
    recipe.write_text(f'<subpictures format="{standard}"><stream>{units}</stream></subpictures>', encoding="utf-8")
    done = output_of(["spumux", "-s", "0", str(recipe)], feed=lambda: iter([stream.read_bytes()]))
    target = stream.with_name(f"{stream.stem}-w.mpg")
    target.write_bytes(done)
    return target


def author_dvd(vobs: Sequence[Vob], chains: Sequence[Chain], folder: Path) -> Path:
    """A disc folder; each chain is a title, and titles that name the same stretch share its cells."""
    work = folder.parent / f"{folder.name}-work"
    paths = [make_vob(vob, number, work) for number, vob in enumerate(vobs)]
    standard = "pal" if vobs[0].pictures.rate == PAL else "ntsc"
    sound = "".join(
        f'<audio format="ac3" channels="{n}" lang="{lang}"/>'
        for n, lang in zip(vobs[0].channels, ("en", "es"), strict=False)
    )
    subtitles = '<subpicture lang="en"/>' if any(vob.lines for vob in vobs) else ""
    listed = "".join(f"<pgc>{''.join(_part(vobs, paths, part) for part in chain.parts)}</pgc>" for chain in chains)
    video = f'<video format="{standard}" aspect="4:3"/>'
    recipe = work / "disc.xml"
    recipe.write_text(
        f"<dvdauthor dest={quoteattr(str(folder))}><vmgm/><titleset><titles>{video}{sound}{subtitles}{listed}</titles>"
        "</titleset></dvdauthor>",
        encoding="utf-8",
    )
    argv = ["env", f"VIDEO_FORMAT={standard.upper()}", "dvdauthor", "-x", str(recipe)]
    output_of(argv)
    return folder


def _part(vobs: Sequence[Vob], paths: Sequence[Path], part: tuple[int, int, int]) -> str:
    which, first, last = part
    marks = [*vobs[which].chapters_s, None]
    cells = "".join(
        f'<cell start="{timecode(marks[n] or 0.0)}"'
        + (f' end="{timecode(end)}"' if (end := marks[n + 1]) else "")
        + ' chapter="1"/>'
        for n in range(first, last + 1)
    )
    return f"<vob file={quoteattr(str(paths[which]))}>{cells}</vob>"


@dataclass(frozen=True, slots=True, kw_only=True)
class ClipMade:
    """A clip of a Blu-ray disc: its pictures, tables' view of it, and the moment of its first picture (45 kHz)."""

    pictures: Pictures
    clip: Clip


def make_clip(
    pictures: Pictures, stem: str, disc: Path, lines: Sequence[tuple[float, float]] = (), gop: int = 24
) -> ClipMade:
    """A clip with AC-3 sound, and with presentation graphics where lines are given (seconds of the clip)."""
    work = disc.parent / f"{disc.name}-work"
    work.mkdir(parents=True, exist_ok=True)
    target = disc / "BDMV" / "STREAM" / f"{stem}.m2ts"
    target.parent.mkdir(parents=True, exist_ok=True)
    first_s = float(pictures.first / pictures.rate)
    sound = write_sound(clicks(pictures.duration_s, first_s=first_s), work / f"{stem}.wav")
    coding = [
        "-c:v",
        "libx264",
        "-preset",
        "veryfast",
        "-crf",
        "20",
        "-g",
        str(gop),
        "-x264-params",
        "open-gop=0:aud=1",
    ]
    coding += ["-c:a", "ac3", "-b:a", "192k"]
    inputs: list[str] = []
    if lines:
        shown = [Line(start_s=a, end_s=b, text="MMMMMMMMMMMM") for a, b in lines]
        write_graphics(shown, pictures.size, work / f"{stem}.sup")
        inputs = ["-i", str(work / f"{stem}.sup")]
        coding += ["-map", "2:s", "-c:s", "copy"]
    coding += ["-f", "mpegts", "-mpegts_m2ts_mode", "1"]
    author(target, pictures, coding, sounds=[sound], inputs=inputs)
    made = ClipMade(pictures=pictures, clip=_described(target, stem, pictures.rate, bool(lines)))
    table = disc / "BDMV" / "CLIPINF" / f"{stem}.clpi"
    table.parent.mkdir(parents=True, exist_ok=True)
    table.write_bytes(clip_table(made.clip))
    return made


def _described(path: Path, stem: str, rate: Fraction, subtitles: bool) -> Clip:
    argv = ["ffprobe", "-v", "error", str(path), "-select_streams", "v", "-show_entries", "packet=pts,pos,flags"]
    packets = json.loads(output_of([*argv, "-of", "json"]))["packets"]
    stamps = [packet["pts"] for packet in packets]
    return Clip(
        stem=stem,
        sounds=[Sound(codec="ac3", language="eng", surround=False, root_hz=0)],
        subtitles=["eng"] if subtitles else [],
        start=min(stamps) // 2,
        end=(max(stamps) + round(90000 / rate)) // 2,
        entries=[(p["pts"] // 2, int(p["pos"]) // 192) for p in packets if p["flags"].startswith("K")],
        packets=path.stat().st_size // 192,
    )


__all__ = [
    "PICTURE_ID",
    "SOUND_ID",
    "Chain",
    "ClipMade",
    "Item",
    "Listing",
    "Vob",
    "author_dvd",
    "make_clip",
    "write_playlist",
]


PROGRAMME_LINES = ((2.0, 4.0), (4.04, 5.0), (7.0, 8.0), (13.0, 14.5), (19.0, 21.0))
"""When the subtitle lines of title 1 of ``author_programmes`` stand."""
CLIP_LINES, CLIP_COUNTS, CLIP_RATE = ((1.0, 2.5), (6.0, 7.5)), (120, 156, 120), Fraction(24)
"""The lines, pictures and rate of the title of ``author_clips``."""


def author_programmes(folder: Path) -> Path:
    """A PAL DVD of 600 pictures: title 1 plays two programmes of 3 and 1 chapters, title 2 a chapter from inside the
    first, title 3 two of its chapters that don't touch.
    """
    size = (720, 576)
    pictures = Pictures(count=450, rate=PAL, size=size)
    one = Vob(pictures=pictures, chapters_s=(0, 6, 12), lines=PROGRAMME_LINES[:4])
    two = Vob(pictures=Pictures(count=150, rate=PAL, size=size, first=450), lines=((1, 3),))
    chains = [Chain(parts=((0, 0, 2), (1, 0, 0))), Chain(parts=((0, 1, 1),)), Chain(parts=((0, 0, 0), (0, 2, 2)))]
    return author_dvd([one, two], chains, folder)


def author_clips(disc: Path) -> Path:
    """A Blu-ray whose title plays three clips; their sound ends a little before or after each of them."""
    first, items = 0, []
    for number, count in enumerate(CLIP_COUNTS, start=1):
        pictures = Pictures(count=count, rate=CLIP_RATE, size=(1280, 720), first=first)
        made = make_clip(pictures, f"0000{number}", disc, lines=((1, 2.5),) if number < 3 else ())
        items.append(Item(clip=made.clip))
        first += count
    write_playlist(Listing(items=items, chapters_s=(0, 2, 5, 9)), disc, "00001")
    return disc


def author_angles(folder: Path, seconds: int) -> Path:
    """A disc folder with two PAL angles, interleaved two units at a time; the second counts pictures from 1000."""
    data = []
    for number, first in enumerate((0, SECOND_ANGLE_FIRST)):
        vob = Vob(pictures=Pictures(count=25 * seconds, rate=PAL, size=(720, 576), first=first))
        made = author_dvd([vob], [Chain(parts=((0, 0, 0),))], folder / f"ANGLE{number}")
        data.append(title_bytes(read_source(made).titles[0]))
    one, other = data
    return angle_disc(folder / "ANGLES" / "VIDEO_TS", one, other, seconds)
