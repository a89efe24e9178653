"""From a finished file onto a stick: what fits is picked, what does not is explained, and the rest waits."""

from __future__ import annotations

import hashlib
from pathlib import Path

import pytest
from playwright.sync_api import Locator, Page, expect

from rheon.demo.sticks import StickDrawer

from .running import Rheon

FOURTH = "Lantern Street S1 1x04"


@pytest.fixture
def drawer(rheon: Rheon) -> StickDrawer:
    return StickDrawer(folder=rheon.sticks)


def opened(page: Page, rheon: Rheon) -> Locator:
    """The pocket player's files, in the Outbox by device."""
    page.goto(f"{rheon.address}/outbox")
    page.get_by_role("radio", name="by device").click()
    page.get_by_role("list", name="Devices").get_by_role("link", name="Pocket player").click()
    return page.get_by_role("list", name="Files for Pocket player")


def plug_in(page: Page, label: str) -> None:
    page.get_by_role("button", name="Stand-in sticks").click()
    page.get_by_role("menuitem", name=f"Plug {label} in").click()


def choose(page: Page, label: str) -> None:
    page.get_by_role("combobox", name="Where its files go").click()
    page.get_by_role("option", name=label).click()


def sums(files: list[Path]) -> list[str]:
    return sorted(hashlib.sha256(path.read_bytes()).hexdigest() for path in files)


@pytest.mark.stage("four episodes made")
def test_a_stick_takes_three_of_four_episodes_and_says_why_not_the_fourth(
    rheon: Rheon, page: Page, drawer: StickDrawer
) -> None:
    files = opened(page, rheon)
    expect(page.get_by_role("region", name="Storage")).to_contain_text("Nothing is plugged in")
    plug_in(page, "TERN")
    choose(page, "TERN")
    rows = files.get_by_role("listitem")
    expect(rows.nth(3)).to_contain_text("Does not fit: it takes")
    expect(files.get_by_role("checkbox", checked=True)).to_have_count(3)
    # without the first there is room for the last
    files.get_by_role("checkbox").nth(0).uncheck()
    expect(rows.nth(0)).to_contain_text("left out")
    expect(files.get_by_role("checkbox").nth(3)).to_be_checked()
    files.get_by_role("checkbox").nth(0).check()
    expect(rows.nth(3)).to_contain_text("Does not fit")
    page.get_by_role("button", name="Copy 3 files").click()
    for row in range(3):
        expect(rows.nth(row)).to_contain_text("on TERN")
    expect(page.get_by_role("button", name="Nothing fits")).to_be_disabled()
    made = sorted(rheon.output.rglob("*.mp4"))
    there = sorted((drawer.folder / "TERN").rglob("*.mp4"))
    assert len(there) == 3 and set(sums(there)) < set(sums(made))
    page.get_by_role("button", name="Let go of TERN").click()
    expect(page.get_by_text("TERN can be taken out")).to_be_visible()
    assert not drawer.volumes()
    # the file's own page says the same, and the copy waits there for the stick
    rows.nth(0).get_by_role("link").click()
    section = page.get_by_role("region", name="Hand over")
    expect(section).to_contain_text("on TERN")


@pytest.mark.stage("four episodes made")
def test_a_stick_that_is_pulled_out_makes_the_rest_wait_until_it_is_back(
    rheon: Rheon, page: Page, drawer: StickDrawer
) -> None:
    files = opened(page, rheon)
    plug_in(page, "KITTIWAKE")
    choose(page, "KITTIWAKE")
    page.get_by_role("button", name="into its top folder").click()
    page.get_by_label("Folder on it").fill("VIDEO")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="into the folder VIDEO")).to_be_visible()
    page.get_by_role("button", name="Stand-in sticks").click()
    page.get_by_role("menuitem", name="Pull KITTIWAKE out").click()
    expect(page.get_by_text("Copies wait until it is")).to_be_visible()
    page.get_by_role("button", name="Copy 4 files").click()
    expect(files.get_by_text("waits", exact=True)).to_have_count(4)
    files.get_by_role("button", name="Stop:").first.click()
    expect(files.get_by_text("waits", exact=True)).to_have_count(3)
    plug_in(page, "KITTIWAKE")
    expect(files.get_by_text("on KITTIWAKE")).to_have_count(3)
    root = drawer.folder / "KITTIWAKE"
    assert all(path.is_relative_to(root / "VIDEO") for path in root.rglob("*.mp4"))
    assert not list(root.rglob("*.part"))
    next(root.rglob("*.mp4")).unlink()
    expect(files.get_by_text("was there, and was taken off")).to_have_count(1)
