"""How quickly a busy installation answers: ``make load``. Reading calls of 1 and 32 clients, idle, while it converts,
and with 100 open pages besides."""

from __future__ import annotations

import http.client
import itertools
import os
import selectors
import socket
import statistics
import sys
import threading
import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from pathlib import Path

sys.path[:0] = [str(Path(__file__).resolve().parents[1]), str(Path(__file__).resolve().parents[1] / "src")]

from installation import Installation, installed  # noqa: E402

CALLS = int(os.environ.get("CALLS", "320"))
PAGES = 100
ROUNDS = 3
PATHS = ("worklist", "shelf/sources", "bench", "outbox", "household", "shelf/titles/1", "bench/picks")
SOURCES = ("MARRAM_NIGHTS", "HERON_REACH", "LANTERN_STREET_S1.iso", "camera")


def ask(port: int, count: int, first: int) -> list[float]:
    """Seconds that each of a client's calls took, over one connection."""
    taken = []
    connection = http.client.HTTPConnection("127.0.0.1", port, timeout=60)
    for path in itertools.islice(itertools.cycle(PATHS), first, first + count):
        began = time.monotonic()
        connection.request("GET", f"/api/{path}")
        answer = connection.getresponse()
        answer.read()
        assert answer.status == 200, (path, answer.status)
        taken.append(time.monotonic() - began)
    connection.close()
    return taken


def measured(place: Installation, clients: int) -> list[float]:
    with ThreadPoolExecutor(clients) as pool:
        asked = [pool.submit(ask, place.port, CALLS // clients, n) for n in range(clients)]
        return sorted(seconds for one in asked for seconds in one.result())


@contextmanager
def pages(port: int, count: int) -> Iterator[None]:
    """So many open pages that read their streams."""
    ended, chosen = threading.Event(), selectors.DefaultSelector()
    open_ones = []
    for _ in range(count):
        page = socket.create_connection(("127.0.0.1", port))
        page.sendall(b"GET /api/live HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n")
        page.setblocking(False)
        chosen.register(page, selectors.EVENT_READ)
        open_ones.append(page)

    def read() -> None:
        while not ended.is_set():
            for key, _ in chosen.select(0.2):
                key.fileobj.recv(1 << 16)  # type: ignore[union-attr]

    thread = threading.Thread(target=read)
    thread.start()
    yield
    ended.set()
    thread.join()
    for page in open_ones:
        page.close()


def memory_mb(place: Installation) -> float:
    pages_of = Path(f"/proc/{place.parts()['web']}/statm").read_text().split()[1]
    return int(pages_of) * os.sysconf("SC_PAGE_SIZE") / 1e6


def show(place: Installation, name: str) -> None:
    for clients in (1, 32):
        taken = measured(place, clients)
        p50, p95, p99 = (statistics.quantiles(taken, n=100)[at] * 1000 for at in (49, 94, 98))
        print(f"{name:<34} {clients:>2} clients   p50 {p50:6.0f}   p95 {p95:6.0f}   p99 {p99:6.0f} ms", flush=True)


def convert_much(place: Installation) -> None:
    titles = [pk for (pk,) in place.rows("select id from shelf_title where role in ('feature', 'episode')")]
    target = place.target("Living-room TV")
    place.ask("POST", "worklist/jobs", {"cells": [{"title_id": pk, "target_id": target} for pk in titles * 6]})


def main() -> None:
    with installed(8550, *SOURCES) as place:
        while place.busy():
            time.sleep(0.5)
        before = memory_mb(place)
        show(place, "idle")
        for _ in range(8):
            convert_much(place)
        show(place, "converting")
        used = []
        for _ in range(ROUNDS):
            with pages(place.port, PAGES):
                time.sleep(1)
                show(place, f"converting, {PAGES} open pages")
            used.append(memory_mb(place))
        assert place.busy(), "the conversions ended before the measurement did"
        after = ", ".join(f"{mb:.0f}" for mb in used)
        print(f"memory of the web process: {before:.0f} MB before, after each round with open pages {after} MB")


if __name__ == "__main__":
    main()
