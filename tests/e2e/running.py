"""A whole Rheon under test: its processes, its database seen from outside, and its state put back."""

from __future__ import annotations

import contextlib
import functools
import os
import random
import shutil
import signal
import socket
import sqlite3
import subprocess
import sys
import time
import urllib.error
import urllib.request
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, BrowserContext
from tests.instruments.calling import UNDER_WAY, Caller
from tests.instruments.hardware import Chip

from rheon.demo.works import serve as serve_works
from rheon.server.keeper import DJANGO, parts
from rheon.settings import Settings, load_settings

ROOT = Path(__file__).parents[2]
MEDIA = ROOT / "demo-data" / "media"
PARTS = ("web", "quick", "second", "convert", "copy")
LOGGED = 1500
LOOKED = " or ".join(f"mark like '{what}-%'" for what in ("samples", "stills", "levels", "proposals"))
"""Of what was found out about titles, what no test watches while it is looked for."""
PATIENT_MS = 120_000
"""Waiting costs nothing where all is well, and other work may hold both cores meanwhile."""


def window(browser: Browser, **chosen: Any) -> BrowserContext:
    """Pages of somebody of their own, that wait for what they are asked for."""
    context = browser.new_context(**chosen)
    context.set_default_timeout(PATIENT_MS)
    return context


@functools.cache
def works() -> str:
    """The address of the stand-in for a look-up service, which runs as long as these tests do."""
    return f"http://127.0.0.1:{serve_works().server_address[1]}"


