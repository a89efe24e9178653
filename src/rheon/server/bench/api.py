"""The Bench's documents and addresses."""

from __future__ import annotations

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from rheon.core.planning import Balance
from rheon.server.api.schema import BALANCES, DEVICE_KINDS, ROLES, VERDICTS
from rheon.server.household.models import Device
from rheon.server.shelf.models import Title

from .actions.picks import set_picked
from .actions.settings import change_setting, set_balance
from .models import Pick
from .queries import sheet_document, table_document


class EstimateSerializer(serializers.Serializer):
    size_bytes = serializers.IntegerField()
    size_low_bytes = serializers.IntegerField()
    size_high_bytes = serializers.IntegerField()
    time_s = serializers.FloatField()
    time_low_s = serializers.FloatField()
    time_high_s = serializers.FloatField()


class RowSerializer(serializers.Serializer):
    id = serializers.IntegerField()
    name = serializers.CharField()
    role = serializers.ChoiceField(choices=ROLES)
    duration_s = serializers.FloatField()
    size_bytes = serializers.IntegerField()
    detail = serializers.CharField()


class ColumnSerializer(serializers.Serializer):
    id = serializers.IntegerField()
    name = serializers.CharField()
    kind = serializers.ChoiceField(choices=DEVICE_KINDS)
    model = serializers.CharField()
    detail = serializers.CharField()


class CellSerializer(serializers.Serializer):
    title_id = serializers.IntegerField()
    device_id = serializers.IntegerField()
    verdict = serializers.ChoiceField(choices=VERDICTS)
    reason = serializers.CharField()
    estimate = EstimateSerializer(allow_null=True)
    surround = serializers.BooleanField()
    same_as = serializers.IntegerField(allow_null=True)
    by_hand = serializers.BooleanField()


class TableSerializer(serializers.Serializer):
    balance = serializers.ChoiceField(choices=BALANCES)
    titles = RowSerializer(many=True)
    devices = ColumnSerializer(many=True)
    cells = CellSerializer(many=True)


class BenchBalanceSerializer(serializers.Serializer):
    balance = serializers.ChoiceField(choices=BALANCES)


class PicksSerializer(serializers.Serializer):
    title_ids = serializers.ListField(child=serializers.IntegerField())


class PickChangeSerializer(serializers.Serializer):
    title_ids = serializers.ListField(child=serializers.IntegerField(), max_length=5000)
    picked = serializers.BooleanField()


class ChoiceSerializer(serializers.Serializer):
    value = serializers.CharField()
    text = serializers.CharField()


class DecisionSerializer(serializers.Serializer):
    key = serializers.CharField()
    group = serializers.ChoiceField(choices=["picture", "sound", "words", "file"])
    label = serializers.CharField()
    value = serializers.CharField()
    text = serializers.CharField()
    reason = serializers.CharField()
    pinned = serializers.BooleanField()
    choices = ChoiceSerializer(many=True)


class StepSerializer(serializers.Serializer):
    balance = serializers.ChoiceField(choices=BALANCES)
    estimate = EstimateSerializer(allow_null=True)


class SizeSerializer(serializers.Serializer):
    width = serializers.IntegerField()
    height = serializers.IntegerField()


class RuleSerializer(serializers.Serializer):
    rule = serializers.CharField()
    ok = serializers.BooleanField()
    measured = serializers.CharField()
    allowed = serializers.CharField()


class SheetSerializer(serializers.Serializer):
    title_id = serializers.IntegerField()
    title_name = serializers.CharField()
    source_name = serializers.CharField()
    device_id = serializers.IntegerField()
    device_name = serializers.CharField()
    screen = SizeSerializer(allow_null=True)
    duration_s = serializers.FloatField()
    chapters = serializers.ListField(child=serializers.FloatField())
    balance = serializers.ChoiceField(choices=BALANCES)
    own_balance = serializers.BooleanField()
    treatment = serializers.ChoiceField(choices=VERDICTS)
    reason = serializers.CharField()
    decisions = DecisionSerializer(many=True)
    pins = serializers.IntegerField()
    estimate = EstimateSerializer(allow_null=True)
    sampled = serializers.BooleanField()
    steps = StepSerializer(many=True)
    limit_bytes = serializers.IntegerField(allow_null=True)
    frame = SizeSerializer(allow_null=True)
    rules = RuleSerializer(many=True)


class SheetChangeSerializer(serializers.Serializer):
    """``pins`` maps decision keys to values; ``null`` lets Rheon choose again."""

    balance = serializers.ChoiceField(choices=BALANCES, required=False)
    pins = serializers.DictField(
        child=serializers.CharField(allow_null=True, allow_blank=False, max_length=300, trim_whitespace=False),
        required=False,
    )


class Table(APIView):
    @extend_schema(operation_id="bench", responses=TableSerializer)
    def get(self, request: Request) -> Response:
        return Response(table_document())

    @extend_schema(operation_id="setBenchBalance", request=BenchBalanceSerializer, responses=TableSerializer)
    def put(self, request: Request) -> Response:
        wanted = BenchBalanceSerializer(data=request.data)
        wanted.is_valid(raise_exception=True)
        set_balance(Balance(wanted.validated_data["balance"]))
        return Response(table_document())


class Picks(APIView):
    @extend_schema(operation_id="picks", responses=PicksSerializer)
    def get(self, request: Request) -> Response:
        return Response({"title_ids": list(Pick.objects.order_by("title_id").values_list("title_id", flat=True))})

    @extend_schema(operation_id="setPicked", request=PickChangeSerializer, responses=PicksSerializer)
    def post(self, request: Request) -> Response:
        wanted = PickChangeSerializer(data=request.data)
        wanted.is_valid(raise_exception=True)
        set_picked(wanted.validated_data["title_ids"], picked=wanted.validated_data["picked"])
        return self.get(request)


class Sheet(APIView):
    @extend_schema(operation_id="plan", responses=SheetSerializer)
    def get(self, request: Request, title_id: int, device_id: int) -> Response:
        return Response(sheet_document(*_cell_rows(title_id, device_id)))

    @extend_schema(operation_id="changePlan", request=SheetChangeSerializer, responses=SheetSerializer)
    def patch(self, request: Request, title_id: int, device_id: int) -> Response:
        wanted = SheetChangeSerializer(data=request.data)
        wanted.is_valid(raise_exception=True)
        title, device = _cell_rows(title_id, device_id)
        change = wanted.validated_data
        change_setting(title, device, change.get("balance"), change.get("pins", {}))
        return Response(sheet_document(title, device))


def _cell_rows(title_id: int, device_id: int) -> tuple[Title, Device]:
    title = get_object_or_404(Title.objects.select_related("source"), pk=title_id)
    return title, get_object_or_404(Device, pk=device_id)
