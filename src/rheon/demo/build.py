"""Build the demo media once: ``python -m rheon.demo.build FOLDER``."""

from __future__ import annotations

import hashlib
import shutil
import sys
import tempfile
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from . import scenario
from .discs import (
    NTSC_FILM,
    PAL_INTERLACED,
    TitleSet,
    Track,
    add_subpictures,
    author_disc,
    make_image,
    make_stream,
)
from .footage import Look, make, picture_arguments, sound

FILM_TRACKS = (
    Track(language="en", surround=True, root_hz=220),
    Track(language="es", surround=False, root_hz=165),
)
STEREO = (Track(language="en", surround=False, root_hz=247),)


def recipe_digest() -> str:
    """A digest of everything that decides what the demo looks like: the builder's own source."""
    digest = hashlib.sha256()
    for path in sorted(Path(__file__).parent.glob("*.py")):
        digest.update(path.read_bytes())
    return digest.hexdigest()


def build(folder: Path, say: Callable[[str], None] = print) -> bool:
    """Fill ``folder`` with the demo media. Returns ``False`` where it is there already and current."""
    stamp = folder / ".built"
    if stamp.exists() and stamp.read_text() == recipe_digest():
        return False
    shutil.rmtree(folder, ignore_errors=True)
    folder.mkdir(parents=True)
    with tempfile.TemporaryDirectory(prefix="rheon-demo-") as name, ThreadPoolExecutor(2) as pool:
        work = Path(name)
        # the longest first, so that two cores end together
        tasks = [
            pool.submit(_film_disc, work / "film", folder / scenario.FILM_LABEL),
            pool.submit(_series_disc, work / "series", folder / f"{scenario.SERIES_LABEL}.iso"),
            pool.submit(_loose_files, work / "loose", folder / "camera"),
        ]
        for label, task in zip(("film disc", "series disc", "camera files"), tasks, strict=True):
            task.result()
            say(f"demo: {label} built")
    stamp.write_text(recipe_digest())
    return True


def _film_disc(work: Path, target: Path) -> None:
    work.mkdir()
    film = make_stream(scenario.FILM, NTSC_FILM, FILM_TRACKS, work)
    film = add_subpictures(film, scenario.ENGLISH_LINES, 0, work)
    film = add_subpictures(film, scenario.SPANISH_LINES, 1, work)
    extras = [make_stream(extra, NTSC_FILM, STEREO, work) for extra in scenario.EXTRAS]
    author_disc(
        [
            TitleSet(
                standard=NTSC_FILM,
                tracks=FILM_TRACKS,
                subtitles=("en", "es"),
                streams=[film],
                chapters_s=scenario.FILM_CHAPTERS_S,
            ),
            TitleSet(standard=NTSC_FILM, tracks=STEREO, subtitles=(), streams=extras),
        ],
        target,
    )


def _series_disc(work: Path, target: Path) -> None:
    work.mkdir()
    episodes = [make_stream(episode, PAL_INTERLACED, STEREO, work) for episode in scenario.EPISODES]
    disc = work / "disc"
    author_disc(
        [
            TitleSet(
                standard=PAL_INTERLACED,
                tracks=STEREO,
                subtitles=(),
                streams=episodes,
                chapters_s=(0, 5, 10, 15),
            )
        ],
        disc,
    )
    make_image(disc, scenario.SERIES_LABEL, target)


def _loose_files(work: Path, target: Path) -> None:
    target.mkdir(parents=True)
    _kite_day(work, target / "Kite day.mp4")
    _regatta(work, target / "Regatta, two languages.mkv")
    _launch(work, target / "launch of the ferry.avi")


def _kite_day(work: Path, target: Path) -> None:
    inputs, graph = picture_arguments(scenario.KITES, Look(size=(1280, 720), rate="25"), work / "kites")
    make(
        [
            *inputs, *sound(scenario.KITES.duration_s, root_hz=294, surround=False),
            "-filter_complex", graph, "-map", "[seen]", "-map", f"{inputs.count('-i')}:a",
            "-c:v", "libx264", "-preset", "veryfast", "-profile:v", "high", "-level", "3.1", "-crf", "24",
            "-maxrate", "6M", "-bufsize", "8M", "-threads", "1",
            "-c:a", "aac", "-b:a", "128k", "-metadata", "title=Kite day", "-bitexact",
            "-movflags", "+faststart", str(target),
        ]
    )  # fmt: skip


def _regatta(work: Path, target: Path) -> None:
    inputs, graph = picture_arguments(scenario.REGATTA, Look(size=(1920, 1080), rate="24"), work / "regatta")
    words = work / "words.srt"
    words.write_text(
        "1\n00:00:02,000 --> 00:00:06,000\nThe Heron leads at the first buoy.\n\n"
        "2\n00:00:09,500 --> 00:00:14,000\nAnd the wind has gone round to the west!\n",
        encoding="utf-8",
    )
    count = inputs.count("-i")
    seconds = scenario.REGATTA.duration_s
    make(
        [
            *inputs, *sound(seconds, root_hz=196, surround=True), *sound(seconds, root_hz=330, surround=False),
            "-i", str(words),
            "-filter_complex", graph, "-map", "[seen]",
            "-map", f"{count}:a", "-map", f"{count + 1}:a", "-map", f"{count + 2}:s",
            "-c:v", "libx265", "-preset", "ultrafast", "-x265-params", "log-level=error:pools=1:frame-threads=1",
            "-crf", "26", "-c:a:0", "ac3", "-c:a:1", "aac", "-c:s", "srt",
            "-metadata:s:a:0", "language=eng", "-metadata:s:a:1", "language=spa",
            "-metadata:s:s:0", "language=eng", "-metadata", "title=Regatta", "-bitexact", str(target),
        ]
    )  # fmt: skip


def _launch(work: Path, target: Path) -> None:
    inputs, graph = picture_arguments(scenario.LAUNCH, Look(size=(640, 480), rate="15"), work / "launch")
    make(
        [
            *inputs, *sound(scenario.LAUNCH.duration_s, root_hz=262, surround=False),
            "-filter_complex", graph, "-map", "[seen]", "-map", f"{inputs.count('-i')}:a",
            "-c:v", "mjpeg", "-pix_fmt", "yuvj420p", "-q:v", "6", "-c:a", "pcm_s16le", "-bitexact", str(target),
        ]
    )  # fmt: skip


def main() -> None:
    folder = Path(sys.argv[1] if len(sys.argv) > 1 else "demo-data/media")
    if not build(folder):
        print(f"demo: media in {folder} are current")


if __name__ == "__main__":
    main()
