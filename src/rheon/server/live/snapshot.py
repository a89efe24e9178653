"""What an open page has to know at once."""

from __future__ import annotations

from typing import Any

from django.db.models import Count, Max, Sum

from rheon.server.bench.models import Bench, Pick, Setting
from rheon.server.household.models import Device
from rheon.server.outbox.models import Output
from rheon.server.shelf.models import Source, Title
from rheon.server.worklist.queries import worklist_document


def snapshot() -> dict[str, Any]:
    """The Worklist in full, the counts of the bar, and marks that change when a place should be read again."""
    worklist = worklist_document()
    picks = list(Pick.objects.order_by("title_id").values_list("title_id", flat=True))
    return {
        "worklist": worklist,
        "counts": {
            "sources": Source.objects.count(),
            "picked": len(picks),
            "to_do": worklist["total"]["count"],
            "fraction": round(worklist["total"]["fraction"], 3),
            "outputs": Output.objects.count(),
        },
        "marks": {"shelf": _shelf_mark(), "bench": _bench_mark(picks), "outbox": _outbox_mark()},
    }


def _shelf_mark() -> str:
    seen = Source.objects.aggregate(count=Count("id"), changed=Max("changed"), at=Sum("at_title"))
    states = ",".join(Source.objects.values_list("state", flat=True))
    return f"{seen['count']}|{seen['changed']}|{seen['at']}|{states}"


def _bench_mark(picks: list[int]) -> str:
    sampled = Title.objects.filter(samples__isnull=False).count()
    looked_at = Title.objects.filter(survey__isnull=False).count()
    settings = list(Setting.objects.values_list("id", "balance", "pins"))
    devices = list(Device.objects.values_list("id", "name"))
    balance = list(Bench.objects.values_list("balance", flat=True))
    return str(hash((tuple(picks), sampled, looked_at, repr(settings), repr(devices), repr(balance))))


def _outbox_mark() -> str:
    seen = Output.objects.aggregate(count=Count("id"), last=Max("id"))
    return f"{seen['count']}|{seen['last']}"
