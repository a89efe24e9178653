"""Showing a device's files to the home network: in a folder of its name, until it is taken back."""

from __future__ import annotations

import secrets
import socket
from datetime import timedelta

from django.db.models import Q
from django.utils import timezone

from rheon.core.catalogue import say
from rheon.server.household.models import Device

from ..models import MediaServer, NetworkFolder, Output

TOKEN_BYTES = 12
NOTE_EVERY = timedelta(seconds=10)


def media_server() -> MediaServer:
    row, _ = MediaServer.objects.get_or_create(pk=1)
    return row


def server_name() -> str:
    """What a TV calls this installation among its sources."""
    return say("Rheon on {machine}", machine=socket.gethostname().partition(".")[0])


def folder_name(device: Device) -> str:
    """What the folder with its files is called there."""
    return say("For {device}", device=device.name)


def note_problem(problem: str) -> None:
    MediaServer.objects.filter(pk=media_server().pk).exclude(problem=problem).update(problem=problem)


def show(device: Device) -> NetworkFolder:
    """Let whoever is in the home network see and play what was made for a device."""
    found, _ = NetworkFolder.objects.get_or_create(
        device=device, defaults={"token": secrets.token_urlsafe(TOKEN_BYTES)}
    )
    return found


def hide(device: Device) -> None:
    """Take it back: what is being given is broken off, and the addresses open nothing any more."""
    NetworkFolder.objects.filter(device=device).delete()


def shown_file(token: str, output_id: int) -> tuple[NetworkFolder, Output] | None:
    """A file that is shown under an address."""
    folder = NetworkFolder.objects.filter(token=token).first()
    output = Output.objects.filter(pk=output_id, is_sample=False).first()
    return (folder, output) if folder and output and folder.device_id in output.device_ids else None


def note_seen(folder: NetworkFolder) -> None:
    now = timezone.now()
    NetworkFolder.objects.filter(Q(seen=None) | Q(seen__lt=now - NOTE_EVERY), pk=folder.pk).update(seen=now)


def note_fetched(folder: NetworkFolder, output: Output, address: str) -> None:
    """A player asks for range after range: not each is written down."""
    now = timezone.now()
    news = Q(fetched=None) | Q(fetched__lt=now - NOTE_EVERY) | ~Q(fetched_output=output.pk)
    found = NetworkFolder.objects.filter(news, pk=folder.pk)
    found.update(fetched=now, fetched_by=address, fetched_output=output.pk)
