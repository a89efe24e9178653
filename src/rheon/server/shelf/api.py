"""The Shelf's addresses."""

from __future__ import annotations

from django.shortcuts import get_object_or_404
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from rheon.core.chapters import plain
from rheon.server.api.documents import PageWanted
from rheon.server.api.operations import operation

from . import documents, proposals, queries
from .actions import artwork, chapters, drives, film_folders, joins, levels, looking, sources, surveys, titles
from .drives import drives_document
from .models import FilmFolder, Source, Title

SOON = 10


class Sources(APIView):
    @operation("sources")
    def get(self, request: Request, wanted: PageWanted) -> list[documents.Source] | Response:
        """A page of sources; the next one begins behind the last of them, until none is left."""
        page = queries.sources_page(wanted.after)
        headers = {"ETag": f'"{page.mark}"', "Cache-Control": "private, no-cache"}
        if request.headers.get("If-None-Match") == headers["ETag"]:
            return Response(status=304, headers=headers)
        return Response(queries.sources_document(page), headers=headers)

    @operation("addSource", status=202)
    def post(self, request: Request, wanted: documents.NewSource) -> None:
        sources.add_source(wanted.path)


class FilmFolders(APIView):
    @operation("filmFolders")
    def get(self, request: Request) -> documents.FilmFolders:
        return queries.film_folders_document()

    @operation("addFilmFolder", status=202)
    def post(self, request: Request, wanted: documents.NewSource) -> None:
        film_folders.add_film_folder(wanted.path)


class OneFilmFolder(APIView):
    @operation("forgetFilmFolder")
    def delete(self, request: Request, folder_id: int) -> None:
        """Its sources stay on the Shelf."""
        get_object_or_404(FilmFolder, pk=folder_id).delete()


class LookOver(APIView):
    @operation("lookOver", status=202)
    def post(self, request: Request) -> None:
        looking.ask_to_look_over()


class OneSource(APIView):
    @operation("renameSource")
    def patch(self, request: Request, source_id: int, wanted: documents.NewName) -> None:
        sources.rename_source(_source(source_id), wanted.name)

    @operation("removeSource")
    def delete(self, request: Request, source_id: int) -> None:
        sources.remove_source(_source(source_id))


class StopReading(APIView):
    @operation("stopReading", status=202)
    def post(self, request: Request, source_id: int) -> None:
        sources.request_stop(_source(source_id))


class ReadAgain(APIView):
    @operation("readAgain", status=202)
    def post(self, request: Request, source_id: int) -> None:
        sources.read_again(_source(source_id))


class FindAgain(APIView):
    @operation("findAgain", status=202)
    def post(self, request: Request, source_id: int) -> None:
        sources.find_again(_source(source_id))


class OneTitle(APIView):
    @operation("title")
    def get(self, request: Request, title_id: int) -> documents.Title:
        title = _title(title_id)
        if title.survey is None and not title.survey_failed:
            surveys.ask_for_survey(title, priority=SOON)
        return queries.title_document(title)

    @operation("changeTitle")
    def patch(self, request: Request, title_id: int, wanted: documents.TitleChange) -> documents.Title:
        title, named = _title(title_id), wanted.model_fields_set
        if "name" in named:
            titles.rename_title(title, wanted.name)
        if "role" in named:
            titles.set_role(title, wanted.role)
        if "angle" in named:
            titles.set_angle(title, wanted.angle)
        return queries.title_document(title)


class Proposals(APIView):
    @operation("proposals")
    def get(self, request: Request, title_id: int) -> documents.CutProposals:
        """What of a title could be left out. Both its ends are looked at the first time, which takes a few seconds;
        openings and credits are looked for in the background, and ``looking`` says so.
        """
        return proposals.proposals_document(_title(title_id))


class Levels(APIView):
    @operation("levels")
    def get(self, request: Request, title_id: int) -> documents.Levels:
        """How loud a title is along its time; listened to in the background when it is first asked for."""
        found, looking = levels.sound_levels(_title(title_id))
        return documents.Levels(levels=found, looking=looking)


class NextScene(APIView):
    @operation("nextScene")
    def get(self, request: Request, title_id: int, wanted: documents.SceneWanted) -> documents.Scene:
        """The change of scene after a moment, or before it. Up to a minute of the title is looked through for it."""
        return documents.Scene(at_s=levels.scene_near(_title(title_id), wanted.at_s, before=wanted.before))


