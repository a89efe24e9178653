"""Addresses of the API: what one takes and gives is read from its annotations, for the call and for the document."""

from __future__ import annotations

from collections.abc import Callable
from functools import wraps
from types import NoneType
from typing import Any, get_args, get_type_hints

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from .documents import Body, Query, read_body, read_query
from .schema import declared, parameters

Method = Callable[..., object]


def operation(name: str, *, status: int | None = None) -> Callable[[Method], Method]:
    """Make a method of a view an operation with this id.

    A parameter that is a ``Body`` or ``Query`` gets what the call brings, checked. What the method gives back is the
    answer: a ``Document``, a list of them, or ``None``; a ``Response`` is passed on as it is. ``status`` is 200, and
    204 where there is no answer, unless said.
    """

    def made(method: Method) -> Method:
        hints = get_type_hints(method)
        answer = _answer(hints.pop("return"))
        bodies = {key: kind for key, kind in hints.items() if isinstance(kind, type) and issubclass(kind, Body)}
        queries = {key: kind for key, kind in hints.items() if isinstance(kind, type) and issubclass(kind, Query)}
        usual = 204 if answer is NoneType else 200

        @wraps(method)
        def call(view: object, request: Request, **place: Any) -> Response:
            taken: dict[str, Any] = {key: read_body(kind, request.data) for key, kind in bodies.items()}
            taken |= {key: read_query(kind, request.query_params) for key, kind in queries.items()}
            given = method(view, request, **place, **taken)
            return given if isinstance(given, Response) else Response(given, status=status or usual)

        described = extend_schema(
            operation_id=name,
            request={"application/json": declared(*bodies.values())} if bodies else None,
            parameters=[one for kind in queries.values() for one in parameters(kind)],
            responses={status or usual: None if answer is NoneType else declared(answer)},
        )
        return described(call)

    return made


def _answer(hint: Any) -> Any:
    """The document that a method gives, ``None`` for none: a ``Response`` beside it is one that was made by hand."""
    return next(kind for kind in get_args(hint) if kind is not Response) if Response in get_args(hint) else hint
