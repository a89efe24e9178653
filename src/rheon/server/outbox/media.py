"""Giving an output to the browser."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from django.shortcuts import aget_object_or_404
from django.views.decorators.http import require_safe

from rheon.core.system import real_path
from rheon.server.api.ranges import file_response

from .models import Output
from .queries import PLAYED_BY_BROWSERS


@require_safe
async def media(request: HttpRequest, output_id: int) -> HttpResponse | StreamingHttpResponse:
    """The file of an output; with ``?download`` as an attachment. Only files inside the output folder are given."""
    output = await aget_object_or_404(Output, pk=output_id)
    path = real_path(output.path)
    if not path.is_relative_to(settings.RHEON_OUTPUT_FOLDER) or not path.is_file():
        return HttpResponse("The file is not there any more.", status=404, content_type="text/plain")
    return file_response(request, path, PLAYED_BY_BROWSERS.get(path.suffix.lower(), "application/octet-stream"))