class OneChapter(APIView):
    @operation("nameChapter")
    def patch(self, request: Request, title_id: int, number: int, wanted: documents.NewName) -> None:
        chapters.name_chapter(_title(title_id), number, wanted.name)


class Chapters(APIView):
    @operation("setChapters")
    def put(self, request: Request, title_id: int, wanted: documents.Chapters) -> documents.Title:
        title, alike = _title(title_id), _titles(wanted.alike)
        said = wanted.chapters
        made = None if said is None else plain([(one.start_s, one.name) for one in said])
        chapters.set_chapters(title, made, alike)
        return queries.title_document(title)

    @operation("readChapters", status=200)
    def post(self, request: Request, title_id: int, wanted: documents.ChapterList) -> documents.ProposedChapters:
        """What a list or a pattern would make of a title's chapters. Nothing is changed."""
        title = _title(title_id)
        made = (
            chapters.chapters_by_pattern(title, wanted.pattern)
            if wanted.pattern
            else chapters.chapters_of_list(title, wanted.text)
        )
        return queries.proposed_chapters(made)


class EvenChapters(APIView):
    @operation("evenChapters")
    def get(self, request: Request, title_id: int, wanted: documents.ChapterLength) -> documents.ProposedChapters:
        """Chapters at even distances, moved onto changes of scene, which are looked for in the background."""
        return queries.proposed_chapters(chapters.made_chapters(_title(title_id), wanted.every_s))


class Artwork(APIView):
    @operation("artwork")
    def get(self, request: Request, title_id: int) -> documents.Artwork:
        """What a title's files are known by; its best frames are looked for when it is first asked for."""
        return queries.artwork_document(_title(title_id))

    @operation("setArtwork")
    def put(self, request: Request, title_id: int, wanted: documents.ArtworkChange) -> documents.Artwork:
        title, alike = _title(title_id), _titles(wanted.alike)
        cover = None if wanted.cover is None else queries.cover_of(title, wanted.cover)
        artwork.set_cover(title, cover, alike)
        return queries.artwork_document(title)


class Pictures(APIView):
    @operation("keepPicture", status=201)
    def post(self, request: Request, wanted: documents.NewPicture) -> documents.KeptPicture:
        """Bring a picture, for any title."""
        return documents.KeptPicture(picture=artwork.keep_picture(wanted.data))


class Parts(APIView):
    @operation("cutByChapters", status=202)
    def put(self, request: Request, title_id: int, wanted: documents.Parts) -> None:
        titles.cut_by_chapters(_title(title_id), [(part.first, part.last) for part in wanted.ranges])


class Joins(APIView):
    @operation("joinTitles", status=201)
    def post(self, request: Request, wanted: documents.Join) -> documents.Joined:
        """Several titles as one, one after the other."""
        return documents.Joined(id=joins.join(_titles(wanted.titles), wanted.name).pk)


class OneJoin(APIView):
    @operation("reorderJoin")
    def put(self, request: Request, title_id: int, wanted: documents.Join) -> None:
        joins.reorder(_title(title_id), _titles(wanted.titles))

    @operation("takeApart")
    def delete(self, request: Request, title_id: int) -> None:
        joins.take_apart(_title(title_id))


class Folders(APIView):
    @operation("folder")
    def get(self, request: Request, wanted: documents.FolderWanted) -> documents.Folder:
        return queries.folder_document(wanted.path)


class Drives(APIView):
    @operation("drives")
    def get(self, request: Request) -> list[documents.Drive]:
        return drives_document()


class DriveTray(APIView):
    @operation("insertDisc")
    def put(self, request: Request, number: int, wanted: documents.Disc) -> None:
        drives.insert_disc(number, wanted.disc)

    @operation("ejectDisc")
    def delete(self, request: Request, number: int) -> None:
        drives.eject_disc(number)


class ReadDisc(APIView):
    @operation("readDisc", status=202)
    def post(self, request: Request, number: int) -> None:
        drives.read_disc(number)


def _source(source_id: int) -> Source:
    return get_object_or_404(Source, pk=source_id)


def _titles(ids: list[int]) -> list[Title]:
    return [_title(title_id) for title_id in ids]


def _title(title_id: int) -> Title:
    return get_object_or_404(Title.objects.select_related("source"), pk=title_id)
