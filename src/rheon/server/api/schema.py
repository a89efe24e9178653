"""What the OpenAPI document says for all places: names that several share, and the bounds of numbers in addresses."""

from __future__ import annotations

from typing import Any

from rheon.core.devices import QUESTIONS, Sure, Trouble
from rheon.core.devices import DeviceKind as Kind
from rheon.core.devices import Verdict as CoreVerdict
from rheon.core.media import Role as CoreRole
from rheon.core.planning import Balance as CoreBalance
from rheon.core.planning import SoundWish, WordsWish
from rheon.core.sources.images.drive import DriveState as CoreDriveState

from .fields import MOST_ID

BALANCES = [(value.value, value.value) for value in CoreBalance]
VERDICTS = [(value.value, value.value) for value in CoreVerdict]
ROLES = [(value.value, value.value) for value in CoreRole]
DRIVE_STATES = [(value.value, value.value) for value in CoreDriveState]
DEVICE_KINDS = [(value.value, value.value) for value in Kind]
SOUND_WISHES = [(value.value, value.value) for value in SoundWish]
WORDS_WISHES = [(value.value, value.value) for value in WordsWish]
SURE_WORDS = [(value.value, value.value) for value in Sure]
EVIDENCE_KINDS = [(value, value) for value in ("played", "failed", "said", "answered", "assumed")]
QUESTION_IDS = [(name, name) for name in QUESTIONS]
TROUBLES = [(value.value, value.value) for value in Trouble]
CHANGE_KINDS = [(value, value) for value in ("new", "gone", "changed", "kept")]


def bound_path_numbers(result: dict[str, Any], **_: Any) -> dict[str, Any]:
    """Tell in the OpenAPI document which numbers an address takes."""
    for operations in result["paths"].values():
        for operation in operations.values():
            for parameter in operation.get("parameters", []):
                if parameter["in"] == "path" and parameter["schema"].get("type") == "integer":
                    parameter["schema"] |= {"minimum": 0, "maximum": MOST_ID}
    return result
