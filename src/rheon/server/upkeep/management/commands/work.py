"""``manage.py work QUEUE``: pick up after workers that are gone, then work."""

from __future__ import annotations

from argparse import ArgumentParser
from typing import Any

from django.conf import settings
from django.core.management import BaseCommand, call_command

from rheon.core.system import own_mark, use_scratch
from rheon.server.care.database import database_of, hold_open
from rheon.server.shelf.folders import fence_in
from rheon.server.upkeep.sweep import sweep, sweep_for_ever


class Command(BaseCommand):
    help = "Work on a queue (quick, convert or copy), after picking up what an ended worker left."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("queue", choices=["quick", "convert", "copy"])

    def handle(self, *args: Any, **options: Any) -> None:
        use_scratch(settings.RHEON_SCRATCH)
        fence_in()
        held = hold_open(database_of(settings.STATE))
        if found := sweep():
            self.stdout.write(f"picked up {found} unfinished pieces of work")
        sweep_for_ever()
        call_command(
            "db_worker",
            queue_name=options["queue"],
            worker_id=own_mark(),
            interval=0.2,
            startup_delay=False,
            reload=False,
            verbosity=0,
        )
        if held:
            held.close()
