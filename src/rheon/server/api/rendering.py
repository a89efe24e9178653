"""Documents as JSON."""

from __future__ import annotations

from typing import Any

from pydantic_core import to_json
from rest_framework.renderers import JSONRenderer


class DocumentRenderer(JSONRenderer):
    """Written by pydantic, in one go. Text that is none (lone surrogates) stands in no document: see ``path_text``."""

    def render(self, data: Any, accepted_media_type: str | None = None, renderer_context: Any = None) -> bytes:
        return b"" if data is None else to_json(data)
