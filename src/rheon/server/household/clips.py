"""The sample clips, made when they are first wanted and kept."""

from __future__ import annotations

import tempfile
import threading
from pathlib import Path

from django.conf import settings

from rheon.core.devices import CLIPS, Clip
from rheon.core.encoding import make_clip

_one_at_a_time = threading.Lock()


def clip_file(clip: Clip) -> Path:
    """The clip's file. Raises ``EngineError``."""
    folder = settings.STATE / "clips"
    target = folder / clip.id
    if target.exists():
        return Path(target)
    with _one_at_a_time:
        if not target.exists():
            folder.mkdir(parents=True, exist_ok=True)
            with tempfile.TemporaryDirectory(dir=folder) as work:
                part = Path(work) / "clip"
                make_clip(clip, part)
                part.replace(target)
    return Path(target)


def make_all() -> int:
    """Make whatever is not there yet; returns how many there are."""
    return len([clip_file(clip) for clip in CLIPS])
