"""Pictures of the plan sheet: as they are on the source, and as they will be."""

from __future__ import annotations

import tempfile
import threading
from collections.abc import Callable
from pathlib import Path

from asgiref.sync import sync_to_async
from django.http import HttpRequest, HttpResponse, QueryDict, StreamingHttpResponse
from django.views.decorators.http import require_GET, require_safe
from rest_framework.exceptions import ValidationError

from rheon.core.analysis import frame_jpeg
from rheon.core.encoding import PreviewRequest, preview_jpeg
from rheon.core.errors import EngineError, RheonError
from rheon.core.media import mark_of
from rheon.core.planning import Plan, plan, set_upright
from rheon.server.api.documents import read_query
from rheon.server.api.ranges import file_response
from rheon.server.shelf.actions.cache import cached, material_mark
from rheon.server.shelf.models import Title

from . import requests
from .actions.excerpts import Growing, WantedExcerpt, excerpt_file, growing_excerpt, wanted_excerpt
from .api import cell_rows
from .planning import request_for, stored_override
from .queries import look_of

MOST_LINES = 1080
KEPT = {"Cache-Control": "private, max-age=3600"}
_at_once = threading.Semaphore(2)


@require_GET
def before(request: HttpRequest, title_id: int, target_id: int, at_ms: int) -> HttpResponse:
    """A frame of the source, whole, in square pixels, as many lines as it has."""
    title, _ = cell_rows(title_id, target_id)

    def make(path: Path) -> None:
        core = title.readable_title()
        lines = min(MOST_LINES, core.video.height if core.video else MOST_LINES)
        with _at_once:
            path.write_bytes(frame_jpeg(core, _moment(title, at_ms), lines))

    return _given(f"{material_mark(title)}-{at_ms}-before.jpg", make)


@require_GET
def after(request: HttpRequest, title_id: int, target_id: int, at_ms: int) -> HttpResponse:
    """The same frame after crop, size and drawn-in subtitles of the plan."""
    title, target = cell_rows(title_id, target_id)
    try:
        made = plan(request_for(title, target, stored_override(title.pk, target.pk)), explained=False)
    except RheonError as error:
        return HttpResponse(error.message, status=404, content_type="text/plain")

    def make(path: Path) -> None:
        with _at_once, tempfile.TemporaryDirectory() as work:
            path.write_bytes(_preview(title, made, _moment(title, at_ms), Path(work)))

    return _given(f"{material_mark(title)}-{at_ms}-{look_of(made)}.jpg", make)


@require_GET
def whole(request: HttpRequest, title_id: int, target_id: int, at_ms: int) -> HttpResponse:
    """The same frame, nothing of it cut away, turned and in the shape of the plan: what a crop is chosen on."""
    title, target = cell_rows(title_id, target_id)
    try:
        asked = request_for(title, target, stored_override(title.pk, target.pk))
    except RheonError as error:
        return HttpResponse(error.message, status=404, content_type="text/plain")
    source = asked.title.video
    if source is None:
        return HttpResponse("This title has no picture.", status=404, content_type="text/plain")
    upright = set_upright(source, asked.pins)

    def make(path: Path) -> None:
        lines = min(MOST_LINES, upright.upright_size[1])
        with _at_once:
            path.write_bytes(frame_jpeg(title.readable_title(), _moment(title, at_ms), lines, upright=upright))

    shape = mark_of(upright.rotation, upright.display_aspect)
    return _given(f"{material_mark(title)}-{at_ms}-whole-{shape}.jpg", make)


@require_safe
async def excerpt(
    request: HttpRequest, title_id: int, target_id: int, at_ms: int
) -> HttpResponse | StreamingHttpResponse:
    """Ten seconds from a moment on as they will be, with the sound and the subtitles that ``?sound=1&subtitle=0``
    switches on; with ``?source`` as they are, picture for picture beside them.

    Whoever plays them, and so asks for all from the first byte on, gets them while they are made.
    """
    try:
        wanted = await sync_to_async(_wanted)(title_id, target_id, at_ms, request.GET)
        plays = request.headers.get("Range") == "bytes=0-" and not wanted.side[2]
        give = growing_excerpt if plays else excerpt_file
        found = await sync_to_async(give, thread_sensitive=False)(wanted)
    except ValidationError:
        return HttpResponse("Say which sound and which subtitles in numbers.", status=400, content_type="text/plain")
    except RheonError as error:
        return HttpResponse(error.message, status=404, content_type="text/plain")
    if isinstance(found, Growing):
        return StreamingHttpResponse(found.chunks(), content_type="video/mp4", headers={"Cache-Control": "no-store"})
    return file_response(request, found, "video/mp4")


def _wanted(title_id: int, target_id: int, at_ms: int, asked: QueryDict) -> WantedExcerpt:
    title, target = cell_rows(title_id, target_id)
    return wanted_excerpt(title, target, at_ms, read_query(requests.Switched, asked), of_source="source" in asked)


def _preview(title: Title, made: Plan, at_s: float, work: Path) -> bytes:
    if made.settings is None:
        raise EngineError("Nothing is made here.", advice="")
    request = PreviewRequest(title=title.readable_title(), settings=made.settings, at_s=at_s)
    return preview_jpeg(request, work)


def _moment(title: Title, at_ms: int) -> float:
    return min(title.duration_s, at_ms / 1000)


def _given(name: str, make: Callable[[Path], None]) -> HttpResponse:
    try:
        path = cached("sheets", name, make)
    except RheonError as error:
        return HttpResponse(error.message, status=404, content_type="text/plain")
    return HttpResponse(path.read_bytes(), content_type="image/jpeg", headers=KEPT)
