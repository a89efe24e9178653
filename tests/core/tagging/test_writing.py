"""Tags in real files: read back equal by another reader, with nothing of the streams touched."""

from __future__ import annotations

import io
import json
import os
import shutil
import signal
import subprocess
import time
from dataclasses import dataclass, fields, replace
from pathlib import Path
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from PIL import Image
from tests.thorough import thorough

from rheon.core.errors import TagsRefused
from rheon.core.formats import CONTAINERS
from rheon.core.media import ContentKind, Tags
from rheon.core.tagging import TAGGED, retag, write_tags

FILM = Tags(
    title="Marram Nights",
    year=1994,
    edition="director's cut",
    genre="Drama",
    director="Ada Fenwick",
    cast="Jo Tern, Mira Sedge",
    description="Three nights on the marsh, and what the tide brings.",
    comment="From the film circle's shelf.",
)
EPISODE = Tags(kind=ContentKind.EPISODE, title="Slack Water", show="Tide Watch", season=2, episode=11, year=2011)
ODD = (
    FILM,
    EPISODE,
    Tags(title="河口の夜", director="水野 葦", comment="日本語"),
    Tags(title="ליל החוף", comment="מימין לשמאל", genre="דרמה"),
    Tags(title="a=b;c#d\\e\"f'g", comment="<b>&amp;</b> %s {0} \\N"),
    Tags(title="🌊 e\u0301lan 👩‍👩‍👧", cast="Zoë Ébène, Ýr Þór"),
    Tags(title="x" * 250, description="Long words and short ones. " * 140, comment="é" * 2000),
    Tags(title="x"),
    replace(EPISODE, title="", season=None),
    replace(EPISODE, season=0, episode=0, part=3),
)
MADE = {
    "mp4": ["-c:v", "libx264", "-c:a", "aac", "-movflags", "+faststart", "-metadata", f"comment={' ' * 8192}"],
    "matroska": ["-c:v", "libx264", "-c:a", "aac", "-metadata", "title=before", "-metadata", "comment=old"],
    "webm": ["-c:v", "libvpx", "-b:v", "100k", "-c:a", "libopus", "-metadata", "title=before"],
    "mp3": ["-vn", "-c:a", "libmp3lame", "-id3v2_version", "3", "-metadata", "title=before"],
    "flac": ["-vn", "-c:a", "flac", "-metadata", "CHAPTER000=00:00:00.000"],
    "ogg": ["-vn", "-c:a", "libopus", "-metadata", "title=before"],
}
ENDINGS = {"matroska": "mkv", "ogg": "opus"}
SOURCE = ["-f", "lavfi", "-i", "testsrc=s=64x48:d=2", "-f", "lavfi", "-i", "sine=d=2"]


@dataclass(frozen=True)
class Read:
    tags: dict[str, str]
    chapters: list[str]


@pytest.fixture(scope="module")
def files(tmp_path_factory: pytest.TempPathFactory) -> dict[str, Path]:
    """A small file of each container, with two chapters."""
    folder = tmp_path_factory.mktemp("made")
    chapters = folder / "chapters.txt"
    parts = ("START=0\nEND=1000\ntitle=One", "START=1000\nEND=2000\ntitle=Two")
    chapters.write_text(";FFMETADATA1\n" + "".join(f"[CHAPTER]\nTIMEBASE=1/1000\n{part}\n" for part in parts))
    made = {}
    for container, said in MADE.items():
        made[container] = folder / f"file.{ENDINGS.get(container, container)}"
        extra = [
            "-i",
            str(chapters),
            "-map",
            "0:v?" if container in ("mp4", "matroska", "webm") else "1:a",
            "-map",
            "1:a",
        ]
        argv = ["ffmpeg", "-v", "error", "-y", *SOURCE, *extra, "-map_chapters", "2", *said, str(made[container])]
        if container in ("mp3", "flac", "ogg"):
            argv = ["ffmpeg", "-v", "error", "-y", *SOURCE, *extra[:2], "-map", "1:a", "-map_chapters", "2", *said]
            argv += [str(made[container])]
        subprocess.run(argv, check=True)
    return made


def read(path: Path) -> Read:
    argv = ["ffprobe", "-v", "error", "-show_format", "-show_streams", "-show_chapters", "-of", "json", str(path)]
    said: dict[str, Any] = json.loads(subprocess.run(argv, check=True, capture_output=True).stdout)
    tags = {**said["streams"][0].get("tags", {}), **said["format"].get("tags", {})}
    return Read(
        {key.lower(): text for key, text in tags.items()}, [c.get("tags", {}).get("title") for c in said["chapters"]]
    )


def streams(path: Path) -> str:
    """A digest of every packet of every stream, with its times."""
    argv = ["ffmpeg", "-v", "error", "-i", str(path), "-map", "0", "-c", "copy", "-f", "framemd5", "-"]
    return subprocess.run(argv, check=True, capture_output=True, text=True).stdout


