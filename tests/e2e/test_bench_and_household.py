"""The Bench and the Household in depth, as people use them."""

from __future__ import annotations

import re
import urllib.error
import urllib.request
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, Route, expect
from tests.e2e.running import Rheon, window
from tests.instruments.readback import see
from tests.instruments.waiting import until

from rheon.core.engine import probe

STAGE = "five devices"


def choose(page: Page, label: str, text: str) -> None:
    page.get_by_role("combobox", name=label, exact=True).click()
    page.get_by_role("option", name=text).click()


def title_of(rheon: Rheon, name: str) -> int:
    return int(rheon.ask("select id from shelf_title where name = ?", name)[0][0])


def target_of(rheon: Rheon, device: str) -> int:
    found = "select t.id from bench_target t join household_device d on t.device_id = d.id where d.name = ?"
    return int(rheon.ask(found, device)[0][0])


def open_sheet(page: Page, title: str, device: str) -> None:
    """Through the list of verdicts, which has every device once."""
    page.goto("/bench")
    page.get_by_role("link", name=f"Which devices play {title}?").click()
    card = page.get_by_role("listitem").filter(has=page.get_by_role("heading", name=device))
    card.get_by_role("link").click()
    expect(page.get_by_text(f"for {device}", exact=True)).to_be_visible()


def test_verdicts_say_rule_by_rule_what_stands_against_a_device(page: Page) -> None:
    page.goto("/bench")
    page.get_by_role("link", name="Which devices play Marram Nights?").click()
    expect(page.get_by_text("0 of 5 play it as it is.")).to_be_visible()
    broken = page.get_by_role("table", name="Rules that heron-8 would break")
    expect(broken.get_by_role("row", name=re.compile("video codec.*MPEG-2.*H.264"))).to_be_visible()
    page.get_by_text("9 other rules hold").click()
    expect(page.get_by_role("table", name="Rules that hold for cormorant-box")).to_be_visible()


def test_a_pin_against_the_rules_is_marked_moves_others_and_is_taken_back(page: Page) -> None:
    open_sheet(page, "Lantern Street S1, episode 1", "heron-8")
    choose(page, "Container", "WebM")
    expect(page.get_by_text("Set against rules.")).to_be_visible()
    expect(page.get_by_text("heron-8: it will show no picture", exact=False).first).to_be_visible()
    moved = page.get_by_role("region", name="What moved")
    expect(moved.get_by_text("VP9 profile 0", exact=False)).to_be_visible()
    page.get_by_role("button", name="Container: let Rheon choose again").click()
    expect(page.get_by_text("Set against rules.")).to_be_hidden()


def test_experts_find_every_setting_and_type_numbers(page: Page) -> None:
    open_sheet(page, "Lantern Street S1, episode 1", "heron-8")
    page.get_by_role("button", name=re.compile("more settings")).click()
    for label in ("Profile", "Level", "Colours", "Deinterlacer", "Preset", "Channels", "Sample rate"):
        expect(page.get_by_role("combobox", name=label, exact=True)).to_be_visible()
    page.get_by_role("button", name="Type a value for Rate").click()
    choose(page, "Kind", "MB for the file")
    page.get_by_role("textbox", name="Rate").fill("2")
    page.get_by_role("button", name="Set it").click()
    expect(page.get_by_text(re.compile(r"kb/s on average, for 2 MB"))).to_be_visible()
    expect(page.get_by_text("the first measures, so that the rate is met well").first).to_be_visible()
    expect(page.get_by_text("2.00 MB").first).to_be_visible()


def test_settings_go_to_siblings_and_are_kept_under_a_name(page: Page, rheon: Rheon) -> None:
    cell = (title_of(rheon, "Lantern Street S1, episode 1"), target_of(rheon, "heron-8"))
    rheon.call("PATCH", f"bench/plans/{cell[0]}/{cell[1]}", {"pins": {"picture.rate": "size:2"}})
    open_sheet(page, "Lantern Street S1, episode 1", "heron-8")
    page.get_by_role("button", name="Use these settings elsewhere").click()
    page.get_by_role("menuitem", name="Give to its 3 siblings").click()
    expect(page.get_by_text("3 titles have these settings too.")).to_be_visible()
    page.get_by_role("button", name="Use these settings elsewhere").click()
    page.get_by_role("menuitem", name="Keep under a name").click()
    page.get_by_role("textbox", name="Name", exact=True).fill("Two megabytes")
    page.get_by_role("button", name="Use this name").click()
    open_sheet(page, "Lantern Street S1, episode 3", "heron-8")
    expect(page.get_by_text("1 pin.")).to_be_visible()
    open_sheet(page, "Lantern Street S1, episode 3", "wren-6")
    page.get_by_role("button", name="Use these settings elsewhere").click()
    page.get_by_role("menuitem", name="Use “Two megabytes”").click()
    expect(page.get_by_text(re.compile(r"for 2 MB"))).to_be_visible()


