"""Build the demo media once: ``python -m rheon.demo.build FOLDER``."""

from __future__ import annotations

import contextlib
import fcntl
import hashlib
import shutil
import sys
import tempfile
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from . import scenario
from .bluray import ClipRecipe, Item, Listing, Sound, make_clip, write_playlist
from .damage import blank, mark_scrambled
from .discs import (
    NTSC_FILM,
    NTSC_TELECINED,
    PAL_INTERLACED,
    PAL_QUARTER,
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


STAND_INS = ("drive.py", "sticks.py", "works.py")
"""What of the demo makes no media."""


def recipe_digest() -> str:
    """A digest of everything that decides what the demo looks like: the builder's own source."""
    digest = hashlib.sha256()
    for path in sorted(Path(__file__).parent.glob("*.py")):
        if path.name not in STAND_INS:
            digest.update(path.read_bytes())
    return digest.hexdigest()


@contextlib.contextmanager
def _alone(folder: Path) -> Iterator[None]:
    """One builder at a time: whoever comes meanwhile waits and finds it built."""
    folder.parent.mkdir(parents=True, exist_ok=True)
    with folder.with_name(f".{folder.name}.lock").open("w") as handle:
        fcntl.flock(handle, fcntl.LOCK_EX)
        yield


def build(folder: Path, say: Callable[[str], None] = print) -> bool:
    """Fill ``folder`` with the demo media. Returns ``False`` where it is there already and current."""
    with _alone(folder):
        return _build(folder, say)


def _build(folder: Path, say: Callable[[str], None]) -> bool:
    stamp = folder / ".built"
    if stamp.exists() and stamp.read_text() == recipe_digest():
        return False
    shutil.rmtree(folder, ignore_errors=True)
    folder.mkdir(parents=True)
    # the longest first, so that two cores end together
    makers: dict[str, Callable[[Path, Path], None]] = {
        "film in two languages": _regatta,
        "film disc": _film_disc,
        "series disc": _series_disc,
        "Blu-ray folder": _heron_disc,
        "film of a phone": _kite_day,
        "film of a camera": _launch,
        "play-all discs": _keepers_discs,
        "telecined film": _ferry_disc,
        "damaged and scrambled discs": _bad_discs,
        "folder of episodes": _tide_watch,
    }
    with tempfile.TemporaryDirectory(prefix="rheon-demo-") as name, ThreadPoolExecutor(2) as pool:
        tasks = {}
        for label, maker in makers.items():
            work = Path(name) / label
            work.mkdir()
            tasks[label] = pool.submit(maker, work, folder)
        for label, task in tasks.items():
            task.result()
            say(f"demo: {label} built")
    stamp.write_text(recipe_digest())
    return True


def _film_disc(work: Path, folder: Path) -> None:
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
                titles=[[film]],
                chapters_s=scenario.FILM_CHAPTERS_S,
            ),
            TitleSet(standard=NTSC_FILM, tracks=STEREO, subtitles=(), titles=[[extra] for extra in extras]),
        ],
        folder / scenario.FILM_LABEL,
    )


def _series_disc(work: Path, folder: Path) -> None:
    episodes = [make_stream(episode, PAL_INTERLACED, STEREO, work) for episode in scenario.EPISODES]
    disc = work / "disc"
    author_disc(
        [
            TitleSet(
                standard=PAL_INTERLACED,
                tracks=STEREO,
                subtitles=(),
                titles=[[episode] for episode in episodes],
                chapters_s=(0, 5, 10, 15),
            )
        ],
        disc,
    )
    make_image(disc, scenario.SERIES_LABEL, folder / f"{scenario.SERIES_LABEL}.iso")


def _keepers_discs(work: Path, folder: Path) -> None:
    """One disc with a play-all title beside its episodes, and one that has nothing but the play-all."""
    streams = [make_stream(episode, PAL_QUARTER, STEREO, work) for episode in scenario.KEEPERS]
    chapters = (0, scenario.KEEPERS_OPENING_S)
    each = [[stream] for stream in streams]
    for label, titles in ((scenario.KEEPERS_LABEL, [streams, *each]), (scenario.KEEPERS_REST_LABEL, [streams])):
        recipe = TitleSet(standard=PAL_QUARTER, tracks=STEREO, subtitles=(), titles=titles, chapters_s=chapters)
        author_disc([recipe], folder / label)


def _ferry_disc(work: Path, folder: Path) -> None:
    """A telecined film, and the same without a scene."""
    first, more, last = (make_stream(part, NTSC_TELECINED, STEREO, work) for part in scenario.FERRY)
    titles = [[first, more, last], [first, last]]
    recipe = TitleSet(standard=NTSC_TELECINED, tracks=STEREO, subtitles=(), titles=titles)
    author_disc([recipe], folder / scenario.FERRY_LABEL)


