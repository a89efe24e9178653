"""A real start: the wheel in an empty environment and an empty home, own films, a browser, and the years after."""

from __future__ import annotations

import contextlib
import json
import os
import shutil
import signal
import socket
import subprocess
import sys
import sysconfig
import time
import urllib.error
import urllib.request
import zipfile
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Locator, Page, expect

from rheon.core.devices import families
from rheon.demo.models import models

from .running import ROOT, free_port, window

WORDS = "river and tide"
MOST_CLICKS = 5


@dataclass
class Own:
    """An installation of one's own: nothing of the checkout is in its environment."""

    home: Path
    rheon: Path
    port: int
    running: subprocess.Popen[bytes] | None = None
    clicks: int = 0
    more: list[str] = field(default_factory=list)

    @property
    def environment(self) -> dict[str, str]:
        return {"HOME": str(self.home), "PATH": "/usr/local/bin:/usr/bin:/bin", "LANG": "C.UTF-8"}

    def run(self, *arguments: str, said: str = "") -> subprocess.CompletedProcess[str]:
        argv = [str(self.rheon), *arguments]
        return subprocess.run(
            argv, env=self.environment, cwd=self.home, input=said, capture_output=True, text=True, check=False
        )

    def serve(self, *more: str) -> None:
        argv = [str(self.rheon), "serve", "--port", str(self.port), "--pairing-port", str(free_port()), *more]
        log = (self.home / "log").open("ab")
        self.running = subprocess.Popen(argv, env=self.environment, cwd=self.home, stdout=log, stderr=log)
        for _ in range(1200):
            try:
                urllib.request.urlopen(f"http://127.0.0.1:{self.port}/api/health", timeout=2).close()
                return
            except OSError:
                time.sleep(0.1)
        pytest.fail("it did not start: " + (self.home / "log").read_text()[-2000:])

    def end(self) -> None:
        if self.running:
            self.running.send_signal(signal.SIGTERM)
            assert self.running.wait(20) == 0
            self.running = None

    def click(self, what: Locator) -> None:
        what.click()
        self.clicks += 1


def install(environment: Path, *, with_packages: bool) -> None:
    """The wheel in an environment of its own, with what it says that it needs, or with the packages that are here."""
    subprocess.run(["make", "--no-print-directory", "wheel"], cwd=ROOT, check=True, capture_output=True)
    (wheel,) = (ROOT / "dist").glob("rheon-*.whl")
    subprocess.run([sys.executable, "-m", "venv", "--without-pip", str(environment)], check=True)
    pip = [sys.executable, "-m", "pip", "--python", str(environment), "install", "--quiet"]
    subprocess.run([*pip, *([] if with_packages else ["--no-deps"]), str(wheel)], check=True)
    if not with_packages:
        here = Path(sysconfig.get_path("purelib"))
        (own,) = environment.glob("lib/python*/site-packages")
        for one in here.iterdir():
            if "rheon" not in one.name and not (own / one.name).exists():
                (own / one.name).symlink_to(one)


@pytest.fixture
def own(media: Path, tmp_path: Path, request: pytest.FixtureRequest) -> Iterator[Own]:
    place = tmp_path
    environment = place / "environment"
    install(environment, with_packages=request.config.getoption("--thorough"))
    home = place / "home"
    (home / "Videos").mkdir(parents=True)
    shutil.copy(media / "camera" / "Kite day.mp4", home / "Videos")
    shutil.copytree(media / "Tide Watch", home / "Videos" / "Tide Watch")
    made = Own(home=home, rheon=environment / "bin" / "rheon", port=free_port())
    yield made
    made.end()


def before_anything_was_started_the_doctor_finds_nothing_bad(own: Own, _: Page) -> None:
    done = own.run("doctor", "--json", "--port", str(own.port))
    findings = json.loads(done.stdout)
    assert (done.returncode, [f for f in findings if f["state"] == "bad"]) == (0, [])
    assert [path.name for path in own.home.iterdir()] == ["Videos"]  # looking leaves nothing


