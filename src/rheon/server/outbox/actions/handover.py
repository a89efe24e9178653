"""Handing outputs over: where a device's files go, which are to come, and copying them one after the other."""

from __future__ import annotations

import logging
import time
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

from django.db import transaction
from django.db.models import F, QuerySet
from django.utils import timezone

from rheon.core.catalogue import say
from rheon.core.encoding import Hooks, Progress
from rheon.core.errors import DeviceGone, RheonError, SourceMissing, Stopped
from rheon.core.handover import CopyOrder, Listing, Volume, clear_parts, folder_on, hand_over
from rheon.core.naming.episodes import natural_key
from rheon.server.claims import Claims
from rheon.server.household.actions.devices import note_free
from rheon.server.household.models import Device
from rheon.server.worklist.actions.run import UNFORESEEN

from ..models import TO_COME, UNDER_WAY, Handover, HandoverState, Output, Storage
from ..names import called
from ..tasks import hand_over_task
from ..volumes import eject, plug_in, volume_here

log = logging.getLogger("rheon")
TELL_EVERY_S = 0.4
MOST_ATTEMPTS = 5
in_hand = Claims(Handover.objects.all)
ENDED_AGAIN = "The worker was ended each time that it copied this. Try another stick or card."


def set_storage(device: Device | None, volume_id: str, folder: str) -> Storage:
    """Say where a device's files go, or the library's. Raises ``DeviceGone`` where the volume is not there."""
    volume = volume_here(volume_id)
    if volume is None:
        raise DeviceGone("The device is not plugged in.", advice="Plug it in, then choose it.")
    _clear(Storage.objects.filter(device=device).exclude(volume_id=volume.id))
    storage, _ = Storage.objects.update_or_create(
        device=device, defaults={"volume_id": volume.id, "folder": folder_on(volume, folder)}
    )
    _note(volume)
    Handover.objects.filter(device=device, state=HandoverState.WAITING).update(volume_id=volume.id)
    transaction.on_commit(hand_over_task.enqueue)
    return storage


def set_wishes(device: Device | None, outputs: Sequence[int]) -> None:
    """Keep the order in which files are wished for there. Raises ``DeviceGone`` where nobody has said where they go."""
    storage = _storage_of(device)
    storage.wishes = list(dict.fromkeys(outputs))
    storage.save(update_fields=["wishes"])


def forget_storage(device: Device | None) -> None:
    Storage.objects.filter(device=device).delete()


def eject_volume(volume_id: str) -> None:
    """Have everything written and the volume unmounted. Raises ``EjectRefused`` or ``DeviceGone``."""
    if volume := volume_here(volume_id):
        _note(volume)
    eject(volume_id)


def plug_in_now(label: str) -> None:
    """Plug a stand-in in; what waits for it goes on. Raises ``TargetError``."""
    plug_in(label)
    hand_over_task.enqueue()


def want_copies(device: Device | None, outputs: Sequence[Output], *, replace: bool = False) -> None:
    """Have outputs copied onto a device, in the order of their names, in which players without a list show them.

    ``replace``: other files of their names give way to them, once they are verified. Without a device they go into the
    library. Raises ``DeviceGone`` where nobody has said where its files go, and ``SourceMissing``.
    """
    storage = _storage_of(device)
    with transaction.atomic():
        for output in sorted(outputs, key=lambda one: natural_key(called(one))):
            _want(output, device, storage, replace=replace)
        transaction.on_commit(hand_over_task.enqueue)


def _storage_of(device: Device | None) -> Storage:
    storage = Storage.objects.filter(device=device).first()
    if storage is None:
        name = device.name if device else say("the library")
        raise DeviceGone("Nobody has said where the files for {device} go.", device=name, advice="Choose a place.")
    return storage


def _want(output: Output, device: Device | None, storage: Storage, *, replace: bool) -> None:
    size_bytes = Listing().size_of(Path(output.path))
    if size_bytes is None:
        raise SourceMissing("{title} is not where it was made any more.", title=output.title_name)
    if Handover.objects.filter(output=output, device=device, state__in=TO_COME).exists():
        return
    # a new row: copies are made in the order in which they were asked for
    Handover.objects.filter(output=output, device=device).delete()
    Handover.objects.create(
        output=output,
        device=device,
        name=called(output),
        volume_id=storage.volume_id,
        size_bytes=size_bytes,
        replaces=replace,
    )


def stop(handover: Handover) -> None:
    """Nothing of it stays on the device; what is there already does."""
    with transaction.atomic():
        if not Handover.objects.filter(pk=handover.pk, state=HandoverState.WAITING).delete()[0]:
            Handover.objects.filter(pk=handover.pk, state__in=UNDER_WAY).update(stop_requested=True)
            Handover.objects.filter(pk=handover.pk, state=HandoverState.FAILED).delete()


