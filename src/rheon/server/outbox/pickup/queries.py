"""Reading what can be picked up, and where."""

from __future__ import annotations

from datetime import datetime
from pathlib import Path

from rheon.server.codes import qr

from .. import documents
from ..actions.pick_up import pick_up
from ..models import Output


def pick_up_document() -> documents.PickUp:
    row = pick_up()
    opens = row.is_open
    address = f"{row.address}p/{row.code}/" if opens else ""
    path, side = qr(address) if opens else ("", 0)
    found = Output.objects.in_bulk(row.outputs if opens else [])
    return documents.PickUp(
        open=opens,
        address=row.address if opens else "",
        code=row.code if opens else "",
        until=row.open_until if opens else None,
        qr=path,
        qr_size=side,
        device_name=row.device.name if row.device else "",
        files=[_picked_up(found[pk], row.fetched.get(str(pk))) for pk in row.outputs if pk in found],
        problem=row.problem,
    )


def _picked_up(output: Output, fetched: str | None) -> documents.PickedUp:
    return documents.PickedUp(
        output_id=output.pk,
        title_name=output.title_name,
        file_name=Path(output.path).name,
        size_bytes=output.size_bytes,
        fetched=datetime.fromisoformat(fetched) if fetched else None,
    )
