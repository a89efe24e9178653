"""Reading the JSON that a call brings, however it is built."""

from __future__ import annotations

from typing import IO, Any

from rest_framework.exceptions import ParseError
from rest_framework.parsers import JSONParser


class BoundedJson(JSONParser):
    """JSON, refused where it is nested deeper than anything that is ever meant."""

    def parse(self, stream: IO[bytes], media_type: str | None = None, parser_context: Any = None) -> Any:
        try:
            return super().parse(stream, media_type, parser_context)
        except RecursionError as error:
            raise ParseError("This is nested too deeply.") from error
        except UnicodeError as error:
            raise ParseError("This is no text in UTF-8.") from error
