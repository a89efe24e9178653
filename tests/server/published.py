"""What ``docs/openapi.json`` promises of an answer."""

from __future__ import annotations

import json
import re
from functools import cache
from pathlib import Path

import jsonschema_rs

OPENAPI = json.loads((Path(__file__).parents[2] / "docs" / "openapi.json").read_text())


def check_answer(method: str, address: str, status: int, document: object) -> None:
    """Raises ``jsonschema_rs.ValidationError`` where a successful answer is not what is published."""
    plain = address.partition("?")[0]
    # a word comes before a place for any
    paths = sorted(OPENAPI["paths"], key=lambda path: path.count("{"))
    path = next((path for path in paths if re.fullmatch(_pattern(path), plain)), None)
    if path is not None and status < 300:
        _validator(path, method.lower(), str(status)).validate(document)


@cache
def _pattern(path: str) -> str:
    return re.sub(r"\{\w+\}", "[^/]+", path)


@cache
def _validator(path: str, method: str, status: str) -> jsonschema_rs.Validator:
    answer = OPENAPI["paths"][path][method]["responses"][status]
    schema = answer["content"]["application/json"]["schema"] if "content" in answer else {"type": "null"}
    return jsonschema_rs.validator_for({**schema, "components": OPENAPI["components"]})
