"""Real encodes of the demo's titles, and everything that may go wrong on the way."""

from __future__ import annotations

import itertools
import shutil
import subprocess
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import pytest
from tests.instruments.engine import output_of
from tests.thorough import always, thorough

from rheon.core.delivery import Delivered, Order, convert, numbered
from rheon.core.encoding import Hooks, Progress, liveness
from rheon.core.engine import WorkClock, probe, process
from rheon.core.errors import (
    CheckFailed,
    EngineTimedOut,
    RheonError,
    SourceMissing,
    Stopped,
    TargetError,
    TargetFull,
    TargetReadOnly,
)
from rheon.core.media import CellData, Source, Title
from rheon.core.planning import Action, Balance, PlanRequest, plan, read_pins
from rheon.core.sources import read_source
from rheon.demo.models import device

# one of each sort that the catalogue has: the first devices of all, and the oddest of the rest
ENCODED_FOR = (
    "albatross-65", "avocet-10", "cormorant-box", "dunlin-mini", "gannet-43", "h264-baseline-30", "heron-8",
    "plover-dash", "sanderling-2", "sound-only", "web-browser", "wren-6",
    "godwit-one", "petrel-24", "teal-pocket", "goosander-disc", "hevc-main-41",
)  # fmt: skip
QUICK = {"picture.preset": "superfast", "picture.size": "180"}
"""Where it does not matter how small a file is, nor how fine its pictures are."""


def order(title: Title, name: str, folder: Path, **more: object) -> Order:
    profile = device(name)
    options = {"name": "Film", "languages": ("en",), "balance": Balance.LEAN, **more}
    made = plan(PlanRequest(title=title, devices=(profile,), **options))  # type: ignore[arg-type]
    return Order(title=title, plan=made, devices=[profile], folder=folder, token=f"t{name}")


def left_in(folder: Path) -> list[str]:
    return sorted(path.name for path in folder.iterdir())


@pytest.fixture(scope="module")
def short(film_disc: Source) -> Title:
    return next(title for title in film_disc.titles if title.number == 4)


def frame(path: Path, at_s: float) -> bytes:
    """One grey frame, 64x36."""
    argv = ["ffmpeg", "-v", "error", "-ss", str(at_s), "-i", str(path), "-frames:v", "1"]
    return output_of([*argv, "-vf", "scale=64:36,format=gray", "-f", "rawvideo", "pipe:1"])


