"""From an empty shelf to a file that plays, in a real browser with real work behind it."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from rheon.demo.models import model_file

from .running import ROOT, Rheon

STAGE = "four devices"
AXE = (ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js").read_text()


def add_source(page: Page, *steps: str) -> None:
    page.get_by_role("button", name="Add a source").first.click()
    chooser = page.get_by_role("dialog", name="Add a source")
    for step in steps:
        chooser.get_by_role("button", name=re.compile(f"^{re.escape(step)}")).first.click()
    chooser.get_by_role("button", name=f"Add {steps[-1]}").click()
    expect(chooser).to_be_hidden()


def add_device(page: Page, model: str, name: str) -> None:
    page.get_by_role("button", name="Add a device").first.click()
    dialog = page.get_by_role("dialog", name="Add a device")
    dialog.get_by_role("tab", name="From a file").click()
    dialog.get_by_label("Its name at home").fill(name)
    dialog.get_by_label("Profile file").set_input_files(model_file(model))
    expect(page.get_by_role("heading", name=name)).to_be_visible()


PLACES = (
    "/shelf/titles/1", "/bench", "/bench/1/2", "/bench/verdicts/1", "/worklist", "/outbox", "/household",
    "/household/1", "/settings", "/start",
)  # fmt: skip


@pytest.mark.stage("empty")
def test_sources_are_added_read_and_the_film_is_picked_with_its_reason(page: Page) -> None:
    page.goto("/")
    expect(page.get_by_role("heading", name="Nothing on the Shelf yet")).to_be_visible()
    add_source(page, "MARRAM_NIGHTS")
    film = page.get_by_role("region", name="Marram Nights")
    expect(film.get_by_role("button", name=re.compile(r"^Title 1, .*film · 3:00 · 6 chapters, picked"))).to_be_visible()
    expect(film.get_by_text("Title 1 taken for the film: the longest by far")).to_be_visible()
    add_source(page, "LANTERN_STREET_S1.iso")
    series = page.get_by_role("region", name="Lantern Street S1")
    expect(series.get_by_role("button", name=re.compile("episode.*, picked$"))).to_have_count(4)
    add_source(page, "camera", "Kite day.mp4")
    expect(page.get_by_role("region", name="Kite day")).to_be_visible()
    expect(page.get_by_text("6 titles picked")).to_be_visible()


def test_a_title_opens_with_tracks_chapters_and_a_film_strip(page: Page) -> None:
    page.goto("/shelf")
    page.get_by_role("button", name=re.compile("^Title 1, .*film")).first.click()
    title = page.get_by_role("complementary", name="Title")
    for text in ("720 × 480, shown 16:9", "AC-3 5.1", "Spanish"):
        expect(title.get_by_text(text).first).to_be_visible()
    expect(title.get_by_role("textbox", name="Name of chapter 6")).to_be_visible()
    strip = title.get_by_role("slider", name="Moment")
    expect(strip.locator("img")).to_have_count(24)
    page.wait_for_function(
        "() => [...document.querySelectorAll('[aria-label=Moment] img')].every((i) => i.naturalWidth > 40)"
    )
    page.keyboard.press("Escape")
    expect(title).to_be_hidden()


@pytest.mark.stage("film and series")
def test_devices_are_added_and_cross_the_picked_titles(page: Page) -> None:
    page.goto("/bench")
    expect(page.get_by_role("heading", name="No devices yet")).to_be_visible()
    page.goto("/household")
    for model, name in (
        ("wren-6", "Ada’s phone"),
        ("heron-8", "Tablet"),
        ("sanderling-2", "Pocket player"),
        ("cormorant-box", "Attic"),
    ):
        add_device(page, model, name)
    page.goto("/bench")
    expect(page.get_by_text("6 titles × 4 columns")).to_be_visible()
    row = page.get_by_role("row", name=re.compile("^Kite day"))
    expect(row.get_by_text("Plays as it is").first).to_be_visible()
    film = page.get_by_role("row", name=re.compile("^Marram Nights"))
    expect(film.get_by_text(re.compile(r"MB · \d+ s")).first).to_be_visible()
    expect(film.get_by_text("one file for 2")).to_be_visible()


def test_a_plan_follows_what_is_set_by_hand_and_becomes_a_file_that_plays(page: Page, rheon: Rheon) -> None:
    page.goto("/shelf")
    page.get_by_role("button", name=re.compile(r"^Title 4, .*extra · 0:09")).focus()
    page.keyboard.press(" ")
    expect(page.get_by_text("7 titles picked")).to_be_visible()
    page.get_by_role("link", name="Take to the Bench").click()
    page.get_by_role("row", name=re.compile("^Marram Nights, extra 3")).get_by_role("cell").get_by_role(
        "link"
    ).first.click()
    expect(page.get_by_role("heading", name="Marram Nights, extra 3")).to_be_visible()
    before = page.get_by_label("Balance").get_by_role("row", name=re.compile("^lean")).inner_text()
    page.get_by_role("radio", name="lean").click()
    expect(page.get_by_role("radio", name="lean")).to_be_checked()
    page.get_by_label("File name").fill('A "second" trailer')
    page.keyboard.press("Enter")
    expect(page.get_by_text("1 pin.")).to_be_visible()
    expect(page.get_by_label("File name")).to_have_value('A "second" trailer')
    assert "B" in before
    page.get_by_role("button", name="Convert").click()
    expect(page.get_by_role("heading", name="Worklist")).to_be_visible()
    page.reload()
    expect(page.get_by_label("done")).to_be_visible(timeout=240_000)
    page.get_by_role("link", name="Outbox →").click()
    expect(page.get_by_text(re.compile(r"^(\d+) of \1 rules hold$"))).to_be_visible()
    assert [path.name for path in rheon.output.iterdir()] == ['A "second" trailer.mp4']
    played = page.locator("video").evaluate(
        "async (video) => { video.muted = true; await video.play();"
        " await new Promise((done) => setTimeout(done, 1200));"
        " return [video.currentTime, video.videoWidth, video.duration]; }"
    )
    assert played[0] > 0.4
    assert played[1:] == [854, pytest.approx(9.01, abs=0.3)]
    there = page.get_by_role("region", name="Did it play there?").get_by_role("listitem")
    there.first.get_by_role("button", name=re.compile("^It plays on")).click()
    expect(there.first.get_by_text("it plays", exact=True)).to_be_visible()
    with page.expect_download() as download:
        page.get_by_role("link", name="Download").click()
    assert Path(download.value.path()).stat().st_size == (rheon.output / 'A "second" trailer.mp4').stat().st_size


def choose(page: Page, label: str, text: str) -> None:
    page.get_by_role("combobox", name=label).click()
    page.get_by_role("option", name=text).click()


def test_a_minute_is_tried_before_a_night_is_spent_and_thrown_away_with_its_file(page: Page, rheon: Rheon) -> None:
    film = rheon.ask("select id from shelf_title where name = 'Marram Nights'")[0][0]
    attic = rheon.ask(
        "select t.id from bench_target t join household_device d on d.id = t.device_id where d.name = 'Attic'"
    )
    page.goto(f"/bench/{film}/{attic[0][0]}")
    page.get_by_label("Ask for").first.click()
    page.get_by_role("option", name="a time to make it").click()
    page.get_by_label("Time in minutes").fill("30")
    page.get_by_label("Time in minutes").press("Enter")
    expect(page.get_by_text("1 pin.").or_(page.get_by_role("alert"))).to_be_visible()
    page.get_by_role("button", name="A minute to try").press("Enter")
    expect(page.get_by_text("a minute to try").first).to_be_visible()
    page.get_by_role("link", name="Outbox →").click()
    expect(page.get_by_role("heading", name="Marram Nights")).to_be_visible()
    expect(page.get_by_text("A minute to try.")).to_be_visible()
    (path,) = rheon.ask("select path from outbox_output")[0]
    assert Path(path).parent == rheon.output / "To try" and Path(path).exists()
    expect(page.get_by_role("region", name="Did it play there?").get_by_text("Attic")).to_be_visible()
    page.get_by_role("button", name="Throw away").click()
    expect(page.get_by_text("The minute of Marram Nights is thrown away.")).to_be_visible()
    page.goto("/shelf")  # which leaves no more time to take it back
    page.goto("/outbox")
    expect(page.get_by_role("heading", name="No files yet")).to_be_visible()
    assert not Path(path).exists()


def test_sound_and_subtitles_are_chosen_and_the_rest_follows(page: Page) -> None:
    page.goto("/bench")
    page.get_by_role("row", name=re.compile("^Marram Nights Which")).get_by_role("cell").get_by_role(
        "link"
    ).last.click()
    subtitles = page.get_by_role("region", name="Subtitles")
    sound = page.get_by_role("region", name="Sound")
    expect(page.get_by_text("Re-wrap").first).to_be_visible()
    choose(page, "Track", "Spanish, stereo")
    expect(sound.get_by_text("set by hand").first).to_be_visible()
    expect(subtitles.get_by_text("the sound is in no language of the household")).to_be_visible()
    expect(subtitles.get_by_role("combobox", name="Subtitle")).to_have_text("English, a track to switch on")
    choose(page, "Form", "drawn into the picture")
    expect(page.get_by_role("region", name="Picture").get_by_text(re.compile("^constant quality"))).to_be_visible()
    choose(page, "Subtitle", "none")
    expect(page.get_by_text("3 pins.")).to_be_visible()
    page.get_by_role("button", name="Track: let Rheon choose again").click()
    expect(page.get_by_text("2 pins.")).to_be_visible()
    page.get_by_role("button", name="Let Rheon choose again", exact=True).click()
    expect(page.get_by_text(re.compile(r"\d pins?\."))).to_be_hidden()
    expect(sound.get_by_role("combobox", name="Track")).to_have_text("English, 5.1")


def test_everything_is_within_reach_of_the_keyboard(page: Page, rheon: Rheon) -> None:
    rheon.pick("Marram Nights, extra 3")
    page.goto("/shelf")
    expect(page.get_by_role("heading", name="Shelf")).to_be_visible()
    for key, heading in (("2", "Bench"), ("3", "Worklist"), ("4", "Outbox"), ("5", "Household"), ("1", "Shelf")):
        page.keyboard.press(key)
        expect(page.get_by_role("heading", name=heading, exact=True)).to_be_visible()
    page.keyboard.press("?")
    expect(page.get_by_role("dialog", name="Keys")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog", name="Keys")).to_be_hidden()
    slow = page.context.new_cdp_session(page)
    # somebody who types faster than a slow machine draws
    slow.send("Emulation.setCPUThrottlingRate", {"rate": 20})
    page.keyboard.press("/")
    page.keyboard.type("episode 3")
    slow.send("Emulation.setCPUThrottlingRate", {"rate": 1})
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Lantern Street S1, episode 3")).to_be_visible()
    page.goto("/bench")
    page.get_by_role("row", name=re.compile("^Marram Nights Which")).get_by_role("cell").get_by_role(
        "link"
    ).first.focus()
    page.keyboard.press("ArrowDown")
    page.keyboard.press("ArrowRight")
    page.keyboard.press("Enter")
    # the next title, and there the neighbour of the cell that phone and tablet share
    expect(page.get_by_role("heading", name="Marram Nights, extra 3")).to_be_visible()
    expect(page.get_by_text("for Pocket player")).to_be_visible()


def test_a_source_that_can_t_be_read_says_why_and_a_refusal_is_shown_where_it_happened(page: Page) -> None:
    page.goto("/shelf/titles/9999")
    expect(page.get_by_text("This is not there any more.")).to_be_visible()
    page.goto("/nowhere")
    expect(page.get_by_role("heading", name="There is nothing at this address")).to_be_visible()


@pytest.mark.stage("a file made")
@pytest.mark.parametrize("path", PLACES)
def test_every_place_fits_a_phone(page: Page, path: str) -> None:
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(path)
    expect(page.get_by_role("main").get_by_role("heading").first).to_be_visible()
    page.wait_for_timeout(800)
    wide, room = page.evaluate("() => [document.documentElement.scrollWidth, innerWidth]")
    assert wide <= room


def test_nothing_moves_when_a_dialog_or_a_menu_opens(page: Page) -> None:
    for path, opener in (("/household", "Add a device"), ("/shelf", "More for Marram Nights")):
        page.set_viewport_size({"width": 1280, "height": 320})  # low enough to scroll
        page.goto(path)
        heading = page.get_by_role("main").get_by_role("heading").first
        expect(heading).to_be_visible()
        page.get_by_role("button", name=opener).first.focus()  # a click would scroll to it
        page.wait_for_timeout(500)
        before = heading.bounding_box()
        page.keyboard.press("Enter")
        page.wait_for_timeout(400)
        assert page.locator("h1, h2").first.bounding_box() == before
        page.keyboard.press("Escape")


@pytest.mark.stage("a file made")
@pytest.mark.parametrize("theme", ["light", "dark"])
@pytest.mark.parametrize("path", PLACES)
def test_every_place_is_accessible(page: Page, path: str, theme: str) -> None:
    page.emulate_media(color_scheme="dark" if theme == "dark" else "light", reduced_motion="reduce")
    page.goto(path)
    expect(page.get_by_role("main").get_by_role("heading").first).to_be_visible()
    page.wait_for_timeout(1200)
    expect(page.get_by_text(re.compile("^Reading .* …$"))).to_have_count(0)  # everything has arrived
    page.evaluate(AXE)
    found = page.evaluate("async () => (await axe.run()).violations.map((v) => [v.id, v.nodes.map((n) => n.html)])")
    assert found == []
