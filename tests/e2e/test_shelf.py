"""The Shelf in depth: filters, ranges, a title seen and heard, cut by its chapters, and the drive."""

from __future__ import annotations

import re
from pathlib import Path

from playwright.sync_api import Page, expect

from .running import ROOT

STAGE = "five discs"


def test_a_play_all_shows_its_episodes_and_damage_is_named(page: Page) -> None:
    page.goto("/shelf")
    keepers = page.get_by_role("region", name="Lock Keepers", exact=True)
    expect(keepers.get_by_role("button", name=re.compile("^Title 1, .*play all.*not picked"))).to_be_visible()
    expect(keepers.get_by_role("button", name=re.compile("episode.*, picked$"))).to_have_count(4)
    ranges = page.get_by_role("region", name="Lock Keepers D2")
    expect(ranges.get_by_role("button", name=re.compile("^Title 1·[1-4], .*episode.*, picked$"))).to_have_count(4)
    heron = page.get_by_role("region", name="Heron Reach")
    expect(heron.get_by_role("button", name=re.compile("^Title 2, .*film.*picked"))).to_be_visible()
    expect(heron.get_by_role("button", name=re.compile("^Title 3, .*copy"))).to_be_visible()
    expect(page.get_by_text("Title 1: 5 s could not be read at 0:12. The rest can be converted.")).to_be_visible()
    expect(page.get_by_text("its data is scrambled")).to_be_visible()


def test_roles_lengths_and_names_narrow_what_is_shown(page: Page) -> None:
    page.goto("/shelf")
    page.get_by_role("toolbar", name="Roles").get_by_role("button", name=re.compile("^episode")).click()
    expect(page.get_by_text("8 of 16 titles")).to_be_visible()
    page.get_by_role("button", name="Show all").click()
    page.get_by_label("Find on the Shelf").fill("heron")
    expect(page.get_by_text("4 of 16 titles")).to_be_visible()
    page.get_by_role("button", name="Show all").click()
    page.get_by_role("button", name="Larger scale").click()
    expect(page.get_by_role("slider", name="From when on")).to_be_visible()


def test_titles_are_picked_by_keys_and_in_ranges(page: Page) -> None:
    page.goto("/shelf")
    page.get_by_role("button", name="Clear").click()
    keepers = page.get_by_role("region", name="Lock Keepers", exact=True)
    first = keepers.get_by_role("button", name=re.compile("^Title 2, "))
    first.focus()
    page.keyboard.press("Space")
    for _ in range(2):
        page.keyboard.press("ArrowRight")
    page.keyboard.press("Shift+Space")
    expect(page.get_by_text("3 titles picked")).to_be_visible()
    page.keyboard.press("ArrowUp")
    expect(keepers.get_by_role("button", name=re.compile("^Title 1, "))).to_be_focused()
    page.get_by_role("button", name=re.compile("^Pick 5 more episodes")).click()
    expect(page.get_by_text("8 titles picked")).to_be_visible()


def test_a_title_is_seen_heard_and_played_with_chosen_tracks(page: Page) -> None:
    page.goto("/shelf")
    page.get_by_role("button", name=re.compile("^Title 2, .*film")).click()
    title = page.get_by_role("complementary", name="Title")
    expect(title.get_by_text("4 lines, 1 of them forced")).to_be_visible(timeout=240_000)
    expect(title.get_by_text("LUFS, peak").first).to_be_visible()
    strip = title.get_by_role("slider", name="Moment")
    box = strip.bounding_box()
    assert box
    page.mouse.click(box["x"] + box["width"] * 0.25, box["y"] + 10)
    expect(title.get_by_role("button", name=re.compile("^Play from 0:0[78]"))).to_be_visible()
    title.get_by_role("combobox", name="Sound while playing").click()
    page.get_by_role("option", name=re.compile("^Spanish")).click()
    title.get_by_role("combobox", name="Subtitles while playing").click()
    page.get_by_role("option", name="English subtitles").click()
    title.get_by_role("button", name=re.compile("^Play from")).click()
    page.wait_for_function("() => { const v = document.querySelector('aside video'); return v && v.currentTime > 0.3 }")
    source = page.eval_on_selector("aside video", "(video) => video.currentSrc")
    assert "audio=1&subtitle=0" in source
    title.get_by_role("button", name="Stop").click()
    expect(title.locator("video")).to_have_count(0)


