"""Starts the parts of an installation, and starts again what dies.

One part that ends takes no other with it. When the keeper itself ends, however that happens, all parts end too.
"""

from __future__ import annotations

import asyncio
import contextlib
import logging
import os
import shutil
import signal
import sys
import time
from collections.abc import Callable
from dataclasses import dataclass
from logging.handlers import RotatingFileHandler

from rheon.core.errors import PreparationFailed
from rheon.server.care.database import alone, check_version, database_of, keep_before_migration
from rheon.server.care.ports import check_port, own_host
from rheon.settings import Loaded, Settings

PYTHON = (sys.executable, "-P", "-m")
MANAGE = (*PYTHON, "django")
DJANGO = {"DJANGO_SETTINGS_MODULE": "rheon.server.config.settings"}
MEMORY = {"MALLOC_ARENA_MAX": "2"}
"""Without a bound the C library keeps memory apart for each thread, and gives little of it back (mallopt(3))."""
SOON_S, FIRST_REST_S, LONGEST_REST_S = 10.0, 0.3, 10.0
"""A part that lived no longer than this rests before it is started again, twice as long each time."""
GRACE_S = 4.0
PAGE_FIRST_S = 6.0
LOGS, LOG_FILES = "logs", 4
NAME_WIDTH = 8
log = logging.getLogger("rheon.keeper")


@dataclass(frozen=True, slots=True, kw_only=True)
class Part:
    """A process of the installation and how it is started."""

    name: str
    argv: tuple[str, ...]


def parts(settings: Settings) -> tuple[Part, ...]:
    """Everything that an installation consists of."""
    # who calls is read from a proxy's headers only where the settings believe it
    served = (*PYTHON, "uvicorn", "rheon.server.config.asgi:application", "--no-proxy-headers", "--no-server-header")
    place = ("--host", settings.listen, "--port", str(settings.port))
    return (
        Part(name="web", argv=(*served, *place, "--log-level", "warning", "--timeout-graceful-shutdown", "1")),
        Part(name="quick", argv=(*MANAGE, "work", "quick")),
        Part(name="second", argv=(*MANAGE, "work", "quick")),
        Part(name="convert", argv=(*MANAGE, "work", "convert")),
        Part(name="copy", argv=(*MANAGE, "work", "copy")),
        Part(name="devices", argv=(*MANAGE, "serve_devices", "--settings", "rheon.server.config.device_settings")),
    )


def serve(loaded: Loaded, *, on_answer: Callable[[], None] = lambda: None) -> None:
    """Run an installation until it is told to end. ``on_answer`` is called once, when its page can be opened.

    Raises ``InUse``, ``PortTaken``, ``DatabaseNewer`` or ``PreparationFailed`` before anything is started.
    """
    # a keeper that was killed a moment ago takes its parts with it, which takes a moment
    with alone(loaded.settings.state, patience_s=3.0):
        check_port(loaded.settings)
        log_to(loaded.settings)
        asyncio.run(_serve(loaded, on_answer))


async def _serve(loaded: Loaded, on_answer: Callable[[], None]) -> None:
    settings = loaded.settings
    stopping = asyncio.Event()
    for sign in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
        asyncio.get_running_loop().add_signal_handler(sign, stopping.set)
    environment = {**MEMORY, **os.environ, **loaded.environment(), **DJANGO}
    await bring_forward(settings, environment)
    page, *others = parts(settings)
    answering = asyncio.create_task(_when_answering(settings, on_answer))
    kept = [asyncio.create_task(keep(page, stopping, environment))]
    # the page comes first, alone: somebody waits for it
    ended = asyncio.create_task(stopping.wait())
    await asyncio.wait({answering, ended}, timeout=PAGE_FIRST_S, return_when=asyncio.FIRST_COMPLETED)
    kept += [asyncio.create_task(keep(part, stopping, environment)) for part in others]
    await asyncio.gather(*kept)
    answering.cancel()


async def bring_forward(settings: Settings, environment: dict[str, str]) -> None:
    """Make the database what this Rheon expects, with a copy of it kept before. Raises as ``serve`` does."""
    place = database_of(settings.state)
    if not check_version(place):
        return
    if place.exists() and place.stat().st_size:
        log.info("the database is brought forward; a copy is kept at %s", keep_before_migration(settings.state))
    argv = (*MANAGE, "migrate", "--noinput", "--verbosity", "0")
    process = await asyncio.create_subprocess_exec(*argv, env=environment, stderr=asyncio.subprocess.PIPE)
    _, said = await process.communicate()
    if process.returncode:
        lines = said.decode(errors="replace").strip().splitlines()
        raise PreparationFailed(
            "The database could not be made ready: {reason}.", reason=lines[-1] if lines else "no reason given"
        )


async def keep(part: Part, stopping: asyncio.Event, environment: dict[str, str] | None = None) -> None:
    """Start a part again and again until everything stops."""
    rest_s = FIRST_REST_S
    while not stopping.is_set():
        started = time.monotonic()
        try:
            await _once(part, stopping, environment)
        except OSError as error:  # no process, no memory, no file handle: later perhaps
            _say(part, f"could not be started: {error.strerror}")
        if stopping.is_set():
            return
        rest_s = FIRST_REST_S if time.monotonic() - started > SOON_S else min(LONGEST_REST_S, rest_s * 2)
        _say(part, f"ended and is started again in {rest_s:.1f} s")
        with contextlib.suppress(TimeoutError):
            await asyncio.wait_for(stopping.wait(), rest_s)


async def _once(part: Part, stopping: asyncio.Event, environment: dict[str, str] | None) -> None:
    """One life of a part, with what it says passed on."""
    process = await asyncio.create_subprocess_exec(
        *_bound_to_us(part.argv),
        env=environment,
        stdin=asyncio.subprocess.DEVNULL,
        stdout=asyncio.subprocess.PIPE,
        stderr=asyncio.subprocess.STDOUT,
        process_group=0,
    )
    assert process.stdout
    _say(part, f"started as process {process.pid}")
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
    log.info("%s | %s", f"{part.name:<{NAME_WIDTH}}", text)


def log_to(settings: Settings) -> None:
    """To the terminal, and into files that take each other's place."""
    folder = settings.state / LOGS
    folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    each = settings.log_mb * 1_000_000 // LOG_FILES
    files = RotatingFileHandler(folder / "rheon.log", maxBytes=each, backupCount=LOG_FILES - 1, encoding="utf-8")
    files.setFormatter(logging.Formatter("%(asctime)s %(message)s"))
    terminal = logging.StreamHandler(sys.stdout)
    log.handlers = [terminal, files]
    log.setLevel(logging.INFO)
    log.propagate = False
    logging.raiseExceptions = False  # a full disk or a closed terminal is no reason to end


async def _when_answering(settings: Settings, on_answer: Callable[[], None]) -> None:
    while True:
        try:
            _, writer = await asyncio.open_connection(own_host(settings), settings.port)
        except OSError:
            await asyncio.sleep(0.05)
            continue
        writer.close()
        on_answer()
        return
