"""The form for a code, for whoever typed only the address."""

from __future__ import annotations

from pathlib import Path

from django.http import HttpRequest, HttpResponse, HttpResponseRedirect
from django.views.decorators.http import require_GET

from rheon.server.outbox.actions.picking_up import DIGITS, LENGTH

PAGE = Path(__file__).with_name("code.html")


@require_GET
def code_form(request: HttpRequest) -> HttpResponse:
    """A code of digits opens the files to be picked up, one of letters the page that asks the device."""
    code = "".join(request.GET.get("code", "").split()).lower()
    if len(code) == LENGTH and all(sign in DIGITS for sign in code):
        return HttpResponseRedirect(f"/p/{code}/")
    if code and code.isalnum():
        return HttpResponseRedirect(f"/{code}")
    return HttpResponse(PAGE.read_bytes())
