"""Parts become one in a browser: joined, put in another order, made, and taken apart again."""

from __future__ import annotations

import json
import re
import subprocess

import pytest
from playwright.sync_api import Page, expect

from .running import Rheon

STAGE = "four devices"


def pick_only(page: Page, *numbers: int) -> None:
    page.goto("/shelf")
    clear = page.get_by_role("button", name="Clear")
    clear.click()
    expect(clear).to_be_hidden()
    series = page.get_by_role("region", name="Lantern Street S1")
    for number in numbers:
        series.get_by_role("button", name=re.compile(f"^Title {number}, ")).focus()
        page.keyboard.press("Space")
    expect(page.get_by_text(f"{len(numbers)} titles picked")).to_be_visible()


@pytest.mark.thorough
def test_episodes_are_joined_with_the_mouse_made_and_taken_apart(page: Page, rheon: Rheon) -> None:
    pick_only(page, 1, 2, 3)
    page.get_by_role("button", name="Join into one…").click()
    dialog = page.get_by_role("dialog", name="Join into one")
    dialog.get_by_role("button", name="Leave Lantern Street S1, episode 3 out").click()
    dialog.get_by_role("button", name="Move Lantern Street S1, episode 2 up").click()
    dialog.get_by_label("Name").fill("An evening in Lantern Street")
    dialog.get_by_role("button", name="Join 2 titles").click()
    panel = page.get_by_role("complementary", name="Title")
    expect(panel.get_by_role("heading", name="An evening in Lantern Street")).to_be_visible()
    names = panel.get_by_role("region", name="Parts").get_by_role("link")
    expect(names).to_have_text(["Lantern Street S1, episode 2", "Lantern Street S1, episode 1"])
    expect(panel.get_by_label("Name of chapter 1", exact=True)).to_have_value("Lantern Street S1, episode 2")
    expect(page.get_by_text("2 titles picked")).to_be_visible()

    join = rheon.ask("select title_id from shelf_join")[0][0]
    of = "select t.id from bench_target t join household_device d on t.device_id = d.id where d.name = 'Pocket player'"
    target = rheon.ask(of)[0][0]
    page.goto(f"/bench/{join}/{target}")
    expect(page.get_by_text("converted to one form").first).to_be_visible()
    rheon.call("POST", "worklist/jobs", {"cells": [{"title_id": join, "target_id": target}]})
    page.goto("/outbox")
    expect(page.get_by_text("An evening in Lantern Street").first).to_be_visible(timeout=240_000)
    made = rheon.ask("select path from outbox_output")[0][0]
    argv = ["ffprobe", "-v", "error", "-show_format", "-of", "json", made]
    found = json.loads(subprocess.run(argv, capture_output=True, check=True).stdout)
    assert float(found["format"]["duration"]) == pytest.approx(40.4, abs=0.3)

    page.goto(f"/shelf/titles/{join}")
    panel.get_by_role("button", name="Take apart").click()
    expect(panel).to_be_hidden()
    series = page.get_by_role("region", name="Lantern Street S1")
    strip = series.get_by_role("button", name=re.compile("join"))
    expect(strip).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(strip).to_have_count(1)
    strip.click()
    panel.get_by_role("button", name="Take apart").click()
    expect(strip).to_have_count(0)
    expect(series.get_by_role("button", name=re.compile("^Title [1-4], "))).to_have_count(4)


def test_a_join_is_made_and_put_in_another_order_by_the_keyboard_alone(page: Page) -> None:
    pick_only(page, 1, 2)
    page.get_by_role("button", name="Join into one…").focus()
    page.keyboard.press("Enter")
    dialog = page.get_by_role("dialog", name="Join into one")
    expect(dialog).to_be_visible()
    dialog.get_by_role("button", name="Join 2 titles").focus()
    page.keyboard.press("Enter")
    panel = page.get_by_role("complementary", name="Title")
    panel.get_by_role("button", name="Change the order").focus()
    page.keyboard.press("Enter")
    order = page.get_by_role("dialog", name="Change the order")
    first = order.get_by_role("button", name="Move Lantern Street S1, episode 1 down")
    first.focus()
    page.keyboard.press("Enter")
    # what was moved keeps the focus, and can be moved back
    up = order.get_by_role("button", name="Move Lantern Street S1, episode 1 up")
    expect(up).to_be_focused()
    order.get_by_role("button", name="Join these 2 titles").focus()
    page.keyboard.press("Enter")
    expect(order).to_be_hidden()
    names = panel.get_by_role("region", name="Parts").get_by_role("link")
    expect(names).to_have_text(["Lantern Street S1, episode 2", "Lantern Street S1, episode 1"])
    page.keyboard.press("Escape")
    expect(panel).to_be_hidden()
