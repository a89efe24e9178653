"""The command line keeps its contract: documents, exit status, progress."""

from __future__ import annotations

import json
import subprocess
from pathlib import Path
from typing import Any

import pytest
from PIL import Image
from typer.testing import CliRunner

from rheon.cli.main import build
from rheon.core.devices import catalogue, goals
from rheon.demo.models import model_file, models

runner = CliRunner()


def call(*arguments: str | Path) -> tuple[int, str]:
    said = [str(model_file(str(one)) if str(one) in models() else one) for one in arguments]
    done = runner.invoke(build(said), said)
    assert done.exception is None or isinstance(done.exception, SystemExit), done.exception
    return done.exit_code, done.stdout


def document(*arguments: str | Path) -> Any:
    status, out = call(*arguments, "--json")
    assert status == 0, out
    return json.loads(out)


def test_scan_prints_the_promised_document_and_nothing_else(media: Path) -> None:
    said = document("scan", media / "MARRAM_NIGHTS")
    assert said["source"] == {
        "kind": "dvd",
        "form": "folder",
        "label": "MARRAM_NIGHTS",
        "size_bytes": said["source"]["size_bytes"],
    }
    film = said["titles"][0]
    assert film["video"] == {
        "codec": "mpeg2video",
        "width": 720,
        "height": 480,
        "frame_rate": "30000/1001",
        "display_aspect": "16:9",
        "scan": "progressive",
        "borders": None,
    }
    assert film["audio"][0] == {"index": 0, "language": "en", "codec": "ac3", "channels": 6, "purpose": "unknown"}
    assert film["subtitles"][1] == {"index": 1, "language": "es", "format": "dvd_subtitle", "forced": "unknown"}
    assert film["chapters"][0] == {"number": 1, "start_s": 0.0, "name": None}
    assert (film["role"], film["shares"], said["problems"]) == ("feature", [], [])
    promised = "number duration_s size_bytes angles video chapters audio subtitles role reasons shares"
    assert set(film) == set(promised.split())


def test_devices_and_plan_print_documents(media: Path) -> None:
    assert len(document("devices")["devices"]) == len(catalogue()) + len(goals())
    tablet = document("devices", "a", "tablet,", "about", "2015,", "small", "screen")["devices"]
    assert [found["id"] for found in tablet] == ["tablet-small-2013", "tablet-children"]
    assert tablet[0]["video"][1]["ground"]["sure"] == "doubtful"
    assert document("devices", "xyzzy")["devices"] == []
    said = document(
        "plan",
        media / "MARRAM_NIGHTS",
        "--title",
        "1",
        "--device",
        "wren-6",
        "--device",
        "heron-8",
        "--set",
        "sound.track=1",
    )
    assert (said["treatment"], said["devices"], said["file_name"]) == (
        "convert",
        ["wren-6", "heron-8"],
        "Marram Nights.mp4",
    )
    track = next(decision for decision in said["decisions"] if decision["key"] == "sound.track")
    assert track == {
        "key": "sound.track",
        "value": "1",
        "text": "Spanish, stereo",
        "reason": "set by hand",
        "pinned": True,
    }


def test_convert_tells_progress_line_by_line_and_check_agrees(media: Path, tmp_path: Path) -> None:
    status, out = call(
        "convert",
        media / "MARRAM_NIGHTS",
        "--title",
        "4",
        "--device",
        "sanderling-2",
        "--balance",
        "lean",
        "--to",
        tmp_path,
        "--json",
    )
    lines = [json.loads(line) for line in out.splitlines()]
    assert status == 0
    assert {line["state"] for line in lines[:-1]} == {"running"}
    assert lines[-1]["state"] == "done"
    made = Path(lines[-1]["path"])
    assert (made.parent, made.stat().st_size) == (tmp_path, lines[-1]["size_bytes"])
    assert document("check", made, "--device", "sanderling-2")["verdict"] == "plays"
    status, out = call("check", made, "--device", "plover-dash", "--json")
    assert (status, json.loads(out)["fails"][0]["rule"]) == (4, "extension")


