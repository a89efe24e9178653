"""What belongs to the installation itself: how it was set up, and who may use it."""

from __future__ import annotations

from django.db import models


class Home(models.Model):
    """One row. ``outputs`` are the folders chosen in the page for what is made, the last of them now.

    ``stamp`` changes with the passphrase: a browser that signed in under another one is signed out.

    ``trials`` are what trying encoders in hardware came to, on a machine that ``hardware_mark`` stands for (empty: they
    are to be tried again); ``costs`` what was measured of those that work, by name; ``failures`` what the engine said
    of those that failed at titles since, one after the other. They are used where ``prefers_speed``. ``pace`` is how
    many times as long this machine takes as those that Rheon was made for. ``naming`` are the patterns by which files
    are called, by the kind of their content, where they are not those that Rheon begins with. ``looks_up`` allows that
    the look-up service of the settings is asked.
    """

    outputs = models.JSONField(default=list)
    set_up = models.DateTimeField(null=True)
    passphrase = models.CharField(max_length=200, blank=True)
    stamp = models.CharField(max_length=32, blank=True)
    trials = models.JSONField(default=list)
    hardware_mark = models.TextField(blank=True)
    costs = models.JSONField(default=dict)
    failures = models.JSONField(default=dict)
    prefers_speed = models.BooleanField(default=False)
    pace = models.FloatField(default=1.0)
    naming = models.JSONField(default=dict)
    looks_up = models.BooleanField(default=False)


class Attempt(models.Model):
    """A wrong passphrase, and the address that it came from."""

    address = models.CharField(max_length=64, db_index=True)
    at = models.DateTimeField(auto_now_add=True, db_index=True)
