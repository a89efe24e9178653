"""The Outbox's documents and addresses."""

from __future__ import annotations

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from rheon.server.api.asked import asked
from rheon.server.api.fields import PageSerializer
from rheon.server.bench.documents import EstimateSerializer, RuleSerializer

from .actions.outputs import forget
from .models import Output
from .queries import output_document, outputs_document


class CheckSerializer(serializers.Serializer):
    device_name = serializers.CharField()
    kept = serializers.IntegerField()
    rules = RuleSerializer(many=True)


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
