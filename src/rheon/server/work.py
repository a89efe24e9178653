"""Background work: who asks for it and who does it need not know each other; they are bound when all are there.

The places import this module rather than ``Place`` from it: Django takes an ``apps`` module's only ``AppConfig``.
"""

from __future__ import annotations

from collections.abc import Callable
from importlib import import_module

from django.apps import AppConfig


class Work:
    """Something to be done in the background, once somebody has said who does it."""

    def __init__(self) -> None:
        self._done_by: Callable[..., object] | None = None

    def is_done_by(self, does: Callable[..., object]) -> None:
        self._done_by = does

    def __call__(self, *arguments: float) -> None:
        assert self._done_by is not None, "each app binds its work when it is ready"
        self._done_by(*arguments)


class Place(AppConfig):
    """An app of which ``bindings`` are loaded when all models are there: who does its work, who hears which signal."""

    def ready(self) -> None:
        import_module(f"{self.name}.bindings")
