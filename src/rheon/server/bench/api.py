"""The Bench's addresses."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from django.views.decorators.http import require_GET
from rest_framework.request import Request
from rest_framework.views import APIView

from rheon.core.planning import pin_set_text, preset_in_time
from rheon.core.planning.decisions.picture import PRESET
from rheon.server.api.operations import operation
from rheon.server.household.models import Device
from rheon.server.shelf.models import Title

from . import documents, queries, requests
from .actions import fidelity, overrides, rate_search, series
from .actions.picks import set_picked
from .actions.targets import add_goal, add_shared
from .cells import cells_document
from .models import Pick, PinSet, Target
from .planning import request_of
from .trade_off import trade_off_document


class Table(APIView):
    @operation("bench")
    def get(self, request: Request) -> documents.Table:
        return queries.table_document()

    @operation("setBenchBalance")
    def put(self, request: Request, wanted: requests.BenchBalance) -> documents.Table:
        overrides.set_balance(wanted.balance)
        return queries.table_document()


class Cells(APIView):
    @operation("cells")
    def get(self, request: Request, wanted: requests.CellsWanted) -> list[documents.Cell]:
        return cells_document(wanted.title_ids, wanted.balance)


class Picks(APIView):
    @operation("picks")
    def get(self, request: Request) -> documents.Picks:
        return _picks()

    @operation("setPicked")
    def post(self, request: Request, wanted: requests.PickChange) -> documents.Picks:
        set_picked(wanted.title_ids, picked=wanted.picked)
        return _picks()


class Goals(APIView):
    @operation("goals")
    def get(self, request: Request) -> list[documents.Goal]:
        return queries.goals_document()


class Targets(APIView):
    @operation("addTarget")
    def post(self, request: Request, wanted: requests.TargetWanted) -> documents.Table:
        if wanted.goal_id:
            add_goal(wanted.goal_id)
        else:
            add_shared(wanted.device_ids)
        return queries.table_document()


class OneTarget(APIView):
    @operation("removeTarget")
    def delete(self, request: Request, target_id: int) -> documents.Table:
        """Goals and shared files only: a device is removed in the Household."""
        get_object_or_404(Target.objects.filter(device=None), pk=target_id).delete()
        return queries.table_document()


class Verdicts(APIView):
    @operation("verdicts")
    def get(self, request: Request, title_id: int) -> documents.Verdicts:
        return queries.verdicts_document(get_object_or_404(Title, pk=title_id))


class Sharing(APIView):
    @operation("sharing")
    def get(self, request: Request, title_id: int, wanted: requests.SharingWanted) -> documents.Sharing:
        title = get_object_or_404(Title, pk=title_id)
        devices, ids = Device.objects.all(), wanted.device_ids
        return queries.sharing_document(title, list(devices if ids is None else devices.filter(pk__in=ids)))


class Sheet(APIView):
    @operation("plan")
    def get(self, request: Request, title_id: int, target_id: int) -> documents.Sheet:
        return queries.sheet_document(*cell_rows(title_id, target_id))

    @operation("changePlan")
    def patch(self, request: Request, title_id: int, target_id: int, wanted: requests.SheetChange) -> documents.Sheet:
        title, target = cell_rows(title_id, target_id)
        changed = overrides.change_override(title, target, wanted.balance, wanted.pins)
        return queries.sheet_document(title, target, changed)

    @operation("takeBackRefused")
    def delete(self, request: Request, title_id: int, target_id: int) -> documents.Sheet:
        """Take back what was set by hand and can't be meant here any more; the rest stays."""
        title, target = cell_rows(title_id, target_id)
        overrides.take_back_refused(title, target)
        return queries.sheet_document(title, target)


class TradeOff(APIView):
    @operation("tradeOff")
    def get(self, request: Request, title_id: int, target_id: int) -> documents.TradeOff:
        """How much of the picture each balance keeps, as far as that was measured."""
        return trade_off_document(fidelity.measured(*cell_rows(title_id, target_id)))

    @operation("measureTradeOff")
    def post(self, request: Request, title_id: int, target_id: int) -> documents.TradeOff:
        """Have it measured; points appear one after the other, as long as somebody asks after them."""
        return trade_off_document(fidelity.ask_for_measures(*cell_rows(title_id, target_id)))

    @operation("stopTradeOff")
    def delete(self, request: Request, title_id: int, target_id: int) -> documents.TradeOff:
        """Measure no further; what is known stays."""
        return trade_off_document(fidelity.stop_measuring(*cell_rows(title_id, target_id)))


