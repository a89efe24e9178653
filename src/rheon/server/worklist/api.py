"""The Worklist's documents and addresses."""

from __future__ import annotations

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from rheon.core.encoding import ProgressUnit
from rheon.server.api.fields import IdField
from rheon.server.household.models import Device
from rheon.server.shelf.models import Source, Title

from .actions.add import add_copy, add_jobs
from .actions.change import remove_job, request_stop, retry
from .models import Job, JobKind, JobState
from .queries import worklist_document

MOST_CELLS = 10_000
UNITS = [(unit.value, unit.value) for unit in ProgressUnit]


class JobSerializer(serializers.Serializer):
    id = serializers.IntegerField()
    title_id = serializers.IntegerField(allow_null=True)
    title_name = serializers.CharField()
    device_names = serializers.ListField(child=serializers.CharField())
    summary = serializers.CharField()
    state = serializers.ChoiceField(choices=JobState)
    stage = serializers.CharField()
    fraction = serializers.FloatField()
    kind = serializers.ChoiceField(choices=JobKind)
    unit = serializers.ChoiceField(choices=UNITS)
    done = serializers.FloatField()
    whole = serializers.FloatField()
    duration_s = serializers.FloatField()
    speed = serializers.FloatField()
    written_bytes = serializers.IntegerField()
    left_s = serializers.FloatField(allow_null=True)
    expected_bytes = serializers.IntegerField()
    expected_s = serializers.FloatField()
    expected_low_s = serializers.FloatField()
    expected_high_s = serializers.FloatField()
    made_in_s = serializers.FloatField(allow_null=True)
    error_message = serializers.CharField()
    may_accept_loss = serializers.BooleanField()
    started = serializers.CharField(allow_null=True)
    ended = serializers.CharField(allow_null=True)


class TotalSerializer(serializers.Serializer):
    count = serializers.IntegerField()
    fraction = serializers.FloatField()
    left_s = serializers.FloatField()
    left_low_s = serializers.FloatField()
    left_high_s = serializers.FloatField()


class WorklistSerializer(serializers.Serializer):
    jobs = JobSerializer(many=True)
    total = TotalSerializer()


class CellRefSerializer(serializers.Serializer):
    title_id = IdField()
    device_id = IdField()


class NewJobsSerializer(serializers.Serializer):
    cells = CellRefSerializer(many=True, allow_empty=False, max_length=MOST_CELLS)


class CopySerializer(serializers.Serializer):
    source_id = IdField()


class AddedSerializer(serializers.Serializer):
    job_ids = serializers.ListField(child=serializers.IntegerField())


class RetrySerializer(serializers.Serializer):
    """``accept_loss``: of a source whose end is missing, what is there is enough."""

    accept_loss = serializers.BooleanField(default=False)


class TheWorklist(APIView):
    @extend_schema(operation_id="worklist", responses=WorklistSerializer)
    def get(self, request: Request) -> Response:
        return Response(worklist_document())


class Jobs(APIView):
    @extend_schema(operation_id="addJobs", request=NewJobsSerializer, responses={201: AddedSerializer})
    def post(self, request: Request) -> Response:
        wanted = NewJobsSerializer(data=request.data)
        wanted.is_valid(raise_exception=True)
        cells = wanted.validated_data["cells"]
        titles = Title.objects.select_related("source").in_bulk([cell["title_id"] for cell in cells])
        devices = Device.objects.in_bulk([cell["device_id"] for cell in cells])
        known = [
            (titles[cell["title_id"]], devices[cell["device_id"]])
            for cell in cells
            if cell["title_id"] in titles and cell["device_id"] in devices
        ]
        return Response({"job_ids": [job.pk for job in add_jobs(known)]}, status=201)


class Copies(APIView):
    @extend_schema(operation_id="copyDisc", request=CopySerializer, responses={201: AddedSerializer})
    def post(self, request: Request) -> Response:
        wanted = CopySerializer(data=request.data)
        wanted.is_valid(raise_exception=True)
        job = add_copy(get_object_or_404(Source, pk=wanted.validated_data["source_id"]))
        return Response({"job_ids": [job.pk]}, status=201)


class OneJob(APIView):
    @extend_schema(operation_id="removeJob", request=None, responses={204: None})
    def delete(self, request: Request, job_id: int) -> Response:
        remove_job(get_object_or_404(Job, pk=job_id))
        return Response(status=204)


class Stop(APIView):
    @extend_schema(operation_id="stopJob", request=None, responses={202: None})
    def post(self, request: Request, job_id: int) -> Response:
        request_stop(get_object_or_404(Job, pk=job_id))
        return Response(status=202)


class Retry(APIView):
    @extend_schema(operation_id="retryJob", parameters=[RetrySerializer], request=None, responses={202: None})
    def post(self, request: Request, job_id: int) -> Response:
        wanted = RetrySerializer(data=request.query_params)
        wanted.is_valid(raise_exception=True)
        retry(get_object_or_404(Job, pk=job_id), accept_loss=wanted.validated_data["accept_loss"])
        return Response(status=202)
