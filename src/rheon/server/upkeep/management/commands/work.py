"""``manage.py work QUEUE``: pick up after workers that are gone, then work."""

from __future__ import annotations

import time
from argparse import ArgumentParser
from typing import Any

from django.conf import settings
from django.core.management import BaseCommand
from django_tasks import DEFAULT_TASK_BACKEND_ALIAS
from django_tasks_db.management.commands.db_worker import Worker

from rheon.core.engine import limit_memory
from rheon.core.system import own_mark, use_scratch
from rheon.server.care.database import database_of, hold_open
from rheon.server.live.watch import DatabaseWatch
from rheon.server.shelf.folders import fence_in
from rheon.server.upkeep.sweep import sweep, sweep_for_ever

LOOK_S, ANYWAY_S = 0.1, 5.0
"""How often it is asked whether anything was written, which costs next to nothing, and the queue looked at anyway: what
is due later is due without anybody's writing.
"""


class Command(BaseCommand):
    help = "Work on a queue (quick, convert or copy), after picking up what an ended worker left."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("queue", choices=["quick", "convert", "copy"])

    def handle(self, *args: Any, **options: Any) -> None:
        use_scratch(settings.RHEON_SCRATCH)
        limit_memory(settings.RHEON_ENGINE_MEMORY_BYTES)
        fence_in()
        held = hold_open(database_of(settings.STATE))
        if found := sweep():
            self.stdout.write(f"picked up {found} unfinished pieces of work")
        sweep_for_ever()
        work_on(options["queue"])
        if held:
            held.close()


def work_on(queue: str) -> None:
    """Do what is on a queue, and look there again when somebody has written to the database."""
    worker = Worker(
        queue_names=[queue],
        excluded_queue_names=[],
        backend_name=DEFAULT_TASK_BACKEND_ALIAS,
        worker_id=own_mark(),
        interval=LOOK_S,
        startup_delay=False,
        batch=True,
        max_tasks=None,
    )
    worker.configure_signals()
    watch, looked_s = DatabaseWatch(), -ANYWAY_S
    while worker.running:
        if watch.changed() or time.monotonic() - looked_s > ANYWAY_S:
            worker.run()
            looked_s = time.monotonic()
        elif worker.running:
            time.sleep(LOOK_S)
    watch.close()
