"""Names and tags of many titles, as people set them: like a sheet, at once, and taken back."""

from __future__ import annotations

import json
import re
import subprocess

import pytest
from playwright.sync_api import Page, expect

from .running import Rheon
from .test_states import put_source, put_titles

STAGE = "four devices"
EPISODES = [f"Lantern Street S1, episode {number}" for number in range(1, 5)]


def values(page: Page, tag: str) -> list[str]:
    return [page.get_by_label(f"{tag} of {title}", exact=True).input_value() for title in EPISODES]


def files(page: Page) -> list[str]:
    table = page.get_by_role("table", name="Names and tags")
    rows = [table.get_by_role("row").filter(has_text=title) for title in EPISODES]
    return [row.get_by_role("rowheader").locator("span").nth(1).inner_text() for row in rows]


@pytest.fixture
def sheet(page: Page, rheon: Rheon) -> Page:
    """The four episodes and the film on the Bench, opened as a sheet."""
    page.goto("/bench")
    page.get_by_role("link", name="Names and tags").click()
    expect(page.get_by_role("heading", name="Names and tags")).to_be_visible()
    return page


def test_a_series_of_four_is_named_and_numbered_by_keyboard_at_once_and_undone(sheet: Page) -> None:
    page = sheet
    before = files(page)
    assert before == [f"Lantern Street - S01E0{number}" for number in range(1, 5)]
    title = page.get_by_label(f"Title of {EPISODES[0]}", exact=True)
    title.click()
    for name in ("The lamp", "Slack water", "The weir", "Neaps"):
        page.keyboard.type(name)
        page.keyboard.press("Enter")
    expect(page.get_by_text("Lantern Street - S01E04 - Neaps", exact=True)).to_be_visible()
    page.get_by_label(f"Episode of {EPISODES[0]}", exact=True).fill("11")
    page.keyboard.press("Enter")
    page.keyboard.press("ArrowUp")
    page.get_by_role("button", name="Number up (3)").click()
    page.get_by_label(f"Year of {EPISODES[0]}", exact=True).fill("2011")
    page.keyboard.press("Enter")
    page.get_by_label(f"Year of {EPISODES[0]}", exact=True).click()
    page.get_by_role("button", name="Fill Year down (3)").click()
    expect(page.get_by_label(f"Year of {EPISODES[3]}", exact=True)).to_have_value("2011")
    assert values(page, "Episode") == ["11", "12", "13", "14"] and values(page, "Year") == ["2011"] * 4
    page.get_by_role("button", name="Find and replace …").click()
    page.get_by_label("Find", exact=True).fill("lantern street")
    page.get_by_label("Replace with").fill("Lamp Row")
    page.get_by_role("button", name="Replace", exact=True).click()
    expect(page.get_by_text("Lamp Row - S01E14 - Neaps", exact=True)).to_be_visible()
    for _ in range(9):
        if page.get_by_role("button", name="Undo", exact=True).count():
            break
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_text("Saving …")).to_have_count(0)
    expect(page.get_by_role("button", name="Undo", exact=True)).to_be_disabled()
    assert files(page) == before and values(page, "Title") == [""] * 4


def test_where_a_value_comes_from_is_said_and_what_is_wrong_is_refused(sheet: Page) -> None:
    page = sheet
    page.get_by_label(f"Season of {EPISODES[1]}", exact=True).click()
    details = page.get_by_role("region", name=f"More of {EPISODES[1]}")
    expect(details.get_by_text("from the disc's label, “LANTERN_STREET_S1”")).to_be_visible()
    season = page.get_by_label(f"Season of {EPISODES[1]}", exact=True)
    season.fill("two")
    page.keyboard.press("Enter")
    expect(page.get_by_text("Season: “two” is no number from 0 to 9999.")).to_be_visible()
    season.fill("2")
    page.keyboard.press("Enter")
    season.click()
    expect(details.get_by_text("set for this title")).to_be_visible()
    details.get_by_role("button", name="Use what was found").click()
    expect(season).to_have_value("1")


def test_a_file_is_called_by_the_house_s_pattern_and_says_so_in_its_tags(page: Page, rheon: Rheon) -> None:
    page.goto("/settings")
    section = page.get_by_role("region", name="Names of files")
    section.get_by_label("Patterns of your own").check()
    film = section.get_by_role("textbox").first
    film.fill("{{ year }/{{ title }}")
    expect(section.get_by_text("This pattern can't be read")).to_be_visible()
    expect(section.get_by_role("button", name="Use these patterns")).to_be_disabled()
    section.get_by_label("A folder for each film, series and season").click()
    expect(section.get_by_text("Tide Watch/Season 01/Tide Watch - S01E02 - Slack Water")).to_be_visible()
    title = rheon.ask("select id from shelf_title where name = ?", EPISODES[1])[0][0]
    target = rheon.ask("select id from bench_target order by id")[1][0]
    page.goto(f"/bench/{title}/{target}")
    page.get_by_role("link", name="Name and tags").click()
    named = page.get_by_label(f"Title of {EPISODES[1]}", exact=True)
    named.fill("Slack water")
    page.keyboard.press("Enter")
    path = "Lantern Street/Season 01/Lantern Street - S01E02 - Slack water"
    expect(page.get_by_text(path, exact=True)).to_be_visible()
    page.goto(f"/bench/{title}/{target}")
    expect(page.get_by_text("episode · Lantern Street · S01E02 · Slack water")).to_be_visible()


