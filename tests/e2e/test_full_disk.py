"""The disk of Rheon's own data full while it runs: told, nothing ended or lost, and on it goes with room again."""

from __future__ import annotations

import contextlib
import json
import sqlite3
import time
import urllib.error
from pathlib import Path
from typing import Any

import pytest
from tests.instruments.calling import Caller

from .running import Rheon, free_port


def answered(call: Caller, path: str, body: object = None) -> tuple[int, Any]:
    """The status too, also of a refusal."""
    try:
        return 200, call("GET" if body is None else "POST", path, body)
    except urllib.error.HTTPError as refused:
        return refused.code, json.loads(refused.read())


def sources_of(call: Caller) -> list[dict[str, Any]]:
    listed = call("GET", "shelf/sources")
    assert isinstance(listed, list)
    return listed


@pytest.mark.thorough
def test_a_full_disk_is_told_and_what_runs_goes_on(small_disk: Path, tmp_path: Path, media: Path) -> None:
    state = small_disk / "state"
    running = Rheon(state=state, output=tmp_path / "output", port=free_port(), pairing_port=free_port(), logs=tmp_path)
    running.output.mkdir()
    state.mkdir()
    running.manage("migrate", "--verbosity", "0")
    try:
        for name in ("web", "quick", "convert"):
            running.start(name)
        running.wait()
        call = running.call
        assert answered(call, "household/members", {"name": "Ada"})[0] == 200
        # whoever reads a source has started, and the other worker began at the same moment
        assert answered(call, "shelf/sources", {"path": str(next((media / "camera").glob("*.mkv")))})[0] == 200
        for _ in range(600):
            if all(source["state"] == "ready" for source in sources_of(call)):
                break
            time.sleep(0.1)
        with contextlib.suppress(OSError), (small_disk / "filling").open("wb") as filling:
            while True:
                filling.write(bytes(4096))
                filling.flush()
        refused = [answered(call, "household/members", {"name": f"{number} {'x' * 70}"}) for number in range(40)]
        assert {status for status, _ in refused} <= {200, 507}, refused
        told = [said for status, said in refused if status == 507]
        assert told and all(said["code"] == "state_full" and "Free some space" in str(said["message"]) for said in told)
        assert [answered(call, path)[0] for path in ("worklist", "shelf/sources", "household", "health")] == [200] * 4
        assert all(process.poll() is None for process in running.processes.values())
        kept = sum(status == 200 for status, _ in refused)
        (small_disk / "filling").unlink()
        assert answered(call, "household/members", {"name": "Bo"})[0] == 200
        members = call("GET", "household")["members"]
        assert isinstance(members, list) and len(members) == 2 + kept
        assert answered(call, "shelf/sources", {"path": str(media / "camera" / "Kite day.mp4")})[0] == 200
        assert all(process.poll() is None for process in running.processes.values())
    finally:
        running.end()
    with contextlib.closing(sqlite3.connect(state / "rheon.sqlite3")) as db:
        assert db.execute("PRAGMA integrity_check").fetchall() == [("ok",)]
