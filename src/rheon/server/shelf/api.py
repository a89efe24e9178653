"""The Shelf's addresses."""

from __future__ import annotations

from dataclasses import asdict

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from rheon.server.api.asked import asked
from rheon.server.api.fields import PageSerializer

from .actions.drives import eject_disc, insert_disc, read_disc
from .actions.film_folders import add_film_folder, proposed_folders
from .actions.looking import ask_to_look_over
from .actions.sources import add_source, find_again, read_again, remove_source, rename_source, request_stop
from .actions.surveys import ask_for_survey
from .actions.titles import cut_by_chapters, name_chapter, rename_title, set_angle, set_role
from .documents import (
    DiscSerializer,
    DriveSerializer,
    FilmFoldersSerializer,
    FolderSerializer,
    NewNameSerializer,
    NewSourceSerializer,
    PartsSerializer,
    SourceSerializer,
    TitleChangeSerializer,
    TitleSerializer,
)
from .drives import drives_document
from .folders import list_folder
from .models import FilmFolder, Source, Title
from .queries import film_folders_document, sources_document, sources_page, title_document

SOON = 10


class Sources(APIView):
    @extend_schema(operation_id="sources", parameters=[PageSerializer], responses=SourceSerializer(many=True))
    def get(self, request: Request) -> Response:
        """A page of sources; the next one begins behind the last of them, until none is left."""
        page = sources_page(asked(PageSerializer, request.query_params)["after"])
        headers = {"ETag": f'"{page.mark}"', "Cache-Control": "private, no-cache"}
        if request.headers.get("If-None-Match") == headers["ETag"]:
            return Response(status=304, headers=headers)
        return Response(sources_document(page), headers=headers)

    @extend_schema(operation_id="addSource", request=NewSourceSerializer, responses={202: None})
    def post(self, request: Request) -> Response:
        wanted = NewSourceSerializer(data=request.data)
        wanted.is_valid(raise_exception=True)
        add_source(wanted.validated_data["path"])
        return Response(status=202)


class FilmFolders(APIView):
    @extend_schema(operation_id="filmFolders", responses=FilmFoldersSerializer)
    def get(self, request: Request) -> Response:
        proposals = [asdict(proposal) for proposal in proposed_folders()]
        return Response({"folders": film_folders_document(), "proposals": proposals})

    @extend_schema(operation_id="addFilmFolder", request=NewSourceSerializer, responses={202: None})
    def post(self, request: Request) -> Response:
        add_film_folder(asked(NewSourceSerializer, request.data)["path"])
        return Response(status=202)


class OneFilmFolder(APIView):
    @extend_schema(operation_id="forgetFilmFolder", request=None, responses={204: None})
    def delete(self, request: Request, folder_id: int) -> Response:
        """Its sources stay on the Shelf."""
        get_object_or_404(FilmFolder, pk=folder_id).delete()
        return Response(status=204)


class LookOver(APIView):
    @extend_schema(operation_id="lookOver", request=None, responses={202: None})
    def post(self, request: Request) -> Response:
        ask_to_look_over()
        return Response(status=202)


class OneSource(APIView):
    @extend_schema(operation_id="renameSource", request=NewNameSerializer, responses={204: None})
    def patch(self, request: Request, source_id: int) -> Response:
        wanted = NewNameSerializer(data=request.data)
        wanted.is_valid(raise_exception=True)
        rename_source(get_object_or_404(Source, pk=source_id), wanted.validated_data["name"])
        return Response(status=204)

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


class FindAgain(APIView):
    @extend_schema(operation_id="findAgain", request=None, responses={202: None})
    def post(self, request: Request, source_id: int) -> Response:
        find_again(get_object_or_404(Source, pk=source_id))
        return Response(status=202)


class OneTitle(APIView):
    @extend_schema(operation_id="title", responses=TitleSerializer)
    def get(self, request: Request, title_id: int) -> Response:
        title = _title(title_id)
        if title.survey is None and not title.survey_failed:
            ask_for_survey(title, priority=SOON)
        return Response(title_document(title))

    @extend_schema(operation_id="changeTitle", request=TitleChangeSerializer, responses=TitleSerializer)
    def patch(self, request: Request, title_id: int) -> Response:
        wanted = TitleChangeSerializer(data=request.data)
        wanted.is_valid(raise_exception=True)
        title = _title(title_id)
        verbs = {"name": rename_title, "role": set_role, "angle": set_angle}
        for field, value in wanted.validated_data.items():
            verbs[field](title, value)
        return Response(title_document(title))


class OneChapter(APIView):
    @extend_schema(operation_id="nameChapter", request=NewNameSerializer, responses={204: None})
    def patch(self, request: Request, title_id: int, number: int) -> Response:
        wanted = NewNameSerializer(data=request.data)
        wanted.is_valid(raise_exception=True)
        name_chapter(_title(title_id), number, wanted.validated_data["name"])
        return Response(status=204)


class Parts(APIView):
    @extend_schema(operation_id="cutByChapters", request=PartsSerializer, responses={202: None})
    def put(self, request: Request, title_id: int) -> Response:
        wanted = PartsSerializer(data=request.data)
        wanted.is_valid(raise_exception=True)
        cut_by_chapters(_title(title_id), [(r["first"], r["last"]) for r in wanted.validated_data["ranges"]])
        return Response(status=202)


class Folders(APIView):
    @extend_schema(
        operation_id="folder",
        parameters=[OpenApiParameter("path", str, required=False)],
        responses=FolderSerializer,
    )
    def get(self, request: Request) -> Response:
        path, parent, entries = list_folder(request.query_params.get("path"))
        return Response({"path": path, "parent": parent, "entries": [asdict(entry) for entry in entries]})


class Drives(APIView):
    @extend_schema(operation_id="drives", responses=DriveSerializer(many=True))
    def get(self, request: Request) -> Response:
        return Response(drives_document())


class DriveTray(APIView):
    @extend_schema(operation_id="insertDisc", request=DiscSerializer, responses={204: None})
    def put(self, request: Request, number: int) -> Response:
        wanted = DiscSerializer(data=request.data)
        wanted.is_valid(raise_exception=True)
        insert_disc(number, wanted.validated_data["disc"])
        return Response(status=204)

    @extend_schema(operation_id="ejectDisc", request=None, responses={204: None})
    def delete(self, request: Request, number: int) -> Response:
        eject_disc(number)
        return Response(status=204)


class ReadDisc(APIView):
    @extend_schema(operation_id="readDisc", request=None, responses={202: None})
    def post(self, request: Request, number: int) -> Response:
        read_disc(number)
        return Response(status=202)


def _title(title_id: int) -> Title:
    return get_object_or_404(Title.objects.select_related("source"), pk=title_id)
