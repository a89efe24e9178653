"""The engine as tests use it: patient, since the machine may be at other work."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence

from rheon.core.engine import Command, run

PATIENCE_S = 900.0


def output_of(
    argv: Sequence[str],
    *,
    feed: Callable[[], Iterator[bytes]] | None = None,
    on_complaint: Callable[[str], None] | None = None,
) -> bytes:
    """What a program of the engine writes. Raises ``EngineError``."""
    return run(Command(argv=list(argv), timeout_s=PATIENCE_S, feed=feed, on_complaint=on_complaint)).stdout