def test_the_divide_moves_between_source_and_result(page: Page) -> None:
    open_sheet(page, "Marram Nights", "heron-8")
    after = page.get_by_alt_text(re.compile("^As it will be"))
    page.wait_for_function(
        "() => [...document.querySelectorAll('main img[alt^=As]')].every((i) => i.complete && i.naturalWidth > 400)",
        timeout=240_000,
    )
    assert after.evaluate("(image) => image.naturalHeight") in (360, 480)
    divide = page.get_by_role("slider", name="Divide between source and result")
    divide.focus()
    page.keyboard.press("ArrowRight")
    expect(divide).to_have_attribute("aria-valuenow", "55")
    page.keyboard.press("End")
    expect(divide).to_have_attribute("aria-valuenow", "100")


BOTH_PLAY = (
    "() => { const all = [...document.querySelectorAll('main video')];"
    " return all.length === 2 && all.every((video) => video.videoWidth && video.currentTime > 1.5); }"
)


def test_seconds_of_the_file_play_in_step_with_the_source_before_it_is_made(page: Page, rheon: Rheon) -> None:
    open_sheet(page, "Marram Nights", "heron-8")
    page.get_by_role("button", name="Play", exact=True).press("Enter")
    made, source = (
        page.get_by_label(re.compile("^Playing as it will be")),
        page.get_by_label(re.compile("^Playing the")),
    )
    expect(made).to_be_visible()
    page.wait_for_function(BOTH_PLAY, timeout=240_000)
    now = [video.evaluate("(video) => [video.currentTime, video.videoHeight, video.muted]") for video in (made, source)]
    assert abs(now[0][0] - now[1][0]) < 0.4
    assert [one[1:] for one in now] == [[360, False], [480, True]]
    page.get_by_role("slider", name="Divide between source and result").press("ArrowRight")
    page.get_by_role("button", name="Stop", exact=True).click()
    expect(made).to_be_hidden()
    expect(page.get_by_alt_text(re.compile("^As it will be"))).to_be_visible()
    # what is copied is shown whole, with the subtitles that are switched on meanwhile
    cell = title_of(rheon, "Marram Nights"), target_of(rheon, "cormorant-box")
    tracks = {"subtitles.track": "0,1", "subtitles.form": "track"}
    rheon.call("PATCH", f"bench/plans/{cell[0]}/{cell[1]}", {"pins": tracks})
    open_sheet(page, "Marram Nights", "cormorant-box")
    page.get_by_role("button", name="Play", exact=True).press("Enter")
    page.wait_for_function("() => document.querySelector('main video')?.currentTime > 0.5")
    expect(page.get_by_role("slider", name="Divide between source and result")).to_have_count(0)
    page.get_by_role("combobox", name="Subtitles switched on").press("Enter")
    with page.expect_response(lambda answer: "subtitle=1" in answer.url, timeout=240_000) as asked:
        page.get_by_role("option", name="Subtitles: Spanish").press("Enter")
    assert asked.value.ok
    page.wait_for_function("() => document.querySelector('main video')?.currentTime > 0.5")


