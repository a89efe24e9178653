"""``manage.py work QUEUE``: pick up after workers that are gone, then work."""

from __future__ import annotations

from argparse import ArgumentParser
from typing import Any

from django.core.management import BaseCommand, call_command

from rheon.server.shelf.actions.reading import recover as recover_sources
from rheon.server.worklist.actions.change import recover as recover_jobs


class Command(BaseCommand):
    help = "Work on a queue (quick or convert), after picking up what an ended worker left."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("queue", choices=["quick", "convert"])

    def handle(self, *args: Any, **options: Any) -> None:
        found = recover_jobs() + recover_sources()
        if found:
            self.stdout.write(f"picked up {found} unfinished jobs and scans")
        call_command(
            "db_worker", queue_name=options["queue"], interval=0.2, startup_delay=False, reload=False, verbosity=0
        )
