"""What of a title could be left out: its black ends at once, openings and credits after a look in the background."""

from __future__ import annotations

import json
import threading
from dataclasses import asdict, replace
from pathlib import Path
from typing import Any

import numpy as np

from rheon.core.analysis.proposals import (
    MOST_OTHERS,
    Proposal,
    Shared,
    Sibling,
    SoundFingerprints,
    find_credits,
    find_shared,
    proposed,
    sound_fingerprints_of,
)
from rheon.core.media import Role
from rheon.core.media.joined import places_of
from rheon.core.media.joining import left_out_s
from rheon.core.naming.episodes import episode_name

from ..models import Source, Title
from ..tasks import find_proposals_task
from .cache import cached, material_mark
from .cuts import leaders_of
from .finding_out import find_out, found_out, mark_for
from .joins import parts_of

PROPOSALS = "proposals"
_at_once = threading.Semaphore(1)


def proposals_of(title: Title) -> tuple[tuple[Proposal, ...], bool]:
    """What of a title could be left out, and whether more is being looked for.

    Raises as ``leaders_of`` does.
    """
    if title.outline.get("part_count"):
        return _of_parts(title)
    leaders = leaders_of(title)
    mark = mark_for(PROPOSALS, (title, *siblings_of(title)))
    found = found_out(mark, lambda: find_proposals_task.enqueue(title.pk))
    if found is None:
        return proposed(title.duration_s, leaders), True
    shared = [Shared(**one) for one in found.get("shared", [])]
    return proposed(title.duration_s, leaders, found.get("credits_s"), shared), False


def _of_parts(title: Title) -> tuple[tuple[Proposal, ...], bool]:
    """What could be left out of each part of a join, where it lies in the whole."""
    core = title.core_title()
    found: list[Proposal] = []
    looking = False
    for row, placed in zip(parts_of(title), places_of(core.joined), strict=False):
        if row is None:
            continue
        own, more = proposals_of(row)
        looking = looking or more
        moved_s = placed.at_s - left_out_s(row.core_title(), placed.part)
        for one in own:
            from_s, until_s = max(placed.at_s, one.from_s + moved_s), min(placed.end_s, one.until_s + moved_s)
            found.append(replace(one, from_s=round(from_s, 3), until_s=round(until_s, 3)))
    return tuple(found), looking


def find_proposals(title_id: int) -> None:
    """Look for what a title has in common with its siblings, and for credits."""
    title = Title.objects.select_related("source").filter(pk=title_id).first()
    if title is None:
        return
    siblings = siblings_of(title)

    def look() -> dict[str, Any]:
        core = title.readable_title()
        others = [Sibling(title=one.readable_title(), fingerprints=_fingerprints(one)) for one in siblings]
        shared = find_shared(core, _fingerprints(title), others) if others else []
        return {"credits_s": find_credits(core), "shared": [asdict(one) for one in shared]}

    find_out(mark_for(PROPOSALS, (title, *siblings)), look)


def siblings_of(title: Title) -> list[Title]:
    """The nearest other episodes."""
    others = series_of(title)
    return sorted(others, key=lambda one: (abs(one.number - title.number), abs(one.pk - title.pk)))[:MOST_OTHERS]


def series_of(title: Title) -> list[Title]:
    """The other episodes: of the same source, or files beside it that are named as of the same series."""
    others = Title.objects.select_related("source").filter(join__isnull=True).exclude(pk=title.pk)
    found: list[Title] = []
    if title.role == Role.EPISODE:
        found = list(others.filter(source=title.source, role=Role.EPISODE))
    if not found and (series := _series(title.source)) is not None:
        folder = str(Path(title.source.path).parent)
        near = Source.objects.filter(path__startswith=f"{folder}/").exclude(pk=title.source_id)
        beside = [source.pk for source in near if _series(source) == series]
        found = list(others.filter(source__in=beside, role__in=(Role.EPISODE, Role.FEATURE)))
    return [one for one in found if not one.outline.get("fault")]


def _series(source: Source) -> str | None:
    """The series that a source's name says it is an episode of."""
    named = episode_name(Path(source.path).stem, Path(source.path).parent.name)
    return named.series.casefold() if named and named.series else None


def _fingerprints(title: Title) -> tuple[SoundFingerprints, ...]:
    def make(target: Path) -> None:
        with _at_once:
            found = sound_fingerprints_of(title.readable_title())
        target.write_text(json.dumps([[one.from_s, one.values.tolist()] for one in found]))

    kept = json.loads(cached("fingerprints", f"{material_mark(title)}.json", make).read_text())
    return tuple(SoundFingerprints(from_s=from_s, values=np.array(values, "<u4")) for from_s, values in kept)
