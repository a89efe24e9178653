"""Starting, feeding, following and stopping other programs. The only module that starts processes."""

from __future__ import annotations

import contextlib
import fcntl
import os
import re
import resource
import shutil
import signal
import subprocess
import threading
from collections import deque
from collections.abc import Callable, Generator, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from queue import SimpleQueue
from typing import IO

from ..catalogue import say
from ..errors import (
    EngineError,
    EngineKilled,
    EngineOutOfMemory,
    EngineTimedOut,
    RheonError,
    SourceMissing,
    Stopped,
    ToolMissing,
)
from .steering import Steering, stand_by, steering
from .work_clock import WorkClock

TAIL_LINES = 30
POLL_S = 0.1
GRACE_S = 3.0
PIPE_BYTES = CHUNK_BYTES = 1 << 20
GENTLE, AWAITED = "10", "3"
"""Niceness of what leaves the processor to others; of two that want it, 3 gets five times as much as 10."""
LACKS_PART = re.compile(r"(\[\S+ @ \S+\] )?(No such filter: |Unknown encoder )'.*")
"""What an engine says that was built without something."""
SHORT_OF_MEMORY = ("Cannot allocate memory", "bad_alloc", "malloc of size", "Out of memory")
"""What programs say where they get no more."""

Feed = Callable[[], Iterator[bytes]]
"""Yields what the program gets on its standard input; an ``OSError`` in it means that the source went away.

What else is raised in it, of our own errors, is what ``run`` raises.
"""


@dataclass(frozen=True, slots=True, kw_only=True)
class Command:
    """A program to start and how.

    ``argv`` is never seen by a shell. ``feed`` gives its standard input, ``cwd`` the folder it runs in. What else it
    gets on pipes, ``feeds``, has names: where ``argv`` says ``pipe:NAME``, it gets the pipe's number.
    A ``gentle`` one leaves the processor to whoever else wants it, even where somebody waits for it (``awaited``).
    ``on_line`` gets each line it prints, ``on_complaint`` each on its error output; ``should_stop`` and ``is_paused``
    are asked before it starts and about ten times a second then: while it is paused, the program stands still and its
    time does not run out. Where they are not given, whoever steers the work is asked (``steered``).
    ``on_line`` and what is asked are called in the thread that runs the program.
    """

    argv: Sequence[str]
    timeout_s: float | None = 60.0
    gentle: bool = False
    feed: Feed | None = None
    feeds: Mapping[str, Feed] = field(default_factory=dict)
    cwd: str | None = None
    on_line: Callable[[str], None] | None = None
    on_complaint: Callable[[str], None] | None = None
    should_stop: Callable[[], bool] | None = None
    is_paused: Callable[[], bool] | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Finished:
    """How a program ended: what it printed (empty where its lines were followed) and the last it complained."""

    stdout: bytes
    tail: tuple[str, ...]


@dataclass(slots=True)
class _Limits:
    """What a program may take: bytes of address space (``setrlimit(2)``)."""

    memory_bytes: int = 12 << 30


_limits = _Limits()


def limit_memory(memory_bytes: int) -> None:
    """From now on, each program that this process starts may take so much address space."""
    _limits.memory_bytes = memory_bytes


@dataclass(slots=True)
class _Following:
    """The threads around one running program, and what they found."""

    process: subprocess.Popen[bytes]
    pipes: dict[str, IO[bytes]] = field(default_factory=dict)
    chunks: list[bytes] = field(default_factory=list)
    tail: deque[str] = field(default_factory=lambda: deque(maxlen=TAIL_LINES))
    lines: SimpleQueue[str] = field(default_factory=SimpleQueue)
    feed_error: OSError | RheonError | None = None


def run(command: Command) -> Finished:
    """Run a program to its end.

    Raises ``ToolMissing``, ``EngineTimedOut``, ``Stopped``, ``SourceMissing`` (its feed broke), ``EngineKilled`` (it
    was ended from outside), ``EngineOutOfMemory`` or ``EngineError`` (it failed; facts ``argv``, ``status``, ``tail``).
    Whatever happens, none of its processes is left running.
    """
    around = steering()
    by = Steering(command.should_stop or around.should_stop, command.is_paused or around.is_paused)
    stand_by(by)
    following = _start(command)
    with _attended(following, _attach(following, command)):
        _wait(following, command, by)
    _hand_over(following, command)
    _raise_for(following, command)
    return Finished(stdout=b"".join(following.chunks), tail=tuple(following.tail))


