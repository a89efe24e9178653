"""The members of the household and what they like."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from rheon.core.media import to_bcp47

from ..models import Household, Member


def known_languages(tags: Sequence[str]) -> list[str]:
    """The tags that are languages, each once, in their order."""
    return [tag for tag in dict.fromkeys(map(to_bcp47, tags)) if tag != "und"]


def set_languages(tags: Sequence[str]) -> Household:
    """Keep the languages that are ones, in their order."""
    row, _ = Household.objects.update_or_create(pk=1, defaults={"languages": known_languages(tags)})
    return row


def set_wishes(wishes: Mapping[str, str]) -> Household:
    """What the whole household likes where nobody says otherwise: ``sound``, ``words`` or both."""
    row, _ = Household.objects.update_or_create(pk=1, defaults=dict(wishes))
    return row


def add_member(name: str) -> Member:
    return Member.objects.create(name=name.strip()[:80])


def change_member(member: Member, changes: dict[str, Any]) -> Member:
    """Change name or wishes; only what is named changes."""
    if name := str(changes.get("name", "")).strip()[:80]:
        member.name = name
    for key in ("languages", "sound", "words"):
        if key in changes:
            setattr(member, key, changes[key])
    member.save()
    return member


def remove_member(member: Member) -> None:
    """Remove somebody; their devices stay, without wishes of theirs."""
    member.delete()
