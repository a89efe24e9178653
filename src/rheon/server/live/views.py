"""Live state as server-sent events: one stream for each open page."""

from __future__ import annotations

import asyncio
import json
from collections.abc import AsyncIterator

from asgiref.sync import sync_to_async
from django.http import HttpRequest, StreamingHttpResponse

from .snapshot import snapshot
from .watch import DatabaseWatch

POLL_S = 0.3
KEEP_ALIVE_S = 15.0


async def live(request: HttpRequest) -> StreamingHttpResponse:
    """A stream of ``live`` events; each holds the Worklist, the counts, and a mark for each other place."""
    headers = {"Cache-Control": "no-cache", "X-Accel-Buffering": "no"}
    return StreamingHttpResponse(_events(), content_type="text/event-stream", headers=headers)


async def _events() -> AsyncIterator[bytes]:
    watch = DatabaseWatch()
    sent = ""
    quiet_s = 0.0
    try:
        while True:
            if await asyncio.to_thread(watch.changed):
                document = json.dumps(await sync_to_async(snapshot)())
                if document != sent:
                    sent, quiet_s = document, 0.0
                    yield f"event: live\ndata: {document}\n\n".encode()
            if quiet_s >= KEEP_ALIVE_S:
                quiet_s = 0.0
                yield b": still here\n\n"
            await asyncio.sleep(POLL_S)
            quiet_s += POLL_S
    finally:
        watch.close()
