"""What belongs to the installation itself: how it was set up, and who may use it."""

from __future__ import annotations

from django.db import models


class Home(models.Model):
    """One row. ``outputs`` are the folders chosen in the page for what is made, the last of them now.

    ``stamp`` changes with the passphrase: a browser that signed in under another one is signed out.
    """

    outputs = models.JSONField(default=list)
    set_up = models.DateTimeField(null=True)
    passphrase = models.CharField(max_length=200, blank=True)
    stamp = models.CharField(max_length=32, blank=True)


class Attempt(models.Model):
    """A wrong passphrase, and the address that it came from."""

    address = models.CharField(max_length=64, db_index=True)
    at = models.DateTimeField(auto_now_add=True, db_index=True)
