"""What is known of a title for cutting it, found out when first asked for and kept."""

from __future__ import annotations

import json
import threading
from dataclasses import asdict
from pathlib import Path

from rheon.core.analysis import CutPlaces, cut_places
from rheon.core.analysis.proposals import Leaders, find_leaders
from rheon.core.media import KeptRange, mark_of
from rheon.core.media.documents import dump, load

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


def cut_places_of(title: Title, kept: tuple[KeptRange, ...]) -> CutPlaces:
    """Where kept ranges can be cut without encoding all of them. Raises as ``leaders_of`` does."""

    def make(target: Path) -> None:
        target.write_text(json.dumps(dump(cut_places(title.readable_title(), kept))))

    path = cached("cut-places", f"{material_mark(title)}-{mark_of(kept)}.json", make)
    return load(CutPlaces, json.loads(path.read_text()))
