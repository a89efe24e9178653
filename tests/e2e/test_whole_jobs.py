"""Whole jobs on the page, from the Shelf to the device, with their clicks counted as docs/how-to.md tells them."""

from __future__ import annotations

import re
from dataclasses import dataclass

import pytest
from playwright.sync_api import Locator, Page, expect
from tests.instruments.waiting import until

from rheon.core.engine import probe
from rheon.demo.sticks import StickDrawer

from .running import MEDIA, Rheon
from .stages import live

STAGE = "four devices"
MAKING_MS = 300_000


@dataclass
class Clicks:
    """Clicks as a person makes them: each is counted."""

    page: Page
    count: int = 0

    def __call__(self, there: Locator) -> None:
        self.count += 1
        there.click()

    def choose(self, label: str, option: str) -> None:
        self(self.page.get_by_role("combobox", name=label))
        self(self.page.get_by_role("option", name=option))

    def go(self, place: str) -> None:
        self(self.page.get_by_role("navigation").get_by_role("link", name=re.compile(place)))


@pytest.fixture
def click(page: Page) -> Clicks:
    return Clicks(page)


def onto_the_stick(page: Page, click: Clicks, device: str, label: str) -> Locator:
    """From the Outbox to copies on the stick; returns the list of files."""
    click(page.get_by_role("radio", name="by device"))
    click(page.get_by_role("list", name="Devices").get_by_role("link", name=device))
    click.choose("Where its files go", label)
    click(page.get_by_role("button", name=re.compile(r"^Copy \d")))
    return page.get_by_role("list", name=f"Files for {device}")


def test_one_title_goes_from_the_shelf_onto_a_stick(
    page: Page, rheon: Rheon, drawer: StickDrawer, click: Clicks
) -> None:
    drawer.plug_in("KITTIWAKE")
    page.goto("/shelf")
    click(page.get_by_role("link", name="Take to the Bench"))
    episode = page.get_by_role("row", name=re.compile("^Lantern Street S1, episode 1"))
    ((target,),) = rheon.ask(
        "select target.id from bench_target target join household_device device on device.id = target.device_id"
        " where device.name = 'Pocket player'"
    )
    for_player = page.locator(f'a[href$="/{target}"]')
    click(episode.get_by_role("cell").filter(has=for_player).get_by_role("checkbox"))
    click(page.get_by_role("button", name="Convert 1 file"))
    expect(page.get_by_label("done")).to_be_visible(timeout=MAKING_MS)
    click.go("Outbox")
    files = onto_the_stick(page, click, "Pocket player", "KITTIWAKE")
    expect(files.get_by_text("on KITTIWAKE")).to_be_visible()
    (there,) = (drawer.folder / "KITTIWAKE").rglob("*.m4v")
    assert [there.read_bytes()] == [path.read_bytes() for path in rheon.output.rglob("*.m4v")]
    click(page.get_by_role("button", name="Eject KITTIWAKE"))
    expect(page.get_by_text("KITTIWAKE can be taken out")).to_be_visible()
    assert click.count == 10, "docs/how-to.md says so"


@pytest.mark.thorough
def test_a_pile_goes_to_the_tablet_and_what_is_broken_off_leaves_nothing(
    page: Page, rheon: Rheon, drawer: StickDrawer, click: Clicks
) -> None:
    drawer.plug_in("KITTIWAKE")
    page.goto("/shelf")
    click(page.get_by_role("link", name="Take to the Bench"))
    click(page.get_by_role("checkbox", name="Pick everything for Tablet"))
    convert = page.get_by_role("button", name=re.compile(r"^Convert \d"))
    expect(convert).to_be_enabled()
    click(convert)
    click(page.get_by_role("article", name="Marram Nights").get_by_role("button", name="Stop"))
    ended = page.get_by_role("region", name="Ended")
    expect(ended.get_by_text("Stopped. Nothing was kept.")).to_be_visible()
    expect(ended.get_by_label("done")).to_have_count(4, timeout=MAKING_MS)
    click.go("Outbox")
    files = onto_the_stick(page, click, "Tablet", "KITTIWAKE")
    expect(files.get_by_text("on KITTIWAKE")).to_have_count(4)
    click(page.get_by_role("button", name="Eject KITTIWAKE"))
    expect(page.get_by_text("KITTIWAKE can be taken out")).to_be_visible()
    there = [path for path in (drawer.folder / "KITTIWAKE").rglob("*") if path.is_file()]
    assert len(there) == 4 and all(path.stat().st_size < 2e9 for path in there)
    assert not any("Marram" in path.name or path.name.startswith(".rheon") for path in rheon.output.iterdir())
    assert click.count == 11, "docs/how-to.md says so"


