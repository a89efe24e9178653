"""Speed, from one run on one machine: ``make bench``. Prints figures; asserts nothing."""

from __future__ import annotations

import functools
import itertools
import os
import shutil
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
MEDIA = ROOT / "demo-data" / "media"
os.environ["RHEON_STATE"] = tempfile.mkdtemp(prefix="rheon-bench-")
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "rheon.server.config.settings")
sys.path.insert(0, str(ROOT / "src"))

import completion  # noqa: E402
import crossing  # noqa: E402
import django  # noqa: E402
from django.core.management import call_command  # noqa: E402

from rheon.core.analysis import (  # noqa: E402
    SnippetRequest,
    cut_places,
    frame_jpeg,
    levels_of,
    make_snippet,
    scene_after,
    survey_title,
)
from rheon.core.analysis.proposals import find_credits, find_leaders, sound_fingerprints_of  # noqa: E402
from rheon.core.commands.making import (  # noqa: E402
    Job,
    build_command,
    chapters_document,
)
from rheon.core.devices import DeviceProfile, catalogue, judge_title  # noqa: E402
from rheon.core.encoding import (  # noqa: E402
    ExcerptRequest,
    Grown,
    Viewing,
    make_excerpt,
    make_file,
    make_source_excerpt,
    measure_fidelity,
    reference_in,
)
from rheon.core.engine import vmaf_engine  # noqa: E402
from rheon.core.media import CellData, KeptRange, Source, Title  # noqa: E402
from rheon.core.media.kept import on_pictures  # noqa: E402
from rheon.core.planning import Balance, PlanRequest, plan, read_pins, share_files  # noqa: E402
from rheon.core.planning.decisions.range.keep import kept_value  # noqa: E402
from rheon.core.sources import read_source  # noqa: E402
from rheon.demo import scenario  # noqa: E402
from rheon.demo.build import STEREO  # noqa: E402
from rheon.demo.discs import PAL_QUARTER, TitleSet, author_disc, make_stream  # noqa: E402
from rheon.demo.models import device  # noqa: E402

ROUNDS = 9


def say(what: str, figure: str, wanted: str) -> None:
    print(f"{what:<58} {figure:>26}   wanted: {wanted}")


def timed(work: Callable[[], object]) -> float:
    started = time.perf_counter()
    work()
    return time.perf_counter() - started


def conversion(film: Title) -> None:
    """The same arguments through Rheon and bare, in turn, so that a busy moment hits both."""
    request = PlanRequest(
        title=film, devices=(device("sanderling-2"),), name="Film", languages=("en",), balance=Balance.LEAN
    )
    settings = plan(request).settings
    assert settings
    assert isinstance(film.data, CellData)
    pieces = film.data.extents
    through, bare = [], []
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        (folder / "chapters.txt").write_text(chapters_document(film.chapters, film.duration_s))
        joined = folder / "film.vob"
        with joined.open("wb") as target:
            for piece in pieces:
                with Path(piece.path).open("rb") as handle:
                    handle.seek(piece.offset_bytes)
                    target.write(handle.read(piece.length_bytes))
        argv = build_command(Job(title=film, settings=settings, target=str(folder / "bare")))

        def run_bare() -> None:
            with joined.open("rb") as handle:
                subprocess.run(argv, stdin=handle, stdout=subprocess.DEVNULL, cwd=folder, check=True)

        for _ in range(ROUNDS):
            bare.append(timed(run_bare))
            through.append(timed(lambda: make_file(film, settings, folder / ".rheon-bench.part")))
    # a shared machine only ever adds time, so the best round of each is nearest to the truth
    figures = f"{min(through):.2f} s / {min(bare):.2f} s = {min(through) / min(bare):.3f}"
    say(f"conversion through Rheon against bare ffmpeg (best of {ROUNDS})", figures, "at most 1.03")
    middle = statistics.median(through) / statistics.median(bare)
    say("the same, medians", f"{middle:.3f}", "at most 1.03")


def scan() -> Source:
    started = time.process_time()
    source = read_source(MEDIA / "MARRAM_NIGHTS")
    seconds = time.process_time() - started
    read = f"{source.bytes_read / 1e6:.1f} of {source.size_bytes / 1e6:.1f} MB"
    say("scan of the largest demo disc", f"{seconds:.3f} s cpu, {read}", "under 0.5 s cpu")
    return source


def scans() -> None:
    """What each source of the demo costs to scan, and a disc with forty titles."""
    for path in sorted(path for path in MEDIA.iterdir() if not path.name.startswith(".")):
        started = time.process_time()
        source = read_source(path)
        seconds = time.process_time() - started
        read = f"{source.bytes_read / 1e6:.2f} of {source.size_bytes / 1e6:.1f} MB"
        say(f"scan of {path.name}, {len(source.titles)} titles", f"{seconds:.3f} s cpu, {read}", "-")
    with tempfile.TemporaryDirectory() as name:
        work = Path(name)
        programme = replace(scenario.KEEPERS[0], scene_s=4)
        stream = make_stream(programme, PAL_QUARTER, STEREO, work)
        copies = [Path(shutil.copy(stream, work / f"title{n:02}.mpg")) for n in range(40)]
        author_disc(
            [TitleSet(standard=PAL_QUARTER, tracks=STEREO, subtitles=(), titles=[[copy] for copy in copies])],
            work / "FORTY",
        )
        started = time.process_time()
        source = read_source(work / "FORTY")
        seconds = time.process_time() - started
        assert len(source.titles) == 40
        read = f"{seconds:.3f} s cpu, {source.bytes_read / 1e6:.1f} of {source.size_bytes / 1e6:.1f} MB"
        say("scan of a disc with 40 titles", read, "under 2 s cpu")


