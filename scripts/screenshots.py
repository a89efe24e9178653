"""Take the pictures in docs/screenshots from a running demo with an empty Worklist (``make demo`` first).

The first page needs a home that nobody has set up: where ``START_PORT`` names the port of one, it is taken too.
"""

from __future__ import annotations

import os
import re
from pathlib import Path

from playwright.sync_api import Page, expect, sync_playwright

TARGET = Path(__file__).resolve().parents[1] / "docs" / "screenshots"
ADDRESS = f"http://127.0.0.1:{os.environ.get('RHEON_PORT', '8420')}"


def shoot(page: Page, name: str) -> None:
    page.wait_for_timeout(900)
    page.screenshot(path=TARGET / f"{name}.png")


def shoot_join(page: Page) -> None:
    """The episodes of a series about to become one."""
    page.goto(f"{ADDRESS}/shelf")
    clear = page.get_by_role("button", name="Clear")
    clear.click()
    expect(clear).to_be_hidden()
    page.get_by_role("region", name="Lantern Street S1").get_by_role("checkbox").first.click()
    page.get_by_role("button", name="Join into one…").click()
    expect(page.get_by_role("dialog", name="Join into one")).to_be_visible()
    shoot(page, "join")


def shoot_cut_sheet(page: Page, name: str) -> None:
    """A plan sheet on which a beginning is left out and a piece taken out; all of the title is kept afterwards."""
    strip = page.get_by_role("slider", name="Moment")
    expect(strip.locator("polygon")).to_be_visible(timeout=120_000)
    page.wait_for_function(
        "() => [...document.querySelectorAll('[aria-label=Moment] img')].every((one) => one.naturalWidth)",
        timeout=120_000,
    )
    box = strip.bounding_box()
    assert box
    for place, act in ((0.04, "From here"), (0.62, "Take out a piece")):
        page.mouse.click(box["x"] + box["width"] * place, box["y"] + 20)
        page.get_by_role("button", name=act).click()
    expect(page.get_by_role("button", name="Kept: let Rheon choose again")).to_be_visible()
    page.get_by_role("button", name="Close what moved").click()
    page.mouse.move(5, 5)
    page.wait_for_timeout(2500)
    shoot(page, name)
    page.get_by_role("button", name="Keep all of it").click()
    expect(page.get_by_text("nothing is cut off")).to_be_visible()


def shoot_frame(page: Page) -> None:
    """The frame of a film, with something to judge its shape by."""
    page.get_by_role("button", name="Frame", exact=True).click()
    page.get_by_text("Circle and squares").click()
    page.get_by_role("slider", name="Cut away above").focus()
    page.wait_for_timeout(2500)
    shoot(page, "frame")
    page.get_by_role("button", name="Frame is done").click()


def shoot_trade_off(page: Page) -> None:
    """What each balance keeps, measured."""
    page.get_by_role("button", name="Measure the fidelity").click()
    curve = page.get_by_role("figure", name="Fidelity by size")
    expect(curve.get_by_role("button")).to_have_count(5, timeout=240_000)
    for said in ("held against the source", "make the figures surer"):
        expect(page.get_by_text(said)).to_have_count(0, timeout=240_000)
    page.get_by_role("button", name="Find the rate").scroll_into_view_if_needed()
    shoot(page, "trade-off")


def shoot_handover(page: Page) -> None:
    """What goes onto a stick, and what does not fit there."""
    page.goto(f"{ADDRESS}/outbox/devices")
    page.get_by_role("list", name="Devices").get_by_role("link").last.click()
    page.get_by_role("button", name="Stand-in sticks").click()
    page.get_by_role("menuitem", name="Plug TERN in").click()
    page.get_by_role("combobox", name="Where its files go").click()
    page.get_by_role("option", name=re.compile("^TERN")).click()
    expect(page.get_by_text("left to the device")).to_be_visible()
    shoot(page, "handover")


def film_id(page: Page) -> int:
    """Titles are numbered in the order in which their sources happened to be read."""
    sources = page.request.get(f"{ADDRESS}/api/shelf/sources").json()
    film = next(source for source in sources if source["name"] == "Marram Nights")
    return int(film["titles"][0]["id"])


