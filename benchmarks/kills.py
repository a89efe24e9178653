"""Killing a running installation again and again: ``make kills``. Prints what was lost, doubled, stuck or left."""

from __future__ import annotations

import contextlib
import os
import random
import signal
import sys
import time
from collections import Counter
from collections.abc import Callable
from pathlib import Path

sys.path[:0] = [str(Path(__file__).resolve().parents[1]), str(Path(__file__).resolve().parents[1] / "src")]

from installation import Installation, installed  # noqa: E402

KILLS = int(os.environ.get("KILLS", "200"))
PARTS = ("convert", "convert", "convert", "quick", "second", "web", "keeper")
MINUTES = float(os.environ.get("MINUTES", "120"))
GOES_ON_S, ENDS_S = 30.0, 120.0
SOURCES = ("MARRAM_NIGHTS", "camera")


def moments(place: Installation) -> dict[str, Callable[[], bool]]:
    """What is waited for before the kill: chance, or a step of the work as it is seen from outside."""

    def named() -> bool:
        """A file has its name and the Outbox has no entry for it yet, or only just."""
        files = len([path for path in place.output.iterdir() if not path.name.startswith(".")])
        return bool(files > place.rows("select count(*) from outbox_output")[0][0])

    def seen(query: str) -> Callable[[], bool]:
        return lambda: bool(place.rows(query)[0][0])

    return {
        "chance": lambda: random.random() < 0.02,
        "job stored": seen("select count(*) from worklist_job where state = 'waiting'"),
        "job claimed": seen("select count(*) from worklist_job where state = 'running'"),
        "being checked": seen("select count(*) from worklist_job where stage = 'checking'"),
        "name noted": seen("select count(*) from worklist_job where delivery_document is not null"),
        "name given": named,
        "reading": seen("select count(*) from shelf_source where state = 'reading'"),
        "sampling or looking": seen("select count(*) from django_tasks_database_dbtaskresult where status = 'RUNNING'"),
    }


def give_work(place: Installation, count: int) -> int:
    """Jobs, a reading and things to sample; returns how many jobs were accepted for sure."""
    titles = [pk for (pk,) in place.rows("select id from shelf_title where duration_s < 16 and role = 'extra'")]
    targets = [place.target("Quick"), place.target("Ada's phone")]
    for _ in range(2):
        cell = {"title_id": random.choice(titles), "target_id": random.choice(targets)}
        place.ask("POST", "worklist/jobs", {"cells": [cell]})
    place.ask("POST", "bench/picks", {"title_ids": titles[:2], "picked": count % 2 == 0})
    if count % 3 == 0:
        source = place.rows("select min(id) from shelf_source")[0][0]
        place.ask("POST", f"shelf/sources/{source}/read-again")
    return 2


def kill(place: Installation, part: str, moment: Callable[[], bool]) -> bool:
    """Kill a part at a moment; false where the moment did not come before the work was done."""
    until = time.monotonic() + 15
    while not moment():
        if time.monotonic() > until or not place.busy():
            return False
    pid = place.parts().get(part)
    if pid is None:
        return False
    with contextlib.suppress(ProcessLookupError):
        os.kill(pid, signal.SIGKILL)
    if part == "keeper":
        assert place.keeper
        place.keeper.wait(10)
        time.sleep(0.3)
        place.start()
    return True


def settle(place: Installation) -> tuple[float, bool]:
    """(seconds until nothing was claimed by the dead any more, whether all work came to its end)."""
    began = time.monotonic()
    while place.stuck() and time.monotonic() - began < 2 * GOES_ON_S:
        time.sleep(0.1)
    went_on = time.monotonic() - began
    while place.busy() and time.monotonic() - began < ENDS_S:
        time.sleep(0.1)
    return went_on, not place.busy()


def main() -> None:
    random.seed(int(os.environ.get("SEED", "9")))
    with installed(8530, *SOURCES) as place:
        place.ask("POST", "household/devices", {"profile_id": "sound-only", "name": "Quick"})
        settle(place)
        report(place)


def report(place: Installation) -> None:
    killed: Counter[str] = Counter()
    waits, unended, given, tried = [], 0, 0, 0
    until = time.monotonic() + MINUTES * 60
    steps = moments(place)
    while sum(killed.values()) < KILLS and tried < 3 * KILLS and time.monotonic() < until:
        tried += 1
        part, (step, moment) = random.choice(PARTS), random.choice(list(steps.items()))
        place.wait_for_answer()
        given += give_work(place, tried)
        if kill(place, part, moment):
            killed[f"{part} at {step}"] += 1
        went_on, ended = settle(place)
        waits.append(went_on)
        unended += not ended
        if tried % 20 == 0:
            print(f"  {sum(killed.values())} kills, longest until it went on {max(waits):.1f} s", flush=True)
    # one more start: what a last kill left goes then at the latest
    place.stop()
    place.start()
    settle(place)
    files = {str(path) for path in place.output.iterdir() if not path.name.startswith(".")}
    outputs = [path for (path,) in place.rows("select path from outbox_output")]
    states = dict(place.rows("select state, count(*) from worklist_job group by state"))
    print(f"kills                                  {sum(killed.values())}")
    for name, count in sorted(killed.items()):
        print(f"  {name:<36} {count}")
    print(f"jobs given, done                       {given}, {states.get('done', 0)}  (others: {states})")
    print(f"files without an entry in the Outbox   {len(files - set(outputs))}")
    print(f"entries without a file, or twice       {len(set(outputs) - files)}, {len(outputs) - len(set(outputs))}")
    unread = place.rows("select count(*) from shelf_source where state != 'ready'")[0][0]
    print(f"sources that are not read              {unread}")
    print(f"rows of dead workers                   {place.stuck()}")
    print(f"work that did not end                  {unended}")
    print(f"parts left                             {len(list(place.output.glob('.rheon-*')))}")
    alive = len(place.parts())
    print(f"temporary folders, processes           {len(list((place.state / 'scratch').iterdir()))}, {alive + 1}")
    print(f"until it went on: median, longest      {sorted(waits)[len(waits) // 2]:.1f} s, {max(waits):.1f} s")


if __name__ == "__main__":
    main()