class FidelityOfCell(APIView):
    @operation("askForFidelity")
    def put(self, request: Request, title_id: int, target_id: int, wanted: requests.FidelityWanted) -> documents.Sheet:
        """Pin the rate at which the picture is expected to keep so much of the source; it is tried, and then pinned
        nearer, while somebody asks after what was measured.
        """
        title, target = cell_rows(title_id, target_id)
        changed = rate_search.ask_for_fidelity(title, target, wanted.score)
        return queries.sheet_document(title, target, changed)


class TimeOfCell(APIView):
    @operation("askForTime")
    def put(self, request: Request, title_id: int, target_id: int, wanted: requests.TimeWanted) -> documents.Sheet:
        """Pin the most thorough preset with which the file is expected to be made in time."""
        title, target = cell_rows(title_id, target_id)
        preset = preset_in_time(request_of(title, target), wanted.most_s)
        changed = overrides.change_override(title, target, None, {PRESET.key: preset})
        return queries.sheet_document(title, target, changed)


class Transfer(APIView):
    @operation("transferPins")
    def post(self, request: Request, title_id: int, target_id: int, wanted: requests.Transfer) -> documents.Transferred:
        title, target = cell_rows(title_id, target_id)
        picked = wanted.to == "picked"
        others = list(Title.objects.filter(pick__isnull=False)) if picked else overrides.siblings(title)
        found = overrides.transfer_pins(title, target, others)
        return documents.Transferred(count=found.count, left=list(found.left))


class CutSeries(APIView):
    @operation("cutSeries")
    def post(self, request: Request, title_id: int, target_id: int) -> documents.SeriesCut:
        """Leave out of each episode of a title's series what is proposed for it; what is cut already stays as it is.

        Called again it goes on with those that were still looked at.
        """
        done = series.cut_series(*cell_rows(title_id, target_id))
        return documents.SeriesCut(**{outcome.value: done[outcome] for outcome in series.Outcome})


class SetsOfCell(APIView):
    @operation("keepPins")
    def post(self, request: Request, title_id: int, target_id: int, wanted: requests.KeepSet) -> documents.Sheet:
        title, target = cell_rows(title_id, target_id)
        overrides.keep_set(wanted.name, title, target)
        return queries.sheet_document(title, target)


class SetOfCell(APIView):
    @operation("applyPins")
    def put(self, request: Request, title_id: int, target_id: int, set_id: int) -> documents.Sheet:
        title, target = cell_rows(title_id, target_id)
        changed = overrides.apply_set(get_object_or_404(PinSet, pk=set_id), title, target)
        return queries.sheet_document(title, target, changed)


class Sets(APIView):
    @operation("takePins", status=201)
    def post(self, request: Request, wanted: requests.SetFile) -> documents.PinSet:
        return queries.set_document(overrides.take_set(wanted.document))


class OneSet(APIView):
    @operation("forgetPins")
    def delete(self, request: Request, set_id: int) -> None:
        get_object_or_404(PinSet, pk=set_id).delete()


@require_GET
def set_file(request: HttpRequest, set_id: int) -> HttpResponse:
    """A set of pins as a file to keep or to give away."""
    kept = overrides.core_set(get_object_or_404(PinSet, pk=set_id))
    headers = {"Content-Disposition": 'attachment; filename="pins.json"'}
    return HttpResponse(pin_set_text(kept), content_type="application/json", headers=headers)


def cell_rows(title_id: int, target_id: int) -> tuple[Title, Target]:
    title = get_object_or_404(Title.objects.select_related("source"), pk=title_id)
    return title, get_object_or_404(Target.objects.select_related("device__member"), pk=target_id)


def _picks() -> documents.Picks:
    return documents.Picks(title_ids=list(Pick.objects.order_by("title_id").values_list("title_id", flat=True)))
