"""``python -m rheon.server.keeper``: starts the parts of an installation, and starts again what dies.

One part that ends takes no other with it. When the keeper itself ends, however that happens, all parts end too.
"""

from __future__ import annotations

import asyncio
import contextlib
import os
import shutil
import signal
import sys
import time
from dataclasses import dataclass

MANAGE = (sys.executable, "manage.py")
SOON_S, FIRST_REST_S, LONGEST_REST_S = 10.0, 0.3, 10.0
"""A part that lived no longer than this rests before it is started again, twice as long each time."""
GRACE_S = 4.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Part:
    """A process of the installation and how it is started."""

    name: str
    argv: tuple[str, ...]


NAME_WIDTH = 8


def parts(port: int) -> tuple[Part, ...]:
    """Everything that an installation consists of; the page is served at ``port``."""
    served = (sys.executable, "-m", "uvicorn", "rheon.server.config.asgi:application", "--host", "127.0.0.1")
    return (
        Part(
            name="web",
            argv=(*served, "--port", str(port), "--log-level", "warning", "--timeout-graceful-shutdown", "1"),
        ),
        Part(name="quick", argv=(*MANAGE, "work", "quick")),
        Part(name="second", argv=(*MANAGE, "work", "quick")),
        Part(name="convert", argv=(*MANAGE, "work", "convert")),
        Part(name="door", argv=(*MANAGE, "ask_door", "--settings", "rheon.server.config.door_settings")),
    )


async def keep(part: Part, stopping: asyncio.Event) -> None:
    """Start a part again and again until everything stops."""
    rest_s = FIRST_REST_S
    while not stopping.is_set():
        started = time.monotonic()
        try:
            await _once(part, stopping)
        except OSError as error:  # no process, no memory, no file handle: later perhaps
            _say(part, f"could not be started: {error.strerror}")
        if stopping.is_set():
            return
        rest_s = FIRST_REST_S if time.monotonic() - started > SOON_S else min(LONGEST_REST_S, rest_s * 2)
        _say(part, f"ended and is started again in {rest_s:.1f} s")
        with contextlib.suppress(TimeoutError):
            await asyncio.wait_for(stopping.wait(), rest_s)


async def _once(part: Part, stopping: asyncio.Event) -> None:
    """One life of a part, with what it says passed on."""
    process = await asyncio.create_subprocess_exec(
        *_bound_to_us(part.argv),
        stdin=asyncio.subprocess.DEVNULL,
        stdout=asyncio.subprocess.PIPE,
        stderr=asyncio.subprocess.STDOUT,
        process_group=0,
    )
    assert process.stdout
    talk = asyncio.create_task(_pass_on(part, process.stdout))
    ended, stopped = asyncio.create_task(process.wait()), asyncio.create_task(stopping.wait())
    await asyncio.wait({ended, stopped}, return_when=asyncio.FIRST_COMPLETED)
    for sign in (signal.SIGTERM, signal.SIGKILL):
        if not ended.done():
            with contextlib.suppress(ProcessLookupError):
                os.killpg(process.pid, sign)
            await asyncio.wait({ended}, timeout=GRACE_S)
    stopped.cancel()
    talk.cancel()


def _bound_to_us(argv: tuple[str, ...]) -> tuple[str, ...]:
    setpriv = shutil.which("setpriv")
    return (setpriv, "--pdeathsig", "KILL", "--", *argv) if setpriv else argv


async def _pass_on(part: Part, said: asyncio.StreamReader) -> None:
    while not said.at_eof():
        try:
            line = await said.readline()
        except ValueError:  # longer than the reader takes: what follows is read as the next one
            continue
        if line:
            _say(part, line.decode(errors="replace").rstrip())


def _say(part: Part, text: str) -> None:
    sys.stdout.write(f"{part.name:<{NAME_WIDTH}} | {text}\n")
    sys.stdout.flush()


async def main() -> None:
    stopping = asyncio.Event()
    for sign in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
        asyncio.get_running_loop().add_signal_handler(sign, stopping.set)
    await asyncio.gather(*(keep(part, stopping) for part in parts(int(os.environ.get("RHEON_PORT", "8420")))))


if __name__ == "__main__":
    asyncio.run(main())
