"""To ask what may never answer: a network that went away holds up whoever asks it (nfs(5), hard mounts)."""

from __future__ import annotations

import threading
import time
from collections.abc import Callable
from typing import Any, TypeVar, cast

PATIENCE_S = 2.0
T = TypeVar("T")
_open: dict[str, _Question] = {}
_lock = threading.Lock()


class _Question:
    """Asked in a thread of its own, however many wait for its answer."""

    def __init__(self, ask: Callable[[], object]) -> None:
        self._until = time.monotonic() + PATIENCE_S
        self._answer: object = None
        self._thread = threading.Thread(target=self._ask, args=(ask,), daemon=True, name="question")
        self._thread.start()

    def _ask(self, ask: Callable[[], object]) -> None:
        self._answer = ask()

    @property
    def is_open(self) -> bool:
        return self._thread.is_alive()

    def wait(self) -> object:
        self._thread.join(max(0.0, self._until - time.monotonic()))
        return self._answer


def within_patience(about: str, ask: Callable[[], T | None]) -> T | None:
    """What is answered in two seconds, ``None`` for what is not; nobody asks again ``about`` it before it has answered.

    Whoever comes meanwhile gets the same answer. ``ask`` raises nothing.
    """
    with _lock:
        question = _open.get(about)
        if question is None or not question.is_open:
            question = _open[about] = _Question(cast(Any, ask))
    return cast("T | None", question.wait())
