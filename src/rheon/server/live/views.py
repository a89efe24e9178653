"""Live state as server-sent events: one stream for each open page."""

from __future__ import annotations

import asyncio
import time
from collections.abc import AsyncIterator
from weakref import WeakKeyDictionary

from asgiref.sync import sync_to_async
from django.contrib.sessions.backends.db import SessionStore
from django.http import HttpRequest, HttpResponse, StreamingHttpResponse

from rheon.server.home.actions.passphrase import is_signed_in

from .feed import LiveFeed

KEEP_ALIVE_S = 15.0
LOOK_AGAIN_S = 10.0
FULL = "Too many pages are open. Close some of them."
_feeds: WeakKeyDictionary[asyncio.AbstractEventLoop, LiveFeed] = WeakKeyDictionary()


async def live(request: HttpRequest) -> StreamingHttpResponse | HttpResponse:
    """A stream of ``live`` events; each holds what is being made, the counts, and a mark for each place."""
    feed = _feeds.setdefault(asyncio.get_running_loop(), LiveFeed())
    if feed.is_full:
        return HttpResponse(FULL, status=503, content_type="text/plain", headers={"Retry-After": "30"})
    headers = {"Cache-Control": "no-cache", "X-Accel-Buffering": "no"}
    return StreamingHttpResponse(
        _events(feed, request.session.session_key), content_type="text/event-stream", headers=headers
    )


async def _events(feed: LiveFeed, session_key: str | None) -> AsyncIterator[bytes]:
    """Ends soon after its browser was signed out."""
    looked = time.monotonic()
    async with feed.open() as page:
        while True:
            yield await page.next(KEEP_ALIVE_S) or b": still here\n\n"
            if time.monotonic() - looked >= LOOK_AGAIN_S:
                looked = time.monotonic()
                if not await sync_to_async(is_signed_in)(SessionStore(session_key)):
                    return
