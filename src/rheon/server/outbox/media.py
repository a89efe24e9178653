"""Giving an output to the browser, whole or in ranges (RFC 9110, section 14)."""

from __future__ import annotations

import asyncio
import re
from collections.abc import AsyncIterator
from dataclasses import dataclass
from pathlib import Path
from urllib.parse import quote

from django.conf import settings
from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from django.shortcuts import aget_object_or_404
from django.views.decorators.http import require_safe

from .models import Output
from .queries import PLAYED_BY_BROWSERS

CHUNK_BYTES = 256 << 10


@dataclass(frozen=True, slots=True, kw_only=True)
class Span:
    """First and last byte, both included."""

    first: int
    last: int

    @property
    def length(self) -> int:
        return self.last - self.first + 1


@require_safe
async def media(request: HttpRequest, output_id: int) -> HttpResponse | StreamingHttpResponse:
    """The file of an output; with ``?download`` as an attachment. Only files inside the output folder are given."""
    output = await aget_object_or_404(Output, pk=output_id)
    path = Path(output.path).resolve()
    if not path.is_relative_to(settings.RHEON_OUTPUT_FOLDER) or not path.is_file():
        return HttpResponse("The file is not there any more.", status=404, content_type="text/plain")
    size = path.stat().st_size
    wanted = parse_range(request.headers.get("Range", ""), size)
    if wanted is not None and wanted.first >= size:
        return HttpResponse(status=416, headers={"Content-Range": f"bytes */{size}"})
    span = wanted or Span(first=0, last=size - 1)
    headers = {"Accept-Ranges": "bytes", "Content-Length": str(span.length)}
    if wanted is not None:
        headers["Content-Range"] = f"bytes {span.first}-{span.last}/{size}"
    if "download" in request.GET:
        headers["Content-Disposition"] = f"attachment; filename*=UTF-8''{quote(path.name)}"
    kind = PLAYED_BY_BROWSERS.get(path.suffix.lower(), "application/octet-stream")
    status = 200 if wanted is None else 206
    return StreamingHttpResponse(_bytes(path, span), status=status, content_type=kind, headers=headers)


def parse_range(header: str, size: int) -> Span | None:
    """The one range asked for; ``None`` for none or for a form that is not served."""
    found = re.fullmatch(r"bytes=(\d*)-(\d*)", header.strip())
    if not found or (not found[1] and not found[2]):
        return None
    if not found[1]:
        return Span(first=max(0, size - int(found[2])), last=size - 1)
    return Span(first=int(found[1]), last=min(int(found[2]) if found[2] else size - 1, size - 1))


async def _bytes(path: Path, span: Span) -> AsyncIterator[bytes]:
    left = span.length
    with path.open("rb") as handle:
        handle.seek(span.first)
        while left > 0 and (chunk := await asyncio.to_thread(handle.read, min(CHUNK_BYTES, left))):
            left -= len(chunk)
            yield chunk