def hand_over_all() -> None:
    """Copy until nothing waits whose volume is there, and leave no parts on those for which nothing waits."""
    while _run_next():
        pass
    coming = set(Handover.objects.filter(state__in=TO_COME).values_list("volume_id", flat=True))
    _clear(Storage.objects.exclude(volume_id__in=coming))


def _clear(storages: QuerySet[Storage]) -> None:
    for storage in storages:
        if volume := volume_here(storage.volume_id):
            clear_parts(volume.path / storage.folder)


def recover() -> int:
    """Let what nobody copies any more wait again; returns how much that was."""
    lost = [one for one in Handover.objects.filter(state__in=UNDER_WAY) if in_hand.is_lost(one.pk, one.lease)]
    for handover in lost:
        if handover.stop_requested:
            handover.delete()
        elif handover.attempts >= MOST_ATTEMPTS:
            _end(handover, state=HandoverState.FAILED, error_code="interrupted", error_message=ENDED_AGAIN)
        else:
            _end(handover, state=HandoverState.WAITING)
    return len(lost)


def may_go_on() -> bool:
    """Whether something waits whose volume is there."""
    return _first_waiting() is not None


def _run_next() -> bool:
    with in_hand.holding(_claim) as claimed:
        if claimed is not None:
            _run(Handover.objects.select_related("output", "device").get(pk=claimed))
    return claimed is not None


def _first_waiting() -> int | None:
    rows = Handover.objects.filter(state=HandoverState.WAITING).values_list("pk", "volume_id")
    there: dict[str, bool] = {}
    for pk, volume_id in rows:
        if volume_id not in there:
            there[volume_id] = volume_here(volume_id) is not None
        if there[volume_id]:
            return pk
    return None


def _claim() -> int | None:
    if (pk := _first_waiting()) is None:
        return None
    claimed = Handover.objects.filter(pk=pk, state=HandoverState.WAITING).update(
        state=HandoverState.COPYING, **Claims.mine(), attempts=F("attempts") + 1, done_bytes=0, error_message=""
    )
    return pk if claimed else None


def _run(handover: Handover) -> None:
    try:
        _carry_out(handover)
    except Stopped:
        handover.delete()
    except DeviceGone as error:
        # pulled out is no fault of it; one that is there and does not answer is tried some times only
        attempts = handover.attempts if volume_here(handover.volume_id) else 0
        state = HandoverState.WAITING if attempts < MOST_ATTEMPTS else HandoverState.FAILED
        _end(handover, state=state, attempts=attempts, error_code=error.code, error_message=error.message)
    except RheonError as error:
        _end(handover, state=HandoverState.FAILED, error_code=error.code, error_message=error.message)
    except Exception:
        log.exception("handover %s failed", handover.pk)
        _end(handover, state=HandoverState.FAILED, error_code="unforeseen", error_message=UNFORESEEN)


def _carry_out(handover: Handover) -> None:
    """Raises ``RheonError``."""
    volume = volume_here(handover.volume_id)
    if volume is None:
        raise DeviceGone("The device is not plugged in.")
    storage = Storage.objects.filter(device=handover.device, volume_id=volume.id).first()
    order = CopyOrder(
        source=Path(handover.output.path),
        folder=storage.folder if storage else "",
        name=handover.name,
        look=lambda: volume_here(volume.id),
        replaces=handover.replaces,
    )
    course = _Course(handover)
    copied = hand_over(order, Hooks(on_progress=course.on_progress, should_stop=course.should_stop))
    if now := volume_here(volume.id):
        _note(now)
    _end(
        handover,
        state=HandoverState.DONE,
        path=copied.path.relative_to(volume.path).as_posix(),
        was_there=copied.was_there,
        done_bytes=handover.size_bytes,
    )


@dataclass(slots=True)
class _Course:
    """Told of each step of a copy, it writes the row now and then, and asks it whether to stop."""

    handover: Handover
    told: float = 0.0
    is_stopped: bool = False

    def on_progress(self, step: Progress) -> None:
        if time.monotonic() - self.told < TELL_EVERY_S:
            return
        self.told = time.monotonic()
        row = Handover.objects.filter(pk=self.handover.pk)
        state = HandoverState.COPYING if step.fraction < 0.5 else HandoverState.VERIFYING
        row.update(state=state, done_bytes=round(step.fraction * self.handover.size_bytes))
        self.is_stopped = not row.filter(stop_requested=False).exists()

    def should_stop(self) -> bool:
        return self.is_stopped


def _end(handover: Handover, **facts: object) -> None:
    Handover.objects.filter(pk=handover.pk).update(host="", worker="", ended=timezone.now(), **facts)


def _note(volume: Volume) -> None:
    """Keep how it is now with all storages on it, and what is free there with their devices."""
    storages = Storage.objects.filter(volume_id=volume.id)
    storages.update(
        label=volume.label, total_bytes=volume.total_bytes, free_bytes=volume.free_bytes, seen=timezone.now()
    )
    if volume.free_bytes is not None:
        note_free([pk for pk in storages.values_list("device_id", flat=True) if pk], volume.free_bytes)
