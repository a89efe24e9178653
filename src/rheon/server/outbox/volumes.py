"""The volumes that the settings' finders know, and the one that a device's files go to."""

from __future__ import annotations

from functools import cache

from django.conf import settings

from rheon.core.errors import DeviceGone, SourceError, TargetError
from rheon.core.handover import Drawer, Volume, Volumes, folder_as_volume, open_volumes
from rheon.core.system import within_patience
from rheon.server.shelf.folders import inside

_opened = cache(open_volumes)


def finders() -> tuple[Volumes, ...]:
    return tuple(_opened(where) for where in settings.RHEON_VOLUMES)


def volumes_here() -> tuple[Volume, ...]:
    """What is plugged in or mounted now."""
    return tuple(volume for finder in finders() for volume in finder.volumes())


def volume_here(volume_id: str) -> Volume | None:
    """What has the id now; one that is a path is a folder of this machine, as long as files may go there."""
    found = next((volume for volume in volumes_here() if volume.id == volume_id), None)
    if found is None and volume_id.startswith("/"):
        return within_patience(volume_id, lambda: _folder(volume_id))
    return found


def _folder(path: str) -> Volume | None:
    try:
        return folder_as_volume(inside(path))
    except SourceError:
        return None


def eject(volume_id: str) -> None:
    """Raises ``DeviceGone`` or ``EjectRefused``."""
    found = ((finder, volume) for finder in finders() for volume in finder.volumes() if volume.id == volume_id)
    finder, volume = next(found, (None, None))
    if finder is None or volume is None:
        raise DeviceGone("The device is not plugged in.", advice="")
    finder.eject(volume)


def unplugged() -> list[str]:
    """What could be plugged in from the page, by label."""
    return [label for drawer in _drawers() for label in drawer.unplugged()]


def plugged() -> list[str]:
    """What is plugged in and could be taken out from the page, by label."""
    return [volume.label for drawer in _drawers() for volume in drawer.volumes()]


def _drawers() -> list[Drawer]:
    return [finder for finder in finders() if isinstance(finder, Drawer)]


def plug_in(label: str) -> None:
    """Raises ``TargetError`` where there is no such thing."""
    drawer = next((one for one in _drawers() if label in one.unplugged()), None)
    if drawer is None:
        raise TargetError(
            "There is nothing called {label} to be plugged in.", label=label, advice="Load the page again."
        )
    drawer.plug_in(label)


def pull_out(label: str) -> None:
    """Without a word before it, as people do. Raises ``TargetError`` where there is no such thing."""
    drawer = next((one for one in _drawers() if label in {volume.label for volume in one.volumes()}), None)
    if drawer is None:
        raise TargetError(
            "There is nothing called {label} to be taken out.", label=label, advice="Load the page again."
        )
    drawer.pull_out(label)
