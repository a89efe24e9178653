"""What is known of a title for cutting it, found out when first asked for and kept."""

from __future__ import annotations

import json
import threading
from dataclasses import asdict
from pathlib import Path

from rheon.core.analysis import copy_ranges
from rheon.core.analysis.proposals import Leaders, find_leaders
from rheon.core.media import KeptRange, mark_of

from ..models import Title
from .cache import cached, material_mark

_at_once = threading.Semaphore(1)


def leaders_of(title: Title) -> Leaders:
    """What is black and silent at the title's ends.

    Raises ``EngineError``, ``SourceMissing`` or ``OSError`` where the title can't be read.
    """

    def make(target: Path) -> None:
        with _at_once:
            target.write_text(json.dumps(asdict(find_leaders(title.readable_title()))))

    return Leaders(**json.loads(cached("leaders", f"{material_mark(title)}.json", make).read_text()))


def copy_ranges_of(title: Title, kept: tuple[KeptRange, ...]) -> tuple[KeptRange, ...] | None:
    """What copies can have of kept ranges; ``None`` where that can't be found out. Raises as ``leaders_of`` does."""

    def make(target: Path) -> None:
        found = copy_ranges(title.readable_title(), kept)
        target.write_text(json.dumps(None if found is None else [asdict(one) for one in found]))

    found = json.loads(cached("cuts", f"{material_mark(title)}-{mark_of(kept)}.json", make).read_text())
    return None if found is None else tuple(KeptRange(**one) for one in found)
