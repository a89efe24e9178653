"""The shipped kinds of devices by age and class. Each is written as references to abilities (``kinds/abilities.json``),
so that a conformance point and its source stand in one place, and becomes a profile with a ground for every line.
"""

from __future__ import annotations

import json
from dataclasses import dataclass
from functools import cached_property, lru_cache
from importlib import resources
from typing import Any

from ..catalogue import later
from .profile import LISTS, DeviceKind, DeviceProfile, VideoEntry

ABILITIES = "abilities.json"
ARTWORK_PX = 300

Document = dict[str, Any]


@dataclass(frozen=True, slots=True, kw_only=True)
class Generation:
    """A kind of device of some years: its profile, what tells it from its siblings, and words that people use for it.

    ``traits`` are answers to questions of ``questions.py``. Years are those in which such devices were new; ``until``
    is ``None`` for what still is.
    """

    profile: DeviceProfile
    traits: dict[str, bool]
    words: frozenset[str]
    since: int
    until: int | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Span:
    """Years to choose from, the first and the last; ``None`` where they go on."""

    since: int
    until: int | None

    @property
    def year(self) -> int:
        """One year that stands for all of them."""
        return self.since if self.until is None else (self.since + self.until) // 2


@dataclass(frozen=True, kw_only=True)
class Family:
    """All generations of one kind, the oldest first, what the kind is called, and the ages to choose from.

    ``names`` are words that name the family by themselves, ``words`` those that only speak for it.
    """

    kind: DeviceKind
    label: str
    names: frozenset[str]
    words: frozenset[str]
    ages: tuple[Span, ...]
    generations: tuple[Generation, ...]

    @cached_property
    def every_word(self) -> frozenset[str]:
        """Whatever people say of such a device."""
        return self.names.union(self.words, *(one.words for one in self.generations))


@lru_cache(maxsize=1)
def families() -> dict[DeviceKind, Family]:
    """Every shipped kind, in the order of ``DeviceKind``."""
    folder = resources.files(__package__) / "kinds"
    abilities = json.loads((folder / ABILITIES).read_text(encoding="utf-8"))
    found = {}
    for entry in folder.iterdir():
        if entry.name.endswith(".json") and entry.name != ABILITIES:
            family = _family(json.loads(entry.read_text(encoding="utf-8")), abilities)
            found[family.kind] = family
    return {kind: found[kind] for kind in DeviceKind if kind in found}


def _family(document: Document, abilities: Document) -> Family:
    kind = DeviceKind(document["kind"])
    return Family(
        kind=kind,
        label=document["label"],
        names=frozenset(document["names"]),
        words=frozenset(document["words"]),
        ages=tuple(Span(since=since, until=until) for since, until in document["ages"]),
        generations=tuple(_generation(kind, entry, abilities) for entry in document["generations"]),
    )


def _generation(kind: DeviceKind, entry: Document, abilities: Document) -> Generation:
    profile = {
        "id": entry["id"],
        "name": entry["name"],
        "kind": kind.value,
        "version": entry["version"],
        "year": entry["from"],
        "until": entry["until"],
        "about": entry["about"],
        "artwork_px": ARTWORK_PX,
        "limits": _limits(entry, abilities),
        **{topic: [_line(topic, text, abilities) for text in entry.get(topic, [])] for topic in LISTS},
    }
    if screen := entry.get("screen"):
        pixels = {key: value for key, value in screen.items() if key != "sure"}
        profile["screen"] = {**pixels, "ground": _class_ground(screen["sure"])}
    return Generation(
        profile=DeviceProfile.model_validate(profile),
        traits=entry["traits"],
        words=frozenset(entry["words"]),
        since=entry["from"],
        until=entry["until"],
    )


def _line(topic: str, text: str, abilities: Document) -> Document:
    """A line from ``ability sure [question] [@ground]``."""
    name, sure, *more = text.split()
    ability: Document = dict(abilities[topic][name])
    point = ability.pop("point")
    return {**ability, "ground": _ground(sure, point, more, abilities)}


def _ground(sure: str, point: str, more: list[str], abilities: Document) -> Document:
    standard = next((abilities["grounds"][word[1:]] for word in more if word.startswith("@")), None)
    question = next((word for word in more if not word.startswith("@")), None)
    ground = {**_class_ground(sure), "point": point, "settled_by": question}
    return {**ground, "rests_on": "standard", "note": standard} if standard else ground


def _class_ground(sure: str) -> Document:
    notes = {
        "known": later("Holds for nearly all devices of this kind and age."),
        "supposed": later("Usual for devices of this kind and age."),
        "doubtful": later("Only some devices of this kind and age can do this."),
    }
    return {"sure": sure, "rests_on": "class", "note": notes[sure]}


def _limits(entry: Document, abilities: Document) -> Document:
    limits = _line("limits", entry["limits"], abilities)
    if "perhaps" in entry:
        name, question = entry["perhaps"].split()
        limits["perhaps"] = {"file_system": abilities["limits"][name]["file_system"], "settled_by": question}
    if "storage_bytes" in entry:
        limits["storage_bytes"] = entry["storage_bytes"]
    return limits


@lru_cache(maxsize=8)
def conformance_points(codec: str) -> tuple[VideoEntry, ...]:
    """The points of a codec that kinds are described with, the largest first."""
    text = (resources.files(__package__) / "kinds" / ABILITIES).read_text(encoding="utf-8")
    found = []
    for entry in json.loads(text)["video"].values():
        if entry["codec"] == codec:
            ground = {**_class_ground("supposed"), "point": entry.pop("point")}
            found.append(VideoEntry.model_validate({**entry, "ground": ground}))
    return tuple(sorted(found, key=lambda entry: (-entry.max_width * entry.max_height, -entry.frame_rate_limit)))
