"""Another plan for a job that nobody is at: what its cells would make now takes its place."""

from __future__ import annotations

from django.db import transaction
from django.db.models import Q

from rheon.core.errors import PlanError
from rheon.server.bench.models import Target

from ..models import AT_REST, WITHOUT_FILE, Job, JobKind
from .add import add_jobs, add_sample


def plan_anew(job: Job) -> list[Job]:
    """Make the job's file, or files where its cells agree no more, by the plans as they are now.

    What waits keeps its place, what is paused stays so. Raises ``PlanError`` where there is nothing to be made, or
    somebody is at it already; the job stays as it is then.
    """
    title, known = job.title, Target.objects.in_bulk(job.target_ids)
    targets = [known[pk] for pk in job.target_ids if pk in known]
    if title is None or not targets:
        raise PlanError("{title} is no longer on the Shelf, or its device is gone.", title=job.title_name, advice="")
    with transaction.atomic():
        old = Job.objects.filter(pk=job.pk)
        waits = old.filter(AT_REST).first()
        if not old.filter(AT_REST | Q(state__in=WITHOUT_FILE)).delete()[0]:
            raise PlanError("{title} is being made already.", title=job.title_name, advice="Stop it first.")
        if job.kind == JobKind.SAMPLE:
            made = [add_sample(title, targets[0])]
        else:
            made = add_jobs([(title, target) for target in targets])
        if waits is not None:
            Job.objects.filter(pk__in=[one.pk for one in made]).update(position=waits.position, state=waits.state)
    return made
