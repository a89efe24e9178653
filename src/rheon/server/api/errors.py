"""Errors as answers: each with a code, a sentence and what to do. The one place that knows HTTP status."""

from __future__ import annotations

import logging
import sys
from typing import Any

from django.conf import settings
from django.core.exceptions import PermissionDenied
from django.db import OperationalError
from django.http import Http404, HttpRequest, JsonResponse
from rest_framework.exceptions import APIException, ValidationError
from rest_framework.response import Response

from rheon.core.catalogue import later, say
from rheon.core.errors import (
    LookUpFailed,
    OutsideFolders,
    PassphraseRefused,
    PlanError,
    RheonError,
    SourceError,
    SourceMissing,
    TargetError,
    TooManyTries,
)
from rheon.core.system import place_of

log = logging.getLogger("rheon")
STATUS: tuple[tuple[type[RheonError], int], ...] = (
    (OutsideFolders, 403),
    (SourceMissing, 404),
    (SourceError, 422),
    (PlanError, 422),
    (TargetError, 409),
    (PassphraseRefused, 403),
    (TooManyTries, 429),
    (LookUpFailed, 502),
)

FULL = later(
    "The disk that holds Rheon's own data is full. Free some space and try again; what was stored is not lost."
)
BUSY = later("Rheon is writing a lot just now. Try again in a moment.")
FAILING = later("The disk that holds Rheon's own data reports an error. Look after it first; 'rheon doctor' says more.")
LEAST_ROOM_BYTES = 1 << 20
DATABASE = {
    "disk is full": ("state_full", FULL, 507),
    "is locked": ("busy", BUSY, 503),
    "disk I/O error": ("state_failing", FAILING, 503),
}
"""What a database that refuses means, by a word of what it says."""


def handle(error: Exception, context: dict[str, Any]) -> Response:
    """Turn whatever a view raised into ``{code, message}``; what nobody foresaw is logged and stays out of sight."""
    if isinstance(error, RheonError):
        status = next((status for kind, status in STATUS if isinstance(error, kind)), 400)
        return _answer(error.code, error.message, status)
    if isinstance(error, Http404):
        return _answer("not_found", say("This is not there any more. Go back and look at the list again."), 404)
    if isinstance(error, PermissionDenied):
        return _answer("refused", say("This page is out of date. Load it again."), 403)
    if isinstance(error, ValidationError):
        return _answer("bad_request", " ".join(map(str, error.detail)), 400)
    if isinstance(error, APIException):
        return _answer(error.default_code, str(error.detail), error.status_code)
    return _answer(*_unforeseen(error))


def server_error(request: HttpRequest) -> JsonResponse:
    """What Django answers to an exception outside of the API's views, in a middleware or where pictures are given."""
    code, message, status = _unforeseen(sys.exc_info()[1])
    return JsonResponse({"code": code, "message": message}, status=status)


def _unforeseen(error: BaseException | None) -> tuple[str, str, int]:
    refused = next((answer for word, answer in DATABASE.items() if word in str(error)), None)
    if isinstance(error, OperationalError) and refused is not None:
        log.error("the database refused: %s", error)
        # where there is no room for the index of its journal, it only says that something failed
        room = place_of(settings.STATE)
        full = room is not None and room.free_bytes < LEAST_ROOM_BYTES
        code, message, status = DATABASE["disk is full"] if full else refused
        return code, say(message), status
    log.error("unforeseen error", exc_info=error)
    return "unforeseen", say("Something went wrong in the server. Try again; the log says more."), 500


def _answer(code: str, message: str, status: int) -> Response:
    return Response({"code": code, "message": message}, status=status)
