"""What documents are made of. Each is one class; the OpenAPI document and the page's types are made of it.

Values of the core stand in documents as they are: enumerations by their value, frozen dataclasses field by field.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, TypeVar, get_origin

from django.http import QueryDict
from pydantic import AfterValidator, BaseModel, ConfigDict, Field, StringConstraints, ValidationError
from pydantic_core import ErrorDetails
from rest_framework import exceptions

from rheon.core.catalogue import say

MOST_ID = 2**53 - 1
"""The largest whole number that a browser holds exactly."""


class Document(BaseModel):
    """What an answer holds. Made by keyword, so that a value of another type is found where it is made."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


class Wanted(BaseModel):
    """What a call asks for. What nobody knows is left aside; ``model_fields_set`` has what was named."""

    model_config = ConfigDict(frozen=True, allow_inf_nan=False)


class Body(Wanted):
    """What a call brings."""


class Query(Wanted):
    """What a call asks in its address, behind the question mark."""


def _without_zero(text: str) -> str:
    if "\0" in text:
        raise ValueError("a zero byte is no text")
    return text


Text = Annotated[str, AfterValidator(_without_zero)]
"""Text as it is, spaces and all."""
Line = Annotated[Text, StringConstraints(strip_whitespace=True)]
"""A line that somebody typed, without the space around it."""
RowId = Annotated[int, Field(ge=0, le=MOST_ID)]
"""The number of a row."""


class PageWanted(Query):
    """Which page of a list: the one behind the row ``after``."""

    after: RowId = 0


Kind = TypeVar("Kind", bound=Wanted)


def read_body(kind: type[Kind], data: object) -> Kind:
    """Raises DRF's ``ValidationError`` with a sentence for each bad field."""
    try:
        return kind.model_validate(data)
    except ValidationError as error:
        raise exceptions.ValidationError([_sentence(fault) for fault in error.errors()]) from error


def read_query(kind: type[Kind], asked: QueryDict) -> Kind:
    """Fields that are lists take every value, others the last. Raises DRF's ``ValidationError``."""
    many = {name for name, field in kind.model_fields.items() if get_origin(field.annotation) is list}
    said = {name: asked.getlist(name) if name in many else asked[name] for name in kind.model_fields if name in asked}
    return read_body(kind, said)


SENTENCES: Mapping[str, str] = {
    "missing": "This field is required.",
    "string_type": "This is no text.",
    "string_unicode": "This is no text.",
    "string_too_short": "This may not be empty.",
    "string_too_long": "No more than {max_length} characters.",
    "too_long": "No more than {max_length}.",
    "too_short": "At least {min_length}.",
    "bool_parsing": "Say true or false.",
    "bool_type": "Say true or false.",
    "int_parsing": "This is no whole number.",
    "int_type": "This is no whole number.",
    "int_from_float": "This is no whole number.",
    "int_parsing_size": "This number is too large.",
    "float_parsing": "This is no number.",
    "float_type": "This is no number.",
    "greater_than_equal": "No less than {ge}.",
    "less_than_equal": "No more than {le}.",
    "enum": "Say {expected}.",
    "literal_error": "Say {expected}.",
    "list_type": "This is no list.",
    "dict_type": "This is no document.",
    "model_type": "This is no document.",
    "model_attributes_type": "This is no document.",
}
"""By pydantic's kinds of errors; what is not here says what its validator says."""


def _sentence(fault: ErrorDetails) -> str:
    where = ".".join(str(part) for part in fault["loc"] if part != "[key]")
    text = fault["msg"].removeprefix("Value error, ").rstrip(".")
    known = SENTENCES.get(fault["type"])
    said = say(known, **fault.get("ctx", {})) if known else f"{text[:1].upper()}{text[1:]}."
    return f"{where}: {said}" if where else said
