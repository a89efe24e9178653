"""From a finished file onto a stick: what fits is picked, what does not is explained, and the rest waits."""

from __future__ import annotations

import asyncio
import hashlib
import re
import shutil
import urllib.error
import urllib.request
from collections.abc import Coroutine
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, Locator, Page, expect
from tests.instruments.engine import output_of
from tests.instruments.waiting import until

from rheon.demo import tv
from rheon.demo.sticks import StickDrawer

from .running import Rheon, window

PLAYS = "() => { const v = document.querySelector('video'); return v.currentTime > 0.5 && v.videoWidth > 0 }"


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
    # or it is wished for more than another: by keys, by the mouse, and back
    names = files.get_by_role("link")
    last = names.nth(3).inner_text()
    files.get_by_role("button", name=f"Move {last}").press("Home")
    expect(names.nth(0)).to_have_text(last)
    expect(files.get_by_role("checkbox").nth(0)).to_be_checked()
    expect(rows.nth(3)).to_contain_text("Does not fit")
    files.get_by_role("button", name=f"Move {last}").drag_to(rows.nth(2), target_position={"x": 60, "y": 2})
    expect(names.nth(1)).to_have_text(last)
    page.get_by_role("button", name="In the order of names again").click()
    expect(names.nth(3)).to_have_text(last)
    expect(rows.nth(3)).to_contain_text("Does not fit")
    page.get_by_role("button", name="Copy 3 files").click()
    for row in range(3):
        expect(rows.nth(row)).to_contain_text("on TERN")
    expect(page.get_by_role("button", name="Nothing fits")).to_be_disabled()
    made = sorted(rheon.output.rglob("*.m4v"))
    there = sorted((drawer.folder / "TERN").rglob("*.m4v"))
    assert len(there) == 3 and set(sums(there)) < set(sums(made))
    page.get_by_role("button", name="Eject TERN").click()
    expect(page.get_by_text("TERN can be taken out")).to_be_visible()
    assert not drawer.volumes()
    # the file's own page says the same, and the copy waits there for the stick
    rows.nth(0).get_by_role("link").click()
    section = page.get_by_role("region", name="Hand over")
    expect(section).to_contain_text("on TERN")


@pytest.mark.stage("four devices")
@pytest.mark.stage("four episodes made")
def test_a_stick_that_is_pulled_out_makes_the_rest_wait_until_it_is_back(
    rheon: Rheon, page: Page, drawer: StickDrawer
) -> None:
    files = opened(page, rheon)
    plug_in(page, "KITTIWAKE")
    choose(page, "KITTIWAKE")
    page.get_by_role("button", name="into its top folder").click()
    page.get_by_role("textbox", name="Folder on it").fill("VIDEO")
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
    assert all(path.is_relative_to(root / "VIDEO") for path in root.rglob("*.m4v"))
    assert not list(root.rglob("*.part"))
    next(root.rglob("*.m4v")).unlink()
    expect(files.get_by_text("was there, and was taken off")).to_have_count(1)


LATE = """
globalThis.late = true;
Object.defineProperty(VideoPlaybackQuality.prototype, "droppedVideoFrames", {
  get() { return late ? this.totalVideoFrames : 0 }
})
"""


@pytest.mark.stage("four episodes made")
def test_a_phone_picks_a_file_up_by_its_code_and_a_stranger_gets_nothing(
    rheon: Rheon, page: Page, browser: Browser
) -> None:
    rheon.start("devices")
    opened(page, rheon)
    page.get_by_role("button", name="Pick-up code for Pocket player").click()
    dialog = page.get_by_role("dialog")
    code = dialog.get_by_text(re.compile(r"^\d{8}$")).inner_text()
    root = f"http://127.0.0.1:{rheon.pairing_port}"
    phone = window(browser, viewport={"width": 390, "height": 800}, has_touch=True, accept_downloads=True)
    seen = phone.new_page()
    # how many pictures come too late goes by what else this machine does: here it is all of them, until told otherwise
    seen.add_init_script(LATE)
    until(lambda: answers(f"{root}/") is not None)
    seen.goto(root)
    seen.get_by_label("Type the code").fill(code)
    seen.get_by_role("button", name="Go on").tap()
    expect(seen.get_by_role("heading", name="For Pocket player")).to_be_visible()
    expect(seen.get_by_role("listitem")).to_have_count(4)
    assert seen.evaluate("document.documentElement.scrollWidth") <= 390
    assert seen.evaluate("Math.min(...[...document.querySelectorAll('.act')].map((one) => one.offsetHeight))") >= 44
    first = seen.get_by_role("listitem").first
    with seen.expect_download() as saving:
        first.get_by_role("link", name="Save").tap()
    made = next(path for path in rheon.output.rglob("*.m4v") if path.name == saving.value.suggested_filename)
    assert Path(saving.value.path()).read_bytes() == made.read_bytes()
    expect(dialog.get_by_text("fetched at")).to_have_count(1)
    # with the four arrows of a remote: up to the first, down to the second file's Play, and open it
    for key in (*("ArrowUp",) * 8, *("ArrowDown",) * 3):
        seen.keyboard.press(key)
    seen.keyboard.press("Enter")
    video = seen.locator("video")
    expect(video).to_be_focused()
    seen.wait_for_function(
        "() => { const v = document.querySelector('video'); return v.currentTime > 0.5 && v.videoWidth > 0 }"
    )
    # what the browser decoded in time is told by itself; what somebody saw goes before it
    stutters = seen.get_by_role("button", name="It stutters")
    expect(stutters).to_be_visible()
    assert rheon.ask("select reports from outbox_output where reports != '[]'") == []
    seen.evaluate("late = false")
    expect(seen.get_by_role("listitem").nth(1).get_by_text("Pictures and sound came through here")).to_be_visible()
    ((reports,),) = rheon.ask("select reports from outbox_output where reports != '[]'")
    assert "Pocket player" in reports and '"trouble": null' in reports
    stutters.tap()
    expect(seen.get_by_text("the next file will be surer")).to_be_visible()
    ((reports,),) = rheon.ask("select reports from outbox_output where reports != '[]'")
    assert '"trouble": "stutters"' in reports
    # a stranger, and everybody once it is shut
    address = first.get_by_role("link", name="Save").evaluate("(link) => link.href").partition("?")[0]
    wrong = address.replace(code, f"{(int(code) + 1) % 10**8:08}")
    assert refused(wrong) and refused(wrong, "bytes=0-0") and refused(f"{root}/api/outbox")
    dialog.get_by_role("button", name="Shut the page").click()
    until(lambda: answers(address) is None)
    phone.close()


