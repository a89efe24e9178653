"""Giving an output to the browser."""

from __future__ import annotations

from asgiref.sync import sync_to_async
from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from django.shortcuts import aget_object_or_404
from django.views.decorators.http import require_safe

from rheon.core.system import real_path
from rheon.server.api.ranges import file_response
from rheon.server.home.queries import output_folders

from .models import Output
from .queries import PLAYED_BY_BROWSERS


@require_safe
async def media(request: HttpRequest, output_id: int) -> HttpResponse | StreamingHttpResponse:
    """The file of an output; with ``?download`` as an attachment. Only files inside an output folder are given."""
    output = await aget_object_or_404(Output, pk=output_id)
    path = real_path(output.path)
    folders = await sync_to_async(output_folders)()
    if not any(map(path.is_relative_to, folders)) or not path.is_file():
        return HttpResponse("The file is not there any more.", status=404, content_type="text/plain")
    return file_response(request, path, PLAYED_BY_BROWSERS.get(path.suffix.lower(), "application/octet-stream"))