def found(container: str, told: dict[str, str]) -> dict[str, object]:
    """What the engine has read, under the names of ``Tags``; in Matroska each level has its own."""
    keys = {
        "mp4": {
            "title": "title", "show": "show", "season": "season_number", "episode": "episode_sort", "year": "date",
            "genre": "genre", "director": "director", "cast": "performers", "description": "synopsis",
            "comment": "comment",
        },
        "matroska": {
            "title": "title", "show": "collection/title", "season": "season/part_number", "genre": "genre",
            "year": "date_released", "director": "director", "description": "description", "comment": "comment",
            "cast": "actor",
        },
        "mp3": {
            "title": "title", "genre": "genre", "year": "date", "director": "director", "show": "album",
            "comment": "comment",
        },
        "comments": {
            "title": "title", "show": "show", "season": "season", "year": "date", "genre": "genre",
            "director": "director", "cast": "actor", "said": "comment",
        },
    }  # fmt: skip
    way = {"webm": "matroska", "flac": "comments", "ogg": "comments"}.get(container, container)
    # a level's name stands before the name of its values
    plain = {key.removeprefix("movie/").removeprefix("episode/"): text for key, text in told.items()}
    return {name: plain.get(key, "") for name, key in keys[way].items()}


def wanted(tags: Tags, names: object) -> dict[str, object]:
    said = {one.name: getattr(tags, one.name) for one in fields(tags)} | {"title": tags.shown_title}
    # of Vorbis comments the engine shows the last of the two; MP3 has a place for one
    said["said"] = tags.comment or tags.description
    if "cast" not in names:  # type: ignore[operator]
        said["comment"] = tags.comment or tags.description
    return {name: "" if said[name] is None else str(said[name]) for name in names}  # type: ignore[attr-defined]


@pytest.mark.parametrize("container", MADE)
@pytest.mark.parametrize("tags", ODD, ids=range(len(ODD)))
def test_every_tag_is_read_back_equal_and_no_stream_is_touched(
    container: str, tags: Tags, files: dict[str, Path], tmp_path: Path
) -> None:
    copy = Path(shutil.copy(files[container], tmp_path))
    before, size = streams(copy), copy.stat().st_size
    write_tags(copy, container, FILM)
    write_tags(copy, container, tags)
    said = read(copy)
    got = found(container, said.tags)
    assert got == wanted(tags, got)
    assert tags.description.encode()[:500] in copy.read_bytes() or container == "mp3"
    assert streams(copy) == before
    assert said.chapters == read(files[container]).chapters and said.chapters[:1] in (["One"], [None])
    assert "before" not in said.tags.values() and "old" not in said.tags.values()
    if container == "mp4" and len(tags.description) < 1000:
        assert copy.stat().st_size == size, "room was kept for tags: nothing need be moved"


def test_lengths_of_streams_stay_beside_other_tags(files: dict[str, Path], tmp_path: Path) -> None:
    copy = Path(shutil.copy(files["matroska"], tmp_path))
    write_tags(copy, "matroska", EPISODE)
    assert read(copy).tags["duration"].startswith("00:00:02.")
    assert {"collection/title", "season/part_number", "episode/part_number"} <= set(read(copy).tags)


