"""What the readers of binary tables share."""

from __future__ import annotations

from ..errors import TablesBroken


class broken_tables:
    """Turns whatever a damaged table throws at its reader into ``TablesBroken``."""

    def __init__(self, what: str) -> None:
        self.what = what

    def __enter__(self) -> None:
        return None

    def __exit__(self, kind: type[BaseException] | None, error: BaseException | None, trace: object) -> None:
        if error is not None and isinstance(error, Exception) and not isinstance(error, TablesBroken):
            raise TablesBroken("{name} can't be read.", name=f"{self.what[0].upper()}{self.what[1:]}") from error
