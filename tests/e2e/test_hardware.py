"""A graphics chip: what is missing is said, what works is used where somebody prefers speed, and may fail."""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect
from tests.instruments.hardware import Chip, chip_at

from .running import Rheon

STAGE = "four devices"


@pytest.fixture
def chip(rheon: Rheon, tmp_path: Path) -> Iterator[Chip]:
    """The machine that Rheon runs on has one."""
    made = chip_at(tmp_path / "machine", "dri/renderD128")
    rheon.become(made)
    yield made
    rheon.become(None)


def test_a_machine_without_one_says_what_is_missing_in_settings_and_on_the_sheet(page: Page, rheon: Rheon) -> None:
    page.goto("/settings")
    section = page.get_by_role("region", name="Graphics chip")
    expect(section.get_by_text("Everything is made by software")).to_be_visible()
    expect(section.get_by_role("listitem")).to_have_count(4)
    expect(section.get_by_role("listitem").filter(has_text="VAAPI")).to_contain_text("/dev/dri/renderD*")
    title = rheon.ask("select id from shelf_title where name = 'Marram Nights'")[0][0]
    target = rheon.ask("select id from bench_target order by id")[0][0]
    sheet = rheon.call("GET", f"bench/plans/{title}/{target}")
    (made_by,) = [one for one in sheet["decisions"] if one["key"] == "picture.encoder"]
    assert made_by["reason"] == "no graphics chip that makes this was found here to work"


@pytest.mark.thorough
def test_speed_is_preferred_and_where_the_chip_fails_software_makes_the_file(
    page: Page, rheon: Rheon, chip: Chip
) -> None:
    page.goto("/settings")
    section = page.get_by_role("region", name="Graphics chip")
    prefer = section.get_by_role("checkbox", name="Prefer speed")
    vaapi = section.get_by_role("listitem").filter(has_text="VAAPI")
    expect(vaapi).to_contain_text("Makes H.264; HEVC, also with ten bits; VP9.")
    prefer.press("Space")
    expect(prefer).to_be_checked()
    expect(section.get_by_text(re.compile("H.264: for the same picture .* of the time")).first).to_be_visible(
        timeout=240_000
    )
    chip.fail("middle")
    title = rheon.ask("select id from shelf_title where name = 'Marram Nights, extra 3'")[0][0]
    target = rheon.ask("select id from bench_target order by id")[0][0]
    page.goto("/worklist")
    expect(page.get_by_role("heading", name="Nothing to do")).to_be_visible()
    rheon.call("POST", "worklist/jobs", {"cells": [{"title_id": title, "target_id": target}]})
    page.get_by_role("checkbox", name="Open Marram Nights, extra 3 when it is done").check()
    page.wait_for_url(re.compile(r"/outbox/\d+$"), timeout=240_000)
    expect(page.get_by_role("heading", name="Marram Nights, extra 3").first).to_be_visible()
    page.goto("/worklist")
    ended = page.get_by_role("region", name="Ended")
    said = "The graphics chip failed, so software makes it: Failed to end picture encode issue"
    expect(ended.get_by_text(said)).to_be_visible(timeout=240_000)
    expect(ended.get_by_text("Outbox →")).to_be_visible()
    page.goto("/settings")
    expect(vaapi).to_contain_text("Makes H.264", timeout=240_000)
