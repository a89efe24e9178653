"""``manage.py load_household FILE``: take devices and languages from a file, once."""

from __future__ import annotations

import json
from argparse import ArgumentParser
from pathlib import Path
from typing import Any

from django.core.management import BaseCommand

from rheon.server.home.actions.setting_up import mark_set_up
from rheon.server.household.actions.devices import add_device, add_own_device, change_device
from rheon.server.household.actions.people import add_member, change_household, change_member
from rheon.server.household.models import Device
from rheon.server.household.requests import DeviceChange, HouseholdChange, MemberChange


class Command(BaseCommand):
    help = "Add the devices and languages of a household file, where there are no devices yet."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *args: Any, **options: Any) -> None:
        if Device.objects.exists():
            return
        mark_set_up()
        household = json.loads(options["file"].read_text(encoding="utf-8"))
        change_household(HouseholdChange(languages=household["languages"]))
        members = {}
        for entry in household.get("members", []):
            member = add_member(entry["name"])
            members[entry["name"]] = change_member(member, MemberChange(**entry.get("wishes", {})))
        for entry in household["devices"]:
            device = _added(entry, options["file"].parent)
            whose = members.get(entry.get("member"))
            change_device(
                device, DeviceChange(free_bytes=entry.get("free_bytes"), member_id=whose.pk if whose else None)
            )


def _added(entry: dict[str, Any], folder: Path) -> Device:
    """A device of the catalogue, or of a profile's file beside the household's."""
    said = str(entry["profile"])
    if said.endswith(".json"):
        return add_own_device((folder / said).read_text(encoding="utf-8"), entry["name"])
    return add_device(said, entry["name"])
