"""A minute to try goes before all that waits, lies apart, and is thrown away with its file."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest

from rheon.core.encoding import Hooks
from rheon.core.errors import Stopped
from rheon.server.outbox.actions import outputs
from rheon.server.outbox.models import Output
from rheon.server.shelf.models import Finding, Source
from rheon.server.worklist.actions.run import run_next
from rheon.server.worklist.minute import settle_minute
from rheon.server.worklist.models import Job, JobKind

Api = Callable[..., Any]
Shelf = Callable[[str], Source]


@pytest.fixture
def cells(shelf: Shelf, household: list[int]) -> list[dict[str, int]]:
    """A film of three minutes for the pocket player, and for the sound-only device."""
    film = shelf("MARRAM_NIGHTS").titles.get(number=1)
    # what looking at a title finds has its own tests
    film.survey_failed = True
    film.samples = {"coarse_quality": 27, "coarse_bits": 0.05, "fine_quality": 17, "fine_bits": 0.2}
    film.save()
    return [{"title_id": film.pk, "target_id": target} for target in household[2:]]


def sample(api: Api, cell: dict[str, int]) -> Job:
    status, said = api("post", "worklist/samples", cell)
    assert status == 201, said
    return Job.objects.get(pk=said["job_ids"][0])


@pytest.mark.django_db(transaction=True)
def test_it_is_made_before_what_waits_and_lies_apart_from_the_files(
    cells: list[dict[str, int]], api: Api, settings: Any
) -> None:
    api("post", "worklist/jobs", {"cells": cells[1:]})
    tried = sample(api, cells[1])
    listed = api("get", "worklist")[1]["jobs"]
    assert (listed[0]["id"], listed[0]["kind"]) == (tried.pk, "sample")
    assert listed[0]["duration_s"] == pytest.approx(60, abs=0.1)
    assert listed[0]["expected_bytes"] < listed[1]["expected_bytes"] / 2.5
    assert run_next()
    tried.refresh_from_db()
    assert tried.state == "done", tried.error_message
    output = Output.objects.get()
    made = Path(output.path)
    assert made.parent == settings.RHEON_OUTPUT_FOLDER / "To try" and made.stem == "Marram Nights (a minute to try)"
    assert output.is_sample and output.held
    outbox = api("get", "outbox")[1]
    assert (outbox["count"], outbox["size_bytes"], outbox["samples"]) == (0, 0, 1)
    assert api("get", f"outbox/{output.pk}")[1]["is_sample"] is True
    assert api("delete", f"outbox/{output.pk}")[0] == 204
    assert not made.exists() and not Output.objects.exists()


def test_it_holds_the_most_demanding_minute_which_is_found_once_and_looked_for_until_stopped(
    cells: list[dict[str, int]], api: Api
) -> None:
    api("patch", f"bench/plans/{cells[0]['title_id']}/{cells[0]['target_id']}", {"pins": {"picture.rate": "size:20"}})
    tried = sample(api, cells[0])
    with pytest.raises(Stopped):
        settle_minute(tried, Hooks(should_stop=lambda: True))
    assert not Finding.objects.filter(mark__startswith="minute-").exists()
    for _ in range(2):
        settle_minute(tried, Hooks())
        found = Finding.objects.get(mark__startswith="minute-").document["stretch"]
        settings = tried.core_plan().settings
        assert settings and settings.video and len(settings.kept) == 1
        assert settings.kept[0].length_s == pytest.approx(60, abs=0.1)
        assert settings.kept[0].from_s == pytest.approx(found["from_s"], abs=0.1)
        assert tried.duration_s == pytest.approx(60, abs=0.1)
        assert settings.video.bitrate_bps and settings.video.bitrate_bps < 2_000_000


def test_only_the_newest_samples_are_kept_and_a_file_that_is_no_sample_stays(
    db: None, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, django_capture_on_commit_callbacks: Any
) -> None:
    def made(name: str, *, is_sample: bool) -> Output:
        path = tmp_path / name
        path.write_text(name)
        (tmp_path / f"{path.stem}.en.srt").write_text("1")
        facts = {"device_names": [], "making_s": 1, "checking_s": 1, "expected": {}, "checks": []}
        size = path.stat().st_size
        return Output.objects.create(path=str(path), size_bytes=size, is_sample=is_sample, **facts)

    monkeypatch.setattr(outputs, "MOST_SAMPLES", 2)
    file, *samples = made("film.mp4", is_sample=False), *(made(f"{n}.mp4", is_sample=True) for n in range(3))
    samples[0].size_bytes += 1  # somebody has put another file in its place
    with django_capture_on_commit_callbacks(execute=True):
        outputs.forget_oldest()
        outputs.forget(samples[1])
        outputs.forget(file)
    assert sorted(path.name for path in tmp_path.glob("*.mp4")) == ["2.mp4", "film.mp4"]
    assert not (tmp_path / "1.en.srt").exists() and (tmp_path / "film.en.srt").exists()


def test_what_plays_as_it_is_has_no_minute_to_try(shelf: Shelf, household: list[int], api: Api) -> None:
    kite = shelf("camera/Kite day.mp4").titles.get().pk
    status, said = api("post", "worklist/samples", {"title_id": kite, "target_id": household[0]})
    assert (status, said["message"]) == (422, "Nothing has to be made for this: it plays as it is, or can't be made.")
    assert not Job.objects.filter(kind=JobKind.SAMPLE).exists()


def test_a_time_that_is_asked_for_becomes_the_most_thorough_preset_that_keeps_it(
    cells: list[dict[str, int]], api: Api
) -> None:
    address = f"bench/plans/{cells[0]['title_id']}/{cells[0]['target_id']}"
    before = api("get", address)[1]["estimate"]["time_s"]
    presets = []
    for most_s in (before * 4, before, before * 0.9):
        status, sheet = api("put", f"{address}/time", {"most_s": most_s})
        assert status == 200, sheet
        assert sheet["estimate"]["time_s"] <= most_s
        presets.append(next(one["value"] for one in sheet["decisions"] if one["key"] == "picture.preset"))
    assert len(set(presets)) == 3
    status, said = api("put", f"{address}/time", {"most_s": 0.1})
    assert (status, said["code"]) == (422, "bad_pin") and "quickest" in said["message"]
    sound = f"bench/plans/{cells[1]['title_id']}/{cells[1]['target_id']}"
    assert api("put", f"{sound}/time", {"most_s": 60})[1]["code"] == "bad_pin"