def test_a_series_gets_chapter_names_and_artwork_at_once_and_gives_them_back(page: Page, rheon: Rheon) -> None:
    first, second = (rheon.ask("select id from shelf_title where name = ?", name)[0][0] for name in EPISODES[:2])
    page.goto(f"/shelf/titles/{first}")
    page.get_by_role("button", name="Name them …").click()
    dialog = page.get_by_role("dialog", name="Name the chapters")
    dialog.get_by_label("List of chapters").fill("0:00 Opening\nNo moment")
    expect(dialog.get_by_text("has no moment, and others have")).to_be_visible()
    expect(dialog.get_by_role("button", name="Use them")).to_be_disabled()
    dialog.get_by_label("List of chapters").fill("1. Opening\n2. The lamp is lit\n3. 終わり")
    told = dialog.get_by_role("list", name="What comes of it").get_by_role("listitem")
    expect(told.filter(has_text="The lamp is lit")).to_be_visible()
    dialog.get_by_label("Give these names to the others too").check()
    dialog.get_by_role("button", name=re.compile(r"^Use \d")).click()
    expect(page.get_by_label("Name of chapter 2")).to_have_value("The lamp is lit")
    artwork = page.get_by_role("region", name="Artwork")
    expect(artwork.get_by_text("none yet")).to_be_visible()
    artwork.get_by_role("button", name="Give each of the 4 like it its own best frame").click()
    expect(artwork.get_by_role("img", name="Artwork of its files")).to_be_visible(timeout=240_000)
    page.goto(f"/shelf/titles/{second}")
    expect(page.get_by_label("Name of chapter 2")).to_have_value("The lamp is lit")
    shown = artwork.get_by_role("img", name="Artwork of its files")
    expect(shown).to_be_visible(timeout=240_000)
    artwork.get_by_role("radio", name="square").click()
    expect(shown).to_have_attribute("src", re.compile("shape=1%3A1"))
    expect(shown).to_have_js_property("naturalWidth", 600)
    with page.expect_file_chooser() as chooser:
        artwork.get_by_role("button", name="Your own …").click()
    chooser.value.set_files({"name": "own.png", "mimeType": "image/png", "buffer": page.screenshot()})
    expect(shown).to_have_attribute("src", re.compile("picture="))
    artwork.get_by_role("button", name="Give it to the other 3 like it").click()
    expect(artwork.get_by_text("The other 3 like it have it too.")).to_be_visible()
    page.goto(f"/shelf/titles/{first}")
    expect(shown).to_have_attribute("src", re.compile("picture="))
    artwork.get_by_role("button", name="None").click()
    expect(artwork.get_by_text("none yet")).to_be_visible()
    page.get_by_role("button", name="Use those that were read").click()
    expect(page.get_by_label("Name of chapter 2")).to_have_value("")


def test_a_season_is_looked_up_after_a_yes_taken_and_taken_back(sheet: Page) -> None:
    page = sheet
    page.get_by_label(f"Title of {EPISODES[2]}", exact=True).fill("Our own name")
    page.keyboard.press("Enter")
    expect(page.get_by_text("Lantern Street - S01E03 - Our own name", exact=True)).to_be_visible()
    before = files(page)
    page.get_by_label(f"Title of {EPISODES[0]}", exact=True).click()
    page.get_by_role("button", name="Look up …").click()
    dialog = page.get_by_role("dialog", name="Look up Lantern Street")
    expect(dialog.get_by_text("Looking works up is off: nothing has been sent.")).to_be_visible()
    expect(dialog.get_by_role("button", name="Ask", exact=True)).to_be_disabled()
    dialog.get_by_role("button", name="Allow it").click()
    expect(dialog.get_by_role("button", name="Ask", exact=True)).to_be_enabled()
    dialog.get_by_label("Series").press("Enter")
    expect(dialog.get_by_text("One agrees with what is here.")).to_be_visible()
    told = dialog.get_by_role("list", name="How it stands to what is here").get_by_role("listitem")
    expect(told).to_have_text(
        ["agrees: the name is the same", "agrees: 4 episodes, as here", "agrees: the lengths of all of them agree"]
    )
    expect(dialog.get_by_text("One value that you have set otherwise stays.")).to_be_visible()
    dialog.get_by_role("button", name="1968").click()
    expect(dialog.get_by_role("button", name="Take it all the same")).to_be_visible()
    dialog.get_by_role("button", name="2011").click()
    dialog.get_by_role("button", name="Take it", exact=True).click()
    expect(page.get_by_text("Lantern Street - S01E02 - Slack Water", exact=True)).to_be_visible()
    assert values(page, "Title") == ["The Lamp at Number Nine", "Slack Water", "Our own name", "Neap Tide"]
    assert values(page, "Director") == ["Ada Fenwick"] * 4
    page.get_by_label(f"Year of {EPISODES[3]}", exact=True).click()
    expect(page.get_by_text(re.compile("where it is called “Lantern Street .2011.”"))).to_be_visible()
    page.get_by_role("button", name="Undo “Look up Lantern Street”").click()
    expect(page.get_by_label(f"Year of {EPISODES[3]}", exact=True)).to_have_value("")
    assert files(page) == before
    page.goto("/settings")
    allowed = page.get_by_role("checkbox", name=re.compile("^Allow asking http"))
    expect(allowed).to_be_checked()
    allowed.press("Space")
    expect(allowed).not_to_be_checked()


