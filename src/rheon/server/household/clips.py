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
    return kept_clip(clip, clip.id)


def kept_clip(clip: Clip, mark: str, *, watched: bool = False) -> Path:
    """The clip's file under a mark of its own; longer where somebody will watch it. Raises ``EngineError``."""
    target = _folder() / mark
    if target.exists():
        return target
    with _one_at_a_time:
        if not target.exists():
            target.parent.mkdir(parents=True, exist_ok=True)
            # beside its place: it gets its name whole or not at all
            with tempfile.TemporaryDirectory(dir=target.parent, prefix=".") as work:
                part = Path(work) / "clip"
                make_clip(clip, part, watched=watched)
                part.replace(target)
    return target


def clip_path(clip: Clip) -> Path:
    """Where a clip lies once it is made."""
    return _folder() / clip.id


def _folder() -> Path:
    return Path(settings.STATE) / "clips"


def make_all() -> int:
    """Make whatever is not there yet; returns how many there are."""
    return len([clip_file(clip) for clip in CLIPS])
