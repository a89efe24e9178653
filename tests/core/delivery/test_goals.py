"""Files for a purpose: only the sound, faithful copies, tracks to switch on, texts beside the film."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest
from tests.instruments.engine import PATIENCE_S, output_of
from tests.thorough import thorough

from rheon.core.delivery import Delivered, Order, convert
from rheon.core.engine import Command, probe, run
from rheon.core.media import Chapter, Source, Title
from rheon.core.planning import Balance, PlanRequest, plan, read_pins
from rheon.core.sources import read_source
from rheon.demo.models import device


def make(title: Title, name: str, folder: Path, **pins: str) -> Delivered:
    profile = device(name)
    request = PlanRequest(
        title=title,
        devices=(profile,),
        name="The Film",
        languages=("en",),
        balance=Balance.LEAN,
        pins=read_pins({key.replace("_", "."): value for key, value in pins.items()}),
    )
    return convert(Order(title=title, plan=plan(request), devices=[profile], folder=folder, token=name))


@pytest.fixture(scope="module")
def bluray(media: Path) -> Source:
    return read_source(media / "HERON_REACH")


@pytest.mark.parametrize(
    ("name", "suffix", "codec"),
    [
        ("sound-as-mp3", ".mp3", "mp3"),
        ("sound-as-aac", ".m4a", "aac"),
        thorough("sound-as-flac", ".flac", "flac"),
        thorough("sound-as-opus", ".opus", "opus"),
    ],
)
def test_only_the_sound_keeps_name_tags_and_chapters(
    bluray: Source, tmp_path: Path, name: str, suffix: str, codec: str
) -> None:
    film = replace(bluray.titles[1], tags={"artist": "The Film Circle"})
    assert len(film.chapters) == 4
    named = tuple(replace(chapter, name=f"Part {chapter.number}") for chapter in film.chapters)
    path = make(replace(film, chapters=named), name, tmp_path).path
    found = probe(str(path))
    assert (path.suffix, found.video, found.audio[0].codec) == (suffix, None, codec)
    assert (found.title, found.tags["artist"]) == ("The Film", "The Film Circle")
    assert [chapter.name for chapter in found.chapters] == ["Part 1", "Part 2", "Part 3", "Part 4"]
    starts = [chapter.start_s for chapter in film.chapters]
    assert [chapter.start_s for chapter in found.chapters] == pytest.approx(starts, abs=0.05)


def picture_sum(path: str, pad: str = "0:V:0") -> bytes:
    argv = ["ffmpeg", "-v", "error", "-i", path, "-map", pad, "-f", "framemd5", "pipe:1"]
    lines = output_of(argv).splitlines()
    return b"\n".join(line.rsplit(b",", 1)[-1] for line in lines if not line.startswith(b"#"))


def test_a_faithful_copy_of_a_blu_ray_title_holds_every_track_unchanged(bluray: Source, tmp_path: Path) -> None:
    film = bluray.titles[1]
    path = make(film, "faithful-copy", tmp_path).path
    found = probe(str(path))
    assert found.video and film.video
    assert found.video.codec == film.video.codec
    assert [track.codec for track in found.audio] == ["ac3", "pcm_s24le"]
    assert [track.language for track in found.audio] == [track.language for track in film.audio]
    assert [(track.format, track.language) for track in found.subtitles] == [("hdmv_pgs_subtitle", "en")]
    assert len(found.chapters) == 4
    clip = film.data.cells[0].extents[0].path  # type: ignore[union-attr]
    assert picture_sum(str(path)).startswith(picture_sum(clip)[:2000])


def test_a_faithful_copy_of_a_dvd_title_keeps_its_subtitle_pictures_in_their_colours(
    film_disc: Source, tmp_path: Path
) -> None:
    path = make(film_disc.titles[0], "faithful-copy", tmp_path).path
    found = probe(str(path))
    assert [track.format for track in found.subtitles] == ["dvd_subtitle", "dvd_subtitle"]
    assert [track.language for track in found.audio] == ["en", "es"]
    assert found.video and found.video.codec == "mpeg2video"
    assert len(found.chapters) == 6
    palette = film_disc.titles[0].data.palette  # type: ignore[union-attr]
    assert palette[1].encode() in path.read_bytes()[:20000]


@pytest.fixture(scope="module")
def regatta(media: Path) -> Title:
    source = read_source(media / "camera")
    found = next(title for title in source.titles if title.subtitles)
    return replace(found, part_of=found.number, duration_s=4.0, chapters=())


@pytest.mark.parametrize(
    ("name", "container", "written"),
    [
        ("heron-8", "mp4", "mov_text"),
        thorough("cormorant-box", "matroska", "subrip"),
        thorough("vp9-level-41", "webm", "webvtt"),
    ],
)
def test_text_goes_along_as_a_track_in_the_container_s_own_form(
    regatta: Title, tmp_path: Path, name: str, container: str, written: str
) -> None:
    pins = {"subtitles_track": "0", "subtitles_form": "track", "file_container": container, "picture_size": "180"}
    found = probe(str(make(regatta, name, tmp_path, **pins).path))
    assert [track.format for track in found.subtitles] == [written]
    assert found.subtitles[0].language == regatta.subtitles[0].language


def test_text_goes_beside_the_film_under_its_name(regatta: Title, tmp_path: Path) -> None:
    done = make(regatta, "heron-8", tmp_path, subtitles_track="0", subtitles_form="file", picture_size="180")
    beside = tmp_path / f"{done.path.stem}.{regatta.subtitles[0].language}.srt"
    assert sorted(path.name for path in tmp_path.iterdir()) == sorted([done.path.name, beside.name])
    assert "-->" in beside.read_text(encoding="utf-8")


def loudness_db(path: Path) -> float:
    argv = ["ffmpeg", "-hide_banner", "-i", str(path), "-map", "0:a:0", "-af", "volumedetect", "-f", "null", "-"]
    said = run(Command(argv=argv, timeout_s=PATIENCE_S)).tail
    return float(next(line for line in said if "mean_volume" in line).split("mean_volume:")[1].split()[0])


def test_gain_makes_it_louder_by_what_was_said(film_disc: Source, tmp_path: Path) -> None:
    short = next(title for title in film_disc.titles if title.number == 4)
    plain = make(short, "sound-as-flac", tmp_path).path
    louder = make(short, "sound-as-flac", tmp_path, sound_gain="-6").path
    assert loudness_db(louder) - loudness_db(plain) == pytest.approx(-6, abs=0.3)


def test_chapters_can_be_left_behind(bluray: Source, tmp_path: Path) -> None:
    assert probe(str(make(bluray.titles[1], "sound-as-mp3", tmp_path, file_chapters="none").path)).chapters == ()
    assert bluray.titles[1].chapters[0] == Chapter(number=1, start_s=0.0)
