"""The addresses of the installation itself: its settings, being let in, and whether it is well."""

from __future__ import annotations

from importlib.metadata import version

from django.db import connection
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from rheon.server.api.asked import asked

from .actions.passphrase import end_sessions, is_signed_in, sign_in, sign_out
from .actions.setting_up import choose_output, mark_set_up
from .documents import (
    HealthSerializer,
    HomeChangeSerializer,
    HomeSerializer,
    PassphraseSerializer,
    SessionSerializer,
    home_document,
)
from .queries import is_locked


class TheHome(APIView):
    @extend_schema(operation_id="home", responses=HomeSerializer)
    def get(self, request: Request) -> Response:
        return Response(home_document(request.session.session_key))

    @extend_schema(operation_id="changeHome", request=HomeChangeSerializer, responses=HomeSerializer)
    def patch(self, request: Request) -> Response:
        wanted = asked(HomeChangeSerializer, request.data)
        if "output" in wanted:
            choose_output(wanted["output"])
        if wanted.get("set_up"):
            mark_set_up()
        return Response(home_document(request.session.session_key))


class TheSession(APIView):
    @extend_schema(operation_id="session", responses=SessionSerializer)
    def get(self, request: Request) -> Response:
        return Response({"has_passphrase": is_locked(), "signed_in": is_signed_in(request.session)})

    @extend_schema(operation_id="signIn", request=PassphraseSerializer, responses={204: None})
    def post(self, request: Request) -> Response:
        said = asked(PassphraseSerializer, request.data)["passphrase"]
        sign_in(request.session, said, request.META.get("REMOTE_ADDR", ""))
        return Response(status=204)

    @extend_schema(operation_id="signOut", request=None, responses={204: None})
    def delete(self, request: Request) -> Response:
        sign_out(request.session)
        return Response(status=204)


class OtherSessions(APIView):
    @extend_schema(operation_id="signOutOthers", request=None, responses={204: None})
    def delete(self, request: Request) -> Response:
        end_sessions(but=request.session.session_key)
        return Response(status=204)


class Health(APIView):
    """For whoever watches over the server: it answers, and its database does."""

    @extend_schema(operation_id="health", responses=HealthSerializer)
    def get(self, request: Request) -> Response:
        with connection.cursor() as cursor:
            cursor.execute("SELECT count(*) FROM django_migrations")
        return Response({"healthy": True, "version": version("rheon")})
