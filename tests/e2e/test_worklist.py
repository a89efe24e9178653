"""A night's work: ordered, paused, held back, planned again, and gone on with after a kill; in a real browser."""

from __future__ import annotations

import csv
import re
import time

import pytest
from playwright.sync_api import Locator, Page, expect
from tests.instruments.waiting import until

from .running import Rheon

STAGE = "four devices"


def queue_episodes(rheon: Rheon) -> tuple[str, str, str, str]:
    """Put four episodes on the Worklist, and give their names."""
    rows = rheon.ask("select id, name from shelf_title where name like 'Lantern Street S1, episode%' order by name")
    attic = rheon.ask("select id from household_device where name = 'Attic'")[0][0]
    rheon.call("POST", "worklist/jobs", {"cells": [{"title_id": pk, "target_id": attic} for pk, _ in rows]})
    one, two, three, four = (name for _, name in rows)
    return one, two, three, four


IN_ORDER = "select title_name from worklist_job where state = 'waiting' order by position, id"


def waiting(page: Page) -> Locator:
    return page.get_by_role("region", name="Waiting")


def names_of(rows: Locator) -> Locator:
    return rows.get_by_role("listitem").locator(".font-semibold").filter(has_text="episode")


def start_film(page: Page) -> None:
    page.goto("/bench")
    page.get_by_role("row", name=re.compile("^Marram Nights Which")).get_by_role("cell").get_by_role(
        "checkbox"
    ).first.click()
    page.get_by_role("button", name=re.compile("^Convert 1 file")).click()
    expect(page.get_by_role("article", name="Marram Nights").get_by_text("real time")).to_be_visible(timeout=240_000)


def stands_still(job: Locator) -> bool:
    """What was on its way when it was paused still comes in."""
    said = job.inner_text()
    time.sleep(1.5)
    return job.inner_text() == said


def parts(rheon: Rheon) -> list[str]:
    return [path.name for path in rheon.output.iterdir() if path.name.startswith(".rheon")]


def test_more_is_added_while_it_works_and_stopping_leaves_nothing(page: Page, rheon: Rheon) -> None:
    rheon.pick("Marram Nights, extra 3")
    start_film(page)
    assert parts(rheon)
    page.goto("/bench")
    page.get_by_role("row", name=re.compile("^Marram Nights, extra 3")).get_by_role("cell").get_by_role(
        "checkbox"
    ).last.click()
    page.get_by_role("button", name=re.compile("^(Convert|Re-wrap) 1 file")).click()
    expect(page.get_by_role("region", name="Waiting").get_by_text("Marram Nights, extra 3")).to_be_visible()
    expect(page.get_by_text(re.compile("All done about"))).to_be_visible()
    page.get_by_role("article", name="Marram Nights").get_by_role("button", name="Stop").click()
    expect(page.get_by_text("Stopped. Nothing was kept.")).to_be_visible()
    expect(page.get_by_role("region", name="Ended").get_by_label("done")).to_be_visible(timeout=240_000)
    assert parts(rheon) == []


def test_what_waits_is_put_in_another_order_by_mouse_by_keys_and_several_at_once(page: Page, rheon: Rheon) -> None:
    rheon.kill("convert")
    one, two, three, four = queue_episodes(rheon)
    page.goto("/worklist")
    rows = waiting(page)
    names = names_of(rows)

    def handle(name: str) -> Locator:
        return rows.get_by_role("button", name=re.compile(f"^Move {name}"))

    expect(names).to_have_text([one, two, three, four])
    handle(four).drag_to(rows.get_by_text(two), target_position={"x": 5, "y": 1})
    expect(names).to_have_text([one, four, two, three])
    handle(one).press("ArrowDown")
    expect(names).to_have_text([four, one, two, three])
    handle(three).press("Home")
    expect(names).to_have_text([three, four, one, two])
    expect(handle(three)).to_be_focused()
    rows.get_by_role("checkbox", name=f"Choose {three}").click()
    rows.get_by_role("checkbox", name=f"Choose {four}").click()
    page.get_by_role("button", name="Make last").click()
    expect(names).to_have_text([one, two, three, four])
    handle(four).press("ArrowUp")  # with the other one that is chosen
    expect(names).to_have_text([one, three, four, two])
    # the page shows it before the server has heard of it
    until(lambda: [name for (name,) in rheon.ask(IN_ORDER)] == [one, three, four, two])
    page.reload()
    expect(names).to_have_text([one, three, four, two])
    rheon.start("convert")
    expect(page.get_by_role("region", name="Ended").get_by_role("listitem")).to_have_count(4)
    made = rheon.ask("select title_name from worklist_job order by started")
    assert [name for (name,) in made] == [one, three, four, two]


