"""``manage.py add_sources PATH ...``: put sources onto an empty shelf."""

from __future__ import annotations

from argparse import ArgumentParser
from typing import Any

from django.core.management import BaseCommand

from rheon.server.shelf.actions.sources import add_source
from rheon.server.shelf.models import Source


class Command(BaseCommand):
    help = "Add sources, where the shelf is empty."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("paths", nargs="+")

    def handle(self, *args: Any, **options: Any) -> None:
        if not Source.objects.exists():
            for path in options["paths"]:
                add_source(path)
