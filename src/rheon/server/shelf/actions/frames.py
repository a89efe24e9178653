"""Still frames of titles, made when first asked for and kept."""

from __future__ import annotations

import hashlib
import tempfile
import threading
from pathlib import Path

from django.conf import settings

from rheon.core.analysis import frame_jpeg, frame_times

from ..models import Title

FRAMES = 6
HEIGHT = 270
_at_once = threading.Semaphore(2)


def frame_file(title: Title, number: int) -> Path:
    """The JPEG of frame ``number`` (from 0) of a title. Raises ``EngineError`` or ``SourceMissing``."""
    target = settings.RHEON_CACHE / "frames" / f"{_fingerprint(title)}-{number}.jpg"
    if not target.exists():
        with _at_once:
            at_s = frame_times(title.duration_s, FRAMES)[number]
            picture = frame_jpeg(title.readable_title(), at_s, HEIGHT)
        target.parent.mkdir(parents=True, exist_ok=True)
        with tempfile.NamedTemporaryFile(dir=target.parent, delete=False) as handle:
            handle.write(picture)
        Path(handle.name).replace(target)
    return target


def _fingerprint(title: Title) -> str:
    """The same for the same material: where it lies, how long and how large it is."""
    source = title.source
    text = f"{source.path}|{source.size_bytes}|{title.number}|{title.duration_s}|{title.outline.get('size_bytes')}"
    return hashlib.sha256(text.encode()).hexdigest()[:24]
