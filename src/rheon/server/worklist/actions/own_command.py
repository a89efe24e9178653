"""Carrying out a command that the settings name; what goes wrong with it is told on the Worklist."""

from __future__ import annotations

import logging
from collections.abc import Sequence

from rheon.core.engine import Command, run
from rheon.core.errors import RheonError

from ..pace import set_pace

log = logging.getLogger("rheon")
TIMEOUT_S = 60.0


def carry_out(argv: Sequence[str], about: str, said: bytes = b"") -> None:
    """``said`` is what it gets on its standard input; a fault is told as what it is ``about``."""
    try:
        run(Command(argv=argv, feed=lambda: iter([said]), timeout_s=TIMEOUT_S))
    except RheonError as error:
        log.warning("%s: %s", about, error.what)
        set_pace(end_failed=f"{about}: {error.what}")
