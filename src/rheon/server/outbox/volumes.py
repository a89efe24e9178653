"""The volumes that the settings' finders know, and the one that a device's files go to."""

from __future__ import annotations

from functools import cache

from django.conf import settings

from rheon.core.errors import DeviceGone, SourceError, TargetError
from rheon.core.handover import Drawer, Volume, Volumes, folder_as_volume, open_volumes
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
        try:
            return folder_as_volume(inside(volume_id))
        except SourceError:
            return None
    return found


def eject(volume_id: str) -> None:
    """Raises ``DeviceGone`` or ``EjectRefused``."""
    for finder in finders():
        for volume in finder.volumes():
            if volume.id == volume_id:
                finder.eject(volume)
                return
    raise DeviceGone("The device is not plugged in.", advice="")


def lying() -> list[str]:
    """What could be plugged in from the page, by label."""
    return [label for finder in finders() if isinstance(finder, Drawer) for label in finder.lying()]


def pluggable() -> list[str]:
    """What is plugged in and could be taken out from the page, by label."""
    return [volume.label for finder in finders() if isinstance(finder, Drawer) for volume in finder.volumes()]


def plug_in(label: str) -> None:
    """Raises ``TargetError`` where there is no such thing."""
    drawer = next((one for one in finders() if isinstance(one, Drawer) and label in one.lying()), None)
    if drawer is None:
        raise TargetError(
            "There is nothing called {label} to be plugged in.", label=label, advice="Load the page again."
        )
    drawer.plug_in(label)


def pull_out(label: str) -> None:
    """Without a word before it, as people do. Raises ``TargetError`` where there is no such thing."""
    drawer = next((one for one in finders() if isinstance(one, Drawer)), None)
    if drawer is None or label not in {volume.label for volume in drawer.volumes()}:
        raise TargetError(
            "There is nothing called {label} to be taken out.", label=label, advice="Load the page again."
        )
    drawer.pull_out(label)
