"""The members of the household and what they like."""

from __future__ import annotations

from ..models import Household, Member, Wishes
from ..requests import HouseholdChange, MemberChange


def change_household(change: HouseholdChange) -> Household:
    """What the whole household likes where nobody says otherwise; only what is named changes."""
    row, _ = Household.objects.get_or_create(pk=1)
    take_wishes(row, change)
    row.save()
    return row


def take_wishes(row: Wishes, change: HouseholdChange) -> None:
    """Put what is named onto a row, which is not saved yet."""
    for name in ("languages", "sound", "subtitles"):
        if name in change.model_fields_set:
            setattr(row, name, getattr(change, name))


def add_member(name: str) -> Member:
    return Member.objects.create(name=name.strip()[:80])


def change_member(member: Member, change: MemberChange) -> Member:
    """Change name or wishes; only what is named changes."""
    member.name = change.name or member.name
    take_wishes(member, change)
    member.save()
    return member


def remove_member(member: Member) -> None:
    """Remove somebody; their devices stay, without wishes of theirs."""
    member.delete()
