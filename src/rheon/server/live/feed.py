"""One look at the database for all open pages: a thread asks what changed, and every page gets the same bytes."""

from __future__ import annotations

import asyncio
import contextlib
import logging
from collections.abc import AsyncIterator
from concurrent.futures import ThreadPoolExecutor

from django.db import connection

from .snapshot import snapshot
from .watch import DatabaseWatch

log = logging.getLogger("rheon")
POLL_S = 0.3
MOST_PAGES = 250


class Page:
    """What one open page has not been sent yet: only ever the newest."""

    def __init__(self) -> None:
        self._news = asyncio.Event()
        self._event = b""

    def put(self, event: bytes) -> None:
        self._event = event
        self._news.set()

    async def next(self, patience_s: float) -> bytes | None:
        """The next event; ``None`` where nothing happened for so long."""
        try:
            await asyncio.wait_for(self._news.wait(), patience_s)
        except TimeoutError:
            return None
        self._news.clear()
        return self._event


class LiveFeed:
    """Looks for as long as any page is open. Belongs to one event loop."""

    def __init__(self) -> None:
        self._pages: set[Page] = set()
        self._looking: asyncio.Task[None] | None = None
        self._event = b""

    @property
    def is_full(self) -> bool:
        return len(self._pages) >= MOST_PAGES

    @contextlib.asynccontextmanager
    async def open(self) -> AsyncIterator[Page]:
        page = Page()
        self._pages.add(page)
        if self._event:
            page.put(self._event)
        if self._looking is None:
            self._looking = asyncio.create_task(self._look())
        try:
            yield page
        finally:
            self._pages.discard(page)
            if not self._pages and self._looking is not None:
                self._looking.cancel()
                self._looking, self._event = None, b""

    async def _look(self) -> None:
        loop, watch = asyncio.get_running_loop(), DatabaseWatch()
        thread = ThreadPoolExecutor(1, thread_name_prefix="live")
        try:
            while True:
                event = await loop.run_in_executor(thread, _news, watch)
                if event is not None and event != self._event:
                    self._event = event
                    for page in self._pages:
                        page.put(event)
                await asyncio.sleep(POLL_S)
        finally:
            thread.submit(_end, watch)
            thread.shutdown(wait=False)


def _news(watch: DatabaseWatch) -> bytes | None:
    """The event to send where anything was committed since the last look."""
    try:
        return f"event: live\ndata: {snapshot().model_dump_json()}\n\n".encode() if watch.changed() else None
    except Exception:
        log.exception("could not look at what changed")
        watch.forget()
        return None


def _end(watch: DatabaseWatch) -> None:
    watch.close()
    connection.close()