def test_names_roles_and_chapters_are_set_by_hand_and_stay(page: Page) -> None:
    page.goto("/shelf")
    keepers = page.get_by_role("region", name="Lock Keepers", exact=True)
    keepers.get_by_role("button", name=re.compile("^Title 5, ")).click()
    title = page.get_by_role("complementary", name="Title")
    title.get_by_role("button", name="Rename this title").click()
    page.get_by_role("dialog").get_by_label("Name").fill("The weir")
    page.get_by_role("button", name="Use this name").click()
    expect(title.get_by_role("heading", name="The weir")).to_be_visible()
    title.get_by_role("combobox", name="What it is").click()
    page.get_by_role("option", name="extra").click()
    expect(title.get_by_text("Set by hand.")).to_be_visible()
    chapter = title.get_by_role("textbox", name="Name of chapter 2")
    chapter.fill("Low water")
    chapter.press("Enter")
    page.wait_for_timeout(500)
    page.get_by_role("button", name="More for Lock Keepers", exact=True).click()
    page.get_by_role("menuitem", name="Read it again").click()
    page.wait_for_timeout(1500)
    page.reload()
    expect(title.get_by_role("heading", name="The weir")).to_be_visible()
    expect(title.get_by_role("textbox", name="Name of chapter 2")).to_have_value("Low water")
    expect(keepers.get_by_role("button", name=re.compile("^Title 5, .*extra"))).to_be_visible()


def test_a_long_title_is_cut_by_its_chapters_and_put_together_again(page: Page) -> None:
    page.goto("/shelf")
    ranges = page.get_by_role("region", name="Lock Keepers D2")
    ranges.get_by_role("button", name=re.compile("^Title 1, .*play all")).click()
    page.get_by_role("button", name="Cut into titles").click()
    dialog = page.get_by_role("dialog", name="Cut into titles")
    dialog.get_by_role("checkbox", name="A title begins at chapter 5").click()
    dialog.get_by_role("button", name="Make 2 titles").click()
    # a scan waits for what the workers are at
    expect(ranges.get_by_role("button", name=re.compile("^Title 1·"))).to_have_count(2, timeout=240_000)
    page.get_by_role("button", name="Cut into titles").click()
    dialog.get_by_role("button", name="Undo all cuts").click()
    expect(ranges.get_by_role("button", name=re.compile("^Title 1·"))).to_have_count(4, timeout=240_000)


def test_a_disc_is_put_into_the_drive_read_and_taken_out(page: Page) -> None:
    page.goto("/shelf")
    drive = page.get_by_role("region", name="Drive")
    expect(drive.get_by_text("No disc in it.")).to_be_visible()
    drive.get_by_role("combobox", name="Put a disc in").click()
    page.get_by_role("option", name="THE_LAST_FERRY").click()
    expect(drive.get_by_text("comes up to speed")).to_be_visible()
    drive.get_by_role("button", name="Read this disc").click()
    ferry = page.get_by_role("region", name="The Last Ferry")
    expect(ferry.get_by_text("disc in the drive")).to_be_visible()
    expect(ferry.get_by_role("button", name=re.compile("^Title 2, .*copy"))).to_be_visible()
    drive.get_by_role("button", name="Take it out").click()
    expect(drive.get_by_text("No disc in it.")).to_be_visible()


def test_everything_can_be_read_by_everybody(page: Page) -> None:
    axe = (Path(ROOT) / "web" / "node_modules" / "axe-core" / "axe.min.js").read_text()
    for theme in ("light", "dark"):
        page.emulate_media(color_scheme=theme)
        page.goto("/shelf")
        page.get_by_role("button", name=re.compile("^Title 2, .*film")).click()
        expect(page.get_by_role("textbox", name="Name of chapter 1")).to_be_visible()
        page.wait_for_timeout(1500)
        page.evaluate(axe)
        found = page.evaluate("() => axe.run(document, { resultTypes: ['violations'] })")
        assert [(v["id"], [n["html"][:120] for n in v["nodes"]]) for v in found["violations"]] == [], theme