def test_the_frame_is_moved_by_mouse_and_by_keys_and_the_file_has_it(page: Page, rheon: Rheon) -> None:
    page.goto(f"/bench/{title_of(rheon, 'Marram Nights, extra 3')}/{target_of(rheon, 'heron-8')}")
    page.get_by_role("button", name="Frame", exact=True).press("Enter")
    expect(page.get_by_alt_text(re.compile("^The whole picture"))).to_be_visible()
    above = page.get_by_role("slider", name="Cut away above")
    above.press("Shift+ArrowDown")
    above.press("ArrowDown")
    expect(page.get_by_label("Cut away above, in stored pixels")).to_have_value("18")
    expect(page.get_by_text("18 above", exact=True)).to_be_visible()
    right = page.get_by_role("slider", name="Cut away right")
    box, picture = right.bounding_box(), page.get_by_alt_text(re.compile("^The whole picture")).bounding_box()
    assert box and picture
    at = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.move(*at)
    page.mouse.down()
    page.mouse.move(at[0] - picture["width"] / 4, at[1], steps=4)
    page.mouse.up()
    expect(page.get_by_label("Cut away right, in stored pixels")).to_have_value(re.compile("17[68]|18[0-4]"))
    below = page.get_by_label("Cut away below, in stored pixels")
    below.fill("22")
    below.press("Enter")
    expect(page.get_by_text(re.compile("^18 above, 22 below, 1[78]. right$"))).to_be_visible()
    shape = page.get_by_role("region", name="Frame").get_by_role("combobox", name="Aspect")
    shape.press("Enter")
    page.get_by_role("option", name="4:3", exact=True).press("Enter")
    expect(shape).to_have_text("4:3")
    page.get_by_role("checkbox", name="Circle and squares").press("Space")
    page.get_by_role("button", name="Frame is done").press("Enter")
    # looked at as it will be while both sides play, and for a size, before it is made
    page.get_by_role("button", name="Play", exact=True).press("Enter")
    page.wait_for_function(BOTH_PLAY, timeout=240_000)
    page.get_by_role("slider", name="Divide between source and result").press("ArrowLeft")
    page.get_by_role("button", name="Stop", exact=True).press("Enter")
    size = page.get_by_role("textbox", name="Size in MB")
    size.fill("2")
    size.press("Enter")
    expect(page.get_by_text(re.compile("for 2 MB"))).to_be_visible()
    page.get_by_role("button", name="Convert", exact=True).press("Enter")
    expect(page.get_by_role("link", name="Outbox →")).to_be_visible(timeout=240_000)
    made = probe(rheon.ask("select path from outbox_output")[0][0])
    video = made.video
    assert made.size_bytes == pytest.approx(2e6, rel=0.05)
    assert video and video.height == 480 - 40
    assert float(video.display_aspect) == pytest.approx(4 / 3 * (540 / 720) / (440 / 480), rel=0.02)


def test_what_each_balance_keeps_is_measured_drawn_and_asked_for_by_keys(page: Page, rheon: Rheon) -> None:
    page.goto(f"/bench/{title_of(rheon, 'Marram Nights, extra 3')}/{target_of(rheon, 'heron-8')}")
    page.get_by_role("button", name="Measure the fidelity").press("Enter")
    curve = page.get_by_role("figure", name="Fidelity by size")
    # the middle and both ends come first, and are enough to ask for something between them
    expect(curve.get_by_role("button").nth(2)).to_be_visible(timeout=360_000)
    expect(page.get_by_text("VMAF as people judge it", exact=False)).to_be_visible()
    curve.get_by_role("button", name=re.compile("^lean: ")).press("Enter")
    expect(page.get_by_role("radio", name="lean")).to_be_checked()
    said = [
        float((row.get_attribute("aria-label") or "").split(", ")[1])
        for row in curve.get_by_role("button", name=re.compile("^(lean|even): ")).all()
    ]
    page.get_by_role("combobox", name="Ask for").press("Enter")
    page.get_by_role("option", name="a fidelity (VMAF)").press("Enter")
    field = page.get_by_role("textbox", name="Fidelity")
    field.fill("3")
    field.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("Between what was measured")
    field.fill(f"{sum(said) / 2:.2f}")
    field.press("Enter")
    expect(page.get_by_role("button", name="Rate: let Rheon choose again")).to_be_visible()
    page.get_by_role("combobox", name="Ask for").press("Enter")
    page.get_by_role("option", name="a size").press("Enter")
    page.get_by_role("textbox", name="Size in MB").fill("2")
    page.get_by_role("button", name="Find the rate").press("Enter")
    expect(page.get_by_text(re.compile("for 2 MB"))).to_be_visible()