@dataclass
class Rheon:
    """The processes of one running Rheon. ``state`` holds its database, ``output`` what it makes."""

    state: Path
    output: Path
    port: int
    pairing_port: int
    media_server_port: int = 0
    logs: Path | None = None
    chip: Chip | None = None
    processes: dict[str, subprocess.Popen[bytes]] = field(default_factory=dict)

    @property
    def address(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    @property
    def database(self) -> Path:
        return self.state / "rheon.sqlite3"

    @property
    def tray(self) -> Path:
        """What is in the stand-in for a drive."""
        return self.state / "tray.json"

    @property
    def sticks(self) -> Path:
        """The stand-ins for sticks, a folder each."""
        return self.state / "sticks"

    @property
    def shut_down(self) -> Path:
        """What the stand-in for a machine that is shut down leaves behind."""
        return self.state / "shut-down"

    def manage(self, *arguments: str) -> None:
        subprocess.run(
            [sys.executable, "manage.py", *arguments], cwd=ROOT, env=self._env(), check=True, capture_output=True
        )

    def start(self, name: str) -> None:
        argv = next(part.argv for part in parts(self.settings) if part.name == name)
        log = ((self.logs or self.state) / f"{name}.log").open("ab")
        self.processes[name] = subprocess.Popen(argv, cwd=ROOT, env=self._env(), stdout=log, stderr=log)

    def start_all(self) -> None:
        """Start what does not run, and end what is only wanted now and then."""
        for name in (*PARTS, *self.processes):
            running = name in self.processes and self.processes[name].poll() is None
            if name in PARTS and not running:
                self.start(name)
            elif name not in PARTS and running:
                self.kill(name)
        self.wait()

    def kill(self, name: str) -> None:
        """End a process as a power cut would."""
        self.processes[name].send_signal(signal.SIGKILL)
        self.processes[name].wait()

    def become(self, chip: Chip | None) -> None:
        """Be another machine from now on: with a graphics chip, or without."""
        for name in PARTS:
            self.kill(name)
        self.chip = chip
        self.start_all()

    def wait(self) -> None:
        for _ in range(450):
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

    def ask(self, query: str, *values: object) -> list[tuple[Any, ...]]:
        """What the database says, or is told, from outside."""
        with contextlib.closing(sqlite3.connect(self.database, timeout=30)) as database, database:
            return database.execute(query, values).fetchall()

    def pick(self, name: str) -> None:
        """Put a title on the Bench."""
        self.ask("insert into bench_pick (title_id) select id from shelf_title where name = ?", name)

    @property
    def call(self) -> Caller:
        """The API, as a page of its own calls it."""
        return Caller(self.address)

    def busy(self) -> bool:
        """Whether anything is being read, looked at or made, or waits for that."""
        return any(self.ask(query) != [(0,)] for query in UNDER_WAY)

    def told(self) -> str:
        """The jobs that were not made, and the last of what each process logged."""
        jobs = self.ask("select title_name, state, error_code, error_message from worklist_job where error_code != ''")
        logs = sorted((self.logs or self.state).glob("*.log"))
        ends = (f"--- {log.name}\n{log.read_text(errors='replace')[-LOGGED:]}" for log in logs)
        return "\n".join([*map(str, jobs), *ends])

    def rest(self, patience_s: float = 600) -> None:
        """Wait until nothing is under way, twice, since one piece of work may ask for another. Fails if it never is."""
        until = time.monotonic() + patience_s
        calm = 0
        while calm < 2 and time.monotonic() < until:
            calm = 0 if self.busy() else calm + 1
            time.sleep(0.4)
        if calm < 2:
            pytest.fail(f"it did not come to rest: {self.told()}")

    def keep(self, stage: Path) -> None:
        """Keep everything as it is now, to begin from again."""
        stage.mkdir(parents=True, exist_ok=True)
        shutil.copytree(self.output, stage / "output")
        (stage / "made-in").write_text(str(self.output))
        with (
            contextlib.closing(sqlite3.connect(self.database)) as here,
            contextlib.closing(sqlite3.connect(stage / "rheon.sqlite3")) as there,
        ):
            here.backup(there)

    def begin(self, stage: Path) -> None:
        """Be as it was kept: every row, every file that was made, and nothing under way. What looking at a title has
        found is known for good: it is the same each time, and takes seconds.
        """
        if self.busy():
            for name in PARTS[1:]:
                self.kill(name)
        with contextlib.closing(sqlite3.connect(self.database, timeout=30)) as database:
            database.execute("attach ? as kept", (str(stage / "rheon.sqlite3"),))
            names = database.execute("select name from kept.sqlite_master where type = 'table' and sql not null")
            tables = [name for (name,) in names if name not in ("django_migrations", "shelf_finding")]
            database.execute("begin immediate")
            database.execute("pragma defer_foreign_keys = on")
            for table in tables:
                database.execute(f"delete from main.{table}")
                database.execute(f"insert into main.{table} select * from kept.{table}")
            database.execute(f"delete from main.shelf_finding where not ({LOOKED})")
            what = "mark, document, added"
            database.execute(f"insert or ignore into main.shelf_finding ({what}) select {what} from kept.shelf_finding")
            moved = ((stage / "made-in").read_text(), str(self.output))
            database.execute("update outbox_output set path = replace(path, ?, ?)", moved)
            database.execute("update worklist_job set folder = replace(folder, ?, ?)", moved)
            database.commit()
        for path in self.output.iterdir():
            shutil.rmtree(path) if path.is_dir() else path.unlink()
        shutil.copytree(stage / "output", self.output, dirs_exist_ok=True)
        self.tray.unlink(missing_ok=True)
        self.shut_down.unlink(missing_ok=True)
        shutil.rmtree(self.sticks, ignore_errors=True)
        self.start_all()

    @property
    def settings(self) -> Settings:
        flags: dict[str, object] = {
            "state": self.state,
            "output": self.output,
            "media": (MEDIA,),
            "port": self.port,
            "drives": (f"rheon.demo.drive:{self.tray},{MEDIA}",),
            "ends": (f"Shut down=touch {self.shut_down}",),
            "look_up": works(),
            "volumes": (f"rheon.demo.sticks:{self.sticks}",),
        }
        if self.chip:
            flags["hardware"] = str(self.chip.dev)
        for_devices = {"pairing_host": "127.0.0.1", "pairing_port": self.pairing_port}
        if self.media_server_port:
            flags["media_server_port"] = self.media_server_port
        return load_settings({**flags, **for_devices}).settings

    def _env(self) -> dict[str, str]:
        path = {"PATH": self.chip.path} if self.chip else {}
        return {**os.environ, **self.settings.environment(), **DJANGO, **path}


def free_port() -> int:
    """A port that nobody listens at, below those of outgoing connections: a server started again finds it free."""
    for port in random.SystemRandom().sample(range(20_000, 32_000), 100):
        with socket.socket() as probe, contextlib.suppress(OSError):
            probe.bind(("127.0.0.1", port))
            return port
    pytest.fail("no port is free")