@settings(max_examples=20, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(st.lists(st.text(st.characters(exclude_categories=["Cs", "Cc"]), max_size=300), min_size=1, max_size=6))
def test_a_file_may_be_tagged_again_and_again(files: dict[str, Path], tmp_path: Path, titles: list[str]) -> None:
    copy = Path(shutil.copy(files["matroska"], tmp_path))
    for title in titles:
        write_tags(copy, "matroska", Tags(title=title))
    assert streams(copy) == streams(files["matroska"])
    assert found("matroska", read(copy).tags)["title"] == Tags(title=titles[-1]).shown_title


def picture(colour: str) -> bytes:
    written = io.BytesIO()
    Image.effect_noise((600, 900), 60).convert("RGB").quantize(64).convert("RGB").point(
        lambda value: value if colour == "dark" else 255 - value
    ).save(written, "JPEG", quality=90)
    return written.getvalue()


def pictures(path: Path) -> list[bytes]:
    """What is attached to a file, as the engine takes it out."""
    argv = ["ffprobe", "-v", "error", "-show_streams", "-of", "json", str(path)]
    said = json.loads(subprocess.run(argv, check=True, capture_output=True).stdout)["streams"]
    places = [one["index"] for one in said if one["disposition"]["attached_pic"]]
    argv = ["ffmpeg", "-v", "error", "-i", str(path), "-f", "image2pipe", "-c", "copy"]
    return [subprocess.run([*argv, "-map", f"0:{at}", "-"], check=True, capture_output=True).stdout for at in places]


def own_streams(path: Path) -> str:
    """Digests of the packets of all but pictures; in MP3 times are guessed from the size of what is before them."""
    argv = ["ffmpeg", "-v", "error", "-i", str(path), "-map", "0:V?", "-map", "0:a", "-c", "copy"]
    said = subprocess.run([*argv, "-f", "framemd5", "-"], check=True, capture_output=True, text=True).stdout
    rows = (line.split(",") for line in said.splitlines() if line[0] != "#")
    return "".join(f"{row[0]} {row[5]}\n" for row in rows)


@pytest.mark.parametrize("container", [name for name in MADE if CONTAINERS[name].cover])
def test_a_picture_is_read_back_byte_for_byte_stays_and_goes(
    container: str, files: dict[str, Path], tmp_path: Path
) -> None:
    copy = Path(shutil.copy(files[container], tmp_path))
    dark, light = picture("dark"), picture("light")
    write_tags(copy, container, FILM, dark)
    assert pictures(copy) == [dark]
    retag(copy, tmp_path / ".part", container, EPISODE)
    assert pictures(copy) == [dark], "other tags leave it"
    write_tags(copy, container, EPISODE, light)
    assert pictures(copy) == [light]
    got = found(container, read(copy).tags)
    assert got == wanted(EPISODE, got) and read(copy).chapters == read(files[container]).chapters
    assert own_streams(copy) == own_streams(files[container])
    write_tags(copy, container, EPISODE, b"")
    assert pictures(copy) == [] and own_streams(copy) == own_streams(files[container])


def test_letters_attached_to_a_film_stay_beside_its_picture(files: dict[str, Path], tmp_path: Path) -> None:
    letters, made = tmp_path / "letters.ttf", tmp_path / "film.mkv"
    letters.write_bytes(bytes(range(256)) * 40)
    said = ["-attach", str(letters), "-metadata:s:t", "mimetype=font/ttf"]
    subprocess.run(["ffmpeg", "-v", "error", "-i", str(files["matroska"]), "-c", "copy", *said, str(made)], check=True)
    for one in (picture("dark"), picture("light")):
        write_tags(made, "matroska", FILM, one)
        assert pictures(made) == [one]
        out = tmp_path / "out"
        subprocess.run(["ffmpeg", "-y", "-dump_attachment:t:0", str(out), "-i", str(made)], check=False)
        assert out.read_bytes() == letters.read_bytes()


def tag_for_ever(path: Path, container: str) -> None:
    while True:
        for title in ("old", "new"):
            retag(path, path.with_name(".part"), container, Tags(title=title))


KILLS = 24


@pytest.mark.parametrize("container", ["mp4", thorough("matroska")])
def test_a_kill_in_the_middle_leaves_the_old_file_or_the_new(
    container: str, files: dict[str, Path], tmp_path: Path
) -> None:
    copy = Path(shutil.copy(files[container], tmp_path))
    before = streams(copy)
    titles: set[object] = set()
    begun = time.perf_counter()
    retag(copy, copy.with_name(".part"), container, Tags(title="old"))
    once_s = time.perf_counter() - begun
    for kill in range(KILLS + 1):
        if not (child := os.fork()):
            tag_for_ever(copy, container)
        time.sleep(2.5 * once_s * kill / KILLS)
        # the last one lives until it was seen to have written both, however slow or quick the machine is
        while kill == KILLS and titles != {"old", "new"}:
            titles.add(found(container, read(copy).tags)["title"])
        os.kill(child, signal.SIGKILL)
        os.waitpid(child, 0)
        titles.add(found(container, read(copy).tags)["title"])
        assert streams(copy) == before
    assert titles == {"old", "new"}


@pytest.mark.parametrize(("ending", "container"), [("m4a", "mp4"), ("mp3", "mp3"), ("flac", "flac")])
def test_the_day_and_the_number_among_others_of_a_piece_of_music_stay(
    tmp_path: Path, ending: str, container: str
) -> None:
    path = tmp_path / f"song.{ending}"
    said = ["-metadata", "date=1987-05-02", "-metadata", "track=3/12"]
    subprocess.run(["ffmpeg", "-v", "error", "-f", "lavfi", "-i", "sine=d=1", *said, str(path)], check=True)
    write_tags(path, container, Tags(kind=ContentKind.SOUND, title="Neaps", year=1987))
    kept = read(path).tags
    assert (kept["title"], kept["date"], kept["track"]) == ("Neaps", "1987-05-02", "3/12")
    write_tags(path, container, Tags(kind=ContentKind.SOUND, title="Neaps", year=1988))
    assert read(path).tags["date"] == "1988"


def test_what_is_no_file_of_its_kind_is_refused_and_stays(tmp_path: Path) -> None:
    for container, text in (("matroska", b"\x1a\x45\xdf\xa3\x80nothing"), ("mp4", b"nothing"), ("avi", b"RIFF")):
        path = tmp_path / container
        path.write_bytes(text)
        with pytest.raises(TagsRefused):
            retag(path, path.with_name("part"), container, FILM)
        assert path.read_bytes() == text and not path.with_name("part").exists()
    assert set(MADE) == set(TAGGED)
