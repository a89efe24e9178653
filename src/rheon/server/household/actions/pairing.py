"""Asking a device itself: turning pairing on and off, and taking its answers."""

from __future__ import annotations

import secrets
import socket
from datetime import timedelta
from typing import Any

from django.conf import settings
from django.db.models import F
from django.utils import timezone
from pydantic import ValidationError

from rheon.core.catalogue import say
from rheon.core.devices import DeviceAnswers, asked_profile
from rheon.core.errors import BadProfile

from ..models import Pairing

OPEN_FOR = timedelta(minutes=15)
LETTERS = "abcdefghjkmnpqrstuvwxyz23456789"
CODE_LENGTH = 6
MOST_WRONG = 10


def pairing() -> Pairing:
    row, _ = Pairing.objects.get_or_create(pk=1)
    return row


def open_pairing() -> Pairing:
    """Let one device in for a quarter of an hour, under a new code."""
    row = pairing()
    row.code = "".join(secrets.choice(LETTERS) for _ in range(CODE_LENGTH))
    row.open_until = timezone.now() + OPEN_FOR
    row.wrong_tries, row.at_clip, row.problem, row.profile = 0, 0, "", None
    row.address = f"http://{own_address()}:{settings.RHEON_PAIRING_PORT}/"
    row.save()
    return row


def close_pairing() -> Pairing:
    """Shut it, and forget the code."""
    row = pairing()
    row.code, row.open_until, row.at_clip = "", None, 0
    row.save()
    return row


def lets_in(code: str) -> bool:
    """Whether the code lets a device in now; wrong ones are counted, and too many end it."""
    row = pairing()
    if not row.is_open:
        return False
    if secrets.compare_digest(row.code.encode(), code.strip().lower().encode()):
        return True
    Pairing.objects.filter(pk=row.pk).update(wrong_tries=F("wrong_tries") + 1)
    if row.wrong_tries + 1 >= MOST_WRONG:
        row = close_pairing()
        row.problem = say("Somebody tried wrong codes too often, so the page was shut.")
        row.save(update_fields=["problem"])
    return False


def tell_clip(number: int) -> None:
    """The device is at this clip."""
    Pairing.objects.filter(pk=1).update(at_clip=number)


def take_answers(document: Any) -> Pairing:
    """Keep the profile that the answers add up to, and end the pairing: the code is spent. Raises ``BadProfile``."""
    try:
        profile = asked_profile(DeviceAnswers.model_validate(document), say("The device that was asked"))
    except ValidationError as error:
        raise BadProfile("These are no answers of the page.", fields=[]) from error
    except ValueError as error:
        row = close_pairing()
        row.problem = str(error)
        row.save(update_fields=["problem"])
        return row
    row = close_pairing()
    row.profile = profile.model_dump(mode="json")
    row.save(update_fields=["profile"])
    return row


def drop_answers() -> None:
    Pairing.objects.filter(pk=1).update(profile=None, problem="")


def own_address() -> str:
    """The address under which other devices of the network reach this machine; nothing is sent to find it."""
    try:
        with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as probe:
            probe.connect(("192.0.2.1", 9))  # an address for documentation (RFC 5737)
            return str(probe.getsockname()[0])
    except OSError:
        return "127.0.0.1"
