"""Nobody reaches what this installation holds before they gave its passphrase, where it has one."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from asgiref.sync import iscoroutinefunction, sync_to_async
from django.http import HttpRequest, JsonResponse
from django.utils.decorators import sync_and_async_middleware

from rheon.core.catalogue import later

from .actions.passphrase import is_signed_in

OPEN = ("/api/session", "/api/health")
"""What is needed before one is signed in; the page itself holds nothing of anybody's."""
SIGNED_OUT = {"code": "signed_out", "message": later("Give the passphrase first.")}


def _shut(request: HttpRequest) -> bool:
    guarded = request.path_info.startswith("/api/") and request.path_info not in OPEN
    return guarded and not is_signed_in(request.session)


@sync_and_async_middleware
def SignedIn(get_response: Callable[..., Any]) -> Callable[..., Any]:
    """Answers 401 to whoever is not signed in."""
    if iscoroutinefunction(get_response):
        looked = sync_to_async(_shut, thread_sensitive=True)

        async def let_in(request: HttpRequest) -> Any:
            return JsonResponse(SIGNED_OUT, status=401) if await looked(request) else await get_response(request)

        return let_in

    def let_in_sync(request: HttpRequest) -> Any:
        return JsonResponse(SIGNED_OUT, status=401) if _shut(request) else get_response(request)

    return let_in_sync
