"""What every worker does at its start and every few seconds: nothing that was begun stays lying about."""

from __future__ import annotations

import contextlib
import fcntl
import logging
import threading
from collections.abc import Iterator
from pathlib import Path

from django.conf import settings
from django.db import connection

from rheon.core.encoding import part_token, parts_in, remove_part
from rheon.core.system import clear_left_over, may_be_in_use
from rheon.server.home.queries import output_folders
from rheon.server.outbox.actions.handover import recover as recover_handovers
from rheon.server.shelf.actions.artwork import forget_pictures
from rheon.server.shelf.actions.look_up import forget_answers
from rheon.server.shelf.actions.reading import recover as recover_sources
from rheon.server.shelf.actions.tags import propose_missing
from rheon.server.worklist.actions.end import see_to_the_end
from rheon.server.worklist.actions.machine import see_to_strain
from rheon.server.worklist.actions.recover import recover as recover_jobs
from rheon.server.worklist.actions.tell import tell_what_was_made
from rheon.server.worklist.models import IN_WORK, Job

from .hints import forget_old, renew

log = logging.getLogger("rheon")
EVERY_S = 15.0


def sweep() -> int:
    """Take up what dead processes had begun, give lost hints anew, and clear what was left; returns how much was found.

    One process at a time: two would take up the same file.
    """
    with _alone():
        see_to_strain()
        propose_missing()
        found = recover_jobs() + recover_sources() + recover_handovers() + renew()
        tell_what_was_made()
        see_to_the_end()
        forget_old()
        forget_answers()
        forget_pictures()
        return found + _clear()


def sweep_for_ever() -> None:
    """Sweep in a thread of its own, as long as the process lives."""
    threading.Thread(target=_keep_sweeping, daemon=True, name="sweep").start()


def _keep_sweeping() -> None:
    rest = threading.Event()
    while not rest.wait(EVERY_S):
        try:
            sweep()
        except Exception:
            # a full disk or a locked database: the next round may do better
            log.exception("could not look after what was left")
        finally:
            connection.close()


def _clear() -> int:
    """Parts in output folders and temporary folders that nobody owns."""
    folders = {Path(folder) for folder in Job.objects.values_list("folder", flat=True).distinct()}
    count = clear_left_over(settings.RHEON_SCRATCH)
    for folder in folders.union(output_folders()):
        # a job runs before it has a part: whoever owns one of these is among those that run now
        if parts := parts_in(folder):
            running = set(Job.objects.filter(IN_WORK).values_list("token", flat=True))
            for part in parts:
                if part_token(part) not in running and not may_be_in_use(part.name):
                    remove_part(part)
                    count += 1
    return count


@contextlib.contextmanager
def _alone() -> Iterator[None]:
    with (settings.STATE / "upkeep.lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        yield