def stream(command: Command) -> Iterator[bytes]:
    """What a program prints, while it runs; it is ended where nobody goes on asking. Raises as ``run`` does.

    Nobody follows its lines or is asked whether to stop: whoever reads it is.
    """
    following = _start(command)
    printed = following.process.stdout
    assert printed is not None
    with _attended(following, _attach(following, command, collected=False)):
        while chunk := printed.read(CHUNK_BYTES):
            yield chunk
        following.process.wait()
    _raise_for(following, command)


@contextlib.contextmanager
def _attended(following: _Following, threads: list[threading.Thread]) -> Iterator[None]:
    """Whatever happens meanwhile, the program and the threads around it are ended."""
    try:
        yield
    finally:
        _end_group(following.process)
        for thread in threads:
            thread.join(timeout=GRACE_S)
        _close(following)


def available(program: str) -> bool:
    """Whether a program of this name can be found on the machine."""
    return shutil.which(program) is not None


def _start(command: Command) -> _Following:
    program = shutil.which(command.argv[0])
    if program is None:
        raise ToolMissing("The program {program} is not on this machine.", program=command.argv[0])
    argv = [program, *command.argv[1:]]
    if command.gentle and (nice := shutil.which("nice")):
        argv = [nice, "-n", AWAITED if steering().is_awaited else GENTLE, *argv]
    if setpriv := shutil.which("setpriv"):
        # a worker that is killed outright takes its engine with it
        argv = [setpriv, "--pdeathsig", "KILL", "--", *argv]
    ends = {name: os.pipe() for name in command.feeds}
    names = {f"pipe:{name}": f"pipe:{read}" for name, (read, _) in ends.items()}
    process = subprocess.Popen(
        [names.get(argument, argument) for argument in argv],
        pass_fds=[read for read, _ in ends.values()],
        stdin=subprocess.PIPE if command.feed else subprocess.DEVNULL,
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
        cwd=command.cwd,
        process_group=0,
    )
    for read, _ in ends.values():
        os.close(read)
    if process.stdin:
        with contextlib.suppress(OSError):  # fewer turns between feed and program
            fcntl.fcntl(process.stdin.fileno(), fcntl.F_SETPIPE_SZ, PIPE_BYTES)
    with contextlib.suppress(OSError, ValueError):
        resource.prlimit(process.pid, resource.RLIMIT_AS, (_limits.memory_bytes, _limits.memory_bytes))
    return _Following(process=process, pipes={name: os.fdopen(write, "wb", 0) for name, (_, write) in ends.items()})


def _attach(following: _Following, command: Command, *, collected: bool = True) -> list[threading.Thread]:
    process = following.process
    assert process.stdout and process.stderr
    threads = [
        threading.Thread(target=_keep_tail, args=(following, process.stderr, command.on_complaint), daemon=True),
    ]
    if collected:
        by_line = command.on_line is not None
        threads.append(threading.Thread(target=_collect, args=(following, process.stdout, by_line), daemon=True))
    if command.feed and process.stdin:
        threads.append(threading.Thread(target=_feed, args=(following, process.stdin, command.feed), daemon=True))
    threads += [
        threading.Thread(target=_feed, args=(following, pipe, command.feeds[name]), daemon=True)
        for name, pipe in following.pipes.items()
    ]
    for thread in threads:
        thread.start()
    return threads


def _collect(following: _Following, stream: IO[bytes], by_line: bool) -> None:
    if by_line:
        for line in stream:
            following.lines.put(line.decode(errors="replace").rstrip("\r\n"))
        return
    while chunk := stream.read(65536):
        following.chunks.append(chunk)


def _hand_over(following: _Following, command: Command) -> None:
    """Give the lines that have come in to whoever follows them."""
    while command.on_line and not following.lines.empty():
        command.on_line(following.lines.get())


