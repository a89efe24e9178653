"""The kept range comes out to the picture, with its sound, chapters and subtitles, of every kind of source."""

from __future__ import annotations

import math
import tempfile
import uuid
from collections.abc import Callable
from fractions import Fraction
from itertools import pairwise
from pathlib import Path

import numpy as np
import pytest
from tests.instruments.authored import CLICK_AT_S, CLICK_EVERY_S, Pictures, clicks, write_sound
from tests.instruments.cutting import BOTH_ENDS, ONE, SOUND_S, TWO, Cut, held
from tests.instruments.discs import Chain, Vob, author_dvd
from tests.instruments.engine import output_of
from tests.instruments.looked import looked_over
from tests.instruments.readback import Seen, hear, lit, number_of, samples, see
from tests.instruments.sources import BY_NAME
from tests.thorough import thorough

from rheon.core.analysis import frame_jpeg
from rheon.core.analysis.access_points import copy_ranges
from rheon.core.commands.making import chapters_document
from rheon.core.delivery import Order, convert
from rheon.core.encoding import PreviewRequest, preview_jpeg
from rheon.core.media import Action, Chapter, KeptRange, Scan, Title
from rheon.core.planning import PlanRequest, plan, read_pins
from rheon.core.sources import read_source
from rheon.core.subtitles import SubtitleText, TimedLine, read_subtitles, to_subrip
from rheon.demo.models import device


def kept(title: Title, device_id: str, folder: Path, said: str, **pins: str) -> Path:
    profile = device(device_id)
    named = {"range.keep": said, **{key.replace("_", ".", 1): value for key, value in pins.items()}}
    wanted = plan(PlanRequest(title=title, devices=(profile,), name="made", pins=read_pins(named)))
    assert wanted.settings is not None
    order = Order(title=title, plan=wanted, devices=[profile], folder=folder, token=uuid.uuid4().hex)
    return convert(order).path


@pytest.mark.parametrize(
    ("name", "device_id", "every", "cut"),
    [
        ("film.mkv", "curlew-2", 1, BOTH_ENDS),  # times in milliseconds, the first picture late
        thorough("film.mp4", "curlew-2", 1, TWO),  # B pictures and an edit list
        thorough("film.mkv", "petrel-24", 1, ONE),  # a container without times
        thorough("film.mkv", "petrel-24", 1, BOTH_ENDS),
        thorough("fast.mkv", "curlew-2", 2, BOTH_ENDS),
        ("turns.mp4", "curlew-9", 1, ONE),  # pictures at changing distances keep their times
        thorough("turns.mp4", "curlew-9", 1, BOTH_ENDS),
        thorough("program.mpg", "curlew-2", 1, ONE),  # where places are guessed
        ("program.mpg", "curlew-2", 1, BOTH_ENDS),
        ("transport.ts", "curlew-2", 1, TWO),
        thorough("windows.wmv", "curlew-2", 1, BOTH_ENDS),
    ],
)
def test_a_file_s_kept_pictures_are_just_those_and_its_sound_lies_with_them(
    name: str, device_id: str, every: int, cut: Cut, sources: Callable[[str], Path], tmp_path: Path
) -> None:
    path = sources(name)
    title = read_source(path).titles[0]
    made = kept(looked_over(title), device_id, tmp_path, cut.said)
    held(made, see(path), BY_NAME[name].rate, cut, every)


@pytest.mark.parametrize(
    ("name", "said", "stretches"),
    [
        # so far from the start that reading begins in the middle, where not each picture has a time stamp
        ("closed.mpg", "12.6-13.5", ((12.6, 13.5),)),
        # a first picture that comes late: what is read from the start is not longer for it
        ("late.mkv", "-8.5", ((0.0, 8.5),)),
    ],
)
def test_a_cut_is_exact_wherever_reading_begins(
    name: str, said: str, stretches: tuple[tuple[float, float], ...], sources: Callable[[str], Path], tmp_path: Path
) -> None:
    path = sources(name)
    made = kept(read_source(path).titles[0], "curlew-9", tmp_path, said)
    held(made, see(path), BY_NAME[name].rate, Cut(said=said, stretches=stretches))


