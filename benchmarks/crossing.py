"""The crossing table with 100 titles and 20 devices, on the server and in a real browser. Part of ``make bench``."""

# ruff: noqa: PLC0415 - Django has to be set up before its models are there

from __future__ import annotations

import itertools
import os
import socket
import statistics
import subprocess
import sys
import time
import urllib.request
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

from rheon.core.devices import catalogue
from rheon.core.media import Source

ROOT = Path(__file__).resolve().parents[1]
TITLES, DEVICES = 100, 20
FLAGS = ("--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking")
ROUNDS = 7

# from the click to the painted frame; the page's policy allows no eval, so the functions are put in as text
CLICK = """
new Promise((resolve) => {{
  const find = {find}, done = {done}, start = performance.now();
  const painted = () => resolve(performance.now() - start);
  const look = () => requestAnimationFrame(done() ? painted : look);
  setTimeout(() => resolve(-1), 10000);
  find().click();
  look();
}})
"""
BOX = "() => document.querySelectorAll('tbody td [type=checkbox]')[{n}]"
EVERY = "() => document.querySelector('[aria-label=\"Pick everything\"]')"
TEXT = "() => document.querySelector('td [data-row]').textContent"
SCROLL = """
() => ({ click: () => {
  const box = document.querySelector('table').parentElement;
  box.scrollTop = box.scrollTop > 3000 ? 0 : 5000;
} })
"""
ROWS = """
() => {
  const rows = [...document.querySelectorAll('[data-row]')].map((cell) => +cell.dataset.row);
  const top = document.querySelector('table').parentElement.scrollTop;
  return top > 3000 ? Math.max(...rows) > 70 : Math.min(...rows) === 0;
}
"""

Say = Callable[[str, str, str], None]


def prepare(source: Source) -> None:
    """Rows for the table: the disc's titles again and again, each a little longer, so that no two plans are alike."""
    from rheon.core.media.documents import dump
    from rheon.server.bench.models import Pick
    from rheon.server.household.actions.devices import add_device
    from rheon.server.household.actions.people import change_household
    from rheon.server.household.requests import HouseholdChange
    from rheon.server.shelf.models import Source as Row
    from rheon.server.shelf.models import Title
    from rheon.server.shelf.outlines import outline_of

    change_household(HouseholdChange(languages=["en"]))
    row = Row.objects.create(path="/crossing", name="Crossing", state="ready")
    for number, title in zip(range(TITLES), itertools.cycle(source.titles), strict=False):
        core = replace(title, number=number + 1, duration_s=title.duration_s + number)
        made = Title.objects.create(
            source=row, number=number + 1, key=f"crossing {number}", name=f"Crossing {number + 1}",
            duration_s=core.duration_s, role="episode", document=dump(core), outline=outline_of(core),
        )  # fmt: skip
        Pick.objects.create(title=made)
    for profile in list(catalogue())[:DEVICES]:
        add_device(profile)


def server(say: Say) -> None:
    """The whole table at once, new and again, and one page of rows."""
    from django.test import Client

    from rheon.server.bench.models import Pick

    client = Client(headers={"host": "127.0.0.1"})
    ids = list(Pick.objects.order_by("title_id").values_list("title_id", flat=True))[-TITLES:]
    pages = [ids[at : at + 12] for at in range(0, len(ids), 12)]

    def read(page: list[int]) -> int:
        return len(client.get(f"/api/bench/cells?titles={','.join(map(str, page))}").json())

    started = time.perf_counter()
    count = sum(map(read, pages))
    first = time.perf_counter() - started
    started = time.perf_counter()
    sum(map(read, pages))
    again = time.perf_counter() - started
    say(
        f"crossing table, {TITLES} x {DEVICES}, all cells planned",
        f"{first:.2f} s, {first / count * 1e3:.2f} ms a cell",
        "-",
    )
    say("the same again, nothing changed", f"{again:.2f} s, {again / count * 1e3:.3f} ms a cell", "-")
    one = statistics.median(_timed(lambda: read(pages[0])) for _ in range(ROUNDS))
    say("the rows in view (12 titles), nothing changed", f"{one * 1e3:.0f} ms", "under 100 ms")


def browser(say: Say) -> None:
    """From click to picture in Chromium, against a server of its own."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = int(probe.getsockname()[1])
    command = [
        str(Path(sys.executable).parent / "uvicorn"),
        "rheon.server.config.asgi:application",
        "--port",
        str(port),
    ]
    process = subprocess.Popen([*command, "--log-level", "error"], cwd=ROOT, env=dict(os.environ))
    try:
        address = f"http://127.0.0.1:{port}"
        for _ in range(100):
            try:
                urllib.request.urlopen(f"{address}/bench", timeout=2).close()
                break
            except OSError:
                time.sleep(0.1)
        with sync_playwright() as playwright:
            chromium = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
            page = chromium.new_page(viewport={"width": 1280, "height": 800})
            page.goto(f"{address}/bench")
            page.wait_for_function("() => document.querySelectorAll('[data-row]').length > 40")
            page.wait_for_timeout(4000)
            _clicks(say, page)
            chromium.close()
    finally:
        process.terminate()
        process.wait()


def _clicks(say: Say, page: Page) -> None:
    def click(find: str, done: str) -> float:
        return float(page.evaluate(CLICK.format(find=find, done=done)))

    picks = [click(BOX.format(n=n), f"() => ({BOX.format(n=n)})().checked") for n in range(ROUNDS)]
    say("tick a cell: click to picture (median)", f"{statistics.median(picks):.0f} ms", "under 100 ms")
    say("tick all 2,000 cells", f"{click(EVERY, f'() => ({EVERY})().checked'):.0f} ms", "-")
    jumps = [click(SCROLL, ROWS) for _ in range(ROUNDS)]
    say("jump 70 rows: to picture (median)", f"{statistics.median(jumps):.0f} ms", "under 100 ms")
    page.get_by_role("button", name="Clear").click()
    times = []
    for balance in ("lean", "rich", "lean", "rich"):
        before = page.evaluate(f"({TEXT})()")
        radio = f"() => [...document.querySelectorAll('[role=radio]')].find((e) => e.textContent === '{balance}')"
        page.wait_for_timeout(4000)
        times.append(click(radio, f"() => ({TEXT})() !== {before!r}"))
    say("another balance: click to picture (median)", f"{statistics.median(times):.0f} ms", "under 100 ms")


def _timed(work: Callable[[], object]) -> float:
    started = time.perf_counter()
    work()
    return time.perf_counter() - started