def test_a_sheet_of_many_titles_draws_those_in_view_and_keeps_what_is_typed(page: Page, rheon: Rheon) -> None:
    source = put_source(rheon, "Circle films", "ready")
    put_titles(rheon, source, 620, "Reel")
    # nothing of them can be looked at
    rheon.ask(f"update shelf_title set survey_failed = 1, samples_failed = 1 where source_id = {source}")
    rheon.ask(f"insert into bench_pick (title_id) select id from shelf_title where source_id = {source}")
    page.goto("/bench/names")
    expect(page.get_by_text(re.compile(r"^62\d titles"))).to_be_visible()
    table = page.get_by_role("table", name="Names and tags")
    assert table.get_by_role("row").count() < 80
    first = page.get_by_label("Genre of Reel 1", exact=True)
    first.fill("Home film")
    page.keyboard.press("ControlOrMeta+End")
    page.evaluate("scrollTo(0, document.body.scrollHeight)")
    expect(page.get_by_label("Genre of Reel 620", exact=True)).to_be_visible()
    expect(first).to_have_value("Home film")
    page.evaluate("scrollTo(0, 0)")
    first.press("Enter")
    expect(page.get_by_text("Saving …")).to_have_count(0)
    first.click()
    page.get_by_role("button", name="Fill Genre down (619)").click()
    expect(page.get_by_role("button", name="Undo “Fill down Genre”")).to_be_visible()
    counted = "select count(*) from shelf_title where tags_by_hand like '%Home film%'"
    assert rheon.ask(counted) == [(620,)]


@pytest.mark.stage("a file made")
def test_a_finished_file_gets_another_title_and_is_called_by_it(page: Page, rheon: Rheon) -> None:
    page.goto("/outbox")
    page.get_by_role("link", name="Marram Nights, extra 3").first.click()
    section = page.get_by_role("region", name="Name and tags")
    section.get_by_role("button", name="Change").click()
    section.get_by_label("Title").fill("The marsh at night")
    section.get_by_label("Year").fill("1994")
    section.get_by_role("checkbox", name="Call the file by them too").click()
    expect(section.get_by_role("img", name="Artwork in the file")).to_have_count(0)
    section.get_by_role("button", name="Write into the file").click()
    expect(page.get_by_text(re.compile(r"^The marsh at night\.\w+$"))).to_be_visible()
    expect(section.get_by_text("extra · The marsh at night · 1994")).to_be_visible()
    (made,) = [path for path in rheon.output.iterdir() if path.stem == "The marsh at night"]
    argv = ["ffprobe", "-v", "error", "-show_format", "-of", "json", str(made)]
    said = json.loads(subprocess.run(argv, check=True, capture_output=True).stdout)["format"]["tags"]
    assert (said["title"], said["date"]) == ("The marsh at night", "1994")


@pytest.mark.stage("a file made")
def test_the_sheet_brings_files_that_were_made_up_to_date(page: Page, rheon: Rheon) -> None:
    name = "Marram Nights, extra 3"
    rheon.ask("delete from bench_pick")
    rheon.pick(name)
    page.goto("/bench/names")
    button, behind = (
        page.get_by_role("button", name="made before …"),
        page.get_by_role("dialog", name="Files made before"),
    )
    expect(page.get_by_label(f"Title of {name}", exact=True)).to_be_visible()
    expect(button).to_have_count(0)
    page.get_by_label(f"Title of {name}", exact=True).fill("The marsh at noon")
    page.keyboard.press("Enter")
    button.click()
    expect(behind.get_by_text("One file that was made has other names or tags in it.")).to_be_visible()
    expect(behind.get_by_role("checkbox", name="Call them by it too")).to_be_checked()
    expect(behind.get_by_text(re.compile(r"→ The marsh at noon\.\w+$"))).to_be_visible()
    behind.get_by_role("button", name="Write the new ones into it").click()
    expect(button).to_have_count(0)
    expect(page.get_by_text("Writing into 1 file")).to_have_count(0)
    (made,) = [path for path in rheon.output.iterdir() if path.stem == "The marsh at noon"]
    argv = ["ffprobe", "-v", "error", "-show_format", "-of", "json", str(made)]
    assert (
        json.loads(subprocess.run(argv, check=True, capture_output=True).stdout)["format"]["tags"]["title"] == made.stem
    )
