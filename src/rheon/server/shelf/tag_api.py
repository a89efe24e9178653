"""The addresses of what works are called."""

from __future__ import annotations

from rest_framework.request import Request
from rest_framework.views import APIView

from rheon.core.look_up.works import WorkQuestion
from rheon.server.api.operations import operation

from . import tag_documents as documents
from .actions.look_up import look_up
from .actions.tags import set_tags
from .tags import look_up_document, tags_document


class TitlesTags(APIView):
    @operation("tags")
    def get(self, request: Request, wanted: documents.TagsWanted) -> documents.Tags:
        return tags_document(wanted.titles)

    @operation("changeTags")
    def patch(self, request: Request, wanted: documents.TagChanges) -> documents.Tags:
        """Set tags by hand; the answer has the titles that were changed."""
        set_tags([(change.title_id, change.tag, change.value) for change in wanted.changes], wanted.work)
        return tags_document(list(dict.fromkeys(change.title_id for change in wanted.changes)))


class LookUps(APIView):
    @operation("lookUp")
    def post(self, request: Request, wanted: documents.LookUpWanted) -> documents.LookUp:
        """Ask the look-up service what it knows by a name, or what it has answered lately; nothing is set."""
        question = WorkQuestion(kind=wanted.kind, title=wanted.title, year=wanted.year, season=wanted.season)
        return look_up_document(look_up(question, again=wanted.again), question, wanted.titles)
