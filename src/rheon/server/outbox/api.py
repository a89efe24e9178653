"""The Outbox's documents and addresses."""

from __future__ import annotations

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from rheon.core.devices import Trouble
from rheon.server.api.asked import asked
from rheon.server.api.fields import IdField, PageSerializer
from rheon.server.api.schema import TROUBLES
from rheon.server.bench.documents import EstimateSerializer, RuleSerializer
from rheon.server.household.models import Column, Device

from .actions.outputs import forget, report
from .models import Output
from .queries import output_document, outputs_document


class CheckSerializer(serializers.Serializer):
    device_name = serializers.CharField()
    kept = serializers.IntegerField()
    rules = RuleSerializer(many=True)


class PlayedOnSerializer(serializers.Serializer):
    """A device the file is for; ``reported`` says that somebody told how it did there."""

    device_id = serializers.IntegerField()
    device_name = serializers.CharField()
    reported = serializers.BooleanField()
    trouble = serializers.ChoiceField(choices=TROUBLES, allow_null=True)


class ReportSerializer(serializers.Serializer):
    """How a file did on a device: it played, or what the trouble was."""

    device_id = IdField()
    trouble = serializers.ChoiceField(choices=TROUBLES, allow_null=True)


class OutputSerializer(serializers.Serializer):
    id = serializers.IntegerField()
    job_id = serializers.IntegerField(allow_null=True)
    title_id = serializers.IntegerField(allow_null=True)
    title_name = serializers.CharField()
    device_names = serializers.ListField(child=serializers.CharField())
    summary = serializers.CharField()
    file_name = serializers.CharField()
    folder = serializers.CharField()
    present = serializers.BooleanField()
    is_folder = serializers.BooleanField()
    media_type = serializers.CharField(allow_null=True)
    size_bytes = serializers.IntegerField()
    making_s = serializers.FloatField()
    checking_s = serializers.FloatField()
    expected = EstimateSerializer()
    checks = CheckSerializer(many=True)
    played_on = PlayedOnSerializer(many=True)
    made = serializers.CharField()


class OutlineSerializer(serializers.Serializer):
    id = serializers.IntegerField()
    title_id = serializers.IntegerField(allow_null=True)
    title_name = serializers.CharField()
    device_names = serializers.ListField(child=serializers.CharField())
    size_bytes = serializers.IntegerField()
    making_s = serializers.FloatField()
    checking_s = serializers.FloatField()
    held = serializers.BooleanField()
    present = serializers.BooleanField()


class OutboxSerializer(serializers.Serializer):
    """How many there are in all, and one page of them."""

    count = serializers.IntegerField()
    size_bytes = serializers.IntegerField()
    outputs = OutlineSerializer(many=True)


class TheOutbox(APIView):
    @extend_schema(operation_id="outbox", parameters=[PageSerializer], responses=OutboxSerializer)
    def get(self, request: Request) -> Response:
        return Response(outputs_document(asked(PageSerializer, request.query_params)["after"]))


class OneOutput(APIView):
    @extend_schema(operation_id="output", responses=OutputSerializer)
    def get(self, request: Request, output_id: int) -> Response:
        return Response(output_document(get_object_or_404(Output, pk=output_id)))

    @extend_schema(operation_id="forgetOutput", request=None, responses={204: None})
    def delete(self, request: Request, output_id: int) -> Response:
        forget(get_object_or_404(Output, pk=output_id))
        return Response(status=204)


class Reports(APIView):
    @extend_schema(operation_id="reportPlayed", request=ReportSerializer, responses=OutputSerializer)
    def post(self, request: Request, output_id: int) -> Response:
        output = get_object_or_404(Output, pk=output_id)
        said = asked(ReportSerializer, request.data)
        device = get_object_or_404(Device, pk=said["device_id"], column=Column.DEVICE)
        trouble = Trouble(said["trouble"]) if said["trouble"] else None
        return Response(output_document(report(output, device, trouble)))