def test_what_a_killed_worker_was_at_goes_on_by_itself_at_its_next_start(page: Page, rheon: Rheon) -> None:
    start_film(page)
    page.get_by_role("article", name="Marram Nights").get_by_role("button", name="Stop").click()
    page.get_by_role("button", name="Try again: Marram Nights").click()
    running = page.get_by_role("article", name="Marram Nights")
    expect(running.get_by_text("real time")).to_be_visible(timeout=240_000)
    # before the kill: another worker may sweep up after the dead one at any moment
    left = parts(rheon)
    assert left
    rheon.kill("convert")
    time.sleep(0.5)
    rheon.start("convert")
    for _ in range(150):
        if parts(rheon) and not set(parts(rheon)) & set(left):
            break
        time.sleep(0.2)
    assert parts(rheon) and not set(parts(rheon)) & set(left)
    expect(running.get_by_text("real time")).to_be_visible(timeout=240_000)
    running.get_by_role("button", name="Stop").click()
    expect(page.get_by_text("Stopped. Nothing was kept.").first).to_be_visible()


def test_what_is_paused_stands_still_even_when_the_machine_starts_again_and_goes_on_when_it_is_let(
    page: Page, rheon: Rheon
) -> None:
    start_film(page)
    film = page.get_by_role("article", name="Marram Nights")
    film.get_by_role("button", name="Pause Marram Nights").press("Enter")
    expect(film.get_by_text("nothing else begins meanwhile")).to_be_visible()
    until(lambda: stands_still(film), most_s=30)
    stood = film.inner_text()
    time.sleep(3)
    assert film.inner_text() == stood
    film.get_by_role("button", name="Go on with Marram Nights").press("Enter")
    expect(film.get_by_text("real time")).to_be_visible()
    film.get_by_role("button", name="Pause Marram Nights").press("Enter")
    expect(film.get_by_text("nothing else begins meanwhile")).to_be_visible()
    rheon.kill("convert")
    rheon.start("convert")
    expect(waiting(page).get_by_text("Paused")).to_be_visible()
    assert parts(rheon) == []
    waiting(page).get_by_role("checkbox", name=re.compile("^Choose Marram Nights")).press("Space")
    page.get_by_role("button", name="Let them begin").press("Enter")
    expect(film.get_by_text("real time")).to_be_visible(timeout=240_000)
    film.get_by_role("button", name="Stop").click()
    expect(page.get_by_text("Stopped. Nothing was kept.").first).to_be_visible()


def test_what_is_held_back_is_grouped_taken_back_and_planned_anew_before_it_is_let(page: Page, rheon: Rheon) -> None:
    rheon.kill("convert")
    one, two, three, four = queue_episodes(rheon)
    page.goto("/worklist")
    names = names_of(waiting(page))
    page.get_by_role("button", name="Pause all").click()
    expect(page.get_by_text("nothing begins until you go on")).to_be_visible()
    rheon.start("convert")
    page.get_by_role("radio", name="by source").press("Space")
    page.get_by_role("checkbox", name="Choose all of Lantern Street S1").click()
    page.get_by_role("button", name="Remove", exact=True).click()
    expect(names).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(names).to_have_count(4)
    page.get_by_role("radio", name="in order").press("Space")
    before = rheon.ask("select id, summary from worklist_job where title_name = ?", two)[0]
    waiting(page).get_by_role("link", name=re.compile(f"^Change the plan of {two}")).press("Enter")
    expect(page.get_by_role("heading", name=two)).to_be_visible()
    page.get_by_role("radio", name="lean").click()
    expect(page.get_by_role("radio", name="lean")).to_be_checked()
    page.get_by_role("button", name="Use this plan for the job").click()
    expect(names).to_have_text([one, two, three, four])
    (after,) = rheon.ask("select id, summary from worklist_job where title_name = ?", two)
    assert after[0] != before[0]
    page.get_by_role("button", name="Go on", exact=True).click()
    expect(page.get_by_role("region", name="Ended").get_by_role("listitem")).to_have_count(4, timeout=120_000)
    made = rheon.ask("select title_name, state from worklist_job order by started")
    assert made == [(name, "done") for name in (one, two, three, four)]


