"""Screens that are waiting, failing, very full or cut off from their server."""

from __future__ import annotations

import json
import re
import sqlite3

import pytest
from playwright.sync_api import Page, expect

from rheon.core.system import process_identity

from .running import Rheon

COLUMNS = (
    "path, name, label, kind, form, size_bytes, state, at_title, title_count, stop_requested, error_code,"
    " error_message, problems, host, worker, added, changed, named_by_hand, stamp, mark, series, disc"
)


def put_source(rheon: Rheon, name: str, state: str, **facts: object) -> int:
    """A source in a state that a real scan passes too quickly to be looked at."""
    path = f"/nowhere/{name}"
    if state == "ready":
        # what is ready must be there, or it would be found missing
        (rheon.state / name[:40]).mkdir()
        path = str(rheon.state / name[:40])
    row = {
        "path": path, "name": name, "label": name.upper(), "kind": "dvd", "form": "folder",
        "size_bytes": 18_400_000_000, "state": state, "at_title": 0, "title_count": 0, "stop_requested": 0,
        "error_code": "", "error_message": "", "problems": "[]", "host": "", "worker": process_identity(),
        "named_by_hand": 0, "stamp": "", "mark": "", "added": "2026-01-01 00:00:00", "changed": "2026-01-01 00:00:00",
        "series": "", "disc": 0,
        **facts,
    }  # fmt: skip
    with sqlite3.connect(rheon.state / "rheon.sqlite3", timeout=20) as database:
        marks = ", ".join(f":{column.strip()}" for column in COLUMNS.split(","))
        return int(database.execute(f"insert into shelf_source ({COLUMNS}) values ({marks})", row).lastrowid or 0)


def put_titles(rheon: Rheon, source: int, count: int, name: str) -> None:
    outline = {
        "size_bytes": 1,
        "chapters": [0, 30, 60],
        "reason": "nothing speaks for more",
        "shares": [],
        "fault": None,
    }
    with sqlite3.connect(rheon.state / "rheon.sqlite3", timeout=20) as database:
        database.executemany(
            "insert into shelf_title (source_id, number, key, name, duration_s, role, document, outline, named_by_hand,"
            " role_by_hand, angle, survey_failed, samples_failed, tags_by_hand, measured_rates, tags_found)"
            " values (?, ?, ?, ?, ?, ?, '{}', ?, 0, 0, 1, 0, 0, '{}', '{}', '{\"found\": {}}')",
            [
                (source, number, f"1/{number}", f"{name} {number}", 90 + number * 7, "extra", json.dumps(outline))
                for number in range(1, count + 1)
            ],
        )


def test_a_scan_shows_which_title_it_is_at_and_can_be_stopped(page: Page, rheon: Rheon) -> None:
    page.goto("/shelf")
    expect(page.get_by_role("heading", name="Nothing on the Shelf yet")).to_be_visible()
    source = put_source(rheon, "Glasshouse", "reading", at_title=5, title_count=13)
    expect(page.get_by_text("Reading title 5 of 13 …")).to_be_visible()
    page.get_by_role("button", name="Stop").click()
    asked = "select stop_requested from shelf_source where id = ?"
    page.wait_for_timeout(700)
    with sqlite3.connect(rheon.state / "rheon.sqlite3") as database:
        assert database.execute(asked, (source,)).fetchone() == (1,)
        database.execute("update shelf_source set state = 'stopped' where id = ?", (source,))
    expect(page.get_by_text("Reading was stopped before it was through.")).to_be_visible()
    page.get_by_role("region", name="Glasshouse").get_by_role("button", name="Remove", exact=True).click()
    expect(page.get_by_role("heading", name="Nothing on the Shelf yet")).to_be_visible()


def test_a_source_that_failed_says_why_and_can_be_read_again(page: Page, rheon: Rheon) -> None:
    message = "On HARBOUR no title set has a good IFO or BUP table. Copy the disc again."
    put_source(rheon, "Harbour", "failed", error_code="tables_broken", error_message=message)
    page.goto("/shelf")
    row = page.get_by_role("region", name="Harbour")
    expect(row.get_by_role("alert")).to_have_text(message)
    row.get_by_role("button", name="Read again").first.click()
    # really read this time: there is nothing at its path, which lies outside the media folders too
    expect(row.get_by_role("alert")).to_contain_text("outside the media folders")
    row.get_by_role("button", name="Remove", exact=True).click()
    expect(row).to_be_hidden()
    page.goto("/household")  # leaving the page makes it final
    expect(page.get_by_role("link", name="Shelf 0 sources")).to_be_visible()


@pytest.mark.parametrize("width", [1440, 1280, 820])
def test_a_very_full_shelf_with_long_names_keeps_its_shape(page: Page, rheon: Rheon, width: int) -> None:
    page.set_viewport_size({"width": width, "height": 800})
    long = "The very long story of a disc that somebody named without once thinking of the width of a screen"
    name = f"{width} {long}"
    source = put_source(rheon, name, "ready")
    put_titles(rheon, source, 99, long)
    page.goto("/shelf")
    row = page.get_by_role("region", name=name, exact=True)
    expect(row).to_be_visible()
    page.evaluate("() => scrollTo(0, document.body.scrollHeight)")  # only what is near the window is drawn
    expect(page.get_by_role("button", name=re.compile("^Title 99, "))).to_be_visible()
    page.evaluate("() => scrollTo(0, 0)")
    assert page.evaluate("() => document.documentElement.scrollWidth <= window.innerWidth")
    outside = row.evaluate(
        "(row) => [...row.querySelectorAll('button[aria-expanded]')].filter((strip) =>"
        " strip.getBoundingClientRect().right > row.getBoundingClientRect().right + 1).length"
    )
    assert outside == 0
    row.get_by_role("checkbox").first.click()
    expect(page.get_by_text(re.compile(r"^\d+ titles picked$"))).to_be_visible()
    page.get_by_role("button", name="Clear").click()
    expect(page.get_by_text(re.compile(r"^\d+ titles picked$"))).to_be_hidden()
    page.get_by_role("button", name=f"More for {name}").click()
    page.get_by_role("menuitem", name="Take it off the Shelf").click()
    expect(row).to_be_hidden()
    page.goto("/household")  # leaving the page makes it final
    expect(page.get_by_role("link", name="Shelf 0 sources")).to_be_visible()


