"""How much of the processor other programs use, by the kernel's own counts."""

from __future__ import annotations

import os
import time
from collections import deque
from pathlib import Path

from .processes import descendants, process_facts

BUSY_CORES, CALM_CORES = 0.5, 0.25
"""Of cores that others use: above the first the machine is wanted, below the second it is left alone."""
BUSY_S, CALM_S = 8.0, 60.0
"""For so long, until that counts."""


class Others:
    """Follows what other programs than ``root`` and its descendants use of the processor."""

    def __init__(self, root: int) -> None:
        self._root = root
        self._seen: deque[tuple[float, float]] = deque()

    def are_busy(self, was_busy: bool) -> bool:
        """Whether others want the machine; asked now and then, since it goes by the time between."""
        now_s, theirs_s = time.monotonic(), _theirs_s(self._root)
        self._seen.append((now_s, theirs_s))
        while len(self._seen) > 2 and now_s - self._seen[1][0] >= CALM_S:
            self._seen.popleft()
        wanted_s = CALM_S if was_busy else BUSY_S
        since = next((one for one in reversed(self._seen) if now_s - one[0] >= wanted_s), None)
        if since is None:
            return was_busy
        cores = (theirs_s - since[1]) / (now_s - since[0])
        return cores > (CALM_CORES if was_busy else BUSY_CORES)


def _theirs_s(root: int) -> float:
    """Seconds of processor time that all but a process and its descendants have used since the machine started."""
    ticks = os.sysconf("SC_CLK_TCK")
    try:
        words = Path("/proc/stat").read_text().split("\n", 1)[0].split()[1:9]
    except OSError:
        return 0.0
    # proc_stat(5): user, nice, system, idle, waiting, interrupts twice; what a host took from a guest is nobody's here
    user, nice, system, _, _, hard, soft = map(int, words[:7])
    return (user + nice + system + hard + soft) / ticks - sum(map(_used, (root, *descendants(root)))) / ticks


def _used(pid: int) -> int:
    """Its own ticks and those of its children that ended: utime to cstime."""
    facts = process_facts(pid)
    return sum(map(int, facts[11:15])) if facts else 0
