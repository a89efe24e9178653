"""A newer catalogue's profile, taken without losing what a person, an answer or a file has changed. Pure.

Three profiles meet: the one that was given (``base``), what it has become at home (``mine``) and the newer one
(``theirs``). A line is whole: what was changed at home stays as it is, everything else follows the catalogue.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any, Literal

from ..catalogue import say
from .certainty import line_key, line_text
from .profile import LISTS, DeviceProfile, Entry, Limits

FIELDS = ("name", "kind", "year", "until", "about", "tags", "artwork_px", "screen")
LIMITS = ("max_file_bytes", "file_system", "storage_bytes", "perhaps")

Identity = tuple[str, str, int]


@dataclass(frozen=True, slots=True, kw_only=True)
class Change:
    """One difference: a line that is new, gone or changed, or one that was kept although the catalogue has another."""

    what: Literal["new", "gone", "changed", "kept"]
    text: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Renewal:
    profile: DeviceProfile
    changes: tuple[Change, ...]


def renewed(mine: DeviceProfile, base: DeviceProfile, theirs: DeviceProfile) -> Renewal:
    """The newer profile with the changes of home on top, and what is different from ``mine``."""
    update: dict[str, Any] = {"version": theirs.version}
    changes: list[Change] = []
    for topic in LISTS:
        update[topic], found = _list(getattr(mine, topic), getattr(base, topic), getattr(theirs, topic))
        changes += found
    for name in FIELDS:
        update[name] = _three_way(getattr(mine, name), getattr(base, name), getattr(theirs, name))
        if update[name] != getattr(mine, name) and name in ("about", "screen"):
            changes.append(Change(what="changed", text=_field_text(name, update[name])))
    update["limits"] = _limits(mine.limits, base.limits, theirs.limits)
    if line_text(update["limits"]) != line_text(mine.limits):
        changes.append(
            Change(
                what="changed",
                text=say("Limits: {now}, before {then}", now=line_text(update["limits"]), then=line_text(mine.limits)),
            )
        )
    # what was changed at home may have left nothing to stand on
    fallback = {topic: getattr(mine, topic) for topic in ("containers", "audio") if not update[topic]}
    return Renewal(profile=mine.model_copy(update={**update, **fallback}), changes=tuple(changes))


def _three_way(mine: Any, base: Any, theirs: Any) -> Any:
    return theirs if mine == base else mine


def _field_text(name: str, value: Any) -> str:
    return (
        say("Screen: {screen}", screen=line_text(value))
        if name == "screen" and value
        else f"{name.capitalize()}: {value}"
    )


def _limits(mine: Limits, base: Limits, theirs: Limits) -> Limits:
    fields = {name: _three_way(getattr(mine, name), getattr(base, name), getattr(theirs, name)) for name in LIMITS}
    at_home = any(getattr(mine, name) != getattr(base, name) for name in LIMITS)
    return Limits(**fields, ground=mine.ground if at_home else _three_way(mine.ground, base.ground, theirs.ground))


def _list(
    mine: tuple[Entry, ...], base: tuple[Entry, ...], theirs: tuple[Entry, ...]
) -> tuple[tuple[Entry, ...], list[Change]]:
    ours, given, newer = dict(_identified(mine)), dict(_identified(base)), dict(_identified(theirs))
    changes: list[Change] = []
    result: dict[Identity, Entry] = {}
    for key in _order(list(ours), list(given), list(newer)):
        entry = _line(ours.get(key), given.get(key), newer.get(key), changes)
        if entry is not None:
            result[key] = entry
    return tuple(result.values()), changes


def _line(mine: Entry | None, base: Entry | None, theirs: Entry | None, changes: list[Change]) -> Entry | None:
    if mine != base:
        if mine is not None and theirs is not None and theirs not in (base, mine):
            changes.append(
                Change(
                    what="kept",
                    text=say("{mine}; the catalogue has {theirs} now", mine=line_text(mine), theirs=_with_sure(theirs)),
                )
            )
        return mine
    if theirs == mine:
        return mine
    if theirs is None:
        assert mine is not None
        changes.append(Change(what="gone", text=_with_sure(mine)))
    elif mine is None:
        changes.append(Change(what="new", text=_with_sure(theirs)))
    elif _with_sure(theirs) != _with_sure(mine):
        changes.append(
            Change(what="changed", text=say("{now}, before {then}", now=_with_sure(theirs), then=_with_sure(mine)))
        )
    return theirs


def _with_sure(entry: Entry) -> str:
    return f"{line_text(entry)} ({entry.sure.value})"


def _order(mine: list[Identity], base: list[Identity], theirs: list[Identity]) -> list[Identity]:
    """The catalogue's order, unless somebody put the lines into another one."""
    own_order = [key for key in mine if key in base] != [key for key in base if key in mine]
    first, second = (mine, theirs) if own_order else (theirs, mine)
    added_at_home = [key for key in mine if key not in base and key not in theirs]
    lead = [] if own_order else [key for key in added_at_home if mine.index(key) == 0]
    return list(dict.fromkeys([*lead, *first, *second, *base]))


def _identified(entries: tuple[Entry, ...]) -> Iterator[tuple[Identity, Entry]]:
    """Each entry under what it is about and the conformance point it names, which a learned ground keeps."""
    seen: dict[tuple[str, str], int] = {}
    for entry in entries:
        key = (line_key(entry), entry.ground.point if entry.ground else "")
        seen[key] = seen.get(key, 0) + 1
        yield (*key, seen[key]), entry