def from_an_empty_home_to_the_first_file_in_a_few_clicks(own: Own, visitor: Page) -> None:
    own.serve()
    visitor.goto(f"http://127.0.0.1:{own.port}/")
    expect(visitor).to_have_url(f"http://127.0.0.1:{own.port}/start")
    films = visitor.get_by_role("region", name="Where are your films?")
    expect(films.get_by_text("2 films and discs")).to_be_visible()
    expect(films.get_by_role("checkbox")).to_be_checked()
    expect(visitor.get_by_text(str(own.home / "Videos" / "Rheon"))).to_be_visible()
    visitor.get_by_label("Say what it is").fill("a screen on the back seat, 2012")
    expect(visitor.get_by_role("heading", name="Seat screen or portable player, about 2008–2015")).to_be_visible()
    visitor.get_by_role("button", name="That is one of mine").click()
    visitor.get_by_role("button", name="Read the films").click()

    expect(visitor.get_by_role("region", name="Kite day")).to_be_visible()
    own.click(visitor.get_by_role("link", name="Take to the Bench"))
    cell = visitor.get_by_role("row", name="Kite day").get_by_role("checkbox", name="Pick convert for 1 device")
    own.click(cell)
    own.click(visitor.get_by_role("button", name="Convert 1 file"))
    expect(visitor).to_have_url(f"http://127.0.0.1:{own.port}/worklist")
    assert own.clicks <= MOST_CLICKS
    visitor.goto(f"http://127.0.0.1:{own.port}/outbox")
    expect(visitor.get_by_role("list", name="Outputs").get_by_role("link")).to_have_count(1, timeout=240_000)
    (made,) = (own.home / "Videos" / "Rheon").iterdir()
    assert made.stat().st_size > 10_000


def nothing_of_the_demo_is_anywhere(own: Own, visitor: Page) -> None:
    (wheel,) = (ROOT / "dist").glob("rheon-*.whl")
    with zipfile.ZipFile(wheel) as packed:
        names = packed.namelist()
    assert [name for name in names if "demo" in name or any(model in name for model in models())] == []
    assert sum(name.startswith("rheon/core/devices/kinds/") for name in names) == len(families()) + 1
    base = f"http://127.0.0.1:{own.port}/api"
    sources = visitor.request.get(f"{base}/shelf/sources").json()
    household = visitor.request.get(f"{base}/household").json()
    assert sorted(source["name"] for source in sources) == ["Kite day", "Tide Watch"]
    assert (len(household["devices"]), household["members"]) == (1, [])
    assert visitor.request.get(f"{base}/shelf/drives").json() == []
    visitor.goto(f"http://127.0.0.1:{own.port}/")
    expect(visitor).to_have_url(f"http://127.0.0.1:{own.port}/shelf")
    visitor.goto(f"http://127.0.0.1:{own.port}/settings")
    expect(visitor.get_by_role("region", name="Films").get_by_text("2 films and discs")).to_be_visible()
    expect(visitor.get_by_role("row", name="port").get_by_text("the flag --port")).to_be_visible()


def all_of_it_is_the_owner_s_alone(own: Own, _: Page) -> None:
    state = own.home / ".local" / "share" / "rheon"
    assert {"rheon.sqlite3", "secret-key", "logs"} <= {path.name for path in state.iterdir()}
    # nobody else gets past the folder, whatever the files in it allow
    assert state.stat().st_mode & 0o077 == 0


def what_runs_already_or_takes_the_port_is_told(own: Own, _: Page) -> None:
    second = own.run("serve", "--port", str(free_port()))
    assert (second.returncode, "runs already" in second.stderr) == (4, True)
    other = own.run("serve", "--port", str(own.port), "--state", str(own.home / "second"))
    assert (other.returncode, f"port {own.port}" in other.stderr) == (4, True)
    assert "Rheon answers at port" in own.run("doctor", "--port", str(own.port)).stdout


