"""The files that the home network sees, by addresses that only the media server tells."""

from __future__ import annotations

from asgiref.sync import sync_to_async
from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from django.views.decorators.http import require_safe

from rheon.core.delivery import beside
from rheon.core.formats import features_on_network, type_on_network
from rheon.server.api.ranges import file_response

from ..actions.network import note_fetched, shown_file
from ..media import lying

REFUSED = "This address does not open anything here any more."


@require_safe
async def file(request: HttpRequest, token: str, output_id: int, name: str) -> HttpResponse | StreamingHttpResponse:
    """A file or what lies beside it, or a range of it, as long as its device is shown to the network.

    The headers that players of the home network look for are those of IEC 62481-1.
    """
    found = await sync_to_async(shown_file)(token, output_id)
    path = await lying(found[1]) if found else None
    if found is None or path is None:
        return HttpResponse(REFUSED, status=404, content_type="text/plain")
    folder = found[0]
    wanted = next((one for one in [path, *await sync_to_async(beside)(path)] if one.name == name), None)
    if wanted is None:
        return HttpResponse(REFUSED, status=404, content_type="text/plain")
    if wanted == path:
        await sync_to_async(note_fetched)(folder, found[1], request.META.get("REMOTE_ADDR", ""))

    async def still_open() -> bool:
        return await sync_to_async(shown_file)(token, output_id) is not None

    answer = file_response(request, wanted, type_on_network(wanted.suffix), still_open=still_open)
    answer["transferMode.dlna.org"] = "Streaming" if wanted == path else "Interactive"
    answer["contentFeatures.dlna.org"] = features_on_network(wanted.suffix)
    return answer
