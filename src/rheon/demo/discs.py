"""Authoring real discs with the standard tools: streams, subpictures, tables, image."""

from __future__ import annotations

import os
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path
from xml.sax.saxutils import quoteattr

from rheon.core.engine import Command, run
from rheon.core.errors import ToolMissing

from .footage import TIMEOUT_S, Look, make, picture_arguments, sound
from .paint import paint_line
from .scenario import Line, Programme

FIXED_TIME = 1_790_000_000  # so that every build of the demo carries the same dates


@dataclass(frozen=True, slots=True, kw_only=True)
class Track:
    """An audio track to author: language, 5.1 or stereo, and the pitch it is recognised by."""

    language: str
    surround: bool
    root_hz: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Standard:
    """A television standard's stored picture, and how footage becomes it."""

    name: str
    look: Look
    filters: str
    aspect: str
    video: tuple[str, ...]


NTSC_FILM = Standard(
    name="ntsc",
    look=Look(size=(854, 480), rate="30000/1001", border=60),
    filters="scale=720:480,setdar=16/9",
    aspect="16:9",
    video=("-r", "30000/1001", "-g", "15", "-b:v", "3500k"),
)
PAL_INTERLACED = Standard(
    name="pal",
    look=Look(size=(768, 576), rate="50"),
    filters="scale=720:576,interlace=scan=tff:lowpass=0,setdar=4/3",
    aspect="4:3",
    video=("-r", "25", "-g", "12", "-b:v", "4000k", "-flags", "+ildct+ilme", "-top", "1"),
)

# a quarter of the picture, so that the demo stays small
PAL_QUARTER = Standard(
    name="pal",
    look=Look(size=(384, 288), rate="25"),
    filters="scale=352:288,setdar=4/3",
    aspect="4:3",
    video=("-r", "25", "-g", "12", "-b:v", "1200k"),
)
# film spread over the fields of 30 frames a second, as broadcasts are
NTSC_TELECINED = Standard(
    name="ntsc",
    look=Look(size=(640, 480), rate="24000/1001", border=60),
    filters="scale=720:480,telecine=first_field=top:pattern=23,setdar=4/3",
    aspect="4:3",
    video=("-r", "30000/1001", "-g", "15", "-b:v", "2800k", "-flags", "+ildct+ilme", "-top", "1"),
)


def make_stream(programme: Programme, standard: Standard, tracks: Sequence[Track], work: Path) -> Path:
    """Encode a programme as a DVD program stream with its audio tracks."""
    inputs, graph = picture_arguments(programme, standard.look, work / programme.name)
    first_sound = inputs.count("-i")
    sounds: list[str] = []
    maps: list[str] = []
    for number, track in enumerate(tracks):
        sounds += sound(programme.duration_s, root_hz=track.root_hz, surround=track.surround)
        maps += ["-map", f"{first_sound + number}:a"]
        maps += [f"-b:a:{number}", "448k" if track.surround else "192k"]
    target = work / f"{programme.name}.mpg"
    make(
        [
            *inputs, *sounds,
            "-filter_complex", f"{graph};[seen]{standard.filters}[out]",
            "-map", "[out]", *maps,
            "-c:v", "mpeg2video", *standard.video, "-maxrate", "8000k", "-bufsize", "1835k", "-threads", "1",
            "-c:a", "ac3", "-ar", "48000", "-bitexact", "-f", "dvd", str(target),
        ]
    )  # fmt: skip
    return target


