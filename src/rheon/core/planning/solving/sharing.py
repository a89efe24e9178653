"""Several devices from as few files as can be. Pure.

A device accepts *offers*: a container with a kind of picture and a kind of sound in it. Devices can share a file where
some offer is accepted by all of them, so the smallest set of files is a smallest cover of the devices by offers.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from ...devices import DeviceProfile, Verdict, careful
from ...devices.rules import takes_audio, takes_video
from ...errors import PlanError
from ...formats import CONTAINERS, ENCODABLE_AUDIO, video_encoder
from ...media import Title
from ..picture.entries import encodable_entries
from ..plan import Plan
from ..request import PlanRequest
from ..sound.audio import chosen_tracks
from ..sound.figures import usable_rates
from .planner import plan

MOST_COVERS = 24
COPIED = "copied"

Offer = tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Shared:
    """One file and the devices it serves."""

    devices: tuple[DeviceProfile, ...]
    plan: Plan


@dataclass(frozen=True, slots=True, kw_only=True)
class Sharing:
    """The smallest set of files for some devices; ``as_it_is`` need none, for ``impossible`` none can be made."""

    files: tuple[Shared, ...]
    as_it_is: tuple[DeviceProfile, ...]
    impossible: tuple[DeviceProfile, ...]


def share_files(request: PlanRequest) -> Sharing:
    """Share files between the devices of a request. Raises ``BadPin``."""
    request = replace(request, devices=tuple(careful(one) for one in request.devices))
    alone = {device.id: _alone(request, device) for device in request.devices}
    as_it_is = tuple(d for d in request.devices if alone[d.id] is Verdict.PLAYS)
    wanting = [d for d in request.devices if alone[d.id] not in (Verdict.PLAYS, Verdict.CANNOT)]
    impossible = tuple(d for d in request.devices if alone[d.id] is Verdict.CANNOT)
    return Sharing(files=_fewest(request, wanting), as_it_is=as_it_is, impossible=impossible)


def _alone(request: PlanRequest, device: DeviceProfile) -> Verdict:
    try:
        return plan(replace(request, devices=(device,))).treatment
    except PlanError:
        return Verdict.CANNOT


def _fewest(request: PlanRequest, devices: Sequence[DeviceProfile]) -> tuple[Shared, ...]:
    if not devices:
        return ()
    masks = _masks(request, devices)
    plans: dict[int, Plan | None] = {}
    best: tuple[float, tuple[Shared, ...]] | None = None
    for cover in _covers(masks, (1 << len(devices)) - 1):
        shared = _shared(request, devices, cover, plans)
        if shared is not None:
            worth = sum(len(file.devices) * _pixels(file.plan) for file in shared)
            if best is None or worth > best[0]:
                best = (worth, shared)
    assert best is not None, "each device alone is a cover"
    return best[1]


def _pixels(made: Plan) -> float:
    video = made.settings.video if made.settings else None
    return video.width * video.height if video else 0


def _shared(
    request: PlanRequest, devices: Sequence[DeviceProfile], cover: tuple[int, ...], plans: dict[int, Plan | None]
) -> tuple[Shared, ...] | None:
    """The files of a cover, each device with the first that takes it; ``None`` where one of them can't be planned."""
    left = (1 << len(devices)) - 1
    files = []
    for mask in sorted(cover, key=lambda mask: -mask.bit_count()):
        mine = mask & left
        left &= ~mine
        served = tuple(device for place, device in enumerate(devices) if mine >> place & 1)
        if mine not in plans:
            plans[mine] = _planned(request, served)
        made = plans[mine]
        if made is None:
            return None
        files.append(Shared(devices=served, plan=made))
    return tuple(files)


def _planned(request: PlanRequest, devices: tuple[DeviceProfile, ...]) -> Plan | None:
    try:
        made = plan(replace(request, devices=devices))
    except PlanError:
        return None
    return made if made.settings else None


def _masks(request: PlanRequest, devices: Sequence[DeviceProfile]) -> list[int]:
    """For each offer the devices that accept it, as bits; only those that no other contains, and each device alone."""
    found: dict[Offer, int] = {}
    for place, device in enumerate(devices):
        for offer in _offers(request, device):
            found[offer] = found.get(offer, 0) | 1 << place
    masks = set(found.values())
    largest = [mask for mask in masks if not any(mask != other and mask & ~other == 0 for other in masks)]
    singles = [1 << place for place in range(len(devices)) if not any(mask >> place & 1 for mask in largest)]
    return sorted([*largest, *singles], key=lambda mask: (-mask.bit_count(), mask))


def _covers(masks: list[int], everyone: int) -> Iterator[tuple[int, ...]]:
    """Smallest covers of all bits, some of them where there are many: deepening, always on the first bit left."""

    def extend(chosen: tuple[int, ...], left: int, more: int) -> Iterator[tuple[int, ...]]:
        if not left:
            yield chosen
        elif more:
            first = left & -left
            for mask in masks:
                if mask & first:
                    yield from extend((*chosen, mask), left & ~mask, more - 1)

    for size in range(1, everyone.bit_count() + 1):
        covers = [cover for _, cover in zip(range(MOST_COVERS), extend((), everyone, size), strict=False)]
        if covers:
            yield from covers
            return


def _offers(request: PlanRequest, device: DeviceProfile) -> Iterator[Offer]:
    title = request.title
    for entry in device.containers:
        for picture in _pictures(title, device, entry.format):
            for sound in _sounds(request, device, entry.format):
                yield (entry.format, entry.extension, *picture, *sound)


def _pictures(title: Title, device: DeviceProfile, container: str) -> Iterator[Offer]:
    if title.video is None or not device.video:
        yield ("no picture",) if title.video is None else ("left out",)
        return
    if title.video.codec in CONTAINERS[container].video and takes_video(title.video, device):
        yield (COPIED,)
    for entry in encodable_entries(device, container):
        for profile in entry.profiles or video_encoder(entry.codec).profiles or ("any",):
            if profile == "any" or profile in video_encoder(entry.codec).profiles:
                yield (entry.codec, profile)


def _sounds(request: PlanRequest, device: DeviceProfile, container: str) -> Iterator[Offer]:
    tracks = chosen_tracks(request)
    held = CONTAINERS[container].audio
    if not tracks:
        yield ("silent",)
        return
    if all(track.codec in held and takes_audio(track, device) for track in tracks):
        yield (COPIED,)
    for entry in device.audio:
        if entry.codec in ENCODABLE_AUDIO and entry.codec in held:
            yield from ((entry.codec, str(rate)) for rate in usable_rates(entry))