@pytest.mark.parametrize(
    ("kind", "cut"), [thorough("pal", BOTH_ENDS), thorough("pal", ONE), ("ntsc", TWO), ("clips", BOTH_ENDS)]
)
def test_a_disc_s_kept_pictures_are_just_those_and_its_sound_lies_with_them(
    kind: str, cut: Cut, discs: dict[str, tuple[Title, Fraction, int]], tmp_path: Path
) -> None:
    title, rate, count = discs[kind]
    made = kept(title, "curlew-2", tmp_path, cut.said, picture_size="360")
    source = Seen(numbers=tuple(range(count)), times=tuple(n / float(rate) for n in range(count)))
    held(made, source, rate, cut)


LINES = ((1.0, 2.0, "One"), (2.4, 5.4, "Cut off twice"), (6.0, 7.0, "Three"), (8.0, 9.5, "Four"))


@pytest.mark.parametrize("beside", [False, True])
def test_chapters_and_lines_of_text_follow_the_cut(
    beside: bool, sources: Callable[[str], Path], tmp_path: Path
) -> None:
    """Kept are 2 to 5 and 7.5 to 11 seconds; chapters begin at 0, 4 and 9, the second is named."""
    film = sources("film.mp4")
    text = SubtitleText(encoding="utf-8", lines=tuple(TimedLine(start_s=a, end_s=b, text=c) for a, b, c in LINES))
    (tmp_path / "film.srt").write_text(to_subrip(text))
    chapters = (Chapter(number=1, start_s=0), Chapter(number=2, start_s=4, name="Noon"), Chapter(number=3, start_s=9))
    (tmp_path / "marks.txt").write_text(chapters_document(chapters, 12))
    argv = ["ffmpeg", "-v", "error", "-i", str(film), "-i", str(tmp_path / "marks.txt")]
    inside = [] if beside else ["-i", str(tmp_path / "film.srt"), "-map", "2", "-c:s", "srt"]
    path = tmp_path / "source" / "film.mkv"
    path.parent.mkdir()
    output_of([*argv, *inside, "-map", "0", "-map_chapters", "1", "-c:v", "copy", "-c:a", "copy", str(path)])
    if beside:
        (path.parent / "film.en.srt").write_text((tmp_path / "film.srt").read_text())
    title = read_source(path).titles[0]
    made = kept(title, "heron-8", tmp_path, "2-5,7.5-11", subtitles_track="0", subtitles_form="track")
    found = read_source(made).titles[0]
    assert [(c.name, pytest.approx(c.start_s, abs=0.042)) for c in found.chapters] == [
        ("Chapter 1", 0.0), ("Noon", 2.0), ("Chapter 3", 4.5),
    ]  # fmt: skip
    said = output_of(["ffmpeg", "-v", "error", "-i", str(made), "-map", "0:s:0", "-f", "srt", "pipe:1"])
    lines = read_subtitles(said).lines
    assert [line.text for line in lines] == ["Cut off twice", "Four"]
    assert [t for line in lines for t in (line.start_s, line.end_s)] == pytest.approx([0.4, 3.0, 3.5, 5.0], abs=0.042)


def test_drawn_subtitle_pictures_follow_the_cut(discs: dict[str, tuple[Title, Fraction, int]], tmp_path: Path) -> None:
    title, _, _ = discs["pal"]
    made = kept(title, "curlew-2", tmp_path, "3-9.5,12-20", subtitles_track="0", subtitles_form="drawn")
    wanted = [(0.0, 2.0), (4.0, 5.0), (7.5, 9.0), (13.5, 14.5)]
    seen = joined(lit(made))
    assert [t for line in seen for t in line] == pytest.approx([t for line in wanted for t in line], abs=0.081)


def joined(found: list[tuple[float, float]]) -> list[tuple[float, float]]:
    """Lines with less than two pictures between them as one."""
    lines: list[tuple[float, float]] = []
    for begin, end in found:
        if lines and begin - lines[-1][1] < 0.09:
            lines[-1] = (lines[-1][0], end)
        else:
            lines.append((begin, end))
    return lines


