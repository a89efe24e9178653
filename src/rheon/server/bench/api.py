"""The Bench's addresses."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from django.views.decorators.http import require_GET
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from rheon.core.planning import Balance, pin_set_text
from rheon.server.api.asked import asked
from rheon.server.household.actions.devices import add_goal, add_shared, remove_device
from rheon.server.household.models import Column, Device
from rheon.server.shelf.models import Title

from . import documents, queries, requests
from .actions import settings
from .actions.picks import set_picked
from .cells import cells_document
from .models import Pick, PinSet


class Table(APIView):
    @extend_schema(operation_id="bench", responses=documents.TableSerializer)
    def get(self, request: Request) -> Response:
        return Response(queries.table_document())

    @extend_schema(
        operation_id="setBenchBalance", request=requests.BenchBalanceSerializer, responses=documents.TableSerializer
    )
    def put(self, request: Request) -> Response:
        wanted = asked(requests.BenchBalanceSerializer, request.data)
        settings.set_balance(Balance(wanted["balance"]))
        return Response(queries.table_document())


class Cells(APIView):
    @extend_schema(
        operation_id="cells",
        parameters=[requests.CellsWantedSerializer],
        responses=documents.CellSerializer(many=True),
    )
    def get(self, request: Request) -> Response:
        wanted = asked(requests.CellsWantedSerializer, request.query_params)
        return Response(cells_document(wanted["titles"], wanted.get("balance")))


class Picks(APIView):
    @extend_schema(operation_id="picks", responses=documents.PicksSerializer)
    def get(self, request: Request) -> Response:
        return Response({"title_ids": list(Pick.objects.order_by("title_id").values_list("title_id", flat=True))})

    @extend_schema(operation_id="setPicked", request=requests.PickChangeSerializer, responses=documents.PicksSerializer)
    def post(self, request: Request) -> Response:
        wanted = asked(requests.PickChangeSerializer, request.data)
        set_picked(wanted["title_ids"], picked=wanted["picked"])
        return self.get(request)


class Columns(APIView):
    @extend_schema(operation_id="goals", responses=documents.GoalSerializer(many=True))
    def get(self, request: Request) -> Response:
        return Response(queries.goals_document())

    @extend_schema(
        operation_id="addColumn", request=requests.ColumnWantedSerializer, responses=documents.TableSerializer
    )
    def post(self, request: Request) -> Response:
        wanted = asked(requests.ColumnWantedSerializer, request.data)
        if goal := wanted.get("goal_id"):
            add_goal(goal)
        else:
            add_shared(wanted.get("device_ids", []))
        return Response(queries.table_document())


class OneColumn(APIView):
    @extend_schema(operation_id="removeColumn", request=None, responses=documents.TableSerializer)
    def delete(self, request: Request, device_id: int) -> Response:
        """Goals and shared files only: a device is removed in the Household."""
        remove_device(get_object_or_404(Device.objects.exclude(column=Column.DEVICE), pk=device_id))
        return Response(queries.table_document())


class Verdicts(APIView):
    @extend_schema(operation_id="verdicts", responses=documents.VerdictsSerializer)
    def get(self, request: Request, title_id: int) -> Response:
        return Response(queries.verdicts_document(get_object_or_404(Title, pk=title_id)))


class Serving(APIView):
    @extend_schema(
        operation_id="serving", parameters=[requests.ServingWantedSerializer], responses=documents.ServingSerializer
    )
    def get(self, request: Request, title_id: int) -> Response:
        wanted = asked(requests.ServingWantedSerializer, request.query_params)
        title = get_object_or_404(Title, pk=title_id)
        devices = Device.objects.filter(column=Column.DEVICE)
        chosen = list(devices.filter(pk__in=wanted["devices"]) if "devices" in wanted else devices)
        if not chosen:
            return Response({"title_id": title.pk, "files": [], "as_it_is": [], "impossible": []})
        return Response(queries.serving_document(title, chosen))


class Sheet(APIView):
    @extend_schema(operation_id="plan", responses=documents.SheetSerializer)
    def get(self, request: Request, title_id: int, device_id: int) -> Response:
        return Response(queries.sheet_document(*cell_rows(title_id, device_id)))

    @extend_schema(
        operation_id="changePlan", request=requests.SheetChangeSerializer, responses=documents.SheetSerializer
    )
    def patch(self, request: Request, title_id: int, device_id: int) -> Response:
        wanted = asked(requests.SheetChangeSerializer, request.data)
        title, device = cell_rows(title_id, device_id)
        moved = settings.change_setting(title, device, wanted.get("balance"), wanted.get("pins", {}))
        return Response(queries.sheet_document(title, device, moved))


class Carry(APIView):
    @extend_schema(operation_id="carryPins", request=requests.CarrySerializer, responses=documents.CarriedSerializer)
    def post(self, request: Request, title_id: int, device_id: int) -> Response:
        wanted = asked(requests.CarrySerializer, request.data)
        title, device = cell_rows(title_id, device_id)
        picked = wanted["to"] == "picked"
        targets = list(Title.objects.filter(pick__isnull=False)) if picked else settings.siblings(title)
        found = settings.carry_over(title, device, targets)
        return Response({"count": found.count, "left": list(found.left)})


class SetsOfCell(APIView):
    @extend_schema(operation_id="keepPins", request=requests.KeepSetSerializer, responses=documents.SheetSerializer)
    def post(self, request: Request, title_id: int, device_id: int) -> Response:
        wanted = asked(requests.KeepSetSerializer, request.data)
        title, device = cell_rows(title_id, device_id)
        settings.keep_set(wanted["name"], title, device)
        return Response(queries.sheet_document(title, device))


class SetOfCell(APIView):
    @extend_schema(operation_id="applyPins", request=None, responses=documents.SheetSerializer)
    def put(self, request: Request, title_id: int, device_id: int, set_id: int) -> Response:
        title, device = cell_rows(title_id, device_id)
        moved = settings.apply_set(get_object_or_404(PinSet, pk=set_id), title, device)
        return Response(queries.sheet_document(title, device, moved))


class Sets(APIView):
    @extend_schema(
        operation_id="takePins", request=requests.SetFileSerializer, responses={201: documents.PinSetSerializer}
    )
    def post(self, request: Request) -> Response:
        wanted = asked(requests.SetFileSerializer, request.data)
        row = settings.take_set(wanted["document"])
        return Response({"id": row.pk, "name": row.name, "pins": len(row.pins)}, status=201)


class OneSet(APIView):
    @extend_schema(operation_id="forgetPins", request=None, responses={204: None})
    def delete(self, request: Request, set_id: int) -> Response:
        get_object_or_404(PinSet, pk=set_id).delete()
        return Response(status=204)


@require_GET
def set_file(request: HttpRequest, set_id: int) -> HttpResponse:
    """A set of pins as a file to keep or to give away."""
    kept = settings.core_set(get_object_or_404(PinSet, pk=set_id))
    headers = {"Content-Disposition": 'attachment; filename="pins.json"'}
    return HttpResponse(pin_set_text(kept), content_type="application/json", headers=headers)


def cell_rows(title_id: int, device_id: int) -> tuple[Title, Device]:
    title = get_object_or_404(Title.objects.select_related("source"), pk=title_id)
    return title, get_object_or_404(Device.objects.select_related("member"), pk=device_id)
