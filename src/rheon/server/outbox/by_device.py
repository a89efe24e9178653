"""Reading what is on its file onto devices: their storages, what is there, what fits, and what does not."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence, Set
from dataclasses import dataclass
from pathlib import Path

from rheon.core.catalogue import say
from rheon.core.handover import Listing, Room, Volume, VolumeKind, kept_free, name_on, what_fits
from rheon.core.naming.episodes import natural_key
from rheon.core.wording import sentence
from rheon.server.home.queries import output_folders
from rheon.server.household.models import Device

from . import documents
from .actions.network import folder_name, media_server, server_name
from .actions.pick_up import pick_up
from .documents import FileState
from .models import TO_COME, Handover, HandoverState, NetworkFolder, Output, Storage
from .names import called
from .volumes import plugged, unplugged, volume_here, volumes_here

LIBRARY = 0
OPEN = (FileState.READY, FileState.GONE)
LOOKED_AT = ("title_name", "device_ids", "path", "size_bytes", "reports")
MOST_FILES = 300
MOST_LOOKED_AT = 3000
STATES = {
    HandoverState.WAITING: FileState.WAITING,
    HandoverState.COPYING: FileState.COPYING,
    HandoverState.VERIFYING: FileState.VERIFYING,
    HandoverState.FAILED: FileState.FAILED,
}


@dataclass(frozen=True, slots=True, kw_only=True)
class _File:
    """A file for a device, with its handover if it has one, and whether it lies on the device."""

    output: Output
    name: str
    size_bytes: int
    present: bool
    handover: Handover | None
    state: FileState

    @property
    def fraction(self) -> float:
        """How far it is, of writing and verifying."""
        return self.handover.fraction if self.handover else 0.0


def handovers_document(wanted: documents.HandoversWanted) -> documents.Handovers:
    here = {volume.id: volume for volume in volumes_here()}
    storages = {one.device_id: one for one in Storage.objects.all()}
    shown = {one.device_id: one for one in NetworkFolder.objects.select_related("device")}
    fetched = _fetched(shown.values())
    listing, folders, coming = Listing(), output_folders(), _coming_bytes()
    found: list[documents.DeviceFiles] = []
    for device, outputs in _by_device(set(storages)):
        number = device.pk if device else LIBRARY
        is_chosen = number == wanted.chosen or (wanted.chosen is None and not found)
        storage = storages.get(device.pk if device else None)
        to = _Destination(
            device=device,
            storage=storage,
            volume=(here.get(storage.volume_id) or volume_here(storage.volume_id)) if storage else None,
            listing=listing,
            network=shown.get(device.pk) if device else None,
            fetched=fetched.get(device.pk, frozenset()) if device else frozenset(),
            folders=folders,
            coming_bytes=coming.get(storage.volume_id, 0) if storage else 0,
            left_out=frozenset(wanted.left_out if number == wanted.chosen else ()),
        )
        found.append(_device_files(to, outputs, wanted.output, listed=is_chosen or wanted.output is not None))
    return documents.Handovers(
        volumes=[_volume(volume) for volume in here.values()],
        unplugged=unplugged(),
        plugged=plugged(),
        server_name=server_name(),
        server_problem=media_server().problem,
        devices=found,
    )


def _fetched(shown: Iterable[NetworkFolder]) -> dict[int, set[int]]:
    """The outputs that devices fetched themselves, by code or over the network."""
    fetched = {one.device_id: {one.fetched_output} for one in shown if one.fetched_output is not None}
    row = pick_up()
    if row.device_id is not None:
        fetched.setdefault(row.device_id, set()).update(map(int, row.fetched))
    return fetched


def _coming_bytes() -> dict[str, int]:
    """What has still to be written to each volume, for whichever device it is."""
    coming: dict[str, int] = {}
    for one in Handover.objects.filter(state__in=TO_COME):
        coming[one.volume_id] = coming.get(one.volume_id, 0) + one.coming_bytes
    return coming


@dataclass(frozen=True, slots=True, kw_only=True)
class _Destination:
    """Where files go: for a device or the library (``None``), with the volume if it is there, and what is left out."""

    device: Device | None
    storage: Storage | None
    volume: Volume | None
    listing: Listing
    network: NetworkFolder | None
    fetched: Set[int]
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


def _device_files(
    to: _Destination, outputs: Sequence[Output], only: int | None, *, listed: bool
) -> documents.DeviceFiles:
    handovers = {one.output_id: one for one in Handover.objects.filter(device=to.device)}
    known = (_file_of(output, handovers.get(output.pk), to) for output in outputs)
    files = _in_order((file for file in known if file), to.storage)
    why_not = _why_not(files, to) if to.storage and listed else {}
    shown = [file for file in files if only is None or file.output.pk == only] if listed else []
    states = Counter(file.state for file in files)
    return documents.DeviceFiles(
        device_id=to.device.pk if to.device else LIBRARY,
        device_name=to.device.name if to.device else say("The library"),
        storage=_storage(to.storage, to, files) if to.storage else None,
        count=len(files),
        there=states[FileState.THERE],
        waiting=states[FileState.WAITING],
        failed=states[FileState.FAILED],
        copying=next((file.fraction for file in files if file.state in (FileState.COPYING, FileState.VERIFYING)), None),
        network=_network(to.network) if to.network else None,
        asks=_question(to.device, files, to.fetched) if to.device else None,
        wished=bool(to.storage and to.storage.wishes),
        files=[_file(file, why_not, to.left_out) for file in shown[:MOST_FILES]],
        more=max(0, len(shown) - MOST_FILES),
    )


def _in_order(files: Iterable[_File], storage: Storage | None) -> list[_File]:
    """As they are wished for, then by their names."""
    wished = {output: at for at, output in enumerate(storage.wishes)} if storage else {}
    return sorted(files, key=lambda file: (wished.get(file.output.pk, len(wished)), natural_key(file.name)))


def _file_of(output: Output, handover: Handover | None, to: _Destination) -> _File | None:
    """``None`` for a file that is gone where it was made and was never handed over."""
    size_bytes = to.listing.size_of(Path(output.path)) or 0
    if not size_bytes and (handover is None or handover.state != HandoverState.DONE):
        return None
    name = called(output, to.folders)
    return _File(
        output=output,
        name=name,
        size_bytes=size_bytes or output.size_bytes,
        present=size_bytes > 0,
        handover=handover,
        state=_state(output, name, handover, to),
    )


def _state(output: Output, name: str, handover: Handover | None, to: _Destination) -> FileState:
    if handover is not None and handover.state in STATES:
        return STATES[HandoverState(handover.state)]
    storage, volume = to.storage, to.volume
    is_done = handover is not None and storage is not None and handover.volume_id == storage.volume_id
    if storage is None or volume is None:
        return FileState.THERE if is_done else FileState.READY
    if handover is not None and is_done and _lies(volume.path / handover.path, output, to.listing):
        return FileState.THERE
    named = list(to.listing.under_name(volume.path / storage.folder, name_on(volume, name)))
    if any(one.size_bytes == output.size_bytes for one in named):
        return FileState.THERE
    if named:
        return FileState.OTHER
    return FileState.GONE if is_done else FileState.READY


def _lies(path: Path, output: Output, listing: Listing) -> bool:
    found = next(listing.under_name(path.parent, path.name), None)
    return found is not None and found.size_bytes == output.size_bytes


def _why_not(files: Sequence[_File], to: _Destination) -> dict[int, str]:
    """Why files that are not there do not fit beside what is and what will be; empty for those that do."""
    room = Room(
        free_bytes=None if to.free_bytes is None else max(0, to.free_bytes - to.coming_bytes),
        kept_free_bytes=kept_free(to.total_bytes),
        unit_bytes=to.volume.unit_bytes if to.volume else 1,
        largest_file_bytes=to.largest_file_bytes,
    )
    wished = [file for file in files if file.state in OPEN and file.present and file.output.pk not in to.left_out]
    fits = what_fits([(file.output.pk, file.size_bytes) for file in wished], room)
    return {fit.key: sentence(fit.why_not) if fit.why_not else "" for fit in fits}


def _storage(storage: Storage, to: _Destination, files: Sequence[_File]) -> documents.Storage:
    return documents.Storage(
        volume_id=storage.volume_id,
        label=to.volume.label if to.volume else storage.label,
        folder=storage.folder,
        here=to.volume is not None,
        can_be_ejected=to.volume is not None and to.volume.kind is not VolumeKind.FOLDER,
        total_bytes=to.total_bytes,
        free_bytes=to.free_bytes,
        there_bytes=sum(file.size_bytes for file in files if file.state is FileState.THERE),
        coming_bytes=to.coming_bytes,
        kept_free_bytes=kept_free(to.total_bytes),
        seen=storage.seen,
    )


def _question(device: Device, files: Sequence[_File], fetched: Set[int]) -> documents.PlayedQuestion | None:
    """About the newest file that came there: once for a device, and again with the next one after it had trouble."""
    told = {
        file.output.pk: report["trouble"]
        for file in files
        for report in file.output.reports
        if report["device_id"] == device.pk
    }
    if None in told.values():
        return None
    came = [file for file in files if file.present and (file.state is FileState.THERE or file.output.pk in fetched)]
    newest = max((file.output for file in came), key=lambda output: output.pk, default=None)
    if newest is None or newest.pk <= max(told, default=0):
        return None
    return documents.PlayedQuestion(output_id=newest.pk, title_name=newest.title_name)


def _network(folder: NetworkFolder) -> documents.NetworkFolder:
    return documents.NetworkFolder(
        name=folder_name(folder.device), seen=folder.seen, fetched=folder.fetched, fetched_by=folder.fetched_by
    )


def _file(file: _File, why_not: Mapping[int, str], left_out: frozenset[int]) -> documents.FileForDevice:
    handover, key = file.handover, file.output.pk
    is_left = file.state in OPEN and key in left_out
    return documents.FileForDevice(
        output_id=key,
        handover_id=handover.pk if handover else None,
        title_name=file.output.title_name,
        file_name=file.name,
        size_bytes=file.size_bytes,
        state=FileState.LEFT_OUT if is_left else file.state,
        fraction=file.fraction,
        fits=file.present and key in why_not and not why_not[key],
        present=file.present,
        why=why_not.get(key, "") or (handover.error_message if handover and file.state in STATES.values() else ""),
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