def test_a_page_notices_that_the_server_is_gone_and_that_it_is_back(page: Page, rheon: Rheon) -> None:
    page.goto("/household")
    expect(page.get_by_role("heading", name="No devices yet")).to_be_visible()
    rheon.kill("web")
    expect(page.get_by_text("Rheon’s server does not answer")).to_be_visible()
    page.get_by_role("button", name="Add a device").first.click()
    dialog = page.get_by_role("dialog", name="Add a device")
    dialog.get_by_role("tab", name="All kinds").click()
    dialog.get_by_role("button", name=re.compile("^Small tablet, about 2013")).click()
    dialog.get_by_role("button", name="Add it").click()
    expect(dialog.get_by_role("alert")).to_have_text("Rheon's server does not answer. Is it still running?")
    rheon.start("web")
    rheon.wait()
    expect(page.get_by_text("Rheon’s server does not answer")).to_be_hidden(timeout=240_000)
    dialog.get_by_role("button", name="Add it").click()
    expect(page.get_by_role("heading", name="Small tablet")).to_be_visible()
    page.get_by_role("button", name="Remove Small tablet").click()
    expect(page.get_by_role("heading", name="Small tablet")).to_be_hidden()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("heading", name="Small tablet")).to_be_visible()


def test_what_is_removed_can_be_taken_back_for_a_while_and_is_gone_then(page: Page, rheon: Rheon) -> None:
    def stored() -> int:
        with sqlite3.connect(rheon.state / "rheon.sqlite3") as database:
            return int(
                database.execute("select count(*) from shelf_source where name like 'Removable %'").fetchone()[0]
            )

    for name in ("Removable one", "Removable two"):
        put_source(rheon, name, "ready")
    page.goto("/shelf")
    rows = [page.get_by_role("region", name=name) for name in ("Removable one", "Removable two")]

    def take_off(name: str) -> None:
        page.get_by_role("button", name=f"More for {name}").click()
        page.get_by_role("menuitem", name="Take it off the Shelf").click()

    take_off("Removable one")
    expect(rows[0]).to_be_hidden()
    assert stored() == 2
    page.get_by_role("button", name="Undo").click()
    expect(rows[0]).to_be_visible()
    take_off("Removable one")
    take_off("Removable two")  # the one before is final with the next
    expect(rows[1]).to_be_hidden()
    page.wait_for_timeout(1500)
    assert stored() == 1
    page.goto("/household")  # and the last one when the page is left
    page.wait_for_timeout(1500)
    assert stored() == 0
    # a page that was too busy to say so when it was left: the next one does
    put_source(rheon, "Removable three", "ready")
    page.goto("/shelf")
    page.evaluate("() => addEventListener('pagehide', (event) => event.stopImmediatePropagation(), { capture: true })")
    take_off("Removable three")
    expect(page.get_by_role("region", name="Removable three")).to_be_hidden()
    page.evaluate("() => { window.fetch = () => new Promise(() => undefined); }")
    page.goto("/household")
    page.wait_for_timeout(1500)
    assert stored() == 0


def test_a_thousand_titles_are_drawn_only_where_they_are_seen(page: Page, rheon: Rheon) -> None:
    for number in range(50):
        put_titles(rheon, put_source(rheon, f"Box {number:02}", "ready"), 20, f"Tape {number:02}")
    page.goto("/shelf")
    expect(page.get_by_text("50 sources · 1000 titles")).to_be_visible()
    strips = page.locator("[data-strip]")
    assert strips.count() < 500
    page.mouse.move(400, 400)
    slow = page.evaluate(
        """async () => {
          const times = [];
          let last = performance.now();
          for (let at = 0; at < document.body.scrollHeight - innerHeight; at += 240) {
            scrollTo(0, at);
            await new Promise(requestAnimationFrame);
            times.push(performance.now() - last);
            last = performance.now();
          }
          times.sort((a, b) => a - b);
          return times[Math.floor(times.length / 2)];
        }"""
    )
    print(f"scrolling 1,000 titles: median frame {slow:.1f} ms")
    expect(page.get_by_role("region", name="Box 49", exact=True)).to_be_visible()
    assert strips.count() < 500
    page.get_by_label("Find on the Shelf").fill("tape 07")
    expect(page.get_by_text("20 of 1000 titles")).to_be_visible()
    expect(page.get_by_role("region", name=re.compile("^Box"))).to_have_count(2)
    page.get_by_role("button", name="Pick all shown").click()
    expect(page.get_by_text("20 titles picked")).to_be_visible()
    page.get_by_role("button", name="Clear").click()
    page.get_by_label("Find on the Shelf").fill("nothing of the kind")
    expect(page.get_by_role("heading", name="Nothing like that")).to_be_visible()