def a_part_that_is_killed_is_started_again_and_a_copy_is_made_meanwhile(own: Own, visitor: Page) -> None:
    log = (own.home / ".local" / "share" / "rheon" / "logs" / "rheon.log").read_text()
    web = int(next(line for line in log.splitlines() if "web " in line and "started" in line).rsplit(" ", 1)[1])
    os.kill(web, signal.SIGKILL)
    copied = own.run("backup", str(own.home / "copy.sqlite3"))
    assert copied.returncode == 0, copied.stderr
    for _ in range(100):
        try:
            urllib.request.urlopen(f"http://127.0.0.1:{own.port}/api/health", timeout=2).close()
            break
        except OSError:
            time.sleep(0.2)
    visitor.goto(f"http://127.0.0.1:{own.port}/outbox")
    expect(visitor.get_by_role("list", name="Outputs").get_by_role("link")).to_have_count(1)


def network_address() -> str:
    """This machine's address as others see it, where it has one; sends nothing."""
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as asked, contextlib.suppress(OSError):
        asked.connect(("192.0.2.1", 9))
        return str(asked.getsockname()[0])
    return "127.0.0.1"


def others_need_the_passphrase(own: Own, visitor: Page) -> None:
    own.end()
    refused = own.run("serve", "--listen", "0.0.0.0", "--port", str(own.port))
    assert (refused.returncode, "rheon passphrase" in refused.stderr) == (2, True)
    assert own.run("passphrase", said="short\n").returncode == 4
    assert own.run("passphrase", said=f"{WORDS}\n").returncode == 0
    own.serve("--listen", "0.0.0.0")
    address = f"http://{network_address()}:{own.port}"
    for path in ("home", "shelf/sources", "live", "outbox/1/media"):
        assert visitor.request.get(f"{address}/api/{path}").status == 401
    visitor.goto(f"{address}/outbox")
    ask = visitor.get_by_label("Passphrase")
    ask.fill("tide and river")
    visitor.get_by_role("button", name="Come in").click()
    expect(visitor.get_by_text("That is not the passphrase.")).to_be_visible()
    ask.fill(WORDS)
    visitor.get_by_role("button", name="Come in").click()
    expect(visitor.get_by_role("list", name="Outputs").get_by_role("link")).to_have_count(1)
    visitor.goto(f"{address}/settings")
    visitor.get_by_role("button", name="Sign out here").click()
    expect(visitor.get_by_label("Passphrase")).to_be_visible()
    with pytest.raises(urllib.error.HTTPError) as strange:
        urllib.request.urlopen(urllib.request.Request(f"{address}/", headers={"Host": "evil.example"}), timeout=5)
    assert strange.value.code == 400


def a_copy_goes_into_another_home_with_everything(own: Own, _: Page) -> None:
    own.end()
    away = own.home / "elsewhere"
    put_back = own.run("restore", str(own.home / "copy.sqlite3"), "--state", str(away))
    assert put_back.returncode == 0, put_back.stderr
    # the copy is from before the passphrase
    own.serve("--state", str(away))
    base = f"http://127.0.0.1:{own.port}/api"
    with urllib.request.urlopen(f"{base}/outbox", timeout=10) as said:
        assert json.load(said)["count"] == 1
    with urllib.request.urlopen(f"{base}/shelf/sources", timeout=10) as said:
        assert len(json.load(said)) == 2


STORY = (
    before_anything_was_started_the_doctor_finds_nothing_bad,
    from_an_empty_home_to_the_first_file_in_a_few_clicks,
    nothing_of_the_demo_is_anywhere,
    all_of_it_is_the_owner_s_alone,
    what_runs_already_or_takes_the_port_is_told,
    a_part_that_is_killed_is_started_again_and_a_copy_is_made_meanwhile,
    others_need_the_passphrase,
    a_copy_goes_into_another_home_with_everything,
)


def test_from_a_wheel_to_a_second_home(own: Own, browser: Browser) -> None:
    """One story, so that no test needs what another has left."""
    for step in STORY:
        context = window(browser, viewport={"width": 1280, "height": 800})
        step(own, context.new_page())
        context.close()
