"""Pictures by which files are known: proposed, brought, chosen for one or for all, and in what is made."""

from __future__ import annotations

import base64
import io
import json
import os
import subprocess
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from django.test import Client
from PIL import Image

from rheon.server.shelf.actions.artwork import KEPT_FOR_S, find_stills, forget_pictures, picture_path
from rheon.server.shelf.actions.reading import read_now
from rheon.server.shelf.actions.sources import read_again
from rheon.server.shelf.models import Source, Title
from rheon.server.worklist.actions.run import run_next

Api = Callable[..., Any]
Shelf = Callable[[str], Source]

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture(autouse=True)
def pictures(settings: Any, tmp_path: Path) -> None:
    settings.RHEON_PICTURES = tmp_path / "pictures"


def brought(colour: str = "teal") -> str:
    written = io.BytesIO()
    Image.new("RGB", (900, 700), colour).save(written, "PNG")
    return base64.b64encode(written.getvalue()).decode()


def attached(path: Path) -> list[Image.Image]:
    argv = ["ffprobe", "-v", "error", "-show_streams", "-of", "json", str(path)]
    streams = json.loads(subprocess.run(argv, check=True, capture_output=True).stdout)["streams"]
    places = [one["index"] for one in streams if one["disposition"]["attached_pic"]]
    argv = ["ffmpeg", "-v", "error", "-i", str(path), "-f", "image2pipe", "-c", "copy"]
    made = [subprocess.run([*argv, "-map", f"0:{at}", "-"], check=True, capture_output=True).stdout for at in places]
    return [Image.open(io.BytesIO(one)) for one in made]


def test_the_best_frames_are_proposed_and_looked_at_as_they_would_be(shelf: Shelf, api: Api, client: Client) -> None:
    shelf("MARRAM_NIGHTS")
    extra = Title.objects.get(number=5)
    address = f"shelf/titles/{extra.pk}/artwork"
    first = api("get", address)[1]
    assert (first["looking"], first["cover"], first["own"], first["frames"]) == (True, None, False, [])
    find_stills(extra.pk)
    found = api("get", address)[1]
    assert not found["looking"] and 1 <= len(found["frames"]) <= 6
    seen = client.get(f"/api/shelf/titles/{extra.pk}/cover.jpg?at_s={found['frames'][0]}&shape=2:3&across=0.2")
    assert Image.open(io.BytesIO(seen.content)).size == (600, 900)
    for asked in ("at_s=x", "shape=3:4", "picture=../../etc/hostname", f"picture={'0' * 40}", "own=1", "at_s=99999"):
        assert client.get(f"/api/shelf/titles/{extra.pk}/cover.jpg?{asked}").status_code in (400, 404), asked


def test_a_chosen_frame_stays_through_a_scan_and_goes_into_the_file(
    shelf: Shelf, api: Api, household: list[int], settings: Any
) -> None:
    source = shelf("MARRAM_NIGHTS")
    extra = Title.objects.get(number=4)
    address = f"shelf/titles/{extra.pk}/artwork"
    chosen = api("put", address, {"cover": {"at_s": 3.0, "shape": "1:1"}})[1]["cover"]
    assert (chosen["at_s"], chosen["shape"], chosen["picture"]) == (3.0, "1:1", None)
    assert api("put", address, {"cover": {"at_s": 3000.0}})[0] == 422
    read_again(source)
    read_now(source.pk)
    assert api("get", address)[1]["cover"] == chosen
    target = household[0]
    told = api("get", f"bench/plans/{extra.pk}/{target}")[1]
    picture = next(one for one in told["decisions"] if one["key"] == "file.artwork")
    assert (picture["value"], picture["reason"]) == ("inside", "the frame at 0:03")
    pins = {"pins": {"file.artwork": "both"}}
    assert api("patch", f"bench/plans/{extra.pk}/{target}", pins)[0] == 200
    assert api("post", "worklist/jobs", {"cells": [{"title_id": extra.pk, "target_id": target}]})[0] == 201
    run_next()
    made = sorted(path for path in settings.RHEON_OUTPUT_FOLDER.iterdir())
    assert [path.suffix for path in made] == [".jpg", ".mp4"]
    assert Image.open(made[0]).size == (600, 600)
    (inside,) = attached(made[1])
    assert (inside.format, inside.size) == ("JPEG", (600, 600))
    assert api("put", address, {"cover": None})[1]["cover"] is None


