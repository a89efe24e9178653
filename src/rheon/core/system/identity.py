"""Telling whether a process that was seen before is still the same one."""

from __future__ import annotations

import os
from pathlib import Path

ENDED = ("Z", "X")
"""States of processes that only wait to be noticed (proc(5))."""


def process_identity(pid: int | None = None) -> str:
    """``pid:start`` for a process (this one by default); empty where there is none, or only its exit status."""
    number = os.getpid() if pid is None else pid
    try:
        stat = Path(f"/proc/{number}/stat").read_text()
    except OSError:
        return ""
    # the name in brackets may hold anything; the start time is the 20th field after it
    facts = stat.rpartition(")")[2].split()
    return "" if facts[0] in ENDED else f"{number}:{facts[19]}"


def is_alive(identity: str) -> bool:
    """Whether the process with this identity still runs."""
    pid = identity.partition(":")[0]
    return pid.isdigit() and process_identity(int(pid)) == identity
