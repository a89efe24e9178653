"""The disk of Rheon's own data full while it runs: told, nothing ended or lost, and on it goes with room again."""

from __future__ import annotations

import contextlib
import json
import sqlite3
import urllib.error
import urllib.request
from http.cookiejar import CookieJar
from pathlib import Path

from .conftest import Rheon, free_port


class Caller:
    """Calls the API as the page does."""

    def __init__(self, address: str) -> None:
        self._address = address
        self._jar = CookieJar()
        self._opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self._jar))
        self._opener.open(f"{address}/shelf", timeout=20).close()

    def __call__(self, path: str, body: object = None) -> tuple[int, dict[str, object]]:
        token = next(cookie.value or "" for cookie in self._jar if cookie.name == "csrftoken")
        headers = {"X-CSRFToken": token, "Content-Type": "application/json"}
        data = None if body is None else json.dumps(body).encode()
        try:
            with self._opener.open(
                urllib.request.Request(f"{self._address}/api/{path}", data, headers), timeout=30
            ) as said:
                read = said.read()
                return said.status, json.loads(read) if read else {}
        except urllib.error.HTTPError as refused:
            return refused.code, json.loads(refused.read())


def test_a_full_disk_is_told_and_what_runs_goes_on(small_disk: Path, tmp_path: Path, media: Path) -> None:
    state = small_disk / "state"
    running = Rheon(state=state, output=tmp_path / "output", port=free_port(), door=free_port(), logs=tmp_path)
    running.output.mkdir()
    state.mkdir()
    running.manage("migrate", "--verbosity", "0")
    try:
        for name in ("web", "quick", "convert"):
            running.start(name)
        running.wait()
        call = Caller(running.address)
        assert call("household/members", {"name": "Ada"})[0] == 201
        with contextlib.suppress(OSError), (small_disk / "filling").open("wb") as filling:
            while True:
                filling.write(bytes(4096))
                filling.flush()
        refused = [call("household/members", {"name": f"{number} {'x' * 70}"}) for number in range(40)]
        assert {status for status, _ in refused} <= {201, 507}, refused
        told = [said for status, said in refused if status == 507]
        assert told and all(said["code"] == "state_full" and "Free some space" in str(said["message"]) for said in told)
        assert [call(path)[0] for path in ("worklist", "shelf/sources", "household", "health")] == [200] * 4
        assert all(process.poll() is None for process in running.processes.values())
        kept = sum(status == 201 for status, _ in refused)
        (small_disk / "filling").unlink()
        assert call("household/members", {"name": "Bo"})[0] == 201
        members = call("household")[1]["members"]
        assert isinstance(members, list) and len(members) == 2 + kept
        assert call("shelf/sources", {"path": str(media / "camera" / "Kite day.mp4")})[0] == 202
        assert all(process.poll() is None for process in running.processes.values())
    finally:
        running.end()
    with contextlib.closing(sqlite3.connect(state / "rheon.sqlite3")) as db:
        assert db.execute("PRAGMA integrity_check").fetchall() == [("ok",)]
