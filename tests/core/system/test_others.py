"""What others use of the machine is told apart from what is our own, by real processes that keep a core busy."""

from __future__ import annotations

import os
import subprocess
import time
from collections.abc import Iterator

import pytest

from rheon.core.system import Others, available_bytes
from rheon.core.system import others as watching

BUSY = "while :; do :; done"


@pytest.fixture(autouse=True)
def soon(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(watching, "BUSY_S", 1.0)
    monkeypatch.setattr(watching, "CALM_S", 2.0)


@pytest.fixture
def busy() -> Iterator[subprocess.Popen[bytes]]:
    """A process whose child, whom it waits for, keeps a core busy."""
    process = subprocess.Popen(["sh", "-c", f"sh -c '{BUSY}'; :"], start_new_session=True)
    yield process
    os.killpg(process.pid, 9)
    process.wait()


def test_a_process_and_what_it_started_are_our_own(busy: subprocess.Popen[bytes]) -> None:
    with subprocess.Popen(["sleep", "60"]) as quiet:
        roots = (busy.pid, os.getpid(), quiet.pid)
        before = [watching._theirs_s(root) for root in roots]
        time.sleep(3)
        ours, theirs, others = (watching._theirs_s(root) - was for root, was in zip(roots, before, strict=True))
        quiet.kill()
    # over the same seconds, so that what else runs on this machine is in all three
    assert others > max(ours, theirs) + 0.25


def test_others_count_only_after_a_while_and_so_does_their_silence(monkeypatch: pytest.MonkeyPatch) -> None:
    clock = [0.0, 0.0]
    monkeypatch.setattr(time, "monotonic", lambda: clock[0])
    monkeypatch.setattr(watching, "_theirs_s", lambda root: clock[1])
    others, is_busy, told = Others(1), False, []
    # ten quarters of a second at each of these many cores
    for cores in (0.1, 1.0, 1.0, 0.3, 0.1, 0.1, 0.1):
        for _ in range(10):
            clock[0] += 0.25
            clock[1] += 0.25 * cores
            is_busy = others.are_busy(is_busy)
        told.append(is_busy)
    assert told == [False, True, True, True, False, False, False]


def test_memory_that_is_left_is_some_of_what_there_is() -> None:
    left = available_bytes()
    assert left is not None and 0 < left <= os.sysconf("SC_PAGE_SIZE") * os.sysconf("SC_PHYS_PAGES")
