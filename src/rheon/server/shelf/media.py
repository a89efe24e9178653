"""Pictures and snippets of titles, for the browser."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from asgiref.sync import sync_to_async
from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from django.shortcuts import aget_object_or_404, get_object_or_404
from django.views.decorators.http import require_GET, require_safe
from rest_framework.exceptions import ValidationError

from rheon.core.errors import RheonError
from rheon.server.api.documents import read_query
from rheon.server.api.ranges import file_response

from .actions.artwork import cover_file
from .actions.frames import FRAMES, STRIP, frame_file, moment_file, scrub_count, scrub_file, strip_file
from .actions.snippets import snippet_file
from .documents import CoverSeen
from .models import Title
from .queries import cover_of

KEPT = {"Cache-Control": "private, max-age=3600"}
ASKED_AGAIN = {"Cache-Control": "private, no-cache"}
"""For joins, of which the same moment is another picture when their parts change places."""


@require_GET
def frame(request: HttpRequest, title_id: int, number: int) -> HttpResponse:
    """One of a title's frames; an empty answer where none can be read, for which the page has its own picture."""
    return _picture(title_id, lambda title: frame_file(title, number), number < FRAMES)


@require_GET
def strip(request: HttpRequest, title_id: int, number: int) -> HttpResponse:
    """One of the small frames of a title's film strip."""
    return _picture(title_id, lambda title: strip_file(title, number), number < STRIP)


@require_GET
def scrub(request: HttpRequest, title_id: int, number: int) -> HttpResponse:
    """One of the small frames that are shown while somebody scrubs over a title."""
    title = get_object_or_404(Title, pk=title_id)
    return _picture(title_id, lambda title: scrub_file(title, number), number < scrub_count(title.duration_s))


@require_GET
def moment(request: HttpRequest, title_id: int, at_ms: int) -> HttpResponse:
    """The frame at a moment."""
    return _picture(title_id, lambda title: moment_file(title, at_ms))


@require_GET
def cover(request: HttpRequest, title_id: int) -> HttpResponse:
    """A picture as it would go into a file: ``at_s``, ``picture`` or ``own``, ``shape``, ``across`` and ``down``."""
    try:
        wanted = read_query(CoverSeen, request.GET)
    except ValidationError:
        return HttpResponse("There is no such picture.", status=400, content_type="text/plain")
    return _picture(title_id, lambda title: cover_file(title, cover_of(title, wanted)))


@require_safe
async def snippet(request: HttpRequest, title_id: int) -> HttpResponse | StreamingHttpResponse:
    """A few seconds from ``?from=`` seconds on, with ``?audio=`` and ``?subtitle=`` tracks by their index."""
    title = await aget_object_or_404(Title.objects.select_related("source"), pk=title_id)
    try:
        from_s = float(request.GET.get("from", "0"))
        audio, subtitle = (int(said) if (said := request.GET.get(key)) else None for key in ("audio", "subtitle"))
    except ValueError:
        return HttpResponse("Say from when, and which tracks, in numbers.", status=400, content_type="text/plain")
    if not 0 <= from_s < 1e6:
        return HttpResponse("This moment is not in the title.", status=400, content_type="text/plain")
    try:
        path = await sync_to_async(snippet_file, thread_sensitive=False)(title, from_s, audio, subtitle)
    except RheonError as error:
        return HttpResponse(error.message, status=404, content_type="text/plain")
    return file_response(request, path, "video/mp4")


def _picture(title_id: int, file: Callable[[Title], Path], there: bool = True) -> HttpResponse:
    title = get_object_or_404(Title.objects.select_related("source"), pk=title_id)
    if not there:
        return HttpResponse(status=404)
    try:
        path = file(title)
    except RheonError as error:
        return HttpResponse(error.message, status=404, content_type="text/plain")
    headers = ASKED_AGAIN if title.outline.get("part_count") else KEPT
    return HttpResponse(path.read_bytes(), content_type="image/jpeg", headers=headers)