def test_several_devices_share_a_file_and_goals_stand_beside_them(page: Page) -> None:
    page.goto("/bench")
    page.get_by_role("button", name="Also make").click()
    page.get_by_role("menuitem", name="One file for several devices").click()
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_role("heading", name="One file serves them all")).to_be_visible()
    dialog.get_by_role("checkbox", name="Serve sanderling-2").click()
    dialog.get_by_role("button", name="Put the shared file on the Bench").click()
    expect(page.get_by_role("columnheader", name=re.compile("share one file"))).to_be_visible()
    page.get_by_role("button", name="Also make").click()
    page.get_by_role("menuitem", name=re.compile("^Faithful copy")).click()
    expect(page.get_by_role("columnheader", name=re.compile("^Faithful copy"))).to_be_visible()
    page.get_by_role("button", name="Take Faithful copy off the Bench").click()
    expect(page.get_by_role("columnheader", name=re.compile("^Faithful copy"))).to_be_hidden()


def test_many_cells_are_picked_with_shift_and_converted_in_one_act(page: Page) -> None:
    page.goto("/bench")
    rows = [page.get_by_role("row", name=re.compile(f"^Lantern Street S1, episode {n}")) for n in (1, 4)]
    rows[0].get_by_role("cell").get_by_role("checkbox").nth(0).click()
    rows[1].get_by_role("cell").get_by_role("checkbox").nth(2).click(modifiers=["Shift"])
    expect(page.get_by_text(re.compile(r"^1[0-9] cells picked"))).to_be_visible()
    page.get_by_role("button", name="Clear").click()
    page.get_by_role("checkbox", name="Pick Marram Nights for every device").click()
    expect(page.get_by_text(re.compile(r"^5 cells picked"))).to_be_visible()


def test_everything_for_a_device_means_what_is_not_planned_yet_too(page: Page, rheon: Rheon) -> None:
    others = "select id from shelf_title where id not in (select title_id from bench_pick)"
    rheon.ask(f"insert into bench_pick (title_id) {others}")
    held: list[Route] = []
    seen, released = 0, False
    page.set_viewport_size({"width": 1280, "height": 420})  # low, so that most rows are out of sight

    def hold_back(route: Route) -> None:
        nonlocal seen
        seen += 1
        if seen == 1 or released:  # the rows in sight
            route.continue_()
        else:
            held.append(route)

    page.route("**/api/bench/cells*", hold_back)
    page.goto("/bench")
    rows = int(page.get_by_text(re.compile(r"^\d+ titles × ")).inner_text().split()[0])
    assert rows > 8
    everything = page.get_by_role("checkbox", name="Pick everything for heron-8")
    everything.click()
    expect(page.get_by_text(re.compile(r"^planning \d+ more titles?"))).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("^Convert "))).to_be_disabled()
    released = True
    for route in held:
        route.continue_()
    # all but the camera's clip, which the device plays as it is
    expect(page.get_by_text(re.compile(rf"^{rows - 1} cells picked"))).to_be_visible(timeout=240_000)
    expect(everything).to_be_checked()


def test_a_profile_is_edited_with_warnings_as_it_is_typed(page: Page) -> None:
    page.goto("/household")
    page.get_by_role("link", name="Edit profile of heron-8").click()
    expect(page.get_by_role("heading", name="Profile of heron-8")).to_be_visible()
    page.get_by_label("Picture 1, Widest").fill("3840")
    page.get_by_label("Picture 1, Highest").fill("2160")
    expect(page.get_by_text("Level 3.1 holds no 3840 × 2160; pictures will be smaller.")).to_be_visible()
    page.get_by_label("Picture 1, Level").fill("77")
    expect(page.get_by_text(re.compile("level 77 is not one of h264's"))).to_be_visible()
    expect(page.get_by_role("button", name="Save profile")).to_be_disabled()
    page.get_by_label("Picture 1, Level").fill("5.1")
    expect(page.get_by_role("complementary").get_by_text(re.compile("level 5.1 up to 3840 × 2160"))).to_be_visible()
    page.get_by_role("button", name="Save profile").click()
    expect(page.get_by_role("heading", name="Household")).to_be_visible()
    expect(page.get_by_text(re.compile("H.264 level 5.1 up to 3840 × 2160"))).to_be_visible()


