"""Jobs from the source to the file on a stick, a player or in a library, as people do them, seen from outside."""

from __future__ import annotations

import json
import math
from dataclasses import dataclass, field, replace
from fractions import Fraction
from pathlib import Path
from typing import Any

import pytest
from PIL import Image
from tests.instruments.engine import output_of
from tests.thorough import thorough
from typer.testing import CliRunner

from rheon.cli.main import build
from rheon.demo.models import model_file
from rheon.demo.sticks import StickDrawer

SIZE = 600


@dataclass(frozen=True, slots=True, kw_only=True)
class Job:
    """What is wished: a title of a source for a device, what is set by hand, and where the file goes."""

    source: str
    title: int = 1
    device: str
    said: tuple[str, ...] = ()
    pins: tuple[str, ...] = ()
    to: str = "KITTIWAKE"


@dataclass(slots=True)
class Seen:
    """The file where it went, as ffprobe sees it."""

    path: Path
    facts: dict[str, Any] = field(default_factory=dict)

    def of(self, kind: str) -> list[dict[str, Any]]:
        pictures = [one for one in self.facts["streams"] if one["codec_type"] == kind]
        return [one for one in pictures if not one["disposition"]["attached_pic"]]

    @property
    def duration_s(self) -> float:
        return float(self.facts["format"]["duration"])

    @property
    def tags(self) -> dict[str, str]:
        return {key.lower(): value for key, value in self.facts["format"].get("tags", {}).items()}

    @property
    def picture(self) -> dict[str, Any]:
        (video,) = self.of("video")
        return video


