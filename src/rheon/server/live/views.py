"""Live state as server-sent events: one stream for each open page."""

from __future__ import annotations

import asyncio
from collections.abc import AsyncIterator
from weakref import WeakKeyDictionary

from django.http import HttpRequest, HttpResponse, StreamingHttpResponse

from .feed import LiveFeed

KEEP_ALIVE_S = 15.0
FULL = "Too many pages are open. Close some of them."
_feeds: WeakKeyDictionary[asyncio.AbstractEventLoop, LiveFeed] = WeakKeyDictionary()


async def live(request: HttpRequest) -> StreamingHttpResponse | HttpResponse:
    """A stream of ``live`` events; each holds what is being made, the counts, and a mark for each place."""
    feed = _feeds.setdefault(asyncio.get_running_loop(), LiveFeed())
    if feed.is_full:
        return HttpResponse(FULL, status=503, content_type="text/plain", headers={"Retry-After": "30"})
    headers = {"Cache-Control": "no-cache", "X-Accel-Buffering": "no"}
    return StreamingHttpResponse(_events(feed), content_type="text/event-stream", headers=headers)


async def _events(feed: LiveFeed) -> AsyncIterator[bytes]:
    async with feed.open() as page:
        while True:
            yield await page.next(KEEP_ALIVE_S) or b": still here\n\n"
