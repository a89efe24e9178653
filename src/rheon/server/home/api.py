"""The addresses of the installation itself: its settings, being let in, and whether it is well."""

from __future__ import annotations

from importlib.metadata import version

from django.db import connection
from rest_framework.request import Request
from rest_framework.views import APIView

from rheon.server.api.operations import operation

from . import documents
from .actions.hardware import look_again, prefer_speed
from .actions.naming import change_naming, choose_preset
from .actions.passphrase import end_sessions, is_signed_in, sign_in, sign_out
from .actions.row import change_home
from .actions.setting_up import choose_output, mark_set_up
from .hardware import hardware_document
from .naming import naming_document
from .queries import home_document, is_locked, look_up_choice


class TheHome(APIView):
    @operation("home")
    def get(self, request: Request) -> documents.Home:
        return home_document(request.session.session_key)

    @operation("changeHome")
    def patch(self, request: Request, wanted: documents.HomeChange) -> documents.Home:
        if wanted.output:
            choose_output(wanted.output)
        if wanted.set_up:
            mark_set_up()
        return home_document(request.session.session_key)


class TheHardware(APIView):
    @operation("hardware")
    def get(self, request: Request) -> documents.Hardware:
        return hardware_document()

    @operation("changeHardware")
    def patch(self, request: Request, wanted: documents.HardwareChange) -> documents.Hardware:
        if wanted.prefers_speed is not None:
            prefer_speed(preferred=wanted.prefers_speed)
        if wanted.again:
            look_again()
        return hardware_document()


class TheNaming(APIView):
    @operation("naming")
    def get(self, request: Request) -> documents.Naming:
        return naming_document()

    @operation("changeNaming")
    def patch(self, request: Request, wanted: documents.NamingChange) -> documents.Naming:
        patterns = {kind.value: text for kind, text in wanted.patterns.items()}
        if wanted.only_try:
            return naming_document(patterns)
        if wanted.preset is not None:
            choose_preset(wanted.preset)
        if patterns:
            change_naming(patterns)
        return naming_document()


class TheLookUp(APIView):
    @operation("lookUpChoice")
    def get(self, request: Request) -> documents.LookUpChoice:
        return look_up_choice()

    @operation("changeLookUp")
    def patch(self, request: Request, wanted: documents.LookUpChange) -> documents.LookUpChoice:
        change_home(looks_up=wanted.allowed)
        return look_up_choice()


class TheSession(APIView):
    @operation("session")
    def get(self, request: Request) -> documents.Session:
        return documents.Session(has_passphrase=is_locked(), signed_in=is_signed_in(request.session))

    @operation("signIn")
    def post(self, request: Request, wanted: documents.Passphrase) -> None:
        sign_in(request.session, wanted.passphrase, request.META.get("REMOTE_ADDR", ""))

    @operation("signOut")
    def delete(self, request: Request) -> None:
        sign_out(request.session)


class OtherSessions(APIView):
    @operation("signOutOthers")
    def delete(self, request: Request) -> None:
        end_sessions(but=request.session.session_key)


class Health(APIView):
    """For whoever watches over the server: it answers, and its database does."""

    @operation("health")
    def get(self, request: Request) -> documents.Health:
        with connection.cursor() as cursor:
            cursor.execute("SELECT count(*) FROM django_migrations")
        return documents.Health(healthy=True, version=version("rheon"))
