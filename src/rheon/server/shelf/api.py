"""The Shelf's documents and addresses."""

from __future__ import annotations

from dataclasses import asdict

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from django.views.decorators.http import require_GET
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from rheon.core.errors import RheonError
from rheon.server.api.schema import ROLES

from .actions.frames import FRAMES, frame_file
from .actions.sources import add_source, read_again, remove_source, request_stop
from .folders import list_folder
from .models import Source, SourceState, Title
from .queries import sources_document, title_document


class ShareSerializer(serializers.Serializer):
    title = serializers.IntegerField()
    from_s = serializers.FloatField()
    to_s = serializers.FloatField()


class TitleOutlineSerializer(serializers.Serializer):
    id = serializers.IntegerField()
    number = serializers.IntegerField()
    name = serializers.CharField()
    duration_s = serializers.FloatField()
    role = serializers.ChoiceField(choices=ROLES)
    size_bytes = serializers.IntegerField()
    chapters = serializers.ListField(child=serializers.FloatField())
    reason = serializers.CharField()
    shares = ShareSerializer(many=True)
    fault = serializers.CharField(allow_null=True)


class ProblemSerializer(serializers.Serializer):
    code = serializers.CharField()
    message = serializers.CharField()
    title = serializers.IntegerField(allow_null=True)


class SourceSerializer(serializers.Serializer):
    id = serializers.IntegerField()
    path = serializers.CharField()
    name = serializers.CharField()
    label = serializers.CharField()
    kind = serializers.CharField()
    form = serializers.CharField()
    size_bytes = serializers.IntegerField()
    state = serializers.ChoiceField(choices=SourceState)
    at_title = serializers.IntegerField()
    title_count = serializers.IntegerField()
    error_code = serializers.CharField()
    error_message = serializers.CharField()
    problems = ProblemSerializer(many=True)
    titles = TitleOutlineSerializer(many=True)


class FactSerializer(serializers.Serializer):
    topic = serializers.CharField()
    text = serializers.CharField()


class ChapterSerializer(serializers.Serializer):
    number = serializers.IntegerField()
    start_s = serializers.FloatField()
    name = serializers.CharField(allow_null=True)


class AudioSerializer(serializers.Serializer):
    index = serializers.IntegerField()
    language = serializers.CharField()
    form = serializers.CharField()
    purpose = serializers.CharField()


class SubtitleSerializer(serializers.Serializer):
    index = serializers.IntegerField()
    language = serializers.CharField()
    form = serializers.CharField()


class TitleSerializer(serializers.Serializer):
    id = serializers.IntegerField()
    source_id = serializers.IntegerField()
    source_name = serializers.CharField()
    number = serializers.IntegerField()
    name = serializers.CharField()
    duration_s = serializers.FloatField()
    size_bytes = serializers.IntegerField()
    role = serializers.ChoiceField(choices=ROLES)
    reasons = serializers.ListField(child=serializers.CharField())
    fault = serializers.CharField(allow_null=True)
    picture = FactSerializer(many=True)
    frames = serializers.IntegerField()
    chapters = ChapterSerializer(many=True)
    audio = AudioSerializer(many=True)
    subtitles = SubtitleSerializer(many=True)


class NewSourceSerializer(serializers.Serializer):
    path = serializers.CharField(max_length=4096, trim_whitespace=False)


class EntrySerializer(serializers.Serializer):
    name = serializers.CharField()
    path = serializers.CharField()
    kind = serializers.ChoiceField(choices=["folder", "disc", "image", "file"])
    size_bytes = serializers.IntegerField(allow_null=True)


class FolderSerializer(serializers.Serializer):
    path = serializers.CharField(allow_null=True)
    parent = serializers.CharField(allow_null=True)
    entries = EntrySerializer(many=True)


class Sources(APIView):
    @extend_schema(operation_id="sources", responses=SourceSerializer(many=True))
    def get(self, request: Request) -> Response:
        return Response(sources_document())

    @extend_schema(operation_id="addSource", request=NewSourceSerializer, responses={202: None})
    def post(self, request: Request) -> Response:
        wanted = NewSourceSerializer(data=request.data)
        wanted.is_valid(raise_exception=True)
        add_source(wanted.validated_data["path"])
        return Response(status=202)


class OneSource(APIView):
    @extend_schema(operation_id="removeSource", request=None, responses={204: None})
    def delete(self, request: Request, source_id: int) -> Response:
        remove_source(get_object_or_404(Source, pk=source_id))
        return Response(status=204)


class StopReading(APIView):
    @extend_schema(operation_id="stopReading", request=None, responses={202: None})
    def post(self, request: Request, source_id: int) -> Response:
        request_stop(get_object_or_404(Source, pk=source_id))
        return Response(status=202)


class ReadAgain(APIView):
    @extend_schema(operation_id="readAgain", request=None, responses={202: None})
    def post(self, request: Request, source_id: int) -> Response:
        read_again(get_object_or_404(Source, pk=source_id))
        return Response(status=202)


class OneTitle(APIView):
    @extend_schema(operation_id="title", responses=TitleSerializer)
    def get(self, request: Request, title_id: int) -> Response:
        return Response(title_document(get_object_or_404(Title.objects.select_related("source"), pk=title_id)))


class Folders(APIView):
    @extend_schema(
        operation_id="folder",
        parameters=[OpenApiParameter("path", str, required=False)],
        responses=FolderSerializer,
    )
    def get(self, request: Request) -> Response:
        path, parent, entries = list_folder(request.query_params.get("path"))
        return Response({"path": path, "parent": parent, "entries": [asdict(entry) for entry in entries]})


@require_GET
def frame(request: HttpRequest, title_id: int, number: int) -> HttpResponse:
    """One of a title's frames; an empty answer where none can be read, for which the page has its own picture."""
    title = get_object_or_404(Title.objects.select_related("source"), pk=title_id)
    if number >= FRAMES:
        return HttpResponse(status=404)
    try:
        path = frame_file(title, number)
    except RheonError as error:
        return HttpResponse(error.message, status=404, content_type="text/plain")
    return HttpResponse(
        path.read_bytes(), content_type="image/jpeg", headers={"Cache-Control": "private, max-age=3600"}
    )
