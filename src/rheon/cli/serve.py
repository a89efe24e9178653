"""``rheon serve``: the page and the workers, started and kept as one thing."""

from __future__ import annotations

from rheon.core.errors import NeedsPassphrase
from rheon.server.care.database import has_passphrase
from rheon.server.keeper import serve as keep_serving
from rheon.settings import Settings

from .installation import loaded, told, with_flags
from .output import console


@with_flags
def serve(flags: dict[str, object]) -> None:
    """Start Rheon: its page and its workers. Ctrl-C ends everything that it started."""
    with told():
        found = loaded(flags)
        settings = found.settings
        if not settings.is_local and not has_passphrase(settings.state):
            raise NeedsPassphrase("Others could open this page, and there is no passphrase yet.")
        keep_serving(found, on_answer=lambda: _greet(settings))


def _greet(settings: Settings) -> None:
    host = f"[{settings.listen}]" if ":" in settings.listen else settings.listen
    console().print(
        f"\n  Rheon is at http://{host}:{settings.port}{settings.prefix}   (Ctrl-C ends it)\n", highlight=False
    )
