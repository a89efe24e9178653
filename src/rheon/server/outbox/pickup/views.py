"""The page on which files are picked up, and the files: the code in each address is what lets somebody in."""

from __future__ import annotations

import json
from pathlib import Path
from urllib.parse import quote

from asgiref.sync import sync_to_async
from django.http import HttpRequest, HttpResponse, HttpResponseRedirect, JsonResponse, StreamingHttpResponse
from django.template import Context, Engine
from django.utils import timezone
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_GET, require_POST, require_safe

from rheon.core.catalogue import later, say
from rheon.core.devices import Trouble
from rheon.core.errors import RheonError
from rheon.core.formats import PLAYED_BY_BROWSERS, media_type
from rheon.core.wording import size_text
from rheon.server.api.ranges import file_response

from ..actions.pick_up import DIGITS, LENGTH, note_fetched, pick_up, picked_up_file, report_from_device, to_be_picked_up
from ..media import lying
from ..models import Output

HERE = Path(__file__).parent
MOST_REPORT_BYTES = 1000
REFUSED = "This code does not open anything here. Look in Rheon for the one that does."
SAVING = {
    "phone": later("Save puts a file among this device’s downloads; from there its player or gallery opens it."),
    "tv": later("Choose Play with the arrows of the remote. Most TVs can’t keep files from a page."),
    "computer": later("Save puts a file into the folder for downloads."),
}
TROUBLES = {
    Trouble.SILENT: later("No sound"),
    Trouble.NO_PICTURE: later("No picture"),
    Trouble.STUTTERS: later("It stutters"),
}


@require_GET
def code_form(request: HttpRequest) -> HttpResponse:
    """For whoever typed only the address: a code of digits opens the files, one of letters the page that asks."""
    code = "".join(request.GET.get("code", "").split()).lower()
    if len(code) == LENGTH and all(sign in DIGITS for sign in code):
        return HttpResponseRedirect(f"/p/{code}/")
    if code and code.isalnum():
        return HttpResponseRedirect(f"/{code}")
    return HttpResponse((HERE / "code.html").read_bytes())


@require_GET
def script(request: HttpRequest) -> HttpResponse:
    return HttpResponse((HERE / "pick-up.js").read_bytes(), content_type="text/javascript; charset=utf-8")


@require_GET
def page(request: HttpRequest, code: str) -> HttpResponse:
    outputs = to_be_picked_up(code)
    if outputs is None:
        return _refused()
    row = pick_up()
    until = timezone.localtime(row.open_until).strftime("%H:%M") if row.open_until else ""
    template = Engine().from_string((HERE / "page.html").read_text(encoding="utf-8"))
    facts = {
        "heading": say("For {device}", device=row.device.name) if row.device else say("Files to pick up"),
        "until": say("Open until {until}, or until it is shut in Rheon.", until=until),
        "how": say(SAVING[_kind(request.headers.get("User-Agent", ""))]),
        "files": [_file(output) for output in outputs if Path(output.path).is_file()],
        "asks": row.device is not None,
        "troubles": [(trouble.value, say(text)) for trouble, text in TROUBLES.items()],
    }
    return HttpResponse(template.render(Context(facts)), headers={"Cache-Control": "no-store"})


@require_GET
def playlist(request: HttpRequest, code: str) -> HttpResponse:
    """The files one after the other, for players that open lists (RFC 8216, section 4.3.1 and 4.3.2.1)."""
    outputs = to_be_picked_up(code)
    if outputs is None:
        return _refused()
    lines = ["#EXTM3U"]
    for output in outputs:
        title = output.title_name.replace("\n", " ")
        lines += [f"#EXTINF:-1,{title}", request.build_absolute_uri(_address(output))]
    return HttpResponse("\n".join(lines) + "\n", content_type="application/vnd.apple.mpegurl; charset=utf-8")


@require_safe
async def file(request: HttpRequest, code: str, output_id: int, name: str) -> HttpResponse | StreamingHttpResponse:
    """A file or a range of it, as long as the code opens it; the name is only for whoever saves it."""
    output = await sync_to_async(picked_up_file)(code, output_id)
    path = await lying(output) if output else None
    if path is None:
        return _refused()

    async def still_open() -> bool:
        row = await sync_to_async(pick_up)()
        return row.is_open and row.code == code and output_id in row.outputs

    async def on_end() -> None:
        await sync_to_async(note_fetched)(output_id)

    return file_response(request, path, media_type(path.suffix), still_open=still_open, on_end=on_end)


@csrf_exempt  # no cookies and no session stand behind this page: the code in the address is what lets somebody in
@require_POST
def report(request: HttpRequest, code: str, output_id: int) -> HttpResponse:
    """How a file played there."""
    output = picked_up_file(code, output_id)
    if output is None:
        return _refused()
    try:
        said = json.loads(request.body[:MOST_REPORT_BYTES])["trouble"]
        taken = report_from_device(output, None if said is None else Trouble(said))
    except (ValueError, KeyError, TypeError, RecursionError):
        return HttpResponse("This is no report.", status=400, content_type="text/plain")
    except RheonError as error:
        return HttpResponse(error.message, status=404, content_type="text/plain")
    return JsonResponse({"taken": taken})


def _file(output: Output) -> dict[str, object]:
    path = Path(output.path)
    return {
        "id": output.pk,
        "name": path.name,
        "about": f"{size_text(output.size_bytes)} · {output.summary}",
        "address": _address(output),
        "plays": path.suffix.lower() in PLAYED_BY_BROWSERS,
    }


def _address(output: Output) -> str:
    return f"{output.pk}/{quote(Path(output.path).name)}"


def _kind(agent: str) -> str:
    """What sort of device calls, by words that browsers say of themselves (RFC 9110, section 10.1.5)."""
    said = agent.lower()
    if "tv" in said:
        return "tv"
    return "phone" if "mobile" in said or "tablet" in said else "computer"


def _refused() -> HttpResponse:
    return HttpResponse(REFUSED, status=404, content_type="text/plain")
