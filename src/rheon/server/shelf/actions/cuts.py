"""What is known of a title for cutting it, found out when first asked for and kept."""

from __future__ import annotations

import json
import logging
import threading
from collections.abc import Sequence
from dataclasses import asdict
from datetime import timedelta
from pathlib import Path

import numpy as np
from django.core.cache import cache
from django.db import transaction
from django.utils import timezone

from rheon.core.analysis import copy_ranges
from rheon.core.analysis.proposals import (
    MOST_OTHERS,
    Leaders,
    Prints,
    Proposal,
    Shared,
    Sibling,
    find_credits,
    find_leaders,
    find_shared,
    prints_of,
    proposed,
)
from rheon.core.errors import RheonError
from rheon.core.media import KeptRange, Role, mark_of
from rheon.core.media.episodes import episode_name

from ..models import Finding, Title
from ..tasks import find_cuts_task
from .cache import cached, material_mark

TRY_AGAIN = timedelta(minutes=2)
ASK_AGAIN_S = 300
_at_once = threading.Semaphore(1)
log = logging.getLogger("rheon")


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


def proposals_of(title: Title) -> tuple[tuple[Proposal, ...], bool]:
    """What of a title could be left out, and whether more is being looked for: that begins when first asked for.

    Raises as ``leaders_of`` does.
    """
    leaders = leaders_of(title)
    siblings = siblings_of(title)
    found = Finding.objects.filter(mark=_mark(title, siblings)).first()
    if found is None or ("failed" in found.document and found.added < timezone.now() - TRY_AGAIN):
        if cache.add(f"cuts-{title.pk}", 1, timeout=ASK_AGAIN_S):
            transaction.on_commit(lambda: find_cuts_task.enqueue(title.pk))
        return proposed(title.duration_s, leaders), True
    shared = [Shared(**one) for one in found.document.get("shared", [])]
    return proposed(title.duration_s, leaders, found.document.get("credits_s"), shared), False


def find_cuts(title_id: int) -> None:
    """Look for what a title has in common with its siblings, and for credits; noted when it is done."""
    title = Title.objects.select_related("source").filter(pk=title_id).first()
    if title is None:
        return
    siblings = siblings_of(title)
    mark = _mark(title, siblings)
    Finding.objects.filter(mark=mark, document__has_key="failed").delete()
    if Finding.objects.filter(mark=mark).exists():
        return
    try:
        core = title.readable_title()
        others = [Sibling(title=one.readable_title(), prints=_prints(one)) for one in siblings]
        shared = find_shared(core, _prints(title), others) if others else []
        document = {"credits_s": find_credits(core), "shared": [asdict(one) for one in shared]}
    except (RheonError, OSError) as error:
        log.warning("could not look for cuts of title %s: %s", title_id, error)
        document = {"failed": True}
    Finding.objects.get_or_create(mark=mark, defaults={"document": document})


def siblings_of(title: Title) -> list[Title]:
    """The nearest other episodes: of the same source, or beside it under the same name."""
    if title.role != Role.EPISODE:
        return []
    beside = Title.objects.select_related("source").filter(role=Role.EPISODE).exclude(pk=title.pk)
    own = [one for one in beside.filter(source=title.source) if not one.outline.get("fault")]
    if not own:
        named = episode_name(title.source.name)
        folder = str(Path(title.source.path).parent)
        near = beside.filter(source__path__startswith=folder) if named and named.series else beside.none()
        own = [one for one in near if named and _series(one) == named.series.casefold()]
    return sorted(own, key=lambda one: (abs(one.number - title.number), abs(one.pk - title.pk)))[:MOST_OTHERS]


def _series(title: Title) -> str | None:
    named = episode_name(title.source.name)
    return named.series.casefold() if named else None


def _mark(title: Title, siblings: Sequence[Title]) -> str:
    return f"cuts-{mark_of(tuple(material_mark(one) for one in (title, *siblings)))}"[:40]


def _prints(title: Title) -> tuple[Prints, ...]:
    def make(target: Path) -> None:
        with _at_once:
            found = prints_of(title.readable_title())
        target.write_text(json.dumps([[one.from_s, one.values.tolist()] for one in found]))

    kept = json.loads(cached("prints", f"{material_mark(title)}.json", make).read_text())
    return tuple(Prints(from_s=from_s, values=np.array(values, "<u4")) for from_s, values in kept)
