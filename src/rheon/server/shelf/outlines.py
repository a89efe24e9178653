"""What a title's length strip shows, kept beside the title so that the Shelf's list is read without the titles."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from rheon.core.catalogue import say
from rheon.core.formats import codec_name
from rheon.core.media import Title, mark_of
from rheon.core.wording import sentence, taken_text

from .documents import Strip

UNKNOWN: Mapping[str, Any] = {
    "size_bytes": 0,
    "chapters": [],
    "reason": "",
    "shares": [],
    "gaps": [],
    "fault": None,
    "part_of": None,
    "part_count": 0,
}


def outline_of(title: Title) -> dict[str, Any]:
    """The strip as it is stored, and ``detail`` for the Bench."""
    strip = Strip(
        size_bytes=title.size_bytes,
        chapters=[chapter.start_s for chapter in title.chapters],
        reason="; ".join(map(sentence, title.reasons)),
        taken=taken_text(title.reasons),
        taken_together=taken_text(title.reasons, together=True),
        shares=title.shares,
        gaps=title.gaps,
        fault=title.fault,
        part_of=title.part_of,
        part_count=len(title.joined),
    )
    # where a join's parts lie, since its source tells that of the first alone
    material = mark_of(tuple((part.data, part.duration_s) for part in title.joined)) if title.joined else ""
    return {**strip.model_dump(mode="json"), "detail": _detail(title), "material": material}


def read_outline(stored: Mapping[str, Any]) -> dict[str, Any]:
    """The fields of a ``Strip`` of what was stored. A title that an older Rheon read has fewer of them."""
    picked = say("picked: {reasons}", reasons=stored.get("reason", ""))
    said = {key: value for key, value in stored.items() if key not in ("detail", "material")}
    return {**UNKNOWN, "taken": picked, "taken_together": picked, **said}


def by_hand_texts() -> dict[str, str]:
    """What is said of a title whose role somebody set."""
    picked = say("picked: {reasons}", reasons=say("set by hand"))
    return {"reason": say("set by hand"), "taken": picked, "taken_together": picked}


def _detail(title: Title) -> str:
    video = title.video
    return f"{codec_name(video.codec)} {video.width}×{video.height}" if video else say("sound")