@pytest.mark.stage("four episodes made")
def test_a_tv_finds_what_is_shown_to_it_plays_it_and_finds_nothing_afterwards(
    rheon: Rheon, page: Page, tmp_path: Path
) -> None:
    rheon.start("devices")
    server = f"http://127.0.0.1:{rheon.media_server_port}/device.xml"
    opened(page, rheon)
    shown = page.get_by_role("region", name="Home network")
    assert server not in aside(tv.servers("127.0.0.1", 1))
    shown.get_by_role("button", name="Show them to TVs").click()
    expect(shown.get_by_text("No device has looked yet.")).to_be_visible()
    until(lambda: server in aside(tv.servers("127.0.0.1", 1)))
    found = aside(tv.files(server))
    assert [one.folder for one in found] == ["For Pocket player"] * 4
    for one in found:
        fetched = tv.fetch(one, tmp_path)
        made = next(path for path in rheon.output.rglob("*.m4v") if path.name == fetched.name)
        assert fetched.read_bytes() == made.read_bytes()
    # as a player does it: over HTTP, from the middle on
    frames = ["-ss", "3", "-f", "framemd5", "-"]
    assert output_of(["ffmpeg", "-v", "error", "-i", found[-1].address, *frames]) == output_of(
        ["ffmpeg", "-v", "error", "-i", str(made), *frames]
    )
    expect(shown.get_by_text(re.compile("Last played .* by 127.0.0.1"))).to_be_visible()
    asked = page.get_by_role("region", name="Did it play?")
    asked.get_by_role("button", name="It played").click()
    expect(asked).to_have_count(0)
    assert rheon.ask("select count(*) from outbox_output where reports != '[]'") == [(1,)]
    shown.get_by_role("button", name="Stop showing them").click()
    until(lambda: answers(found[0].address) is None and server not in aside(tv.servers("127.0.0.1", 1)))


@pytest.mark.stage("four episodes made")
def test_what_is_in_the_library_already_is_told(rheon: Rheon, page: Page, drawer: StickDrawer) -> None:
    opened(page, rheon)
    page.get_by_role("list", name="Devices").get_by_role("link", name="The library").click()
    plug_in(page, "KITTIWAKE")
    choose(page, "KITTIWAKE")
    made = sorted(rheon.output.rglob("*.m4v"))[:2]
    for path, name in zip([made[0], *made], ("Lantern Street S01E01.m4v", "again.m4v", "Another.m4v"), strict=True):
        shutil.copy(path, drawer.folder / "KITTIWAKE" / name)
    inside = page.get_by_role("region", name="What is in it")
    inside.get_by_role("button", name="Look through it").click()
    files = inside.get_by_role("list", name="Files in the library").get_by_role("listitem")
    expect(files).to_have_count(3)
    expect(files.filter(has_text="The same, byte for byte: Lantern Street S01E01.m4v")).to_have_count(1)
    inside.get_by_role("combobox", name="Which files").click()
    page.get_by_role("option", name="2 that are there twice").click()
    expect(files).to_have_count(2)


def aside(asked: Coroutine[Any, Any, Any]) -> Any:
    """In a thread of its own, since the browser's loop runs in this one."""
    with ThreadPoolExecutor(1) as pool:
        return pool.submit(asyncio.run, asked).result()


def answers(address: str, span: str = "") -> int | None:
    """The status of an answer; ``None`` where nobody listens."""
    request = urllib.request.Request(address, headers={"Range": span} if span else {})
    try:
        with urllib.request.urlopen(request, timeout=5) as answer:
            return int(answer.status)
    except urllib.error.HTTPError as error:
        return None if error.code >= 500 else -error.code
    except OSError:
        return None


def refused(address: str, span: str = "") -> bool:
    return answers(address, span) == -404