@pytest.mark.thorough
@pytest.mark.stage("empty")
def test_two_kinds_of_pocket_device_after_the_reading_was_stopped_and_begun_again(
    page: Page, rheon: Rheon, click: Clicks
) -> None:
    live(rheon, {"Pocket player": "sanderling-2", "Old phone": "wren-6"})
    rheon.kill("quick")
    rheon.kill("second")
    page.goto("/shelf")
    rheon.call("POST", "shelf/sources", {"path": str(MEDIA / "MARRAM_NIGHTS")})
    disc = page.get_by_role("region", name="Marram Nights")
    click(disc.get_by_role("button", name="Stop"))
    rheon.start_all()
    expect(disc.get_by_text("Reading was stopped before it was through.")).to_be_visible()
    click(disc.get_by_role("button", name="Read again"))
    rheon.rest()
    click(page.get_by_role("link", name="Take to the Bench"))
    titles = rheon.ask("select id from shelf_title where name = 'Marram Nights'")
    targets = [pk for (pk,) in rheon.ask("select id from bench_target order by id")]
    for target in targets:
        click(page.locator(f'a[href="/bench/{titles[0][0]}/{target}"]'))
        convert_cropped_chapters(page, click)
        if target != targets[-1]:
            click.go("Bench")
    until(lambda: len(outputs(rheon)) == 2, MAKING_MS / 1000)
    assert rheon.ask("select count(*) from worklist_job where state != 'done'") == [(0,)]
    assert all("subtitles drawn in" in summary for (summary,) in rheon.ask("select summary from worklist_job"))
    for path in outputs(rheon):
        made = probe(path)
        assert made.duration_s == pytest.approx(60.06, abs=0.2)
        assert made.video and float(made.video.display_aspect) == pytest.approx(
            16 / 9 * 480 / (480 - 24 - 60), rel=0.02
        )
    assert click.count == 22, "docs/how-to.md says so"


def convert_cropped_chapters(page: Page, click: Clicks) -> None:
    """On a plan sheet: two chapters, something cut away above, and English lines."""
    click.choose("Last chapter to keep", "2")
    click(page.get_by_role("button", name="Frame", exact=True))
    above = page.get_by_label("Cut away above, in stored pixels")
    click(above)
    above.fill("24")
    above.press("Enter")
    click(page.get_by_role("button", name="Frame is done"))
    click.choose("Subtitle", "English")
    click(page.get_by_role("button", name="Convert", exact=True))
    expect(page.get_by_role("heading", name="Worklist")).to_be_visible()


def outputs(rheon: Rheon) -> list[str]:
    return [path for (path,) in rheon.ask("select path from outbox_output")]


@pytest.mark.thorough
@pytest.mark.stage("five discs")
def test_the_right_one_of_two_equal_films_over_night_to_a_tablet(
    page: Page, rheon: Rheon, drawer: StickDrawer, click: Clicks
) -> None:
    live(rheon, {"Tablet": "heron-8"})
    drawer.plug_in("KITTIWAKE")
    page.goto("/shelf")
    click(page.get_by_role("link", name="Take to the Bench"))
    film = page.get_by_role("row", name=re.compile("^Heron Reach"))
    click(film.get_by_role("cell").get_by_role("checkbox"))
    click(page.get_by_role("button", name="Convert 1 file"))
    click.choose("When all is made", "then Shut down")
    expect(page.get_by_text(re.compile("^All is made. Shut down: at"))).to_be_visible(timeout=MAKING_MS)
    until(rheon.shut_down.exists)
    click.go("Outbox")
    tags = page.get_by_role("region", name="Name and tags")
    click(tags.get_by_role("button", name="Change"))
    click(tags.get_by_label("Title"))
    tags.get_by_label("Title").fill("Heron Reach, the whole film")
    click(tags.get_by_role("checkbox", name="Call the file by them too"))
    click(tags.get_by_role("button", name="Write into the file"))
    expect(page.get_by_text(re.compile(r"^Heron Reach, the whole film\.\w+$"))).to_be_visible()
    files = onto_the_stick(page, click, "Tablet", "KITTIWAKE")
    expect(files.get_by_text("on KITTIWAKE")).to_have_count(1)
    click(page.get_by_role("button", name="It played"))
    expect(page.get_by_text("Thank you")).to_be_visible()
    (there,) = (path for path in (drawer.folder / "KITTIWAKE").rglob("Heron Reach*") if path.is_file())
    video = probe(str(there)).video
    assert video and video.height <= 720 and there.stem == "Heron Reach, the whole film"
    assert click.count == 16, "docs/how-to.md says so"
