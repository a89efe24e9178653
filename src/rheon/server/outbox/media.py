"""Giving an output to the browser, whole or in ranges (RFC 9110, section 14)."""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path

from django.conf import settings
from django.http import FileResponse, HttpRequest, HttpResponse, StreamingHttpResponse
from django.shortcuts import get_object_or_404
from django.views.decorators.http import require_safe

from .models import Output
from .queries import PLAYED_BY_BROWSERS

CHUNK_BYTES = 256 << 10


@require_safe
def media(request: HttpRequest, output_id: int) -> HttpResponse | FileResponse | StreamingHttpResponse:
    """The file of an output; with ``?download`` as an attachment. Only files inside the output folder are given."""
    output = get_object_or_404(Output, pk=output_id)
    path = Path(output.path).resolve()
    if not path.is_relative_to(settings.RHEON_OUTPUT_FOLDER) or not path.is_file():
        return HttpResponse("The file is not there any more.", status=404, content_type="text/plain")
    kind = PLAYED_BY_BROWSERS.get(path.suffix.lower(), "application/octet-stream")
    if "download" in request.GET:
        return FileResponse(path.open("rb"), as_attachment=True, filename=path.name, content_type=kind)
    size = path.stat().st_size
    wanted = _range(request.headers.get("Range", ""), size)
    if wanted is None:
        return FileResponse(path.open("rb"), content_type=kind, headers={"Accept-Ranges": "bytes"})
    first, last = wanted
    if first >= size:
        return HttpResponse(status=416, headers={"Content-Range": f"bytes */{size}"})
    headers = {
        "Content-Range": f"bytes {first}-{last}/{size}",
        "Content-Length": str(last - first + 1),
        "Accept-Ranges": "bytes",
    }
    return StreamingHttpResponse(_bytes(path, first, last), status=206, content_type=kind, headers=headers)


def _range(header: str, size: int) -> tuple[int, int] | None:
    """The one range asked for, as first and last byte; ``None`` for none or for a form that is not served."""
    found = re.fullmatch(r"bytes=(\d*)-(\d*)", header.strip())
    if not found or (not found[1] and not found[2]):
        return None
    if not found[1]:
        return max(0, size - int(found[2])), size - 1
    return int(found[1]), min(int(found[2]) if found[2] else size - 1, size - 1)


def _bytes(path: Path, first: int, last: int) -> Iterator[bytes]:
    left = last - first + 1
    with path.open("rb") as handle:
        handle.seek(first)
        while left > 0 and (chunk := handle.read(min(CHUNK_BYTES, left))):
            left -= len(chunk)
            yield chunk
