"""Seconds that are seen while they are made: what is written so far becomes a file that plays as it grows."""

from __future__ import annotations

import contextlib
import contextvars
import threading
import time
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path

from ..commands.viewing import Viewed, in_one_piece, viewing_along
from ..engine import Command, probe, run
from .hooks import Hooks

FRAGMENTS = "fragments.mp4"
CHUNK_BYTES = 1 << 16
LOOK_S = 0.05
AHEAD_S = 0.75
"""So much is written before it is played: fragments are a quarter of a second, a browser decodes some of them ahead."""
PACE_S = 0.3
CLUSTER = bytes.fromhex("1f43b675")
"""How Matroska's first packets begin (RFC 9559, 5.1.3)."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Grown:
    """How far a file of ``of_s`` seconds is written, that plays up to there; by ``rate`` seconds a second."""

    path: Path
    written_s: float
    of_s: float
    rate: float

    @property
    def plays_through(self) -> bool:
        """Whether it can be played now and will not have to wait, if the rest comes as quickly as this did."""
        return self.written_s >= min(self.of_s, AHEAD_S + self.of_s * max(0.0, 1 - self.rate))


def pace(reports: Sequence[tuple[float, float]]) -> float:
    """Seconds written a second, from (when, how many are written); 0 while that can't be said."""
    (began_s, before_s), (now_s, written_s) = reports[0], reports[-1]
    return (written_s - before_s) / (now_s - began_s) if now_s - began_s >= PACE_S else 0.0


def unseen(grown: Grown) -> None:
    return None


@dataclass(frozen=True, slots=True)
class Following:
    """Who steers a file of ``of_s`` seconds, and is told how far it is."""

    hooks: Hooks
    of_s: float
    on_grown: Callable[[Grown], None] = unseen


@dataclass(slots=True)
class _Making:
    """What is being written in another thread."""

    part: Path
    over: threading.Event
    failed: BaseException | None = None
    unwanted: bool = False


def seen_along(make: Callable[[Path, Hooks], object], part: Path, target: Path, following: Following) -> None:
    """Run ``make``, which writes ``part``, a Matroska file, and have that made one that any browser plays: in fragments
    beside it, of which is told how far they are, and at the end whole at ``target``.

    Raises what ``make`` raises, ``RheonError`` or ``Stopped``.
    """
    making = _Making(part, threading.Event())
    fragments = part.with_name(FRAGMENTS)
    reports: list[tuple[float, float]] = []

    def told(line: str) -> None:
        key, _, value = line.partition("=")
        if key == "out_time_us" and value.strip().isdigit() and fragments.exists():
            written_s = int(value) / 1e6
            reports.append((time.monotonic(), written_s))
            so_far = Grown(path=fragments, written_s=written_s, of_s=following.of_s, rate=pace(reports))
            following.on_grown(so_far)

    hooks = following.hooks
    with _made_meanwhile(make, making, hooks):
        run(
            Command(
                argv=viewing_along(_begun(making), str(fragments)),
                feed=lambda: _as_written(making),
                timeout_s=None,  # as long as what it reads is being written
                on_line=told,
                should_stop=lambda: making.failed is not None or hooks.should_stop(),
            )
        )
    run(Command(argv=in_one_piece(str(fragments), str(target))))


@contextlib.contextmanager
def _made_meanwhile(make: Callable[[Path, Hooks], object], making: _Making, hooks: Hooks) -> Iterator[None]:
    own = Hooks(should_stop=lambda: making.unwanted or hooks.should_stop(), clock=hooks.clock)

    def work() -> None:
        try:
            make(making.part, own)
        except BaseException as error:
            making.failed = error
        finally:
            making.over.set()

    # somebody waits for that as for this
    thread = threading.Thread(target=contextvars.copy_context().run, args=(work,), daemon=True)
    thread.start()
    try:
        yield
    except BaseException:
        failed = making.failed
        making.unwanted = True
        thread.join()
        if failed is not None:
            raise failed from None
        raise
    thread.join()
    if making.failed is not None:
        raise making.failed


def _begun(making: _Making) -> Viewed:
    """What is in the file, as soon as enough of it is written to say so."""
    while not making.over.wait(LOOK_S):
        with contextlib.suppress(OSError), making.part.open("rb") as handle:
            if CLUSTER in handle.read(CHUNK_BYTES):
                break
    found = probe(str(making.part))
    return Viewed(path=str(making.part), video=found.video, audio=found.audio[:1])


def _as_written(making: _Making) -> Iterator[bytes]:
    with making.part.open("rb") as handle:
        while True:
            over = making.over.is_set()
            if chunk := handle.read(CHUNK_BYTES):
                yield chunk
            elif over:
                return
            else:
                time.sleep(LOOK_S)
