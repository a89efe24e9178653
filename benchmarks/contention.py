"""Whether anybody ever finds the database locked: ``make load``. Two workers read sources, two files are made at once,
30 pages are open, and eight people change the order, pause and go on.
"""

from __future__ import annotations

import os
import random
import statistics
import sys
import threading
import time
import urllib.error
from collections import Counter
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

sys.path[:0] = [str(Path(__file__).resolve().parents[1]), str(Path(__file__).resolve().parents[1] / "src")]

from installation import MEDIA, Installation, installed  # noqa: E402
from load import convert_much, pages  # noqa: E402
from tests.instruments.calling import Caller  # noqa: E402

SECONDS = float(os.environ.get("SECONDS", "120"))
PAGES, PEOPLE = 30, 8
SOURCES = ("MARRAM_NIGHTS", "LANTERN_STREET_S1.iso", "camera")
MORE = ("HERON_REACH", "SALT_ROAD", "GLASS_HARBOUR", "LOCK_KEEPERS")


class Person:
    """Somebody who changes the list all the time; ``said`` counts answers, ``taken_s`` how long they took."""

    def __init__(self, place: Installation, seed: int, ended: threading.Event) -> None:
        self._call = Caller(f"http://127.0.0.1:{place.port}")
        self._rand = random.Random(seed)
        self._ended = ended
        self.said: Counter[str] = Counter()
        self.taken_s: list[float] = []

    def work(self) -> None:
        while not self._ended.is_set():
            began = time.monotonic()
            try:
                self._act()
                self.said["answered"] += 1
            except urllib.error.HTTPError as error:
                self.said[f"{error.code} {error.read()[:80].decode(errors='replace')}"] += 1
            except OSError as error:
                self.said[type(error).__name__] += 1
            self.taken_s.append(time.monotonic() - began)

    def _act(self) -> None:
        jobs = [job["id"] for job in self._call("GET", "worklist")["jobs"] if job["state"] in ("waiting", "paused")]
        some = self._rand.sample(jobs, min(3, len(jobs)))
        if not some:
            return
        if self._rand.random() < 0.4:
            self._call("POST", "worklist/order", {"job_ids": some, "before": self._rand.choice([*jobs, None])})
        else:
            verb = self._rand.choice(("pause", "go_on"))
            self._call("POST", "worklist/changes", {"job_ids": some, "verb": verb})


def main() -> None:
    with installed(8560, *SOURCES) as place:
        while place.busy():
            time.sleep(0.5)
        most = place.ask("GET", "worklist")["machine"]["most_at_once"]
        place.ask("PUT", "worklist/machine", {"share": "all", "at_once": most, "zone": "UTC"})
        for _ in range(3):
            convert_much(place)
        ended = threading.Event()
        people = [Person(place, seed, ended) for seed in range(PEOPLE)]
        with pages(place.port, PAGES), ThreadPoolExecutor(PEOPLE) as pool:
            working = [pool.submit(person.work) for person in people]
            place.manage("add_sources", *(str(MEDIA / name) for name in MORE))
            time.sleep(SECONDS)
            ended.set()
            for one in working:
                one.result()
        assert place.busy(), "the conversions ended before the measurement did"
        logs = [place.folder / "log", *(place.state / "logs").glob("*")]
        locked = sum(path.read_text(errors="replace").count("locked") for path in logs)
        made = place.rows("select count(*) from worklist_record")[0][0]
    said = sum((person.said for person in people), Counter())
    taken = sorted(second for person in people for second in person.taken_s)
    p50, p99 = (statistics.quantiles(taken, n=100)[at] * 1000 for at in (49, 98))
    print(f"{sum(said.values())} calls and changes in {SECONDS:.0f} s, {made} jobs ended meanwhile: {dict(said)}")
    print(f"each took p50 {p50:.0f} ms, p99 {p99:.0f} ms; logs say “locked” {locked} times")
    assert locked == 0 and set(said) == {"answered"}


if __name__ == "__main__":
    main()
