"""The one page of the interface; which place it shows is decided in the browser."""

from __future__ import annotations

from pathlib import Path

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.utils.html import escape
from django.views.decorators.csrf import ensure_csrf_cookie


@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    index = settings.WEB_BUILD / "index.html"
    if not index.is_file():
        return HttpResponse("The interface is not built yet. Run: make web", status=503, content_type="text/plain")
    return HttpResponse(_placed(index), headers={"Cache-Control": "no-cache"})


def _placed(index: Path) -> str:
    """The page as it is built, with the path that this installation lies under written into it."""
    prefix = escape(settings.RHEON_PREFIX)
    page = index.read_text(encoding="utf-8").replace('="./', f'="{prefix}/')
    return page.replace('name="rheon-prefix" content=""', f'name="rheon-prefix" content="{prefix}"')