def looks(film: Title) -> None:
    """Looking at a title, and having a few seconds of it to play."""
    say(
        "looking at the film (borders, fields, sound, subtitles)",
        f"{timed(lambda: survey_title(film)):.2f} s",
        "few s",
    )
    for path, number in ((MEDIA / "MARRAM_NIGHTS", 1), (MEDIA / "HERON_REACH", 2)):
        title = next(title for title in read_source(path).titles if title.number == number)
        times = []
        for at_s in (3, 11, 17):
            with tempfile.TemporaryDirectory() as name:
                work, target = Path(name) / "work", Path(name) / "snippet.mp4"
                work.mkdir()
                request = SnippetRequest(title=title, from_s=at_s, audio=0, subtitle=0)
                times.append(timed(functools.partial(make_snippet, request, target, work)))
        say(f"a snippet of {path.name} (median of 3)", f"{statistics.median(times):.2f} s", "under 2 s")


def excerpts() -> None:
    """Ten seconds as they will come out: when they play, are made, and have the source beside them, after the click."""
    for path, number, device_id in (("MARRAM_NIGHTS", 1, "heron-8"), ("HERON_REACH", 2, "gannet-43")):
        title = next(title for title in read_source(MEDIA / path).titles if title.number == number)
        made = plan(PlanRequest(title=title, devices=(device(device_id),), name="Excerpt")).settings
        assert made is not None
        times: dict[str, list[float]] = {"play": [], "are whole": [], "stand beside the source": []}
        for at_s in (3.0, 9.0, 17.0):
            request, plays = ExcerptRequest(title=title, settings=made, from_s=at_s), list[float]()
            began_s = time.perf_counter()

            def grown(so_far: Grown, began_s: float = began_s, plays: list[float] = plays) -> None:
                if so_far.plays_through:
                    plays.append(time.perf_counter() - began_s)

            with tempfile.TemporaryDirectory() as name:
                make_excerpt(request, Path(name) / "made.mp4", Path(name), on_grown=grown)
                whole_s = time.perf_counter() - began_s
                make_source_excerpt(request, Path(name) / "source.mp4", Path(name))
            reached = (plays[0] if plays else whole_s, whole_s, time.perf_counter() - began_s)
            for known, at in zip(times.values(), reached, strict=True):
                known.append(at)
        for what, known in times.items():
            wanted = "3 s" if what == "play" else "-"
            say(f"ten seconds {what}, {path} for {device_id}", f"{statistics.median(known):.2f} s", wanted)


def cuts() -> None:
    """What somebody waits for who cuts: a picture at any moment, where copies can be cut, what is proposed."""
    for path, number in ((MEDIA / "MARRAM_NIGHTS", 1), (MEDIA / "HERON_REACH", 2), (MEDIA / "camera/Kite day.mp4", 1)):
        title = next(title for title in read_source(path).titles if title.number == number)
        moments = [title.duration_s * (n + 0.37) / ROUNDS for n in range(ROUNDS)]
        frames = sorted(timed(functools.partial(frame_jpeg, title, at_s, 270)) for at_s in moments)
        say(f"a picture at any moment of {path.name}", f"{frames[ROUNDS // 2]:.2f}, worst {frames[-1]:.2f} s", "0.3 s")
        kept = (KeptRange(from_s=title.duration_s * 0.3, until_s=title.duration_s * 0.7),)
        say(
            "where a copy of it can be cut",
            f"{timed(functools.partial(cut_places, title, kept)):.2f} s",
            "under 1 s",
        )
        seconds = timed(functools.partial(find_leaders, title))
        say("what is black and silent at its ends", f"{seconds:.2f} s of {title.duration_s:.0f} s", "few s")
        scenes = timed(functools.partial(scene_after, title, 0.0))
        say("the next scene", f"{scenes:.2f} s", "few s")
        heard = timed(functools.partial(levels_of, title))
        say("how loud it is all along", f"{100 * heard / title.duration_s:.1f} % of its length", "3 %")
        seconds = timed(functools.partial(sound_fingerprints_of, title)) + timed(functools.partial(find_credits, title))
        share = f"{100 * seconds / title.duration_s:.1f} % of its length"
        say("listening for openings, looking for credits", share, "3 %")


