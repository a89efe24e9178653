"""Giving an output to the browser."""

from __future__ import annotations

from pathlib import Path

from asgiref.sync import sync_to_async
from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from django.shortcuts import aget_object_or_404
from django.views.decorators.http import require_safe

from rheon.core.analysis import jpeg_in_file
from rheon.core.errors import RheonError
from rheon.core.formats import media_type
from rheon.core.media import mark_of
from rheon.core.system import real_path
from rheon.server.api.ranges import file_response
from rheon.server.home.queries import output_folders
from rheon.server.shelf.actions.cache import cached

from .models import Output

SHOWN_WIDE = 320


@require_safe
async def media(request: HttpRequest, output_id: int) -> HttpResponse | StreamingHttpResponse:
    """The file of an output; with ``?download`` as an attachment. Only files inside an output folder are given."""
    path = await lying(await aget_object_or_404(Output, pk=output_id))
    if path is None:
        return HttpResponse("The file is not there any more.", status=404, content_type="text/plain")
    return file_response(request, path, media_type(path.suffix))


@require_safe
async def artwork(request: HttpRequest, output_id: int) -> HttpResponse:
    """The picture inside an output; nothing (204) where it has none."""
    path = await lying(await aget_object_or_404(Output, pk=output_id))
    try:
        found = await sync_to_async(_artwork, thread_sensitive=False)(path) if path else None
    except (RheonError, OSError):
        found = None
    return HttpResponse(found, content_type="image/jpeg") if found else HttpResponse(status=204)


async def lying(output: Output) -> Path | None:
    """Where an output lies, if it is there and inside an output folder."""
    path = real_path(output.path)
    folders = await sync_to_async(output_folders)()
    return path if any(map(path.is_relative_to, folders)) and path.is_file() else None


def _artwork(path: Path) -> bytes:
    """As a small JPEG, kept for this state of the file; empty where there is none."""
    said = path.stat()
    mark = mark_of(str(path), said.st_mtime_ns, said.st_size)

    def make(target: Path) -> None:
        target.write_bytes(jpeg_in_file(path, SHOWN_WIDE) or b"")

    return cached("inside", f"{mark}.jpg", make).read_bytes()
