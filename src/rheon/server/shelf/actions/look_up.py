"""Asking the look-up service: only where that is allowed, and once for the same words."""

from __future__ import annotations

import json
from datetime import timedelta

from django.conf import settings
from django.utils import timezone

from rheon.core.errors import LookUpOff, NoSuchWork
from rheon.core.look_up.http import HttpService
from rheon.core.look_up.works import Work, WorkQuestion
from rheon.core.media.documents import dump
from rheon.server.home.queries import home

from ..models import Answer

KEPT_FOR = timedelta(days=30)


def look_up(question: WorkQuestion, *, again: bool = False) -> Answer:
    """What the service knows by these words; asked where it has not answered them lately, or ``again``.

    Raises ``LookUpOff``, ``LookUpFailed``.
    """
    address: str = settings.RHEON_LOOK_UP
    if not address:
        raise LookUpOff("No look-up service is set.", advice="Name one in the settings file, as docs/look-up.md says.")
    if not home().looks_up:
        raise LookUpOff("Looking works up is not allowed here.")
    words = json.dumps(list(question.words), ensure_ascii=False)
    kept = Answer.objects.filter(service=address, words=words, at__gte=timezone.now() - KEPT_FOR).first()
    if kept is not None and not again:
        return kept
    works = [dump(work) for work in HttpService(address=address).search(question)]
    answer, _ = Answer.objects.update_or_create(
        service=address, words=words, defaults={"works": works, "at": timezone.now()}
    )
    return answer


def work_of(key: str) -> tuple[str, Work]:
    """The service that a work was looked up at, and the work. Raises ``NoSuchWork`` where it is not kept any more."""
    pk, _, place = key.partition("/")
    answer = Answer.objects.filter(pk=int(pk)).first() if pk.isdecimal() and place.isdecimal() else None
    works = answer.found() if answer else ()
    if answer is None or int(place) >= len(works):
        raise NoSuchWork("This work is not kept any more.")
    return answer.service, works[int(place)]


def forget_answers() -> int:
    """Those that would be asked for anew."""
    return Answer.objects.filter(at__lt=timezone.now() - KEPT_FOR).delete()[0]
