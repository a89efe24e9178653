"""Asking a device itself: turning pairing on and off, and taking its answers."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from pydantic import ValidationError

from rheon.core.catalogue import say
from rheon.core.devices import DeviceAnswers, asked_profile
from rheon.core.errors import BadProfile

from ..models import Pairing

OPEN_FOR = timedelta(minutes=15)
LETTERS = "abcdefghjkmnpqrstuvwxyz23456789"
CODE_LENGTH = 6


def pairing() -> Pairing:
    row, _ = Pairing.objects.get_or_create(pk=1)
    return row


def open_pairing() -> Pairing:
    """Let one device in for a quarter of an hour, under a new code."""
    row = pairing()
    row.open_up(LETTERS, CODE_LENGTH, OPEN_FOR)
    row.at_clip, row.profile = 0, None
    row.save()
    return row


def close_pairing(problem: str = "") -> Pairing:
    """Shut it, and forget the code."""
    row = pairing()
    row.shut(problem)
    row.at_clip = 0
    row.save()
    return row


def lets_in(code: str) -> bool:
    """Whether the code lets a device in now; wrong ones are counted, and too many end it."""
    return pairing().lets_in(code)


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
        return close_pairing(str(error))
    row = close_pairing()
    row.profile = profile.model_dump(mode="json")
    row.save(update_fields=["profile"])
    return row


def drop_answers() -> None:
    Pairing.objects.filter(pk=1).update(profile=None, problem="")
