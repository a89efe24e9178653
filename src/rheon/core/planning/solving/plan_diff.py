"""What a change moved in a plan, and why. Pure."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass

from ...media import Reason
from ..plan import Plan


@dataclass(frozen=True, slots=True, kw_only=True)
class DecisionChange:
    """A decision that is another one now, though nobody set it.

    ``before`` or ``after`` is ``None`` where it is new or gone.
    """

    key: str
    before: str | None
    after: str | None
    reason: Reason | None


def plan_diff(before: Plan, after: Plan, set_keys: Collection[str]) -> tuple[DecisionChange, ...]:
    """The decisions that followed a change of ``set_keys``, in the order of the sheet."""
    old = {decision.key: decision for decision in before.decisions}
    new = {decision.key: decision for decision in after.decisions}
    found = []
    for key in dict.fromkeys([*new, *old]):
        was, is_now = old.get(key), new.get(key)
        if key in set_keys or (was and is_now and was.text == is_now.text):
            continue
        found.append(
            DecisionChange(
                key=key,
                before=was.text if was else None,
                after=is_now.text if is_now else None,
                reason=is_now.reason if is_now else None,
            )
        )
    return tuple(found)
