"""Devices that people have: found by a sentence or a few clicks, made surer by answers and test files."""

from __future__ import annotations

import re
from pathlib import Path
from typing import Literal

import pytest
from playwright.sync_api import Locator, Page, expect
from tests.core.devices.test_finding import SITUATIONS

from rheon.core.devices import catalogue
from rheon.core.engine import probe

from .running import ROOT, Rheon

STAGE = "empty"
AXE = (ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js").read_text()
BY_CLICKS = [
    (["Tablet", "2013 to 2016"], ["yes"], "Small tablet, about 2013–2016"),
    (["Television", "2010 to 2012"], ["no"], "Television, about 2010–2012, Full HD, USB socket"),
    (["Car or seat screen", "2015 or before"], ["yes"], "Seat screen or portable player, about 2008–2015"),
    (["Phone", "2024 or later"], [], "Phone, since about 2024"),
    (["Pocket player", "2009 to 2014"], ["yes"], "Pocket player with a touch screen, about 2009–2014"),
]


def dialog_of(page: Page) -> Locator:
    page.get_by_role("button", name="Add a device").first.click()
    return page.get_by_role("dialog", name="Add a device")


def card_of(page: Page, name: str) -> Locator:
    return page.get_by_role("listitem").filter(has=page.get_by_role("heading", name=name, exact=True))


def test_a_sentence_is_enough_for_each_everyday_situation(page: Page) -> None:
    page.goto("/household")
    dialog = dialog_of(page)
    for typed, kind in SITUATIONS:
        dialog.get_by_label("Say what it is").fill(typed)
        expect(dialog.get_by_role("heading", name=catalogue()[kind].name, exact=True)).to_be_visible()
        assert dialog.get_by_role("list", name="Questions").get_by_role("listitem").count() <= 3
        expect(dialog.get_by_role("button", name="Add it")).to_be_in_viewport()


@pytest.mark.parametrize(("clicks", "answers", "name"), BY_CLICKS, ids=[name for _, _, name in BY_CLICKS])
def test_kind_age_and_one_answer_find_it_without_typing(
    page: Page, clicks: list[str], answers: list[str], name: str
) -> None:
    page.goto("/household")
    dialog = dialog_of(page)
    dialog.get_by_role("button", name=clicks[0], exact=True).click()
    dialog.get_by_role("radio", name=clicks[1]).click()
    fits_best = dialog.get_by_label("The device that fits best")
    for answer in answers:
        # a question that is about to go takes no answer
        expect(fits_best).to_have_attribute("aria-busy", "false")
        dialog.get_by_role("list", name="Questions").get_by_role("radio", name=answer).first.click()
    expect(dialog.get_by_role("heading", name=name, exact=True)).to_be_visible()


def test_what_was_answered_is_known_of_the_device_and_the_rest_is_asked_later(page: Page) -> None:
    page.goto("/household")
    dialog = dialog_of(page)
    dialog.get_by_label("Say what it is").fill("phone from 2016")
    question = dialog.get_by_role("listitem").filter(has_text="Does its own camera film in 4K?")
    expect(dialog.get_by_role("button", name="not sure HEVC level 4.1")).to_be_visible()
    question.get_by_role("radio", name="yes").click()
    expect(dialog.get_by_role("button", name="known HEVC level 4.1")).to_be_visible()
    expect(question.get_by_role("radio", name="yes")).to_be_checked()
    dialog.get_by_label("Its name at home").fill("Grandma’s phone")
    dialog.get_by_role("button", name="Add it").click()
    card = card_of(page, "Grandma’s phone")
    expect(card.get_by_text(re.compile("things are not sure, and are not used"))).to_be_visible()
    card.get_by_text("What was seen and said").click()
    expect(card.get_by_text("Does its own camera film in 4K?")).to_be_visible()


@pytest.mark.stage("a phone")
def test_a_test_file_that_played_proves_what_was_doubtful(page: Page, tmp_path: Path) -> None:
    page.goto("/household")
    page.get_by_role("button", name="Make it surer: Grandma’s phone").click()
    dialog = page.get_by_role("dialog", name="Make Grandma’s phone surer")
    vp9 = dialog.get_by_role("listitem").filter(has_text="VP9")
    with page.expect_download(timeout=240_000) as waiting:
        vp9.get_by_role("link", name=re.compile("^Test file for VP9")).click()
    file = tmp_path / waiting.value.suggested_filename
    waiting.value.save_as(file)
    found = probe(str(file))
    assert found.video and (found.video.codec, found.container) == ("vp9", "mp4")
    vp9.get_by_role("button", name=re.compile("^It played")).click()
    expect(vp9).to_have_count(0)
    question = dialog.get_by_role("listitem").filter(has_text=".mkv ever played")
    question.get_by_role("radio", name="no", exact=True).click()
    expect(dialog.get_by_role("list", name="Questions")).to_have_count(0)
    dialog.get_by_role("button", name="Done").click()
    expect(card_of(page, "Grandma’s phone").get_by_role("button", name="proven VP9")).to_be_visible()


@pytest.mark.stage("a phone")
@pytest.mark.parametrize("scheme", ["light", "dark"])
def test_the_dialogs_are_accessible(page: Page, scheme: Literal["light", "dark"]) -> None:
    page.emulate_media(color_scheme=scheme, reduced_motion="reduce")
    page.goto("/household")
    page.get_by_role("button", name="Make it surer: Grandma’s phone").click()
    expect(page.get_by_role("list", name="Doubts")).to_be_visible()
    assert violations(page) == []
    page.get_by_role("button", name="Done").click()
    dialog = dialog_of(page)
    dialog.get_by_label("Say what it is").fill("tv 2014")
    expect(dialog.get_by_role("list", name="Questions")).to_be_visible()
    assert violations(page) == []
    dialog.get_by_role("tab", name="All kinds").click()
    assert violations(page) == []


def violations(page: Page) -> list[object]:
    page.evaluate(AXE)
    found = page.evaluate("async () => (await axe.run()).violations.map((v) => [v.id, v.nodes.map((n) => n.html)])")
    return list(found)


@pytest.mark.stage("a phone")
def test_what_was_learned_can_be_forgotten_and_taken_back(page: Page, rheon: Rheon) -> None:
    device = rheon.ask("select id from household_device")[0][0]
    line = next(one for one in rheon.call("GET", "household")["devices"][0]["abilities"] if "VP9" in str(one["text"]))
    rheon.call("POST", f"household/devices/{device}/trials", {"line": line["key"], "works": True})
    page.goto("/household")
    page.get_by_role("button", name="Start over with Grandma’s phone").click()
    card = card_of(page, "Grandma’s phone")
    expect(card.get_by_role("button", name="not sure HEVC level 4.1")).to_be_visible()
    card.get_by_role("button", name="Take it back").click()
    expect(card.get_by_role("button", name="proven VP9")).to_be_visible()


def test_two_of_a_kind_are_told_apart_and_a_favourite_comes_first(page: Page) -> None:
    page.goto("/household")
    for _ in range(2):
        dialog = dialog_of(page)
        dialog.get_by_label("Say what it is").fill("pocket projector")
        dialog.get_by_role("button", name="Add it").click()
        expect(dialog).to_be_hidden()
    expect(page.get_by_role("heading", name="Pocket projector 2", exact=True)).to_be_visible()
    page.get_by_role("button", name="Wishes and space of Pocket projector 2").click()
    page.get_by_label("Its name at home").fill("Pocket projector")
    page.get_by_role("button", name="Done").click()
    expect(page.get_by_role("alert")).to_contain_text("Another device is called Pocket projector already.")
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Favourite: Pocket projector 2").click()
    expect(page.get_by_role("heading", level=2).first).to_have_text("Pocket projector 2")
