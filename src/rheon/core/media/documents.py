"""Values as JSON documents and back, for storing."""

from __future__ import annotations

from typing import Any, TypeVar

from pydantic import TypeAdapter

T = TypeVar("T")
_adapters: dict[type, TypeAdapter[Any]] = {}


def _adapter(kind: type) -> TypeAdapter[Any]:
    if kind not in _adapters:
        _adapters[kind] = TypeAdapter(kind)
    return _adapters[kind]


def dump(value: object) -> dict[str, Any]:
    """The value as JSON-ready data: fractions as text, enumerations as their values."""
    document: dict[str, Any] = _adapter(type(value)).dump_python(value, mode="json")
    return document


def load(kind: type[T], document: object) -> T:
    """The value that ``dump`` wrote. Raises ``pydantic.ValidationError`` where the document is none."""
    value: T = _adapter(kind).validate_python(document)
    return value
