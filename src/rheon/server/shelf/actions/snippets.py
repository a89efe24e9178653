"""Playable snippets of titles, made when asked for and kept for a while."""

from __future__ import annotations

import tempfile
import threading
from pathlib import Path

from rheon.core.analysis import SnippetRequest, make_snippet
from rheon.core.errors import NoSuchTitle

from ..models import Title
from .cache import cached, material_mark

STEP_S = 0.5
_at_once = threading.Semaphore(2)


def snippet_file(title: Title, from_s: float, audio: int | None, subtitle: int | None) -> Path:
    """A few seconds as MP4. Raises ``NoSuchTitle`` (no such track), ``EngineError`` or ``SourceError``."""
    core = title.readable_title()
    for track, tracks in ((audio, core.audio), (subtitle, core.subtitles)):
        if track is not None and not 0 <= track < len(tracks):
            raise NoSuchTitle("This title has no such track.", advice="Choose one of those listed.")
    start_s = round(min(max(0.0, from_s), max(0.0, core.duration_s - 1)) / STEP_S) * STEP_S

    def make(target: Path) -> None:
        with _at_once, tempfile.TemporaryDirectory(prefix="rheon-") as work:
            request = SnippetRequest(title=core, from_s=start_s, audio=audio, subtitle=subtitle)
            make_snippet(request, target, Path(work))

    name = f"{material_mark(title)}-{round(start_s * 1000)}-{audio}-{subtitle}.mp4"
    return cached("snippets", name, make)
