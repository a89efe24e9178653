"""What could be left out at a title's ends, found when first asked for and kept."""

from __future__ import annotations

import json
import threading
from dataclasses import asdict
from pathlib import Path

from rheon.core.analysis import Leaders, find_leaders

from ..models import Title
from .cache import cached, material_mark

_at_once = threading.Semaphore(1)


def leaders_of(title: Title) -> Leaders:
    """Raises ``EngineError``, ``SourceMissing`` or ``OSError`` where the title can't be read."""

    def make(target: Path) -> None:
        with _at_once:
            target.write_text(json.dumps(asdict(find_leaders(title.readable_title()))))

    return Leaders(**json.loads(cached("leaders", f"{material_mark(title)}.json", make).read_text()))