@pytest.mark.parametrize(
    ("arguments", "status", "code"),
    [
        (["scan", "{empty}"], 3, "empty_disc"),
        (["scan", "{empty}/nothing"], 3, "source_missing"),
        (["plan", "{disc}", "--title", "99", "--device", "wren-6"], 2, "no_such_title"),
        (["plan", "{disc}", "--title", "1", "--device", "nobody"], 2, "no_such_device"),
        (["plan", "{disc}", "--title", "1", "--device", "wren-6", "--set", "nonsense"], 2, "bad_pin"),
        (["plan", "{disc}", "--title", "1", "--device", "plover-dash", "--device", "heron-8"], 4, "plan_refused"),
        (
            ["convert", "{disc}", "--title", "4", "--device", "sound-only", "--to", "{empty}/no/where"],
            4,
            "target_failed",
        ),
        (["check", "{empty}/nothing.mp4", "--device", "wren-6"], 3, "source_missing"),
    ],
)
def test_refusals_have_their_status_and_a_problem_with_a_sentence(
    media: Path, tmp_path: Path, arguments: list[str], status: int, code: str
) -> None:
    filled = [argument.format(empty=tmp_path, disc=media / "MARRAM_NIGHTS") for argument in arguments]
    answered, out = call(*filled, "--json")
    problem = json.loads(out.splitlines()[-1])["error"] if arguments[0] == "convert" else json.loads(out)["problems"][0]
    assert (answered, problem["code"]) == (status, code)
    assert len(problem["message"]) > 20


def test_chapters_of_a_list_and_a_picture_go_into_the_file(media: Path, tmp_path: Path) -> None:
    listed, drawn = tmp_path / "names.txt", tmp_path / "own.png"
    listed.write_text("0:00 Up\n0:09 Down\n9:00 Never\n")
    Image.new("RGB", (400, 300), "teal").save(drawn)
    quick = ("--until", "0:12", "--set", "picture.preset=superfast", "--set", "picture.size=360")
    kites = ("--title", "1", "--device", "curlew-9", "--chapter-list", listed, *quick)
    for picture in (str(drawn), "0:03"):
        status, out = call(
            "convert", media / "camera/Kite day.mp4", *kites, "--artwork", picture, "--to", tmp_path / "out"
        )
        assert status == 0, out
    for path in (tmp_path / "out").iterdir():
        argv = ["ffprobe", "-v", "error", "-show_chapters", "-show_streams", "-of", "json", str(path)]
        said = json.loads(subprocess.run(argv, check=True, capture_output=True).stdout)
        assert [one["tags"]["title"] for one in said["chapters"]] == ["Up", "Down"]
        (inside,) = [one for one in said["streams"] if one["disposition"]["attached_pic"]]
        assert (inside["width"], inside["height"]) == (1088, 612)
    for wrong in (("--artwork", "9:00:00"), ("--artwork", "nowhere.png"), ("--chapter-list", drawn)):
        assert call("plan", media / "camera/Kite day.mp4", "--title", "1", "--device", "curlew-9", *wrong)[0] != 0


def test_wrong_usage_is_status_two(media: Path) -> None:
    assert call("scan")[0] == 2
    assert call("plan", media / "MARRAM_NIGHTS", "--title", "one", "--device", "wren-6")[0] == 2


def test_people_get_tables_and_sentences_instead(media: Path, tmp_path: Path) -> None:
    for arguments in (
        ("scan", media / "LANTERN_STREET_S1.iso"),
        ("devices",),
        ("plan", media / "MARRAM_NIGHTS", "--title", "1", "--device", "wren-6"),
        ("convert", media / "MARRAM_NIGHTS", "--title", "4", "--device", "sound-only", "--to", tmp_path),
        ("check", media / "camera" / "Kite day.mp4", "--device", "wren-6"),
    ):
        status, out = call(*arguments)
        assert status == 0
        assert "{" not in out


def test_a_scan_that_looks_closer_finds_what_tables_do_not_say(media: Path) -> None:
    plain, closer = (document("scan", media / "THE_LAST_FERRY", *more) for more in ((), ("--analyse",)))
    scans = [[title["video"]["scan"] for title in said["titles"]] for said in (plain, closer)]
    assert scans == [["interlaced", "interlaced"], ["telecined", "telecined"]]


def test_every_kind_of_source_is_scanned_by_the_same_command(media: Path) -> None:
    seen = {}
    for name in ("HERON_REACH", "LANTERN_STREET_S1.iso", "Tide Watch", "camera/Kite day.mp4"):
        source = document("scan", media / name)["source"]
        seen[name] = (source["kind"], source["form"])
    assert seen == {
        "HERON_REACH": ("bluray", "folder"),
        "LANTERN_STREET_S1.iso": ("dvd", "image"),
        "Tide Watch": ("files", "folder"),
        "camera/Kite day.mp4": ("files", "file"),
    }