def shoot_artwork(page: Page) -> None:
    """The frames that are proposed for a title's files, seen as a poster; nothing of it is kept."""
    artwork = page.get_by_role("region", name="Artwork")
    frames = artwork.get_by_role("button", name=re.compile("^Take the frame"))
    expect(frames.first).to_be_visible(timeout=120_000)
    frames.first.click()
    artwork.get_by_role("radio", name="poster").click()
    page.wait_for_timeout(4000)
    artwork.evaluate("one => one.scrollIntoView({block: 'end'})")
    shoot(page, "artwork")
    artwork.get_by_role("button", name="None").click()
    expect(artwork.get_by_text("none yet")).to_be_visible()


def convert(page: Page, titles: list[str]) -> None:
    page.goto(f"{ADDRESS}/bench")
    for title in titles:
        row = page.get_by_role("row", name=re.compile(f"^{title}"))
        expect(row).to_be_visible()
        row.get_by_role("checkbox").first.click()
    shoot(page, "bench")
    page.get_by_role("button", name=re.compile("^Convert ")).click()


def shoot_names(page: Page) -> None:
    """Many titles as a sheet, one of them with a doubt."""
    page.goto(f"{ADDRESS}/bench/names")
    page.get_by_label("Season of Lock Keepers D2, episode 2", exact=True).focus()
    shoot(page, "names")


def shoot_settings(page: Page) -> None:
    """As much of them as people look at again."""
    page.set_viewport_size({"width": 1280, "height": 860})
    page.goto(f"{ADDRESS}/settings")
    expect(page.get_by_role("button", name="Try again")).to_be_visible()
    expect(page.get_by_label("Patterns of your own")).to_be_visible()
    shoot(page, "settings")
    page.set_viewport_size({"width": 1280, "height": 800})


def main() -> None:
    TARGET.mkdir(exist_ok=True)
    with sync_playwright() as playwright:
        flags = ["--no-sandbox", "--disable-gpu", "--disable-background-networking"]
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=flags)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        if start := os.environ.get("START_PORT"):
            page.goto(f"http://127.0.0.1:{start}/")
            expect(page.get_by_role("button", name="Read the films")).to_be_visible()
            shoot(page, "start")
        page.goto(f"{ADDRESS}/shelf")
        page.wait_for_timeout(2500)
        shoot(page, "shelf")
        film = film_id(page)
        page.goto(f"{ADDRESS}/shelf/titles/{film}")
        expect(page.get_by_text("60 above, 60 below")).to_be_visible(timeout=120_000)
        page.wait_for_timeout(5000)
        shoot(page, "title")
        shoot_artwork(page)
        page.goto(f"{ADDRESS}/bench/{film}/2")
        shoot_cut_sheet(page, "plan-sheet")
        shoot_frame(page)
        shoot_trade_off(page)
        shoot_names(page)
        page.goto(f"{ADDRESS}/bench/verdicts/{film}")
        shoot(page, "verdicts")
        page.goto(f"{ADDRESS}/household")
        shoot(page, "household")
        page.get_by_role("button", name="Add a device").click()
        page.get_by_label("Say what it is").fill("a tablet, about 2015, small screen")
        shoot(page, "add-device")
        page.goto(f"{ADDRESS}/household/2")
        shoot(page, "profile")
        convert(page, ["Lantern Street S1, episode 1", "Marram Nights"])
        expect(page.get_by_role("article", name="Marram Nights")).to_be_visible(timeout=120_000)
        page.wait_for_timeout(9000)
        shoot(page, "worklist")
        expect(page.get_by_role("link", name="Outbox →").nth(1)).to_be_visible(timeout=300_000)
        page.goto(f"{ADDRESS}/worklist/history")
        expect(page.get_by_role("list", name="Records")).to_be_visible()
        shoot(page, "history")
        shoot_settings(page)
        page.goto(f"{ADDRESS}/outbox")
        page.get_by_role("link", name=re.compile("for Ada")).first.click()
        page.wait_for_timeout(1500)
        shoot(page, "outbox")
        shoot_handover(browser.new_page(viewport={"width": 1280, "height": 800}, color_scheme="dark"))
        shoot_join(page)
        browser.close()


if __name__ == "__main__":
    main()
