"""The page for a device's own browser, its sample clips, and its answers. Each needs the code."""

from __future__ import annotations

import json
from pathlib import Path

from asgiref.sync import sync_to_async
from django.http import HttpRequest, HttpResponse, JsonResponse, StreamingHttpResponse
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_GET, require_POST, require_safe

from rheon.core.devices import CLIPS
from rheon.core.errors import RheonError
from rheon.server.api.ranges import file_response

from ..actions.pairing import lets_in, take_answers, tell_clip
from ..clips import clip_file

HERE = Path(__file__).parent
MOST_ANSWER_BYTES = 64_000
REFUSED = "This code does not open anything here. Look at the Household page for the one that does."


@require_GET
def script(request: HttpRequest) -> HttpResponse:
    return HttpResponse((HERE / "ask.js").read_bytes(), content_type="text/javascript; charset=utf-8")


@require_GET
def page(request: HttpRequest, code: str) -> HttpResponse:
    if not lets_in(code):
        return _refused()
    return HttpResponse((HERE / "ask.html").read_bytes(), headers={"Cache-Control": "no-store"})


@require_GET
def clips(request: HttpRequest, code: str) -> HttpResponse:
    """What the page is to try, in order."""
    if not lets_in(code):
        return _refused()
    listed = [
        {
            "id": clip.id,
            "mime": clip.mime,
            "text": clip.text,
            "kind": "video" if clip.video else "audio",
            "width": clip.width,
            "height": clip.height,
            "rate": clip.rate,
            "channels": clip.channels,
        }
        for clip in CLIPS
    ]
    return JsonResponse({"clips": listed})


@require_safe
async def clip(request: HttpRequest, code: str, clip_id: str) -> HttpResponse | StreamingHttpResponse:
    wanted = next((place for place, clip in enumerate(CLIPS) if clip.id == clip_id), None)
    if wanted is None or not await sync_to_async(lets_in)(code):
        return _refused()
    await sync_to_async(tell_clip)(wanted + 1)
    try:
        path = await sync_to_async(clip_file, thread_sensitive=False)(CLIPS[wanted])
    except RheonError as error:
        return HttpResponse(error.message, status=503, content_type="text/plain")
    return file_response(request, path, CLIPS[wanted].mime.partition(";")[0])


@csrf_exempt  # no cookies and no session stand behind this page: the code in the address is what lets somebody in
@require_POST
def answers(request: HttpRequest, code: str) -> HttpResponse:
    if not lets_in(code):
        return _refused()
    if len(request.body) > MOST_ANSWER_BYTES:
        return HttpResponse("These answers are too long.", status=413, content_type="text/plain")
    try:
        row = take_answers(json.loads(request.body))
    except (ValueError, RecursionError, RheonError) as error:
        return HttpResponse(str(error), status=400, content_type="text/plain")
    return JsonResponse({"taken": row.profile is not None})


def _refused() -> HttpResponse:
    return HttpResponse(REFUSED, status=404, content_type="text/plain")
