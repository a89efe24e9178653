"""The Outbox's documents and addresses."""

from __future__ import annotations

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from rheon.server.bench.documents import EstimateSerializer, RuleSerializer

from .actions.outputs import forget
from .models import Output
from .queries import outputs_document


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


class TheOutbox(APIView):
    @extend_schema(operation_id="outbox", responses=OutputSerializer(many=True))
    def get(self, request: Request) -> Response:
        return Response(outputs_document())


class OneOutput(APIView):
    @extend_schema(operation_id="forgetOutput", request=None, responses={204: None})
    def delete(self, request: Request, output_id: int) -> Response:
        forget(get_object_or_404(Output, pk=output_id))
        return Response(status=204)
