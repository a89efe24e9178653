"""A real server with its workers, and a real browser to drive it."""

from __future__ import annotations

import fcntl
import os
import time
from collections.abc import Generator, Iterator
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, Request, Response, expect, sync_playwright

from rheon.demo.sticks import StickDrawer

from .running import PATIENT_MS, Rheon, free_port, window
from .stages import EMPTY, stage_of

SET_UP = "from rheon.server.home.actions.setting_up import mark_set_up; mark_set_up()"
BROWSER_FLAGS = (
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--mute-audio",
    "--autoplay-policy=no-user-gesture-required",
)


@pytest.fixture(scope="session")
def running(media: Path, tmp_path_factory: pytest.TempPathFactory) -> Iterator[Rheon]:
    """One installation for all tests of this process; each test begins it anew at a stage."""
    place = Rheon(
        state=tmp_path_factory.mktemp("state"),
        output=tmp_path_factory.mktemp("output"),
        port=free_port(),
        pairing_port=free_port(),
        media_server_port=free_port(),
    )
    place.manage("migrate", "--verbosity", "0")
    place.manage("shell", "--command", SET_UP)
    try:
        place.start_all()
        yield place
    finally:
        place.end()


@pytest.fixture(scope="session")
def stages(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """Where stages are kept; the processes that share the tests share them too."""
    base = tmp_path_factory.getbasetemp()
    folder = (base.parent if "PYTEST_XDIST_WORKER" in os.environ else base) / "stages"
    folder.mkdir(exist_ok=True)
    return folder


@pytest.fixture
def rheon(running: Rheon, stages: Path, request: pytest.FixtureRequest) -> Rheon:
    """A Rheon of this test's own, at the stage that its mark names, or its module (``STAGE``)."""
    marked = request.node.get_closest_marker("stage")
    wanted = marked.args[0] if marked else getattr(request.module, "STAGE", EMPTY)
    with (stages / "lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        stage = stage_of(running, stages, wanted)
    running.begin(stage)
    return running


@pytest.fixture
def drawer(rheon: Rheon) -> StickDrawer:
    """The stand-ins for sticks of this test's Rheon."""
    return StickDrawer(folder=rheon.sticks)


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    expect.set_options(timeout=PATIENT_MS)  # two installations and two browsers share two cores
    with sync_playwright() as playwright:
        launched = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=BROWSER_FLAGS)
        yield launched
        launched.close()


@pytest.hookimpl(wrapper=True)
def pytest_runtest_makereport(item: pytest.Item) -> Generator[None, pytest.TestReport, pytest.TestReport]:
    """A test that fails says what its Rheon had to say as well: a machine elsewhere cannot be asked later."""
    report = yield
    rheon = getattr(item, "funcargs", {}).get("rheon")
    if report.failed and rheon is not None:
        report.sections.append(("Rheon", rheon.told()))
    return report


def _let_changes_arrive(page: Page) -> None:
    """Have the page left for another one when the server was told of what was changed, as a person's pace does."""
    under_way: set[Request] = set()
    go = page.goto

    def patient(url: str, **named: Any) -> Response | None:
        if page.url != "about:blank":
            page.wait_for_timeout(100)
            end = time.monotonic() + PATIENT_MS / 1000
            while under_way and time.monotonic() < end:
                page.wait_for_timeout(20)
        return go(url, **named)

    def begins(request: Request) -> None:
        if request.method != "GET":
            under_way.add(request)

    def ends(request: Request) -> None:
        under_way.discard(request)

    page.on("request", begins)
    page.on("requestfinished", ends)
    page.on("requestfailed", ends)
    page.goto = patient  # type: ignore[method-assign]


@pytest.fixture
def page(browser: Browser, rheon: Rheon) -> Iterator[Page]:
    """A page at 1280x800 that fails its test when the console reports an error."""
    context = window(browser, viewport={"width": 1280, "height": 800}, base_url=rheon.address)
    opened = context.new_page()
    _let_changes_arrive(opened)
    faults: list[str] = []
    opened.on("pageerror", lambda error: faults.append(str(error)))
    opened.on("console", lambda said: faults.append(said.text) if said.type == "error" else None)
    yield opened
    context.close()
    # a refusal is shown by the page; that the console lists it too is no fault
    assert [fault for fault in faults if "Failed to load resource" not in fault] == []