def _bad_discs(work: Path, folder: Path) -> None:
    stream = make_stream(scenario.SALT_ROAD, PAL_QUARTER, STEREO, work)
    recipe = TitleSet(standard=PAL_QUARTER, tracks=STEREO, subtitles=(), titles=[[stream]], chapters_s=(0, 10, 20))
    for label in (scenario.DAMAGED_LABEL, scenario.SCRAMBLED_LABEL):
        author_disc([recipe], folder / label)
    data = Path("VIDEO_TS") / "VTS_01_1.VOB"
    blank(folder / scenario.DAMAGED_LABEL / data, *scenario.SALT_ROAD_HOLE_S)
    mark_scrambled(folder / scenario.SCRAMBLED_LABEL / data)


def _heron_disc(work: Path, folder: Path) -> None:
    """A film over two clips, listed twice; an extra; and a menu that loops."""
    disc = folder / scenario.HERON_LABEL
    tracks = (
        Sound(codec="ac3", language="eng", surround=True, root_hz=208),
        Sound(codec="pcm_bluray", language="spa", surround=False, root_hz=156),
    )
    clips = []
    before = 0.0
    for number, programme in enumerate(scenario.HERON, start=1):
        recipe = ClipRecipe(
            programme=programme,
            sounds=tracks,
            subtitles=(scenario.HERON_LINES,),
            languages=("eng",),
            shift_s=before,
        )
        clips.append(make_clip(recipe, disc, f"{number:05}", work))
        before += programme.duration_s
    stereo = tracks[1:]
    extra, menu = (
        make_clip(ClipRecipe(programme=programme, sounds=stereo), disc, stem, work)
        for programme, stem in ((scenario.HERON_EXTRA, "00003"), (scenario.HERON_MENU, "00004"))
    )
    film = Listing(items=[Item(clip=clip) for clip in clips], chapters_s=scenario.HERON_CHAPTERS_S)
    for stem, listing in (
        ("00000", Listing(items=[Item(clip=menu)] * 50)),
        ("00001", film),
        ("00002", film),
        ("00003", Listing(items=[Item(clip=extra)])),
    ):
        write_playlist(listing, disc, stem)


def _tide_watch(work: Path, folder: Path) -> None:
    """A folder of numbered recordings with subtitles and a picture beside them."""
    target = folder / scenario.TIDE_WATCH_LABEL
    target.mkdir()
    for number, episode in zip((1, 2, 10), scenario.TIDE_WATCH, strict=True):
        stem = f"Tide Watch S01E{number:02} {episode.caption.title().removeprefix('Tide Watch ')}".strip()
        inputs, graph = picture_arguments(episode, Look(size=(480, 270), rate="25"), work / episode.name)
        make(
            [
                *inputs, *sound(episode.duration_s, root_hz=200 + 10 * number, surround=False),
                "-filter_complex", graph, "-map", "[seen]", "-map", f"{inputs.count('-i')}:a",
                "-c:v", "libx264", "-preset", "veryfast", "-crf", "26", "-threads", "1", "-c:a", "aac", "-b:a", "96k",
                "-bitexact", str(target / f"{stem}.mp4"),
            ]
        )  # fmt: skip
        if number == 1:
            subtitles = "1\n00:00:01,000 --> 00:00:04,000\nEl puerto está tranquilo, ¿verdad?\n\n"
            (target / f"{stem}.es.srt").write_text(subtitles, encoding="cp1252")
            make(["-i", str(work / episode.name / "scene0" / "sky.png"), str(target / "cover.jpg")])


def _camera(folder: Path) -> Path:
    """Where loose files lie."""
    made = folder / "camera"
    made.mkdir(parents=True, exist_ok=True)
    return made


def _kite_day(work: Path, folder: Path) -> None:
    target = _camera(folder) / "Kite day.mp4"
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


def _regatta(work: Path, folder: Path) -> None:
    target = _camera(folder) / "Regatta, two languages.mkv"
    inputs, graph = picture_arguments(scenario.REGATTA, Look(size=(1920, 1080), rate="24"), work / "regatta")
    subtitles = work / "subtitles.srt"
    subtitles.write_text(
        "1\n00:00:02,000 --> 00:00:06,000\nThe Heron leads at the first buoy.\n\n"
        "2\n00:00:09,500 --> 00:00:14,000\nAnd the wind has gone round to the west!\n",
        encoding="utf-8",
    )
    count = inputs.count("-i")
    seconds = scenario.REGATTA.duration_s
    make(
        [
            *inputs, *sound(seconds, root_hz=196, surround=True), *sound(seconds, root_hz=330, surround=False),
            "-i", str(subtitles),
            "-filter_complex", graph, "-map", "[seen]",
            "-map", f"{count}:a", "-map", f"{count + 1}:a", "-map", f"{count + 2}:s",
            "-c:v", "libx265", "-preset", "ultrafast", "-x265-params", "log-level=error:pools=1:frame-threads=1",
            "-crf", "26", "-c:a:0", "ac3", "-c:a:1", "aac", "-c:s", "srt",
            "-metadata:s:a:0", "language=eng", "-metadata:s:a:1", "language=spa",
            "-metadata:s:s:0", "language=eng", "-metadata", "title=Regatta", "-bitexact", str(target),
        ]
    )  # fmt: skip


def _launch(work: Path, folder: Path) -> None:
    target = _camera(folder) / "launch of the ferry.avi"
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
