"""Reading what is in the library: on which devices each file plays as it is, and what is there twice."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from rheon.core.devices import DeviceProfile, MediaFacts, careful
from rheon.core.devices.learning import facts_text
from rheon.core.devices.rules import broken
from rheon.core.handover import Holding, doubles
from rheon.core.naming.episodes import natural_key
from rheon.core.wording import rule_name
from rheon.server.household.models import Device

from . import documents
from .actions.library import holding_of, library_folder, library_look, library_place
from .documents import LibraryShown
from .models import LibraryFile

MOST_LISTED = 300


@dataclass(frozen=True, slots=True, kw_only=True)
class _Doubles:
    """By path, the others with the same content, and the others of the same work."""

    twice: Mapping[str, list[str]]
    alike: Mapping[str, list[str]]

    def of(self, path: str) -> bool:
        return path in self.twice or path in self.alike


def library_document(wanted: documents.LibraryWanted) -> documents.Library:
    row = library_look()
    is_known = not row.wanted and row.place == library_place()
    rows = list(LibraryFile.objects.all()) if is_known else []
    held = sorted(map(holding_of, rows), key=lambda one: natural_key(one.path))
    devices = [(device, careful(device.core_profile())) for device in Device.objects.all()]
    refused = {one.path: _refusing(one.facts, devices) for one in held if one.facts}
    plays = Counter(device.pk for path, why in refused.items() for device, _ in devices if device.pk not in why)
    found = _doubles(held, {row.path: row.same_as for row in rows if row.same_as})
    shown = [one for one in held if _is_shown(one, wanted, refused, found)]
    names = {device.pk: device.name for device, _ in devices}
    return documents.Library(
        here=library_folder() is not None,
        looking=row.wanted,
        done=row.done,
        total=row.total,
        looked=row.looked if is_known else None,
        problem=row.problem,
        count=len(held),
        size_bytes=sum(one.size_bytes for one in held),
        double=sum(found.of(one.path) for one in held),
        devices=[
            documents.PlayedBy(device_id=device.pk, device_name=device.name, plays=plays[device.pk])
            for device, _ in devices
        ],
        files=[_file(one, refused.get(one.path, {}), names, found) for one in shown[:MOST_LISTED]],
        more=max(0, len(shown) - MOST_LISTED),
    )


def _refusing(facts: MediaFacts, devices: Sequence[tuple[Device, DeviceProfile]]) -> dict[int, list[str]]:
    """The rules that a file breaks, by device; only those that it breaks any of."""
    said = ((device.pk, broken(facts, profile)) for device, profile in devices)
    return {pk: rules for pk, rules in said if rules}


def _doubles(held: Sequence[Holding], same_as: Mapping[str, str]) -> _Doubles:
    groups: dict[str, list[str]] = {}
    for one in held:
        if one.path in same_as:
            groups.setdefault(same_as[one.path], []).append(one.path)
    twice: dict[str, list[str]] = {}
    alike: dict[str, list[str]] = {}
    for double in doubles(held, [group for group in groups.values() if len(group) > 1]):
        into = twice if double.same else alike
        for path in double.paths:
            into[path] = [other for other in double.paths if other != path]
    return _Doubles(twice=twice, alike=alike)


def _is_shown(
    one: Holding, wanted: documents.LibraryWanted, refused: Mapping[str, Mapping[int, object]], found: _Doubles
) -> bool:
    if wanted.shown is LibraryShown.DOUBLE:
        return found.of(one.path)
    if wanted.shown is LibraryShown.NOT_ON:
        return one.facts is None or wanted.device_id in refused.get(one.path, {})
    return True


def _file(
    one: Holding, refused: Mapping[int, Sequence[str]], names: Mapping[int, str], found: _Doubles
) -> documents.LibraryFile:
    return documents.LibraryFile(
        path=one.path,
        about=facts_text(one.facts) if one.facts else "",
        size_bytes=one.size_bytes,
        trouble=one.trouble,
        not_on=[
            documents.NotOn(device_id=pk, device_name=names[pk], why=", ".join(map(rule_name, rules)))
            for pk, rules in refused.items()
        ],
        twice=found.twice.get(one.path, []),
        alike=found.alike.get(one.path, []),
    )
