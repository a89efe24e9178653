"""``manage.py load_household FILE``: take devices and languages from a file, once."""

from __future__ import annotations

import json
from argparse import ArgumentParser
from pathlib import Path
from typing import Any

from django.core.management import BaseCommand

from rheon.server.household.actions.devices import add_device, set_languages
from rheon.server.household.models import Device


class Command(BaseCommand):
    help = "Add the devices and languages of a household file, where there are no devices yet."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *args: Any, **options: Any) -> None:
        if Device.objects.exists():
            return
        household = json.loads(options["file"].read_text(encoding="utf-8"))
        set_languages(household["languages"])
        for entry in household["devices"]:
            add_device(entry["profile"], entry["name"])
