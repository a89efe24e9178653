"""Who may call: pages of this server only, with their CSRF token; and what those pages may load."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from asgiref.sync import iscoroutinefunction, markcoroutinefunction
from django.http import Http404, HttpRequest, HttpResponse
from django.utils.decorators import sync_and_async_middleware
from rest_framework.authentication import SessionAuthentication
from rest_framework.request import Request

from .documents import MOST_ID

# inline styles stay allowed for the positions that the interface library computes; inline scripts never are
POLICY = (
    "default-src 'self'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; "
    "media-src 'self'; font-src 'self'; connect-src 'self'; object-src 'none'; base-uri 'none'; "
    "form-action 'self'; frame-ancestors 'none'"
)


class SamePage(SessionAuthentication):
    """There are no accounts on a home machine; what is checked is that the call comes from our own page."""

    def authenticate(self, request: Request) -> None:
        self.enforce_csrf(request)


@sync_and_async_middleware
def ContentSecurityPolicy(get_response: Callable[..., Any]) -> Callable[..., Any]:
    """Adds the policy to every answer."""
    if iscoroutinefunction(get_response):

        async def with_policy(request: HttpRequest) -> HttpResponse:
            response: HttpResponse = await get_response(request)
            response.headers["Content-Security-Policy"] = POLICY
            return response

        return with_policy

    def with_policy_sync(request: HttpRequest) -> HttpResponse:
        response: HttpResponse = get_response(request)
        response.headers["Content-Security-Policy"] = POLICY
        return response

    return with_policy_sync


class SensibleNumbers:
    """Numbers in addresses that no row can have lead nowhere."""

    sync_capable = async_capable = True

    def __init__(self, get_response: Callable[..., Any]) -> None:
        self.get_response = get_response
        if iscoroutinefunction(get_response):
            markcoroutinefunction(self)

    def __call__(self, request: HttpRequest) -> Any:
        return self.get_response(request)

    def process_view(self, request: HttpRequest, view: object, args: object, kwargs: dict[str, object]) -> None:
        if any(isinstance(value, int) and value > MOST_ID for value in kwargs.values()):
            raise Http404
