"""A whole installation of its own, to be mistreated: started, asked as the page asks, looked at from outside."""

from __future__ import annotations

import contextlib
import json
import os
import signal
import sqlite3
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from tests.instruments.calling import UNDER_WAY, Caller

from rheon.core.system import is_alive, may_be_in_use

ROOT = Path(__file__).resolve().parents[1]
MEDIA = ROOT / "demo-data" / "media"
START_S = 40.0


@dataclass(slots=True, kw_only=True)
class Installation:
    """Everything under ``folder``; ``keeper`` is the one process that starts the others."""

    folder: Path
    port: int
    keeper: subprocess.Popen[bytes] | None = None
    ask: Caller = field(init=False)

    def __post_init__(self) -> None:
        self.ask = Caller(f"http://127.0.0.1:{self.port}")

    @property
    def output(self) -> Path:
        return self.folder / "output"

    @property
    def state(self) -> Path:
        return self.folder / "state"

    def environment(self) -> dict[str, str]:
        mine = {"RHEON_STATE": str(self.state), "RHEON_OUTPUT": str(self.output), "RHEON_PORT": str(self.port)}
        mine |= {
            "RHEON_PAIRING_PORT": str(self.port + 1),
            "RHEON_PAIRING_HOST": "127.0.0.1",
            "RHEON_DRIVES": "/dev/none",
            "RHEON_VOLUMES": f"rheon.demo.sticks:{self.state / 'sticks'}",
        }
        return {**os.environ, "RHEON_MEDIA": f"{MEDIA}{os.pathsep}{self.folder / 'media'}", **mine}

    def manage(self, *arguments: str) -> None:
        argv = [sys.executable, "manage.py", *arguments]
        subprocess.run(argv, cwd=ROOT, env=self.environment(), check=True, stdout=subprocess.DEVNULL)

    def start(self) -> None:
        self.output.mkdir(parents=True, exist_ok=True)
        with (self.folder / "log").open("ab") as log:
            argv = [sys.executable, "-c", "from rheon.cli.main import main; main()", "serve"]
            self.keeper = subprocess.Popen(argv, cwd=ROOT, env=self.environment(), stdout=log, stderr=log)
        self.wait_for_answer()

    def wait_for_answer(self) -> None:
        until = time.monotonic() + START_S
        while time.monotonic() < until:
            with contextlib.suppress(OSError):
                self.ask("GET", "worklist")
                return
            time.sleep(0.1)
        raise SystemExit(f"the installation does not answer:\n{(self.folder / 'log').read_text()[-3000:]}")

    def stop(self) -> None:
        if self.keeper:
            self.keeper.send_signal(signal.SIGTERM)
            self.keeper.wait(20)

    def target(self, device_name: str) -> int:
        """The number by which a device is asked for on the Bench."""
        name = device_name.replace("'", "''")
        joined = "bench_target t join household_device d on d.id = t.device_id"
        return int(self.rows(f"select t.id from {joined} where d.name = '{name}'")[0][0])

    def rows(self, query: str) -> list[tuple[Any, ...]]:
        """What the database says, read from outside."""
        with contextlib.closing(
            sqlite3.connect(f"file:{self.state}/rheon.sqlite3?mode=ro", uri=True, timeout=20)
        ) as db:
            return db.execute(query).fetchall()

    def parts(self) -> dict[str, int]:
        """The processes of the installation by their names, the keeper among them."""
        assert self.keeper
        found = {"keeper": self.keeper.pid}
        for pid in _children(self.keeper.pid):
            said = Path(f"/proc/{pid}/cmdline").read_bytes().split(b"\0")
            if b"uvicorn" in said:
                found["web"] = pid
            elif b"work" in said:
                name = said[said.index(b"work") + 1].decode()
                found["second" if name in found else name] = pid
        return found

    def stuck(self) -> int:
        """Rows that are marked as being worked on by processes that are gone."""
        claimed = self.rows("select worker from worklist_job where state = 'running'")
        claimed += self.rows("select worker from shelf_source where state = 'reading'")
        hints = self.rows("select worker_ids from django_tasks_database_dbtaskresult where status = 'RUNNING'")
        taken = sum(not may_be_in_use(json.loads(workers)[-1]) for (workers,) in hints)
        return taken + sum(not is_alive(worker) for (worker,) in claimed)

    def busy(self) -> int:
        """How much is waiting or being done."""
        return sum(self.rows(query)[0][0] for query in UNDER_WAY)


@contextlib.contextmanager
def installed(port: int, *sources: str) -> Iterator[Installation]:
    """A new installation with the demo's household and these of its sources, running; ended and removed afterwards."""
    with tempfile.TemporaryDirectory(prefix="rheon-bench-") as folder:
        place = Installation(folder=Path(folder), port=port)
        place.manage("migrate", "--verbosity", "0")
        place.manage("load_household", str(ROOT / "src/rheon/demo/household.json"))
        place.manage("add_sources", *(str(MEDIA / name) for name in sources))
        try:
            place.start()
            yield place
        finally:
            place.stop()


def _children(pid: int) -> Iterator[int]:
    with contextlib.suppress(OSError):
        yield from map(int, Path(f"/proc/{pid}/task/{pid}/children").read_text().split())
