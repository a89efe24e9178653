"""Reading what is on its way onto devices: their storages, what is there, what fits, and what does not."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path

from rheon.core.catalogue import say
from rheon.core.handover import Listing, Room, Volume, VolumeKind, kept_free, name_on, what_fits
from rheon.core.naming.episodes import natural_key
from rheon.core.wording import sentence
from rheon.server.codes import qr
from rheon.server.home.queries import output_folders
from rheon.server.household.models import Device

from . import documents
from .actions.picking_up import pick_up
from .documents import WayState
from .models import TO_COME, Handover, HandoverState, Output, Storage
from .names import called
from .volumes import lying, pluggable, volume_here, volumes_here

LIBRARY = 0
OPEN = (WayState.READY, WayState.GONE)
LOOKED_AT = ("title_name", "device_ids", "path", "size_bytes")
MOST_FILES = 300
MOST_LOOKED_AT = 3000
STATES = {
    HandoverState.WAITING: WayState.WAITING,
    HandoverState.COPYING: WayState.COPYING,
    HandoverState.VERIFYING: WayState.VERIFYING,
    HandoverState.FAILED: WayState.FAILED,
}


@dataclass(frozen=True, slots=True, kw_only=True)
class _Way:
    """A file for a device, with its handover if it has one, and whether it lies on the device."""

    output: Output
    name: str
    size_bytes: int
    present: bool
    handover: Handover | None
    state: WayState

    @property
    def fraction(self) -> float:
        """How far it is, of writing and verifying."""
        return self.handover.fraction if self.handover else 0.0


def handovers_document(wanted: documents.HandoversWanted) -> documents.Handovers:
    here = {volume.id: volume for volume in volumes_here()}
    storages = {one.device_id: one for one in Storage.objects.all()}
    listing, folders, coming = Listing(), output_folders(), _coming_bytes()
    found: list[documents.DeviceFiles] = []
    for device, outputs in _by_device(set(storages)):
        number = device.pk if device else LIBRARY
        is_chosen = number == wanted.chosen or (wanted.chosen is None and not found)
        storage = storages.get(device.pk if device else None)
        place = _Place(
            device=device,
            storage=storage,
            volume=(here.get(storage.volume_id) or volume_here(storage.volume_id)) if storage else None,
            listing=listing,
            folders=folders,
            coming_bytes=coming.get(storage.volume_id, 0) if storage else 0,
            left_out=frozenset(wanted.left_out if number == wanted.chosen else ()),
        )
        found.append(_device_files(place, outputs, wanted.output, listed=is_chosen or wanted.output is not None))
    return documents.Handovers(
        volumes=[_volume(volume) for volume in here.values()], lying=lying(), pluggable=pluggable(), devices=found
    )


def _coming_bytes() -> dict[str, int]:
    """What has still to be written to each volume, for whichever device it is."""
    coming: dict[str, int] = {}
    for one in Handover.objects.filter(state__in=TO_COME):
        coming[one.volume_id] = coming.get(one.volume_id, 0) + one.coming_bytes
    return coming


@dataclass(frozen=True, slots=True, kw_only=True)
class _Place:
    """Where files go: for a device or the library (``None``), with the volume if it is there, and what is left out."""

    device: Device | None
    storage: Storage | None
    volume: Volume | None
    listing: Listing
    folders: tuple[Path, ...]
    coming_bytes: int
    left_out: frozenset[int]

    @property
    def free_bytes(self) -> int | None:
        return self.volume.free_bytes if self.volume else self.storage.free_bytes if self.storage else None

    @property
    def total_bytes(self) -> int | None:
        return self.volume.total_bytes if self.volume else self.storage.total_bytes if self.storage else None

    @property
    def largest_file_bytes(self) -> int | None:
        """By the volume and by the device itself."""
        own = self.device.core_profile().limits.largest_file_bytes if self.device else None
        limits = (self.volume.largest_file_bytes if self.volume else None, own)
        return min((one for one in limits if one is not None), default=None)


def _by_device(with_storage: set[int | None]) -> Iterable[tuple[Device | None, list[Output]]]:
    """Each device that files were made for or handed over to, or that has a storage; the library with all files."""
    outputs = list(Output.objects.filter(is_sample=False).only(*LOOKED_AT)[:MOST_LOOKED_AT])
    handed: dict[int | None, set[int]] = {}
    for output_id, device_id in Handover.objects.values_list("output_id", "device_id"):
        handed.setdefault(device_id, set()).add(output_id)
    for device in Device.objects.all():
        own = handed.get(device.pk, set())
        meant = [output for output in outputs if device.pk in output.device_ids or output.pk in own]
        if meant or device.pk in with_storage:
            yield device, meant
    if outputs:
        yield None, outputs


def _device_files(place: _Place, outputs: Sequence[Output], only: int | None, *, listed: bool) -> documents.DeviceFiles:
    handovers = {one.output_id: one for one in Handover.objects.filter(device=place.device)}
    known = (_way(output, handovers.get(output.pk), place) for output in outputs)
    ways = sorted((way for way in known if way), key=lambda way: natural_key(way.name))
    why_not = _why_not(ways, place) if place.storage and listed else {}
    shown = [way for way in ways if only is None or way.output.pk == only] if listed else []
    states = Counter(way.state for way in ways)
    return documents.DeviceFiles(
        device_id=place.device.pk if place.device else LIBRARY,
        device_name=place.device.name if place.device else say("The library"),
        storage=_storage(place.storage, place, ways) if place.storage else None,
        count=len(ways),
        there=states[WayState.THERE],
        waiting=states[WayState.WAITING],
        failed=states[WayState.FAILED],
        copying=next((way.fraction for way in ways if way.state in (WayState.COPYING, WayState.VERIFYING)), None),
        files=[_file(way, why_not, place.left_out) for way in shown[:MOST_FILES]],
        more=max(0, len(shown) - MOST_FILES),
    )


def _way(output: Output, handover: Handover | None, place: _Place) -> _Way | None:
    """``None`` for a file that is gone where it was made and was never handed over."""
    size_bytes = place.listing.size_of(Path(output.path)) or 0
    if not size_bytes and (handover is None or handover.state != HandoverState.DONE):
        return None
    name = called(output, place.folders)
    return _Way(
        output=output,
        name=name,
        size_bytes=size_bytes or output.size_bytes,
        present=size_bytes > 0,
        handover=handover,
        state=_state(output, name, handover, place),
    )


def _state(output: Output, name: str, handover: Handover | None, place: _Place) -> WayState:
    if handover is not None and handover.state in STATES:
        return STATES[HandoverState(handover.state)]
    storage, volume = place.storage, place.volume
    is_done = handover is not None and storage is not None and handover.volume_id == storage.volume_id
    if storage is None or volume is None:
        return WayState.THERE if is_done else WayState.READY
    if handover is not None and is_done and _lies(volume.path / handover.path, output, place.listing):
        return WayState.THERE
    named = list(place.listing.under_name(volume.path / storage.folder, name_on(volume, name)))
    if any(one.size_bytes == output.size_bytes for one in named):
        return WayState.THERE
    if named:
        return WayState.OTHER
    return WayState.GONE if is_done else WayState.READY


def _lies(path: Path, output: Output, listing: Listing) -> bool:
    found = next(listing.under_name(path.parent, path.name), None)
    return found is not None and found.size_bytes == output.size_bytes


def _why_not(ways: Sequence[_Way], place: _Place) -> dict[int, str]:
    """Why files that are not there do not fit beside what is and what will be; empty for those that do."""
    room = Room(
        free_bytes=None if place.free_bytes is None else max(0, place.free_bytes - place.coming_bytes),
        kept_free_bytes=kept_free(place.total_bytes),
        unit_bytes=place.volume.unit_bytes if place.volume else 1,
        largest_file_bytes=place.largest_file_bytes,
    )
    wished = [way for way in ways if way.state in OPEN and way.present and way.output.pk not in place.left_out]
    fits = what_fits([(way.output.pk, way.size_bytes) for way in wished], room)
    return {fit.key: sentence(fit.why_not) if fit.why_not else "" for fit in fits}


def _storage(storage: Storage, place: _Place, ways: Sequence[_Way]) -> documents.Storage:
    return documents.Storage(
        volume_id=storage.volume_id,
        label=place.volume.label if place.volume else storage.label,
        folder=storage.folder,
        here=place.volume is not None,
        can_be_ejected=place.volume is not None and place.volume.kind is not VolumeKind.FOLDER,
        total_bytes=place.total_bytes,
        free_bytes=place.free_bytes,
        there_bytes=sum(way.size_bytes for way in ways if way.state is WayState.THERE),
        coming_bytes=place.coming_bytes,
        kept_free_bytes=kept_free(place.total_bytes),
        seen=storage.seen,
    )


def _file(way: _Way, why_not: Mapping[int, str], left_out: frozenset[int]) -> documents.FileOnWay:
    handover, key = way.handover, way.output.pk
    is_left = way.state in OPEN and key in left_out
    return documents.FileOnWay(
        output_id=key,
        handover_id=handover.pk if handover else None,
        title_name=way.output.title_name,
        file_name=way.name,
        size_bytes=way.size_bytes,
        state=WayState.LEFT_OUT if is_left else way.state,
        fraction=way.fraction,
        fits=way.present and key in why_not and not why_not[key],
        present=way.present,
        why=why_not.get(key, "") or (handover.error_message if handover and way.state in STATES.values() else ""),
    )


def _volume(volume: Volume) -> documents.Volume:
    return documents.Volume(
        id=volume.id,
        label=volume.label,
        kind=volume.kind,
        file_system=volume.file_system,
        total_bytes=volume.total_bytes,
        free_bytes=volume.free_bytes,
        largest_file_bytes=volume.largest_file_bytes,
        writable=volume.writable,
    )


def pick_up_document() -> documents.PickUp:
    row = pick_up()
    opens = row.is_open
    address = f"{row.address}p/{row.code}/" if opens else ""
    path, side = qr(address) if opens else ("", 0)
    found = Output.objects.in_bulk(row.outputs if opens else [])
    return documents.PickUp(
        open=opens,
        address=row.address if opens else "",
        code=row.code if opens else "",
        until=row.open_until if opens else None,
        qr=path,
        qr_size=side,
        device_name=row.device.name if row.device else "",
        files=[_picked_up(found[pk], row.fetched.get(str(pk))) for pk in row.outputs if pk in found],
        problem=row.problem,
    )


def _picked_up(output: Output, fetched: str | None) -> documents.PickedUp:
    return documents.PickedUp(
        output_id=output.pk,
        title_name=output.title_name,
        file_name=Path(output.path).name,
        size_bytes=output.size_bytes,
        fetched=datetime.fromisoformat(fetched) if fetched else None,
    )