def edges(title: Title) -> None:
    """The middle of a file, cut to the picture: copied between encoded edges, and converted, in turn."""
    kept = (on_pictures(title, KeptRange(from_s=title.duration_s * 0.1, until_s=title.duration_s * 0.93)),)
    pins = read_pins({"range.keep": kept_value(kept)})
    request = PlanRequest(title=title, devices=(device("redshank-book-2"),), name="Cut", pins=pins)
    made = plan(replace(request, middles=cut_places(title, kept).middles))
    assert made.settings and made.settings.middles and made.instead and made.instead.settings
    copied, converted = [], []
    with tempfile.TemporaryDirectory() as name:
        part = Path(name) / ".rheon-bench.part"
        for _ in range(ROUNDS):
            copied.append(timed(functools.partial(make_file, title, made.settings, part)))
            converted.append(timed(functools.partial(make_file, title, made.instead.settings, part)))
    figures = f"{min(copied):.2f} s / {min(converted):.2f} s = {min(copied) / min(converted):.2f}"
    say(f"a cut to the picture of {title.duration_s:.0f} s, only edges encoded / converted", figures, "-")


def trade_off(film: Title) -> None:
    """How soon the fidelity of three balances is known, from the click on."""
    target = device("heron-8")
    assert target.screen
    viewing = Viewing(screen=(target.screen.width, target.screen.height))
    request = PlanRequest(title=film, devices=(target,), name="Points")
    measure = "vmaf" if vmaf_engine() else "ssim"
    with tempfile.TemporaryDirectory() as name:
        known = [time.monotonic()]
        for balance in (Balance.EVEN, Balance.LEAN, Balance.RICH):
            made = plan(replace(request, balance=balance)).settings
            assert made is not None
            measure_fidelity(film, made, viewing, reference_in(Path(name), film, made))
            known.append(time.monotonic())
    after = ", ".join(f"{point - known[0]:.1f}" for point in known[1:])
    say(f"fidelity of three balances of the film ({measure})", f"{after} s", "three in 10 s")


def verdicts(titles: list[Title]) -> None:
    profiles = list(catalogue().values())
    many: list[DeviceProfile] = [
        profile.model_copy(update={"id": f"{profile.id}-{n}"})
        for n, profile in zip(range(50), itertools.cycle(profiles), strict=False)
    ]
    hundred = [replace(title, number=n) for n, title in zip(range(100), itertools.cycle(titles), strict=False)]
    seconds = timed(lambda: [judge_title(title, profile, ("en",)) for title in hundred for profile in many])
    say("verdicts for 100 titles x 50 profiles", f"{seconds:.3f} s", "under 0.3 s")
    requests = [
        PlanRequest(title=title, devices=(profile,), name="x", languages=("en",))
        for title in hundred[:20]
        for profile in profiles
    ]
    seconds = timed(lambda: [plan(request) for request in requests])
    say(f"one plan (of {len(requests)})", f"{seconds / len(requests) * 1e3:.2f} ms", "-")
    seconds = timed(lambda: [plan(request, explained=False) for request in requests])
    say("the same without its explanations, as cells need it", f"{seconds / len(requests) * 1e3:.2f} ms", "-")
    several = [PlanRequest(title=title, devices=tuple(profiles[:12]), name="x", languages=("en",)) for title in titles]
    seconds = timed(lambda: [share_files(request) for request in several])
    say("fewest files for 12 devices", f"{seconds / len(several) * 1e3:.0f} ms a title", "-")


def shelf() -> None:
    django.setup()
    call_command("migrate", verbosity=0)
    from django.test import Client  # noqa: PLC0415 - needs Django set up

    from rheon.core.media.documents import dump  # noqa: PLC0415
    from rheon.server.shelf.models import Source as Row  # noqa: PLC0415
    from rheon.server.shelf.models import Title as TitleRow  # noqa: PLC0415
    from rheon.server.shelf.outlines import outline_of  # noqa: PLC0415

    title = read_source(MEDIA / "MARRAM_NIGHTS").titles[0]
    for number in range(50):
        source = Row.objects.create(path=f"/{number}", name=f"Source {number}", state="ready")
        TitleRow.objects.bulk_create(
            TitleRow(
                source=source, number=n, key=str(n), name=f"Title {n}", duration_s=title.duration_s, role="extra",
                document=dump(title), outline=outline_of(title),
            )
            for n in range(20)
        )  # fmt: skip
    client = Client(headers={"host": "127.0.0.1"})
    assert len(client.get("/api/shelf/sources").json()) == 50
    seconds = statistics.median(timed(lambda: client.get("/api/shelf/sources")) for _ in range(7))
    say("JSON for a shelf of 1,000 titles (median of 7)", f"{seconds * 1e3:.0f} ms", "under 150 ms")


def crossing_table(source: Source) -> None:
    crossing.prepare(source)
    crossing.server(say)
    crossing.browser(say)


def main() -> None:
    disc = scan()
    scans()
    looks(disc.titles[0])
    excerpts()
    cuts()
    trade_off(disc.titles[0])
    edges(read_source(MEDIA / "camera/Kite day.mp4").titles[0])
    verdicts(list(disc.titles))
    shelf()
    crossing_table(disc)
    conversion(disc.titles[1])
    completion.report(disc, say)


if __name__ == "__main__":
    main()
