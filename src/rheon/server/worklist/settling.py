"""Settling a job's plan after its title was looked at, so that the same wishes always give the same file."""

from __future__ import annotations

import contextlib
from collections.abc import Iterator
from dataclasses import replace
from typing import Any

from rheon.core.descriptions import instead_text, settings_text
from rheon.core.errors import EngineError, RheonError
from rheon.core.media.documents import dump
from rheon.core.planning import Plan, plan
from rheon.server.home.actions.hardware import doubt
from rheon.server.home.naming import house_naming
from rheon.server.shelf.actions.artwork import with_best_frame
from rheon.server.shelf.actions.samples import sample_title
from rheon.server.shelf.actions.surveys import survey_now
from rheon.server.shelf.models import Title

from .models import Job


def expected_of(made: Plan) -> dict[str, Any]:
    """A plan's estimate as the list keeps it."""
    return dump(made.estimate) if made.estimate else {}


def settle(job: Job) -> None:
    """Have the title looked at where nobody has yet, and plan again with what was found and with its names as they are
    now; set values stay.

    Raises ``PlanError`` or ``BadPin`` where that leaves nothing to make, ``Stopped`` where whoever steers it says so.
    """
    request = job.core_request()
    title = Title.objects.select_related("source").filter(jobs=job).first()
    if request is None or title is None or title.outline.get("fault"):
        return
    with looking(job):
        if title.survey is None and not title.survey_failed:
            survey_now(title.pk)
        if title.samples is None:
            sample_title(title.pk)
        title.refresh_from_db()
        core = with_best_frame(title, title.core_title())
    known = replace(
        request,
        title=core,
        samples=title.core_samples(),
        measured_rates=title.core_measured_rates(),
        tags=title.tags(),
        naming=house_naming(),
        set_by_hand=title.set_for_files,
    )
    if known == request:
        return
    made = plan(known)
    if made.settings is None:
        return
    go_on_with(job, made, title_document=dump(known.title), request_document=dump(known))


def go_on_with(job: Job, made: Plan, **known: object) -> None:
    """Another plan for a job than the one that it was queued with, and what it rests on, in one write."""
    assert made.settings is not None
    summary = settings_text(made.settings)[:300]
    job.own_row().update(plan_document=dump(made), expected=expected_of(made), summary=summary, **known)
    job.refresh_from_db()


def fall_back(job: Job, made: Plan, error: RheonError) -> None:
    """What could not be made as planned is made another way, and says so."""
    before = job.core_plan().settings
    go_on_with(job, made, note=instead_text(made, error)[:300])
    video = before.video if before else None
    if video and video.device and made.why_instead and made.why_instead.code == "encoder_failed":
        doubt(video.encoder or "", error.complaint if isinstance(error, EngineError) else error.what)


@contextlib.contextmanager
def looking(job: Job) -> Iterator[None]:
    """While it lasts, the list says that the title is looked at."""
    job.own_row().update(stage="looking")
    yield
    job.own_row().update(stage="making")
