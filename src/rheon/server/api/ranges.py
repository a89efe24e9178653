"""Giving a file to the browser, whole or in ranges (RFC 9110, section 14)."""

from __future__ import annotations

import asyncio
import re
import time
from collections.abc import AsyncIterator, Awaitable, Callable
from dataclasses import dataclass
from pathlib import Path
from urllib.parse import quote

from django.http import HttpRequest, HttpResponse, StreamingHttpResponse

CHUNK_BYTES = 256 << 10
ASK_EVERY_S = 1.0


async def _always() -> bool:
    return True


async def _unheard() -> None:
    return


@dataclass(frozen=True, slots=True, kw_only=True)
class Span:
    """First and last byte, both included."""

    first: int
    last: int

    @property
    def length(self) -> int:
        return self.last - self.first + 1


def file_response(
    request: HttpRequest,
    path: Path,
    kind: str,
    *,
    still_open: Callable[[], Awaitable[bool]] = _always,
    on_end: Callable[[], Awaitable[None]] = _unheard,
) -> HttpResponse | StreamingHttpResponse:
    """The file, or the range of it that was asked for; with ``?download`` as an attachment.

    A range of a file that has become another one meanwhile (``If-Range``) is all of it. ``still_open`` is asked now and
    then: once it says no, the connection is broken off. ``on_end`` hears that the file's end was given.
    """
    said = path.stat()
    size = said.st_size
    mark = f'"{said.st_mtime_ns:x}-{size:x}"'
    same = request.headers.get("If-Range", mark) == mark
    wanted = parse_range(request.headers.get("Range", ""), size) if same else None
    if wanted is not None and wanted.first >= size:
        return HttpResponse(status=416, headers={"Content-Range": f"bytes */{size}"})
    span = wanted or Span(first=0, last=size - 1)
    headers = {"Accept-Ranges": "bytes", "Content-Length": str(span.length), "ETag": mark}
    if wanted is not None:
        headers["Content-Range"] = f"bytes {span.first}-{span.last}/{size}"
    if "download" in request.GET:
        headers["Content-Disposition"] = f"attachment; filename*=UTF-8''{quote(path.name)}"
    status = 200 if wanted is None else 206
    given = _bytes(path, span, still_open, on_end if span.last == size - 1 and request.method == "GET" else _unheard)
    return StreamingHttpResponse(given, status=status, content_type=kind, headers=headers)


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


async def _bytes(
    path: Path, span: Span, still_open: Callable[[], Awaitable[bool]], on_end: Callable[[], Awaitable[None]]
) -> AsyncIterator[bytes]:
    left, asked = span.length, time.monotonic()
    with path.open("rb") as handle:
        handle.seek(span.first)
        while left > 0 and (chunk := await asyncio.to_thread(handle.read, min(CHUNK_BYTES, left))):
            if time.monotonic() - asked > ASK_EVERY_S:
                asked = time.monotonic()
                if not await still_open():
                    raise ConnectionAbortedError("What was being given is not open any more.")
            left -= len(chunk)
            yield chunk
    if not left:
        await on_end()