def test_verdicts_and_what_a_pin_breaks_are_told(media: Path) -> None:
    disc = str(media / "MARRAM_NIGHTS")
    told = document("verdicts", disc, "--title", "1", "--device", "heron-8", "--device", "cormorant-box")
    assert [(entry["device"], entry["verdict"]) for entry in told] == [
        ("heron-8", "convert"),
        ("cormorant-box", "rewrap"),
    ]
    assert {rule["rule"] for rule in told[0]["rules"] if not rule["ok"]} == {"container", "video_codec", "audio_codec"}
    planned = document("plan", disc, "--title", "1", "--device", "heron-8", "--set", "picture.codec=hevc")
    assert [entry["rule"] for entry in planned["breaks"]] == ["video_codec"]
    assert document("plan", disc, "--title", "1", "--device", "faithful-copy")["treatment"] == "rewrap"


def test_the_version_is_said_without_a_verb() -> None:
    status, out = call("--version")
    assert (status, out.split()[0]) == (0, "rheon")
    assert out.split()[1][0].isdecimal()


def test_an_older_key_is_taken_and_its_name_of_today_told(media: Path) -> None:
    said = [
        str(media / "MARRAM_NIGHTS"),
        "--title",
        "1",
        "--device",
        "h264-baseline-30",
        "--set",
        "picture.cadence=25",
        "--json",
    ]
    done = runner.invoke(build(["plan", *said]), ["plan", *said])
    assert "picture.cadence is called picture.frame_rate now." in done.stderr
    decision = next(one for one in json.loads(done.stdout)["decisions"] if one["key"] == "picture.frame_rate")
    assert (decision["value"], decision["pinned"]) == ("25", True)


@pytest.mark.parametrize(("ending", "streams"), [("mkv", 2), ("mp4", 2), ("flac", 1), ("opus", 1)])
def test_a_finished_file_says_what_is_written_in_it_and_gets_other_tags(
    tmp_path: Path, ending: str, streams: int
) -> None:
    path = tmp_path / f"a_file.{ending}"
    inputs = ["-f", "lavfi", "-i", "testsrc=s=320x240:d=2"] if streams == 2 else []
    inputs += ["-f", "lavfi", "-i", "sine=d=2"]
    said = ["-metadata", "title=a_file", "-metadata", "comment=see www.example.org", "-metadata", "genre=Folk"]
    subprocess.run(["ffmpeg", "-v", "error", *inputs, *said, str(path)], check=True)

    def packets() -> bytes:
        argv = [
            "ffmpeg",
            "-v",
            "error",
            "-i",
            str(path),
            "-map",
            "0:V?",
            "-map",
            "0:a",
            "-c",
            "copy",
            "-f",
            "framemd5",
            "-",
        ]
        return subprocess.run(argv, check=True, capture_output=True).stdout

    before = packets()
    assert document("tag", path)["tags"]["genre"] == "Folk"
    made = document(
        "tag", path, "--set", "file.title=The marsh", "--set", "file.description=Long.", "--set", "file.year=1994"
    )
    assert made["tags"] == document("tag", path)["tags"] and packets() == before
    expected = {"title": "The marsh", "genre": "Folk", "year": 1994, "description": "Long."}
    # the engine writes a comment into the place of a description where Vorbis comments are
    expected |= {"comment": "see www.example.org"} if streams == 2 else {}
    assert {key: value for key, value in made["tags"].items() if key != "kind"} == expected
    Image.new("RGB", (700, 700), "teal").save(tmp_path / "own.png")
    call("tag", path, "--artwork", tmp_path / "own.png", "--set", "file.genre=")
    argv = ["ffprobe", "-v", "error", "-show_entries", "stream=codec_type", "-of", "csv=p=0", str(path)]
    assert len(subprocess.run(argv, check=True, capture_output=True).stdout.split()) == streams + 1
    assert document("tag", path, "--artwork", "none")["tags"] == {
        key: value for key, value in made["tags"].items() if key != "genre"
    }
    assert len(subprocess.run(argv, check=True, capture_output=True).stdout.split()) == streams and packets() == before
    for wrong in (["--set", "file.year=soon"], ["--set", "year"], ["--set", "file.colour=red"]):
        assert call("tag", path, *wrong)[0] == 2
    assert call("tag", path, "--artwork", tmp_path / "no.png")[0] != 0 and packets() == before
    assert [one.name for one in tmp_path.iterdir() if one.name.startswith(".")] == []
