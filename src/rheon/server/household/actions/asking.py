"""Asking a device itself: opening and closing the door, and taking its answers."""

from __future__ import annotations

import secrets
import socket
from datetime import timedelta
from typing import Any

from django.conf import settings
from django.db.models import F
from django.utils import timezone
from pydantic import ValidationError

from rheon.core.devices import DeviceAnswers, asked_profile
from rheon.core.errors import BadProfile

from ..models import Asking

OPEN_FOR = timedelta(minutes=15)
LETTERS = "abcdefghjkmnpqrstuvwxyz23456789"
CODE_LENGTH = 6
MOST_WRONG = 10


def asking() -> Asking:
    row, _ = Asking.objects.get_or_create(pk=1)
    return row


def is_open(row: Asking) -> bool:
    return bool(row.code and row.open_until and row.open_until > timezone.now())


def open_door() -> Asking:
    """Let one device in for a quarter of an hour, under a new code."""
    row = asking()
    row.code = "".join(secrets.choice(LETTERS) for _ in range(CODE_LENGTH))
    row.open_until = timezone.now() + OPEN_FOR
    row.wrong_tries, row.at_clip, row.problem, row.profile = 0, 0, "", None
    row.address = f"http://{own_address()}:{settings.RHEON_DOOR_PORT}/"
    row.save()
    return row


def close_door() -> Asking:
    """Shut it, and forget the code."""
    row = asking()
    row.code, row.open_until, row.at_clip = "", None, 0
    row.save()
    return row


def lets_in(code: str) -> bool:
    """Whether the code opens the door now; wrong ones are counted, and too many shut it."""
    row = asking()
    if not is_open(row):
        return False
    if secrets.compare_digest(row.code.encode(), code.strip().lower().encode()):
        return True
    Asking.objects.filter(pk=row.pk).update(wrong_tries=F("wrong_tries") + 1)
    if row.wrong_tries + 1 >= MOST_WRONG:
        row = close_door()
        row.problem = "Somebody tried wrong codes too often, so the page was shut."
        row.save(update_fields=["problem"])
    return False


def tell_clip(number: int) -> None:
    """The device is at this clip."""
    Asking.objects.filter(pk=1).update(at_clip=number)


def take_answers(document: Any) -> Asking:
    """Keep the profile that the answers add up to, and shut the door: the code is spent. Raises ``BadProfile``."""
    try:
        profile = asked_profile(DeviceAnswers.model_validate(document), "The device that was asked")
    except ValidationError as error:
        raise BadProfile("These are no answers of the page.", fields=[]) from error
    except ValueError as error:
        row = close_door()
        row.problem = str(error)
        row.save(update_fields=["problem"])
        return row
    row = close_door()
    row.profile = profile.model_dump(mode="json")
    row.save(update_fields=["profile"])
    return row


def drop_answers() -> None:
    Asking.objects.filter(pk=1).update(profile=None, problem="")


def own_address() -> str:
    """The address under which other devices of the network reach this machine; nothing is sent to find it."""
    try:
        with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as probe:
            probe.connect(("192.0.2.1", 9))  # an address for documentation (RFC 5737)
            return str(probe.getsockname()[0])
    except OSError:
        return "127.0.0.1"
