"""How smoothly very long lists scroll: ``make load``. 10,000 titles, 1,000 jobs, 5,000 outputs, 200 picks."""

from __future__ import annotations

import itertools
import os
import statistics
import subprocess
import sys
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

sys.path[:0] = [str(Path(__file__).resolve().parents[1]), str(Path(__file__).resolve().parents[1] / "src")]

from installation import Installation, installed  # noqa: E402
from playwright.sync_api import Page, sync_playwright  # noqa: E402

SOURCES = ("MARRAM_NIGHTS", "HERON_REACH", "LANTERN_STREET_S1.iso", "camera")
FRAMES = 120
STEP_PX = 240
PLACES = {
    "shelf": "[data-strip]",
    "worklist": "main li",
    "outbox": "main li",
    "bench": "main tbody tr",
}

# rows as real scans and jobs wrote them, many times over
FILL = """
from django.db import transaction
from rheon.server.outbox.models import Output
from rheon.server.shelf.models import Source, Title
from rheon.server.worklist.models import Job

def again(row, **changed):
    row.pk, row._state.adding = None, True
    for name, value in changed.items():
        setattr(row, name, value)
    return row

LOOKED = {"survey_failed": True, "samples_failed": True}  # nobody goes and looks at them meanwhile
real = list(Title.objects.order_by("id"))
base = Source.objects.first()
with transaction.atomic():
    for n in range(2000):
        source = Source(path=f"{base.path}/{n}", name=f"Box {n:04}", label=base.label, kind="dvd", form="folder",
            size_bytes=base.size_bytes, state="ready", stamp="", mark="")
        source.save()
        titles = [real[(5 * n + k) % len(real)] for k in range(5)]
        Title.objects.bulk_create(
            again(t, source=source, number=k + 1, key=f"1/{k + 1}", **LOOKED) for k, t in enumerate(titles)
        )
    done = Job.objects.filter(state="done").first()
    made = Output.objects.first()
    Job.objects.bulk_create([again(done, token=f"many-{n}", position=n + 2) for n in range(1000)])
    Output.objects.bulk_create([again(made, job=None) for n in range(5000)])
"""

SCROLL = """async ([count, step]) => {
  const page = document.scrollingElement;
  const scrolls = (box) => /auto|scroll/.test(getComputedStyle(box).overflowY);
  const long = (box) => box.scrollHeight > box.clientHeight + 500 && scrolls(box);
  const list = [...document.querySelectorAll("body *")].find(long) ?? page;
  const next = () => new Promise(requestAnimationFrame);
  const times = [];
  for (let i = 0; i < 10; i++) await next();
  let last = await next();
  for (let i = 0; i < count; i++) {
    list.scrollTop += step;
    const now = await next();
    times.push(now - last);
    last = now;
  }
  return [times, list.scrollTop];
}"""


@contextmanager
def busy_core() -> Iterator[None]:
    other = subprocess.Popen([sys.executable, "-c", "while True: pass"])
    yield
    other.kill()
    other.wait()


def filled(place: Installation) -> None:
    while place.busy():
        time.sleep(0.5)
    title = place.rows("select id from shelf_title where role = 'extra' order by duration_s limit 1")[0][0]
    place.ask("POST", "worklist/jobs", {"cells": [{"title_id": title, "target_id": place.target("Living-room TV")}]})
    while place.busy():
        time.sleep(0.5)
    place.manage("shell", "-c", FILL)
    picks = [pk for (pk,) in place.rows("select id from shelf_title limit 200")]
    place.ask("POST", "bench/picks", {"title_ids": picks, "picked": True})


def busy_s(place: Installation) -> float:
    """Seconds of processor time that the installation's parts and what they started and ended have used."""
    stats = [Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split() for pid in place.parts().values()]
    return sum(map(int, itertools.chain.from_iterable(own[11:15] for own in stats))) / os.sysconf("SC_CLK_TCK")


def settled(place: Installation) -> None:
    """Waits until the installation has gone through what is new."""
    while place.busy():
        time.sleep(0.5)
    quiet = 0
    while quiet < 3:
        before = busy_s(place)
        time.sleep(2)
        quiet = quiet + 1 if busy_s(place) - before < 0.4 else 0


def scrolled(page: Page, place: str, what: str) -> None:
    began = time.monotonic()
    page.goto(f"/{place}")
    page.locator(PLACES[place]).first.wait_for()
    first_s = time.monotonic() - began
    page.wait_for_timeout(1500)
    times, end = page.evaluate(SCROLL, [FRAMES, STEP_PX])
    p50, p90 = statistics.median(times), statistics.quantiles(times, n=10)[8]
    over = sum(ms > 50 for ms in times)
    print(
        f"{place:<9} {what:<18} first row {first_s:4.1f} s   frames p50 {p50:4.0f}  p90 {p90:4.0f}"
        f"  worst {max(times):4.0f} ms, {over} of {len(times)} over 50, {end / len(times):.0f} px each",
        flush=True,
    )


def main() -> None:
    with installed(8560, *SOURCES) as place, sync_playwright() as playwright:
        filled(place)
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium", args=["--no-sandbox", "--disable-dev-shm-usage"]
        )
        page = browser.new_page(base_url=f"http://127.0.0.1:{place.port}", viewport={"width": 1280, "height": 800})
        for name in PLACES:
            page.goto(f"/{name}")
        page.goto("about:blank")
        settled(place)
        for name in PLACES:
            scrolled(page, name, "")
        with busy_core():
            for name in PLACES:
                scrolled(page, name, "beside a busy core")
        browser.close()


if __name__ == "__main__":
    main()