def _keep_tail(following: _Following, stream: IO[bytes], on_complaint: Callable[[str], None] | None) -> None:
    for line in stream:
        text = line.decode(errors="replace").rstrip()
        if text:
            following.tail.append(text[:500])
        if on_complaint:
            on_complaint(text)


def _feed(following: _Following, stream: IO[bytes], feed: Feed) -> None:
    chunks = feed()
    try:
        for chunk in chunks:
            try:
                _write_all(stream, chunk)
            except (BrokenPipeError, ValueError):
                return
    except (OSError, RheonError) as error:
        following.feed_error = error
    finally:
        with contextlib.suppress(OSError, ValueError):
            stream.close()
        if isinstance(chunks, Generator):
            chunks.close()


def _write_all(stream: IO[bytes], chunk: bytes) -> None:
    rest = memoryview(chunk)
    while rest:
        rest = rest[os.write(stream.fileno(), rest) :]


def _wait(following: _Following, command: Command, by: Steering) -> None:
    clock = WorkClock(by.is_paused)
    stands = False
    while True:
        with contextlib.suppress(subprocess.TimeoutExpired):
            following.process.wait(timeout=POLL_S)
            return
        _hand_over(following, command)
        if by.should_stop():
            raise Stopped("The work was stopped.")
        if following.feed_error:
            return
        if clock.is_paused() != stands:
            stands = not stands
            _signal_group(following.process, signal.SIGSTOP if stands else signal.SIGCONT)
        if command.timeout_s is not None and clock.worked_s > command.timeout_s:
            raise EngineTimedOut(
                "{program} did not answer within {timeout_s:.0f} s.",
                program=command.argv[0],
                timeout_s=command.timeout_s,
                argv=list(command.argv),
            )


def _end_group(process: subprocess.Popen[bytes]) -> None:
    """End the whole process group: politely, then for good."""
    if process.poll() is not None:
        return
    for sign, patience_s in ((signal.SIGTERM, GRACE_S), (signal.SIGKILL, 10.0)):
        _signal_group(process, sign)
        # one that stands still hears of it only when it goes on
        _signal_group(process, signal.SIGCONT)
        with contextlib.suppress(subprocess.TimeoutExpired):
            process.wait(timeout=patience_s)
            return


def _signal_group(process: subprocess.Popen[bytes], sign: signal.Signals) -> None:
    with contextlib.suppress(ProcessLookupError, PermissionError):
        os.killpg(process.pid, sign)


def _close(following: _Following) -> None:
    process = following.process
    for stream in (process.stdin, process.stdout, process.stderr, *following.pipes.values()):
        if stream:
            with contextlib.suppress(OSError, ValueError):
                stream.close()


def _raise_for(following: _Following, command: Command) -> None:
    if isinstance(following.feed_error, RheonError):
        raise following.feed_error
    if following.feed_error:
        raise SourceMissing("The source went away while it was being read.", reason=following.feed_error.strerror or "")
    status = following.process.returncode
    if status == -signal.SIGKILL:
        raise EngineKilled("{program} was ended from outside.", program=command.argv[0], argv=list(command.argv))
    if status and any(word in line for line in following.tail for word in SHORT_OF_MEMORY):
        raise EngineOutOfMemory(
            "{program} got no more memory; it may take {memory_mib} MiB.",
            program=command.argv[0],
            memory_mib=_limits.memory_bytes >> 20,
            argv=list(command.argv),
            tail=list(following.tail),
        )
    lacked = next((line for line in following.tail if LACKS_PART.fullmatch(line)), None)
    if status and lacked:
        raise ToolMissing(
            "This {program} was built without something that is needed: {reason}.",
            program=command.argv[0],
            reason=lacked,
            argv=list(command.argv),
            tail=list(following.tail),
        )
    if status:
        raise EngineError(
            "{program} stopped with status {status}: {reason}.",
            program=command.argv[0],
            reason=following.tail[-1] if following.tail else say("no word"),
            argv=list(command.argv),
            status=status,
            tail=list(following.tail),
        )