def add_subpictures(stream: Path, lines: Sequence[Line], number: int, work: Path) -> Path:
    """Multiplex a subpicture track (number counts from 0) into a program stream; returns the new stream."""
    folder = work / f"{stream.stem}-subtitles{number}"
    folder.mkdir(parents=True, exist_ok=True)
    units = []
    for index, line in enumerate(lines):
        picture = folder / f"{index:03}.png"
        paint_line(line, 720, picture)
        times = f'start="{_timecode(line.start_s)}" end="{_timecode(line.end_s)}"'
        units.append(f'<spu {times} image={quoteattr(str(picture))} xoffset="0" yoffset="420"/>')
    recipe = folder / "subtitles.xml"
    recipe.write_text(f'<subpictures format="NTSC"><stream>{"".join(units)}</stream></subpictures>', encoding="utf-8")
    target = stream.with_name(f"{stream.stem}-w{number}.mpg")

    def feed() -> Iterator[bytes]:
        with stream.open("rb") as source:
            while chunk := source.read(1 << 20):
                yield chunk

    done = run(Command(argv=["spumux", "-s", str(number), str(recipe)], feed=feed, timeout_s=TIMEOUT_S))
    if not any(f"{len(lines)} subtitles added, 0 subtitles skipped" in said for said in done.tail):
        raise ToolMissing("The subtitle pictures for {stream} could not be multiplexed.", stream=stream.name)
    target.write_bytes(done.stdout)
    return target


@dataclass(frozen=True, slots=True, kw_only=True)
class TitleSet:
    """Titles that share one set of attributes: each is the streams that it plays one after the other.

    Titles that name the same stream share its cells. ``chapters_s`` are the chapters of each stream.
    """

    standard: Standard
    tracks: Sequence[Track]
    subtitles: Sequence[str]
    titles: Sequence[Sequence[Path]]
    chapters_s: Sequence[float] = (0,)


def author_disc(sets: Sequence[TitleSet], folder: Path) -> None:
    """Write a ``VIDEO_TS`` folder from title sets."""
    recipe = folder.parent / f"{folder.name}.xml"
    recipe.write_text(
        f"<dvdauthor dest={quoteattr(str(folder))}><vmgm/>{''.join(map(_title_set, sets))}</dvdauthor>",
        encoding="utf-8",
    )
    format_name = sets[0].standard.name.upper()
    run(Command(argv=["env", f"VIDEO_FORMAT={format_name}", "dvdauthor", "-x", str(recipe)], timeout_s=TIMEOUT_S))
    recipe.unlink()
    (folder / "AUDIO_TS").mkdir(exist_ok=True)


def _title_set(item: TitleSet) -> str:
    standard = item.standard
    wide = ' widescreen="nopanscan"' if standard.aspect == "16:9" else ""
    audio = "".join(
        f'<audio format="ac3" channels="{6 if track.surround else 2}" lang="{track.language}"/>'
        for track in item.tracks
    )
    subtitles = "".join(f'<subpicture lang="{language}"/>' for language in item.subtitles)
    marks = ",".join(_timecode(mark) for mark in item.chapters_s)
    chains = "".join(f"<pgc>{''.join(_vob(path, marks) for path in title)}</pgc>" for title in item.titles)
    video = f'<video format="{standard.name}" aspect="{standard.aspect}"{wide}/>'
    return f"<titleset><titles>{video}{audio}{subtitles}{chains}</titles></titleset>"


def _vob(path: Path, marks: str) -> str:
    return f'<vob file={quoteattr(str(path))} chapters="{marks}"/>'


def make_image(folder: Path, label: str, image: Path, *, video_disc: bool = True) -> None:
    """Write a disc folder as an image with both ISO 9660 and UDF; a ``video_disc`` is laid out as players want it."""
    for path in [folder, *folder.rglob("*")]:
        os.utime(path, (FIXED_TIME, FIXED_TIME))
    layout = ["-dvd-video"] if video_disc else ["-udf", "-allow-lowercase", "-l"]
    dated = ["env", f"SOURCE_DATE_EPOCH={FIXED_TIME}"]
    run(
        Command(
            argv=[*dated, "genisoimage", "-quiet", *layout, "-V", label, "-o", str(image), str(folder)],
            timeout_s=TIMEOUT_S,
        )
    )


def _timecode(seconds: float) -> str:
    return f"{int(seconds // 3600)}:{int(seconds % 3600 // 60):02}:{seconds % 60:05.2f}"
