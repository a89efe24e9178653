"""The graphics chip of a machine: tried at the start, used where speed is preferred, and given up where it fails."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import Any

import pytest
from tests.instruments.hardware import Chip, chip_at

from rheon.core.encoding import fidelity, liveness
from rheon.core.formats import HARDWARE
from rheon.server.bench.actions.hardware import measure_hardware_now
from rheon.server.bench.tasks import measure_hardware_task
from rheon.server.home.actions.hardware import look_now
from rheon.server.home.models import Home
from rheon.server.home.tasks import look_for_hardware_task
from rheon.server.shelf.actions.surveys import survey_now
from rheon.server.shelf.models import Source, Title
from rheon.server.upkeep.hints import _wanted
from rheon.server.worklist.actions.run import run_next
from rheon.server.worklist.models import Job, Record

Api = Callable[..., Any]


@pytest.fixture
def chip(tmp_path: Path, monkeypatch: pytest.MonkeyPatch, settings: Any) -> Chip:
    """A machine with a chip that was not tried yet; one way to it and one codec are enough here."""
    block = HARDWARE["vaapi"].blocks["h264"]
    only = {"vaapi": replace(HARDWARE["vaapi"], blocks={"h264": block})}
    monkeypatch.setattr("rheon.core.encoding.hardware.HARDWARE", only)
    made = chip_at(tmp_path / "machine", "dri/renderD128")
    monkeypatch.setenv("PATH", made.path)
    settings.RHEON_HARDWARE = made.dev
    return made


def wanted() -> set[object]:
    return {task for task, _ in _wanted()}


def picked(shelf: Callable[[str], Source]) -> Title:
    source = shelf("camera/Kite day.mp4")
    title = Title.objects.get(source=source)
    survey_now(title.pk)
    return title


@pytest.mark.django_db
def test_a_machine_is_tried_when_it_is_another_one_and_says_what_is_not_there(
    api: Api, tmp_path: Path, settings: Any
) -> None:
    settings.RHEON_HARDWARE = tmp_path
    assert api("get", "home/hardware")[1]["tried"] is False and look_for_hardware_task in wanted()
    look_now()
    said = api("get", "home/hardware")[1]
    assert said["tried"] and look_for_hardware_task not in wanted()
    assert [family["codecs"] for family in said["families"]] == [[]] * 4
    assert said["families"][0]["missing"][0]["why"].endswith(f"nothing is at {tmp_path}/nvidia*")
    (tmp_path / "nvidia0").touch()
    assert look_for_hardware_task in wanted(), "a device came"
    settings.RHEON_HARDWARE = None
    assert api("get", "home/hardware")[1]["never"] and look_for_hardware_task not in wanted()


@pytest.mark.django_db
def test_what_works_is_used_where_speed_is_preferred_and_offered_everywhere(
    api: Api, chip: Chip, shelf: Callable[[str], Source], household: list[int]
) -> None:
    title, player = picked(shelf), household[2]
    look_now()
    cells = f"bench/cells?titles={title.pk}"

    def encoder() -> dict[str, Any]:
        sheet = api("get", f"bench/plans/{title.pk}/{player}")[1]
        return next(one for one in sheet["decisions"] if one["key"] == "picture.encoder")

    before, plain = api("get", cells)[1], encoder()
    assert plain["value"] == "software" and [one["value"] for one in plain["choices"]] == ["software", "vaapi"]
    status, said = api("patch", "home/hardware", {"prefers_speed": True})
    assert status == 200 and said["prefers_speed"] and said["measuring"]
    assert encoder()["text"] == "graphics chip (VAAPI)"
    assert api("get", cells)[1] != before, "what was worked out before does not hold any more"
    assert measure_hardware_task in wanted()


@pytest.mark.django_db
def test_what_speed_costs_is_measured_once_and_expected_from_then_on(
    api: Api, chip: Chip, shelf: Callable[[str], Source], household: list[int], monkeypatch: pytest.MonkeyPatch
) -> None:
    # by SSIM, which takes a fraction of VMAF's time
    monkeypatch.setattr(fidelity, "vmaf_engine", lambda: None)
    title = picked(shelf)
    look_now()
    api("patch", "home/hardware", {"prefers_speed": True})
    measure_hardware_now()
    (family,) = api("get", "home/hardware")[1]["families"]
    (codec,) = family["codecs"]
    cost = codec["cost"]
    assert cost["measured_with"] == title.name
    # the stand-in is x264 at a quick preset, at a mean rate: some more bits, in less or much the same time
    assert 0.6 < cost["size_share"] < 5.6 and cost["time_share"] < 1.5
    assert measure_hardware_task not in wanted()
    api("patch", "home/hardware", {"again": True})
    assert look_for_hardware_task in wanted() and Home.objects.get().costs == {}


@pytest.mark.django_db
def test_where_nothing_can_be_measured_that_waits_for_a_title_and_is_not_tried_for_ever(
    api: Api, chip: Chip, shelf: Callable[[str], Source]
) -> None:
    look_now()
    api("patch", "home/hardware", {"prefers_speed": True})
    assert measure_hardware_task not in wanted(), "there is no title"
    picked(shelf)
    assert measure_hardware_task in wanted()
    measure_hardware_now()  # but no device that any file could be for
    assert measure_hardware_task not in wanted()
    (family,) = api("get", "home/hardware")[1]["families"]
    assert family["codecs"][0]["cost"]["measured_with"] == ""


def queued(api: Api, shelf: Callable[[str], Source], player: int) -> dict[str, int]:
    """The cell of a job that the chip is to make."""
    title = picked(shelf)
    look_now()
    api("patch", "home/hardware", {"prefers_speed": True})
    cell = {"title_id": title.pk, "target_id": player}
    api("post", "worklist/jobs", {"cells": [cell]})
    assert "graphics chip" in Job.objects.get().summary
    return cell


@pytest.mark.django_db
@pytest.mark.thorough
def test_a_chip_that_hangs_in_the_middle_is_given_up_and_software_makes_the_file(
    api: Api, chip: Chip, shelf: Callable[[str], Source], household: list[int], monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(liveness, "HARDWARE_S", 4.0)
    queued(api, shelf, household[2])
    chip.fail("hangs")
    assert run_next()
    (listed,) = api("get", "worklist")[1]["jobs"]
    assert listed["state"] == "done" and "graphics chip" not in listed["summary"]
    said = "The graphics chip failed, so software makes it: Nothing has come out of the encoder for"
    assert listed["note"].startswith(said)


@pytest.mark.django_db
@pytest.mark.thorough
def test_a_chip_that_fails_in_the_middle_costs_nothing_but_time_and_is_tried_before_it_is_used_again(
    api: Api, chip: Chip, shelf: Callable[[str], Source], household: list[int]
) -> None:
    cell = queued(api, shelf, household[2])
    chip.fail("middle")
    assert run_next()
    (listed,) = api("get", "worklist")[1]["jobs"]
    assert listed["state"] == "done" and "graphics chip" not in listed["summary"]
    said = "The graphics chip failed, so software makes it: Failed to end picture encode issue: 23"
    assert listed["note"].startswith(said)
    assert Record.objects.get().message.startswith(said)
    assert look_for_hardware_task in wanted()
    look_now()

    def once_more() -> Job:
        """The same once more."""
        api("post", "worklist/jobs", {"cells": [cell]})
        return Job.objects.order_by("-pk")[0]

    def made() -> Job:
        job = once_more()
        run_next()
        job.refresh_from_db()
        return job

    chip.fail("")
    done = made()
    assert (done.note, "graphics chip" in done.summary) == ("", True)
    chip.fail("middle")
    assert made().note and made().note, "each alone may be the title's fault"
    assert "graphics chip" not in once_more().summary
    assert "failed at 2 titles" in str(api("get", "home/hardware")[1]["families"])
    api("patch", "home/hardware", {"again": True})
    look_now()
    assert "graphics chip" in once_more().summary
