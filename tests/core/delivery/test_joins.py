"""Parts become one file: no picture is lost or doubled where they meet, and the sound goes on."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction
from itertools import product
from pathlib import Path

import numpy as np
import pytest
from tests.instruments.authored import SAMPLE_RATE, Pictures, author, clicks, write_sound
from tests.instruments.discs import CLIP_RATE, PAL, Chain, Vob, author_dvd, make_clip
from tests.instruments.looked import looked_over
from tests.instruments.readback import hear, lit, measure, number_of, samples, see
from tests.instruments.sources import AAC, AC3, ASP, H264, MP3, MPEG2
from tests.thorough import always

from rheon.core.analysis import (
    SnippetRequest,
    Survey,
    fingerprint,
    frame_jpeg,
    levels_of,
    make_snippet,
    sample_pictures,
    scene_after,
    scene_before,
    survey_title,
    with_findings,
)
from rheon.core.analysis.joining import joined_title
from rheon.core.delivery import Order, convert
from rheon.core.encoding import PreviewRequest, preview_jpeg
from rheon.core.engine import probe
from rheon.core.errors import CantJoin, PlanError, SourceChanged, SourceMissing
from rheon.core.media import Action, Borders, Chapter, Title
from rheon.core.media.documents import dump, load
from rheon.core.media.joining import PartWanted
from rheon.core.planning import Plan, PlanRequest, plan, read_pins
from rheon.core.sources import read_source
from rheon.core.sources.roles.parts import ChapterRange, cut
from rheon.core.subtitles import read_subtitles
from rheon.core.wording import sentence
from rheon.demo.bluray import Item, Listing, write_playlist
from rheon.demo.models import device

SOUND_S = 0.020
FINE = (*H264[:-1], "16")


class Parts:
    """Files whose pictures and clicks count on from one to the next."""

    def __init__(self, folder: Path) -> None:
        self.folder, self.at = folder, 0.0

    def file(self, name: str, count: int, coding: Sequence[str], **how: object) -> Path:
        rate = Fraction(str(how.get("rate", 25)))
        size = how.get("size", (320, 240))
        channels = how.get("channels", 2)
        assert isinstance(size, tuple) and isinstance(channels, int)
        pictures = Pictures(count=count, rate=rate, size=size, first=round(self.at * rate))
        sounds = []
        if channels:
            made = clicks(pictures.duration_s, channels, first_s=self.at)
            sounds = [write_sound(made, self.folder / f"{name}.wav")]
        self.at += pictures.duration_s
        return author(self.folder / name, pictures, coding, sounds=sounds, filters=str(how.get("filters", "null")))


def joined(titles: Sequence[Title]) -> Title:
    return joined_title([PartWanted(title=one, name=f"Part {n}") for n, one in enumerate(titles, 1)], 1, "join")


def of_files(paths: Sequence[Path]) -> Title:
    return joined([read_source(path).titles[0] for path in paths])


def made_of(title: Title, device_id: str, folder: Path, **pins: str) -> tuple[Plan, Path]:
    profile = device(device_id)
    named = {key.replace("_", ".", 1): value for key, value in pins.items()}
    wanted = plan(PlanRequest(title=title, devices=(profile,), name="made", pins=read_pins(named)))
    order = Order(title=title, plan=wanted, devices=[profile], folder=folder, token=uuid.uuid4().hex)
    return wanted, convert(order).path


def goes_on(path: Path, rate: Fraction | float, count: int) -> None:
    """All pictures once and in order, and every click where its picture is."""
    found = measure(path, rate, range(count))
    assert (found.lost, found.doubled, found.disordered, found.unread) == (0, 0, 0, 0)
    assert len(see(path).numbers) == count
    assert found.clicks >= count / float(rate) * 2 - 4
    assert found.worst_s - abs(found.picture_start_s) <= SOUND_S


TAKES_MOST, TAKES_LITTLE = "curlew-9", "curlew-2"
CODINGS: dict[str, tuple[str, Sequence[str]]] = {
    "mkv": ("mkv", (*H264, *AAC)),
    "mp4": ("mp4", (*H264, *AAC)),
    "mp4 with AC-3": ("mp4", (*H264, *AC3)),
    "transport": ("ts", (*H264, *AC3)),
    "program": ("mpg", (*MPEG2, "-c:a", "mp2", "-f", "vob")),
    "avi": ("avi", (*ASP, *MP3)),
    "samples": ("mkv", (*H264, "-c:a", "pcm_s16le")),
}


@pytest.mark.parametrize(
    ("kind", "device_id"),
    always(
        [("mp4 with AC-3", TAKES_MOST), ("transport", TAKES_MOST), ("program", TAKES_LITTLE), ("mkv", TAKES_LITTLE)],
        of=product(CODINGS, (TAKES_MOST, TAKES_LITTLE)),
    ),
)
def test_equal_files_follow_each_other_to_the_picture(kind: str, device_id: str, tmp_path: Path) -> None:
    suffix, coding = CODINGS[kind]
    parts = Parts(tmp_path)
    title = of_files([parts.file(f"{n}.{suffix}", count, coding) for n, count in enumerate((150, 130, 71))])
    assert title.parts_agree
    wanted, path = made_of(title, device_id, tmp_path)
    goes_on(path, 25, 351)
    assert wanted.settings and wanted.settings.video
    if suffix in ("mkv", "mp4", "ts") and device_id == TAKES_MOST:
        assert wanted.settings.video.action is Action.COPY
        # frames of AC-3 and samples may follow any other; before those of AAC an encoder puts silence
        copied = wanted.settings.audio[0].action is Action.COPY
        assert copied == (wanted.settings.audio[0].codec == title.audio[0].codec and kind not in ("mkv", "mp4"))
    chapters = probe(str(path)).chapters
    assert [chapter.name for chapter in chapters] == ["Part 1", "Part 2", "Part 3"]
    assert [chapter.start_s for chapter in chapters] == pytest.approx([0, 6.0, 11.2], abs=0.041)


def test_parts_of_other_codecs_sizes_and_sounds_get_one_form(tmp_path: Path) -> None:
    parts = Parts(tmp_path)
    paths = [
        parts.file("a.mkv", 100, (*H264, *AAC)),
        parts.file("b.avi", 75, (*ASP, *MP3), channels=1),
        parts.file("c.mp4", 60, (*H264, *AC3), size=(640, 480), channels=6),
        parts.file("d.mp4", 50, FINE, channels=0),
        parts.file("e.mpg", 75, (*MPEG2, "-c:a", "mp2", "-f", "vob"), size=(352, 288)),
    ]
    title = of_files(paths)
    assert not title.parts_agree
    wanted, path = made_of(title, "curlew-2", tmp_path)
    assert wanted.settings and wanted.settings.video
    assert (wanted.settings.video.width, wanted.settings.video.height) == (640, 480)
    assert len(wanted.settings.video.parts) == 5
    found, heard = measure(path, 25, range(360)), hear(path)
    assert (found.lost, found.doubled, found.disordered, found.unread) == (0, 0, 0, 0)
    # part d, from 9.4 s to 11.4 s, has no sound
    there = [c for c in heard.clicks if not 9.2 <= 0.25 + c * 0.5 <= 11.4]
    assert len(there) >= 23
    offsets = [off for c, off in zip(heard.clicks, heard.offsets, strict=True) if c in there]
    assert max(map(abs, offsets)) <= SOUND_S
    line, start_s = samples(path)
    hush = line[round((9.6 - start_s) * SAMPLE_RATE) : round((11.2 - start_s) * SAMPLE_RATE)]
    assert np.abs(hush).max() < 200
    with pytest.raises(PlanError, match="converted to one form"):
        made_of(title, "curlew-9", tmp_path, range_join="copy")
    with pytest.raises(PlanError, match="convert them to one form"):
        made_of(title, "faithful-copy", tmp_path)


def test_another_shape_gets_black_beside_it_and_another_rate_loses_no_picture(tmp_path: Path) -> None:
    parts = Parts(tmp_path)
    wide = parts.file("wide.mkv", 100, (*H264, *AAC), size=(640, 360))
    tall = parts.file("tall.mkv", 120, (*H264, *AAC), size=(320, 240), rate=30)
    _, path = made_of(of_files([wide, tall]), "curlew-9", tmp_path)
    video = probe(str(path)).video
    assert video is not None and (video.width, video.height, video.frame_rate) == (640, 360, 30)
    inside = see(path, only="crop=480:360:80:0")
    second = [n for n, t in zip(inside.numbers, inside.times, strict=True) if t >= 4.0 - 0.01]
    assert second == list(range(120, 240))
    first = [n for n, t in zip(see(path).numbers, see(path).times, strict=True) if t < 4.0 - 0.01]
    assert sorted(set(first)) == list(range(100)), first[-9:]


@pytest.mark.parametrize(
    ("device_id", "pins"), [("faithful-copy", {}), ("curlew-2", {"picture_size": "240"})], ids=["copied", "converted"]
)
def test_titles_of_two_dvds_become_one(device_id: str, pins: dict[str, str], tmp_path: Path) -> None:
    def vob(first: int, count: int) -> Vob:
        return Vob(pictures=Pictures(count=count, rate=PAL, size=(720, 576), first=first), lines=((1, 2),))

    one = author_dvd(
        [vob(0, 150), vob(150, 130)], [Chain(parts=((0, 0, 0),)), Chain(parts=((1, 0, 0),))], tmp_path / "A"
    )
    other = author_dvd([vob(280, 99)], [Chain(parts=((0, 0, 0),))], tmp_path / "B")
    title = joined([*read_source(one).titles, *read_source(other).titles])
    assert title.parts_agree
    _, path = made_of(title, device_id, tmp_path, **pins)
    found, heard = measure(path, 25, range(379)), hear(path)
    assert (found.lost, found.doubled, found.disordered, found.unread) == (0, 0, 0, 0)
    # a seam may last as long as the last frame of sound: pictures and sound go on together
    at = see(path).offsets(25)
    apart = [off - at[round((0.25 + c * 0.5) * 25)] for c, off in zip(heard.clicks, heard.offsets, strict=True)]
    assert len(apart) >= 28
    assert max(map(abs, apart)) <= SOUND_S
    if device_id == "curlew-2":
        _, drawn = made_of(title, device_id, tmp_path, subtitles_track="0", subtitles_form="drawn", **pins)
        assert lit(drawn) == [pytest.approx(pair, abs=0.09) for pair in ((1, 2), (7, 8), (12.2, 13.2))]


def test_blu_ray_titles_become_one(tmp_path: Path) -> None:
    titles: list[Title] = []
    first = 0
    for number, count in enumerate((96, 120)):
        pictures = Pictures(count=count, rate=CLIP_RATE, size=(1280, 720), first=first)
        clip = make_clip(pictures, "00001", tmp_path / f"D{number}")
        write_playlist(Listing(items=[Item(clip=clip.clip)], chapters_s=(0,)), tmp_path / f"D{number}", "00001")
        titles += read_source(tmp_path / f"D{number}").titles
        first += count
    title = joined(titles)
    for device_id, pins in (("faithful-copy", {}), ("curlew-2", {"picture_size": "240"})):
        _, path = made_of(title, device_id, tmp_path, **pins)
        goes_on(path, CLIP_RATE, 216)


def test_a_range_of_a_join_is_cut_to_the_picture_over_its_seams(tmp_path: Path) -> None:
    parts = Parts(tmp_path)
    title = of_files([parts.file(f"{n}.mkv", count, (*H264, *AAC)) for n, count in enumerate((100, 75, 100))])
    _, path = made_of(title, "curlew-2", tmp_path, range_keep="1.0-2.0,3.5-8.0")
    assert list(see(path).numbers) == [*range(25, 50), *range(88, 200)]
    assert [chapter.name for chapter in probe(str(path)).chapters] == ["Part 1", "Part 2", "Part 3"]


def test_ranges_of_chapters_of_a_file_are_joined_to_the_picture_and_never_copied_whole(tmp_path: Path) -> None:
    path = Parts(tmp_path).file("film.mkv", 200, (*H264, *AC3))
    listed = tuple(Chapter(number=n + 1, start_s=n * 2.0) for n in range(4))
    film = replace(read_source(path).titles[0], chapters=listed)
    title = joined([cut(film, ChapterRange(first=4, last=4), 104), cut(film, ChapterRange(first=1, last=1), 101)])
    assert not title.parts_agree
    _, made = made_of(title, "curlew-9", tmp_path)
    assert list(see(made).numbers) == [*range(150, 200), *range(50)]


@pytest.fixture
def with_texts(tmp_path: Path) -> Title:
    """Two films with a text beside them, and one between them without."""
    parts = Parts(tmp_path)
    paths = [parts.file(f"{n}.mkv", 75, (*H264, *AAC)) for n in range(3)]
    for n in (0, 2):
        text = f"1\n00:00:0{1 - n // 2},500 --> 00:00:02,000\n\u2588\u2588\u2588\u2588\u2588\u2588\u2588\u2588\u2588\n"
        (tmp_path / f"{n}.en.srt").write_text(text, encoding="utf-8")
    return of_files(paths)


def test_lines_of_the_parts_lie_where_their_parts_do(with_texts: Title, tmp_path: Path) -> None:
    _, drawn = made_of(with_texts, "curlew-2", tmp_path, subtitles_track="0", subtitles_form="drawn")
    assert lit(drawn) == [pytest.approx(pair, abs=0.09) for pair in ((1.5, 2), (6.5, 8))]
    _, path = made_of(with_texts, "curlew-9", tmp_path, subtitles_track="0", subtitles_form="file")
    (beside,) = path.parent.glob(f"{path.stem}*.srt")
    found = read_subtitles(beside.read_bytes()).lines
    assert [line.start_s for line in found] == pytest.approx([1.5, 6.5], abs=0.025)


def test_sound_alone_goes_on_without_a_hole(tmp_path: Path) -> None:
    tone = 0.3 * np.sin(2 * np.pi * 440 * np.arange(6 * SAMPLE_RATE) / SAMPLE_RATE) * 32000
    whole = np.repeat(tone.astype(np.int16)[:, None], 2, axis=1)
    half = 3 * SAMPLE_RATE + 77
    halves = [write_sound(part, tmp_path / f"{n}.wav") for n, part in enumerate((whole[:half], whole[half:]))]
    _, path = made_of(of_files(halves), "sound-as-flac", tmp_path)
    line, _ = samples(path)
    assert len(line) == len(whole)
    level = np.sqrt((line[: len(line) // 240 * 240].reshape(-1, 240) ** 2).mean(axis=1))
    assert level.min() > 0.9 * np.median(level)
    assert np.abs(np.diff(line)).max() < 1.05 * np.abs(np.diff(tone)).max()


def test_parts_of_different_loudness_are_evened_each_by_itself(tmp_path: Path) -> None:
    noise = np.random.default_rng(3).normal(0, 1, (4 * SAMPLE_RATE, 2))
    levels = (600, 4800)
    parts = [write_sound((noise * level).astype(np.int16), tmp_path / f"{level}.wav") for level in levels]
    title = of_files(parts)
    found = looked_over(title)
    plain, path = made_of(found, "sound-as-flac", tmp_path)
    told = {one.key: sentence(one.reason) for one in plain.decisions}
    assert told["sound.gain"] == "its parts differ by 18 dB in loudness; even brings each to a usual one"
    halves = np.split(samples(path)[0], 2)
    assert 20 * np.log10(halves[1].std() / halves[0].std()) == pytest.approx(18.1, abs=0.3)
    _, path = made_of(found, "sound-as-flac", tmp_path, sound_gain="even")
    halves = np.split(samples(path)[0], 2)
    assert 20 * np.log10(halves[1].std() / halves[0].std()) == pytest.approx(0, abs=1.0)


def test_a_part_that_was_changed_since_its_scan_is_told(tmp_path: Path) -> None:
    parts = Parts(tmp_path)
    title = of_files([parts.file(f"{n}.mkv", 50, (*H264, *AAC)) for n in range(2)])
    with (tmp_path / "1.mkv").open("ab") as handle:
        handle.write(b"more")
    with pytest.raises(SourceChanged, match=r"1\.mkv is not what it was"):
        made_of(title, "curlew-2", tmp_path)
    (tmp_path / "0.mkv").unlink()
    with pytest.raises(SourceMissing, match=r"0\.mkv is not there"):
        made_of(title, "curlew-2", tmp_path)


def test_what_can_t_be_joined_is_told(tmp_path: Path, media: Path) -> None:
    parts = Parts(tmp_path)
    film = read_source(parts.file("film.mkv", 50, (*H264, *AAC))).titles[0]
    sound = read_source(write_sound(clicks(2), tmp_path / "only.wav")).titles[0]
    with pytest.raises(CantJoin, match="only sound"):
        joined([film, sound])
    with pytest.raises(CantJoin, match="2 to 100"):
        joined([film])
    with pytest.raises(CantJoin, match="a join itself"):
        joined([joined([film, film]), film])


def test_a_join_is_looked_at_and_listened_to_through_its_parts(tmp_path: Path) -> None:
    parts = Parts(tmp_path)
    title = of_files(
        [
            parts.file("a.mkv", 100, (*H264, *AAC)),
            parts.file("b.avi", 75, (*ASP, *MP3), size=(400, 300)),
            parts.file("c.mp4", 50, FINE, channels=0),
        ]
    )
    pictures = (12, 99, 100, 162, 174, 175, 222)
    assert tuple(number_of(frame_jpeg(title, number / 25, 240)) for number in pictures) == pictures
    survey = survey_title(title)
    found = with_findings(load(Title, dump(title)), load(Survey, dump(survey)))
    assert [part.video and part.video.borders for part in found.joined] == [Borders()] * 3
    assert found.audio[0].loudness_lufs is not None
    assert found.duration_s == title.duration_s
    assert len(fingerprint(title)) and fingerprint(title) != fingerprint(of_files([tmp_path / "a.mkv"] * 2))
    assert sample_pictures(found) is not None
    levels = levels_of(title)
    assert len(levels) == pytest.approx(9.0 / 0.05, abs=2)
    assert max(levels[len(levels) * 7 // 9 + 2 :]) == -70 < max(levels[: len(levels) * 7 // 9])
    # where a part begins is a change of scene
    assert scene_after(title, 3.97) == pytest.approx(4.0, abs=0.01)
    assert scene_before(title, 4.03) == pytest.approx(4.0, abs=0.01)
    profile = device("curlew-2")
    settings = plan(PlanRequest(title=found, devices=(profile,), name="made")).settings
    assert settings is not None
    for at in (3.0, 5.0, 8.0):
        work = tmp_path / f"look{at}"
        work.mkdir()
        assert number_of(preview_jpeg(PreviewRequest(title=found, settings=settings, at_s=at), work)) == round(at * 25)
    for at in (3.0, 8.0):
        make_snippet(SnippetRequest(title=found, from_s=at, audio=0, subtitle=None), tmp_path / f"{at}.mp4", tmp_path)
        assert see(tmp_path / f"{at}.mp4").numbers[1] == pytest.approx(at * 25 + 1, abs=1)
