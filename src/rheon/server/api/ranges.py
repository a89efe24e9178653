"""Giving a file to the browser, whole or in ranges (RFC 9110, section 14)."""

from __future__ import annotations

import asyncio
import re
from collections.abc import AsyncIterator
from dataclasses import dataclass
from pathlib import Path
from urllib.parse import quote

from django.http import HttpRequest, HttpResponse, StreamingHttpResponse

CHUNK_BYTES = 256 << 10


@dataclass(frozen=True, slots=True, kw_only=True)
class Span:
    """First and last byte, both included."""

    first: int
    last: int

    @property
    def length(self) -> int:
        return self.last - self.first + 1


def file_response(request: HttpRequest, path: Path, kind: str) -> HttpResponse | StreamingHttpResponse:
    """The file, or the range of it that was asked for; with ``?download`` as an attachment."""
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
    status = 200 if wanted is None else 206
    return StreamingHttpResponse(_bytes(path, span), status=status, content_type=kind, headers=headers)


def parse_range(header: str, size: int) -> Span | None:
    """The one range asked for; ``None`` for none or for a form that is not served."""
    found = re.fullmatch(r"bytes=(\d{0,18})-(\d{0,18})", header.strip())
    if not found or (not found[1] and not found[2]):
        return None
    if not found[1]:
        return Span(first=max(0, size - int(found[2])), last=size - 1)
    first, last = int(found[1]), min(int(found[2]) if found[2] else size - 1, size - 1)
    # a last byte before the first makes it no range at all
    return None if first < size and last < first else Span(first=first, last=last)


async def _bytes(path: Path, span: Span) -> AsyncIterator[bytes]:
    left = span.length
    with path.open("rb") as handle:
        handle.seek(span.first)
        while left > 0 and (chunk := await asyncio.to_thread(handle.read, min(CHUNK_BYTES, left))):
            left -= len(chunk)
            yield chunk