def test_members_and_wishes_reach_the_plans(page: Page) -> None:
    page.goto("/household")
    page.get_by_role("button", name="Somebody with other wishes").click()
    page.get_by_role("textbox", name="Name").fill("The children")
    page.get_by_role("button", name="Use this name").click()
    page.get_by_role("button", name=re.compile("^The children")).click()
    choose(page, "Sound", "stereo")
    page.get_by_role("button", name="Done").click()
    page.get_by_role("button", name="Wishes and space of gannet-43").click()
    choose(page, "Whose is it?", "The children")
    page.get_by_role("textbox", name=re.compile("^Free space")).fill("0.001")
    page.get_by_role("button", name="Done").click()
    expect(page.get_by_text("The children · 1.00 MB free")).to_be_visible()
    open_sheet(page, "Marram Nights", "gannet-43")
    expect(page.get_by_role("combobox", name="Becomes")).to_have_text(re.compile("stereo"))
    expect(page.get_by_text("more than the 1.00 MB free")).to_be_visible()


def test_a_device_is_asked_by_its_own_browser_and_only_while_pairing_is_on(
    page: Page, rheon: Rheon, browser: Browser
) -> None:
    rheon.start("devices")
    with pytest.raises(urllib.error.URLError):
        urllib.request.urlopen(f"http://127.0.0.1:{rheon.pairing_port}/", timeout=2)
    page.goto("/household")
    page.get_by_role("button", name="Ask a device").click()
    page.get_by_role("button", name="Turn the page on").click()
    expect(page.get_by_role("img", name=re.compile("QR code"))).to_be_visible()
    code = str(rheon.ask("select code from household_pairing")[0][0])
    until(lambda: _listens(rheon))
    asked = window(browser, viewport={"width": 900, "height": 500}).new_page()
    asked.goto(f"http://127.0.0.1:{rheon.pairing_port}/")
    asked.get_by_role("textbox").fill(code.upper())
    asked.get_by_role("button", name="Go on").click()
    asked.get_by_role("button", name="Start").click()
    # the workers may be in the middle of looking at titles when the clips are to be made
    expect(page.get_by_text(re.compile(r"^The device is at clip \d+ of \d+\.$"))).to_be_visible(timeout=240_000)
    expect(asked.get_by_text(re.compile("^Done"))).to_be_visible(timeout=240_000)
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_text(re.compile("H.264 level"))).to_be_visible()
    dialog.get_by_role("textbox", name="Its name at home").fill("This very browser")
    dialog.get_by_role("button", name="Add this device").click()
    card = page.get_by_role("listitem").filter(has=page.get_by_role("heading", name="This very browser"))
    expect(card.get_by_role("button", name="proven H.264 level")).to_be_visible()
    card.get_by_text("What was seen and said").click()
    expect(card.get_by_text("played", exact=True).first).to_be_visible()
    page.wait_for_timeout(3000)
    assert not _listens(rheon)


def _listens(rheon: Rheon) -> bool:
    try:
        urllib.request.urlopen(f"http://127.0.0.1:{rheon.pairing_port}/", timeout=2).close()
    except (urllib.error.URLError, OSError):
        return False
    return True


def test_logos_are_cut_off_and_a_piece_is_taken_out_with_the_mouse(page: Page) -> None:
    open_sheet(page, "Marram Nights", "heron-8")
    kept = page.get_by_role("region", name="What is kept")
    begin = page.get_by_role("slider", name="Begin of stretch 1")
    box = begin.bounding_box()
    assert box
    page.mouse.move(box["x"] + 4, box["y"] + 20)
    page.mouse.down()
    page.mouse.move(box["x"] + 90, box["y"] + 20, steps=8)
    page.mouse.up()
    expect(page.get_by_role("button", name="Kept: let Rheon choose again")).to_be_visible()
    strip = page.get_by_role("slider", name="Moment").bounding_box()
    assert strip
    page.mouse.click(strip["x"] + strip["width"] * 0.6, strip["y"] + 20)
    kept.get_by_role("button", name="Take out a piece").click()
    expect(kept.get_by_text("2 stretches, one after the other")).to_be_visible()
    expect(page.get_by_text(re.compile(r"^0:2\d.* together$"))).to_be_visible()
    kept.get_by_role("button", name="Leave out stretch 2").click()
    choose(page, "Last chapter to keep", "3")
    expect(kept.get_by_role("combobox", name="First chapter to keep")).to_contain_text("1")
    expect(kept.get_by_role("textbox", name="Stretch 1 to")).to_have_value(re.compile(r"^1:30"))
    kept.get_by_role("button", name="Keep all of it").click()
    expect(page.get_by_text("nothing is cut off")).to_be_visible()


