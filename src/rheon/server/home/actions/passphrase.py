"""The passphrase: setting it, giving it, and being let in."""

from __future__ import annotations

import ipaddress
import secrets
from datetime import timedelta

from django.contrib.auth.hashers import check_password, make_password
from django.contrib.sessions.backends.base import SessionBase
from django.contrib.sessions.models import Session
from django.utils import timezone

from rheon.core.errors import PassphraseRefused, TooManyTries

from ..models import Attempt
from ..queries import home
from .row import change_home

LEAST = 8
MARK = "signed-in-under"
WINDOW = timedelta(minutes=15)
MOST_OF_ONE, MOST_OF_ALL = 8, 60
"""Wrong tries within the window, from one address and from everywhere: a thousand words take days."""


def set_passphrase(text: str) -> None:
    """Ask for this passphrase from now on; whoever was signed in is not any more. Raises ``PassphraseRefused``."""
    if len(text.strip()) < LEAST:
        raise PassphraseRefused(
            "This passphrase is shorter than {least} characters.", least=LEAST, advice="A few words in a row are good."
        )
    change_home(passphrase=make_password(text), stamp=secrets.token_hex(8))
    end_sessions()


def take_passphrase_away() -> None:
    """Ask for none any more."""
    change_home(passphrase="", stamp="")
    end_sessions()


def end_sessions(*, but: str | None = None) -> int:
    """Sign out every browser, except the one of the session ``but``; returns how many."""
    return Session.objects.exclude(session_key=but).delete()[0]


def sign_in(session: SessionBase, text: str, address: str) -> None:
    """Let a browser in. Raises ``TooManyTries`` or ``PassphraseRefused``."""
    who, since = _network(address), timezone.now() - WINDOW
    Attempt.objects.filter(at__lt=since).delete()
    if Attempt.objects.filter(address=who).count() >= MOST_OF_ONE or Attempt.objects.count() >= MOST_OF_ALL:
        raise TooManyTries("Too many wrong passphrases came in the last quarter of an hour.")
    # counted before it is looked at: tries at the same moment count too
    attempt = Attempt.objects.create(address=who)
    row = home()
    if not row.passphrase or not check_password(text, row.passphrase):
        raise PassphraseRefused("That is not the passphrase.")
    attempt.delete()
    session.cycle_key()
    session[MARK] = row.stamp


def sign_out(session: SessionBase) -> None:
    session.flush()


def is_signed_in(session: SessionBase) -> bool:
    """Whether this browser gave the passphrase that counts now; ``True`` where none is asked for."""
    row = home()
    return not row.passphrase or session.get(MARK) == row.stamp


def _network(address: str) -> str:
    """The address, of IPv6 the part that one household has."""
    try:
        found = ipaddress.ip_address(address)
    except ValueError:
        return address[:64]
    return str(ipaddress.ip_network((found, 64), strict=False)) if found.version == 6 else str(found)
