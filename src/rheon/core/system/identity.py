"""Telling whether a process that was seen before is still the same one."""

from __future__ import annotations

import functools
import hashlib
import os
import socket
from pathlib import Path

from .processes import process_facts

ENDED = ("Z", "X")
"""States of processes that only wait to be noticed (proc(5))."""
BOOT_ID = "/proc/sys/kernel/random/boot_id"


def process_identity(pid: int | None = None) -> str:
    """``pid:start`` for a process (this one by default); empty where there is none, or only its exit status."""
    number = os.getpid() if pid is None else pid
    facts = process_facts(number)
    # the start time is the 20th field from the state on
    return "" if not facts or facts[0] in ENDED else f"{number}:{facts[19]}"


def is_alive(identity: str) -> bool:
    """Whether the process with this identity still runs."""
    pid = identity.partition(":")[0]
    return pid.isdigit() and process_identity(int(pid)) == identity


@functools.cache
def this_host() -> str:
    """``name/machine/start``: a machine by its name and its own id, and since when it runs without a pause.

    The id is kept as a digest, since others are not to learn it (machine-id(5)).
    """
    machine = hashlib.blake2b(_first_line("/etc/machine-id").encode(), key=b"rheon", digest_size=8).hexdigest()
    return "/".join((socket.gethostname()[:80], machine, _first_line(BOOT_ID)))


def has_started_again(host: str) -> bool:
    """Whether ``host`` is this machine before it was last started: what ran on it then is gone."""
    return host != this_host() and host.rpartition("/")[0] == this_host().rpartition("/")[0]


def _first_line(path: str) -> str:
    try:
        return Path(path).read_text().strip()[:36]
    except OSError:
        return ""