def test_a_job_that_is_paused_fifty_times_makes_the_same_file(
    film_disc: Source, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(process, "POLL_S", 0.02)
    files, pauses = [], 0
    # whether it is asked once or twice before each step, no answer is always the same
    answers = itertools.cycle((True, False, True, False, False))

    def now_and_then() -> bool:
        nonlocal pauses
        pauses += (answer := next(answers))
        return answer

    for name, clock in (("through", WorkClock()), ("paused", WorkClock(now_and_then))):
        (tmp_path / name).mkdir()
        pins = read_pins({"range.keep": "1:00-1:10", "picture.size": "240"})
        done = convert(order(film_disc.titles[0], "heron-8", tmp_path / name, pins=pins), Hooks(clock=clock))
        assert done.checks[0].ok
        files.append(done.path.read_bytes())
    assert pauses >= 50
    assert files[0] == files[1]


@pytest.mark.parametrize(
    "name", always(("gannet-43", "avocet-10", "petrel-24", "goosander-disc", "hevc-main-41"), of=ENCODED_FOR)
)
def test_an_interlaced_episode_becomes_a_checked_file_for_each_kind_of_device(
    series_disc: Source, tmp_path: Path, name: str
) -> None:
    episode = series_disc.titles[0]
    # all of it for a few, the beginning for the rest
    kept_s, pins = (episode.duration_s, {}) if name in ("gannet-43", "wren-6") else (8.0, {"range.keep": "0:00-0:08"})
    done = convert(order(episode, name, tmp_path, pins=read_pins(pins)))
    assert done.checks[0].ok
    assert left_in(tmp_path) == [done.path.name]
    found = probe(str(done.path))
    assert found.duration_s == pytest.approx(kept_s, abs=0.5)
    assert done.size_bytes == done.path.stat().st_size == found.size_bytes


@pytest.mark.parametrize("balance", [Balance.LEAN])
def test_hevc_keeps_its_level_and_buffer(short: Title, tmp_path: Path, balance: Balance) -> None:
    done = convert(order(short, "albatross-65", tmp_path, pins=read_pins({"picture.codec": "hevc"}), balance=balance))
    video = probe(str(done.path)).video
    assert video
    assert (video.codec, video.profile) == ("hevc", "main")


def test_the_film_keeps_its_chapters_language_and_shape(film_disc: Source, tmp_path: Path) -> None:
    film = film_disc.titles[0]
    pins = {"subtitles.track": "0", "range.keep": "0:00-0:35", **QUICK}
    done = convert(order(film, "sanderling-2", tmp_path, pins=read_pins(pins)))
    found = probe(str(done.path))
    assert [chapter.start_s for chapter in found.chapters] == pytest.approx(
        [c.start_s for c in film.chapters if c.start_s < 35], abs=0.05
    )
    assert found.audio[0].language == "en"
    assert found.video
    assert abs(found.video.display_aspect - Fraction(16, 9)) < Fraction(1, 50)
    assert len(found.audio) == 1
    assert bright_subtitles_at(done.path, 5.0) > 30 * max(1, bright_subtitles_at(done.path, 10.0))


def bright_subtitles_at(path: Path, at_s: float) -> int:
    """Bright pixels in the lower black bar, where the disc's subtitles stand."""
    argv = ["ffmpeg", "-v", "error", "-ss", str(at_s), "-i", str(path), "-frames:v", "1"]
    seen = output_of([*argv, "-vf", "format=gray,crop=iw:ih*0.11:0:ih*0.89", "-f", "rawvideo", "pipe:1"])
    return sum(pixel > 180 for pixel in seen)


def test_text_subtitles_of_a_file_are_drawn_in(media: Path, tmp_path: Path) -> None:
    regatta = read_source(media / "camera" / "Regatta, two languages.mkv").titles[0]
    without, drawn = (
        convert(
            order(
                regatta,
                "h264-baseline-30",
                tmp_path,
                pins=read_pins({"picture.preset": "superfast", "range.keep": "0:00-0:10", **pins}),
            )
        ).path
        for pins in ({}, {"subtitles.track": "0"})
    )
    differs = [sum(abs(a - b) for a, b in zip(frame(without, at), frame(drawn, at), strict=True)) for at in (4.0, 8.0)]
    assert differs[0] > 4 * differs[1]


def test_what_the_device_takes_is_copied_bit_for_bit(media: Path, tmp_path: Path) -> None:
    regatta = read_source(media / "camera" / "Regatta, two languages.mkv").titles[0]
    made = order(regatta, "avocet-10", tmp_path, pins=read_pins({"sound.track": "1", "subtitles.track": "none"}))
    assert made.plan.settings and made.plan.settings.video and made.plan.settings.audio
    assert {made.plan.settings.video.action, made.plan.settings.audio[0].action} == {Action.COPY}
    done = convert(made)
    assert packets(done.path) == packets(media / "camera" / "Regatta, two languages.mkv")


def packets(path: Path) -> bytes:
    """A hash over the video packets as they lie in the file."""
    argv = ["ffmpeg", "-v", "error", "-i", str(path), "-map", "0:v:0", "-c", "copy", "-f", "streamhash", "pipe:1"]
    return output_of(argv)


def test_progress_rises_to_the_end(short: Title, tmp_path: Path) -> None:
    steps: list[Progress] = []
    convert(order(short, "sanderling-2", tmp_path), Hooks(on_progress=steps.append))
    fractions = [step.fraction for step in steps]
    assert fractions == sorted(fractions)
    assert fractions[-1] > 0.95
    checked = [step.checked for step in steps if step.checked]
    assert checked == sorted(checked) and 0.95 < checked[-1] <= 1
    assert [step.worked_s for step in steps] == sorted(step.worked_s for step in steps)


def test_a_name_that_exists_is_never_overwritten(short: Title, tmp_path: Path) -> None:
    (tmp_path / "Film.mp3").write_text("mine")
    first = convert(order(short, "sound-only", tmp_path))
    second = convert(order(short, "sound-only", tmp_path))
    assert [first.path.name, second.path.name] == ["Film (2).mp3", "Film (3).mp3"]
    assert (tmp_path / "Film.mp3").read_text() == "mine"
    assert numbered("no-extension", 2) == "no-extension (2)" or numbered("a.b", 2) == "a (2).b"


def test_two_jobs_for_the_same_output_both_arrive(short: Title, tmp_path: Path) -> None:
    orders = [replace(order(short, "sound-only", tmp_path), token=f"job{n}") for n in range(2)]
    with ThreadPoolExecutor(2) as pool:
        done: list[Delivered] = list(pool.map(convert, orders))
    assert sorted(entry.path.name for entry in done) == ["Film (2).mp3", "Film.mp3"]


@pytest.mark.parametrize(
    "name",
    [
        'say "no" | it\'s',
        thorough("-dash first"),
        "line\nbreak",
        thorough("\U0001f600 \U0001f30a"),
        thorough("a:b*c?"),
        "%d [x] \\ {y}",
    ],
)
def test_awkward_names_arrive_and_play(short: Title, tmp_path: Path, name: str) -> None:
    done = convert(order(short, "sound-only", tmp_path, pins=read_pins({"file.name": name})))
    assert left_in(tmp_path) == [done.path.name]
    assert probe(str(done.path)).audio


def test_sources_with_awkward_names_are_read_and_converted(media: Path, tmp_path: Path) -> None:
    folder = tmp_path / 'it\'s | a: "disc" %d'
    folder.mkdir()
    file = folder / "-film: 'one' [x].mkv"
    shutil.copy(media / "camera" / "Regatta, two languages.mkv", file)
    out = tmp_path / "out"
    out.mkdir()
    title = read_source(file).titles[0]
    done = convert(
        order(title, "sanderling-2", out, pins=read_pins({"subtitles.track": "0", "range.keep": "0:00-0:04"}))
    )
    assert done.checks[0].ok


def test_an_encoder_out_of_which_nothing_comes_is_given_up_and_leaves_nothing(
    short: Title, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(liveness, "SOFTWARE_S", -1.0)
    with pytest.raises(EngineTimedOut, match="Nothing has come out"):
        convert(order(short, "heron-8", tmp_path))
    assert left_in(tmp_path) == []


def test_stopping_leaves_nothing_behind(film_disc: Source, tmp_path: Path) -> None:
    seen: list[float] = []
    hooks = Hooks(on_progress=lambda step: seen.append(step.fraction), should_stop=lambda: bool(seen))
    with pytest.raises(Stopped):
        convert(order(film_disc.titles[0], "heron-8", tmp_path), hooks)
    assert left_in(tmp_path) == []


def test_a_source_that_is_gone_before_or_becomes_shorter_is_named(disc_copy: Path, media: Path, tmp_path: Path) -> None:
    title = read_source(disc_copy).titles[3]
    vob = disc_copy / "VIDEO_TS" / "VTS_02_1.VOB"
    vob.unlink()
    real = media / "MARRAM_NIGHTS" / "VIDEO_TS" / "VTS_02_1.VOB"
    missing = order(_moved(title, real, vob), "sanderling-2", tmp_path)
    with pytest.raises(SourceMissing, match=r"not there any more.*Put it back"):
        convert(missing)
    vob.write_bytes(b"short")
    with pytest.raises(SourceMissing, match="shorter than it was"):
        convert(missing)
    assert not list(tmp_path.glob(".rheon-*"))


def _moved(title: Title, real: Path, to: Path) -> Title:
    """The title as if its data lay at ``to``."""
    assert isinstance(title.data, CellData)
    cells = tuple(
        replace(cell, extents=tuple(replace(extent, path=str(to)) for extent in cell.extents))
        for cell in title.data.cells
    )
    return replace(title, data=replace(title.data, cells=cells))


def test_a_source_that_vanishes_during_the_work_is_named_and_nothing_is_left(
    film_disc: Source, media: Path, tmp_path: Path
) -> None:
    film = film_disc.titles[0]
    copy = tmp_path / "film.vob"
    shutil.copy(media / "MARRAM_NIGHTS" / "VIDEO_TS" / "VTS_01_1.VOB", copy)
    moved = _moved(film, media, copy)
    out = tmp_path / "out"
    out.mkdir()

    def cut(step: Progress) -> None:
        if copy.stat().st_size > 12_000_000:
            with copy.open("r+b") as handle:
                handle.truncate(12_000_000)

    with pytest.raises(SourceMissing):
        convert(order(moved, "sanderling-2", out, pins=read_pins(QUICK)), Hooks(on_progress=cut))
    assert left_in(out) == []


def test_a_file_that_breaks_a_rule_is_not_kept(short: Title, tmp_path: Path) -> None:
    wrong = order(short, "wren-6", tmp_path)
    with pytest.raises(CheckFailed, match=r"sanderling-2: .* came out as .*, allowed is"):
        convert(replace(wrong, devices=[device("sanderling-2")]))
    assert left_in(tmp_path) == []


def test_a_folder_that_does_not_exist_is_named(short: Title, tmp_path: Path) -> None:
    with pytest.raises(TargetError, match="does not exist"):
        convert(order(short, "sound-only", tmp_path / "nowhere"))


def test_a_disk_that_is_full_before_or_becomes_full_is_named_and_nothing_is_left(
    film_disc: Source, small_disk: Path
) -> None:
    rewrap = order(film_disc.titles[0], "cormorant-box", small_disk)
    with pytest.raises(TargetFull, match=r"will take about \d+ MB and only .* MB are free"):
        convert(rewrap)
    assert rewrap.plan.estimate
    hopeful = replace(rewrap.plan, estimate=replace(rewrap.plan.estimate, size_low_bytes=1))
    with pytest.raises(TargetFull, match="became full"):
        convert(replace(rewrap, plan=hopeful))
    assert left_in(small_disk) == []


def test_a_read_only_folder_is_named(short: Title, small_disk: Path) -> None:
    subprocess.run(["mount", "-o", "remount,ro", str(small_disk)], check=True)
    with pytest.raises(TargetReadOnly, match="can't be written to"):
        convert(order(short, "sound-only", small_disk))


def test_every_refusal_says_what_to_do(tmp_path: Path) -> None:
    kinds = [kind for kind in _all_errors(RheonError) if "advice" in vars(kind)]
    assert len({kind.code for kind in kinds}) == len(kinds)
    assert all(len(kind("It went wrong.").next_step.split()) >= 3 for kind in kinds)


def _all_errors(kind: type[RheonError]) -> list[type[RheonError]]:
    return [kind, *(found for sub in kind.__subclasses__() for found in _all_errors(sub))]