@pytest.fixture
def drawer(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> StickDrawer:
    """Every stick is plugged in."""
    monkeypatch.setenv("RHEON_VOLUMES", f"rheon.demo.sticks:{tmp_path / 'sticks'}")
    made = StickDrawer(folder=tmp_path / "sticks")
    for label in made.unplugged():
        made.plug_in(label)
    return made


def call(*words: str | Path) -> list[dict[str, Any]]:
    said = [str(one) for one in words]
    done = CliRunner().invoke(build(said), said)
    assert done.exit_code == 0, done.output
    return [json.loads(line) for line in done.stdout.splitlines()]


def document(*words: str | Path) -> Any:
    """What a command prints as one JSON document."""
    said = [*map(str, words), "--json"]
    done = CliRunner().invoke(build(said), said)
    assert done.exit_code == 0, done.output
    return json.loads(done.stdout)


def carried_out(job: Job, media: Path, tmp_path: Path) -> list[Seen]:
    """Plan, make, check and copy: two commands."""
    device = str(model_file(job.device)) if model_file(job.device).exists() else job.device
    pins = [word for pin in job.pins for word in ("--set", pin)]
    argv: list[str | Path] = [
        "convert",
        media / job.source,
        "--title",
        str(job.title),
        "--device",
        device,
        "--to",
        tmp_path / "made",
    ]
    lines = call(*argv, "--no-analyse", *job.said, *pins, "--json")
    made = Path(lines[-1]["output"]["path"])
    copied = call("copy", made, "--to", job.to, "--json")
    return [seen(Path(line["path"])) for line in copied]


def seen(path: Path) -> Seen:
    argv = ["ffprobe", "-v", "error", "-show_streams", "-show_format", "-show_chapters", "-of", "json", str(path)]
    return Seen(path=path, facts=json.loads(output_of(argv)))


def test_a_film_s_part_becomes_a_small_file_with_its_own_two_channels_and_its_tags(
    drawer: StickDrawer, media: Path, tmp_path: Path
) -> None:
    tags = ("file.title=Heron Reach", "file.director=Ida Marsh", "file.genre=Drama", "file.comment=without the end")
    pins = ("sound.track=1", "subtitles.track=0", "subtitles.lines=forced", *tags)
    said = ("--from", "0:06", "--until", "0:16", "--balance", "lean")
    job = Job(source="HERON_REACH", title=2, device="most-compatible", said=said, pins=pins)
    (file,) = carried_out(job, media, tmp_path)
    assert file.path.is_relative_to(drawer.folder / "KITTIWAKE") and file.path.name == "Heron Reach.mp4"
    (sound,) = file.of("audio")
    assert (file.picture["codec_name"], sound["channels"]) == ("h264", 2) and sound["tags"]["language"] == "spa"
    assert abs(file.duration_s - 10) < 0.2
    assert [file.tags[key] for key in ("title", "genre", "comment")] == ["Heron Reach", "Drama", "without the end"]


def test_a_small_file_goes_into_the_library_and_from_there_onto_the_player(
    drawer: StickDrawer, media: Path, tmp_path: Path
) -> None:
    library = tmp_path / "library"
    library.mkdir()
    job = Job(source="MARRAM_NIGHTS", title=4, device="sanderling-2", to=str(library), said=("--balance", "light"))
    (kept,) = carried_out(job, media, tmp_path)
    assert kept.path.parent == library
    (line,) = call("copy", kept.path, "--to", "SANDERLING", "--folder", "VIDEO", "--json")
    assert Path(line["path"]).read_bytes() == kept.path.read_bytes()
    assert Path(line["path"]).parent == drawer.folder / "SANDERLING" / "VIDEO"
    assert kept.picture["width"] <= 480 and len(kept.of("audio")) == 1


@pytest.mark.thorough
def test_a_tablet_gets_two_channels_a_little_louder(drawer: StickDrawer, media: Path, tmp_path: Path) -> None:
    pins = ("sound.channels=2", "sound.gain=4", "subtitles.track=0", "subtitles.form=track")
    job = Job(source="HERON_REACH", title=2, device="heron-8", said=("--from", "0:01", "--until", "0:09"), pins=pins)
    (file,) = carried_out(job, media, tmp_path)
    (louder,) = file.of("audio")
    assert louder["channels"] == 2 and louder["codec_name"] == "aac"
    (quiet,) = carried_out(replace(job, pins=("sound.channels=2",)), media, tmp_path)
    assert mean_db(file.path) - mean_db(quiet.path) == pytest.approx(4, abs=0.4)


def mean_db(path: Path) -> float:
    argv = ["ffmpeg", "-v", "error", "-i", str(path), "-map", "0:a:0", "-ac", "1", "-f", "f32le", "pipe:1"]
    samples = memoryview(output_of(argv)).cast("f")
    mean = sum(one * one for one in samples[::7]) / max(1, len(samples[::7]))
    return 10 * math.log10(mean + 1e-12)


def test_a_size_is_kept_and_the_sound_alone_is_a_file_of_its_own(
    drawer: StickDrawer, media: Path, tmp_path: Path
) -> None:
    job = Job(source="LANTERN_STREET_S1.iso", device="sanderling-2", pins=("picture.rate=size:1",))
    (file,) = carried_out(job, media, tmp_path)
    assert file.path.stat().st_size <= 1_000_000 * 1.05
    (sound,) = carried_out(Job(source="LANTERN_STREET_S1.iso", device="sound-as-mp3"), media, tmp_path)
    assert [one["codec_name"] for one in sound.of("audio")] == ["mp3"] and not sound.of("video")
    assert sound.duration_s == pytest.approx(20, abs=0.2)


def test_a_wrong_shape_is_mended_and_a_clip_kept(drawer: StickDrawer, media: Path, tmp_path: Path) -> None:
    said = ("--from", "0:02", "--until", "0:08.5")
    job = Job(source="camera/Kite day.mp4", device="wren-6", said=said, pins=("picture.aspect=4:3",))
    (file,) = carried_out(job, media, tmp_path)
    picture = file.picture
    pixels = Fraction((picture.get("sample_aspect_ratio") or "1:1").replace(":", "/"))
    assert float(picture["width"] * pixels / picture["height"]) == pytest.approx(4 / 3, rel=0.02)
    assert file.duration_s == pytest.approx(6.5, abs=0.15)


def test_a_profile_of_one_s_own_decides_and_the_file_is_placed_by_its_name(
    drawer: StickDrawer, media: Path, tmp_path: Path
) -> None:
    profile = json.loads(model_file("wren-6").read_text(encoding="utf-8"))
    profile |= {"id": "my-player", "name": "My player"}
    own = tmp_path / "mine.json"
    own.write_text(json.dumps(profile), encoding="utf-8")
    pins = ("file.title=Making of", "sound.track=0")
    (file,) = carried_out(Job(source="MARRAM_NIGHTS", title=3, device=str(own), pins=pins), media, tmp_path)
    assert file.path.stem.startswith("Making of") and file.of("audio")[0]["tags"]["language"] == "eng"


def test_a_general_file_is_named_has_artwork_and_lines_by_hand(
    drawer: StickDrawer, media: Path, tmp_path: Path
) -> None:
    picture = tmp_path / "poster.png"
    Image.new("RGB", (SIZE, SIZE), "#0f6b6f").save(picture)
    pins = ("picture.size=360", "picture.preset=slow", "file.name=Lantern one", "file.artwork=inside")
    job = Job(
        source="LANTERN_STREET_S1.iso", device="most-compatible", pins=pins,
        said=("--artwork", str(picture), "--from", "0:00", "--until", "0:06"),
    )  # fmt: skip
    (file,) = carried_out(job, media, tmp_path)
    inside = [one for one in file.facts["streams"] if one["disposition"]["attached_pic"]]
    assert file.path.name == "Lantern one.mp4" and file.picture["height"] == 360
    assert len(inside) == 1 and inside[0]["width"] >= 300


@pytest.mark.parametrize("device", ["sanderling-2", thorough("teal-pocket")])
def test_two_kinds_of_pocket_device_get_some_chapters_cropped(
    device: str, drawer: StickDrawer, media: Path, tmp_path: Path
) -> None:
    job = Job(
        source="LANTERN_STREET_S1.iso", title=2, device=device, said=("--chapters", "2-3"),
        pins=("picture.crop=60,60,0,0",),
    )  # fmt: skip
    (file,) = carried_out(job, media, tmp_path)
    assert 5 < file.duration_s < 16 and file.picture["width"] / file.picture["height"] > 1.6


def test_a_film_takes_an_outside_subtitle_file_to_a_tablet(drawer: StickDrawer, media: Path, tmp_path: Path) -> None:
    folder = tmp_path / "films"
    folder.mkdir()
    (folder / "Kite day.mp4").write_bytes((media / "camera" / "Kite day.mp4").read_bytes())
    (folder / "Kite day.en.srt").write_text("1\n00:00:02,000 --> 00:00:05,000\nHold the line!\n", encoding="utf-8")
    tags = ("file.name=Kite day 2019", "file.artist=The film circle", "file.genre=Home", "file.artwork=inside")
    pins = ("subtitles.track=0", "subtitles.form=track", *tags)
    job = Job(source="", device="heron-8", said=("--artwork", "0:06"), pins=pins)
    (file,) = carried_out(job, folder / "Kite day.mp4", tmp_path)
    (lines,) = file.of("subtitle")
    said = output_of(["ffmpeg", "-v", "error", "-i", str(file.path), "-map", "0:s:0", "-f", "srt", "pipe:1"]).decode()
    assert lines["codec_name"] == "mov_text" and "Hold the line!" in said
    assert (file.tags["artist"], file.tags["genre"]) == ("The film circle", "Home")


def test_sound_and_picture_by_hand_for_a_computer_and_only_a_part_to_try(
    drawer: StickDrawer, media: Path, tmp_path: Path
) -> None:
    pins = ("picture.fields=join", "sound.bitrate=96", "sound.sample_rate=44100", "sound.codec=aac")
    job = Job(
        source="LANTERN_STREET_S1.iso", title=3, device="most-compatible", pins=pins,
        said=("--from", "0:03", "--until", "0:08"),
    )  # fmt: skip
    (file,) = carried_out(job, media, tmp_path)
    (sound,) = file.of("audio")
    assert sound["sample_rate"] == "44100" and int(sound["bit_rate"]) == pytest.approx(96_000, rel=0.2)
    assert file.picture.get("field_order", "progressive") == "progressive" and file.duration_s == pytest.approx(
        5, abs=0.15
    )


def test_of_two_nearly_equal_films_one_goes_to_a_tablet_that_takes_720_lines(
    drawer: StickDrawer, media: Path, tmp_path: Path
) -> None:
    pins = ("picture.size=720", "file.name=The Last Ferry")
    job = Job(source="HERON_REACH", title=2, device="heron-8", pins=pins, said=("--from", "0:00", "--until", "0:06"))
    (file,) = carried_out(job, media, tmp_path)
    assert file.picture["height"] <= 720 and file.path.name.startswith("The Last Ferry")


def test_four_episodes_of_one_disc_go_the_same_way_by_constant_quality(
    drawer: StickDrawer, media: Path, tmp_path: Path
) -> None:
    pins = ("picture.rate=quality:26", "picture.passes=1", "picture.size=240")
    files = [
        carried_out(Job(source="LOCK_KEEPERS", title=title, device="heron-8", pins=pins), media, tmp_path)[0]
        for title in (2, 3, 4, 5)
    ]
    assert [round(file.duration_s) for file in files] == [10, 11, 10, 10]
    assert len({(file.picture["codec_name"], file.picture["width"]) for file in files}) == 1
    assert len(list((drawer.folder / "KITTIWAKE").glob("*"))) == 4


@pytest.mark.thorough
def test_one_chapter_in_one_of_many_languages_with_its_lines_drawn_in(
    drawer: StickDrawer, media: Path, tmp_path: Path
) -> None:
    names = tmp_path / "chapters.txt"
    names.write_text("The marsh\nFog\nThe heron\nHome\n", encoding="utf-8")
    job = Job(
        source="HERON_REACH", title=2, device="most-compatible", said=("--chapters", "1", "--chapter-list", str(names)),
        pins=("sound.track=0", "subtitles.track=0", "subtitles.form=drawn"),
    )  # fmt: skip
    (file,) = carried_out(job, media, tmp_path)
    assert file.of("audio")[0]["tags"]["language"] == "eng" and not file.of("subtitle")
    assert [one["tags"]["title"] for one in file.facts["chapters"]] == ["The marsh"]
    assert file.duration_s == pytest.approx(10, abs=0.2)


@pytest.mark.thorough
def test_a_film_goes_to_one_phone_and_into_the_library(drawer: StickDrawer, media: Path, tmp_path: Path) -> None:
    library = tmp_path / "library"
    library.mkdir()
    job = Job(source="MARRAM_NIGHTS", title=4, device="wren-6", to=str(library), pins=("file.title=Marram Nights",))
    (kept,) = carried_out(job, media, tmp_path)
    assert kept.path == library / "Marram Nights.mp4" and kept.picture["codec_name"] in {"h264", "hevc"}
    assert document("check", kept.path, "--device", model_file("wren-6"))["fails"] == []


@pytest.mark.thorough
def test_a_long_and_a_short_title_are_made_and_named_afterwards_in_the_library(
    drawer: StickDrawer, media: Path, tmp_path: Path
) -> None:
    cover = tmp_path / "cover.png"
    Image.new("RGB", (SIZE, SIZE), "#c98412").save(cover)
    for title, name in ((2, "The long one"), (4, "The short one")):
        job = Job(source="MARRAM_NIGHTS", title=title, device="sanderling-2", to=str(tmp_path))
        (file,) = carried_out(job, media, tmp_path)
        before = file.duration_s
        document("tag", file.path, "--set", f"file.title={name}", "--artwork", cover)
        after = seen(file.path)
        assert after.tags["title"] == name and after.duration_s == pytest.approx(before, abs=0.05)
        assert any(one["disposition"]["attached_pic"] for one in after.facts["streams"])


@pytest.mark.thorough
def test_a_pile_of_discs_goes_to_tablets_that_take_no_large_file(
    drawer: StickDrawer, media: Path, tmp_path: Path
) -> None:
    profile = json.loads(model_file("heron-8").read_text(encoding="utf-8"))
    profile["limits"]["max_file_bytes"] = 1_500_000
    own = tmp_path / "small.json"
    own.write_text(json.dumps(profile), encoding="utf-8")
    for source, title in (("LANTERN_STREET_S1.iso", 2), ("LOCK_KEEPERS", 2), ("THE_LAST_FERRY", 1)):
        (file,) = carried_out(Job(source=source, title=title, device=str(own)), media, tmp_path)
        assert file.path.stat().st_size <= 1_500_000 and file.of("video") and file.of("audio")


@pytest.mark.thorough
def test_own_films_go_to_a_player_by_one_choice_and_then_by_hand(
    drawer: StickDrawer, media: Path, tmp_path: Path
) -> None:
    job = Job(source="camera/Kite day.mp4", device="curlew-2")
    (file,) = carried_out(job, media, tmp_path)
    pins = ("picture.crop=8,8,0,0", "picture.frame_rate=25", "picture.rate=average:500", "picture.passes=2")
    by_hand = replace(job, pins=(*pins, "sound.bitrate=96", "file.name=By hand"))
    (other,) = carried_out(by_hand, media, tmp_path)
    assert other.picture["avg_frame_rate"] == "25/1" and other.path.stem == "By hand"
    assert other.picture["height"] < file.picture["height"]
    rate = 8 * other.path.stat().st_size / other.duration_s
    assert rate == pytest.approx(596_000, rel=0.2)


def test_a_laptop_gets_the_one_sensible_choice_and_the_time_is_told(
    drawer: StickDrawer, media: Path, tmp_path: Path
) -> None:
    laptop = model_file("redshank-book-2")
    told = document("plan", media / "LOCK_KEEPERS", "--title", "2", "--device", laptop, "--no-analyse")
    assert told["estimate"]["time_s"] > 0 and all(decision["reason"] for decision in told["decisions"])
    (file,) = carried_out(Job(source="LOCK_KEEPERS", title=2, device="redshank-book-2"), media, tmp_path)
    assert file.path.name == told["file_name"]


@pytest.mark.thorough
def test_disc_image_and_folder_become_several_kinds_of_file_and_a_bad_disc_says_so(
    drawer: StickDrawer, media: Path, tmp_path: Path
) -> None:
    kinds = (
        Job(source="LANTERN_STREET_S1.iso", title=2, device="most-compatible", pins=("picture.fields=join",)),
        Job(source="LOCK_KEEPERS", title=3, device="faithful-copy", said=("--from", "0:02", "--until", "0:06")),
        Job(source="Tide Watch", device="wren-6", said=("--balance", "rich"), pins=("picture.crop=8,8,0,0",)),
    )
    files = [carried_out(job, media, tmp_path)[0] for job in kinds]
    assert [file.path.suffix for file in files] == [".mp4", ".mkv", ".mp4"]
    assert files[1].duration_s == pytest.approx(4, abs=0.6)
    argv: list[str | Path] = [
        "convert",
        media / "SALT_ROAD",
        "--title",
        "1",
        "--device",
        "most-compatible",
        "--to",
        tmp_path / "bad",
    ]
    call(*argv, "--no-analyse", "--json")
    asked = ["scan", str(media / "GLASS_HARBOUR")]
    refused = CliRunner().invoke(build(asked), asked)
    assert "scrambled" in refused.output


def test_of_a_blu_ray_s_playlists_the_film_goes_to_one_device(drawer: StickDrawer, media: Path, tmp_path: Path) -> None:
    disc = document("scan", media / "HERON_REACH")
    (film,) = (title["number"] for title in disc["titles"] if title["role"] == "feature")
    pins = ("picture.encoder=software", "picture.size=240", "picture.preset=superfast")
    job = Job(source="HERON_REACH", title=film, device="heron-8", pins=pins)
    (file,) = carried_out(job, media, tmp_path)
    assert file.duration_s == pytest.approx(32, abs=0.3) and file.picture["codec_name"] == "h264"