@pytest.mark.parametrize("name", ["film.mp4", thorough("film.mkv"), thorough("transport.ts"), "closed.mpg"])
def test_the_picture_at_any_moment_of_a_file_is_the_one_shown_there(name: str, sources: Callable[[str], Path]) -> None:
    path, rate = sources(name), float(BY_NAME[name].rate)
    title = read_source(path).titles[0]
    first = see(path).times[0]
    wanted = [1, 77, 203, BY_NAME[name].pictures.count - 10]
    assert [number_of(frame_jpeg(title, round(first + n / rate, 3), 240)) for n in wanted] == wanted


@pytest.mark.parametrize("kind", ["pal", "ntsc", "clips"])
def test_the_picture_at_any_moment_of_a_disc_is_the_one_shown_there(
    kind: str, discs: dict[str, tuple[Title, Fraction, int]]
) -> None:
    title, rate, count = discs[kind]
    wanted = [0, 1, count // 3, count // 2 + 7, count - 2]
    assert [number_of(frame_jpeg(title, round(n / float(rate), 3), 240)) for n in wanted] == wanted
    # what a plan makes of it is the same picture
    profile = device("curlew-2")
    made = plan(PlanRequest(title=title, devices=(profile,), name="made", pins=read_pins({"picture.size": "240"})))
    assert made.settings is not None
    for n in wanted[1:4]:
        with tempfile.TemporaryDirectory() as work:
            request = PreviewRequest(title=title, settings=made.settings, at_s=round(n / float(rate), 3))
            assert number_of(preview_jpeg(request, Path(work))) == n


FILM = Pictures(count=288, rate=Fraction(24000, 1001), size=(720, 480))
PULLED_DOWN = Vob(pictures=FILM, pulldown=True)


@pytest.mark.parametrize(
    "vob", [thorough(Vob(pictures=FILM, filters="telecine=first_field=top:pattern=23", fields=True)), PULLED_DOWN]
)
def test_film_in_fields_comes_out_as_film_within_a_picture_of_each_cut(vob: Vob, tmp_path: Path) -> None:
    """A picture whose fields lie on both sides of a cut may go, or come twice in its place; no other does."""
    stretches = ((2.003, 4.505), (6.1, 8.3))
    found = read_source(author_dvd([vob], [Chain(parts=((0, 0, 0),))], tmp_path / "DISC")).titles[0]
    title = looked_over(found)
    assert title.video and (title.video.film_in_fields or title.video.scan is Scan.TELECINED)
    path = kept(title, "curlew-2", tmp_path, "2.003-4.505,6.1-8.3", picture_size="360")
    seen, rate = see(path), float(FILM.rate)
    wanted = [n for a, b in stretches for n in range(math.ceil(a * rate - 0.03), math.ceil(b * rate - 0.03))]
    assert abs(len(seen.numbers) - len(wanted)) <= 1
    assert len(set(wanted) ^ set(seen.numbers)) <= len(stretches) and seen.doubled <= len(stretches)
    sound = hear(path, first_s=seen.numbers[0] / rate - seen.times[0])
    first_s, first_end_s = stretches[0]
    near = [off for click, off in zip(sound.clicks, sound.offsets, strict=True)
            if first_s + 0.03 <= CLICK_AT_S + click * CLICK_EVERY_S <= first_end_s - 0.06]  # fmt: skip
    assert len(near) >= 4 and max(map(abs, near)) <= SOUND_S


def test_the_picture_at_any_moment_is_the_one_that_stands_where_they_come_unevenly(
    sources: Callable[[str], Path], tmp_path: Path
) -> None:
    film = read_source(author_dvd([PULLED_DOWN], [Chain(parts=((0, 0, 0),))], tmp_path / "DISC")).titles[0]
    fields = (0, 3, 5, 8)
    times = [n // 4 * 4 / float(FILM.rate) + fields[n % 4] * 1001 / 60000 for n in range(FILM.count)]
    held = [(film, dict(enumerate(times)))]
    for name in ("turns.mkv", "screen.mkv"):
        seen = see(sources(name))
        held.append((read_source(sources(name)).titles[0], dict(zip(seen.numbers, seen.times, strict=True))))
    for title, shown in held:
        for begins, ends in list(pairwise(sorted(shown.items())))[20::120]:
            for part in (0.1, 0.9):
                moment = begins[1] + part * (ends[1] - begins[1])
                assert number_of(frame_jpeg(title, moment, 240)) == begins[0], (title.container, moment)


@pytest.mark.parametrize(("from_s", "until_s"), [thorough(3.0, 9.0), (4.5, 7.02)])
@pytest.mark.parametrize(
    ("name", "device_id"),
    [
        ("film.mp4", "cormorant-box"),
        ("film.mp4", "faithful-copy"),
        ("film.mkv", "heron-8"),
        ("pal", "faithful-copy"),
        ("clips", "faithful-copy"),
    ],
)
def test_a_copy_begins_and_ends_just_where_the_plan_says(
    name: str,
    device_id: str,
    from_s: float,
    until_s: float,
    sources: Callable[[str], Path],
    discs: dict[str, tuple[Title, Fraction, int]],
    tmp_path: Path,
) -> None:
    if name in discs:
        title, rate, count = discs[name]
        source = Seen(numbers=tuple(range(count)), times=tuple(n / float(rate) for n in range(count)))
    else:
        title, rate, source = read_source(sources(name)).titles[0], BY_NAME[name].rate, see(sources(name))
    ranges = copy_ranges(title, (KeptRange(from_s=from_s, until_s=until_s),))
    assert ranges is not None and ranges[0].from_s <= from_s + 0.001 and ranges[0].until_s >= until_s - 0.001
    profile = device(device_id)
    pins = read_pins({"range.keep": f"{from_s}-{until_s}", "range.cut": "copy"})
    wanted = plan(PlanRequest(title=title, devices=(profile,), name="made", pins=pins, copy_ranges=ranges))
    assert wanted.settings and wanted.settings.video and wanted.settings.video.action is Action.COPY
    order = Order(title=title, plan=wanted, devices=[profile], folder=tmp_path, token=uuid.uuid4().hex)
    made = convert(order).path
    seen = see(made)
    there = [
        n
        for n, t in zip(source.numbers, source.times, strict=True)
        if ranges[0].from_s - 0.0011 <= t < ranges[0].until_s - 0.0011
    ]
    assert list(seen.numbers) == there
    sound = hear(made, first_s=there[0] / float(rate) - seen.times[0])
    assert len(sound.clicks) >= (until_s - from_s) * 2 - 1 and max(map(abs, sound.offsets)) <= SOUND_S


@pytest.mark.parametrize("device_id", ["sound-as-aac", "sound-as-flac"])
def test_sound_alone_is_cut_where_it_was_said_and_has_neither_hole_nor_click_at_a_seam(
    device_id: str, tmp_path: Path
) -> None:
    stretches = ((2.1, 4.6), (6.3, 9.0))
    rate = 48000
    tone = np.sin(2 * np.pi * 440.0 * np.arange(12 * rate) / rate) * 8000
    marked = clicks(12.0).astype(float) + tone[:, None]
    title = read_source(write_sound(marked.astype(np.int16), tmp_path / "sound.wav")).titles[0]
    made = kept(title, device_id, tmp_path, ",".join(f"{a}-{b}" for a, b in stretches))
    at_s, found = 0.0, 0
    for from_s, until_s in stretches:
        sound = hear(made, first_s=from_s - at_s)
        for click, off in zip(sound.clicks, sound.offsets, strict=True):
            if from_s + 0.05 <= CLICK_AT_S + click * CLICK_EVERY_S <= until_s - 0.1:
                assert abs(off) <= 0.005
                found += 1
        at_s += until_s - from_s
    assert found == 10
    line, _ = samples(made)
    assert abs(len(line) / rate - at_s) <= 0.020
    seam = round((stretches[0][1] - stretches[0][0]) * rate)
    near = line[seam - rate // 10 : seam + rate // 10]
    loudness = [float(np.sqrt((near[n : n + 480] ** 2).mean())) for n in range(0, len(near) - 480, 120)]
    assert min(loudness) >= 0.5 * float(np.median(loudness))
    assert np.abs(np.diff(near)).max() <= 1.3 * np.abs(np.diff(line[rate // 2 : rate // 2 + rate // 5])).max()
