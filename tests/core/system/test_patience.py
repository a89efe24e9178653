"""What never answers holds nobody up, and is asked once."""

from __future__ import annotations

import threading
from concurrent.futures import ThreadPoolExecutor

import pytest
from tests.instruments.waiting import until

from rheon.core.system import patience
from rheon.core.system.patience import within_patience


def test_what_does_not_answer_is_asked_once_and_again_when_it_has(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(patience, "PATIENCE_S", 0.2)
    asked, back = [], threading.Event()

    def ask() -> int:
        asked.append(1)
        back.wait(20)
        return len(asked)

    assert [within_patience("a share", ask) for _ in range(4)] == [None] * 4 and len(asked) == 1
    assert within_patience("another", lambda: 7) == 7
    back.set()
    until(lambda: within_patience("a share", ask) == 2)


def test_whoever_comes_meanwhile_gets_the_same_answer() -> None:
    going, asked = threading.Event(), []

    def ask() -> str:
        asked.append(1)
        going.wait(1)
        return "there"

    with ThreadPoolExecutor(6) as threads:
        waiting = [threads.submit(within_patience, "a stick", ask) for _ in range(6)]
        going.set()
        assert {one.result() for one in waiting} == {"there"}
    assert within_patience("a stick", lambda: "again") == "again"
