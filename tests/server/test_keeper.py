"""The keeper of an installation: what dies is started again, what lives is left alone, and everything ends together."""

from __future__ import annotations

import asyncio
import os
import signal
import sys
from pathlib import Path

import pytest

from rheon.core.system import is_alive, process_identity
from rheon.server import keeper
from rheon.server.keeper import Part, keep
from rheon.settings import Settings


def noting(path: Path, then: str) -> Part:
    """A part that notes that it was started, and then does something."""
    code = f"import os, time; open({str(path)!r}, 'a').write(f'{{os.getpid()}}\\n'); {then}"
    return Part(name=path.stem, argv=(sys.executable, "-c", code))


def lives(path: Path) -> list[str]:
    return path.read_text().split() if path.exists() else []


async def until_lives(path: Path, count: int) -> None:
    for _ in range(200):
        if len(lives(path)) >= count:
            return
        await asyncio.sleep(0.05)
    raise AssertionError(f"{path.stem} was started {len(lives(path))} times, not {count}")


async def test_a_part_that_ends_or_is_killed_is_started_again_and_takes_no_other_with_it(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(keeper, "FIRST_REST_S", 0.05)
    short, steady = tmp_path / "short", tmp_path / "steady"
    stopping = asyncio.Event()
    kept = asyncio.gather(
        keep(noting(short, "print('x' * 200_000)"), stopping), keep(noting(steady, "time.sleep(60)"), stopping)
    )
    await until_lives(short, 3)
    await until_lives(steady, 1)
    os.kill(int(lives(steady)[0]), signal.SIGKILL)
    await until_lives(steady, 2)
    second = process_identity(int(lives(steady)[1]))
    await until_lives(short, 4)
    assert is_alive(second) and len(lives(steady)) == 2
    stopping.set()
    await asyncio.wait_for(kept, 20)
    assert not is_alive(second)


async def test_what_cannot_be_started_is_tried_again_later(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(keeper, "FIRST_REST_S", 0.05)
    stopping, program = asyncio.Event(), tmp_path / "program"
    kept = asyncio.create_task(keep(Part(name="late", argv=(str(program),)), stopping))
    await asyncio.sleep(0.2)
    program.write_text(f"#!/bin/sh\necho here >> {tmp_path / 'seen'}\nsleep 60\n")
    program.chmod(0o700)
    await until_lives(tmp_path / "seen", 1)
    stopping.set()
    await asyncio.wait_for(kept, 20)


def test_the_log_is_for_its_owner_and_never_larger_than_it_may_be(tmp_path: Path) -> None:
    settings = Settings(state=tmp_path, log_mb=1)
    keeper.log_to(settings)
    try:
        for number in range(12_000):
            keeper.log.info("%s | line %d %s", "web", number, "x" * 100)
    finally:
        for handler in keeper.log.handlers:
            handler.close()
        keeper.log.handlers = []
    files = list((tmp_path / "logs").iterdir())
    assert len(files) > 1 and sum(path.stat().st_size for path in files) <= 1_000_000
    assert "line 11999" in (tmp_path / "logs" / "rheon.log").read_text()
    assert (tmp_path / "logs").stat().st_mode & 0o077 == 0
