"""Reading the household: its rows, and what was found about devices, as documents."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import datetime
from typing import Protocol

from django.utils import timezone

from rheon.core.catalogue import say
from rheon.core.descriptions import abilities, summary
from rheon.core.devices import (
    CLIPS,
    QUESTIONS,
    Change,
    DeviceProfile,
    Family,
    Found,
    Heard,
    Question,
    Span,
    answered_all,
    catalogue,
    device,
    families,
    goals,
    load_profile,
    oddities,
    open_questions,
)
from rheon.core.errors import BadProfile
from rheon.core.planning import SoundWish, SubtitleWish
from rheon.server.codes import qr

from . import documents
from .models import Device, Member, Pairing, Wishes
from .wishes import household_wishes, languages

FADES_DAYS = 30.0


class Used(Protocol):
    """What files are made for: how many so far, and when last."""

    used: int
    last_used: datetime | None


def worth(row: Used, now: datetime) -> float:
    """How much something is used, fading with time."""
    if row.last_used is None:
        return 0.0
    days = (now - row.last_used).total_seconds() / 86400
    return float(row.used * 0.5 ** (days / FADES_DAYS))


def devices(now: datetime | None = None) -> list[Device]:
    """Favourites first, then what is used most and latest."""
    at = now or timezone.now()

    def place(row: Device) -> tuple[bool, float, int, int]:
        return not row.favourite, -round(worth(row, at), 1), row.position, row.pk

    return sorted(Device.objects.select_related("member"), key=place)


def members() -> list[Member]:
    return list(Member.objects.prefetch_related("devices"))


def household_document() -> documents.Household:
    return documents.Household(
        languages=list(languages()),
        wishes=wishes_document(household_wishes()),
        devices=[device_document(row) for row in devices()],
        members=[_member(row) for row in members()],
        catalogue=[profile_document(profile) for profile in catalogue().values()],
        families=[_family(family) for family in families().values()],
        goals=[profile_document(profile) for profile in goals().values()],
    )


def device_document(row: Device) -> documents.Device:
    profile = row.core_profile()
    return documents.Device(
        id=row.pk,
        name=row.name,
        profile=profile_document(profile),
        abilities=abilities(profile),
        questions=_questions(open_questions(profile)),
        evidence=profile.evidence,
        news=[Change(**entry) for entry in row.news],
        can_take_back=bool(row.before),
        kind_name=row.base["name"] if row.base else "",
        is_changed=bool(row.base) and row.base != row.profile,
        favourite=row.favourite,
        document=profile.model_dump(mode="json", exclude_none=True),
        wishes=wishes_document(row),
        member_id=row.member_id,
        free_bytes=row.free_bytes,
        storage_bytes=profile.limits.storage_bytes,
        used=row.used,
    )


def profile_document(profile: DeviceProfile) -> documents.Profile:
    return documents.Profile(
        id=profile.id,
        name=profile.name,
        kind=profile.kind,
        year=profile.year,
        generic=profile.generic,
        about=profile.about,
        summary=summary(profile),
    )


def heard_document(heard: Heard, answered: Sequence[str]) -> documents.Heard:
    answers = heard.answers
    return documents.Heard(
        kind=answers.kind,
        year=answers.year,
        yes=[name for name, said in answers.said.items() if said],
        no=[name for name, said in answers.said.items() if said is False],
        answered=_questions(answered),
        found=[_found(found, answers.said) for found in heard.found],
        standards=[profile_document(profile) for profile in heard.standards],
    )


def wishes_document(row: Wishes) -> documents.Wishes:
    return documents.Wishes(
        languages=list(row.languages),
        sound=SoundWish(row.sound) if row.sound else "",
        subtitles=SubtitleWish(row.subtitles) if row.subtitles else "",
    )


def catalogue_profile(profile_id: str) -> documents.ProfileText:
    """A shipped profile as the text of its file. Raises ``NoSuchDevice``."""
    return documents.ProfileText(document=device(profile_id).model_dump_json(indent=2, exclude_none=True))


def profile_check(text: str) -> documents.ProfileCheck:
    """What is wrong and what is odd about a profile that is being written."""
    try:
        profile = load_profile(text)
    except BadProfile as error:
        clauses = error.facts.get("fields")
        said = [str(clause).partition(": ") for clause in clauses] if isinstance(clauses, list) else []
        errors = [documents.FieldNote(field=field, text=note) for field, _, note in said]
        return documents.ProfileCheck(errors=errors, warnings=[], abilities=[])
    warnings = [documents.FieldNote(field=found.field, text=found.text) for found in oddities(profile)]
    return documents.ProfileCheck(errors=[], warnings=warnings, abilities=abilities(profile))


def pairing_document(row: Pairing) -> documents.Pairing:
    opened = row.is_open
    path, size = qr(f"{row.address}{row.code}") if opened else ("", 0)
    profile = DeviceProfile.model_validate(row.profile) if row.profile else None
    return documents.Pairing(
        open=opened,
        address=row.address,
        code=row.code if opened else "",
        until=row.open_until,
        qr=path,
        qr_size=size,
        at_clip=row.at_clip,
        clip_count=len(CLIPS),
        problem=row.problem,
        document=profile.model_dump(mode="json", exclude_none=True) if profile else None,
        abilities=abilities(profile) if profile else [],
        evidence=profile.evidence if profile else (),
    )


def _found(found: Found, said: Mapping[str, bool | None]) -> documents.Found:
    return documents.Found(
        profile=profile_document(found.profile),
        abilities=abilities(answered_all(found.profile, said)),
        others=[profile_document(profile) for profile in found.others],
        questions=_questions(found.questions),
        guessed_age=found.guessed_age,
    )


def _family(family: Family) -> documents.Family:
    return documents.Family(
        kind=family.kind,
        label=say(family.label),
        count=len(family.generations),
        spans=[documents.Span(since=span.since, year=span.year, text=_span_text(span, family)) for span in family.ages],
    )


def _span_text(span: Span, family: Family) -> str:
    if span.until is None:
        return say("{since} or later", since=span.since)
    return (
        say("{until} or before", until=span.until)
        if span == family.ages[0]
        else say("{since} to {until}", since=span.since, until=span.until)
    )


def _member(row: Member) -> documents.Member:
    return documents.Member(
        id=row.pk,
        name=row.name,
        wishes=wishes_document(row),
        device_ids=[device.pk for device in row.devices.all()],
    )


def _questions(names: Sequence[str]) -> list[Question]:
    asked = [QUESTIONS[name] for name in names]
    return [replace(question, text=say(question.text), help=say(question.help)) for question in asked]