def test_what_is_to_be_made_at_night_waits_for_its_hours_unless_somebody_says_now(page: Page, rheon: Rheon) -> None:
    rheon.kill("convert")
    queue_episodes(rheon)
    page.goto("/worklist")
    page.get_by_role("button", name="At any hour").press("Enter")
    later = [
        page.evaluate(f"new Date(Date.now() + {hours} * 3600e3).toTimeString().slice(0, 5)")  # the page's own clock
        for hours in (2, 5)
    ]
    for label, moment in zip(("From", "until"), later, strict=True):
        page.get_by_label(label, exact=True).fill(moment)
    page.get_by_role("button", name="Keep to these hours").press("Enter")
    expect(page.get_by_text(re.compile("until then everything stands still"))).to_be_visible()
    rheon.start("convert")
    time.sleep(3)
    expect(names_of(waiting(page))).to_have_count(4)
    page.get_by_role("button", name="Begin now").press("Enter")
    expect(page.get_by_role("region", name="Ended").get_by_role("listitem")).to_have_count(4, timeout=120_000)
    assert rheon.ask("select distinct state from worklist_job") == [("done",)]


def test_how_much_of_the_machine_is_taken_is_chosen_while_it_works(page: Page, rheon: Rheon) -> None:
    rheon.pick("Marram Nights, extra 3")
    start_film(page)
    queue_episodes(rheon)
    page.get_by_role("button", name="All of the machine").press("Enter")
    sheet = page.get_by_role("dialog", name="How much of the machine")
    sheet.get_by_role("combobox", name="Made at once").click()
    page.get_by_role("option", name="2 files").click()
    making = page.get_by_role("article")
    expect(making).to_have_count(2)
    expect(page.get_by_role("button", name="All of the machine, 2 at once")).to_be_visible()
    sheet.get_by_role("radio", name=re.compile("^Leave room Always")).check()
    expect(page.get_by_role("button", name=re.compile(r"^On \d+ cores?, 2 at once"))).to_be_visible()
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Stop after these").click()
    expect(page.get_by_text("Then nothing begins until you go on.")).to_be_visible()
    expect(page.get_by_role("region", name="Waiting").get_by_role("listitem")).to_have_count(3)
    rheon.call("POST", "worklist/changes", {"job_ids": jobs(rheon), "verb": "stop"})
    expect(making).to_have_count(0)


def jobs(rheon: Rheon) -> list[int]:
    return [pk for (pk,) in rheon.ask("select id from worklist_job")]


@pytest.mark.stage("a file made")
def test_what_was_made_is_found_in_the_history_and_saved_long_after_it_left_the_list(page: Page, rheon: Rheon) -> None:
    rheon.kill("convert")
    one, *_ = queue_episodes(rheon)
    rheon.call("POST", "worklist/changes", {"job_ids": jobs(rheon), "verb": "remove"})
    page.goto("/worklist")
    page.get_by_role("link", name="History").click()
    record = page.get_by_role("list", name="Records").get_by_role("listitem")
    expect(record).to_have_count(1)  # what nobody began is no history
    expect(record).to_contain_text("Marram Nights, extra 3")
    expect(record).to_contain_text("expected")
    find = page.get_by_label("Find")
    find.fill(one)
    expect(page.get_by_text(f"Nothing was recorded that holds “{one}”.")).to_be_visible()
    find.fill("ADA marram")
    expect(record).to_have_count(1)
    with page.expect_download() as waiting_for:
        page.get_by_role("link", name="Save as CSV").click()
    rows = list(csv.DictReader(waiting_for.value.path().read_text("utf-8-sig").splitlines()))
    assert [(row["title"], row["outcome"]) for row in rows] == [("Marram Nights, extra 3", "done")]
    page.get_by_role("radio", name="not made").click()
    expect(page.get_by_text("Nothing was recorded that holds")).to_be_visible()
    find.fill("")
    expect(page.get_by_text("Nothing of that was recorded.")).to_be_visible()
    page.get_by_role("link", name="← Worklist").click()
    expect(page.get_by_role("heading", name="Nothing to do")).to_be_visible()


