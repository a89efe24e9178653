"""When the Worklist delivers a file, the Outbox takes it."""

from __future__ import annotations

from django.dispatch import receiver

from rheon.server.worklist.kinds import Finished
from rheon.server.worklist.models import Job
from rheon.server.worklist.signals import job_delivered

from . import tasks
from .actions.handover import hand_over_all
from .actions.library import look_now
from .actions.outputs import take
from .actions.tags import write_now

tasks.write_tags.is_done_by(write_now)
tasks.hand_over.is_done_by(hand_over_all)
tasks.look_through_library.is_done_by(look_now)


@receiver(job_delivered)
def take_delivered(sender: object, job: Job, delivered: Finished, **kwargs: object) -> None:
    take(job, delivered)
