"""Pages for devices of the home network: open for a while, for whoever knows the code."""

from __future__ import annotations

import secrets
from datetime import timedelta
from ipaddress import ip_address

import segno
from django.conf import settings
from django.db import models
from django.db.models import F
from django.utils import timezone

from rheon.core.catalogue import say
from rheon.core.system import own_address

MOST_WRONG = 10


class Coded(models.Model):
    """One row: what is open until ``open_until`` for whoever knows the code; wrong ones are counted."""

    code = models.CharField(max_length=12, blank=True)
    open_until = models.DateTimeField(null=True)
    wrong_tries = models.PositiveIntegerField(default=0)
    address = models.CharField(max_length=120, blank=True)
    problem = models.TextField(blank=True)

    class Meta:
        abstract = True

    @property
    def is_open(self) -> bool:
        return bool(self.code and self.open_until and self.open_until > timezone.now())

    def open_up(self, letters: str, length: int, lasting: timedelta) -> None:
        """Open it under a new code; kept when it is saved."""
        self.code = "".join(secrets.choice(letters) for _ in range(length))
        self.open_until = timezone.now() + lasting
        self.wrong_tries, self.problem = 0, ""
        self.address = devices_address()

    def shut(self, problem: str = "") -> None:
        """Shut it, and forget the code; kept when it is saved."""
        self.code, self.open_until, self.problem = "", None, problem

    def lets_in(self, code: str) -> bool:
        """Whether the code lets a device in now; too many wrong ones shut it."""
        if not self.is_open:
            return False
        if secrets.compare_digest(self.code.encode(), code.strip().lower().encode()):
            return True
        rows = type(self)._default_manager.filter(pk=self.pk)
        rows.update(wrong_tries=F("wrong_tries") + 1)
        if self.wrong_tries + 1 >= MOST_WRONG:
            self.shut(say("Somebody tried wrong codes too often, so the page was shut."))
            rows.update(code="", open_until=None, problem=self.problem)
        return False


def qr(text: str) -> tuple[str, int]:
    """A QR code (ISO/IEC 18004) as an SVG path, without its quiet zone, and its side in modules."""
    matrix = [bytes(row) for row in segno.make_qr(text, error="m").matrix]
    squares = [f"M{x} {y}h1v1h-1z" for y, row in enumerate(matrix) for x, dark in enumerate(row) if dark]
    return "".join(squares), len(matrix)


def devices_address() -> str:
    """Where devices of the network reach the pages for them."""
    return f"http://{serving_host()}:{settings.RHEON_PAIRING_PORT}/"


def serving_host() -> str:
    """The one address that they are served at, or of those this machine has, the one for the home network."""
    host = str(settings.RHEON_PAIRING_HOST)
    if ip_address("127.0.0.1" if host == "localhost" else host).is_unspecified:
        return own_address()
    return f"[{host}]" if ":" in host else host
