"""A real server with its workers, and a real browser to drive it."""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import sys
import time
import urllib.error
import urllib.request
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect, sync_playwright

from rheon.server.keeper import DJANGO, parts
from rheon.settings import Settings, load_settings

ROOT = Path(__file__).parents[2]
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


@dataclass
class Rheon:
    """The processes of one running Rheon. ``state`` holds its database, ``output`` what it makes."""

    state: Path
    output: Path
    port: int
    door: int
    logs: Path | None = None
    processes: dict[str, subprocess.Popen[bytes]] = field(default_factory=dict)

    @property
    def address(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    def manage(self, *arguments: str) -> None:
        subprocess.run(
            [sys.executable, "manage.py", *arguments], cwd=ROOT, env=self._env(), check=True, capture_output=True
        )

    def start(self, name: str) -> None:
        argv = next(part.argv for part in parts(self.settings) if part.name == name)
        log = ((self.logs or self.state) / f"{name}.log").open("ab")
        self.processes[name] = subprocess.Popen(argv, cwd=ROOT, env=self._env(), stdout=log, stderr=log)

    def kill(self, name: str) -> None:
        """End a process as a power cut would."""
        self.processes[name].send_signal(signal.SIGKILL)
        self.processes[name].wait()

    def wait(self) -> None:
        for _ in range(150):
            try:
                urllib.request.urlopen(f"{self.address}/shelf", timeout=2).close()
            except (urllib.error.URLError, OSError):
                time.sleep(0.2)
            else:
                return
        pytest.fail("the server did not start: " + (self.state / "web.log").read_text()[-2000:])

    def end(self) -> None:
        for process in self.processes.values():
            process.terminate()
        for process in self.processes.values():
            try:
                process.wait(timeout=10)
            except subprocess.TimeoutExpired:
                process.kill()

    @property
    def settings(self) -> Settings:
        flags = {
            "state": self.state,
            "output": self.output,
            "media": (ROOT / "demo-data" / "media",),
            "port": self.port,
        }
        return load_settings({**flags, "door_port": self.door, "door_host": "127.0.0.1"}).settings

    def _env(self) -> dict[str, str]:
        return {**os.environ, **self.settings.environment(), **DJANGO}


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


@pytest.fixture(scope="module")
def rheon(media: Path, tmp_path_factory: pytest.TempPathFactory) -> Iterator[Rheon]:
    state = tmp_path_factory.mktemp("state")
    running = Rheon(state=state, output=tmp_path_factory.mktemp("output"), port=free_port(), door=free_port())
    running.manage("migrate", "--verbosity", "0")
    running.manage("shell", "--command", SET_UP)
    try:
        for name in ("web", "quick", "second", "convert"):
            running.start(name)
        running.wait()
        yield running
    finally:
        running.end()


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    expect.set_options(timeout=15_000)
    with sync_playwright() as playwright:
        launched = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=BROWSER_FLAGS)
        yield launched
        launched.close()


@pytest.fixture
def page(browser: Browser, rheon: Rheon) -> Iterator[Page]:
    """A page at 1280x800 that fails its test when the console reports an error."""
    context = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=rheon.address)
    opened = context.new_page()
    faults: list[str] = []
    opened.on("pageerror", lambda error: faults.append(str(error)))
    opened.on("console", lambda said: faults.append(said.text) if said.type == "error" else None)
    yield opened
    context.close()
    # a refusal is shown by the page; that the console lists it too is no fault
    assert [fault for fault in faults if "Failed to load resource" not in fault] == []