def test_a_file_that_plays_is_copied_for_what_was_set_and_left_alone_else(
    shelf: Shelf, api: Api, household: list[int], settings: Any
) -> None:
    shelf("camera/Kite day.mp4")
    title, target = Title.objects.get(), household[0]

    def cell() -> dict[str, Any]:
        found: list[dict[str, Any]] = api("get", f"bench/cells?titles={title.pk}")[1]
        return next(one for one in found if one["target_id"] == target)

    assert cell()["verdict"] == "plays"
    change = {"title_id": title.pk, "tag": "title", "value": "Kites at low water"}
    assert api("patch", "shelf/tags", {"changes": [change]})[0] == 200
    api("put", f"shelf/titles/{title.pk}/artwork", {"cover": {"at_s": 3.0}})
    api("put", f"shelf/titles/{title.pk}/chapters", {"chapters": [{"start_s": 0, "name": "Up"}, {"start_s": 9}]})
    assert (cell()["verdict"], cell()["reason"][:22]) == ("rewrap", "it plays as it is; a c")
    api("post", "worklist/jobs", {"cells": [{"title_id": title.pk, "target_id": target}]})
    run_next()
    (made,) = settings.RHEON_OUTPUT_FOLDER.iterdir()
    argv = ["ffprobe", "-v", "error", "-show_format", "-show_chapters", "-of", "json", str(made)]
    said = json.loads(subprocess.run(argv, check=True, capture_output=True).stdout)
    assert said["format"]["tags"]["title"] == "Kites at low water" and len(attached(made)) == 1
    assert [one["tags"]["title"] for one in said["chapters"]] == ["Up", "Chapter 2"]
    api("patch", "shelf/tags", {"changes": [{**change, "value": None}]})
    api("put", f"shelf/titles/{title.pk}/artwork", {"cover": None})
    api("put", f"shelf/titles/{title.pk}/chapters", {"chapters": None})
    assert cell()["verdict"] == "plays"


def test_a_file_is_made_without_a_picture_that_can_t_be_had_and_says_so(
    shelf: Shelf, api: Api, household: list[int], settings: Any
) -> None:
    shelf("MARRAM_NIGHTS")
    extra = Title.objects.get(number=4)
    name = api("post", "shelf/pictures", {"data": brought()})[1]["picture"]
    api("put", f"shelf/titles/{extra.pk}/artwork", {"cover": {"picture": name}})
    api("post", "worklist/jobs", {"cells": [{"title_id": extra.pk, "target_id": household[0]}]})
    (settings.RHEON_PICTURES / f"{name}.jpg").unlink()
    run_next()
    (made,) = settings.RHEON_OUTPUT_FOLDER.iterdir()
    (job,) = api("get", "worklist")[1]["jobs"]
    assert attached(made) == [] and "made without its artwork: The picture is not there any more." in json.dumps(job)


def test_a_picture_of_one_s_own_is_kept_and_given_to_the_whole_series(shelf: Shelf, api: Api, client: Client) -> None:
    shelf("LANTERN_STREET_S1.iso")
    one, *others = Title.objects.filter(role="episode")
    address = f"shelf/titles/{one.pk}/artwork"
    assert sorted(api("get", address)[1]["alike"]) == sorted(title.pk for title in others)
    name = api("post", "shelf/pictures", {"data": brought()})[1]["picture"]
    assert api("post", "shelf/pictures", {"data": brought()})[1]["picture"] == name
    for data in ("", "####", base64.b64encode(b"no picture").decode()):
        assert api("post", "shelf/pictures", {"data": data})[0] == 422
    wanted = {"picture": name, "shape": "2:3", "across": 1.0}
    alike = [title.pk for title in others]
    assert api("put", address, {"cover": {"at_s": 1.0}, "alike": alike})[0] == 422
    assert api("put", address, {"cover": wanted, "alike": alike})[0] == 200
    for title in others:
        said = api("get", f"shelf/titles/{title.pk}/artwork")[1]["cover"]
        assert (said["picture"], said["shape"], said["across"], said["at_s"]) == (name, "2:3", 1.0, None)
    seen = Image.open(io.BytesIO(client.get(f"/api/shelf/titles/{one.pk}/cover.jpg?picture={name}&shape=2:3").content))
    assert seen.size == (600, 900) and seen.getpixel((300, 450)) == pytest.approx((0, 128, 128), abs=3)


def test_a_picture_that_nothing_uses_is_forgotten_in_time(shelf: Shelf, api: Api, settings: Any) -> None:
    shelf("MARRAM_NIGHTS")
    used, unused, new = (
        api("post", "shelf/pictures", {"data": brought(c)})[1]["picture"] for c in ("red", "blue", "tan")
    )
    cover = {"picture": used, "shape": "1:1"}
    title = Title.objects.get(number=4)
    api("put", f"shelf/titles/{title.pk}/artwork", {"cover": cover})
    long_ago = time.time() - KEPT_FOR_S - 60
    for name in (used, unused):
        os.utime(picture_path(name), (long_ago, long_ago))
    assert forget_pictures() == 1
    assert [picture_path(name).exists() for name in (used, unused, new)] == [True, False, True]