NOTED = """
window.shown = [];
window.Notification = class {
  static permission = "default";
  static async requestPermission() { return (this.permission = "granted"); }
  constructor(title, { body }) { shown.push(`${title}: ${body}`); }
};
"""


def test_a_browser_that_was_asked_to_tells_once_when_all_is_made(page: Page, rheon: Rheon) -> None:
    page.add_init_script(NOTED)
    page.goto("/settings")
    notice = page.get_by_role("checkbox", name="Show a notification")
    notice.check()
    page.get_by_role("checkbox", name="Play two tones").check()
    page.get_by_role("link", name=re.compile("^Worklist")).click()
    rheon.kill("convert")
    one, *_ = queue_episodes(rheon)
    rheon.call("POST", "worklist/changes", {"job_ids": jobs(rheon)[2:], "verb": "remove"})
    expect(page.get_by_role("listitem").filter(has_text=one)).to_be_visible()
    rheon.start("convert")
    expect(page.get_by_label("done")).to_have_count(2, timeout=240_000)
    # asked from outside: the page's policy lets nothing be evaluated inside it again and again
    until(lambda: page.evaluate("shown.length > 0"))
    assert page.evaluate("shown") == ["Rheon: All is made: 2 files."]
    page.get_by_role("link", name="Settings").click()
    notice.uncheck()
    rheon.call("POST", "worklist/changes", {"job_ids": jobs(rheon), "verb": "remove"})
    rheon.call("POST", "worklist/pace", {"held": True})
    queue_episodes(rheon)
    expect(page.get_by_role("link", name="Worklist 4 to go")).to_be_visible()
    rheon.call("POST", "worklist/changes", {"job_ids": jobs(rheon), "verb": "remove"})
    expect(page.get_by_role("link", name="Worklist nothing to do")).to_be_visible()
    assert len(page.evaluate("shown")) == 1


def test_what_is_done_when_all_is_made_is_announced_and_can_be_stopped(page: Page, rheon: Rheon) -> None:
    rheon.kill("convert")
    queue_episodes(rheon)
    rheon.call("POST", "worklist/changes", {"job_ids": jobs(rheon)[1:], "verb": "remove"})
    page.goto("/worklist")
    page.get_by_role("combobox", name="When all is made").press("Enter")
    page.get_by_role("option", name="then Shut down").click()
    rheon.start("convert")
    near = page.get_by_text(re.compile("^All is made. Shut down: at .+, within about a minute."))
    expect(near).to_be_visible(timeout=240_000)
    page.get_by_role("button", name="Don’t").press("Enter")
    expect(near).to_have_count(0)
    assert rheon.ask("select end, end_at from worklist_pace") == [("", None)]
    assert not rheon.shut_down.exists()


def test_what_does_not_fit_waits_and_says_for_how_much_until_there_is_room(page: Page, rheon: Rheon) -> None:
    rheon.kill("convert")
    large, small, *_ = queue_episodes(rheon)
    rheon.call("POST", "worklist/changes", {"job_ids": jobs(rheon)[2:], "verb": "remove"})
    rheon.ask("update worklist_job set needs_bytes = ? where title_name = ?", 2**50, large)
    page.goto("/worklist")
    row = waiting(page).get_by_role("listitem").filter(has_text=large)
    expect(row).to_contain_text(re.compile(r"Waits for \d+ GB more space"))
    expect(page.get_by_text(re.compile("^What is to be made takes about .+ are free on the disk"))).to_be_visible()
    rheon.start("convert")
    ended = page.get_by_role("region", name="Ended").get_by_role("listitem")
    expect(ended.filter(has_text=small).get_by_label("done")).to_be_visible(timeout=240_000)
    expect(row).to_contain_text("more space")
    rheon.ask("update worklist_job set needs_bytes = 0")
    expect(ended.filter(has_text=large).get_by_label("done")).to_be_visible(timeout=240_000)