def test_a_range_is_chosen_by_the_keyboard_alone_and_the_file_holds_just_that(page: Page, rheon: Rheon) -> None:
    page.goto(f"/bench/{title_of(rheon, 'Marram Nights, extra 3')}/{target_of(rheon, 'heron-8')}")
    strip = page.get_by_role("slider", name="Moment")
    strip.focus()
    for key in ("Home", "Shift+ArrowRight", "Shift+ArrowRight", "ArrowRight", "["):
        page.keyboard.press(key)
    expect(strip).to_have_attribute("aria-valuetext", "0:02.035")
    until = page.get_by_role("textbox", name="Stretch 1 to")
    until.focus()
    page.keyboard.press("Control+A")
    page.keyboard.type("nonsense")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("0:01:23:12")
    expect(page.get_by_role("alert")).to_be_in_viewport(ratio=0.9)
    page.keyboard.press("Control+A")
    page.keyboard.type("#150")
    page.keyboard.press("Enter")
    expect(page.get_by_text("0:02.035 to 0:05.005")).to_be_visible()
    page.get_by_role("button", name="Convert", exact=True).press("Enter")
    expect(page.get_by_role("link", name="Outbox →")).to_be_visible(timeout=240_000)
    path = rheon.ask("select path from outbox_output")[0][0]
    assert len(see(Path(path)).times) == 89


def test_what_plays_as_it_is_is_turned_and_what_can_not_be_meant_any_more_is_taken_back(
    page: Page, rheon: Rheon
) -> None:
    title, tablet, box = title_of(rheon, "Kite day"), target_of(rheon, "heron-8"), target_of(rheon, "cormorant-box")
    page.goto(f"/bench/{title}/{tablet}")
    expect(page.get_by_text("plays this file as it is")).to_be_visible()
    page.get_by_role("button", name="Frame", exact=True).press("Enter")
    turned = page.get_by_role("region", name="Frame").get_by_role("combobox", name="Turned")
    turned.press("Enter")
    page.get_by_role("option", name="a quarter to the left").press("Enter")
    expect(page.get_by_text("its picture is made anew for what was set by hand")).to_be_visible()
    expect(turned).to_have_text("a quarter to the left")
    expect(page.get_by_text("That moved")).to_have_count(0)
    # set for a track that the title had once
    pins = '{"sound.track": "7", "picture.size": "360"}'
    rheon.ask(
        "insert into bench_celloverride (title_id, target_id, balance, pins) values (?, ?, '', ?)", title, box, pins
    )
    page.goto(f"/bench/{title}/{box}")
    expect(page.get_by_role("alert")).to_contain_text("can't be meant here any more. This title has no audio track 7.")
    page.get_by_role("button", name="Take it back").press("Enter")
    expect(page.get_by_text("1 pin.")).to_be_visible()


def test_one_goes_from_scene_to_scene_and_sees_small_frames_while_scrubbing(page: Page, rheon: Rheon) -> None:
    page.goto(f"/bench/{title_of(rheon, 'Kite day')}/{target_of(rheon, 'heron-8')}")
    strip = page.get_by_role("slider", name="Moment")
    strip.press("Home")
    strip.press("n")
    expect(strip).to_have_attribute("aria-valuetext", "0:12")
    page.get_by_role("button", name="Next scene").click()
    expect(page.get_by_text("No other scene within a minute.")).to_be_visible()
    expect(strip.locator("polygon")).to_be_visible()
    box = strip.bounding_box()
    assert box
    meanwhile = page.locator("[data-meanwhile]")
    page.mouse.move(box["x"] + 20, box["y"] + 20)
    page.mouse.down()
    seen = 0
    for step in range(400):
        page.mouse.move(box["x"] + 20 + step % 100 * 4, box["y"] + 20)
        seen += meanwhile.count()
        if seen > 3:
            break
    assert seen > 3
    page.mouse.up()
    expect(meanwhile).to_have_count(0)
