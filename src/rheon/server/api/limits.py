"""What a call may weigh, and from where it may come: refused before any of it is read."""

from __future__ import annotations

import json
from collections.abc import Awaitable, Callable, MutableMapping
from typing import Any

from rheon.core.catalogue import later, say

MOST_BODY_BYTES = 1 << 20
"""The largest thing that is ever sent is a profile of some kilobytes."""
TOO_LARGE = {"code": "too_large", "message": later("This is more than Rheon takes in one call. Send less.")}
OTHER_PAGE = {"code": "refused", "message": later("Only Rheon's own page may ask for this.")}
OWN_SITES = ("", "same-origin", "none")

Scope = MutableMapping[str, Any]
Receive = Callable[[], Awaitable[MutableMapping[str, Any]]]
Send = Callable[[MutableMapping[str, Any]], Awaitable[None]]
Application = Callable[[Any, Any, Any], Awaitable[None]]
"""An ASGI application; each library spells the types of what it is called with in its own way."""


class BoundedCalls:
    """In front of the application: bodies that are too large get 413, calls that other sites make get 403."""

    def __init__(self, application: Application) -> None:
        self._application = application

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self._application(scope, receive, send)
            return
        said = {name.lower(): value for name, value in scope["headers"]}
        path = scope["path"].removeprefix(scope.get("root_path", ""))
        if path.startswith("/api/") and said.get(b"sec-fetch-site", b"").decode("latin-1") not in OWN_SITES:
            await refuse(send, 403, OTHER_PAGE)
            return
        length = said.get(b"content-length", b"0")
        if not length.isdigit() or len(length) > 15 or int(length) > MOST_BODY_BYTES:
            await refuse(send, 413, TOO_LARGE)
            return
        await self._application(scope, _Counted(receive), send)


class _Counted:
    """Passes the parts of a body on, and ends it where they grow too large: such a body says no length beforehand."""

    def __init__(self, receive: Receive) -> None:
        self._receive = receive
        self._count = 0

    async def __call__(self) -> MutableMapping[str, Any]:
        message = await self._receive()
        if message["type"] == "http.request":
            self._count += len(message.get("body", b""))
            if self._count > MOST_BODY_BYTES:
                return {"type": "http.disconnect"}
        return message


async def refuse(send: Send, status: int, document: dict[str, str]) -> None:
    """Answer with a document, without reading what is still on its way."""
    body = json.dumps({**document, "message": say(document["message"])}).encode()
    headers = [(b"content-type", b"application/json"), (b"content-length", str(len(body)).encode())]
    headers.append((b"connection", b"close"))
    await send({"type": "http.response.start", "status": status, "headers": headers})
    await send({"type": "http.response.body", "body": body})
